// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "metrology/decision.h"
#include "planning/common/certainty.h"
#include "planning/decks/deck_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Limits of common practice where blueprint and shop set none (mm): flatness over all, bank against bank.
inline constexpr double usual_flatness = 2 * block::mm_per_thou;
inline constexpr double usual_pair_difference = 1 * block::mm_per_thou;
enum class CheckKind { lowest_height, highest_height, flatness, clean };

/// One thing a deck was held against.
struct DeckCheck {
    CheckKind kind{};
    double value = 0;                  ///< mm
    std::optional<double> uncertainty; ///< mm, standard
    metrology::Limits limits;          ///< mm
    metrology::Verdict verdict{};
    metrology::Settling settling; ///< what would settle a doubt
};

struct BankVerdict {
    std::string bank;
    metrology::Verdict verdict{};
    std::vector<DeckCheck> checks;
};

/// Height, flatness and clean-up of a measured deck against its target.
/// @param target height the deck is cut to, mm; the blueprint's deviations are laid round it
/// @param dark_left whether places stayed dark in the last pass
/// @param flatness_uncertainty mm, as drawn; nothing: by rule
[[nodiscard]] BankVerdict judge_deck(const block::BankBlueprint& bank, const block::DeckMeasurement& measured,
                                     double target, bool dark_left,
                                     std::optional<double> flatness_uncertainty = std::nullopt);
/// @return the drawn uncertainty of a deck's flatness; nothing where the measurement is not what was drawn
[[nodiscard]] std::optional<double> drawn_flatness(const block::JobState& state, const block::DeckMeasurement& measured,
                                                   const Certainty* certainty);

/// Both banks against each other: mean height less target.
struct PairVerdict {
    double difference = 0; ///< mm, the first bank over the second
    std::optional<double> uncertainty;
    metrology::Verdict verdict{};
};
[[nodiscard]] PairVerdict judge_pair(const block::DeckMeasurement& first, double first_target,
                                     const block::DeckMeasurement& second, double second_target);

} // namespace pallix::planning
