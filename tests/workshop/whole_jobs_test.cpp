// SPDX-License-Identifier: GPL-3.0-or-later
// Whole jobs in the simulated workshop: somebody who only ever does the step that is called, with what the simulated
// machines and gauges give. Every job ends, none is stuck, and the block is good in truth.
#include "block/entries/cylinder_entries.h"
#include "block/entries/route_entries.h"
#include "block/job_file.h"
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/decks/pass_plan.h"
#include "planning/tunnel/tunnel_study.h"
#include "workshop/harbour.h"
#include "workshop/player.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <iostream>

using namespace pallix;

namespace {

/// Few in every run of the tests; PALLIX_JOBS says how many in the long one (scripts/whole-jobs).
std::size_t jobs(std::size_t few) {
    const char* many = std::getenv("PALLIX_JOBS");
    return many ? static_cast<std::size_t>(std::atoi(many)) : few;
}

block::Blueprint engine(std::size_t number) {
    return number % 3 == 0   ? workshop::tender_inline_four()
           : number % 3 == 1 ? workshop::workboat_v6()
                             : workshop::ferry_v8();
}

std::vector<block::Payload> opening(const block::Blueprint& b, std::size_t number) {
    using enum block::Stage;
    block::PistonsStated pistons;
    pistons.clearance = 0.05;
    block::CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5, 0.75};
    std::vector<block::Payload> entries{
        block::JobOpened{"job " + std::to_string(number), "", "b.json", write_blueprint(b)},
        block::ScopeChosen{{tunnel, decks, cylinders}, "asked for"}, pistons, plan};
    if (number % 4 == 3) { // every fourth is line bored
        block::TunnelPolicy bar = planning::usual_tunnel_policy();
        bar.method = block::TunnelMethod::bore;
        bar.stock = 0.01; // what gauges cannot tell of line and saddles
        bar.line = block::GivenLine::ends;
        entries.emplace_back(bar);
    }
    return entries;
}

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

} // namespace

TEST(WholeJobs, EndWithAGoodBlock) {
    constexpr double needle = 0.002; // mm: what a gauge of that uncertainty cannot tell
    std::size_t all = 0, good = 0, signed_for = 0, readings = 0, slips = 0, caught = 0;
    std::array<double, 2> over{}; // mm: decks cut as measured, and as sure as 95 %
    std::array<std::size_t, 2> cut{};
    for (std::size_t i = 0; i < jobs(6); ++i, ++all) {
        workshop::SimulatedBlock block(engine(i), 100 + i);
        workshop::PlayerHabits habits;
        habits.sure = i % 2 == 1;
        const workshop::Played played = workshop::play(block, opening(block.blueprint(), i), habits, i);
        keep(played, i);
        ASSERT_TRUE(played.ended) << "job " << i << ": " << played.stuck;
        bool fine = block.mains_out() <= needle && bores_out(block, played.entries) <= needle;
        double clean = std::numeric_limits<double>::infinity(); // height at which all banks are: they are to be equal
        for (const block::BankBlueprint& bank : block.blueprint().banks)
            if (const auto deck = block.deck(bank.id); deck.taken > 0)
                clean = std::min(clean, deck.low + deck.taken - deck.needed);
        for (const block::BankBlueprint& bank : block.blueprint().banks)
            if (const auto deck = block.deck(bank.id); deck.taken > 0) {
                fine = fine && deck.clean;
                over.at(i % 2) += clean - deck.low - planning::usual_passes().finish;
                ++cut.at(i % 2);
            }
        signed_for += played.decisions.empty() ? 0 : 1;
        good += fine ? 1 : 0;
        if (!fine)
            std::cout << "job " << i << ": mains " << block.mains_out() << ", cylinders "
                      << bores_out(block, played.entries) << " out of their windows, signed for by "
                      << played.decisions.size() << "\n";
        readings += played.readings;
        slips += played.slips;
        caught += played.caught;
    }
    std::cout << all << " jobs, " << good << " good in truth, " << signed_for
              << " with a decision that was signed for, " << readings / all << " readings each, " << caught << " of "
              << slips << " slips asked about, decks cut deeper than clean and finished by";
    for (const std::size_t sure : {0, 1})
        std::cout << (sure == 0 ? " " : " mm as measured, ")
                  << over.at(sure) / static_cast<double>(std::max<std::size_t>(cut.at(sure), 1));
    std::cout << " mm to be sure\n";
    EXPECT_GE(static_cast<double>(good), 0.98 * static_cast<double>(all));
}
