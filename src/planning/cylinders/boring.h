// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/cylinders/cylinder_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Piston to bore by alloy, scaled from a 4 in bore: cast 2, high-silicon forged 3, low-silicon forged 4.5 thou (common
/// practice, no source; the piston maker's sheet comes first).
[[nodiscard]] double usual_clearance(block::PistonAlloy alloy, double bore);

/// What was stated of the pistons; before that the usual.
[[nodiscard]] block::PistonsStated pistons_of(const block::JobState& state);

/// Sizes of one bore down the line, mm.
struct BoreSizes {
    std::optional<double> piston; ///< nothing: the finish comes from the oversize
    double clearance = 0;
    double finish = 0;          ///< the smallest it may be
    double finish_most = 0;     ///< the largest
    double rough = 0;           ///< what the boring tool leaves
    std::optional<double> seat; ///< of a sleeve that is not yet in
};
/// @return nothing while neither a piston nor an oversize is known
[[nodiscard]] std::optional<BoreSizes> bore_sizes(const block::JobState& state, const block::FeatureId& id,
                                                  const std::optional<double>& oversize);

/// Equal cuts from one size to another, none larger than `largest`.
/// @return the sizes after each, the last one `to`; empty where there is nothing to cut
[[nodiscard]] std::vector<double> cuts_to(double from, double to, double largest);

/// Mean of the sizes read in a bore since it was last cut; nothing where none was.
struct BoredSize {
    double size = 0;
    std::optional<double> uncertainty;
    std::size_t least_read = 0; ///< readings of the place that was read seldomest
    std::int64_t sequence = 0;  ///< of the newest reading
};
[[nodiscard]] std::optional<BoredSize> size_now(const block::JobState& state, const block::FeatureId& id);

enum class HoleState {
    open,       ///< not begun
    unmeasured, ///< cut, not measured since
    under,      ///< cut again
    in,
    doubtful, ///< too near the end of its window to tell: read once more
    over,     ///< larger than it was to be: everything else waits
    finished, ///< honed since: the boring is over
};

struct HoleProgress {
    block::FeatureId id;
    HoleState state = HoleState::open;
    double target = 0;          ///< rough bore, or the seat of a sleeve
    double least = 0, most = 0; ///< window of that
    bool seat = false;
    std::optional<double> size;    ///< as last measured
    std::optional<double> set;     ///< tool setting of its last cut
    std::optional<double> surplus; ///< measured less set, or less what the cut was meant to leave
    [[nodiscard]] bool tells() const { return surplus.has_value(); }
    std::vector<double> cuts; ///< sizes to go through
    [[nodiscard]] double still() const { return target - size.value_or(target); }
};

enum class BoringStep {
    know_sizes,      ///< neither pistons nor oversize are known
    bore,            ///< the next hole, or the next cut of one
    measure,         ///< the hole that was just bored
    read_again,      ///< in doubt whether it is over or under
    cut_again,       ///< under by so much
    over,            ///< stop: over
    judge_trial,     ///< the worst hole stands alone and in size: is it clean
    look_at_edge,    ///< stop: a hole came out smaller or larger than the one before it at the same setting
    measure_first,   ///< the first once more, now that the last is done
    measure_between, ///< first and last differ from what they were: all between them
    done,
};

/// The boring bar's side of the job: one hole at a time, the worst first.
struct BoringBoard {
    BoringStep step = BoringStep::know_sizes;
    std::optional<block::FeatureId> hole;
    double by = 0;                          ///< mm: under, over, or off the hole before
    std::optional<double> to;               ///< mm, size of the next cut
    std::optional<double> set;              ///< mm, what to set the tool to for it
    std::optional<block::FeatureId> before; ///< the hole it is held against
    std::vector<block::FeatureId> again;    ///< to be measured again
    std::vector<HoleProgress> holes;        ///< in the order to bore
};
/// Whether what was seen in the trial hole reaches deeper than it was to become, and nobody has decided since.
[[nodiscard]] bool trial_undecided(const block::JobState& state, const FoundCylinder& found);
[[nodiscard]] BoringBoard boring_board(const block::JobState& state, const CylinderStudy& study);

/// Step that lets boring go on after a hole came out off: the edge was looked at.
inline constexpr const char* edge_looked_at = "cutting edge looked at";
/// The trial hole was looked at: clean, pits left, or still open.
inline constexpr const char* trial_judged = "trial hole looked at";
/// Least hone stock, to get under the metal that the boring tool tore: 2 thou (common practice, no source).
inline constexpr double torn_layer = 0.0508;

} // namespace pallix::planning
