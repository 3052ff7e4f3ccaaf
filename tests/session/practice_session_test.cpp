// SPDX-License-Identifier: GPL-3.0-or-later
// A practice job in the shop's book: an ordinary job that counts for nothing.
#include "block/job_file.h"
#include "block/state/card_state.h"
#include "planning/common/assessment.h"
#include "session/practice_work.h"
#include "session/school_work.h"
#include "session/shop_experience.h"
#include "session/shop_model.h"
#include "session/shop_standing.h"
#include "session_fixture.h"
#include "workshop/harbour.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::session;
using Kind = workshop::Theme;

namespace {

class PracticeSession : public test::SessionFixture {
  protected:
    PracticeWork practice_{session_};

    void begin(Kind theme, int level = 1) {
        const auto begun = practice_.begin(workshop::exercise_of(theme, level, practice_.next_number(theme, level)));
        ASSERT_TRUE(begun) << begun.error().front().text();
    }
    const ShopModel::Row& row_of(ShopModel& model, storage::JobId job) {
        model.reload();
        return *std::ranges::find(model.all(), job, &ShopModel::Row::id);
    }
};

} // namespace

TEST_F(PracticeSession, BeginsAlikeWhateverTheShopIsLike) {
    block::ShopPapers papers;
    papers.serial_pattern = "K{yy}-{nn}";
    ASSERT_TRUE(book_->usual().keep_papers(papers));
    session_.learn_from([](const std::string&) {
        block::Experience taught;
        taught.traits.push_back({block::Trait::wear, "bore.C.1", 0.1, 0.01, 5});
        return taught;
    });
    begin(Kind::bowed_tunnel);
    EXPECT_FALSE(card_of(session_.state()).serial);
    EXPECT_FALSE(card_of(session_.state()).experience);
    EXPECT_EQ(session_.give_serial().error().front().what, "this block is practice");
    EXPECT_EQ(practice_.next_number(Kind::bowed_tunnel, 1), 2);
    EXPECT_EQ(practice_.next_number(Kind::bowed_tunnel, 2), 1);
    begin(Kind::bowed_tunnel);
    EXPECT_EQ(card_of(session_.state()).practice->payload.number, 2);
}

TEST_F(PracticeSession, CountsForNothingInTheShop) {
    begin(Kind::sets_size);
    const storage::JobId job = *session_.job();
    ASSERT_TRUE(session_.take(block::ClockSet{"soak", 60, "2099-01-01T00:00:00Z", {}}));
    ASSERT_TRUE(session_.take(block::RingCheck{"bore gauge", 50, 50.02}));
    for (const planning::Step& step : std::vector(session_.assessment().steps.steps))
        if (step.place && practice_.running()) {
            block::Reading r;
            r.at = *step.place;
            r.words = step.id;
            r.value = 82.1;
            r.instrument = practice_.instrument(planning::Measuring::cylinder_sizes);
            static_cast<void>(session_.take(r));
        }
    EXPECT_TRUE(book_->clocks("2026-01-01T00:00:00Z")->empty());
    EXPECT_TRUE(book_->instrument_history("bore gauge")->empty());
    ShopModel model(*book_, preferences_);
    for (int again = 0; again < 2; ++again) { // worked out, then as remembered
        const ShopModel::Row& row = row_of(model, job);
        EXPECT_EQ(row.standing.waits, planning::WaitsFor::practice);
        ASSERT_TRUE(row.standing.practised);
        EXPECT_EQ(row.standing.practised->exercise, "sets_size");
        EXPECT_FALSE(row.standing.practised->score);
        EXPECT_TRUE(row.traits.empty());
        EXPECT_TRUE(row.forecasts.isEmpty());
        EXPECT_TRUE(row.hours.minutes.empty());
    }
    practice_.open_truth();
    EXPECT_TRUE(practice_.reckons());
    EXPECT_TRUE(practice_.running()) << "not before it is reckoned up";
    practice_.insist();
    EXPECT_FALSE(practice_.running());
    const ShopModel::Row& done = row_of(model, job);
    ASSERT_TRUE(done.standing.practised->score);
    EXPECT_EQ(*done.standing.practised->score, card_of(session_.state()).truth_opened->payload.score);
    EXPECT_EQ(done.standing.practised->person, session_.at_bench().person);
    EXPECT_TRUE(planning::machine_rows({done.standing}).empty());
    EXPECT_TRUE(model.shop_hours().empty());
    EXPECT_EQ(model.data(model.index(0), ShopModel::group_role).toString(),
              QStringLiteral("practice: no block of the shop's"));
}

TEST_F(PracticeSession, ALearnerMayDoEverythingOnIt) {
    begin(Kind::straightedge);
    ASSERT_TRUE(session_.take(block::AtBench{"Mira", block::Role::learner}));
    EXPECT_TRUE(session_.take(block::GatePassed{block::Rule::inspected, "deck.C", "to see what comes of it"}));
    EXPECT_EQ(practice_.remarks().size(), 1U);
}

// For teaching by script: a job of an exercise is a file, before and after somebody worked on it.
TEST_F(PracticeSession, ComesInAsAFile) {
    begin(Kind::straightedge);
    const std::vector<block::Entry> fresh = session_.entries();
    ASSERT_TRUE(session_.import_job({"fresh.pallix.json", block::write_job(fresh)}));
    EXPECT_TRUE(practice_.running());
    auto played = workshop::play_exercise(fresh);
    ASSERT_TRUE(played);
    std::vector<block::Entry> done = played->entries;
    done.push_back({std::ssize(done) + 1, done.back().time, "Mira", block::TruthOpened{90}});
    ASSERT_TRUE(session_.import_job({"done.pallix.json", block::write_job(done)}));
    EXPECT_TRUE(practice_.is_practice());
    EXPECT_FALSE(practice_.running());
    done.push_back({std::ssize(done) + 1, done.back().time, "Mira", block::TruthOpened{100}});
    EXPECT_THAT(session_.import_job({"twice.pallix.json", block::write_job(done)}).error().front().what,
                testing::HasSubstr("its truth was opened before"));
    std::vector<block::Entry> late = fresh;
    const auto practice = std::ranges::find_if(
        late, [](const block::Entry& e) { return std::holds_alternative<block::PracticeBegun>(e.payload); });
    const block::Entry moved = *practice;
    late.erase(practice);
    late.push_back({0, moved.time, "Mira", block::PartNoted{"a gasket", false, "", "", {}}});
    late.push_back(moved);
    for (std::size_t i = 0; i < late.size(); ++i)
        late[i].sequence = static_cast<std::int64_t>(i + 1);
    EXPECT_THAT(session_.import_job({"late.pallix.json", block::write_job(late)}).error().front().what,
                testing::HasSubstr("this job has begun already"));
}

TEST_F(PracticeSession, StaysPractice) {
    begin(Kind::straightedge);
    const auto begun = card_of(session_.state()).practice->sequence;
    EXPECT_FALSE(session_.undo_target());
    EXPECT_FALSE(session_.strike(begun, QStringLiteral("to have it real")));
    practice_.open_truth();
    ASSERT_TRUE(session_.take(block::AtBench{"Mira", block::Role::learner})); // meanwhile: it counts as well
    practice_.insist();
    practice_.insist();
    ASSERT_TRUE(card_of(session_.state()).truth_opened);
    EXPECT_EQ(session_.entries().back().sequence, card_of(session_.state()).truth_opened->sequence);
    ASSERT_TRUE(practice_.result());
    EXPECT_FALSE(session_.undo_target());
    EXPECT_FALSE(session_.take(block::TruthOpened{100})) << "opened once";
    EXPECT_FALSE(practice_.running());
    open_small_job();
    EXPECT_FALSE(practice_.is_practice());
    practice_.open_truth();
    EXPECT_FALSE(practice_.reckons());
    EXPECT_FALSE(practice_.result());
    EXPECT_FALSE(practice_.reading({}));
    EXPECT_FALSE(practice_.probe());
    EXPECT_FALSE(practice_.hold_against_ring("bore gauge", 50));
}

// Left and opened again, the bench is where it was: the next reading is the one that would have come.
TEST_F(PracticeSession, GoesOnWhereItWasLeft) {
    begin(Kind::bowed_tunnel);
    const storage::JobId job = *session_.job();
    const block::MeasuredAt at{{block::FeatureKind::main, "", 2}, block::Quantity::size, "front", "upright", {}};
    block::Reading r;
    r.at = at;
    r.words = "main 2";
    r.instrument = practice_.instrument(planning::Measuring::main_sizes);
    r.value = practice_.reading(at)->section(QLatin1Char(' '), 0, 0).toDouble();
    ASSERT_TRUE(session_.take(r));
    const auto next = practice_.reading(at);
    open_small_job();
    ASSERT_TRUE(session_.open_job(job));
    EXPECT_EQ(practice_.reading(at), next);
}

TEST_F(PracticeSession, MetalStaysOffWhateverIsStruck) {
    begin(Kind::straightedge);
    ASSERT_TRUE(session_.take(block::Note{"let us see"}));
    ASSERT_TRUE(session_.undo());
    EXPECT_FALSE(practice_.metal_was_struck());
    ASSERT_TRUE(session_.take(block::TunnelPass{block::TunnelPassKind::strokes, 100, {}, false}));
    EXPECT_EQ(practice_.remarks().size(), 1U) << "nothing called for it";
    const block::MeasuredAt at{{block::FeatureKind::main, "", 2}, block::Quantity::size, "front", "upright", {}};
    const double honed = practice_.reading(at)->section(QLatin1Char(' '), 0, 0).toDouble();
    ASSERT_TRUE(session_.undo());
    EXPECT_TRUE(practice_.metal_was_struck());
    EXPECT_TRUE(practice_.remarks().empty());
    EXPECT_NEAR(practice_.reading(at)->section(QLatin1Char(' '), 0, 0).toDouble(), honed, 0.01);
    EXPECT_FALSE(session_.take(block::SerialGiven{"K26-01", ""})) << "a block that is not there has no serial";
    begin(Kind::straightedge);
    EXPECT_FALSE(practice_.metal_was_struck()) << "that was another block";
}

// Every way on the first block, then every way on the next; what comes is what comes of each by itself.
TEST_F(PracticeSession, SchoolsAreTriedBlockByBlock) {
    const workshop::SimulatedBlock block(workshop::tender_inline_four(), 12);
    metrology::Deviates draw(5, 1);
    ASSERT_TRUE(session_.new_job(QStringLiteral("Tender"), {}, {"b.json", write_blueprint(block.blueprint())}, true));
    ASSERT_TRUE(session_.take(block::ScopeChosen{{block::Stage::tunnel}, "the tunnel alone"}));
    ASSERT_TRUE(session_.take_probe_logs({{"l.csv", block.probe(0.001, draw)}}, 0.001, true));
    std::vector<workshop::School> schools = workshop::schools_of(session_.state());
    ASSERT_GT(schools.size(), 2U);
    EXPECT_TRUE(schools.front().plans.empty()) << "as planned";
    for (std::size_t i = 1; i < schools.size(); ++i)
        EXPECT_TRUE(std::holds_alternative<block::TunnelPolicy>(schools[i].plans.front()))
            << "nothing else is asked for";
    schools.resize(2);
    SchoolWork work(session_.entries(), schools, 2);
    std::vector<std::size_t> blocks;
    QObject::connect(&work, &SchoolWork::came, [&] { blocks.push_back(work.blocks()); });
    work.start();
    work.start();
    work.insist();
    EXPECT_EQ(blocks, (std::vector<std::size_t>{0, 1, 1, 2}));
    EXPECT_TRUE(work.done());
    const auto alone = workshop::try_once(session_.entries(), schools[1].plans, 2);
    ASSERT_TRUE(alone);
    EXPECT_EQ(work.tried(1)[1].cap_cut, alone->cap_cut);
    EXPECT_EQ(work.tried(1)[1].minutes, alone->minutes);

    SchoolWork nothing({session_.entries().front()}, schools, 2);
    QString said;
    QObject::connect(&nothing, &SchoolWork::failed, [&](const QString& why) { said = why; });
    nothing.start();
    nothing.insist();
    EXPECT_TRUE(said.contains(QStringLiteral("nothing was measured"))) << said.toStdString();
}
