// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace pallix::cli {

struct NextRequest {
    std::string job;      ///< a .pallix.json
    std::string at;       ///< UTC, ISO 8601; empty: now
    bool all = false;     ///< also what is done, skipped and stale
    bool as_text = false; ///< the call as a person reads it
};

/// "2026-03-05T14:30:00Z"
[[nodiscard]] bool is_utc(const std::string& text);
/// The system's clock as the ledger writes times.
[[nodiscard]] std::string utc_now();

/// Prints what comes next in a job.
/// @return exit status
int next(const NextRequest& request);

} // namespace pallix::cli
