// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Somebody who works at a bench of a shop whose book a server keeps.

#include "block/ledger.h"
#include "planning/common/assessment.h"
#include "session/session.h"
#include "session/shop_line.h"
#include "storage/test_server.h"

namespace pallix::test {

constexpr int patience = 60000; // ms: of a machine that has other things to do

/// @return why not; empty where it was taken
inline std::string refusal(const session::Outcome& done) {
    return done ? "" : done.error().front().text();
}

/// One who works at a bench of the shop.
class Bench {
  public:
    /// @param copies folder where it keeps a copy of the book; empty: it keeps none
    Bench(const QString& address, std::string person, const QString& copies = {})
        : person_(std::move(person)), book_(opened(address, copies)),
          session_(
              *book_, [this] { return person_; },
              [this] { return "2026-03-02T09:" + std::to_string(10 + ++ticks_ % 50) + ":00Z"; }) {}

    /// Hears what others do, as the window does.
    void listen() {
        line_ = std::make_unique<session::ShopLine>(*book_);
        const auto catch_up = [this] { EXPECT_TRUE(session_.catch_up()); };
        QObject::connect(line_.get(), &session::ShopLine::job_moved, &session_, [this, catch_up](qint64 job) {
            if (session_.job() == job)
                catch_up();
        });
        QObject::connect(line_.get(), &session::ShopLine::much_changed, &session_, catch_up);
        QObject::connect(line_.get(), &session::ShopLine::broke, &session_, &session::Session::go_alone);
    }
    session::Session& session() { return session_; }
    storage::ShopBook& book() { return *book_; }
    session::ShopLine& line() { return *line_; }
    /// The line is there again, as the window hears of it.
    session::Session::Delivered back() {
        EXPECT_TRUE(book_->reconnect());
        return session_.deliver();
    }
    [[nodiscard]] std::vector<std::string> said() const {
        std::vector<std::string> all;
        for (const block::Entry& e : session_.entries())
            all.push_back(e.person + ": " + block::kind_of(e.payload));
        return all;
    }
    [[nodiscard]] planning::StepState state_of(const char* step) const {
        return session_.assessment().steps.find(step)->state;
    }

  private:
    static std::unique_ptr<storage::ShopBook> opened(const QString& address, const QString& copies) {
        auto book = storage::ShopBook::open(address, false, copies);
        EXPECT_TRUE(book) << (book ? "" : qPrintable(book.error().what));
        return std::move(*book);
    }
    std::string person_;
    std::unique_ptr<storage::ShopBook> book_;
    int ticks_ = 0;
    session::Session session_;
    std::unique_ptr<session::ShopLine> line_;
};

} // namespace pallix::test
