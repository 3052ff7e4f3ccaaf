// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "metrology/decision.h"
#include "planning/common/certainty.h"
#include "planning/common/shop_limits.h"
#include "planning/decks/deck_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Fewer heights than this, or none on a quarter of the deck, do not show a deck flat (common practice, no source).
inline constexpr std::size_t heights_for_flatness = 9;
/// Heights are held against the blueprint's window, and against the plan's where that is another.
enum class CheckKind { lowest_height, highest_height, flatness, clean, lowest_planned, highest_planned };

/// Heights enough to say flat, and in all four quarters of a face.
[[nodiscard]] bool shows_all_of(const block::BankBlueprint& bank, const std::vector<metrology::Vec3>& points);

/// One thing a deck was held against.
struct DeckCheck {
    CheckKind kind{};
    double value = 0;                  ///< mm, without the touches' noise where that was drawn
    std::optional<double> uncertainty; ///< mm, standard
    metrology::Limits limits;          ///< mm
    metrology::Verdict verdict{};
    metrology::Settling settling; ///< what would settle a doubt
    double touched = 0;           ///< mm, as it was touched, noise and all
};

/// A deck's extremes without the touches' noise.
struct DrawnDeck {
    Drawn lowest, highest, flatness;
};
/// @return nothing where the measurement is not what was drawn
[[nodiscard]] std::optional<DrawnDeck> drawn_deck(const block::JobState& state, const block::DeckMeasurement& measured,
                                                  const Certainty* certainty);

struct BankVerdict {
    std::string bank;
    metrology::Verdict verdict{};   ///< as planned, and not under the blueprint's least height
    metrology::Verdict planned{};   ///< the plan's window, flatness as far as it was seen, clean
    metrology::Verdict blueprint{}; ///< its window of heights; over it a deck is not spoiled
    bool flat_unseen = false;       ///< all that keeps it from meeting: too few heights to say flat, and nothing felt
    std::vector<DeckCheck> checks;

    [[nodiscard]] const DeckCheck* check(CheckKind kind) const; ///< null where it was not held against that
    [[nodiscard]] bool too_high() const;                        ///< proven higher than planned
};

/// What else is known of a measured surface.
struct DeckSeen {
    bool dark_left = false;                   ///< places stayed dark in the last pass
    const DrawnDeck* drawn = nullptr;         ///< what was drawn of this measurement; null: by rule
    std::optional<metrology::Verdict> felt{}; ///< by the straightedge, as `felt_flat` has it
};

/// Height, flatness and clean-up of a measured deck against blueprint and plan: what meets one may miss the other.
/// @param target height the deck is cut to, mm; the blueprint's deviations are laid round it as the plan's window
[[nodiscard]] BankVerdict judge_deck(const block::BankBlueprint& bank, const block::DeckMeasurement& measured,
                                     double target, const DeckSeen& seen,
                                     const block::LimitsChosen& limits = usual_limits());

/// Both banks against each other: mean height less target.
struct PairVerdict {
    double difference = 0; ///< mm, the first bank over the second
    double limit = 0;      ///< mm, either way
    std::optional<double> uncertainty;
    metrology::Verdict verdict{};
};
[[nodiscard]] PairVerdict judge_pair(const block::DeckMeasurement& first, double first_target,
                                     const block::DeckMeasurement& second, double second_target,
                                     const block::LimitsChosen& limits = usual_limits());

} // namespace pallix::planning
