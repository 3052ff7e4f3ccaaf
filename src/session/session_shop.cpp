// SPDX-License-Identifier: GPL-3.0-or-later
// What is the shop's and not one job's: limits that its jobs begin with, and how a job's become the shop's; what its
// papers are like, and the serials of its blocks.
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "session/session.h"

#include <algorithm>

namespace pallix::session {

Outcome Session::keep_limits_for_shop() {
    const auto& limits = intake_of(state()).limits;
    if (!limits)
        return tl::unexpected(block::Faults{
            {"limits", 0, "this job has none of its own", "one that was changed in it, with its reason"}});
    const auto kept = book_.engines().keep_limits(
        {limits->payload, QString::fromStdString(clock_()), QString::fromStdString(person_())});
    return kept ? Outcome() : tl::unexpected(as_faults(kept.error()));
}

bool Session::limits_are_the_shops() const {
    const auto shop = book_.engines().limits();
    const auto& limits = intake_of(state()).limits;
    if (!limits || !shop || !*shop)
        return false;
    block::LimitsChosen same = limits->payload;
    same.reason = (*shop)->limits.reason;
    return same == (*shop)->limits;
}

std::optional<block::LimitsChosen> Session::limits_of_shop() const {
    const auto shop = book_.engines().limits();
    if (!shop || !*shop)
        return std::nullopt;
    block::LimitsChosen limits = (*shop)->limits;
    limits.reason = "limits of the shop, set " + (*shop)->time.left(10).toStdString() + " by " +
                    (*shop)->person.toStdString() + ": " + limits.reason;
    return limits;
}

block::ShopPapers Session::papers_of_shop() const {
    return book_.usual().papers().value_or(block::ShopPapers());
}

block::Result<std::string> Session::next_serial() const {
    const auto given = book_.serials();
    if (!given)
        return tl::unexpected(as_faults(given.error()));
    std::vector<std::string> serials;
    for (const auto& one : *given)
        serials.push_back(one.serial);
    return block::next_serial(papers_of_shop().serial_pattern, clock_().substr(0, 10), serials);
}

Outcome Session::give_serial(const std::string& serial) {
    if (card_of(state()).practice)
        return tl::unexpected(block::Faults{{"serial", 0, "this block is practice", "a block that is there"}});
    if (serial.empty()) {
        auto next = next_serial();
        return next ? give_serial(*next) : tl::unexpected(next.error());
    }
    if (std::ranges::any_of(serial, [](unsigned char c) { return c <= ' ' || c == ';' || c >= 127; }))
        return tl::unexpected(block::Faults{
            {"serial", 0, "\"" + serial + "\" has more than letters, digits and signs", "what every scanner types"}});
    const auto given = book_.serials();
    if (!given)
        return tl::unexpected(as_faults(given.error()));
    for (const auto& one : *given)
        if (one.serial == serial && one.job != job_)
            return tl::unexpected(
                block::Faults{{"serial", 0, serial + " is another job's", "a serial that no job has"}});
    return take(block::SerialGiven{serial, ""});
}

Outcome Session::mark_serial(const std::string& line) {
    const auto& serial = card_of(state()).serial;
    if (!serial)
        return tl::unexpected(block::Faults{{"serial", 0, "this block has none yet", "a serial that is given first"}});
    auto marked = block::engraved(papers_of_shop().engraver, line);
    return marked ? take(block::SerialGiven{serial->payload.serial, std::move(*marked)})
                  : tl::unexpected(marked.error());
}

} // namespace pallix::session
