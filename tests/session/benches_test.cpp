// SPDX-License-Identifier: GPL-3.0-or-later
// Several benches at one book that a server keeps: what one writes the others have, and nobody writes over anybody.
#include "block/small_block.h"
#include "planning/common/assessment.h"
#include "session/bench_of_shop.h"

#include <QSignalSpy>
#include <QTest>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::session;
using test::Bench;
using test::patience;
using test::refusal;
using testing::HasSubstr;

namespace {

class Benches : public testing::Test {
  protected:
    void SetUp() override {
        if (!own_.is_there())
            GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
        marit_.emplace(own_.address(), "Marit");
        ole_.emplace(own_.address(), "Ole");
        const auto done =
            marit_->session().new_job(QStringLiteral("small"), {}, {"small.json", test::small_blueprint()});
        ASSERT_TRUE(done) << done.error().front().text();
        ASSERT_TRUE(ole_->session().open_job(*marit_->session().job()));
    }
    void TearDown() override {
        marit_.reset();
        ole_.reset();
    }
    /// What the book holds of the job, as whoever opens it now would read it.
    [[nodiscard]] std::vector<std::string> in_book() {
        Bench third(own_.address(), "Nora");
        EXPECT_TRUE(third.session().open_job(*marit_->session().job()));
        EXPECT_TRUE(third.book().damage().empty());
        return third.said();
    }

    test::OwnDatabase own_;
    std::optional<Bench> marit_, ole_;
};

} // namespace

TEST_F(Benches, WhatOneWritesTheOtherHasAtOnce) {
    ole_->listen();
    QSignalSpy others(&ole_->session(), &Session::others_wrote);
    ASSERT_TRUE(marit_->session().take(block::Note{"coolant low"}));
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    QTRY_COMPARE_WITH_TIMEOUT(ole_->session().entries().size(), marit_->session().entries().size(), patience);
    EXPECT_FALSE(others.isEmpty());
    EXPECT_EQ(ole_->state_of("cleaned/wash"), planning::StepState::done);
    EXPECT_EQ(ole_->said(), marit_->said());
    ASSERT_TRUE(ole_->session().take(block::Note{"filled up"})) << "and goes on from there";
    ASSERT_TRUE(marit_->session().catch_up());
    EXPECT_EQ(marit_->said(), in_book());
}

TEST_F(Benches, WhatDoesNotContradictStandsBehindTheOther) {
    ASSERT_TRUE(marit_->session().take(block::Note{"by Marit"}));
    ASSERT_TRUE(ole_->session().take(block::Note{"by Ole, who had not seen it"}));
    EXPECT_EQ(ole_->said(), (std::vector<std::string>{"Marit: job_opened", "Marit: note", "Ole: note"}));
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/any/soak", {{"minutes", 60.0}})), "")
        << "a clock can be set whatever the other wrote";
    ASSERT_TRUE(ole_->session().catch_up());
    EXPECT_EQ(ole_->said(), in_book());
    EXPECT_EQ(ole_->said().size(), 4U);
}

TEST_F(Benches, AnAnswerThatSomebodyElseHasGivenIsAskedAboutWithBoth) {
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    EXPECT_EQ(ole_->state_of("cleaned/wash"), planning::StepState::now) << "he has not heard of it";
    const auto refused = ole_->session().answer("cleaned/wash", {{"done", true}});
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().front().text(), HasSubstr("Marit has written to this job meanwhile"));
    ASSERT_TRUE(ole_->session().contradiction());
    ASSERT_EQ(ole_->session().contradiction()->theirs.size(), 1U);
    EXPECT_EQ(ole_->session().contradiction()->theirs.front().person, "Marit");
    EXPECT_EQ(block::kind_of(ole_->session().contradiction()->mine.front()),
              block::kind_of(ole_->session().contradiction()->theirs.front().payload));
    EXPECT_EQ(ole_->state_of("cleaned/wash"), planning::StepState::done) << "what she did is taken in";
    ole_->session().leave_theirs();
    EXPECT_EQ(in_book().size(), 2U) << "nothing of it was written";
    EXPECT_FALSE(ole_->session().take_mine_as_well()) << "it was decided";
}

TEST_F(Benches, BothAreKeptWhereThePersonSaysSo) {
    ASSERT_EQ(refusal(marit_->session().answer("cleaned/wash", {{"done", true}})), "");
    ASSERT_FALSE(ole_->session().answer("cleaned/wash", {{"done", true}}));
    ASSERT_TRUE(ole_->session().take_mine_as_well());
    EXPECT_FALSE(ole_->session().contradiction());
    const auto said = in_book();
    ASSERT_EQ(said.size(), 3U);
    EXPECT_EQ(said[1].substr(said[1].find(':')), said[2].substr(said[2].find(':'))) << "the same, by both";
}

TEST_F(Benches, OnlyOnesOwnLastIsTakenBack) {
    ASSERT_TRUE(marit_->session().take(block::Note{"mine"}));
    ASSERT_TRUE(ole_->session().take(block::Note{"his"}));
    ASSERT_TRUE(marit_->session().catch_up());
    ASSERT_TRUE(marit_->session().undo_target());
    EXPECT_EQ(std::get<block::Note>(marit_->session().undo_target()->payload).text, "mine");
    ASSERT_TRUE(marit_->session().undo());
    EXPECT_EQ(std::get<block::Strike>(marit_->session().entries().back().payload).sequence, 2);
    EXPECT_FALSE(marit_->session().undo_target()) << "what is left is not hers, or opens the job";
    ASSERT_TRUE(ole_->session().catch_up());
    EXPECT_FALSE(ole_->session().redo_target()) << "nor is her strike his to take back";
    ASSERT_TRUE(ole_->session().undo_target());
    EXPECT_EQ(std::get<block::Note>(ole_->session().undo_target()->payload).text, "his");
    ASSERT_TRUE(marit_->session().redo_target());
    ASSERT_TRUE(marit_->session().redo());
    EXPECT_FALSE(block::struck(marit_->session().entries())[1]);
}

TEST_F(Benches, ALargeLogWaitsForNobodyAndStandsBehindWhatCameFirst) {
    QSignalSpy taken(&ole_->session(), &Session::logs_taken);
    auto logs = ole_->session().logs_to_read({{"log.csv", test::small_log(200.1, 0.15).text()}}, 0.001);
    ASSERT_TRUE(Session::read_logs(logs));
    ASSERT_TRUE(marit_->session().take(block::Note{"while it was read"}));
    ASSERT_TRUE(ole_->session().begin_to_take(std::move(logs), true));
    QTRY_COMPARE_WITH_TIMEOUT(taken.size(), 1, patience);
    EXPECT_TRUE(taken.front().front().value<block::Faults>().empty());
    EXPECT_EQ(ole_->said(), (std::vector<std::string>{"Marit: job_opened", "Marit: note", "Ole: probe_log"}));
    EXPECT_EQ(in_book(), ole_->said());
}

// The server goes while they work, and comes back.
TEST(BenchesAlone, TheWindowKnowsWhetherItIsAtTheShop) {
    if (!test::TestServer::shared())
        GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
    const test::ServerFolder folder;
    const test::TestServer server(folder.path());
    ASSERT_TRUE(server.ask("start"));
    server.become_known();
    {
        Bench marit(server.address(server.new_database()), "Marit");
        ASSERT_TRUE(marit.session().new_job(QStringLiteral("small"), {}, {"small.json", test::small_blueprint()}));
        marit.listen();
        ASSERT_TRUE(marit.session().take(block::Note{"before"}));
        EXPECT_EQ(marit.line().state(), ShopLine::State::at_shop);
        ASSERT_TRUE(server.ask("kill"));
        QTRY_COMPARE_WITH_TIMEOUT(marit.line().state(), ShopLine::State::alone, patience);
        const auto refused = marit.session().take(block::Note{"alone"});
        ASSERT_FALSE(refused);
        EXPECT_THAT(refused.error().front().text(), HasSubstr("does not answer"));
        EXPECT_EQ(marit.session().entries().size(), 2U) << "what is not in the book is not shown as if it were";
        ASSERT_TRUE(server.ask("start"));
        QTRY_COMPARE_WITH_TIMEOUT(marit.line().state(), ShopLine::State::at_shop, patience);
        ASSERT_TRUE(marit.session().take(block::Note{"after"})) << "without being started again";
        EXPECT_EQ(marit.said(), (std::vector<std::string>{"Marit: job_opened", "Marit: note", "Marit: note"}));
    }
    EXPECT_TRUE(server.ask("stop"));
    test::TestServer::shared();
}
