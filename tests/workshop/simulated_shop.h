// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/entries/lifter_entries.h"
#include "block/entries/route_entries.h"
#include "block/ledger.h"
#include "planning/tunnel/tunnel_study.h"
#include "sanitized.h"
#include "workshop/harbour.h"
#include "workshop/player.h"

#include <cstdlib>
#include <string>
#include <vector>

// Jobs as a simulated shop has them: engines in turn, each worked on in its own way.
namespace pallix::test {

inline constexpr double clearance_wanted = 0.2; // mm, piston below the deck, where the decks go by it

/// Few in every run of the tests; PALLIX_JOBS says how many in the long one (scripts/whole-jobs).
inline std::size_t jobs(std::size_t few) {
    const char* many = std::getenv("PALLIX_JOBS");
    return many ? static_cast<std::size_t>(std::atoi(many)) : sanitized ? (few + 1) / 2 : few;
}

inline block::Blueprint engine(std::size_t number) {
    return number % 3 == 0   ? workshop::tender_inline_four()
           : number % 3 == 1 ? workshop::workboat_v6()
                             : workshop::ferry_v8();
}

/// How the shop works that the job is done in, and what is wanted of it.
struct Workshop {
    workshop::PlayerHabits habits;
    bool bar = false, lifters = false, mock_up = false;
};
inline Workshop workshop_of(std::size_t number) {
    Workshop s;
    s.habits.sure = number % 2 == 1;
    s.habits.probe = number % 8 == 4;
    s.habits.straightedge = number % 8 == 5;
    s.habits.sleeves = number % 8 >= 6;
    s.bar = number % 4 == 3;
    s.lifters = number % 5 == 2 || number % 16 == 4;
    s.mock_up = number % 7 == 3;
    return s;
}

inline std::vector<block::Payload> opening(const block::Blueprint& b, std::size_t number, const Workshop& shop) {
    using enum block::Stage;
    block::PistonsStated pistons;
    pistons.clearance = 0.05;
    block::CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5, 0.75};
    std::vector<block::Stage> scope{tunnel, decks, cylinders};
    if (shop.lifters)
        scope.push_back(lifters);
    if (shop.mock_up)
        scope.push_back(mock_up);
    std::vector<block::Payload> entries{
        block::JobOpened{"job " + std::to_string(number), "", "b.json", write_blueprint(b)},
        block::ScopeChosen{scope, "asked for"}, pistons, plan};
    if (shop.bar) {
        block::TunnelPolicy bar = planning::usual_tunnel_policy();
        bar.method = block::TunnelMethod::bore;
        bar.stock = 0.01; // what gauges cannot tell of line and saddles
        bar.line = block::GivenLine::ends;
        entries.emplace_back(bar);
    }
    if (shop.lifters && !b.lifters.empty()) {
        block::LifterPlanChosen l;
        l.lifter = b.lifters.front().diameter.nominal - 0.02;
        l.clearance_least = 0.025;
        l.clearance_most = 0.05;
        l.bush_outside = *l.lifter + 3.5;
        l.interference = 0.038;
        entries.emplace_back(l);
    }
    if (shop.mock_up) {
        block::DeckTargetChosen target;
        target.school = block::TargetSchool::clearance;
        target.clearance = clearance_wanted;
        entries.emplace_back(target);
    }
    return entries;
}

} // namespace pallix::test
