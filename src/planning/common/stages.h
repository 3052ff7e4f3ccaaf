// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"

namespace pallix::planning {

using block::Stage;

enum class StageMark {
    open,    ///< nothing done yet
    current, ///< where the work is
    done,    ///< nothing to judge, done
    meets,
    cannot_tell,
    fails,
    stale, ///< cut since it was measured
};

struct StageState {
    Stage stage{};
    StageMark mark{};
};

} // namespace pallix::planning
