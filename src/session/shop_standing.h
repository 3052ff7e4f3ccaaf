// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"

#include <QString>

namespace pallix::session {

/// A row as the book remembers it, and back. What is remembered can be thrown away at any time.
[[nodiscard]] QString remembered(const ShopModel::Row& row);
[[nodiscard]] ShopModel::Row recalled(const storage::JobRow& job);

} // namespace pallix::session
