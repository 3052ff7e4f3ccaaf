// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/times.h"

#include <array>
#include <cstdio>

namespace pallix::block {

using namespace std::chrono;

std::optional<sys_days> read_day(const std::string& text) {
    int y = 0, m = 0, d = 0, end = 0;
    if (std::sscanf(text.c_str(), "%4d-%2d-%2d%n", &y, &m, &d, &end) != 3 || // NOLINT(cert-err34-c): counted
        static_cast<std::size_t>(end) != text.size() || y < 1900)
        return std::nullopt;
    const year_month_day day(year(y), month(static_cast<unsigned>(m)), std::chrono::day(static_cast<unsigned>(d)));
    return day.ok() ? std::optional(sys_days(day)) : std::nullopt;
}

std::string day_text(sys_days day) {
    const year_month_day date(day);
    std::array<char, 40> text{};
    std::snprintf(text.data(), text.size(), "%04d-%02u-%02u", static_cast<int>(date.year()),
                  static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()));
    return text.data();
}

std::optional<sys_seconds> read_time(const std::string& text) {
    constexpr std::size_t of_a_day = 10;
    const auto day = read_day(text.substr(0, of_a_day));
    int h = 0, m = 0, s = 0;
    if (!day || text.size() < of_a_day ||
        std::sscanf(text.c_str() + of_a_day, "T%2d:%2d:%2d", &h, &m, &s) != 3) // NOLINT(cert-err34-c): counted
        return std::nullopt;
    if (h < 0 || h > 23 || m < 0 || m > 59 || s < 0 || s > 60)
        return std::nullopt;
    return *day + hours(h) + minutes(m) + seconds(s);
}

std::string time_text(sys_seconds time) {
    const auto day = floor<days>(time);
    const hh_mm_ss of_day(time - day);
    std::array<char, 40> text{};
    std::snprintf(text.data(), text.size(), "T%02d:%02d:%02dZ", static_cast<int>(of_day.hours().count()),
                  static_cast<int>(of_day.minutes().count()), static_cast<int>(of_day.seconds().count()));
    return day_text(day) + text.data();
}

} // namespace pallix::block
