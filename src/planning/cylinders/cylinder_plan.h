// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/correction_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// One reading of a cylinder's wall and what becomes of it.
struct WallAt {
    std::string level, direction; ///< "right", "left", "rear", "front", seen from the rear of the block
    double before = 0;            ///< mm, read before the first cut
    std::optional<double> after;  ///< mm, read after the last cut
    double planned = 0;           ///< mm: before − (R' + e·d − R)
    std::optional<double> least;  ///< limit of that side, where one was stated
    bool thrust = false;
    metrology::Vec2 outwards; ///< unit, (u, v)
    [[nodiscard]] bool thin() const { return least && planned < *least; }
};

/// A cylinder as it was found, in the bank frame of the tunnel as it will be. Lengths mm.
struct FoundCylinder {
    block::FeatureId id;
    int cylinder = 0;
    double nominal = 0;
    double pit = 0;                      ///< deepest of the wall as found, radially
    double pitted_to = 0;                ///< diameter that what was seen in a wall cut since reaches to; 0 for none
    std::vector<metrology::Vec2> points; ///< touches, (u, v); empty where only a gauge was in it
    std::optional<metrology::Vec2> top;  ///< centre of the top level
    metrology::Vec2 blueprint;
    double diameter = 0; ///< of the top level; by gauge the smallest size
    double worn = 0;     ///< the largest size anywhere
    std::vector<WallAt> walls;
    std::optional<double> uncertainty; ///< mm, standard, of one touch or size; nothing where nobody stated it
};
/// Cylinders in the blueprint's order that were probed or gauged before they were cut.
[[nodiscard]] std::vector<FoundCylinder> found_cylinders(const block::JobState& state, const CentreLine& line);

enum class LimitedBy { nothing, size, wall };
/// As far from the unworn top towards the blueprint as a size and the walls allow.
struct LimitedCentre {
    metrology::Vec2 centre; ///< (u, v)
    double share = 0;       ///< 0 as found, 1 at the blueprint
    double moved = 0;       ///< mm, from the top
    double left = 0;        ///< mm, still off the blueprint
    LimitedBy by = LimitedBy::nothing;
    std::string wall; ///< which, where one sets it
};
/// @param radius that the old surface must lie within, mm: finish less margin, halved, less the pit
/// @param grown by how much the bore's radius grows over the one its walls were measured at, mm
/// @return nothing where no centre on the way cleans up
[[nodiscard]] std::optional<LimitedCentre> limited_centre(const FoundCylinder& bore, double radius, double grown);

/// What one bore needs about one centre. By gauge alone it lies between `needed` and `needed_at_most`.
struct SchoolNeed {
    CentreSchool school = CentreSchool::top;
    double needed = 0;         ///< mm: clean diameter, pits and margin
    double needed_at_most = 0; ///< mm; the same as needed where the bore was probed
    std::optional<double> oversize;
};

struct CylinderNeed {
    FoundCylinder found;
    std::vector<SchoolNeed> schools;       ///< free, top, blueprint; by gauge alone only top
    std::optional<LimitedCentre> limited;  ///< at the size decided on
    std::optional<metrology::Vec2> centre; ///< (u, v) to bore on
    bool sleeved = false;                  ///< it is to be, so it sets no oversize
    bool left_out = false;                 ///< scrapped, or left as it is
    bool cleans = true;                    ///< at the size and centre decided on

    [[nodiscard]] const SchoolNeed* by(CentreSchool school) const;
    [[nodiscard]] bool thin() const;
};

/// The common size by one centre school.
struct CommonSize {
    CentreSchool school = CentreSchool::top;
    std::optional<double> oversize;         ///< nothing where the list has none
    std::optional<block::FeatureId> set_by; ///< the one that needs most
    double needed_over = 0;                 ///< mm over nominal, of that one
    std::optional<double> without;          ///< what it would be without that one
    /// The least on offer with which all of them together clean up with 95 % certainty; nothing where the list has
    /// none, or nobody stated how sure a touch or a size is.
    std::optional<double> sure{};
    bool sure_known = false;
};

/// All cylinders together.
struct CylinderStudy {
    std::vector<CylinderNeed> each;      ///< in the blueprint's order
    std::vector<CommonSize> common;      ///< free, top, limited, blueprint; those that can be known
    std::optional<double> oversize;      ///< decided on, else by the chosen school
    std::vector<block::FeatureId> order; ///< to bore: the one that needs most first; those to be left out are not in it

    [[nodiscard]] const CylinderNeed* bore(const block::FeatureId& id) const;
    [[nodiscard]] const CommonSize* by(CentreSchool school) const;
};
/// How likely all of them together clean up at a size, as sure as their touches and sizes are; nothing where nobody
/// stated that.
[[nodiscard]] std::optional<double> chance_all_clean(const std::vector<CylinderNeed>& each, CentreSchool school,
                                                     const block::CylinderPlanChosen& plan, double oversize);
/// @return nothing where no cylinder was measured
[[nodiscard]] std::optional<CylinderStudy> study_cylinders(const block::JobState& state, const CentreLine& line);

/// What was chosen; before that the usual: on the unworn top, 0.25 to 1.0 mm over (common practice, no source).
[[nodiscard]] block::CylinderPlanChosen cylinder_plan_of(const block::JobState& state);
/// Least walls by use (common practice, no source), mm: thrust side and other.
struct UsualWalls {
    const char* use;
    double thrust, other;
};
[[nodiscard]] std::vector<UsualWalls> usual_walls();

} // namespace pallix::planning
