// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// The volumes of one cylinder. mm and mm³.
struct CylinderVolumes {
    double bore = 0, stroke = 0;
    double chamber = 0;
    double gasket_bore = 0, gasket_thickness = 0;
    double dish = 0; ///< + adds volume, a dome takes some
    double crevice = 0;

    [[nodiscard]] double swept() const; ///< π/4·B²·S
    /// Chamber + gasket + deck clearance over the bore + dish + crevice.
    /// @param clearance piston below the deck at top dead centre
    [[nodiscard]] double clearance_volume(double clearance) const;
    /// (Vs + Vc)/Vc
    [[nodiscard]] double ratio(double clearance) const;
    /// The inverse: which deck clearance gives a compression ratio.
    /// @param wanted > 1
    [[nodiscard]] double clearance_for(double wanted) const;
};

/// Where a cylinder's deck clearance is known from.
enum class CrownSource {
    read,         ///< both sides of the pin
    one_side,     ///< only one side of the pin: it may rock
    between,      ///< straight between cylinders that were read
    from_figures, ///< stroke/2 + rod + pin height
};

/// A piston at top dead centre.
struct PistonCrown {
    block::FeatureId bore;
    int cylinder = 0;
    CrownSource source = CrownSource::read;
    double crown = 0;                  ///< w, mm
    double rock = 0;                   ///< mm, difference of both sides of the pin
    std::optional<double> uncertainty; ///< mm
    double diameter = 0;               ///< mm, of its cylinder: finished, else as it is planned, else the blueprint's
};

/// How far the piston of a bank that stands highest is below its deck as it now is, where no height of the deck is
/// known: of each cylinder the mean of its sides, less what came off since.
[[nodiscard]] std::optional<double> least_clearance(const block::JobState& state, const std::string& bank);

/// Every cylinder's crown, as far as readings and figures go: those that were read on both sides of the pin as their
/// mean; between two that were read, straight on; else from the figures.
/// @param oversize the cylinders are bored to, where one is planned
[[nodiscard]] std::vector<PistonCrown> piston_crowns(const block::JobState& state,
                                                     const std::optional<double>& oversize = {});

/// The volumes of a cylinder as the figures have them, after the work on its head; nothing while one is missing.
[[nodiscard]] std::optional<CylinderVolumes> volumes_of(const block::JobState& state, const PistonCrown& crown);
/// What the figures still lack for a compression ratio, in words; empty when they are complete.
[[nodiscard]] std::vector<std::string> missing_figures(const block::JobState& state);
/// The chamber over a cylinder as it now is, mm³: what was told or measured last, less what came off the head since.
/// @param diameter mm, of its cylinder: as wide a chamber is taken to be
[[nodiscard]] std::optional<double> chamber_now(const block::JobState& state, const block::FeatureId& bore,
                                                double diameter);
/// Valve to piston as it was before deck or head were cut, mm: as measured with the dial, the closest of the bank, or
/// as it was told.
/// @param valve "intake" or "exhaust"
[[nodiscard]] std::optional<double> valve_clearance(const block::JobState& state, const std::string& bank,
                                                    const std::string& valve);

/// What a head's face reads and what came off it in all.
struct HeadState {
    std::optional<double> gap_low, gap_high; ///< mm, the last bracket
    double cut = 0;                          ///< mm in all
    std::optional<double> chamber;           ///< mm³, measured after its last cut
    std::int64_t chamber_told = 0;           ///< entry that says so
    double cut_since_chamber = 0;            ///< mm, after the chambers were measured, or in all where they never were
};
[[nodiscard]] HeadState head_state(const block::JobState& state, const std::string& bank);

/// The chambers lose about the area of the bore for each mm off the head (a closed chamber as wide as the bore, common
/// practice; measure after the cut).
[[nodiscard]] double chamber_loss(double bore, double cut);

} // namespace pallix::planning
