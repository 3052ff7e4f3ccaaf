// SPDX-License-Identifier: GPL-3.0-or-later
// Limits of the shop: what its jobs begin with, and how a job's become the shop's.
#include "block/state/intake_state.h"
#include "session/session.h"

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

} // namespace pallix::session
