// SPDX-License-Identifier: GPL-3.0-or-later
// The line to the shop breaks: work goes on at the bench, and what was entered there is at the shop once, in order.
#include "block/small_block.h"
#include "sanitized.h"
#include "session/bench_of_shop.h"
#include "session/ledger_model.h"
#include "storage/bench_copy.h"
#include "storage/cut_line.h"

#include <QDir>
#include <QSignalSpy>
#include <QTest>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::session;
using test::Bench;
using test::patience;
using test::refusal;
using testing::ElementsAre;
using testing::HasSubstr;

namespace {

std::vector<std::string> notes_of(const Session& session) {
    std::vector<std::string> all;
    for (const block::Entry& entry : session.entries())
        if (const auto* note = std::get_if<block::Note>(&entry.payload))
            all.push_back(note->text);
    return all;
}

/// Marit's line can be cut; Ole's cannot.
class BenchesOnABrokenLine : public testing::Test {
  protected:
    void SetUp() override {
        if (!own_.is_there())
            GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
        line_.emplace(own_.address());
        marit_ = bench("Marit");
        ole_.emplace(own_.address(), "Ole");
        ASSERT_EQ(refusal(marit_->session().new_job(QStringLiteral("small"), {}, {"s.json", test::small_blueprint()})),
                  "");
        ASSERT_TRUE(ole_->session().open_job(*marit_->session().job()));
        follow();
    }
    void TearDown() override {
        marit_.reset();
        ole_.reset();
        line_.reset();
    }
    [[nodiscard]] std::unique_ptr<Bench> bench(const char* person) const {
        return std::make_unique<Bench>(line_->address(), person, copies_.filePath(QLatin1String(person)));
    }
    /// The copy is what the server's book is.
    void follow() const {
        storage::CopyFollower follower(line_->address(), marit_->book().copy_file());
        const auto done = follower.follow_all();
        ASSERT_TRUE(done) << qPrintable(done.error().what);
    }
    void note(Bench& bench, const char* words) const {
        ASSERT_EQ(refusal(bench.session().take(block::Note{words})), "");
    }
    /// The line is mended, and nothing waits any more.
    Session::Delivered mended() {
        line_->mend();
        Session::Delivered delivered = marit_->back();
        EXPECT_TRUE(delivered.faults.empty()) << delivered.faults.front().text();
        return delivered;
    }
    [[nodiscard]] qint64 waiting() const { return marit_->book().outbox()->waiting(); }
    /// The notes as whoever opens the book now would read them: every entry is held against its digest.
    [[nodiscard]] std::vector<std::string> at_shop() {
        Bench third(own_.address(), "Nora");
        EXPECT_EQ(refusal(third.session().open_job(*marit_->session().job())), "");
        EXPECT_TRUE(third.book().damage().empty());
        return notes_of(third.session());
    }

    test::OwnDatabase own_;
    QTemporaryDir copies_;
    std::optional<test::CutLine> line_;
    std::unique_ptr<Bench> marit_;
    std::optional<Bench> ole_;
};

} // namespace

TEST_F(BenchesOnABrokenLine, WhatIsEnteredAloneIsShownAsWaitingAndGoesToTheShopInOrder) {
    note(*marit_, "at the shop");
    line_->cut();
    note(*marit_, "alone");
    note(*marit_, "alone still");
    EXPECT_TRUE(marit_->book().is_alone());
    EXPECT_EQ(waiting(), 2);
    EXPECT_EQ(marit_->session().at_shop_until(), 2);
    Preferences preferences(copies_.filePath(QStringLiteral("settings.ini")));
    const LedgerModel ledger(marit_->session(), preferences);
    const auto said = [&ledger](int row) {
        return ledger.index(row, LedgerModel::what).data().toString().toStdString();
    };
    EXPECT_THAT(said(1), testing::Not(HasSubstr("not yet at the shop")));
    EXPECT_THAT(said(2), HasSubstr("not yet at the shop"));
    EXPECT_THAT(at_shop(), ElementsAre("at the shop"));
    mended();
    EXPECT_EQ(waiting(), 0);
    EXPECT_FALSE(marit_->book().is_alone());
    EXPECT_EQ(marit_->session().at_shop_until(), std::nullopt);
    EXPECT_THAT(said(2), testing::Not(HasSubstr("not yet at the shop")));
    EXPECT_THAT(at_shop(), ElementsAre("at the shop", "alone", "alone still"));
    note(*marit_, "back");
    EXPECT_THAT(at_shop(), ElementsAre("at the shop", "alone", "alone still", "back"));
}

TEST_F(BenchesOnABrokenLine, ItStandsBehindWhatOthersDidMeanwhileAndStillMeansTheSame) {
    line_->cut();
    note(*marit_, "hers, taken back");
    ASSERT_EQ(refusal(marit_->session().undo()), "");
    note(*ole_, "his first");
    note(*ole_, "his second");
    const auto delivered = mended();
    ASSERT_EQ(delivered.theirs.size(), 2U) << "what others did is laid beside it";
    EXPECT_EQ(delivered.theirs.front().person, "Ole");
    EXPECT_FALSE(marit_->session().contradiction());
    EXPECT_THAT(at_shop(), ElementsAre("his first", "his second", "hers, taken back"));
    EXPECT_EQ(notes_of(marit_->session()), at_shop()) << "the window shows what the shop has";
    const auto& last = marit_->session().entries().back();
    ASSERT_TRUE(std::holds_alternative<block::Strike>(last.payload));
    EXPECT_EQ(std::get<block::Strike>(last.payload).sequence, 4) << "her note, where it stands now";
    EXPECT_EQ(block::struck(marit_->session().entries()), (std::vector{false, false, false, true, false}));
}

TEST_F(BenchesOnABrokenLine, AnAnswerThatSomebodyElseHasGivenMeanwhileBecomesAQuestion) {
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    note(*marit_, "behind it");
    ASSERT_EQ(refusal(ole_->session().answer("cleaned/wash", {{"done", true}})), "");
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    EXPECT_EQ(marit_->session().contradiction()->theirs.size(), 1U);
    EXPECT_EQ(marit_->session().contradiction()->mine.size(), 1U);
    EXPECT_EQ(waiting(), 2) << "what followed it waits too";
    EXPECT_TRUE(at_shop().empty());
    EXPECT_EQ(marit_->session().entries().size(), 2U) << "the job is as the shop has it";
    marit_->session().leave_theirs();
    EXPECT_FALSE(marit_->session().deliver().theirs.empty());
    EXPECT_EQ(waiting(), 0);
    EXPECT_THAT(at_shop(), ElementsAre("behind it"));
    EXPECT_EQ(marit_->session().entries().size(), 3U);
}

TEST_F(BenchesOnABrokenLine, BothStandWhereThePersonSaysSoAndItIsAskedAgainAfterAStart) {
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    ASSERT_EQ(refusal(ole_->session().answer("cleaned/wash", {{"done", true}})), "");
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    const auto job = *marit_->session().job();
    marit_.reset(); // nothing was decided
    marit_ = bench("Marit");
    ASSERT_EQ(refusal(marit_->session().open_job(job)), "");
    marit_->session().deliver();
    ASSERT_TRUE(marit_->session().contradiction());
    ASSERT_EQ(refusal(marit_->session().take_mine_as_well()), "");
    EXPECT_EQ(waiting(), 0);
    EXPECT_EQ(marit_->said(), (std::vector<std::string>{"Marit: job_opened", "Ole: step_done", "Marit: step_done"}));
}

// Nobody has said who they are: both benches go by the same name, and a cut must not stand there twice for that.
TEST_F(BenchesOnABrokenLine, WhoElseAnsweredIsKnownByWhatThisBenchSentAndNotByItsName) {
    Bench namesake(own_.address(), "Marit");
    ASSERT_EQ(refusal(namesake.session().open_job(*marit_->session().job())), "");
    line_->cut();
    note(*marit_, "before it");
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    note(*marit_, "behind it");
    ASSERT_EQ(refusal(namesake.session().answer("cleaned/wash", {{"done", true}})), "");
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    ASSERT_EQ(marit_->session().contradiction()->theirs.size(), 1U) << "her own note, sent a moment ago, is not theirs";
    EXPECT_EQ(block::kind_of(marit_->session().contradiction()->theirs.front().payload), "step_done");
    marit_->session().leave_theirs();
    marit_->session().deliver();
    EXPECT_EQ(waiting(), 0);
    EXPECT_EQ(marit_->said(),
              (std::vector<std::string>{"Marit: job_opened", "Marit: step_done", "Marit: note", "Marit: note"}));
    QVariant left;
    test::TestServer::run_on_book(marit_->book().copy_file(), QStringLiteral("SELECT count(*) FROM sent"), {}, &left);
    EXPECT_EQ(left.toInt(), 0) << "it need not be remembered any more";
}

TEST_F(BenchesOnABrokenLine, WhatGoesWithWhatWasLeftIsNotSent) {
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    ASSERT_EQ(refusal(marit_->session().undo()), "");
    note(*marit_, "of its own");
    ASSERT_EQ(refusal(ole_->session().answer("cleaned/wash", {{"done", true}})), "");
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    marit_->session().leave_theirs();
    marit_->session().deliver();
    EXPECT_FALSE(marit_->session().contradiction());
    EXPECT_EQ(waiting(), 0);
    EXPECT_EQ(marit_->said(), (std::vector<std::string>{"Marit: job_opened", "Ole: step_done", "Marit: note"}))
        << "a strike of what is not there would strike something else";
}

TEST_F(BenchesOnABrokenLine, WhatTheServerKeptWithoutBeingHeardIsNotSentAgain) {
    line_->swallow_answers();
    note(*marit_, "kept or not?");
    EXPECT_TRUE(marit_->book().is_alone());
    note(*marit_, "alone");
    EXPECT_EQ(waiting(), 2);
    mended();
    EXPECT_EQ(waiting(), 0);
    EXPECT_THAT(at_shop(), ElementsAre("kept or not?", "alone"));
    EXPECT_EQ(notes_of(marit_->session()), at_shop());
}

TEST_F(BenchesOnABrokenLine, ABenchThatIsStartedAloneGoesOnWhereItWas) {
    note(*marit_, "at the shop");
    line_->cut();
    note(*marit_, "alone");
    const auto job = *marit_->session().job();
    marit_.reset();
    marit_ = bench("Marit");
    EXPECT_TRUE(marit_->book().is_alone());
    const auto jobs = marit_->book().jobs();
    ASSERT_TRUE(jobs);
    ASSERT_EQ(jobs->size(), 1U);
    EXPECT_EQ(jobs->front().entries, 3);
    ASSERT_EQ(refusal(marit_->session().open_job(job)), "");
    EXPECT_THAT(notes_of(marit_->session()), ElementsAre("at the shop", "alone"));
    note(*marit_, "alone after a start");
    mended();
    EXPECT_THAT(at_shop(), ElementsAre("at the shop", "alone", "alone after a start"));
}

TEST_F(BenchesOnABrokenLine, AJobThatIsOpenedAloneIsOneOfTheShopsAfterwards) {
    line_->cut();
    ASSERT_EQ(
        refusal(marit_->session().new_job(QStringLiteral("opened alone"), {}, {"s.json", test::small_blueprint()})),
        "");
    EXPECT_GE(*marit_->session().job(), storage::first_own_job);
    note(*marit_, "in it");
    ASSERT_EQ(refusal(ole_->session().new_job(QStringLiteral("Ole's"), {}, {"s.json", test::small_blueprint()})), "");
    mended();
    EXPECT_EQ(waiting(), 0);
    EXPECT_LT(*marit_->session().job(), storage::first_own_job) << "the open job is that of the shop now";
    EXPECT_THAT(at_shop(), ElementsAre("in it"));
    note(*marit_, "and on");
    EXPECT_THAT(at_shop(), ElementsAre("in it", "and on"));
    const auto jobs = ole_->book().jobs();
    ASSERT_TRUE(jobs);
    EXPECT_EQ(jobs->size(), 3U) << "each once";
}

TEST_F(BenchesOnABrokenLine, AJobWhoseOpeningWasKeptWithoutBeingHeardIsThereOnce) {
    line_->swallow_answers();
    ASSERT_EQ(refusal(marit_->session().new_job(QStringLiteral("kept?"), {}, {"s.json", test::small_blueprint()})), "");
    note(*marit_, "in it");
    mended();
    EXPECT_THAT(at_shop(), ElementsAre("in it"));
    const auto jobs = ole_->book().jobs();
    ASSERT_TRUE(jobs);
    EXPECT_EQ(std::ranges::count(*jobs, QStringLiteral("kept?"), &storage::JobRow::title), 1);
}

TEST_F(BenchesOnABrokenLine, WhatIsNotOfAJobIsChangedAtTheShopOnly) {
    block::Instrument dial;
    dial.name = "dial 1";
    ASSERT_TRUE(marit_->book().save_instrument(dial));
    follow();
    line_->cut();
    note(*marit_, "alone");
    const auto kept = marit_->book().people().keep(QStringLiteral("Nora"), block::Role::owner);
    ASSERT_FALSE(kept);
    EXPECT_THAT(kept.error().what.toStdString(), HasSubstr("the shop's server does not answer"));
    EXPECT_THAT(kept.error().way_out.toStdString(), HasSubstr("at the shop only"));
    EXPECT_FALSE(marit_->book().set_aside(*marit_->session().job(), true));
    EXPECT_FALSE(marit_->book().remove_instrument(QStringLiteral("dial 1")));
    mended();
    EXPECT_TRUE(marit_->book().people().keep(QStringLiteral("Nora"), block::Role::owner));
}

// Who is alone goes on measuring, and a gauge is zeroed for that.
TEST_F(BenchesOnABrokenLine, AGaugeThatIsZeroedAloneStandsSoAtTheShopUnlessItWasZeroedThereLater) {
    block::Instrument mine, theirs;
    mine.name = "bore gauge";
    theirs.name = "dial";
    mine.zero = theirs.zero = 84;
    mine.zero_time = theirs.zero_time = "2026-03-02T08:00:00Z";
    ASSERT_TRUE(marit_->book().save_instrument(mine) && marit_->book().save_instrument(theirs));
    follow();
    line_->cut();
    note(*marit_, "alone");
    mine.zero = theirs.zero = 50;
    mine.zero_time = theirs.zero_time = "2026-03-02T09:00:00Z";
    ASSERT_TRUE(marit_->book().save_instrument(mine) && marit_->book().save_instrument(theirs));
    block::InstrumentEvent event;
    event.instrument = "bore gauge";
    event.what = block::InstrumentHappening::zeroed;
    event.size = 50;
    event.time = "2026-03-02T09:00:00Z";
    event.person = "Marit";
    ASSERT_TRUE(marit_->book().instrument_histories().add(event));
    const auto job = *marit_->session().job();
    marit_.reset(); // a start while it is alone: the gauge stands as it was set
    marit_ = bench("Marit");
    ASSERT_EQ(refusal(marit_->session().open_job(job)), "");
    const auto zero_of = [](Bench& bench, const char* name) {
        const auto all = bench.book().instruments();
        const auto found = std::ranges::find(*all, std::string(name), &block::Instrument::name);
        return found == all->end() ? std::nullopt : found->zero;
    };
    EXPECT_EQ(zero_of(*marit_, "bore gauge"), 50);
    EXPECT_EQ(marit_->book().instrument_history("bore gauge")->size(), 1U);
    theirs.zero = 90;
    theirs.zero_time = "2026-03-02T09:30:00Z";
    ASSERT_TRUE(ole_->book().save_instrument(theirs));
    mended();
    EXPECT_EQ(zero_of(*ole_, "bore gauge"), 50);
    EXPECT_EQ(zero_of(*ole_, "dial"), 90) << "it was set there later";
    EXPECT_EQ(ole_->book().instrument_history("bore gauge")->size(), 1U);
    marit_->back();
    EXPECT_EQ(ole_->book().instrument_history("bore gauge")->size(), 1U) << "once";
}

TEST_F(BenchesOnABrokenLine, TouchesWaitAtTheBenchWhetherTheLineIsThereOrNot) {
    const QStringList lines =
        QString::fromStdString(test::small_log(200.1, 0.15).text()).split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    const auto half = lines.size() / 2;
    const auto job = *marit_->session().job();
    ASSERT_EQ(refusal(marit_->session().stream_lines(job, lines.mid(0, half))), "");
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().stream_lines(job, lines.mid(half))), "");
    note(*marit_, "alone");
    ASSERT_EQ(refusal(marit_->session().take_stream(QStringLiteral("probe.csv"), true)), "");
    EXPECT_EQ(marit_->session().streamed_touches(), 0U);
    mended();
    EXPECT_EQ(marit_->said(), (std::vector<std::string>{"Marit: job_opened", "Marit: note", "Marit: probe_log"}));
    EXPECT_EQ(at_shop().size(), 1U);
}

TEST_F(BenchesOnABrokenLine, ALargeLogThatIsWrittenAsideWaitsToo) {
    QSignalSpy taken(&marit_->session(), &Session::logs_taken);
    auto logs = marit_->session().logs_to_read({{"log.csv", test::small_log(200.1, 0.15).text()}}, 0.001);
    ASSERT_TRUE(Session::read_logs(logs));
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().begin_to_take(std::move(logs), true)), "");
    QTRY_COMPARE_WITH_TIMEOUT(taken.size(), 1, patience);
    EXPECT_TRUE(taken.front().front().value<block::Faults>().empty());
    EXPECT_EQ(waiting(), 1);
    mended();
    EXPECT_EQ(marit_->said(), (std::vector<std::string>{"Marit: job_opened", "Marit: probe_log"}));
    EXPECT_EQ(waiting(), 0);
}

TEST_F(BenchesOnABrokenLine, WhereTheServerKeepsAnotherBookTheCopyIsPutAside) {
    line_->cut();
    note(*marit_, "alone");
    line_->mend();
    marit_.reset();
    ASSERT_TRUE(own_.run(QStringLiteral("UPDATE book SET id = 'another'")));
    marit_ = bench("Marit");
    EXPECT_FALSE(marit_->book().is_alone());
    EXPECT_EQ(waiting(), 0);
    EXPECT_THAT(marit_->book().copy_remark().toStdString(), HasSubstr("another shop book"));
    const QFileInfo copy(marit_->book().copy_file());
    EXPECT_EQ(copy.dir()
                  .entryList({copy.completeBaseName() + QStringLiteral(".of-another-book-*.shopbook")}, QDir::Files)
                  .size(),
              1)
        << "with what waited in it";
}

// The copy follows in its own time: what the window has seen is there when it is alone.
TEST_F(BenchesOnABrokenLine, WhatTheWindowHasSeenIsThereWhenItIsAlone) {
    note(*ole_, "seen");
    ASSERT_TRUE(marit_->session().catch_up());
    line_->cut();
    marit_->session().go_alone();
    EXPECT_TRUE(marit_->book().is_alone());
    note(*marit_, "alone");
    EXPECT_THAT(notes_of(marit_->session()), ElementsAre("seen", "alone"));
    mended();
    EXPECT_THAT(at_shop(), ElementsAre("seen", "alone"));
}

TEST_F(BenchesOnABrokenLine, AJobThatWasOpenedBeforeTheCopyHadItGoesOnToo) {
    note(*ole_, "his");
    const auto nora = bench("Nora"); // whose copy is empty
    ASSERT_EQ(refusal(nora->session().open_job(*marit_->session().job())), "");
    line_->cut();
    note(*nora, "alone");
    EXPECT_TRUE(nora->book().is_alone());
    line_->mend();
    EXPECT_TRUE(nora->back().faults.empty());
    EXPECT_THAT(at_shop(), ElementsAre("his", "alone"));
}

// Whoever keeps the server has put an older backup there: what this bench has seen acknowledged is not there any more.
TEST_F(BenchesOnABrokenLine, AServerThatWasSetBackIsFoundOutAndWhatItLostComesBack) {
    note(*ole_, "before");
    note(*ole_, "lost");
    ASSERT_TRUE(marit_->session().catch_up());
    follow();
    line_->cut();
    note(*marit_, "alone");
    ASSERT_EQ(refusal(marit_->session().new_job(QStringLiteral("own"), {}, {"s.json", test::small_blueprint()})), "");
    ASSERT_EQ(refusal(marit_->session().open_job(*ole_->session().job())), "");
    for (const char* statement :
         {"ALTER TABLE entry DISABLE TRIGGER ALL", "DELETE FROM entry WHERE payload LIKE '%lost%'",
          "ALTER TABLE entry ENABLE TRIGGER ALL"})
        ASSERT_TRUE(own_.run(QString::fromLatin1(statement)));
    line_->mend();
    EXPECT_TRUE(marit_->back().faults.empty());
    const std::string said = marit_->book().copy_remark().toStdString();
    EXPECT_THAT(said, HasSubstr("The book at the shop lacks entries that it had before, of “small”"));
    EXPECT_EQ(notes_of(marit_->session()), at_shop());
    EXPECT_THAT(at_shop(), ElementsAre("before")) << "nothing is sent into a book that is not the one it was meant for";
    const auto files =
        QDir(copies_.filePath(QStringLiteral("Marit"))).entryInfoList({QStringLiteral("*.set-back-*.shopbook")});
    ASSERT_EQ(files.size(), 1);
    EXPECT_THAT(said, HasSubstr(files.front().fileName().toStdString()));
    const auto taken = marit_->book().take_in(files.front().absoluteFilePath());
    ASSERT_TRUE(taken) << qPrintable(taken.error().what);
    EXPECT_EQ(taken->longer, 1);
    EXPECT_EQ(taken->fresh, 1);
    EXPECT_THAT(at_shop(), ElementsAre("before", "lost", "alone"));
    marit_->back();
    ASSERT_TRUE(marit_->session().catch_up());
    EXPECT_EQ(notes_of(marit_->session()), at_shop());
    EXPECT_EQ(marit_->book().copy_remark().toStdString(), said) << "told once";
}

TEST_F(BenchesOnABrokenLine, WhatWasNotDecidedWhenTheLineBreaksAgainStandsBehindAndIsAskedAboutAgain) {
    line_->cut();
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    ASSERT_EQ(refusal(ole_->session().answer("cleaned/wash", {{"done", true}})), "");
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    marit_->session().decide_later();
    note(*marit_, "at the shop");
    line_->cut();
    note(*marit_, "alone again");
    EXPECT_EQ(waiting(), 2);
    EXPECT_EQ(marit_->said(), (std::vector<std::string>{"Marit: job_opened", "Ole: step_done", "Marit: note",
                                                        "Marit: step_done", "Marit: note"}));
    mended();
    ASSERT_TRUE(marit_->session().contradiction());
    ASSERT_EQ(refusal(marit_->session().take_mine_as_well()), "");
    marit_->session().deliver();
    EXPECT_THAT(at_shop(), ElementsAre("at the shop", "alone again"));
    EXPECT_EQ(waiting(), 0);
}

TEST_F(BenchesOnABrokenLine, ADamagedCopyIsMadeAnewAndTheOldOneIsNamed) {
    const QString file = marit_->book().copy_file();
    marit_.reset();
    QFile copy(file);
    ASSERT_TRUE(copy.open(QIODevice::ReadWrite));
    copy.seek(100);
    copy.write(QByteArray(copy.size() > 4096 ? 3000 : 1000, 'x'));
    copy.close();
    marit_ = bench("Marit");
    EXPECT_FALSE(marit_->book().is_alone());
    EXPECT_THAT(marit_->book().copy_remark().toStdString(), HasSubstr("damaged"));
    EXPECT_THAT(marit_->book().copy_remark().toStdString(),
                HasSubstr(QFileInfo(file).completeBaseName().toStdString() + ".damaged-"));
    EXPECT_EQ(marit_->book().copy_file(), file);
}

TEST_F(BenchesOnABrokenLine, ASecondWindowOnTheSameCopySaysThatItCannotWorkAlone) {
    const auto second = bench("Marit");
    EXPECT_THAT(second->book().copy_remark().toStdString(), HasSubstr("Nothing can be entered here while"));
    EXPECT_FALSE(second->book().outbox());
    ASSERT_EQ(refusal(second->session().open_job(*marit_->session().job())), "");
    line_->cut();
    EXPECT_THAT(refusal(second->session().take(block::Note{"alone"})), HasSubstr("does not answer"));
}

TEST_F(BenchesOnABrokenLine, TheWindowHearsOfTheLineByItself) {
    marit_->listen();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->line().state(), ShopLine::State::at_shop, patience);
    line_->cut();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->line().state(), ShopLine::State::alone, patience);
    EXPECT_TRUE(marit_->book().is_alone());
    note(*marit_, "alone");
    line_->mend();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->line().state(), ShopLine::State::at_shop, patience);
    EXPECT_FALSE(marit_->book().is_alone());
    marit_->session().deliver();
    EXPECT_THAT(at_shop(), ElementsAre("alone"));
}

TEST_F(BenchesOnABrokenLine, TheCopyFollowsWhatOthersDo) {
    marit_->listen();
    note(*ole_, "followed");
    const auto job = *marit_->session().job();
    ASSERT_EQ(refusal(ole_->session().new_job(QStringLiteral("Ole's"), {}, {"s.json", test::small_blueprint()})), "");
    const auto copied = [this](const char* what) {
        QVariant found;
        test::TestServer::run_on_book(marit_->book().copy_file(), QLatin1String(what), {}, &found);
        return found.toLongLong();
    };
    QTRY_COMPARE_WITH_TIMEOUT(copied("SELECT count(*) FROM job"), 2, patience);
    QTRY_COMPARE_WITH_TIMEOUT(copied("SELECT max(sequence) FROM entry WHERE job = 1"), 2, patience);
    QTRY_COMPARE_WITH_TIMEOUT(marit_->session().entries().size(), 2U, patience);
    line_->cut();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->line().state(), ShopLine::State::alone, patience);
    ASSERT_EQ(refusal(marit_->session().open_job(job)), "");
    EXPECT_THAT(notes_of(marit_->session()), ElementsAre("followed"));
}

// The server has done what it was told, and the bench does not hear of it: at every answer that there is.
TEST_F(BenchesOnABrokenLine, AtWhateverAnswerTheLineBreaksWhileItIsSentItIsThereOnce) {
    std::vector<std::string> given;
    constexpr int enough = 140, step = test::sanitized ? 7 : 1; // some hundred answers are heard while it is sent
    int breaks = 0;
    for (int answers = 0; answers < enough; answers += step) {
        line_->cut();
        const std::string own = "opened alone " + std::to_string(answers), text = "note " + std::to_string(answers);
        note(*marit_, "last of the job before");
        ASSERT_EQ(refusal(marit_->session().new_job(QString::fromStdString(own), {}, {"s", test::small_blueprint()})),
                  "");
        note(*marit_, (text + " a").c_str());
        note(*marit_, (text + " b").c_str());
        line_->mend();
        ASSERT_TRUE(marit_->book().reconnect());
        line_->swallow_answers(answers);
        marit_->session().deliver();
        breaks += waiting() > 0 ? 1 : 0;
        mended();
        ASSERT_EQ(waiting(), 0);
        ASSERT_THAT(at_shop(), ElementsAre(text + " a", text + " b"));
        ASSERT_EQ(notes_of(marit_->session()), at_shop());
        const auto jobs = ole_->book().jobs();
        ASSERT_TRUE(jobs);
        ASSERT_EQ(jobs->size(), static_cast<std::size_t>(answers / step) + 2) << "each once";
    }
    EXPECT_GT(breaks, 50 / step);
    EXPECT_LT(breaks, enough / step) << "some were far enough not to matter";
}

// Three benches write to one job; two of the lines break at random moments, in either way, and come back.
TEST_F(BenchesOnABrokenLine, WhateverBreaksWhenNothingIsLostAndNothingIsThereTwice) {
    std::mt19937 random(20);
    test::CutLine nora_line(own_.address());
    Bench nora(nora_line.address(), "Nora", copies_.filePath(QStringLiteral("Nora")));
    ASSERT_EQ(refusal(nora.session().open_job(*marit_->session().job())), "");
    {
        storage::CopyFollower follower(nora_line.address(), nora.book().copy_file());
        ASSERT_TRUE(follower.follow_all());
    }
    struct One {
        Bench& bench;
        test::CutLine* line;
        std::vector<std::string> given;
    };
    std::vector<One> all{{*marit_, &*line_, {}}, {nora, &nora_line, {}}, {*ole_, nullptr, {}}};
    constexpr int steps = 300;
    for (int step = 0; step < steps; ++step) {
        One& one = all[random() % all.size()];
        const auto chance = random() % 10;
        if (one.line && chance == 0) {
            one.line->cut();
        } else if (one.line && chance == 1 && !one.bench.book().is_alone()) {
            one.line->mend();
            one.line->swallow_answers();
        } else if (one.line && chance <= 3) {
            one.line->mend();
            if (one.bench.book().reconnect()) {
                if (chance == 3)
                    one.line->swallow_answers(static_cast<int>(random() % 30));
                one.bench.session().deliver();
            }
        } else {
            const std::string text = "note " + std::to_string(step);
            const auto done = one.bench.session().take(block::Note{text});
            if (done)
                one.given.push_back(text);
            else
                EXPECT_THAT(refusal(done), HasSubstr("has written to this job meanwhile"));
        }
        ASSERT_FALSE(one.bench.session().contradiction()) << "notes contradict nobody";
        // The window shows what the book has, whichever it reads; of others it may not have heard yet.
        if (const auto book = one.bench.book().entries(*one.bench.session().job())) {
            const auto shown = notes_of(one.bench.session());
            ASSERT_LE(one.bench.session().entries().size(), book->size()) << "step " << step;
            const std::vector<block::Entry> first(
                book->begin(), book->begin() + static_cast<std::ptrdiff_t>(one.bench.session().entries().size()));
            std::vector<std::string> notes;
            for (const block::Entry& entry : first)
                if (const auto* note = std::get_if<block::Note>(&entry.payload))
                    notes.push_back(note->text);
            ASSERT_EQ(shown, notes) << "step " << step;
        }
    }
    std::size_t given = 0;
    for (One& one : all) {
        if (one.line)
            one.line->mend();
        one.bench.back();
        given += one.given.size();
    }
    EXPECT_EQ(waiting() + nora.book().outbox()->waiting(), 0);
    const auto there = at_shop();
    EXPECT_EQ(there.size(), given);
    for (const One& one : all) {
        std::vector<std::string> own;
        for (const std::string& text : there)
            if (std::ranges::find(one.given, text) != one.given.end())
                own.push_back(text);
        EXPECT_EQ(own, one.given) << "each once, in the order it was given";
    }
    EXPECT_GT(given, 150U);
}
