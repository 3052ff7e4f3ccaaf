// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/feature.h"
#include "block/units.h"
#include "metrology/geometry.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// A size with its allowed deviations, mm; nothing where nobody stated them.
struct Tolerance {
    double nominal = 0;
    std::optional<double> lower{}; ///< deviation from nominal, ≤ upper
    std::optional<double> upper{};
    [[nodiscard]] std::optional<double> smallest() const { return lower ? std::optional(nominal + *lower) : lower; }
    [[nodiscard]] std::optional<double> largest() const { return upper ? std::optional(nominal + *upper) : upper; }
    [[nodiscard]] bool whole() const { return lower && upper; }
    /// The middle of its window; the nominal where it has none.
    [[nodiscard]] double middle() const { return whole() ? nominal + (*lower + *upper) / 2 : nominal; }
};

/// What fixes the block frame's direction of z (docs/method.md, datum B).
enum class Clocking { cam, panrail, decks };

enum class Material { grey_iron, compacted_iron, aluminium };

/// Expansion of the block per kelvin: grey iron 10.8e-6, compacted iron 11.5e-6, aluminium alloy 22e-6 (typical values,
/// from memory).
[[nodiscard]] constexpr double expansion_of(Material material) {
    switch (material) {
    case Material::grey_iron:
        return 10.8e-6;
    case Material::compacted_iron:
        return 11.5e-6;
    case Material::aluminium:
        break;
    }
    return 22e-6;
}

struct BankBlueprint {
    std::string id;
    double angle = 0; ///< rad, signed, from +z towards +y
    Tolerance deck_height;
    std::optional<double> deck_flatness;       ///< mm
    std::vector<metrology::Vec2> deck_outline; ///< (u, v) corners in order, mm
    bool outline_assumed = false;              ///< nobody stated it: a box round the bores, for the drawing's sake
};

struct MainBlueprint {
    FeatureId id;
    double x = 0; ///< mm along the crankshaft
    Tolerance diameter;
};

struct CamBlueprint {
    double y = 0; ///< mm in the block frame
    double z = 0;
    std::vector<MainBlueprint> bearings;
};

enum class Valve { intake, exhaust };
inline constexpr std::array valve_keys{"intake", "exhaust"};

/// A dowel, cylinder or lifter bore.
struct HoleBlueprint {
    FeatureId id;
    std::optional<int> cylinder; ///< the maker's number of a cylinder bore, or of the one a lifter belongs to
    std::optional<double> angle; ///< rad, a lifter's own
    double u = 0;                ///< mm
    double v = 0;
    Tolerance diameter;
    bool place_assumed = false;   ///< nobody stated where it is: u and v are for the drawing's sake
    std::optional<Valve> valve{}; ///< that a lifter opens
};

/// What drives the cam: a chain (pitch and teeth) or gears (pressure angle).
struct CamDrive {
    int teeth_crank = 0, teeth_cam = 0;
    double pitch = 0;                   ///< mm; 0 for gears
    std::optional<double> chain_length; ///< mm, as it is; nothing: just tight at the distance as measured
    double pressure_angle = 0;          ///< rad, of gears
};

/// What runs in the mains, mm.
struct MainBearing {
    double shell = 0;   ///< thickness
    double journal = 0; ///< diameter
};

/// What the maker meant the block to be. All lengths mm, all angles radians.
struct Blueprint {
    std::string name;
    Material material = Material::grey_iron;
    Unit unit = Unit::mm;                  ///< of the file it came from and goes to
    std::optional<FeatureId> origin_dowel; ///< nothing: the first main measured fixes where x is 0
    Clocking clocking = Clocking::cam;
    std::vector<BankBlueprint> banks;
    std::vector<MainBlueprint> mains;
    std::optional<CamBlueprint> cam;
    std::optional<CamDrive> cam_drive;
    std::optional<MainBearing> main_bearing;
    std::vector<HoleBlueprint> dowels;
    std::vector<HoleBlueprint> bores;
    std::vector<HoleBlueprint> lifters;
    std::string source; ///< the file's text: keys that this version does not know live here

    [[nodiscard]] const BankBlueprint* bank(std::string_view id) const;
    [[nodiscard]] const HoleBlueprint* hole(const FeatureId& id) const; ///< dowel, bore or lifter
    [[nodiscard]] bool lists(const FeatureId& id) const;                ///< panrail is always listed
};

/// Reads a `.pallix-blueprint.json`; on any fault all of them and no blueprint.
/// @param file the name used in messages
[[nodiscard]] Result<Blueprint> read_blueprint(std::string_view text, const std::string& file);

/// @return the file's text with today's values; keys unknown to this version and untouched numbers stay as they were
[[nodiscard]] std::string write_blueprint(const Blueprint& blueprint);

} // namespace pallix::block
