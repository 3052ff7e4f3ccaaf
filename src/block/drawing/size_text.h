// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

namespace pallix::block {

/// Reads a size as people and sheets write it: `58`, `2.9370-2.9380`, `58 +0.018 0`, `215 ±0.05`, `58 H6`, `4 in +.5
/// thou 0`.
///
/// Two limits make the smaller one the nominal. One deviation alone has 0 on its other side. Deviations of more than a
/// hundredth of the size are not believed. A unit holds for its own number, and the nominal's for what follows it.
/// Letters H (from the nominal up) and JS (to either side), grades 4 to 11, sizes over 0 to 500 mm, after ISO 286-1.
/// @param bench the unit of a number that names none
/// @return the reason in words where the text cannot be read
[[nodiscard]] tl::expected<Tolerance, std::string> read_size(std::string_view text, Unit bench);

/// A size in the shortest of those ways: `58 +0.018 0`, `215 ±0.05`, in the unit without naming it, with so many
/// decimals at most.
[[nodiscard]] std::string size_text(const Tolerance& size, Unit unit, int decimals = 7);

/// Standard tolerance of ISO 286-1, mm (the table is from memory; block/size_text_test.cpp holds it against the
/// standard's own formula).
/// @param grade 4 to 11; @param nominal mm, over 0 to 500
/// @return nothing outside the table
[[nodiscard]] std::optional<double> standard_tolerance(int grade, double nominal);

} // namespace pallix::block
