// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"

namespace pallix::planning {

/// Thrown where an answer cannot be taken; `answer` hands the fault on.
struct Refused {
    block::Fault fault;
};

} // namespace pallix::planning
