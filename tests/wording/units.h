// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "wording/common/lengths.h"

namespace pallix::test {

inline const wording::LengthText mm(block::Unit::mm), inch(block::Unit::inch);

} // namespace pallix::test
