// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/shop_limits.h"
#include "session_fixture.h"

#include "block/digest.h"
#include "block/job_file.h"
#include "session/demo_shop.h"

#include "block/probe_log.h"

#include <QSignalSpy>
#include <QTest>

using namespace pallix;
using namespace pallix::session;
using block::DeckCut;
using block::LimitsChosen;
using block::PassKind;
using test::small_log;

namespace {

class SessionTest : public test::SessionFixture {};

DeckCut cut(double depth) {
    return {"C", PassKind::pass, depth, true, {}};
}

} // namespace

TEST_F(SessionTest, ANewJobIsInTheBookBeforeItIsAnnounced) {
    bool in_book = false;
    QObject::connect(&session_, &Session::job_opened, &session_,
                     [&] { in_book = book_->entries(*session_.job())->size() == 1; });
    open_small_job();
    EXPECT_TRUE(in_book);
    EXPECT_EQ(intake_of(session_.state()).title, "small");
}

TEST_F(SessionTest, ABadBlueprintChangesNothing) {
    const auto done = session_.new_job(QStringLiteral("x"), {}, {"bad.json", "{\"format\": 1}"});
    ASSERT_FALSE(done);
    EXPECT_FALSE(session_.has_job());
    EXPECT_TRUE(book_->jobs()->empty());
}

TEST_F(SessionTest, EveryEntryIsDurableBeforeItShows) {
    open_small_job();
    std::vector<std::size_t> in_book;
    QObject::connect(&session_, &Session::entries_added, &session_,
                     [&] { in_book.push_back(book_->entries(*session_.job())->size()); });
    take_log(small_log(200.1, 0.15).text());
    ASSERT_TRUE(session_.take(cut(0.02)));
    ASSERT_TRUE(session_.take(block::Note{"coolant low"}));
    EXPECT_EQ(in_book, (std::vector<std::size_t>{2, 4, 5})) << "the first pass brings its forecast along";
    EXPECT_EQ(session_.entries().back().person, "Marit");
}

TEST_F(SessionTest, ALogIsKeptWithItsHash) {
    open_small_job();
    take_log(small_log().text());
    const auto& log = std::get<block::ProbeLogTaken>(session_.entries().back().payload);
    EXPECT_EQ(log.sha256, block::sha256_hex(small_log().text()));
}

TEST_F(SessionTest, ABadLogIsRefusedWithAllItsFaults) {
    open_small_job();
    QSignalSpy added(&session_, &Session::entries_added);
    const auto done = session_.take_probe_logs(
        {{"bad.csv", small_log().row("a,deck.C,,1,2,x").row("a,main.9,,1,2,3").text()}}, 0.001);
    ASSERT_FALSE(done);
    EXPECT_EQ(done.error().size(), 2U);
    EXPECT_EQ(added.count(), 0);
    EXPECT_EQ(book_->entries(*session_.job())->size(), 1U);
}

TEST_F(SessionTest, ALogThatFixesNoFrameIsRefused) {
    open_small_job();
    const auto done = session_.take_probe_logs({{"deck.csv", test::LogWriter().deck(200).text()}}, 0.001);
    ASSERT_FALSE(done);
    EXPECT_NE(done.error().front().what.find("no main was probed"), std::string::npos);
}

TEST_F(SessionTest, TwoLogsGoInTogether) {
    open_small_job();
    const std::string text = small_log().text();
    const std::size_t split = text.find("a,dowel");
    ASSERT_TRUE(session_.take_probe_logs(
        {{"a.csv", text.substr(0, split)}, {"b.csv", "setup,feature,level,x,y,z\n" + text.substr(split)}}, 0.001));
    EXPECT_EQ(session_.entries().size(), 3U);
    EXPECT_TRUE(tunnel_of(session_.state()).latest);
    ASSERT_TRUE(session_.undo());
    EXPECT_FALSE(tunnel_of(session_.state()).latest);
    EXPECT_TRUE(intake_of(session_.state()).troubles.empty()) << "no half of them is left behind";
    EXPECT_EQ(session_.undo_target(), nullptr);
    ASSERT_TRUE(session_.redo());
    EXPECT_TRUE(tunnel_of(session_.state()).latest);
    EXPECT_TRUE(intake_of(session_.state()).troubles.empty());
    EXPECT_EQ(session_.redo_target(), nullptr);
}

TEST_F(SessionTest, CutsNeedAMeasuredDeckAndADepth) {
    open_small_job();
    EXPECT_FALSE(session_.take(cut(0.02)));
    take_log(small_log(200.1).text());
    EXPECT_FALSE(session_.take(cut(-0.02)));
    EXPECT_FALSE(session_.take(cut(50)));
    EXPECT_FALSE(session_.take(block::DeckCut{"R", PassKind::pass, 0.1, true, {}}));
    EXPECT_TRUE(session_.take(cut(0.02)));
}

TEST_F(SessionTest, UndoAndRedoAreStrikes) {
    open_small_job();
    EXPECT_EQ(session_.undo_target(), nullptr) << "the opening of a job is not undone";
    take_log(small_log(200.1, 0.15).text());
    ASSERT_TRUE(session_.take(cut(0.02)));
    ASSERT_TRUE(session_.take(cut(0.03)));
    ASSERT_TRUE(session_.undo());
    ASSERT_TRUE(session_.undo());
    EXPECT_EQ(decks_of(session_.state()).deck("C").depth_in_all(), 0);
    ASSERT_TRUE(session_.redo());
    EXPECT_NEAR(decks_of(session_.state()).deck("C").depth_in_all(), 0.02, 1e-12);
    ASSERT_TRUE(session_.redo());
    EXPECT_NEAR(decks_of(session_.state()).deck("C").depth_in_all(), 0.05, 1e-12);
    EXPECT_EQ(session_.redo_target(), nullptr);
    EXPECT_FALSE(session_.redo());
    EXPECT_EQ(session_.entries().size(), 11U) << "nothing was taken away; the first pass came with its forecast";
    ASSERT_TRUE(session_.undo());
    ASSERT_TRUE(session_.take(cut(0.01)));
    EXPECT_EQ(session_.redo_target(), nullptr) << "something new was done since";
}

TEST_F(SessionTest, AStrikeNeedsAnEntryThatStands) {
    open_small_job();
    ASSERT_TRUE(session_.take(block::Note{"n"}));
    EXPECT_FALSE(session_.strike(1, QStringLiteral("x")));
    EXPECT_FALSE(session_.strike(7, QStringLiteral("x")));
    ASSERT_TRUE(session_.strike(2, QStringLiteral("x")));
    EXPECT_FALSE(session_.strike(2, QStringLiteral("x")));
}

TEST_F(SessionTest, ChoicesAreChecked) {
    open_small_job();
    EXPECT_FALSE(session_.take(block::DeckTargetChosen{block::TargetSchool::height, true, -1.0}));
    EXPECT_FALSE(session_.take(block::PassPlanChosen{0, 0, 0, 2}));
    EXPECT_FALSE(session_.take(block::PassPlanChosen{0.02, 0.05, 0.02, 99}));
    EXPECT_TRUE(session_.take(block::PassPlanChosen{0.02, 0.05, 0.02, 1}));
    EXPECT_FALSE(session_.take(block::Note{"  "}));
    EXPECT_FALSE(session_.take(pallix::test::height_reading({}, 200, 0.001, "X")));
}

TEST_F(SessionTest, AJobGoesOutAndComesBackWhole) {
    open_small_job();
    take_log(small_log(200.1, 0.15).text());
    ASSERT_TRUE(session_.take(cut(0.02)));
    const std::string text = block::write_job(session_.entries());
    ASSERT_TRUE(session_.import_job({"job.pallix.json", text}));
    EXPECT_EQ(book_->jobs()->size(), 2U);
    EXPECT_EQ(block::write_job(session_.entries()), text);
    EXPECT_FALSE(session_.import_job({"job.pallix.json", "{}"}));
    EXPECT_EQ(book_->jobs()->size(), 2U);
}

TEST_F(SessionTest, WithoutAJobNothingIsTaken) {
    EXPECT_FALSE(session_.take(block::Note{"n"}));
    EXPECT_FALSE(session_.take_probe_logs({{"a.csv", small_log().text()}}, 0.001));
    EXPECT_FALSE(session_.undo());
    open_small_job();
    session_.close_job();
    EXPECT_FALSE(session_.has_job());
}

TEST_F(SessionTest, TheDemoFillsABook) {
    ASSERT_TRUE(fill_with_demo(*book_));
    const auto jobs = book_->jobs();
    ASSERT_EQ(jobs->size(), 7U);
    for (const auto& job : *jobs) {
        ASSERT_TRUE(session_.open_job(job.id));
        EXPECT_TRUE(intake_of(session_.state()).troubles.empty());
    }
}

// A hundred megabytes were written on the window's thread.
TEST_F(SessionTest, ALargeLogIsWrittenBesideTheWindowAndWhatFollowsWaitsForIt) {
    open_small_job();
    const storage::JobId job = *session_.job();
    std::vector<block::Faults> told;
    QObject::connect(&session_, &session::Session::logs_taken, &session_,
                     [&told](const block::Faults& faults) { told.push_back(faults); });
    const auto read = [this] {
        auto logs =
            session_.logs_to_read(std::vector<block::NamedText>{{"log.csv", test::small_log(200.03).text()}}, {});
        EXPECT_TRUE(session::Session::read_logs(logs));
        return logs;
    };
    ASSERT_TRUE(session_.begin_to_take(read()));
    EXPECT_EQ(session_.entries().size(), 1U) << "not shown before it is on the disk";
    ASSERT_TRUE(session_.take(block::Note{"typed meanwhile"}));
    ASSERT_EQ(told.size(), 1U);
    EXPECT_TRUE(told[0].empty());
    ASSERT_EQ(session_.entries().size(), 3U);
    EXPECT_TRUE(std::holds_alternative<block::ProbeLogTaken>(session_.entries()[1].payload));
    EXPECT_TRUE(std::holds_alternative<block::Note>(session_.entries()[2].payload));
    EXPECT_EQ(book_->entries(job)->size(), 3U);
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 200.03, 1e-8);
    ASSERT_TRUE(session_.undo()); // the note
    ASSERT_TRUE(session_.undo()); // and the log, like any other
    EXPECT_FALSE(tunnel_of(session_.state()).latest);

    ASSERT_TRUE(session_.begin_to_take(read()));
    ASSERT_TRUE(session_.new_job(QStringLiteral("second"), {}, {"small.json", test::small_blueprint()}));
    EXPECT_EQ(session_.entries().size(), 1U) << "it belongs to the job it was taken into";
    EXPECT_EQ(told.size(), 2U);
    EXPECT_EQ(book_->entries(job)->size(), 6U);
}

TEST_F(SessionTest, WhatIsDoubtfulOfALargeLogIsAskedAboutBeforeItIsWritten) {
    open_small_job();
    auto logs = session_.logs_to_read(std::vector<block::NamedText>{{"log.csv", test::small_log(260).text()}}, {});
    ASSERT_TRUE(session::Session::read_logs(logs)); // a deck that stands 60 mm too high
    const auto asked = session_.begin_to_take(logs);
    ASSERT_FALSE(asked);
    EXPECT_TRUE(session_.asks());
    EXPECT_EQ(book_->entries(*session_.job())->size(), 1U);
    ASSERT_TRUE(session_.begin_to_take(logs, true));
    ASSERT_TRUE(QTest::qWaitFor([this] { return session_.entries().size() == 2; }, 20000));
}

TEST_F(SessionTest, AJobIsReadBesideTheWindowAndOpenedAtOnce) {
    open_small_job();
    take_log(test::small_log(200.03).text());
    const storage::JobId job = *session_.job();
    session_.close_job();
    session::Session::JobToOpen to_open = session_.job_to_open(job);
    const block::ReadWatch watch{};
    ASSERT_TRUE(session::Session::read_job(to_open, &watch));
    EXPECT_EQ(to_open.entries.size(), 2U);
    ASSERT_TRUE(session_.open_job(std::move(to_open)));
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 200.03, 1e-8);
    to_open = session_.job_to_open(job);
    ASSERT_TRUE(session::Session::read_job(to_open, &watch));
    ASSERT_TRUE(session_.take(block::Note{"typed while it was read"}));
    ASSERT_TRUE(session_.open_job(std::move(to_open)));
    EXPECT_EQ(session_.entries().size(), 3U) << "nothing that was added meanwhile is lost";
    EXPECT_TRUE(session_.take(block::Note{"and it goes on"}));
    auto none = session_.job_to_open(99);
    EXPECT_FALSE(session::Session::read_job(none)) << "there is no such job";
    EXPECT_FALSE(session_.open_job(99));
    EXPECT_EQ(session_.job(), job) << "the open one stays open";
}

// What a job's limits were made into is what the next job begins with, told with who set them; the first keeps its own.
TEST_F(SessionTest, LimitsOfAJobBecomeTheShops) {
    open_small_job();
    ASSERT_FALSE(session_.keep_limits_for_shop()) << "nothing was set";
    LimitsChosen limits = planning::usual_limits();
    limits.flatness = 0.03;
    limits.coverage = 1.65;
    EXPECT_FALSE(session_.take(limits)) << "no reason";
    limits.reason = "multi-layer gaskets";
    ASSERT_TRUE(session_.take(limits));
    EXPECT_FALSE(session_.limits_are_the_shops());
    ASSERT_TRUE(session_.keep_limits_for_shop());
    EXPECT_TRUE(session_.limits_are_the_shops());
    limits.flatness = 0.04;
    ASSERT_TRUE(session_.take(limits));
    EXPECT_FALSE(session_.limits_are_the_shops());
    open_small_job();
    const auto& taken = intake_of(session_.state()).limits;
    ASSERT_TRUE(taken);
    EXPECT_EQ(taken->payload.flatness, 0.03);
    EXPECT_EQ(taken->payload.coverage, 1.65);
    EXPECT_NE(taken->payload.reason.find(": multi-layer gaskets"), std::string::npos) << taken->payload.reason;
    EXPECT_NE(taken->payload.reason.find("limits of the shop, set 20"), std::string::npos) << taken->payload.reason;
}
