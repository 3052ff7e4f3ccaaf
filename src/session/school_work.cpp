// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/school_work.h"

namespace pallix::session {

SchoolWork::SchoolWork(std::vector<block::Entry> entries, std::vector<workshop::School> schools, std::size_t times,
                       QObject* parent)
    : QObject(parent), entries_(std::move(entries)), schools_(std::move(schools)), times_(times),
      tried_(schools_.size()) {}

void SchoolWork::start() {
    if (!work_.running())
        next();
}

void SchoolWork::next() {
    if (done())
        return;
    const auto number = static_cast<std::int64_t>(tried_[at_].size() + 1);
    work_.start([entries = entries_, plans = schools_[at_].plans,
                 number](const Errand&) { return workshop::try_once(entries, plans, number); },
                {[this](const block::Result<workshop::TriedOnce>& once) {
                     if (!once)
                         return Q_EMIT failed(QString::fromStdString(once.error().front().text()));
                     tried_[at_].push_back(*once);
                     at_ = (at_ + 1) % schools_.size();
                     Q_EMIT came();
                     next();
                 },
                 [this](const QString& why) { Q_EMIT failed(why); }});
}

void SchoolWork::insist() {
    while (work_.running())
        work_.insist();
}

} // namespace pallix::session
