// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/balance.h"

#include <initializer_list>
#include <utility>

namespace pallix::planning {

std::optional<Bobweight> bobweight(const block::BalanceCard& c) {
    if (!c.big_end || !c.bearing || !c.piston || !c.pin || !c.rings || !c.small_end)
        return std::nullopt;
    Bobweight b{*c.big_end + *c.bearing, *c.piston + *c.pin + *c.rings + c.locks + *c.small_end, 0};
    b.weight = c.rods * (b.turning + c.share * b.moving) + c.oil;
    return b;
}

std::optional<double> permissible_unbalance(const block::BalanceCard& c) {
    constexpr double per_second = 9549; // 1000·60/(2π), rounded as the standard's practice has it
    return c.crank && c.speed ? std::optional(per_second * c.grade * *c.crank / *c.speed) : std::nullopt;
}

std::vector<std::string> missing_for_balance(const block::BalanceCard& c) {
    std::vector<std::string> missing;
    for (const auto& [value, words] :
         {std::pair(c.big_end, "big end"), std::pair(c.bearing, "shells"), std::pair(c.small_end, "small end"),
          std::pair(c.piston, "piston"), std::pair(c.pin, "pin"), std::pair(c.rings, "rings"),
          std::pair(c.crank, "the crankshaft's mass"), std::pair(c.speed, "its speed")})
        if (!value)
            missing.emplace_back(words);
    return missing;
}

} // namespace pallix::planning
