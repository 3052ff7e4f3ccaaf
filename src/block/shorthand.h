// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument.h"
#include "block/units.h"

#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>

namespace pallix::block {

/// What a reading is expected to be: without it `3755` could be anything.
struct Expected {
    double value = 0;             ///< mm, what the drawing or the plan says
    double believable = 0;        ///< mm, > 0: a deviation beyond this is asked about before it counts
    Unit bench = Unit::inch;      ///< what a number without a unit means
    std::optional<double> zero{}; ///< mm, what deviations count from, where a gauge was set on something else
    bool needs_zero = false;      ///< the gauge reads from a zero, and none near this was set: no deviation can be told
    DialSense clockwise = DialSense::not_stated; ///< of its dial
    std::optional<double> nominal{}; ///< mm, of the drawing: what "over" counts from, whatever the last cut made of it
    bool direct = false;             ///< the number is the whole value, whatever its sign: an indicator
    std::optional<double> plate{};   ///< mm, height of the plate that a depth is read down from
    bool needs_plate = false;        ///< a depth is read, and nobody has said from what
    double turn = 0;                 ///< mm, one turn of the dial; 0 without a dial
    std::optional<double> repeat{};  ///< mm, the same place read before
    double repeat_limit = 0;         ///< mm, what a repeat may differ
    std::optional<double> neighbours{}; ///< mm, the middle one of the places beside it
    double neighbour_limit = 0;         ///< mm, what it may differ from them
};

/// Why a reading is asked about before it counts.
enum class Suspicion {
    none,
    ten_times,         ///< believable if divided by ten: tenths taken for thou, a slipped decimal point
    other_unit,        ///< believable in the bench's other unit: mm typed for inches
    one_turn,          ///< believable with one turn of the dial more or less: a slipped zero
    far,               ///< beyond what is believable, for no known reason
    unlike_repeat,     ///< far from what the same place gave before
    unlike_neighbours, ///< far from the places beside it
};

/// A reading as it was understood.
struct Understood {
    double value = 0;       ///< mm, the whole value
    double deviation = 0;   ///< mm, from what was expected
    bool relative = false;  ///< it was given as a deviation
    bool by_dial = false;   ///< it was given as clockwise or anticlockwise
    bool shorthand = false; ///< a decimal point was supplied
    Suspicion suspicion = Suspicion::none;
    std::optional<double> instead; ///< mm, the whole value that was probably meant
    std::optional<double> upper;   ///< of a bracket: the thickness that does not go in; `value` does
};

/// Reads what a machinist types: `3.7552`, `3755` (where about 3¾ in is expected), `+2.5 thou`, `3t` and `6 tenths`
/// (tenths of a thou), `12 µm`, `0.05mm`, `-.0005`, `30 over` (thou on diameter, over nominal).
///
/// `clockwise 0.4`, `ccw 3t` by the sense of the dial, which its card says.
///
/// A sign, a shop unit (thou, tenths, µm, over) or a number far smaller than expected makes it a deviation.
/// @return the reason in words where the text cannot be read
[[nodiscard]] tl::expected<Understood, std::string> read_shorthand(std::string_view text, const Expected& expected);

/// A plain length: `2 µm`, `0.0001 in`, `1.5`; for fields that expect no particular value.
/// @return mm
[[nodiscard]] tl::expected<double, std::string> read_length(std::string_view text, Unit bench);

} // namespace pallix::block
