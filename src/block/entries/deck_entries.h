// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

// What a person did to a deck, found on it, or knows of what is bolted to it. All lengths mm, volumes mm³.

enum class FlawKind { crack, pit, mark };
/// What lies beside a flaw and makes it better or worse.
enum class FlawNear { open_deck, bore, valve_seat, coolant_hole, bolt };
enum class FlawChoice { watch, stop_and_pin, sleeve, scrap };

/// A crack, pit or mark, as it was seen; a later pass may show more.
struct FlawMarked {
    std::string bank;
    FlawKind kind = FlawKind::crack;
    std::vector<metrology::Vec2> path; ///< (u, v): one place, or the line it runs along
    FlawNear near = FlawNear::open_deck;
    std::optional<double> depth; ///< mm
    std::string note;

    [[nodiscard]] double length() const; ///< mm, along its path
    bool operator==(const FlawMarked&) const = default;
};
struct FlawDecided {
    std::int64_t flaw = 0; ///< entry that marked it
    FlawChoice choice = FlawChoice::watch;
    std::string note;
    bool operator==(const FlawDecided&) const = default;
};
/// Water or air through the jacket, behind a shield.
struct PressureTested {
    bool tight = false;
    std::string note; ///< pressure, time, where it wept
    bool operator==(const PressureTested&) const = default;
};

/// What a pass was expected to take, kept before the first cut so that it can be held against what was taken.
struct DeckForecastKept {
    std::string bank;
    double low = 0, high = 0;               ///< mm off the highest place until it is clean: 95 % interval
    double lowest_low = 0, lowest_high = 0; ///< mm, height of the lowest place: 95 % interval
    metrology::Vec2 decides;                ///< (u, v) of the place that most likely decides
    bool operator==(const DeckForecastKept&) const = default;
};

/// The cutter and how it is driven.
struct CutterFitted {
    double diameter = 0;
    int teeth = 1;
    double nose_radius = 0;
    double speed = 0, feed = 0;               ///< m/min; mm per tooth
    double finish_speed = 0, finish_feed = 0; ///< the same for the finishing cut
    bool new_inserts = false;
    bool operator==(const CutterFitted&) const = default;
};

enum class CutterState { sharp, dull, chatter };
/// How the surface came out.
struct FinishNoted {
    std::string bank;
    CutterState cutter = CutterState::sharp;
    std::optional<double> ra; ///< mm, as measured
    std::string note;
    bool operator==(const FinishNoted&) const = default;
};

enum class GasketKind { composition, multilayer_steel, soft_copper };
/// Which gasket the finish is for.
struct GasketChosen {
    GasketKind kind = GasketKind::composition;
    double ra_at_most = 0; ///< mm
    bool operator==(const GasketChosen&) const = default;
};

/// Indicator readings on the plate, the bar or the deck, and where the block stands on what.
struct SetUpRead {
    struct Reading {
        metrology::Vec2 place; ///< (u, v)
        double height = 0;     ///< mm, + is high
        bool operator==(const Reading&) const = default;
    };
    struct Foot {
        std::string name;
        metrology::Vec2 place; ///< (u, v)
        bool operator==(const Foot&) const = default;
    };
    std::string bank;
    std::string surface; ///< "plate", "bar" or "deck"
    std::vector<Reading> readings;
    std::vector<Foot> feet;
    bool operator==(const SetUpRead&) const = default;
};

/// What the mock-up and the parts say. What nobody stated is not known.
struct EngineFigures {
    std::optional<double> stroke, rod, pin_height;       ///< pin height: pin's centre to the piston's crown
    std::optional<double> chamber;                       ///< mm³, of the head
    std::map<int, double> chambers;                      ///< mm³, by cylinder, where they were measured one by one
    std::optional<double> gasket_bore, gasket_thickness; ///< compressed
    double dish = 0;                                     ///< mm³, + adds volume, a dome takes some
    double crevice = 0;                                  ///< mm³ above the top ring
    bool steel_rods = true;
    std::optional<double> valve_intake, valve_exhaust; ///< mm, valve to piston as measured
    std::optional<double> manifold_face;               ///< rad, intake face from the vertical, along the crankshaft
    struct CamChain {
        int teeth_crank = 0, teeth_cam = 0;
        double pitch = 0, distance = 0; ///< mm
        bool operator==(const CamChain&) const = default;
    };
    std::optional<CamChain> overhead_chain; ///< to a cam in the head: shorter by what comes off
    bool operator==(const EngineFigures&) const = default;
};

/// Work on the head of a bank: what its face reads, what came off it, what its chambers hold since.
struct HeadWork {
    std::string bank;
    std::optional<double> gap_low, gap_high; ///< feeler that goes in under a straightedge, and the next that does not
    double cut = 0;
    std::optional<double> chamber; ///< mm³, measured after the cut
    bool operator==(const HeadWork&) const = default;
};

} // namespace pallix::block
