// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/work_times.h"

#include "block/times.h"
#include "planning/shop/standing.h"
#include "story.h"

#include <chrono>
#include <cmath>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

Entry entry_at(const char* time, Payload payload, const char* person = "Marit") {
    return {0, time, person, std::move(payload)};
}

DeckCut pass_of(double depth) {
    return {"C", PassKind::pass, depth, false, {}};
}

/// A delivered job: stage by stage as given.
JobHours hours_of(const std::string& engine, double tunnel, double decks, double cylinders) {
    return {engine, true, {{Stage::tunnel, tunnel}, {Stage::decks, decks}, {Stage::cylinders, cylinders}}, {}};
}

} // namespace

TEST(Times, AreReadAndWritten) {
    EXPECT_EQ(time_text(*read_time("2026-03-02T23:59:58Z") + std::chrono::seconds(3)), "2026-03-03T00:00:01Z");
    for (const char* wrong : {"", "2026-03-02", "2026-02-30T10:00:00Z", "2026-03-02T24:00:00Z", "2026-03-02 10:00:00"})
        EXPECT_FALSE(read_time(wrong)) << wrong;
}

TEST(WorkTimes, RunFromOneEntryToTheNextAndPausesAreLeftOut) {
    const std::vector<Entry> entries{
        entry_at("2026-03-02T08:00:00Z", JobOpened{}),
        entry_at("2026-03-02T08:40:00Z", StepDone{"washed"}),      // 40 min
        entry_at("2026-03-02T12:40:00Z", pass_of(0.05)),           // a pause of four hours
        entry_at("2026-03-02T12:50:00Z", pass_of(0.05)),           // 10 min
        entry_at("2026-03-02T12:50:00Z", FinishNoted{}),           // the same moment
        entry_at("2026-03-02T13:04:00Z", pass_of(0.05), "Mira"),   // 14 min
        entry_at("2026-03-02T13:05:00Z", Note{"wiped the table"}), // no work
        entry_at("2026-03-02T13:04:30Z", pass_of(0.05)),           // the clock was set back
    };
    const auto times = work_times(entries);
    ASSERT_EQ(times.size(), 3u);
    EXPECT_EQ(times[0].work, Work::wash);
    EXPECT_EQ(times[0].minutes, 40);
    EXPECT_EQ(times[1].work, Work::deck_pass);
    EXPECT_EQ(times[1].minutes, 10);
    EXPECT_EQ(times[2].person, "Mira");
    const JobHours hours = job_hours(entries, "e", false);
    EXPECT_EQ(hours.minutes.at(Stage::decks), 24);
    EXPECT_THAT(hours.done, testing::Contains(WorkDone{Work::deck_pass, "Marit", 1, 10}));
    EXPECT_THAT(hours.done, testing::Contains(WorkDone{Work::deck_pass, "Mira", 1, 14}));
}

TEST(WorkTimes, TheShopsOwnMediansHoldFromFiveJobsOn) {
    std::vector<JobHours> shop;
    const auto took = [](const char* engine, const char* person, double minutes) {
        return JobHours{engine, true, {}, {{Work::deck_pass, person, 4, minutes}}};
    };
    for (const double minutes : {20.0, 8.0, 9.0, 90.0})
        shop.push_back(took("v6", "Marit", minutes));
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "v6").jobs, 0) << "four are too few";
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "v6").minutes, usual_minutes(Work::deck_pass));
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "v6", "", {{Work::deck_pass, 17}}).minutes, 17) << "as somebody typed";
    shop.push_back(took("six", "Marit", 10));
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "v6").minutes, 10) << "of 8 9 10 20 90, of any engine";
    for (int i = 0; i < 5; ++i)
        shop.push_back(took("six", "Mira", 30));
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "six").minutes, 30) << "six of its own";
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "six").jobs, 6);
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "v6", "Marit").minutes, 10) << "five of Marit's, on any engine";
    EXPECT_EQ(usual_time(shop, Work::deck_pass, "six", "Mira").jobs, 5) << "of that person on that engine";
}

TEST(HoursLeft, AreWhatTheSameStagesTookInOtherJobs) {
    std::vector<JobHours> shop;
    for (const double t : {100.0, 110.0, 120.0, 130.0})
        shop.push_back(hours_of("v6", t, 60, 200));
    EXPECT_EQ(hours_left(shop, "v6", {{Stage::decks, 0}}, 77).minutes, 77) << "too few: what is listed";
    EXPECT_FALSE(hours_left(shop, "v6", {{Stage::decks, 0}}, 77).least);
    shop.push_back(hours_of("v6", 140, 60, 200));
    const HoursLeft left = hours_left(shop, "v6", {{Stage::tunnel, 115}, {Stage::decks, 0}}, 0);
    EXPECT_EQ(left.minutes, 65) << "120: five of the tunnel are left, and the decks";
    EXPECT_EQ(left.least, 60);
    EXPECT_EQ(left.most, 85);
    EXPECT_NEAR(left.holds, 1 - 2.0 / 6, 1e-12) << "between the least and the most of five";
    EXPECT_EQ(left.jobs, 5);
    EXPECT_TRUE(left.same_engine);
    EXPECT_FALSE(hours_left(shop, "six", {{Stage::decks, 0}}, 0).same_engine);
}

// Shops whose hours scatter: the forecast gets better with every job, and its interval holds as often as it says.
TEST(HoursLeft, HoldAsOftenAsTheySay) {
    std::mt19937_64 random(26);
    std::lognormal_distribution<double> scatter(0, 0.4);
    double off_early = 0, off_late = 0, claimed = 0;
    int held = 0, counted = 0, early = 0, late = 0;
    for (int shop_number = 0; shop_number < 400; ++shop_number) {
        const double of_this_shop = scatter(random); // its own pace: usual times are wrong by that
        std::vector<JobHours> shop;
        for (int job = 0; job < 30; ++job) {
            const double slow = scatter(random); // a bad block is bad in all stages
            const double tunnel = 150 * of_this_shop * slow, decks = 90 * of_this_shop * slow * scatter(random);
            const HoursLeft left = hours_left(shop, "v6", {{Stage::tunnel, 0}, {Stage::decks, 0}}, 240);
            const double off = std::abs(std::log((tunnel + decks) / left.minutes));
            (job < 5 ? off_early : off_late) += off;
            ++(job < 5 ? early : late);
            if (left.least) {
                claimed += left.holds;
                held += *left.least <= tunnel + decks && tunnel + decks <= *left.most;
                ++counted;
            }
            shop.push_back(hours_of("v6", tunnel, decks, 0));
        }
    }
    EXPECT_LT(off_late / late, 0.9 * off_early / early);
    EXPECT_NEAR(static_cast<double>(held) / counted, claimed / counted, 0.01);
}

TEST(Promise, IsKeptOrNotAtThisRate) {
    const auto kept = promise("2026-03-10", 600, 120, "2026-03-02T09:00:00Z");
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->ready, "2026-03-07") << "five days of two hours";
    EXPECT_TRUE(kept->kept);
    EXPECT_FALSE(promise("2026-03-06", 600, 120, "2026-03-02T09:00:00Z")->kept);
    EXPECT_FALSE(promise("", 600, 120, "2026-03-02T09:00:00Z"));
    EXPECT_FALSE(promise("2026-03-06", 600, 0, "2026-03-02T09:00:00Z"));
}

// ---- the board ----------------------------------------------------------------------------------------------------

namespace {

constexpr const char* at_noon = "2026-03-02T12:00:00Z";

JobStanding stands(const test::Story& story, const std::string& at = at_noon) {
    return standing_of(story.state(), story.now(at), story.entries(), at);
}

test::Story probed_story() {
    test::Story story;
    story.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    story.caps(true).probed(30.005, 0, 200.10).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    return story;
}

} // namespace

TEST(Standing, SaysWhatAJobWaitsFor) {
    test::Story story;
    EXPECT_EQ(stands(story).waits, WaitsFor::machine) << "the washer";
    EXPECT_EQ(stands(story).machine, Machine::washer);
    story = probed_story();
    EXPECT_EQ(stands(story).waits, WaitsFor::machine);
    EXPECT_EQ(stands(story).fixture, "surfacer/deck_up") << "one bank: no angle";
    story.add(HoldPlaced{"the owner", "", {}});
    EXPECT_EQ(stands(story).waits, WaitsFor::person) << "nothing is left that could be done without";
    EXPECT_EQ(stands(story).person, "the owner");
    test::Story soaking;
    soaking.add(ClockSet{"soak", 90, "2026-03-02T13:30:00Z", Stage::cleaned});
    EXPECT_EQ(stands(soaking).waits, WaitsFor::time);
    ASSERT_EQ(stands(soaking).clocks.size(), 1u);
    EXPECT_EQ(stands(soaking).clocks[0].what, "soak");
    EXPECT_TRUE(stands(soaking, "2026-03-02T14:00:00Z").clocks.empty());
    story.add(Delivered{"Tern", ""});
    EXPECT_EQ(stands(story).waits, WaitsFor::delivered);
    EXPECT_EQ(stands(story).delivered, "2026-03-02");
}

TEST(Standing, ThePartThatIsDueFirstIsNamed) {
    test::Story story = probed_story();
    story.add(PartNoted{"rings", false, "", "2026-03-20", Stage::cylinders});
    story.add(PartNoted{"gaskets", false, "", "2026-03-01", {}});
    story.add(PartNoted{"bolts", false, "", "", {}});
    EXPECT_EQ(stands(story).part, "gaskets");
    EXPECT_EQ(stands(story).due, "2026-03-01");
    story.add(PartNoted{"gaskets", true, "", "", {}});
    EXPECT_EQ(stands(story).part, "rings");
}

TEST(Standing, IsFoundByWhateverWasWritten) {
    test::Story story;
    story.add(JobCard{"Casting 118 B", "Tern", "", "keeps losing Gaskets", "", {}, "", "", "", "", {}, ""});
    story.add(Note{"the pin was BENT"});
    const std::string words = stands(story).words;
    for (const char* word : {"story", "casting 118 b", "tern", "losing gaskets", "pin was bent", "five mains"})
        EXPECT_NE(words.find(word), std::string::npos) << word;
}
