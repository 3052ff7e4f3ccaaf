// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/instrument.h"
#include "metrology/geometry.h"

#include <array>
#include <optional>
#include <string>

namespace pallix::block {

/// What a reading by hand says of its feature.
enum class Quantity {
    size,        ///< mm, between two opposite places of a bore
    height,      ///< mm, w of a place on a deck
    saddle,      ///< mm, height of a main's saddle over a bar on the end mains
    gap,         ///< mm, under a straightedge: a bracket
    sweep,       ///< mm, indicator carried round by a bar, + pushed in
    piston,      ///< mm, piston crown below the deck at one side of the pin, at top dead centre
    slope,       ///< mm per m
    wall,        ///< mm, thickness of a cylinder's wall
    temperature, ///< °C, of the block or the gauge
    indicator,   ///< mm, at a corner of a deck while the block is set up, + is high
    outside,     ///< mm, of a sleeve that is to go into a cylinder
    head_gap,    ///< mm, under a straightedge on the head of a bank: a bracket
    volume,      ///< cm³, of the chamber over a cylinder
    valve,       ///< mm, what a valve of a cylinder may drop before it meets its piston
    head_height, ///< mm, indicator at a place on the face of the head of a bank, as it lies, + is high
};
inline constexpr std::array quantity_names{"size",   "height", "saddle",      "gap",       "sweep",   "piston",
                                           "slope",  "wall",   "temperature", "indicator", "outside", "head_gap",
                                           "volume", "valve",  "head_height"}; ///< as files spell them
inline constexpr std::size_t quantities = 15;

constexpr bool is_length(Quantity q) {
    return q != Quantity::slope && q != Quantity::temperature && q != Quantity::volume;
}
/// Read on the face of a head, not of its deck.
constexpr bool is_on_head(Quantity q) {
    return q == Quantity::head_gap || q == Quantity::head_height;
}
/// Read from a bar or a crankshaft in the mains: with their caps off it says nothing.
constexpr bool is_from_mains(Quantity q) {
    return q == Quantity::height || q == Quantity::piston;
}
/// Read at a place of its own (u, v), not along a line or at a level.
constexpr bool is_at_a_place(Quantity q) {
    return q == Quantity::height || q == Quantity::head_height;
}
/// Read with feelers: the thickest that goes in and the thinnest that does not.
constexpr bool is_bracket(Quantity q) {
    return q == Quantity::gap || q == Quantity::head_gap;
}

/// Where a reading is taken. Two readings of one place are repeats of each other.
struct MeasuredAt {
    FeatureId feature;
    Quantity quantity = Quantity::size;
    std::string level; ///< "front", "rear" of a main; "top", "middle", "bottom" of a bore; else empty
    std::string
        direction; ///< "upright", "60 left", "across", "along", a straightedge's line, a clock position; or empty
    metrology::Vec2 place; ///< (u, v) mm, heights of a deck or a head

    /// One text for one place: "main.2 size front upright", "deck.R height 12.5 −60.0".
    [[nodiscard]] std::string key() const;
    bool operator==(const MeasuredAt&) const = default;
};

/// Whether two readings there are repeats of each other: they have one key.
[[nodiscard]] bool is_same_place(const MeasuredAt& a, const MeasuredAt& b);

/// What held while a reading was taken. What nobody stated is not known, not assumed.
struct Conditions {
    std::optional<bool> caps_torqued;
    std::optional<bool> plate_on;  ///< torque plate
    std::optional<double> part_c;  ///< °C, of the block
    std::optional<double> gauge_c; ///< °C
    std::string fasteners;         ///< lubricant, torque or stretch, pattern, steps: as the person writes it

    bool operator==(const Conditions&) const = default;
};

/// One reading by hand or from a gauge on the line.
struct Reading {
    MeasuredAt at;
    std::string words;           ///< the place as it was asked for: "main 2, front, upright"
    double value = 0;            ///< mm (mm per m, °C, cm³), whole; of a bracket, the thickest that goes in
    std::optional<double> upper; ///< of a bracket, the thinnest that does not go in
    std::string typed;           ///< as the person typed it or the gauge sent it
    bool confirmed = false;      ///< it was asked about and meant
    Instrument instrument;
    Conditions conditions;
    bool operator==(const Reading&) const = default;
};

} // namespace pallix::block
