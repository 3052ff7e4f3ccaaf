// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/digest.h"
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "session/belief_work.h"
#include "session/certainty_work.h"
#include "session/demo_shop.h"
#include "session/shop_model.h"
#include "session_fixture.h"
#include "wording/common/sentences.h"
#include "wording/steps/step_words.h"

#include <QFile>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QTest>
#include <gmock/gmock.h>

// What was found to mislead, as it happened: from the ledger to what is said.

using namespace pallix;
using namespace pallix::session;
using block::DeckCut;
using block::PassKind;
using test::small_log;
using testing::HasSubstr;

namespace {

class Stories : public test::SessionFixture {
  protected:
    /// Adds an entry beside the session, as another version of the program would: sealed, but not to be read here.
    void add_unreadable(const std::string& kind, const std::string& json) {
        const block::Entry& last = session_.entries().back();
        const std::string digest = block::digest_after(block::digest_of(session_.entries()),
                                                       {last.sequence + 1, last.time, last.person, kind, 1, json});
        {
            QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("behind"));
            db.setDatabaseName(book_->file());
            ASSERT_TRUE(db.open());
            QSqlQuery query(db);
            query.prepare(
                QStringLiteral("INSERT INTO entry SELECT job, sequence + 1, time, person, ?, 1, ?, ? FROM entry "
                               "ORDER BY sequence DESC LIMIT 1"));
            for (const std::string& value : {kind, json, digest})
                query.addBindValue(QString::fromStdString(value));
            ASSERT_TRUE(query.exec()) << qPrintable(query.lastError().text());
        }
        QSqlDatabase::removeDatabase(QStringLiteral("behind"));
    }
    wording::CallText call() const {
        return wording::call_text(session_.state(), session_.assessment(), wording::LengthText(block::Unit::mm));
    }
    std::string waits() const {
        return wording::waits_for(session_.state(), session_.assessment(), wording::LengthText(block::Unit::mm));
    }
    /// What is said of an attempt: empty where it was taken.
    static std::string said(const Outcome& outcome) { return outcome ? "" : outcome.error().front().text(); }

    std::string job_with(const std::string& kind, const std::string& payload) const {
        const std::vector<block::Entry> opened{
            {1, "2026-03-02T09:00:00Z", "x", block::JobOpened{"small", "", "small.json", test::small_blueprint()}},
            {2, "2026-03-02T09:01:00Z", "x", block::UnknownPayload{kind, 1, payload, {}}}};
        return block::write_job(opened);
    }
};

} // namespace

// A pass of which one byte was lost became no pass at all: the deck looked as before it.
TEST_F(Stories, AnEntryThatCannotBeReadStopsTheCallUntilItIsStruck) {
    open_small_job();
    take_log(small_log(200.1, 0.15).text());
    add_unreadable("deck_cut", R"({"bank":"C","pass":"pass","depth_mm":12,"clean":false,"dark_mm":[]})");
    ASSERT_TRUE(session_.open_job(*session_.job()));
    EXPECT_EQ(session_.assessment().steps.now()->task, planning::Task::mend_ledger);
    EXPECT_EQ(call().headline, "Mend the ledger first");
    EXPECT_THAT(call().reasons.front(),
                HasSubstr("Entry 3 (deck_cut) cannot be read: depth_mm is 12, expected 0 to 5"));
    EXPECT_EQ(waits(), "the ledger: entry 3 cannot be used");
    const std::string exported = block::write_job(session_.entries());
    EXPECT_THAT(exported, HasSubstr("\"depth_mm\": 12")) << "it leaves as it stands";
    EXPECT_THAT(said(session_.import_job({"j.json", exported})), HasSubstr("entry 3 (deck_cut): depth_mm is 12"));
    EXPECT_EQ(session_.entries().size(), 3U) << "the refused job took nothing's place";
    ASSERT_TRUE(session_.strike(3, QStringLiteral("damaged")));
    EXPECT_EQ(session_.assessment().decks.kind, planning::DeckStep::cut);
    ASSERT_TRUE(session_.import_job({"j.json", block::write_job(session_.entries())}));
    EXPECT_EQ(session_.entries().size(), 4U);
}

TEST_F(Stories, WhatIsNotEvenJsonIsKeptListedAndExported) {
    open_small_job();
    add_unreadable("reading", R"({"feature":)");
    const storage::JobId job = *session_.job();
    ASSERT_TRUE(session_.open_job(job));
    EXPECT_THAT(call().reasons.front(), HasSubstr("Entry 2 (reading) cannot be read"));
    EXPECT_NO_THROW(static_cast<void>(block::write_job(session_.entries())));
    ShopModel shop(*book_, preferences_);
    shop.reload();
    ASSERT_EQ(shop.rowCount(), 1);
    EXPECT_THAT(shop.row(0).waits[0].toStdString(), HasSubstr("entry 2 cannot be used"));
}

// A pass with a dull cutter was two transactions, and undo took the cutter's word back but not the pass.
TEST_F(Stories, APassAndHowItCameOutAreStruckTogether) {
    open_small_job();
    take_log(small_log(200.1).text());
    ASSERT_TRUE(session_.take_all(
        {DeckCut{"C", PassKind::witness, 0.02, false, {}}, block::FinishNoted{"C", block::CutterState::dull, {}, ""}}));
    EXPECT_EQ(decks_of(session_.state()).finishes.size(), 1U);
    const std::size_t entries = session_.entries().size();
    ASSERT_TRUE(session_.undo());
    EXPECT_TRUE(decks_of(session_.state()).finishes.empty());
    EXPECT_TRUE(decks_of(session_.state()).deck("C").cuts.empty());
    EXPECT_EQ(session_.entries().size(), entries + 3) << "forecast, pass and finish, each by its own strike";
    ASSERT_TRUE(session_.redo());
    EXPECT_EQ(decks_of(session_.state()).finishes.size(), 1U);
    EXPECT_EQ(decks_of(session_.state()).deck("C").cuts.size(), 1U);
}

// Only the page kept what a first pass was expected to take; one answered at the call did not.
TEST_F(Stories, APassAnsweredAtTheCallKeepsItsForecast) {
    open_small_job();
    take_log(small_log(200.1).text());
    ASSERT_TRUE(session_.take(block::DeckTargetChosen{block::TargetSchool::height, true, 200.0}));
    const auto& steps = session_.assessment().steps.steps;
    const auto pass =
        std::ranges::find_if(steps, [](const planning::Step& s) { return s.task == planning::Task::cut_deck; });
    ASSERT_NE(pass, steps.end());
    const std::size_t before = session_.entries().size();
    const std::string id = pass->id;
    planning::Answers answers = planning::proposed(*pass);
    const auto done = session_.answer(id, answers);
    ASSERT_TRUE(done) << said(done);
    ASSERT_EQ(session_.entries().size(), before + 2);
    const auto* forecast = std::get_if<block::DeckForecastKept>(&session_.entries()[before].payload);
    const auto* cut = std::get_if<DeckCut>(&session_.entries()[before + 1].payload);
    ASSERT_TRUE(forecast && cut);
    EXPECT_EQ(forecast->bank, cut->bank);
    EXPECT_GT(forecast->high, forecast->low);
    ASSERT_TRUE(session_.take(DeckCut{"C", PassKind::pass, 0.01, false, {}}));
    EXPECT_EQ(session_.entries().size(), before + 3) << "the second pass has none of its own";
    ASSERT_TRUE(session_.undo());
    ASSERT_TRUE(session_.undo());
    EXPECT_TRUE(decks_of(session_.state()).forecasts.empty()) << "it goes with the pass it was kept for";
    EXPECT_TRUE(decks_of(session_.state()).deck("C").cuts.empty());
}

// A log with one letter of another encoding in a remark ended the program once it stood in the ledger.
TEST_F(Stories, WhatIsNoUtf8IsAFaultOfItsLine) {
    open_small_job();
    const std::string log = "# pallix-probe-log: 1\n# gepr\xfc"
                            "ft von Jan\n" +
                            small_log().text();
    EXPECT_EQ(said(session_.take_probe_logs({{"log.csv", log}}, 0.001)),
              "log.csv:2: this line is no UTF-8 text, expected UTF-8, in remarks and names too");
    EXPECT_THAT(said(session_.take_trace({block::FeatureKind::bore, "C", 1}, {"t.csv", "# pallix-trace: 1\n# \xe9\n"})),
                HasSubstr("t.csv:2: this line is no UTF-8 text"));
    EXPECT_EQ(session_.entries().size(), 1U);
    ASSERT_TRUE(session_.open_job(*session_.job()));
}

// Each of these crashed or hung the window, and again at every later start.
TEST_F(Stories, HostileJobsAreRefusedAndTheBookStillOpens) {
    const std::string instrument =
        R"("words":"","typed":"","instrument":{"name":"x","kind":"bore_gauge","resolution":0},"conditions":{})";
    const std::vector<std::tuple<std::string, std::string, std::string>> hostile{
        {"flaw", R"({"bank":"C","flaw":"crack","near":"bore","path_mm":[],"note":""})",
         "path_mm has 0 items, expected 1 to 1000"},
        {"flaw", R"({"bank":"R","flaw":"crack","near":"bore","path_mm":[[0,0]],"note":""})", "bank \"R\""},
        {"reading", R"({"feature":"main.1","quantity":"height","place_mm":[0,0],"value":200,)" + instrument + "}",
         "feature is main.1, expected a deck"},
        {"reading", R"({"feature":"main.1","quantity":"sweep","direction":"noon","value":0.1,)" + instrument + "}",
         "direction is no place of a sweep"},
        {"reading", R"({"feature":"main.9","quantity":"size","value":60,)" + instrument + "}",
         "main.9, which the blueprint does not list"},
        {"pass_plan", R"({"witness_mm":0.02,"pass_mm":0.05,"finish_mm":0.02,"spring_passes":2000000000})",
         "spring_passes is 2000000000, expected 0 to 20"},
        {"pass_plan", R"({"witness_mm":0.02,"pass_mm":0.05,"finish_mm":0.02,"spring_passes":1e30})",
         "spring_passes is 1e+30"},
        {"hone_plan", R"({"steps":[],"speed_rev_min":1,"stroke_mm":1,"strokes_per_min":1,"there_and_back":true})",
         "steps has 0 items"},
        {"tunnel_pass", R"({"pass":"strokes","strokes":-3})", "strokes is -3"},
        {"deck_cut", R"({"bank":"C","pass":"pass","depth_mm":-1,"clean":true,"dark_mm":[]})", "depth_mm is -1"},
        {"deck_cut", R"({"bank":"C","pass":"pass","depth_mm":1,"clean":true,"dark_mm":[[1e6,0]]})",
         "dark_mm[0] is 1e+06"},
        {"bore_cut", R"({"bore":"bore.C.1","operation":"rough","target_mm":1e308,"note":""})", "target_mm is 1e+308"},
        {"bore_cut", R"({"bore":"bore.C.7","operation":"rough","note":""})",
         "bore.C.7, which the blueprint does not list"},
        {"caps_cut", R"({"cuts_mm":{"main.7":0.1}})", "main.7, which the blueprint does not list"},
        {"set_up",
         R"({"bank":"X","surface":"deck","readings":[{"at_mm":[0,0],"height_mm":0},{"at_mm":[1,0],"height_mm":0},{"at_mm":[0,1],"height_mm":0}],"feet":[{"name":"a","at_mm":[0,0]},{"name":"b","at_mm":[1,1]}]})",
         "bank \"X\""},
        {"probe_log", R"({"file":"a","sha256":"","text":"feature,x,y,z\nmain.1,1e9,0,0\n"})",
         "x is \"1e9\" mm, expected a place within 10000 mm"},
        {"probe_log", R"({"file":"a","sha256":"b","text":"feature,x,y,z\nmain.1,0,0,0\n"})",
         "entry 2 (probe_log): sha256 is not that of its text, expected the text as it was taken"},
        {"bore_cut", R"({"bore":"bore.C.1","operation":"rough","target_mm":600,"note":""})",
         "entry 2 (bore_cut): the size of the cut cannot be, expected a size near the bore's"},
        {"set_up",
         R"({"bank":"C","surface":"deck","readings":[{"at_mm":[0,0],"height_mm":0},{"at_mm":[1,0],"height_mm":0},{"at_mm":[2,0],"height_mm":0}],"feet":[{"name":"a","at_mm":[0,0]},{"name":"b","at_mm":[1,1]}]})",
         "entry 2 (set_up): these readings fix no plane"},
        {"head_work", R"({"bank":"C","cut_mm":0})", "entry 2 (head_work): nothing was said of the head"},
        {"engine_figures", R"({"chambers_mm3":{"one":5},"dish_mm3":0,"crevice_mm3":0,"steel_rods":true})",
         "chambers_mm3.one is no cylinder"},
    };
    for (const auto& [kind, payload, says] : hostile)
        EXPECT_THAT(said(session_.import_job({"hostile.json", job_with(kind, payload)})), HasSubstr(says)) << kind;
    EXPECT_TRUE(book_->jobs()->empty()) << "nothing of them was written";
    std::string huge = test::small_blueprint();
    huge.replace(huge.find("[150, -50]"), 10, "[150000, 0]");
    EXPECT_THAT(said(session_.new_job(QStringLiteral("huge"), {}, {"huge.json", huge})),
                HasSubstr("banks[0].deck_outline[1] is 150000, expected a length within -10000 to 10000 mm"));
    book_->tidy(); // the journal is in it now
    const QString copy = folder_.filePath(QStringLiteral("copy.shopbook"));
    ASSERT_TRUE(QFile::copy(book_->file(), copy));
    EXPECT_TRUE(storage::ShopBook::open(copy));
}

// Uncertainties drawn for the job before were taken for this one's: both logs stand in entry 2.
TEST_F(Stories, WhatWasWorkedOutForOneJobIsNotAnothers) {
    session_.draw_certainty();
    const auto known = [this] { return session_.certainty_of_latest() != nullptr; };
    open_small_job();
    take_log(small_log(200.1).text(), 0.010);
    ASSERT_TRUE(QTest::qWaitFor(known, 20000));
    const double coarse = *session_.certainty_of_latest()->values.of("decks[0].flatness_mz");
    static_cast<void>(session_.belief("C"));
    open_small_job();
    take_log(small_log(200.1).text(), 0.001);
    EXPECT_FALSE(known()) << "nothing of the first job's is at hand";
    ASSERT_TRUE(QTest::qWaitFor(known, 20000));
    EXPECT_LT(*session_.certainty_of_latest()->values.of("decks[0].flatness_mz"), coarse / 3);
    ASSERT_TRUE(QTest::qWaitFor([this] { return session_.belief("C") != nullptr; }, 20000));
    const auto second = session_.belief("C")->surface.removal;
    Session fresh(*book_, [] { return std::string("Marit"); });
    ASSERT_TRUE(fresh.open_job(*session_.job()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return fresh.belief("C") != nullptr; }, 20000));
    EXPECT_EQ(second.high, fresh.belief("C")->surface.removal.high);
    EXPECT_EQ(second.low, fresh.belief("C")->surface.removal.low);
}

// Rules stood in the window alone: whoever came another way went past them.
TEST_F(Stories, RulesHoldWhateverWayAnEntryComes) {
    open_small_job();
    EXPECT_THAT(said(session_.take(block::InsertFitted{{block::FeatureKind::bore, "C", 1}, 0.05, {}, {}, ""})),
                HasSubstr("the sleeve of bore.C.1 was not measured"));
    block::LifterPlanChosen keyed;
    keyed.keyed = true;
    EXPECT_THAT(said(session_.take(keyed)), HasSubstr("key angle is missing"));
    block::EngineFigures chain;
    chain.overhead_chain = block::EngineFigures::CamChain{21, 0, 9.5, 300};
    EXPECT_THAT(said(session_.take(chain)), HasSubstr("teeth cam is 0, expected 6 to 1000"));
    EXPECT_THAT(said(session_.take(block::HeadWork{"C", {}, {}, 0, {}})), HasSubstr("nothing was said of the head"));
    EXPECT_EQ(session_.entries().size(), 1U);
}

// Entries keep their order by number; a clock that was set back made them look like older ones, without a word.
TEST_F(Stories, AClockThatWasSetBackIsTold) {
    open_small_job();
    QStringList remarks;
    QObject::connect(&session_, &Session::remarked, &session_, [&](const QString& words) { remarks << words; });
    ASSERT_TRUE(session_.take(block::Note{"later"}));
    EXPECT_TRUE(remarks.isEmpty());
    ticks_ = -1;
    ASSERT_TRUE(session_.take(block::Note{"earlier"}));
    ASSERT_EQ(remarks.size(), 1);
    EXPECT_THAT(remarks.front().toStdString(), HasSubstr("The clock was set back: it says 2026-03-02T09:10:00Z"));
    EXPECT_EQ(session_.entries().back().sequence, 3);
}

TEST_F(Stories, ABlueprintInTheWrongUnitIsAskedAboutBeforeTheJobIsOpened) {
    std::string inches = test::small_blueprint();
    const auto deck = inches.find("\"nominal\": 200");
    ASSERT_NE(deck, std::string::npos);
    inches.replace(deck, 14, "\"nominal\": 7.87");
    EXPECT_THAT(said(session_.new_job(QStringLiteral("x"), {}, {"b.json", inches})),
                HasSubstr("deck C has a height of 7.870 mm"));
    EXPECT_TRUE(session_.asks());
    EXPECT_TRUE(book_->jobs()->empty());
    EXPECT_TRUE(session_.new_job(QStringLiteral("x"), {}, {"b.json", inches}, true));
}

// A reading is added to the state before it is written: where the book refuses it, it must be gone from there as well.
TEST_F(Stories, AReadingThatCannotBeWrittenIsNotInTheState) {
    open_small_job();
    ASSERT_TRUE(session_.take(test::size_reading("main.1", "front", "upright", 60.01)));
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("behind"));
        db.setDatabaseName(book_->file());
        ASSERT_TRUE(db.open());
        QSqlQuery query(db);
        ASSERT_TRUE(query.exec(QStringLiteral(
            "CREATE TRIGGER full BEFORE INSERT ON entry BEGIN SELECT RAISE(ABORT, 'the disk is full'); END")));
    }
    QSqlDatabase::removeDatabase(QStringLiteral("behind"));
    EXPECT_THAT(said(session_.take(test::size_reading("main.1", "front", "upright", 60.02))),
                HasSubstr("it contradicts what is in the book already"))
        << "what the database says of it is for its maker";
    EXPECT_EQ(session_.entries().size(), 2U);
    EXPECT_EQ(readings_of(session_.state()).readings.size(), 1U);
    ASSERT_EQ(readings_of(session_.state()).places.size(), 1U);
    EXPECT_EQ(readings_of(session_.state()).places.front().value, 60.01);
}
