// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/correction_plan.h"
#include "planning/readings/pattern.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where a lifter touches its cam, by its bore. Lengths mm, angles rad.
struct LifterPlace {
    double v_cam = 0;  ///< of the top level from the plane through the cam axis
    double lean_v = 0; ///< dv/dw of its axis
    double above = 0;  ///< w of the top level over the cam axis, in the lifter's frame
};
/// v of a roller's centre: the bore's axis carried down to base circle and roller radius over the cam's axis.
[[nodiscard]] double v_at_roller(const LifterPlace& place, double base_and_roller);
/// Cam angle by which a roller follower is off, + towards +v: asin(v/(Rb + Rr)).
[[nodiscard]] double roller_timing(const LifterPlace& place, double base_and_roller);
/// The same for a flat-faced one: the angle of its bore alone.
[[nodiscard]] double flat_timing(const LifterPlace& place);

enum class LifterReason {
    in_limits,  ///< nothing asks for work
    tight,      ///< less clearance than the least: hone
    loose,      ///< more clearance than the most: bush
    off_place,  ///< too far from its place: bush
    near_limit, ///< of its place: whether it is too far cannot be told
    school,     ///< every one is bushed
    decided,    ///< by a person
    unknown,    ///< a number is missing to say
};

struct LifterNeed {
    block::FeatureId id;
    double nominal = 0;
    std::optional<metrology::Vec2> error, from_dowel; ///< mm off the blueprint
    std::optional<double> place_uncertainty;          ///< mm, standard, of `error` in the direction that is known least
    std::optional<double> v_cam;
    std::optional<double> diameter;       ///< largest level by probe, else mean of sizes by gauge
    std::optional<double> clearance;      ///< to the lifters on hand
    std::optional<double> timing;         ///< cam angle as found, rad, + is late
    std::optional<double> timing_planned; ///< once the plan is done
    block::LifterChoice choice = block::LifterChoice::leave;
    LifterReason reason = LifterReason::unknown;
    std::optional<double> clean_blueprint; ///< mm: smallest bore that cleans up about its place
    std::optional<double> seat;            ///< bore for the bush: its outside less the interference
    std::optional<bool> covers;            ///< whether that seat takes the old bore in about its place
    std::optional<double> covers_chance;   ///< how likely, its touches and its place being as sure as they are
    std::optional<double> bush_needed;     ///< least outside of a bush that covers the move
};

/// Spread of timing over the lifters: what tuning cannot take out. Cam angles, rad.
struct TimingSpread {
    double earliest = 0, latest = 0;
    [[nodiscard]] double spread() const { return latest - earliest; }
};

/// The timing of valves that are compared with one another: all of one kind, cylinder against cylinder.
struct ValveTiming {
    std::optional<block::Valve> valve; ///< nothing: the blueprint does not say which valve each lifter opens
    TimingSpread before;
    std::optional<TimingSpread> planned;
};

struct LifterStudy {
    std::vector<LifterNeed> each; ///< in the blueprint's order; those that were measured
    std::optional<TimingSpread> before, planned;
    std::vector<ValveTiming> by_valve;
    std::vector<std::string> missing; ///< numbers the plan waits for, in words
    [[nodiscard]] const LifterNeed* lifter(const block::FeatureId& id) const;
};
[[nodiscard]] std::optional<LifterStudy> study_lifters(const block::JobState& state);
[[nodiscard]] block::LifterPlanChosen lifter_plan_of(const block::JobState& state);
/// Timing of every probed lifter in an evaluation, in the blueprint's order, rad, + is late.
[[nodiscard]] std::vector<std::pair<block::FeatureId, double>> lifter_timings(const block::Blueprint& blueprint,
                                                                              const block::Evaluation& evaluation,
                                                                              const block::LifterPlanChosen& plan);

// ---- doing it -----------------------------------------------------------------------------------------------------

/// One go at a lifter bore.
struct LifterCutStep {
    block::BoreOperation operation{};
    double to = 0; ///< mm
};
/// For a bush: roughed to 10 thou, single-point to 5 and to 1, the last thou honed (common practice, no source).
[[nodiscard]] std::vector<LifterCutStep> seat_steps(double seat);

enum class LifterState {
    left_alone,
    near_limit,
    to_cut,
    to_measure,
    to_press,
    too_large,
    to_prove,
    proven,
    off_place,
    answered, ///< too large, off its place or not to be told, and somebody left it so since
};
struct LifterProgress {
    block::FeatureId id;
    LifterState state = LifterState::left_alone;
    std::optional<LifterCutStep> next;
    std::size_t tool = 0;       ///< of `next`: how many tools go through a bore before it
    bool inside = false;        ///< the bush is in: its own bore is worked on
    std::optional<double> size; ///< as last measured
    bool by_setting = false;    ///< not measured since: what the tool was set to
    bool compared = false;      ///< the first of its row with that tool, or the last
    /// mm off its place, probed after the last cut; before any, where that is too near its limit to tell.
    std::optional<double> position;
    std::optional<double> position_uncertainty{}; ///< mm, standard, the datum frame's with it; where it is judged
};

enum class LifterStep {
    measure,
    give_numbers,
    bush_too_small,
    cut,
    measure_cut,
    press,
    too_large,
    prove,
    off_place,
    cannot_be_told, ///< likewise, and probed so often that once more tells nothing
    done
};
/// What a tool left in the last bore of a row against the first: its edge wore, or the block is warm.
struct ToolDrift {
    block::FeatureId first, last;
    double by = 0; ///< mm on diameter, last less first, both against what was set
};

struct LifterBoard {
    LifterStep step = LifterStep::measure;
    std::optional<ToolDrift> drift; ///< by which the bores between them are to be measured
    std::optional<block::FeatureId> lifter;
    std::vector<LifterProgress> each;
    std::optional<TimingSpread> after;                              ///< as probed since the last cut
    std::vector<std::pair<block::FeatureId, double>> timings_after; ///< rad, + is late
};
/// One tool through all bores of a row before the next: of a single-point tool the first bore is measured, then the
/// last; where they differ, those between too. Roughing is not measured, the hone everywhere.
/// All seats before any bush goes in, all bushes before the first is sized.
[[nodiscard]] LifterBoard lifter_board(const block::JobState& state, const LifterStudy& study);

/// The lifters between as found and proof.
struct LifterWork {
    LifterStudy study;
    LifterBoard board;
};
[[nodiscard]] std::optional<LifterWork> lifter_work(const block::JobState& state);

} // namespace pallix::planning
