// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"

namespace pallix::test {

/// One of every kind of entry that files know, each with every field away from its default; a kind that is missing here
/// does not compile.
[[nodiscard]] std::vector<block::Payload> one_of_each();

} // namespace pallix::test
