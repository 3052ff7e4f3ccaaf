// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/shop_book.h"

#include <string>

namespace pallix::session {

/// Writes the harbour workshop's jobs and people into an empty book.
/// @param today UTC, ISO 8601: as if it were that day's; empty: the harbour's own
[[nodiscard]] storage::BookResult<void> fill_with_demo(storage::ShopBook& book, const std::string& today = {});

/// Engines that were delivered before: what the shop remembers of their kind.
[[nodiscard]] storage::BookResult<void> fill_with_past(storage::ShopBook& book, const std::string& today = {});

} // namespace pallix::session
