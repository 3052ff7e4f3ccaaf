// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace pallix::planning {

/// The route: where a job's work can stand.
enum class Stage { received, as_found, tunnel, decks, cylinders, lifters, passport };
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
