// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/chain_drive.h"
#include "planning/decks/compression.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What lining up the ports of a V block's intake manifold takes after `cut` came off both decks.
struct ManifoldFit {
    double sinks = 0;    ///< mm, the manifold sinks by this; its end seals lose it
    double off_face = 0; ///< mm off each of the manifold's faces
};
/// h = c·cos(β − τ)/cos τ; m = h·sin τ − c·sin(τ − β), β the bank angle each side, τ the intake face from the vertical.
[[nodiscard]] ManifoldFit manifold_fit(double cut, double bank_angle, double face_angle);

/// One cylinder with its deck at a height.
struct CylinderAfter {
    block::FeatureId bore;
    int cylinder = 0;
    CrownSource source = CrownSource::read;
    double clearance = 0; ///< mm, piston below the deck; − stands proud
    std::optional<double> ratio;
    std::optional<double> quench; ///< mm, piston to head: gasket + clearance
};

/// Piston-to-head below this, with steel rods, is for someone who knows why (common practice, no source), mm.
inline constexpr double usual_quench = 0.9;

/// What a bank's deck at a height does to everything bolted to it.
struct DeckConsequences {
    std::string bank;
    double deck_cut = 0; ///< mm off the deck, from as found
    double head_cut = 0; ///< mm off the head
    std::vector<CylinderAfter> cylinders;
    double ratio_spread = 0;                           ///< largest less smallest
    std::optional<double> least_quench;                ///< mm
    std::optional<double> valve_intake, valve_exhaust; ///< mm, valve to piston after
    std::optional<double> pushrod_shorter;             ///< mm; nothing for a block without lifters
    std::optional<ManifoldFit> manifold;               ///< of a V block whose face angle is known
    std::optional<ChainSlack> chain;                   ///< of a cam in the head
    std::optional<double> cam_retard;                  ///< rad at the cam
};

/// @param bank id; @param height w the deck is cut to, mm; @param cut mm off the deck by then
[[nodiscard]] DeckConsequences deck_consequences(const block::JobState& state, const std::vector<PistonCrown>& crowns,
                                                 const std::string& bank, double height, double cut);

} // namespace pallix::planning
