// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>

namespace pallix::block {

enum class InstrumentKind {
    bore_gauge,        ///< dial bore gauge: reads from a zero that was set on something
    inside_micrometer, ///< reads whole sizes
    outside_micrometer,
    deck_bridge,     ///< height of a deck over a bar through the mains
    straightedge,    ///< with feelers: a bracket, the thickest that goes in and the thinnest that does not
    lever_indicator, ///< swept from a bar; reads long by the cosine of its angle
    dial_indicator,  ///< straight plunger, on the piston
    precision_level, ///< mm per m
    wall_gauge,      ///< ultrasonic
    thermometer,     ///< °C
    burette,         ///< cm³
    depth_micrometer ///< down from a plate whose height is its zero
};
inline constexpr std::size_t instrument_kinds = 12;

/// Whether its readings are deviations from a zero that belongs to each of them.
constexpr bool reads_from_zero(InstrumentKind kind) {
    return kind == InstrumentKind::bore_gauge || kind == InstrumentKind::deck_bridge ||
           kind == InstrumentKind::depth_micrometer;
}

/// What turns its needle clockwise.
enum class DialSense { not_stated, smaller, larger };
inline constexpr std::array dial_sense_keys{"not_stated", "smaller", "larger"};

/// An instrument of the register, and the copy of it that every reading keeps.
struct Instrument {
    std::string name; ///< as the shop calls it; the register's key
    InstrumentKind kind = InstrumentKind::bore_gauge;
    double resolution = 0;                      ///< mm (°C, mm per m, cm³), one step of its dial or display
    std::optional<double> standard_uncertainty; ///< the same unit, of one reading as its last check states it
    double turn = 0;                            ///< mm, one turn of its dial; 0 without a dial
    std::string last_check;                     ///< ISO date; empty where nobody knows
    std::optional<double> zero;                 ///< mm, the size or height at which it reads 0
    std::string zero_set_on;                    ///< what the zero was set on: "ring 73.990", "micrometer"
    std::string zero_time;                      ///< UTC, ISO 8601, when the zero was set; empty where nobody knows
    std::optional<double> zero_c;               ///< °C, of the gauge then
    int check_days = 0;                         ///< days from one check to the next; 0: as the shop sees fit
    double contact_angle = 0;                   ///< rad, of a lever against the surface it follows
    std::optional<double> repeatability;        ///< mm, s of one reading, from its last repeatability test
    std::size_t repeatability_readings = 0;     ///< how many readings that test had

    DialSense clockwise = DialSense::not_stated; ///< of its dial

    bool operator==(const Instrument&) const = default;
};

/// @return what is wrong with it in words, or nothing
[[nodiscard]] std::optional<std::string> fault_of(const Instrument& instrument);

/// The same instrument, but for what comes of measuring with it: its zero, its last check and test.
[[nodiscard]] bool differ_by_use_alone(Instrument a, const Instrument& b);

/// As the shop book and every reading keep it.
[[nodiscard]] std::string instrument_json(const Instrument& instrument);
[[nodiscard]] tl::expected<Instrument, std::string> read_instrument(std::string_view json);

/// Standard uncertainty of one reading without what repeating lowers: as stated, with half a step of the dial
/// (resolution/√12). Nothing where nobody has stated it.
[[nodiscard]] std::optional<double> fixed_uncertainty(const Instrument& instrument);

/// What a shop without a register starts from: one of each kind with usual resolutions (common practice, no source),
/// its uncertainty not stated.
[[nodiscard]] std::array<Instrument, instrument_kinds> usual_instruments();

} // namespace pallix::block
