// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/deck_state.h"
#include "planning/decks/pass_plan.h"
#include "planning/steps/contributors.h"

#include <array>
#include <string>
#include <utility>
#include <vector>

namespace pallix::planning {

inline constexpr std::array pass_ids{"witness", "pass", "finish", "spring", "flush"};

/// Ids of the passes still to make, in order: "deck.R/witness", "deck.R/pass", "deck.R/pass/2".
class PassIds {
  public:
    /// @param before what stands before each: "deck.R/"
    explicit PassIds(std::string before) : before_(std::move(before)) {}
    [[nodiscard]] std::string next(block::PassKind kind) {
        const auto k = static_cast<std::size_t>(kind);
        const int n = ++count_.at(k);
        return before_ + pass_ids.at(k) + (n > 1 ? "/" + std::to_string(n) : std::string());
    }

  private:
    std::string before_;
    std::array<int, pass_ids.size()> count_{};
};

/// What is asked of a pass: how deep, or what the lines did, and what it left.
[[nodiscard]] std::vector<Ask> pass_asks(const Pass& pass, bool clean_before);
/// A pass that was made.
/// @param before as of `PassIds`
void add_done_cut(Route& route, Task task, const std::string& before, const block::TakenCut& taken);

} // namespace pallix::planning
