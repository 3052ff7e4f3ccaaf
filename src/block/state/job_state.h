// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"

namespace pallix::block {

/// Everything the ledger says of a job: a fold over its entries. Struck entries have no part in it.
struct JobState : IntakeState, CardState, ReadingsState, TunnelState, DecksState, BoresState {
    // Compiled once: what it holds is too much to copy in every file that does.
    JobState();
    ~JobState();
    JobState(const JobState&);
    JobState(JobState&&) noexcept;
    JobState& operator=(const JobState&);
    JobState& operator=(JobState&&) noexcept;
};

} // namespace pallix::block
