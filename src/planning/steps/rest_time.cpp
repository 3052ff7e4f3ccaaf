// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/answer.h"
#include "planning/steps/refused.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cstdio>

namespace pallix::planning {
namespace {

/// The time some minutes later, UTC.
std::string later(const std::string& at, double minutes) {
    int y = 0, mo = 0, d = 0, h = 0, mi = 0, s = 0;
    if (std::sscanf(at.c_str(), "%d-%d-%dT%d:%d:%d", &y, &mo, &d, &h, &mi, &s) != 6) // NOLINT(cert-err34-c): counted
        throw Refused{{"job", 0, "\"" + at + "\" is no time", "UTC such as 2026-03-05T14:30:00Z"}};
    using namespace std::chrono;
    const sys_seconds then = sys_days(year(y) / mo / d) + hours(h) + std::chrono::minutes(mi) + seconds(s) +
                             seconds(static_cast<long>(std::lround(minutes * 60)));
    const auto day = floor<days>(then);
    const year_month_day date(day);
    const hh_mm_ss time(then - day);
    std::array<char, 40> text{};
    std::snprintf(text.data(), text.size(), "%04d-%02u-%02uT%02d:%02d:%02dZ", static_cast<int>(date.year()),
                  static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()),
                  static_cast<int>(time.hours().count()), static_cast<int>(time.minutes().count()),
                  static_cast<int>(time.seconds().count()));
    return text.data();
}

} // namespace

block::RestBegun rest_begun(const std::string& at, double minutes) {
    constexpr double longest_told = 1e6; // what is longer is refused by its range
    return {minutes, later(at, std::clamp(minutes, -longest_told, longest_told))};
}

} // namespace pallix::planning
