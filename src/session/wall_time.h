// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <string>

namespace pallix::session {

/// A time of the ledger (UTC, ISO 8601) as the clock on the wall has it: "14:05", with its day where that is not today.
[[nodiscard]] QString wall_time(const std::string& utc);
/// Words with every time of the ledger in them as the clock on the wall has it.
[[nodiscard]] QString with_wall_times(QString words);
/// A day ("2026-03-02") as the person's locale writes it.
[[nodiscard]] QString day_words(const std::string& day);

} // namespace pallix::session
