// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/shop_book.h"

namespace pallix::session {

/// Writes the harbour workshop's jobs into an empty book.
[[nodiscard]] storage::BookResult<void> fill_with_demo(storage::ShopBook& book);

} // namespace pallix::session
