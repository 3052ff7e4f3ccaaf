// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "metrology/decision.h"

#include <array>
#include <optional>

namespace pallix::planning {

/// Two rings pressed into one another. Diameters mm, moduli N/mm².
struct PressFit {
    double interference = 0; ///< on diameter
    double fit = 0;          ///< diameter where they meet
    double inside = 0;       ///< of the inner ring
    double outside = 0;      ///< of the outer one
    double insert_modulus = 0, parent_modulus = 0;
    double insert_poisson = 0, parent_poisson = 0;
};

/// What pressing does, by Lamé's rings in plane stress. Stresses N/mm², + is pull; movements mm on diameter.
struct PressStress {
    double pressure = 0;     ///< where they meet
    double parent_hoop = 0;  ///< in the parent, where they meet: the largest pull
    double insert_hoop = 0;  ///< in the insert, where they meet
    double bore_hoop = 0;    ///< at the insert's bore
    double bore_closes = 0;  ///< by how much the insert's bore gets smaller
    double parent_grows = 0; ///< by how much the parent's outside gets larger
};
/// @param fit inside < fit < outside, all greater than 0
[[nodiscard]] PressStress press_stress(const PressFit& fit);
/// Axial force that presses it in over its whole length: μ·p·π·d·L, N.
[[nodiscard]] double press_force(double friction, double pressure, double diameter, double length);
/// By how much the parent must be warmer so that the insert drops in with `slide` to spare, K.
/// @param expansion of the parent, per kelvin
[[nodiscard]] double heating_needed(double interference, double slide, double diameter, double expansion);

/// Six outside readings of a sleeve or bush: top, middle, bottom, each two ways.
struct InsertShape {
    double mean = 0;
    double spread = 0;            ///< largest less smallest
    double taper = 0;             ///< mean of the top less mean of the bottom
    double oval = 0;              ///< largest difference of the two ways at one level
    metrology::Verdict verdict{}; ///< whether its spread leaves the interference what it is meant to be
};
/// Its spread may be half of the interference (common practice, no source): beyond that one end hangs loose.
[[nodiscard]] InsertShape insert_shape(const std::array<double, 6>& outside, double interference);

/// All numbers of one insert.
struct InsertPlan {
    InsertShape shape;
    double seat = 0; ///< bore it goes into: its mean outside less the interference
    PressStress stress;
    double force = 0;       ///< N; of a heated parent 0
    double heat = 0;        ///< K
    double inside_then = 0; ///< its bore once it is in
};
/// @param expansion of the parent, per kelvin
/// @return nothing where its lengths are no rings
[[nodiscard]] std::optional<InsertPlan> plan_insert(const block::InsertMeasured& insert, double expansion);

} // namespace pallix::planning
