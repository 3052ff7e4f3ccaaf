// SPDX-License-Identifier: GPL-3.0-or-later
// What a step changes elsewhere once it is done, where it is done and how long it takes.
#include "planning/steps/step_changes.h"

#include "block/ledger.h"
#include "planning/common/assessment.h"
#include "story.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::Story;

namespace {

/// Five mains and their deck meet but for the deck, which is to come down to 200.00.
Story high_deck() {
    Story s;
    s.add(StepDone{"washed"})
        .add(StepDone{"inspected for cracks"})
        .caps(true)
        .probed(30.005, 0, 200.08)
        .add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    return s;
}

std::vector<Change> changes_at(const Story& s, const std::string& id) {
    const Folded state = s.state();
    const Assessment a = s.now();
    const Step* step = a.steps.find(id);
    EXPECT_NE(step, nullptr) << id;
    return step ? changes_of(state, a, *step) : std::vector<Change>();
}

std::vector<std::string> stale_in(const std::vector<Change>& changes) {
    std::vector<std::string> ids;
    for (const Change& c : changes)
        if (c.what == Changed::stale)
            ids.push_back(c.about.text());
    return ids;
}

const Change* find(const std::vector<Change>& changes, Changed what) {
    const auto found = std::ranges::find(changes, what, &Change::what);
    return found == changes.end() ? nullptr : &*found;
}

} // namespace

TEST(StepChanges, APassLowersTheDeckByWhatItTakesAndMakesItsHeightsStale) {
    const Story s = high_deck();
    const Assessment a = s.now();
    const Step* called = a.steps.now();
    ASSERT_NE(called, nullptr);
    ASSERT_EQ(called->kind, StepKind::cut);
    const std::vector<Change> changes = changes_at(s, called->id);
    const Change* height = find(changes, Changed::deck_height);
    ASSERT_NE(height, nullptr);
    EXPECT_EQ(height->about.text(), "deck.C");
    EXPECT_NEAR(*height->from, 200.08, 1e-9);
    EXPECT_NEAR(*height->to, 200.08 - *called->number, 1e-9);
    EXPECT_THAT(stale_in(changes), testing::ElementsAre("deck.C"));
    EXPECT_EQ(find(changes, Changed::clearance), nullptr); // nobody knows of a piston
}

TEST(StepChanges, PistonsComeNearerByThePassAndTheRatioRises) {
    EngineFigures figures;
    figures.stroke = 80;
    figures.rod = 130;
    figures.pin_height = 29.5; // crown at 40 + 130 + 29.5 = 199.5
    figures.chamber = 30000;   // 30 cm³
    figures.gasket_bore = 82;
    figures.gasket_thickness = 1;
    figures.dish = 0;
    figures.crevice = 0;
    Story s = high_deck();
    s.add(figures);
    const Assessment a = s.now();
    const double cut = *a.steps.now()->number;
    const std::vector<Change> changes = changes_at(s, a.steps.now()->id);
    const Change* clearance = find(changes, Changed::clearance);
    ASSERT_NE(clearance, nullptr);
    EXPECT_NEAR(*clearance->from, 200.08 - 199.5, 1e-9);
    EXPECT_NEAR(*clearance->to, 200.08 - cut - 199.5, 1e-9);
    const Change* ratio = find(changes, Changed::ratio);
    ASSERT_NE(ratio, nullptr);
    // By hand: swept π/4·80²·80; over the piston 30000 + π/4·82²·1 + π/4·80²·clearance.
    const auto by_hand = [](double under) {
        constexpr double quarter = std::numbers::pi / 4;
        const double swept = quarter * 80 * 80 * 80, over = 30000 + quarter * 82 * 82 + quarter * 80 * 80 * under;
        return (swept + over) / over;
    };
    EXPECT_NEAR(*ratio->from, by_hand(0.58), 0.02); // bores are 80 to 80.02
    EXPECT_NEAR(*ratio->to - *ratio->from, by_hand(0.58 - cut) - by_hand(0.58), 1e-3);
}

TEST(StepChanges, CapsThatAreCutMakeTheMainsStaleAndTheDeckOnlyWhereItIsMeasuredFromThem) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true).probed(30.03, 0, 200.03);
    const std::vector<Change> changes = changes_at(s, "tunnel/caps");
    EXPECT_THAT(stale_in(changes), testing::IsSupersetOf({"main.1", "main.2", "main.3", "main.4", "main.5"}));
    // What it says is what happens.
    Story done = s;
    done.cut_caps(0.02);
    EXPECT_NE(done.now().steps.find("tunnel/probe")->state, StepState::done);
    EXPECT_EQ(s.now().steps.find("tunnel/probe")->state, StepState::done);
}

TEST(StepChanges, ADecisionAMissingFileAndWhatIsDoneChangeNothing) {
    Story s;
    EXPECT_TRUE(changes_at(s, "as_found/log").empty());
    EXPECT_TRUE(changes_at(s, "cleaned/wash").empty());
    const Story cut = high_deck().deck(PassKind::pass, 0.05);
    const Assessment a = cut.now();
    for (const Step& step : a.steps.steps) {
        if (step.state == StepState::done) {
            EXPECT_TRUE(changes_of(cut.state(), a, step).empty()) << step.id;
        }
    }
}

TEST(StepChanges, EveryStepThatTakesMetalNamesItsMachineHowTheBlockLiesAndHowLongItTakes) {
    const Assessment a = high_deck().now();
    const Step* pass = a.steps.now();
    EXPECT_EQ(pass->where.machine, Machine::surfacer);
    EXPECT_EQ(pass->where.set_up, SetUp::deck_up);
    for (int task = 0; task <= static_cast<int>(Task::hand_over); ++task) {
        const StepKind kind = kind_of(static_cast<Task>(task));
        const Where where = where_of(static_cast<Task>(task), 5, {});
        const bool metal = kind == StepKind::cut || kind == StepKind::hone || kind == StepKind::fit;
        EXPECT_FALSE(metal && (where.machine == Machine::desk || where.set_up == SetUp::any || !where.minutes)) << task;
        EXPECT_FALSE(kind == StepKind::decide && where.minutes) << task;
    }
    EXPECT_GT(*where_of(Task::cut_caps, 7, {}).minutes, *where_of(Task::cut_caps, 3, {}).minutes);
}
