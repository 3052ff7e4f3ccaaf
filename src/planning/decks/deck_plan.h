// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/place.h"
#include "planning/decks/compression.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What to cut off one deck. Heights are w in the bank frame, mm.
struct BankPlan {
    std::string bank;
    double target = 0;  ///< height to cut to
    double held_at = 0; ///< height its verdict is held against: a deck that is as it should be gets no finishing cut
    double low = 0;     ///< lowest measured place
    double high = 0;    ///< highest measured place: where the cutter touches first
    double cut = 0;     ///< high − target, infeed from first touch
    bool cleans = true;
    /// mm, how far under its lowest measured place it is to be cut to be clean as surely as was chosen; up where it is
    /// likely clean sooner
    double doubt = 0;
    double maybe = 0;             ///< mm over that, in which it is as likely clean as not
    double short_by = 0;          ///< how far the lowest place stays below the cut; 0 where it cleans up
    metrology::Vec2 lowest_place; ///< (u, v)
    PlaceOnDeck lowest;
    std::optional<double> finish; ///< mm, of the cut: taken only once it is clean; nothing: whatever was chosen
    double moved = 0;     ///< mm, how far the target went down because places stayed dark; up where it was clean sooner
    bool follows = false; ///< that is the other bank's doing
    double behind = 0;    ///< mm, how far it stands over where the other bank ends; 0 where that is not deeper
    std::optional<double> over_lower_limit; ///< target less the blueprint's lowest allowed height; negative: below it
};

/// What one deck takes from first touch until it is clean, as believed, mm.
struct CleanDepth {
    double likely = 0; ///< half of the surfaces that may be
    double sure = 0;   ///< as sure as 95 %
};
using CleanDepths = std::map<std::string, CleanDepth>; ///< by bank; those of which more is known than their heights

/// What a chosen target cannot be worked out without.
enum class TargetLack {
    nothing,
    height,  ///< a given height, clearance or ratio was chosen and no number given
    pistons, ///< the mock-up: where the pistons stand at top dead centre
    figures, ///< volumes for the compression ratio
};

struct DeckPlan {
    std::vector<BankPlan> banks; ///< in the blueprint's order; those with a measurement
    std::string start_with;      ///< the bank that lies lowest; empty without banks
    TargetLack lack = TargetLack::nothing;

    [[nodiscard]] const BankPlan* bank(std::string_view id) const;
};

/// A deck to plan: its measured points in the bank frame.
struct DeckToPlan {
    const block::BankBlueprint* bank = nullptr;
    const block::DeckResult* measured = nullptr;
};

/// Heights the mock-up asks for, by bank: the piston that stands highest gets the clearance, or the cylinder that
/// compresses most the ratio.
struct MockUpHeights {
    TargetLack lack = TargetLack::nothing;
    std::map<std::string, double> by_bank; ///< w, mm
};
[[nodiscard]] MockUpHeights mock_up_heights(const block::JobState& state, const std::vector<PistonCrown>& crowns,
                                            const block::DeckTargetChosen& target);

/// Where the decks are to be cut to. `least_cut`: the height at which the lowest place just cleans up, with equal banks
/// the lowest of all; `blueprint`: its nominal height; `height`: the given one; `clearance` and `ratio`: what the
/// mock-up asks for, with equal banks the highest of all, so that none gets less than it should.
[[nodiscard]] DeckPlan plan_decks(const std::vector<DeckToPlan>& decks, const block::DeckTargetChosen& target,
                                  const MockUpHeights& mock_up = {});

/// Slope, tilt and twist of a deck as differences over its whole length and width, mm.
struct DeckLie {
    double rear_over_front = 0;        ///< of the LSQ plane
    double positive_over_negative = 0; ///< +v edge over −v edge, of the LSQ plane
    double twist = 0;                  ///< (front out − front in) − (rear out − rear in), of the corner heights
};

/// The measured point nearest to each corner place of the deck.
struct CornerHeight {
    bool rear = false;
    bool positive_v = false;
    metrology::Vec2 place; ///< (u, v) mm of the point
    double height = 0;     ///< w, mm
};

[[nodiscard]] std::vector<CornerHeight> corner_heights(const block::BankBlueprint& bank,
                                                       const std::vector<metrology::Vec3>& points);
[[nodiscard]] DeckLie deck_lie(const block::BankBlueprint& bank, const block::DeckResult& deck);
[[nodiscard]] DeckLie deck_lie(const block::BankBlueprint& bank, const block::DeckResult& deck,
                               const std::vector<CornerHeight>& corners);

} // namespace pallix::planning
