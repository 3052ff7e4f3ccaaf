// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "reference_data.h"
#include "wording/common/sentences.h"
#include "wording/steps/ask_words.h"
#include "wording/steps/step_words.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <set>
#include <sstream>

// What the program says at every step of the harbour's jobs, kept as text: marks of the route, the call, what the shop
// list waits for. A change of judgement shows here as a difference to be read by hand. PALLIX_WRITE_RECORD=1 writes the
// record anew.

namespace pallix::wording {
namespace {

namespace fs = std::filesystem;

std::string test_data(const std::string& name) {
    return std::string(PALLIX_TEST_DATA) + "/" + name;
}

/// The jobs are files of job format version 1: whatever comes later reads them.
std::vector<block::Entry> job_of(const std::string& name) {
    const auto entries = block::read_job(test::read_file(test_data("jobs/" + name + ".pallix.json")), name);
    EXPECT_TRUE(entries) << (entries ? "" : entries.error().front().text());
    return entries.value_or(std::vector<block::Entry>());
}

std::string said_of(const block::JobState& state) {
    const planning::Assessment assessment = planning::assess(state);
    const LengthText lengths(block::Unit::mm);
    std::string said = "  marks:";
    for (const planning::StageState& stage : assessment.stages)
        said += " " + stage_name(stage.stage) + " = " + stage_word(stage.mark) + ";";
    const CallText call = call_text(state, assessment, lengths);
    said += "\n  call: " + call.headline + (call.number.empty() ? "" : " [" + call.number + "]") + "\n";
    for (const std::string& reason : call.reasons)
        said += "    " + reason + "\n";
    if (!call.caution.empty())
        said += "    care: " + call.caution + "\n";
    said += "  waits for: " + waits_for(state, assessment, lengths) + "\n";
    for (const block::Trouble& trouble : intake_of(state).troubles)
        said += "  trouble: " + trouble.words + "\n";
    return said;
}

/// The job after its first entries.
block::Folded first_of(const std::vector<block::Entry>& entries, std::size_t n, block::ReadLogs& logs) {
    return block::fold({entries.begin(), entries.begin() + static_cast<std::ptrdiff_t>(n)}, &logs);
}

/// Every number that readings have made.
std::string measured_in(const block::JobState& state) {
    std::ostringstream all;
    all.precision(17);
    for (const block::TakenReading& r : readings_of(state).readings)
        all << r.sequence << ' ' << r.value << ' ' << r.fixed.value_or(-1) << ' ' << r.stale_because << '\n';
    for (const block::MeasuredPlace& p : readings_of(state).places)
        all << p.at.key() << ' ' << p.value << ' ' << p.count << ' ' << p.spread << ' ' << p.stale_because << '\n';
    for (const auto& [bank, deck] : decks_of(state).decks)
        if (deck.latest)
            all << bank << ' ' << deck.latest->sequence << ' ' << deck.latest->result.height_mean << ' '
                << deck.as_found->sequence << ' ' << deck.readings.size() << '\n';
    all << decks_of(state).crowns.size() << ' ' << readings_of(state).conditions.part_c.value_or(-300) << ' '
        << readings_of(state).conditions.gauge_c.value_or(-300);
    return all.str();
}

std::string record_of(const std::vector<block::Entry>& entries) {
    std::string record, before;
    block::ReadLogs logs;
    for (std::size_t n = 1; n <= entries.size(); ++n) {
        const std::string said = said_of(first_of(entries, n, logs));
        record += std::to_string(n) + " " + block::kind_of(entries[n - 1].payload) +
                  (said == before ? ": the same\n" : "\n" + said);
        before = said;
    }
    return record;
}

class Record : public testing::TestWithParam<std::string> {};

TEST_P(Record, SaysTheSameAtEveryStep) {
    const std::string record = record_of(job_of(GetParam()));
    const std::string file = test_data("record/" + GetParam() + ".txt");
    if (std::getenv("PALLIX_WRITE_RECORD")) {
        fs::create_directories(fs::path(file).parent_path());
        std::ofstream(file, std::ios::binary) << record;
        GTEST_SKIP() << "the record was written: read the difference";
    }
    const std::string kept = test::read_file(file);
    const auto differs = std::ranges::mismatch(record, kept);
    const auto line = 1 + std::count(record.begin(), differs.in1, '\n');
    EXPECT_TRUE(record == kept) << "the record differs from line " << line
                                << " on: " << std::string(differs.in1, std::find(differs.in1, record.end(), '\n'));
}

// On, off and no word of it all read "not stated", where a plate was asked for.
TEST_P(Record, NoTwoChoicesOfOneQuestionReadTheSame) {
    block::ReadLogs logs;
    const std::vector<block::Entry> entries = job_of(GetParam());
    for (std::size_t n = 1; n <= entries.size(); ++n) {
        const planning::Assessment assessment = planning::assess(first_of(entries, n, logs));
        for (const planning::Step& step : assessment.steps.steps)
            for (const planning::Ask& ask : step.asks) {
                std::set<std::string> words;
                for (const std::string& choice : ask.choices)
                    EXPECT_TRUE(words.insert(choice_name(step, ask, choice)).second)
                        << n << ": " << step.id << " " << ask.key << " " << choice;
            }
    }
}

INSTANTIATE_TEST_SUITE_P(Harbour, Record,
                         testing::Values("workboat", "workboat_probed", "tender", "launch", "smack", "ferry", "ketch"),
                         [](const auto& tested) { return tested.param; });

} // namespace
// A reading in a long job is added to the state; what comes of it is what folding everything anew would make of it.
TEST(Record, AReadingAddedIsAReadingFolded) {
    int added = 0;
    for (const auto& file : fs::directory_iterator(test_data("jobs"))) {
        const std::vector<block::Entry> entries =
            job_of(file.path().filename().string().substr(0, file.path().filename().string().find('.')));
        block::ReadLogs logs;
        for (std::size_t n = 1; n < entries.size(); ++n) {
            if (!std::holds_alternative<block::Reading>(entries[n].payload))
                continue;
            block::Folded state = first_of(entries, n, logs);
            block::fold_reading(state, entries[n]);
            const block::Folded anew = first_of(entries, n + 1, logs);
            ASSERT_EQ(measured_in(state), measured_in(anew)) << file.path() << " entry " << n + 1;
            ASSERT_EQ(said_of(state), said_of(anew)) << file.path() << " entry " << n + 1;
            ++added;
        }
    }
    EXPECT_GT(added, 100);
}

} // namespace pallix::wording
