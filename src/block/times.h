// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <chrono>
#include <optional>
#include <string>

namespace pallix::block {

// Times as entries have them: UTC, ISO 8601, "2026-03-02T09:41:00Z"; and days, "2026-03-02".

/// @return nothing where it is no such time
[[nodiscard]] std::optional<std::chrono::sys_seconds> read_time(const std::string& text);
[[nodiscard]] std::string time_text(std::chrono::sys_seconds time);
/// @return nothing where it is no day that there is
[[nodiscard]] std::optional<std::chrono::sys_days> read_day(const std::string& text);
[[nodiscard]] std::string day_text(std::chrono::sys_days day);

} // namespace pallix::block
