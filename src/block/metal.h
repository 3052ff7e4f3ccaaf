// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"

namespace pallix::block {

/// Whether an entry says that metal came off, or that something was pressed in.
[[nodiscard]] bool takes_metal(const Payload& payload);

} // namespace pallix::block
