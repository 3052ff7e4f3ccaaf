// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/ledger.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

using block::CapCuts;
using block::GivenLine;
using block::TunnelPolicy;

/// A main's old surface as torqued.
struct Housing {
    block::FeatureId id;
    std::vector<metrology::Vec3> points; ///< block frame, mm; z < 0 is the cap
    double target_diameter = 0;          ///< mm, finished
    double margin = 0;                   ///< mm more to come off than the policy's stock: what is not known of it

    [[nodiscard]] double mean_x() const;
};

/// The finished tunnel's centre line: y = y0 + yk·x, z = z0 + zk·x in the block frame, mm.
struct CentreLine {
    double y0 = 0, yk = 0, z0 = 0, zk = 0;
    [[nodiscard]] double y(double x) const { return y0 + yk * x; }
    [[nodiscard]] double z(double x) const { return z0 + zk * x; }
};

struct CapCut {
    block::FeatureId id;
    double cut = 0; ///< mm off the cap's parting face
};

/// By how much a point or a limit may be missed, mm: rounding, a ten-thousandth of what any machine holds.
inline constexpr double limit_tolerance = 1e-9;

/// A point that leaves no slack: it sets the plan.
struct BindingPoint {
    block::FeatureId id;
    bool cap = false;
    double clock = 0; ///< rad from +z, positive towards +y
    double x = 0;     ///< mm
};

enum class TunnelLimit { target_diameter, max_cap_cut, max_rise, max_side };

/// The least cap cutting that gives a straight, round tunnel in size.
struct TunnelPlan {
    bool feasible = false;
    block::TunnelMethod method = block::TunnelMethod::hone;
    CentreLine line;          ///< with the lift in it
    double lift = 0;          ///< line boring: over the given line, mm
    std::vector<CapCut> cuts; ///< in the order of the mains
    double max_cap_cut = 0;   ///< mm
    double rise = 0;          ///< mm, the largest |z| of the line over the mains, with its sign; + towards the cam
    double side = 0;          ///< mm, likewise across
    std::size_t left_out = 0; ///< points beside the parting line
    std::vector<BindingPoint> binding;
    std::vector<double> slacks;              ///< mm, of every point that must clean up, beyond stock and margin
    std::optional<double> short_by;          ///< infeasible: how much R* would have to grow, where growth helps
    std::vector<TunnelLimit> limits_to_give; ///< infeasible: each, loosened alone, would make it feasible
};

/// A cap cut by c comes c nearer: its points move up by c, so each gains c·|sin| of its angle from the parting line and
/// nothing beside it. With d = (y, z)/hypot(y, z) of a point, the old surface lies inside the finished bore when
/// hypot(y, z) + c·[cap]·d_z − d·s(x) + stock ≤ R* (exact to e²/2R). Linear programmes, one objective after the other,
/// each kept at its optimum to 1e-9 mm: the largest cap cut, the largest rise, the sum of the cuts, the largest side
/// step (honing); the lift for which every saddle point cleans up, then the cuts (boring). Points and limits are held
/// to `limit_tolerance`: a plan is infeasible only where every line breaks one by more.
[[nodiscard]] TunnelPlan plan_tunnel(const std::vector<Housing>& mains, const TunnelPolicy& policy,
                                     const CentreLine& given_line = {});

struct HoneLine;
/// The least cap cutting with which the line that the hone will follow cleans up every place: the same programme, its
/// line bound to the cuts. Equal cuts: every place gains c·|sin|/2, on cap and saddle alike.
[[nodiscard]] TunnelPlan plan_hone(const std::vector<Housing>& mains, const TunnelPolicy& policy, const HoneLine& line);

/// How far a place of the old surface lies inside the finished bore once its cap is cut, mm; negative: outside it.
/// @param p of the main, block frame
[[nodiscard]] double room_at(const Housing& main, metrology::Vec3 p, double cut, const CentreLine& line);
/// Stock that must come off at a place, mm.
/// @param dz sine of its angle from the parting line
[[nodiscard]] double stock_at(const TunnelPolicy& policy, double dz);
/// By how much the old surface keeps inside the bore that a plan finishes, at the place where it does least, mm; stock
/// is kept, margins and what lies beside the parting line are left out.
/// @param mains as they may be, in the order of the plan's cuts
[[nodiscard]] double least_slack(const std::vector<Housing>& mains, const TunnelPolicy& policy, const TunnelPlan& plan);

/// The housings of an evaluation's mains, in the blueprint's order.
[[nodiscard]] std::vector<Housing> housings_of(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                               const TunnelPolicy& policy);
/// Datum A itself, or the line through the mean section centres of the first and of the last main.
[[nodiscard]] CentreLine given_line(const block::Evaluation& evaluation, GivenLine line);

/// By how much a later measurement, clocked by the cam, will turn when the line moves: rad; 0 for other clockings.
[[nodiscard]] double roll_after(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                const std::vector<Housing>& mains, const CentreLine& line);

} // namespace pallix::planning
