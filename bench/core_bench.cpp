// SPDX-License-Identifier: GPL-3.0-or-later
// Speed of the core. Each run also measures a plain loop over the same points, so that figures are ratios in one run.
#include "block/evaluation_uncertainty.h"
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "metrology/minimum_zone.h"
#include "metrology/monte_carlo.h"
#include "metrology/plane_fit.h"
#include "planning/common/assessment.h"
#include "planning/cylinders/texture.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_map.h"
#include "planning/decks/deck_shape.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/tunnel_plan.h"
#include "planning/tunnel/tunnel_study.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <benchmark/benchmark.h>
#include <cmath>
#include <random>

using namespace pallix;

namespace {

/// A 90° V8 that exists nowhere, with every feature the log format knows.
block::Blueprint v8() {
    block::Blueprint b = workshop::workboat_v6();
    const auto tolerance = [](double nominal) { return block::Tolerance{nominal, 0, 0.02}; };
    b.mains.clear();
    b.cam->bearings.clear();
    b.bores.clear();
    b.lifters.clear();
    for (int i = 0; i < 5; ++i) {
        b.mains.push_back({{block::FeatureKind::main, "", i + 1}, 14.0 + 112 * i, tolerance(74)});
        b.cam->bearings.push_back({{block::FeatureKind::cam, "", i + 1}, 14.0 + 112 * i, tolerance(52)});
    }
    for (auto& bank : b.banks) {
        bank.angle = bank.angle > 0 ? 0.7853981633974483 : -0.7853981633974483;
        bank.deck_outline = {{-20, -80}, {480, -80}, {480, 80}, {-20, 80}};
        for (int i = 0; i < 4; ++i)
            b.bores.push_back(
                {{block::FeatureKind::bore, bank.id, i + 1}, i + 1, {}, 70.0 + 112 * i, 0, tolerance(100)});
        const double angle = bank.angle * 0.9, v = -b.cam->z * std::sin(angle);
        for (int i = 0; i < 8; ++i)
            b.lifters.push_back(
                {{block::FeatureKind::lifter, bank.id, i + 1}, {}, angle, 50.0 + 56 * i, v, tolerance(22)});
    }
    return b;
}

workshop::PracticeBlock practice(const block::Blueprint& blueprint) {
    workshop::PracticeBlock p{blueprint, {}, 0.01, 0.005, 0};
    for (const auto& bank : blueprint.banks) {
        p.decks[bank.id].offset = 0.1;
        p.decks[bank.id].twist = 0.03;
        p.decks[bank.id].crown = 0.02;
    }
    return p;
}

/// A log of about a thousand touches.
std::vector<block::NamedText> v8_log() {
    return {{"v8.csv", workshop::probe(practice(v8()), {.seed = 8,
                                                        .noise = 0.002,
                                                        .tip_radius = 1.5,
                                                        .rolled = true,
                                                        .points_along = 18,
                                                        .points_across = 9,
                                                        .holes = true})}};
}

std::vector<metrology::Vec3> scan(std::size_t count) {
    std::mt19937_64 bits(3);
    std::uniform_real_distribution<double> u(0, 480), v(-80, 80);
    std::normal_distribution<double> h(0, 0.004);
    std::vector<metrology::Vec3> points;
    for (std::size_t i = 0; i < count; ++i) {
        const double x = u(bits), y = v(bits);
        points.push_back({x, y, 241 + 1e-4 * x - 2e-4 * y + h(bits)});
    }
    return points;
}

/// The same points as a whole log would bring them, in the machine frame.
block::ProbeSet scanned_block(std::size_t count) {
    const block::Blueprint b = workshop::tender_inline_four();
    const std::vector<block::NamedText> logs{{"i4.csv", workshop::probe(
                                                            [&] {
                                                                workshop::PracticeBlock p{b, {}, 0, 0, 0};
                                                                p.decks["C"].offset = 0.1;
                                                                return p;
                                                            }(),
                                                            {.seed = 4})}};
    block::ProbeSet set = *block::read_probe_logs(logs, b);
    for (block::Section& s : set.sections)
        if (s.feature.kind == block::FeatureKind::deck) {
            s.touches.clear();
            for (const metrology::Vec3 p : scan(count))
                s.touches.push_back({{p.x, p.y, p.z - 30}, 0});
        }
    return set;
}

void PlainLoopOverHundredThousandPoints(benchmark::State& state) {
    const auto points = scan(100000);
    for (auto _ : state) {
        double sum = 0;
        for (const auto& p : points)
            sum += metrology::dot(p, {0.1, 0.2, 0.97});
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(PlainLoopOverHundredThousandPoints)->Unit(benchmark::kMillisecond);

void EvaluateDeckScan(benchmark::State& state) {
    const block::Blueprint b = workshop::tender_inline_four();
    const block::ProbeSet set = scanned_block(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state) {
        auto e = block::evaluate(b, set);
        if (!e)
            state.SkipWithError(e.error().front().text().c_str());
        benchmark::DoNotOptimize(e);
    }
}
BENCHMARK(EvaluateDeckScan)->Arg(1000)->Arg(100000)->Arg(1000000)->Unit(benchmark::kMillisecond);

void FlatnessZoneOfScan(benchmark::State& state) {
    const auto points = scan(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(metrology::flatness_zone(points));
}
BENCHMARK(FlatnessZoneOfScan)->Arg(100000)->Arg(1000000)->Unit(benchmark::kMillisecond);

void ReadV8Log(benchmark::State& state) {
    const block::Blueprint b = v8();
    const auto logs = v8_log();
    std::size_t touches = 0;
    for (auto _ : state) {
        const auto set = block::read_probe_logs(logs, b);
        touches = set->logs.front().touches;
    }
    state.counters["touches"] = static_cast<double>(touches);
}
BENCHMARK(ReadV8Log)->Unit(benchmark::kMillisecond);

void EvaluateV8Log(benchmark::State& state) {
    const block::Blueprint b = v8();
    const auto logs = v8_log();
    const auto set = block::read_probe_logs(logs, b);
    for (auto _ : state)
        benchmark::DoNotOptimize(block::evaluate(b, *set));
}
BENCHMARK(EvaluateV8Log)->Unit(benchmark::kMillisecond);

/// Seven mains of about sixty points, worn and out of line: the honing plan with all its objectives.
std::vector<planning::Housing> seven_mains() {
    std::mt19937 bits(7);
    std::normal_distribution<double> off(0, 0.01), touch(0, 0.001);
    std::vector<planning::Housing> mains;
    for (int i = 0; i < 7; ++i) {
        planning::Housing h{{block::FeatureKind::main, "", i + 1}, {}, 74.012, 0};
        const double y = off(bits), z = off(bits);
        for (int k = 0; k < 58; ++k) {
            const double a = 6.283185307179586 * (k + 0.3) / 58, r = 37.004 + touch(bits);
            h.points.push_back({110.0 * i, y + r * std::sin(a), z + r * std::cos(a)});
        }
        mains.push_back(std::move(h));
    }
    return mains;
}

void PlanASevenMainTunnel(benchmark::State& state) {
    const auto mains = seven_mains();
    planning::TunnelPolicy policy;
    policy.parting = 0.2;
    for (auto _ : state) {
        const auto plan = planning::plan_tunnel(mains, policy);
        if (!plan.feasible)
            state.SkipWithError("no plan");
        benchmark::DoNotOptimize(plan);
    }
}
BENCHMARK(PlanASevenMainTunnel)->Unit(benchmark::kMillisecond);

/// In the window's time, once the plan's page is opened: what is sure of it, from 300 drawn tunnels.
void ExplainATunnel(benchmark::State& state) {
    const block::Folded job = block::fold(workshop::harbour_jobs().front().entries);
    const auto study = planning::study_tunnel(job);
    if (!study)
        return state.SkipWithError("no tunnel");
    for (auto _ : state) {
        planning::TunnelStudy known = *study;
        planning::explain(known, planning::draw_housings(job, known));
        benchmark::DoNotOptimize(known);
    }
}
BENCHMARK(ExplainATunnel)->Unit(benchmark::kMillisecond);

void PropagateV8Uncertainties(benchmark::State& state) {
    const block::Blueprint b = v8();
    const auto set = block::read_probe_logs(v8_log(), b);
    for (auto _ : state)
        benchmark::DoNotOptimize(block::propagate(b, *set, 0.002));
}
BENCHMARK(PropagateV8Uncertainties)->Unit(benchmark::kMillisecond);

/// On so many threads; the wall clock counts.
void DrawV8Uncertainties(benchmark::State& state) {
    const block::Blueprint b = v8();
    const auto set = block::read_probe_logs(v8_log(), b);
    metrology::MonteCarloRun run;
    run.threads = static_cast<unsigned>(state.range(0));
    for (auto _ : state)
        benchmark::DoNotOptimize(block::uncertainties_of(b, *set, {0.002, true}, run));
}
BENCHMARK(DrawV8Uncertainties)->Arg(1)->Arg(2)->UseRealTime()->Unit(benchmark::kMillisecond);

void ReadAndEvaluateV8Log(benchmark::State& state) {
    const block::Blueprint b = v8();
    const auto logs = v8_log();
    for (auto _ : state) {
        const auto set = block::read_probe_logs(logs, b);
        benchmark::DoNotOptimize(block::evaluate(b, *set));
    }
}
BENCHMARK(ReadAndEvaluateV8Log)->Unit(benchmark::kMillisecond);

void DeckMapOfFiftyTouches(benchmark::State& state) {
    const block::Blueprint b = workshop::workboat_v6();
    auto points = scan(50);
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::DeckMap(b, b.banks[0], points, 0.65));
}
BENCHMARK(DeckMapOfFiftyTouches)->Unit(benchmark::kMillisecond);

void DeckMapOfAScan(benchmark::State& state) {
    const block::Blueprint b = workshop::workboat_v6();
    auto points = scan(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::DeckMap(b, b.banks[0], points, 0.65));
}
BENCHMARK(DeckMapOfAScan)->Arg(1000000)->Unit(benchmark::kMillisecond);

void LocalFlatnessOfAScan(benchmark::State& state) {
    const auto points = scan(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::local_flatness(points));
}
BENCHMARK(LocalFlatnessOfAScan)->Arg(100)->Arg(1000000)->Unit(benchmark::kMillisecond);

/// What is asked of a deck of about so many touches, low at one corner, after a pass to a third of what must come off.
metrology::SurfaceQuestion painted_deck(int touches) {
    const block::Blueprint b = workshop::tender_inline_four();
    const block::BankBlueprint& bank = b.banks.front();
    const planning::DeckExtent e = planning::deck_extent(bank);
    std::mt19937 dice(5);
    std::normal_distribution noise(0.0, 0.001);
    const auto form = [&](metrology::Vec2 p) {
        return 0.01 * std::sin(p.x / 90) - 0.03 * std::max(0.0, 1 - norm(p - e.low) / 100);
    };
    const int across = std::max(2, static_cast<int>(std::lround(std::sqrt(touches / 2.0)))), along = touches / across;
    std::vector<metrology::Vec3> touched;
    block::DeckCut cut{bank.id, block::PassKind::pass, 0.012, false, {}, 8, true};
    for (int i = 0; i < along; ++i)
        for (int k = 0; k < across; ++k) {
            const metrology::Vec2 p{e.low.x + e.length() * (i + 0.5) / along, e.low.y + e.width() * (k + 0.5) / across};
            touched.push_back({p.x, p.y, bank.deck_height.nominal + form(p) + noise(dice)});
            if (form(p) < -0.002)
                cut.dark.push_back(p);
        }
    cut.rest_bright = true;
    block::Folded state;
    intake_of(state).blueprint = b;
    block::DeckState& deck = decks_of(state).decks[bank.id];
    deck.latest = block::DeckMeasurement{block::DeckSource::probe, 2, 0.001, *block::evaluate_deck(bank, touched), {}};
    deck.as_found = deck.latest;
    deck.cuts.push_back({3, "", "", cut});
    return planning::ask_about_deck(state, bank.id)->surface;
}

/// Away from the window: what is believed of it.
void BelieveAPaintedDeck(benchmark::State& state) {
    const metrology::SurfaceQuestion question = painted_deck(static_cast<int>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(metrology::believe(question));
}
BENCHMARK(BelieveAPaintedDeck)->Args({50})->Args({600})->Unit(benchmark::kMillisecond);

/// Away from the window: what is believed of a deck after two painted passes.
void BelieveADeck(benchmark::State& state) {
    const auto jobs = workshop::harbour_jobs();
    const auto question = planning::ask_about_deck(block::fold(jobs[1].entries), "L");
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::answer(*question));
}
BENCHMARK(BelieveADeck)->Unit(benchmark::kMillisecond);

void FoldAndAssessADemoJob(benchmark::State& state) {
    const auto jobs = workshop::harbour_jobs();
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::assess(block::fold(jobs[2].entries)));
}
BENCHMARK(FoldAndAssessADemoJob)->Unit(benchmark::kMillisecond);

/// The ferry: eight cylinders and sixteen lifters probed, half a hundred entries of work on them.
const std::vector<block::Entry>& ferry_entries() {
    static const std::vector<block::Entry> entries = workshop::harbour_jobs().at(5).entries;
    return entries;
}

void FoldAndAssessTheFerry(benchmark::State& state) {
    block::ReadLogs logs; // read once, as in an open job
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::assess(block::fold(ferry_entries(), &logs)));
}
BENCHMARK(FoldAndAssessTheFerry)->Unit(benchmark::kMillisecond);

/// A job of so many entries: the ferry's, and readings of its cylinders again and again.
void WhatComesNextInALongJob(benchmark::State& state) {
    std::vector<block::Entry> entries = ferry_entries();
    std::vector<block::Entry> readings;
    std::ranges::copy_if(entries, std::back_inserter(readings),
                         [](const block::Entry& e) { return std::holds_alternative<block::Reading>(e.payload); });
    for (std::size_t i = 0; static_cast<std::int64_t>(entries.size()) < state.range(0); ++i) {
        entries.push_back(readings[i % readings.size()]);
        entries.back().sequence = static_cast<std::int64_t>(entries.size());
    }
    block::ReadLogs logs; // read once, as in an open job
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::assess(block::fold(entries, &logs), nullptr, "2026-03-06T12:00:00Z"));
}
BENCHMARK(WhatComesNextInALongJob)->Arg(100)->Arg(5000)->Unit(benchmark::kMillisecond);

/// The list alone, of a job that is folded and assessed.
void ListTheStepsOfTheFerry(benchmark::State& state) {
    const block::Folded job = block::fold(ferry_entries());
    const planning::Assessment a = planning::assess(job);
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::steps_of(job, a, "2026-03-06T12:00:00Z"));
}
BENCHMARK(ListTheStepsOfTheFerry)->Unit(benchmark::kMillisecond);

void PlanTheFerrysCylinders(benchmark::State& state) {
    const block::Folded job = block::fold(ferry_entries());
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::cylinder_work(job, {}));
}
BENCHMARK(PlanTheFerrysCylinders)->Unit(benchmark::kMillisecond);

void PlanTheFerrysLifters(benchmark::State& state) {
    const block::Folded job = block::fold(ferry_entries());
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::lifter_work(job));
}
BENCHMARK(PlanTheFerrysLifters)->Unit(benchmark::kMillisecond);

void JudgeTheTextureOfATrace(benchmark::State& state) { // 5,601 points
    const workshop::DemoFile file = workshop::harbour_trace();
    const auto trace = block::read_trace({file.name, file.text});
    for (auto _ : state)
        benchmark::DoNotOptimize(planning::judge_texture({*trace}, {}));
}
BENCHMARK(JudgeTheTextureOfATrace)->Unit(benchmark::kMillisecond);

} // namespace
