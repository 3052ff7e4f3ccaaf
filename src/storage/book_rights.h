// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/shop_rights.h"
#include "storage/book_fault.h"

#include <functional>

namespace pallix::storage {

/// Asked before something of the shop's own is changed. @return refused where whoever is at the bench may not
using Permit = std::function<BookResult<void>(block::ShopWork)>;

/// Of who works with no bench: a book that is copied, one that is brought forward.
[[nodiscard]] inline Permit anything() {
    return [](block::ShopWork) { return BookResult<void>(); };
}

} // namespace pallix::storage
