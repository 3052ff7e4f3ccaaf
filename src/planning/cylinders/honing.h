// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "block/state/measured.h"
#include "block/units.h"
#include "metrology/decision.h"
#include "planning/cylinders/boring.h"
#include "planning/cylinders/hone_rate.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::planning {

/// Angle between the scratches of up and down strokes: 2·atan(axial/surface speed), rad. Stroke and bore mm.
struct HoneMotion {
    double bore = 0;
    double speed = 0;           ///< rev/min
    double stroke = 0;          ///< mm
    double rate = 0;            ///< strokes per minute
    bool there_and_back = true; ///< what one stroke of that rate is: half of it halves the axial speed
};
[[nodiscard]] double cross_hatch(const HoneMotion& motion);
/// Strokes per minute, counted as the motion counts them, for a wanted angle.
[[nodiscard]] double rate_for_cross_hatch(const HoneMotion& motion, double angle);

/// The scratches as they were seen, against what speed, stroke and rate make.
struct HatchSeen {
    double seen = 0, meant = 0; ///< rad
    double rate = 0;            ///< strokes a minute, counted as the plan counts them, that make what is meant here
    bool counted_twice = false; ///< as if a stroke counted there and back were one way only, or the other way round
    [[nodiscard]] bool off() const;
};
/// Angles nearer than that are read alike (common practice, no source), rad.
inline constexpr double hatch_read_within = 5 * block::radians_per_degree;
[[nodiscard]] HatchSeen hatch_seen(const HoneMotion& motion, double seen);

/// Grits and what each leaves for the next (common practice, no source); vitrified stones or diamonds.
[[nodiscard]] block::HonePlanChosen usual_hone_plan(block::Abrasive abrasive, double bore);
[[nodiscard]] block::HonePlanChosen hone_plan_of(const block::JobState& state);

/// What a bore has become, told from stock left at three levels in two directions.
enum class BoreShape {
    even,
    tight_top,    ///< tapered: more left at the top
    tight_bottom, ///< tapered: more left at the bottom
    barrel,       ///< larger in the middle: pushed too hard, it springs and warms
    waist,        ///< tighter in the middle
    oval,
};

struct HoneCell {
    std::string level, direction; ///< "top", "across"
    std::optional<double> size;   ///< since the bore was last cut
    double left = 0;              ///< mm on diameter to the smallest finished size; − is beyond it

    [[nodiscard]] bool is_read() const { return size.has_value(); }
};

struct HoneBore {
    block::FeatureId id;
    BoreSizes sizes;
    std::vector<HoneCell> cells; ///< top, middle, bottom × across, along
    bool measured = false;       ///< at three levels, both ways
    bool plate_off = false;      ///< read with the plate on, which came off before it was done
    double most = 0, least = 0;  ///< stock left to the smallest it may be, of the cells that were read
    /// mm, that the stones go beyond it, so that it is in size as surely as it was read: no needle's width is chased.
    double beyond = 0;
    bool to_hone = false; ///< stones or the brush have work to do in it
    BoreShape shape = BoreShape::even;
    double shape_by = 0;             ///< mm, how far it is off
    std::string dwell;               ///< "top", "middle", "bottom", or empty
    std::optional<std::size_t> step; ///< of the hone plan, to go on with; nothing where it is in size
    bool honed = false;
    bool rested = true;
    std::optional<HoneRate> rate;   ///< of that step's grit, as this job has shown it
    std::optional<double> strokes;  ///< that take it to what that step leaves, by the rate
    std::optional<double> load;     ///< %, to go on with: a fifth less where the last one sprang the wall
    std::optional<double> estimate; ///< mm left, mean, where it was honed since it was measured: by the rate
    std::optional<HatchSeen> hatch; ///< of the last go whose scratches were looked at
    bool brush_due = false;         ///< in size, and the plan's brush has not been through it since the last stone
    std::optional<metrology::Verdict> verdict; ///< size and shape, once it is measured at rest
};

enum class HoneStep {
    bore_first,   ///< no hole is bored to its rough size
    put_plate_on, ///< torque plate and caps as they will run
    measure,
    hone,
    rest,        ///< in size, but warm from the hone
    check_again, ///< rested: sizes anew
    too_large,
    dress, ///< in size: chamfers and deburring are still to be ticked
    done,
};

struct HoneBoard {
    HoneStep step = HoneStep::bore_first;
    std::optional<block::FeatureId> bore;
    std::vector<HoneBore> bores;         ///< in the blueprint's order
    std::vector<block::FeatureId> again; ///< to be measured after the rest
    std::vector<std::string> steps_left; ///< of `bore`: "chamfer, top", …
    bool aluminium = false;
    double rest_minutes = 0;  ///< what it usually needs; 0 where temperatures are enough
    bool hatch_wanted = true; ///< nobody has seen scratches yet that are as speed and strokes make them
};
[[nodiscard]] HoneBoard hone_board(const block::JobState& state, const CylinderStudy& study);

/// The entry after which a step of dressing has to be ticked: the last go of a tool through the bore, and of the top
/// chamfer the last cut of the deck as well.
[[nodiscard]] std::int64_t dressed_after(const block::JobState& state, const block::FeatureId& bore,
                                         std::string_view step);
/// Chamfers and deburring: ticked with a reading or a look (common practice, no source).
[[nodiscard]] std::vector<std::string> bore_steps();

} // namespace pallix::planning
