// SPDX-License-Identifier: GPL-3.0-or-later
// From every state there is a way on: over all prefixes of all ledgers in the tree, and over random walks that answer
// whatever is ready with believable and unbelievable values.
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/common/entry_rules.h"
#include "planning/readings/reading_plan.h"
#include "planning/row_block.h"
#include "planning/steps/answer.h"
#include "reference_data.h"
#include "sanitized.h"

#include <algorithm>
#include <filesystem>
#include <gtest/gtest.h>
#include <random>
#include <set>

namespace pallix::planning {
namespace {

using block::Rule;

constexpr const char* noon = "2026-03-02T12:00:00Z";

/// What must hold of every list.
void expect_a_way_on(const Assessment& a, const std::string& where) {
    std::set<std::string> ids;
    std::size_t called = 0;
    bool waits_for_something = false;
    for (const Step& step : a.steps.steps) {
        ASSERT_TRUE(ids.insert(step.id).second) << where << ": " << step.id << " stands twice";
        called += step.state == StepState::now ? 1 : 0;
        ASSERT_LE(step.asks.size(), 3U) << where << ": " << step.id;
        ASSERT_TRUE(step.state != StepState::waits || !step.waits_for.empty())
            << where << ": " << step.id << " waits for nothing";
        for (const Wait& wait : step.waits_for) {
            const bool named = a.steps.find(wait.step) || !wait.until.empty() || !wait.part.empty();
            ASSERT_TRUE(named) << where << ": " << step.id << " waits for " << wait.step << ", which is not there";
            waits_for_something = waits_for_something || !wait.until.empty() || !wait.part.empty();
        }
    }
    ASSERT_LE(called, 1U) << where;
    std::string open;
    for (const Step& step : a.steps.steps)
        if (step.state == StepState::waits || step.state == StepState::ready)
            open += "\n  " + step.id + " " +
                    (step.waits_for.empty() ? "is ready" : "waits for " + step.waits_for.front().step);
    ASSERT_TRUE(called == 1 || waits_for_something) << where << ": a dead end" << open;
}

/// Metal is called for on enough: by what the parts themselves know, not by the list.
void expect_enough_for_metal(const block::JobState& state, const Assessment& a, const std::string& where) {
    const Step* now = a.steps.now();
    if (!now || !now->cannot_be_undone)
        return;
    const bool answered_for = !intake_of(state).gates.empty() || intake_of(state).scope;
    if (now->stage == block::Stage::tunnel) {
        const TunnelWork& w = a.tunnel_work;
        ASSERT_TRUE(w.to_read.empty()) << where << ": " << now->id << " with readings missing";
        ASSERT_NE(readings_of(state).conditions.caps_torqued, std::optional(false))
            << where << ": " << now->id << " with caps off";
        for (const StockLeft& s : w.board)
            ASSERT_TRUE(now->task != Task::hone_tunnel || s.stale || s.to_largest >= 0)
                << where << ": honed past its window";
    } else if (!answered_for) {
        ASSERT_EQ(a.tunnel_work.step, TunnelStep::good) << where << ": " << now->id << " from a tunnel that is not";
    }
    for (const block::KnownFlaw& flaw : decks_of(state).flaws)
        ASSERT_TRUE(now->task != Task::cut_deck || flaw.decided || flaw.flaw.bank != now->about->bank || answered_for)
            << where;
}

class Walk {
  public:
    explicit Walk(unsigned seed) : random_(seed) {
        add(block::JobOpened{"walk", "", "b.json", test::row_blueprint(seed % 3 == 0 ? "aluminium" : "grey_iron")});
        if (seed % 5 == 0)
            add(block::ScopeChosen{{block::Stage::cylinders}, "the rest is good"});
        if (seed % 7 == 0)
            add(block::RouteChosen{block::RoutePreset::least_metal, {}});
        if (seed % 11 == 0)
            add(block::AtBench{"Mira", block::Role::learner});
        if (seed % 13 == 0)
            add(block::PartNoted{"gaskets", false, "", "", block::Stage::decks});
    }

    void step(const std::string& where) {
        const block::Folded state = block::fold(entries_);
        ASSERT_TRUE(intake_of(state).troubles.empty()) << where << ": " << intake_of(state).troubles.front().words;
        const Assessment a = assess(state, nullptr, time());
        expect_a_way_on(a, where);
        expect_enough_for_metal(state, a, where);
        if (testing::Test::HasFatalFailure())
            return;
        const Step* chosen = a.steps.now();
        if (one_in(4)) { // not what is called, but something that is ready
            std::vector<const Step*> ready;
            for (const Step& s : a.steps.steps)
                if (s.state == StepState::ready)
                    ready.push_back(&s);
            if (!ready.empty())
                chosen = ready[random_() % ready.size()];
        }
        if (!chosen) {
            minutes_ += 30; // what rests has rested
            return;
        }
        for (block::Payload& payload : answered(state, a, *chosen)) {
            if (!block::faults_in(payload).empty() || fault_now(state, a, payload))
                continue; // refused at the door
            add(std::move(payload));
        }
    }

  private:
    bool one_in(unsigned n) { return random_() % n == 0; }
    double spread(double width) { return std::uniform_real_distribution<double>(-width, width)(random_); }

    std::string time() const {
        const int hour = 9 + minutes_ / 60 % 14, day = 2 + minutes_ / (60 * 14);
        std::array<char, 40> text{};
        std::snprintf(text.data(), text.size(), "2026-03-%02dT%02d:%02d:00Z", day % 28 + 1, hour, minutes_ % 60);
        return text.data();
    }
    void add(block::Payload payload) {
        minutes_ += 1;
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), time(), "", std::move(payload)});
    }

    /// Near what is expected, now and then far off, unsure or with the caps off.
    block::Payload reading(const block::JobState& state, const block::MeasuredAt& at) {
        double expected = 0;
        if (const auto* hole = intake_of(state).blueprint->hole(at.feature))
            expected = hole->diameter.nominal + 0.01;
        for (const auto& main : intake_of(state).blueprint->mains)
            if (main.id == at.feature)
                expected = main.diameter.nominal + 0.01;
        if (const auto& work = bores_of(state).bore(at.feature); !work.cuts.empty() && work.cuts.back().payload.target)
            expected = *work.cuts.back().payload.target;
        if (at.quantity == block::Quantity::height)
            expected = 200;
        if (at.quantity == block::Quantity::saddle || at.quantity == block::Quantity::sweep ||
            at.quantity == block::Quantity::piston)
            expected = 0;
        block::Reading r =
            test::size_reading(at.feature.text(), at.level, at.direction, expected + spread(one_in(6) ? 0.2 : 0.006),
                               one_in(9) ? std::nullopt : std::optional(0.0005));
        r.at = at;
        return r;
    }

    std::vector<block::Payload> answered(const block::JobState& state, const Assessment& a, const Step& step) {
        if (step.place)
            return {reading(state, *step.place)};
        Answers answers = proposed(step);
        for (const Ask& ask : step.asks) {
            if (ask.kind == AskKind::text)
                answers[ask.key] = std::string("because");
            else if (ask.kind == AskKind::choice && !ask.choices.empty())
                answers[ask.key] = ask.choices[random_() % ask.choices.size()];
            else if (!ask.proposed && ask.kind == AskKind::length)
                answers[ask.key] = one_in(5) ? spread(1e9) : 80.45 + spread(0.1);
            else if (!ask.proposed && ask.kind == AskKind::count)
                answers[ask.key] = one_in(5) ? -1.0 : 20.0;
        }
        auto entries = answer(state, a, step, answers, time());
        if (entries && step.task != Task::hand_over) // which would end the walk: it goes on with what could be done yet
            return *entries;
        // A file, or a page of figures: the walk goes round it as a person would who has neither.
        return {block::GatePassed{Rule::tunnel_first, "", "walked on"}, block::StepSkipped{step.id, "not here"}};
    }

    std::mt19937 random_;
    std::vector<block::Entry> entries_;
    int minutes_ = 0;
};

} // namespace

TEST(Walks, EveryPrefixOfEveryLedgerHasAWayOn) {
    int looked = 0;
    for (const auto& file : std::filesystem::directory_iterator(std::string(PALLIX_TEST_DATA) + "/jobs")) {
        const auto entries = block::read_job(test::read_file(file.path().string()), file.path().filename().string());
        ASSERT_TRUE(entries);
        block::ReadLogs logs;
        for (std::size_t n = 1; n <= entries->size(); ++n, ++looked) {
            const block::Folded state =
                block::fold({entries->begin(), entries->begin() + static_cast<std::ptrdiff_t>(n)}, &logs);
            const Assessment a = assess(state, nullptr, noon);
            const std::string where = file.path().filename().string() + " " + std::to_string(n);
            expect_a_way_on(a, where);
            expect_enough_for_metal(state, a, where);
            if (HasFatalFailure())
                return;
        }
    }
    EXPECT_GT(looked, 150);
}

TEST(Walks, TwoThousandWalksEndNowhere) {
    constexpr unsigned walks = test::sanitized ? 100 : 2000;
    constexpr int steps = 10, far = 80; // most look at the beginning, one in twenty goes far
    for (unsigned seed = 1; seed <= walks && !HasFatalFailure(); ++seed) {
        Walk walk(seed);
        for (int i = 0; i < (seed % 20 == 0 ? far : steps) && !HasFatalFailure(); ++i)
            walk.step("walk " + std::to_string(seed) + ", step " + std::to_string(i));
    }
}

} // namespace pallix::planning
