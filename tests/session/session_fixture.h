// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/small_block.h"
#include "session/preferences.h"
#include "session/session.h"
#include "storage/shop_book.h"

#include <QTemporaryDir>
#include <gtest/gtest.h>
#include <sys/resource.h>

namespace pallix::test {

/// A shop book of its own, a clock that ticks by the entry, one small job.
class SessionFixture : public testing::Test {
  protected:
    SessionFixture()
        : book_(std::move(*storage::ShopBook::open(folder_.filePath(QStringLiteral("shop.shopbook"))))),
          preferences_(folder_.filePath(QStringLiteral("preferences.ini"))),
          session_(
              *book_, [this] { return follows_preferences_ ? preferences_.person().toStdString() : "Marit"; },
              [this] { return !at_.empty() ? at_ : "2026-03-02T09:" + std::to_string(10 + ++ticks_ % 50) + ":00Z"; }) {}

    void SetUp() override { peak_ = peak_megabytes(); }
    void TearDown() override {
#ifndef __SANITIZE_ADDRESS__ // whose shadow is counted with it
        EXPECT_LT(peak_megabytes() - peak_, 300) << "no input, hostile or not, takes more";
#endif
    }
    /// What the process has taken at most so far.
    static long peak_megabytes() {
        rusage usage{};
        getrusage(RUSAGE_SELF, &usage);
        return usage.ru_maxrss / 1024;
    }

    void open_small_job() {
        const auto done =
            session_.new_job(QStringLiteral("small"), QStringLiteral("nobody"), {"small.json", small_blueprint()});
        ASSERT_TRUE(done) << done.error().front().text();
    }
    void take_log(const std::string& text, std::optional<double> u = 0.001) {
        const auto done = session_.take_probe_logs({{"log.csv", text}}, u);
        ASSERT_TRUE(done) << done.error().front().text();
    }

    long peak_ = 0;
    QTemporaryDir folder_;
    int ticks_ = 0;
    bool follows_preferences_ = false; ///< who is at the bench; else Marit
    std::string at_;                   ///< UTC, where the clock stands; empty: it ticks by the entry
    std::unique_ptr<storage::ShopBook> book_;
    session::Preferences preferences_;
    session::Session session_;
};

} // namespace pallix::test
