// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/evaluation_uncertainty.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "metrology/decision.h"
#include "planning/decks/deck_plan.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Limits of common practice where blueprint and shop set none (mm): flatness over all, bank against bank.
inline constexpr double usual_flatness = 2 * block::mm_per_thou;
inline constexpr double usual_pair_difference = 1 * block::mm_per_thou;
/// The tunnel over all (1 thou).
inline constexpr double usual_tunnel_straightness = 1 * block::mm_per_thou;
/// One main to the next (half a thou).
inline constexpr double usual_tunnel_step = block::mm_per_thou / 2;

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

/// Standard uncertainties that were drawn for one evaluation, where they are better known than by rule.
struct Certainty {
    std::int64_t sequence = 0; ///< of the entry the evaluation came from: they hold for no other
    block::Uncertainties values;
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

/// A main's diameter against its window, and the tunnel's straightness against what is usual.
struct MainVerdict {
    std::size_t index = 0;        ///< into Evaluation::mains
    metrology::Verdict verdict{}; ///< of all of these
    metrology::Verdict size{}, roundness{}, taper{};
    double taper_value = 0; ///< mm, largest less smallest diameter over the main's levels
};
/// What a main's roundness (minimum zone, on radius) and its taper (on diameter) may be where nobody stated it: half of
/// its size window each, so that opposite places of a section stay within the window together (common practice, no
/// source). Nothing where the window has no width.
[[nodiscard]] std::optional<double> usual_main_shape(const block::Tolerance& window);
struct TunnelVerdict {
    std::vector<MainVerdict> mains;
    metrology::Verdict straightness{};
    double step = 0; ///< mm, the largest from one main's centre to the next's, off the datum
    metrology::Verdict step_verdict{};
    metrology::Verdict overall{};
};
[[nodiscard]] TunnelVerdict judge_tunnel(const block::Blueprint& blueprint, const block::EvaluationState& state,
                                         const Certainty* certainty = nullptr);

} // namespace pallix::planning
