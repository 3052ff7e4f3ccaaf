// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/tunnel/tunnel_study.h"
#include "session/background.h"
#include "session/belief_work.h"
#include "session/certainty_work.h"
#include "session/session.h"

#include <map>
#include <memory>
#include <optional>
#include <string>

namespace pallix::session {

struct Session::Worked {
    block::Folded state;
    planning::Assessment assessment;
    std::shared_ptr<const planning::TunnelStudy> tunnel_study;                        ///< when it was asked for
    std::map<std::string, std::optional<planning::LocalFlatness>> local_flatness;     ///< by bank, likewise
    std::map<std::string, std::shared_ptr<const planning::DeckBelief>> beliefs_known; ///< by bank, with contradictions
    BeliefWork beliefs;
    CertaintyWork certainty;
    Background<storage::BookResult<storage::Written>> writing; ///< of entries that take long
};

[[nodiscard]] inline block::Faults one_fault(std::string what, std::string expected) {
    return {{"job", 0, std::move(what), std::move(expected)}};
}

} // namespace pallix::session
