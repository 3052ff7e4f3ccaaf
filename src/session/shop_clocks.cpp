// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_clocks.h"

#include <algorithm>
#include <cmath>

namespace pallix::session {

ShopClocks::ShopClocks(Session& session, Preferences& preferences, QObject* parent)
    : QObject(parent), session_(session), preferences_(preferences) {
    next_.setSingleShot(true);
    connect(&next_, &QTimer::timeout, this, &ShopClocks::listen);
    connect(&session, &Session::entries_added, this, [this] {
        if (started_)
            listen();
    });
}

void ShopClocks::listen() {
    const std::string now = session_.now();
    std::string heard = preferences_.clocks_heard();
    if (heard.empty() || heard > now) // for the first time, or the clock was set back
        heard = now;
    const bool missed = !started_;
    started_ = true;
    preferences_.set_clocks_heard(now);
    auto clocks = session_.book().clocks(heard);
    if (!clocks)
        return; // the book says so elsewhere
    std::ranges::sort(*clocks, {}, &storage::ShopBook::Clock::until);
    constexpr double longest_wait = 24 * 60, a_little_later = 0.5 / 60; // minutes: times are whole seconds
    next_.stop();
    for (const auto& clock : *clocks) {
        if (clock.until <= now) {
            Q_EMIT rang(clock.job, clock.title, QString::fromStdString(clock.what), QString::fromStdString(clock.until),
                        missed);
            continue;
        }
        const double minutes = std::min(longest_wait, session_.minutes_left(clock.until) + a_little_later);
        next_.start(static_cast<int>(std::lround(minutes * 60 * 1000)));
        break;
    }
}

} // namespace pallix::session
