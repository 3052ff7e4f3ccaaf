// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>

namespace pallix::block {

/// An entry, with its place in the ledger.
template <class Payload>
struct Taken {
    std::int64_t sequence = 0;
    Payload payload;
};

} // namespace pallix::block
