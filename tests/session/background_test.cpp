// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/background.h"

#include <QTest>
#include <gtest/gtest.h>
#include <semaphore>
#include <stdexcept>
#include <string>

using pallix::session::Background;
using pallix::session::Errand;

namespace {

/// What is heard of a piece of work.
struct Heard {
    std::vector<int> results;
    QStringList whys;
    double share = 0;
    Background<int>::Listener listener() {
        return {[this](int result) { results.push_back(result); }, [this](const QString& why) { whys << why; },
                [this](double s) { share = s; }};
    }
};

constexpr int patience = 20000; // ms

} // namespace

TEST(Background, TheResultAndHowFarItIsAreHeardWhereItWasBegun) {
    Heard heard;
    Background<int> work;
    EXPECT_FALSE(work.running());
    work.start(
        [](const Errand& errand) {
            errand.progress(0.5);
            return *errand.cancelled ? 0 : 7;
        },
        heard.listener());
    EXPECT_TRUE(work.running());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !work.running(); }, patience));
    EXPECT_EQ(heard.results, std::vector<int>{7});
    EXPECT_EQ(heard.share, 0.5);
    EXPECT_TRUE(heard.whys.isEmpty());
}

TEST(Background, WhatWasCancelledOrReplacedIsNotHeard) {
    Heard first, second;
    std::binary_semaphore begun(0), told(0);
    Background<int> work;
    const auto until_cancelled = [&](const Errand& errand) {
        begun.release();
        while (!*errand.cancelled)
            std::this_thread::yield();
        told.release();
        return 1;
    };
    work.start(until_cancelled, first.listener());
    begun.acquire();
    work.start([](const Errand&) { return 2; }, second.listener());
    told.acquire(); // the first was told to stop
    ASSERT_TRUE(QTest::qWaitFor([&] { return !work.running(); }, patience));
    EXPECT_TRUE(first.results.empty());
    EXPECT_EQ(second.results, std::vector<int>{2});
    work.start(until_cancelled, first.listener());
    begun.acquire();
    work.cancel();
    told.acquire();
    QTest::qWait(20);
    EXPECT_FALSE(work.running());
    EXPECT_TRUE(first.results.empty());
}

TEST(Background, AnExceptionIsToldAndTheNextWorkGoesOn) {
    Heard heard;
    Background<int> work;
    work.start([](const Errand&) -> int { throw std::runtime_error("no such wheel"); }, heard.listener());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !work.running(); }, patience));
    EXPECT_EQ(heard.whys, QStringList{QStringLiteral("no such wheel")});
    work.start([](const Errand&) { return 3; }, heard.listener());
    work.insist();
    EXPECT_EQ(heard.results, std::vector<int>{3}) << "heard before insist returns";
    QTest::qWait(20);
    EXPECT_EQ(heard.results.size(), 1U) << "and once";
}
