// SPDX-License-Identifier: GPL-3.0-or-later
// A job's blueprint amended: everything worked out anew from the touches and readings as they were taken.
#include "block/digest.h"
#include "block/evaluation_uncertainty.h"
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/read_logs.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/entry_rules.h"
#include "wording/common/blueprint_words.h"
#include "wording/steps/step_words.h"
#include "workshop/harbour.h"

#include "block/small_block.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using testing::HasSubstr;

namespace {

constexpr const char* amended_at = "2026-03-09T12:00:00Z";

void add(std::vector<Entry>& entries, Payload payload) {
    entries.push_back({static_cast<std::int64_t>(entries.size() + 1), amended_at, "Marit", std::move(payload)});
}

/// All that a job says of its block: numbers to their last digit, every step, every mark.
std::string all_of(const std::vector<Entry>& entries, ReadLogs* logs = nullptr) {
    const Folded state = fold(entries, logs);
    const planning::Assessment a = planning::assess(state, nullptr, amended_at);
    std::string text;
    for (const Trouble& t : intake_of(state).troubles)
        text += "trouble: " + t.words + "\n";
    if (tunnel_of(state).latest)
        text += evaluation_json(tunnel_of(state).latest->evaluation, Unit::mm, nullptr);
    for (const planning::StageState& stage : a.stages)
        text += std::to_string(static_cast<int>(stage.mark)) + " ";
    for (const planning::Step& step : a.steps.steps)
        text += step.id + " " + std::to_string(static_cast<int>(step.state)) + " " +
                wording::step_headline(state, step, wording::LengthText(Unit::mm)) + "\n";
    return text;
}

BlueprintAmended amended(const Blueprint& blueprint, const char* reason = "the sheet was misread") {
    return {"amended.json", write_blueprint(blueprint), reason};
}

} // namespace

TEST(Amending, ThereAndBackIsTheSameToTheLastDigit) {
    int changed = 0;
    for (const workshop::DemoJob& job : workshop::harbour_jobs()) {
        std::vector<Entry> entries = job.entries;
        const std::string before = all_of(entries);
        const Blueprint as_it_was = *intake_of(fold(entries)).blueprint;
        Blueprint other = as_it_was;
        for (MainBlueprint& main : other.mains)
            main.diameter.nominal += 0.02;
        for (HoleBlueprint& bore : other.bores)
            bore.v += 0.05;
        ReadLogs logs; // as the window keeps them
        EXPECT_EQ(all_of(entries, &logs), before);
        add(entries, amended(other));
        const std::string meanwhile = all_of(entries, &logs);
        changed += meanwhile != before ? 1 : 0;
        EXPECT_EQ(meanwhile, all_of(entries)) << "what was read before is not taken for what is";
        std::vector<Entry> struck = entries;
        add(struck, Strike{entries.back().sequence, "as it was"});
        EXPECT_EQ(all_of(struck, &logs), before);
        add(entries, amended(as_it_was));
        EXPECT_EQ(all_of(entries, &logs), before);
        EXPECT_EQ(intake_of(fold(entries)).amendments.size(), 2U);
        // And through a file.
        const auto again = read_job(write_job(entries), "job.json");
        ASSERT_TRUE(again) << again.error().front().text();
        EXPECT_EQ(all_of(*again), before);
    }
    EXPECT_GE(changed, 5) << "of seven";
}

// Mains of 60.010 in a window that was misread as 60.000 to 60.005: too large, until the sheet is read again.
TEST(Amending, WorksEverythingOutAnewFromWhatWasRead) {
    Blueprint misread = *read_blueprint(test::small_blueprint(), "b.json");
    for (MainBlueprint& main : misread.mains)
        main.diameter.upper = 0.005;
    std::vector<Entry> entries;
    add(entries, JobOpened{"small", "", "b.json", write_blueprint(misread)});
    add(entries, StepDone{"washed"});
    add(entries, StepDone{"inspected for cracks"});
    const std::string log = test::small_log(200.03).text();
    add(entries, ProbeLogTaken{"log.csv", sha256_hex(log), log, 0.0005, false});
    const Folded before = fold(entries);
    const planning::Assessment was = planning::assess(before, nullptr, amended_at);
    EXPECT_EQ(was.stages[static_cast<std::size_t>(Stage::tunnel)].mark, planning::StageMark::fails);
    add(entries, amended(*read_blueprint(test::small_blueprint(), "b.json")));
    const Folded after = fold(entries);
    const planning::Assessment is = planning::assess(after, nullptr, amended_at);
    EXPECT_EQ(is.stages[static_cast<std::size_t>(Stage::tunnel)].mark, planning::StageMark::meets);
    std::string said;
    const wording::LengthText mm(Unit::mm);
    for (const std::string& line : wording::blueprint_changes(misread, *intake_of(after).blueprint, mm))
        said += line + "\n";
    for (const std::string& line : wording::amendment_changes(before, was, after, is, mm))
        said += line + "\n";
    EXPECT_THAT(said, HasSubstr("Main 1: 60 +0.005 0 becomes 60 +0.02 0 mm."));
    EXPECT_EQ(wording::blueprint_changes(misread, *intake_of(after).blueprint, wording::LengthText(Unit::inch)).front(),
              "Main 1: 60 +0.005 0 becomes 60 +0.02 0 mm.")
        << "as the sheet has it, at an inch bench too";
    EXPECT_THAT(said, HasSubstr("Tunnel: fails becomes meets."));
    EXPECT_THAT(said, HasSubstr("Next: "));
}

TEST(Amending, IsRefusedWhereWhatWasMeasuredWouldBeGone) {
    std::vector<Entry> entries;
    add(entries, JobOpened{"small", "", "b.json", test::small_blueprint()});
    const std::string log = test::small_log(200.03).text();
    add(entries, ProbeLogTaken{"log.csv", sha256_hex(log), log, 0.0005, false});
    add(entries, test::size_reading("bore.C.1", "top", "across", 60.01));
    const Folded state = fold(entries);
    const Blueprint whole = *intake_of(state).blueprint;
    const auto fault = [&](const Blueprint& b) {
        const auto found = planning::fault_of(state, amended(b));
        return found ? found->text() : std::string();
    };
    EXPECT_EQ(fault(whole), "");
    const auto unsaid = planning::fault_now(state, planning::assess(state, nullptr, amended_at), amended(whole, " "));
    ASSERT_TRUE(unsaid);
    EXPECT_THAT(unsaid->text(), HasSubstr("nothing says why"));
    Blueprint less = whole;
    less.bores.clear();
    EXPECT_THAT(fault(less), HasSubstr("has no bore.C.1, which was measured in entry 3"));
    less = whole;
    less.cam.reset();
    less.clocking = Clocking::decks;
    EXPECT_THAT(fault(less), HasSubstr("has no cam.1, which was measured in entry 2"));
    EXPECT_TRUE(planning::fault_of(state, BlueprintAmended{"b.json", "{", "a reason"}));
}

TEST(Amending, WhatCannotBeReadIsATroubleAndTheOneBeforeHolds) {
    std::vector<Entry> entries;
    add(entries, JobOpened{"small", "", "b.json", test::small_blueprint()});
    add(entries, BlueprintAmended{"b.json", "{", "torn"});
    const Folded state = fold(entries);
    ASSERT_TRUE(intake_of(state).blueprint);
    EXPECT_EQ(intake_of(state).blueprint->name, "small block");
    ASSERT_EQ(intake_of(state).troubles.size(), 1U);
    EXPECT_EQ(intake_of(state).troubles[0].sequence, 2);
    EXPECT_TRUE(intake_of(state).amendments.empty());
}
