// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "metrology/surface_belief.h"
#include "planning/common/place.h"
#include "planning/decks/deck_plan.h"

#include <atomic>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

inline constexpr double infeed_uncertainty = 0.002; ///< mm, standard, of one infeed

/// A measured place that a cut contradicts.
struct Contradiction {
    std::int64_t cut = 0;  ///< entry of the pass
    metrology::Vec2 place; ///< (u, v) of the measured place
    bool dark = false;     ///< it stayed dark though it was measured above the cut; else touched though below
    double by = 0;         ///< mm, how far on the wrong side
};

enum class Suspect {
    wrong_depth, ///< one shift of the depth explains all
    moved_block, ///< the block lies tilted against how it was measured
    bad_touch,   ///< one measured place is out of line with all else
    several,     ///< nothing simple explains it
};
struct Suspicion {
    Suspect suspect = Suspect::several;
    double depth_error = 0;               ///< mm, the cut ran this much deeper than logged; wrong_depth
    double along = 0, across = 0;         ///< rise of the cut per mm along u and v; moved_block
    std::optional<metrology::Vec2> place; ///< bad_touch
};

/// What is believed of a deck from heights, passes and what was painted dark.
struct DeckBelief {
    std::string bank;
    std::string key;           ///< of the question it answers
    std::int64_t measured = 0; ///< entry of the heights it stands on
    std::vector<metrology::Vec2> nodes;
    metrology::SurfaceBelief surface;
    double taken = 0;        ///< mm of infeed since it was measured
    metrology::Vec2 decides; ///< the place most likely to be lowest
    PlaceOnDeck where;       ///< and where that is
    double where_share = 0;  ///< how sure that is, 0 to 1
    std::vector<Contradiction> contradictions;
    std::optional<Suspicion> suspicion;
    std::optional<block::ForecastRecord> widened{}; ///< why its intervals are wider than by the heights alone
    std::optional<block::UsualTrait> usual{};       ///< how flat decks of its kind are, where it went by that too

    /// Share of the draws in which a cut at a height touches everywhere, 0 to 1.
    [[nodiscard]] double cleans_at(double height) const;
    /// @return standard deviation of the height at the node nearest to a place, mm
    [[nodiscard]] double deviation_at(metrology::Vec2 place) const;
    /// Infeed still to come until it is clean, mm; 0 where it is clean already.
    [[nodiscard]] metrology::Interval still_to_cut() const;
    [[nodiscard]] CleanDepth clean_depth() const { return {surface.removal.middle, surface.removal.high}; }
};

/// Whether a pass touched a place, as the person painted it.
[[nodiscard]] metrology::Touch touch_at(const block::DeckCut& cut, metrology::Vec2 place);

/// What is known of a deck, ready to be thought about away from the window.
struct DeckQuestion {
    block::BankBlueprint bank;
    std::string key;           ///< differs whenever the answer may
    std::int64_t measured = 0; ///< entry of the heights
    double taken = 0;
    metrology::SurfaceQuestion surface;
    std::optional<block::ForecastRecord> widened{}; ///< how often such forecasts held in this shop, where too seldom
    std::optional<block::UsualTrait> usual{};
};
/// @return nothing for a bank that was not measured, or from a tunnel that was cut since
[[nodiscard]] std::optional<DeckQuestion> ask_about_deck(const block::JobState& state, const std::string& bank);
/// The long part: a tenth of a second and more. Contradictions are left to `find_contradictions`.
[[nodiscard]] std::optional<DeckBelief> answer(const DeckQuestion& question);
void find_contradictions(DeckBelief& belief, const block::JobState& state);

/// The map as passes have taught it: believed heights at the nodes, and the measured ones between them.
[[nodiscard]] std::vector<metrology::Vec3> learned_points(const DeckBelief& belief,
                                                          const std::vector<metrology::Vec3>& measured);

/// The banks whose next cut hangs on what is believed of them: cut to be clean, more surely than as measured.
[[nodiscard]] std::vector<std::string> banks_to_believe(const block::JobState& state);
/// What each of those takes, worked out at once: a tenth of a second for each, and more.
[[nodiscard]] CleanDepths clean_depths(const block::JobState& state);

/// All three in one.
[[nodiscard]] std::optional<DeckBelief> believe_deck(const block::JobState& state, const std::string& bank);

/// Measured places that passes contradict by more than twice their combined uncertainty, and what explains them.
/// @param cut_heights where each pass since the measurement ran, mm; @param uncertainty of those heights together, mm
[[nodiscard]] std::vector<Contradiction> contradictions_of(const block::JobState& state, const std::string& bank,
                                                           const std::vector<double>& cut_heights, double uncertainty);
[[nodiscard]] std::optional<Suspicion> suspect_for(const block::JobState& state, const std::string& bank,
                                                   const std::vector<Contradiction>& contradictions,
                                                   const std::vector<double>& cut_heights, double uncertainty);

/// A forecast that was kept, held against what the passes took until everything was touched.
struct ForecastOutcome {
    block::DeckForecastKept forecast;
    double taken = 0; ///< mm of infeed from first touch
    bool clean = false;
    [[nodiscard]] bool within() const { return clean && taken >= forecast.low && taken <= forecast.high; }
};
/// @return the last forecast of a bank; nothing where none was kept
[[nodiscard]] std::optional<ForecastOutcome> forecast_outcome(const block::JobState& state, const std::string& bank);

} // namespace pallix::planning
