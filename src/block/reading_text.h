// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/reading.h"
#include "block/shorthand.h"

namespace pallix::block {

/// Reads what was typed for a reading of any quantity.
///
/// Lengths as `read_shorthand`. A gap is a bracket: the thickest feeler that goes in and the thinnest that does not,
/// `6 7` (thou at an inch bench), `0.15 0.20`, `0.006 goes in, 0.007 does not`; `0 1` where nothing goes in. A slope is
/// in mm/m (or in/ft, thou/ft), a temperature in °C (or °F).
/// @return the reason in words where the text cannot be read
[[nodiscard]] tl::expected<Understood, std::string> read_reading(std::string_view text, Quantity quantity,
                                                                 const Expected& expected);

/// A plain number as it is typed into a field: a decimal point or comma, a real minus sign, and behind it nothing or
/// one of the words that may stand there ("°").
[[nodiscard]] tl::expected<double, std::string> read_number(std::string_view text,
                                                            std::initializer_list<std::string_view> words = {});

} // namespace pallix::block
