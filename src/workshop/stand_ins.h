// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/gauge_profile.h"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::workshop {

/// A digital gauge that is not there: what it would say on the line.
struct GaugeStandIn {
    std::string name = "stand-in gauge";
    std::string unit = "mm";
    std::vector<double> values; ///< readings in order, in `unit`
    double noise = 0;           ///< standard deviation added to each, in `unit`
    std::uint64_t seed = 1;
};
/// @return the lines of the gauge protocol, hello first, bye last; the same stand-in says the same, to the byte
[[nodiscard]] std::vector<std::string> lines_of(const GaugeStandIn& gauge);

/// A probe that plays a log touch by touch.
/// @param log text of a probe log (docs/formats.md)
[[nodiscard]] std::vector<std::string> lines_of_probe(const std::string& name, std::string_view log);

/// A gauge that does not speak the gauge protocol, invented: what teaches it, and what it sends.
struct TaughtStandIn {
    const char* key; ///< "plain"
    block::GaugeProfile profile;
    std::string (*sends)(double value, int number); ///< one reading, in the profile's unit
};
/// Five of them: a bare number; one with name and unit that ends with CR; a comma and the sign behind; one that answers
/// only when asked; one that counts, has a check letter and ends its lines with nothing.
[[nodiscard]] const std::vector<TaughtStandIn>& taught_stand_ins();

} // namespace pallix::workshop
