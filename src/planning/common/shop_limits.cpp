// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/shop_limits.h"

#include "block/state/intake_state.h"
#include "block/units.h"

namespace pallix::planning {

using block::LimitsChosen;

LimitsChosen usual_limits() {
    LimitsChosen usual;
    usual.flatness = 2 * block::mm_per_thou;
    usual.local_flatness = usual.bank_difference = usual.straightness = block::mm_per_thou;
    usual.main_step = block::mm_per_thou / 2;
    return usual;
}

LimitsChosen limits_of(const block::JobState& state) {
    const auto& chosen = intake_of(state).limits;
    return chosen ? chosen->payload : usual_limits();
}

metrology::DecisionRule rule_of(const LimitsChosen& limits) {
    return {limits.coverage};
}
metrology::DecisionRule rule_of(const block::JobState& state) {
    return rule_of(limits_of(state));
}

std::optional<double> main_shape_limit(const LimitsChosen& limits, const block::Tolerance& window) {
    if (limits.main_shape || !window.whole())
        return limits.main_shape;
    const double width = *window.upper - *window.lower;
    return width > 0 ? std::optional(width / 2) : std::nullopt;
}

double flatness_limit(const LimitsChosen& limits, const block::BankBlueprint& bank) {
    return bank.deck_flatness.value_or(limits.flatness);
}

} // namespace pallix::planning
