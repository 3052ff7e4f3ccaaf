// SPDX-License-Identifier: GPL-3.0-or-later
// Whole jobs in the simulated workshop: somebody who only ever does the step that is called, with what the simulated
// machines and gauges give. Every job ends, none is stuck, and the block is good in truth.
#include "block/entries/cylinder_entries.h"
#include "block/entries/lifter_entries.h"
#include "block/entries/route_entries.h"
#include "block/job_file.h"
#include "block/state/bore_state.h"
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/decks/pass_plan.h"
#include "planning/lifters/lifter_plan.h"
#include "planning/tunnel/tunnel_study.h"
#include "simulated_shop.h"
#include "workshop/harbour.h"
#include "workshop/player.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <iostream>
#include <map>

using namespace pallix;
using namespace pallix::test;

namespace {

/// How far the worst cylinder is out of its finished window; 0 and less is good.
double bores_out(const workshop::SimulatedBlock& block, const std::vector<block::Entry>& entries) {
    const block::Folded state = block::fold(entries);
    const planning::Assessment a = planning::assess(state, nullptr, "");
    double out = -1;
    for (const planning::HoneBore& b : a.cylinders->hone.bores)
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"}) {
                const double d = block.truth({b.id, block::Quantity::size, level, way, {}});
                out = std::max({out, b.sizes.finish - d, d - b.sizes.finish_most});
            }
    return out;
}

/// For somebody who wants to look into one.
void keep(const workshop::Played& played, std::size_t number) {
    if (const char* folder = std::getenv("PALLIX_KEEP_JOBS"); folder && *folder)
        std::ofstream(std::filesystem::path(folder) / (std::to_string(number) + ".pallix.json"))
            << block::write_job(played.entries);
}

/// How far the worst lifter bore that was worked on is out of its clearances; 0 and less is good.
double lifters_out(const workshop::SimulatedBlock& block, const std::vector<block::Entry>& entries) {
    const block::Folded state = block::fold(entries);
    const block::LifterPlanChosen plan = planning::lifter_plan_of(state);
    double out = -1;
    for (const block::HoleBlueprint& lifter : block.blueprint().lifters)
        if (!bores_of(state).bore(lifter.id).cuts.empty()) {
            const double d = block.truth({lifter.id, block::Quantity::size, "top", "along", {}}) - *plan.lifter;
            out = std::max({out, *plan.clearance_least - d, d - *plan.clearance_most});
        }
    return out;
}

/// What many jobs came to.
struct Tally {
    std::size_t all = 0, good = 0, signed_for = 0, readings = 0, slips = 0, caught = 0;
    std::array<double, 2> over{}; // mm: decks cut as measured, and as sure as 95 %
    std::array<std::size_t, 2> cut{};
    std::map<std::string, std::size_t> decisions; // by what was decided
};

/// @return whether the block is good in truth
bool look_at(const workshop::SimulatedBlock& block, const workshop::Played& played, const Workshop& works, Tally& t) {
    constexpr double needle = 0.002; // mm: what a gauge of that uncertainty cannot tell
    const double mains = block.mains_out(), bores = bores_out(block, played.entries),
                 lifters = lifters_out(block, played.entries);
    bool fine = mains <= needle && bores <= needle && lifters <= needle;
    double clean = std::numeric_limits<double>::infinity(); // height at which all banks are: they are to be equal
    for (const block::BankBlueprint& bank : block.blueprint().banks)
        if (const auto deck = block.deck(bank.id); deck.taken > 0)
            clean = std::min(clean, deck.low + deck.taken - deck.needed);
    for (const block::BankBlueprint& bank : block.blueprint().banks)
        if (const auto deck = block.deck(bank.id); deck.taken > 0) {
            fine = fine && deck.clean;
            if (works.mock_up || works.habits.straightedge)
                continue; // they go by their clearance, or to where nothing is dark
            const auto how = static_cast<std::size_t>(works.habits.sure);
            t.over.at(how) += clean - deck.low - planning::usual_passes().finish;
            ++t.cut.at(how);
        }
    if (!fine)
        std::cout << "not good: mains " << mains << ", cylinders " << bores << ", lifters " << lifters
                  << " out of their windows\n";
    return fine;
}

} // namespace

TEST(WholeJobs, EndWithAGoodBlock) {
    Tally t;
    for (std::size_t i = 0; i < jobs(8); ++i, ++t.all) {
        workshop::SimulatedBlock block(engine(i), 100 + i);
        const Workshop works = workshop_of(i);
        if (works.habits.sleeves)
            block.wear_out(block.blueprint().bores.back().id, 1.2); // over every size on offer
        const workshop::Played played = workshop::play(block, opening(block.blueprint(), i, works), works.habits, i);
        keep(played, i);
        EXPECT_TRUE(played.ended) << "job " << i << ": " << played.stuck;
        if (!played.ended)
            continue;
        const bool fine = look_at(block, played, works, t);
        if (!fine)
            std::cout << "… that was job " << i << ", signed for by " << played.decisions.size() << "\n";
        t.good += fine ? 1 : 0;
        t.signed_for += played.decisions.empty() ? 0 : 1;
        for (const std::string& decided : played.decisions)
            ++t.decisions[decided.substr(0, decided.find_first_of("./")) + " " +
                          decided.substr(decided.rfind('/') + 1)];
        t.readings += played.readings;
        t.slips += played.slips;
        t.caught += played.caught;
    }
    std::cout << t.all << " jobs, " << t.good << " good in truth, " << t.signed_for
              << " with a decision that was signed for, " << t.readings / t.all << " readings each, " << t.caught
              << " of " << t.slips << " slips asked about, decks cut deeper than clean and finished by";
    for (const std::size_t sure : {0, 1})
        std::cout << (sure == 0 ? " " : " mm as measured, ")
                  << t.over.at(sure) / static_cast<double>(std::max<std::size_t>(t.cut.at(sure), 1));
    std::cout << " mm to be sure\n";
    for (const auto& [decided, times] : t.decisions)
        std::cout << "decided: " << decided << ", " << times << " times\n";
    EXPECT_GE(static_cast<double>(t.good), 0.98 * static_cast<double>(t.all));
}
