// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/times.h"
#include "planning/steps/answer.h"
#include "planning/steps/refused.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

std::string later(const std::string& at, double minutes) {
    const auto time = block::read_time(at);
    if (!time)
        throw Refused{{"job", 0, "\"" + at + "\" is no time", "UTC such as 2026-03-05T14:30:00Z"}};
    constexpr double longest_told = 1e6; // what is longer is refused by its range
    return block::time_text(*time +
                            std::chrono::seconds(std::lround(std::clamp(minutes, -longest_told, longest_told) * 60)));
}

block::RestBegun rest_begun(const std::string& at, double minutes) {
    return {minutes, later(at, minutes)};
}

} // namespace pallix::planning
