// SPDX-License-Identifier: GPL-3.0-or-later
// Two banks that are to end equal: which goes with which, and how far.
#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"

#include <array>
#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

/// The story's block with a right and a left bank.
std::string two_banks() {
    std::string text = test::story_blueprint();
    const std::size_t from = text.find(R"({"id":"C","angle_deg":0)"), to = text.find("]]}]", from) + 3;
    const std::string one = text.substr(from, to - from);
    const auto bank = [&one](const char* id, const char* angle) {
        std::string b = one;
        return b.replace(0, std::string(R"({"id":"C","angle_deg":0)").size(),
                         R"({"id":")" + std::string(id) + R"(","angle_deg":)" + angle);
    };
    text.replace(from, to - from, bank("R", "30") + "," + bank("L", "-30"));
    for (std::size_t at = text.find(".C."); at != std::string::npos; at = text.find(".C.", at))
        text[at + 1] = 'R';
    for (std::size_t at = text.find(R"("bank":"C")"); at != std::string::npos; at = text.find(R"("bank":"C")", at))
        text[at + 8] = 'R';
    return text;
}

/// Two banks by hand, each from front to rear as high as it is told to be.
class TwoBanks : public testing::Test {
  public:
    TwoBanks() {
        add(JobOpened{"two banks", "", "b.json", two_banks()});
        add(GatePassed{Rule::tunnel_first, "", "good by its papers"});
    }
    void add(Payload payload) {
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), "", "", std::move(payload)});
    }
    /// The bank's four corners.
    void heights(const std::string& bank, const std::array<double, 4>& w) {
        const auto bp = read_blueprint(two_banks(), "b");
        std::size_t i = 0;
        for (const DeckPlace& place : deck_places(*bp->bank(bank)))
            add(test::height_reading(place.place, w.at(i++), 0.001, bank));
    }
    [[nodiscard]] Assessment now(const CleanDepths& depths = {}) const {
        const Folded state = fold(entries_);
        EXPECT_TRUE(intake_of(state).troubles.empty()) << intake_of(state).troubles.front().words;
        return assess(state, nullptr, "", depths);
    }

  private:
    std::vector<Entry> entries_;
};

} // namespace

// Both to one height; the left one stayed dark at it.
TEST_F(TwoBanks, WhereOneBankHadToGoDeeperTheOtherGoesWithIt) {
    for (const char* bank : {"R", "L"})
        heights(bank, {200.09, 200.08, 200.07, 200.06});
    EXPECT_NEAR(now().bank("R")->plan.target, 200.06 - 0.0254, 1e-9) << "clean at the lowest, and the finishing cut";
    add(DeckCut{"L", PassKind::pass, 0.03, false, {{20, 40}}});
    Assessment a = now();
    EXPECT_EQ(a.steps.now()->id, "deck.L/pass") << "another pass, deeper: not finished before it is clean";
    EXPECT_NEAR(a.bank("L")->plan.target, 200.06 - 1.5 * 0.0254, 1e-9) << "a thou is within what four heights miss";
    EXPECT_NEAR(a.bank("R")->plan.target, a.bank("L")->plan.target, 1e-9) << "the partner goes with it";
    EXPECT_TRUE(a.bank("R")->plan.follows);
    EXPECT_FALSE(a.bank("L")->plan.follows);
    add(DeckCut{"L", PassKind::pass, 0.02, true, {}});
    a = now();
    EXPECT_EQ(a.steps.now()->id, "deck.L/finish");
    EXPECT_NEAR(a.bank("L")->plan.moved, 0.02, 1e-9) << "clean 0.02 deeper than planned";
    EXPECT_NEAR(a.bank("R")->plan.target, 200.04 - 0.0254, 1e-9);
    add(DeckCut{"L", PassKind::finish, 0.03, true, {}});
    a = now();
    EXPECT_NEAR(a.bank("R")->plan.target, 200.01, 1e-9) << "where the left one ended";
    EXPECT_NEAR(a.bank("R")->remaining, 0.08, 1e-9);
}

// The right one lies well within its window and was never cut: the left one had to go, so it goes too.
TEST_F(TwoBanks, ABankThatIsGoodFollowsTheOneThatHadToBeCut) {
    heights("R", {200.02, 200.02, 200.00, 200.00});
    heights("L", {200.05, 200.03, 200.00, 199.99}); // 0.06 out of flat
    add(DeckCut{"L", PassKind::pass, 0.06, true, {}});
    add(DeckCut{"L", PassKind::finish, 0.0254, true, {}});
    for (int i = 0; i < 2; ++i)
        add(DeckCut{"L", PassKind::spring, 0, true, {}});
    Assessment a = now();
    EXPECT_EQ(a.steps.now()->id, "deck.R/witness") << "0.045 higher than its partner";
    EXPECT_NEAR(a.bank("R")->remaining, 200.02 - (199.99 - 0.0254), 1e-9);
    add(DeckCut{"R", PassKind::pass, 0.03, true, {}});
    add(DeckCut{"R", PassKind::finish, 0.0254, true, {}});
    for (int i = 0; i < 2; ++i)
        add(DeckCut{"R", PassKind::spring, 0, true, {}});
    // What heights scatter sends neither after the other.
    const double end = 199.99 - 0.0254;
    heights("R", {end + 0.003, end, end, end - 0.002});
    heights("L", {end, end - 0.002, end - 0.003, end});
    a = now();
    EXPECT_FALSE(a.steps.now() && a.steps.now()->cannot_be_undone) << a.steps.now()->id;
    EXPECT_TRUE(a.bank("R")->passes.empty());
    EXPECT_TRUE(a.bank("L")->passes.empty());
}

// What was measured higher than the passes left it, by what gauges tell, is cut once and not again and again.
TEST_F(TwoBanks, HeightsOverTheLedgerAreCutOnce) {
    heights("R", {200.08, 200.07, 200.05, 200.05});
    heights("L", {200.10, 200.08, 200.05, 200.04});
    add(DeckCut{"R", PassKind::pass, 0.04, true, {}});
    add(DeckCut{"R", PassKind::finish, 0.0254, true, {}});
    const double end = 200.08 - 0.0654;
    heights("R", {end + 0.005, end + 0.004, end + 0.005, end + 0.004});
    add(DeckCut{"L", PassKind::pass, 0.07, false, {{20, 40}}});
    add(DeckCut{"L", PassKind::pass, 0.02, true, {}});
    add(DeckCut{"L", PassKind::finish, 0.0254, true, {}});
    int infeeds = 0;
    for (Assessment a = now(); a.decks.kind == DeckStep::cut && infeeds < 6; a = now()) {
        infeeds += a.decks.pass->depth > 0 ? 1 : 0;
        add(DeckCut{a.decks.bank, a.decks.pass->kind, a.decks.pass->depth, true, {}});
    }
    EXPECT_LE(infeeds, 2) << "a rough and a finishing cut";
    EXPECT_NEAR(now().bank("R")->remaining, 0, 1e-9);
    EXPECT_NEAR(now().bank("L")->remaining, 0, 1e-9) << "both where the left one ended";
}

// Planned to one height, the deepest that may be needed; once one is clean, what only may be of the other is no reason.
TEST_F(TwoBanks, ACleanBankIsNotCutForWhatTheOtherMayTake) {
    constexpr double finish = 0.0254;
    const CleanDepths depths{{"L", {0.032, 0.035}}, {"R", {0.035, 0.06}}}; // as measured 0.03 each
    for (const char* bank : {"R", "L"})
        heights(bank, {200.09, 200.08, 200.07, 200.06});
    for (const char* bank : {"R", "L"})
        EXPECT_NEAR(now(depths).bank(bank)->plan.target, 200.03 - finish, 1e-9) << bank;
    add(DeckCut{"L", PassKind::pass, 0.03, true, {}});
    EXPECT_EQ(now(depths).steps.now()->id, "deck.L/finish");
    EXPECT_NEAR(now(depths).bank("L")->plan.target, 200.06 - finish, 1e-9);
    EXPECT_NEAR(now(depths).bank("R")->plan.target, 200.03 - finish, 1e-9) << "that one may have to go there";
    add(DeckCut{"L", PassKind::finish, finish, true, {}});
    add(DeckCut{"R", PassKind::pass, 0.05, true, {}});
    EXPECT_NEAR(now(depths).bank("L")->plan.target, 200.04 - finish, 1e-9) << "now it did";
}

// One is levelled; the other waits for its turn, not for that.
TEST_F(TwoBanks, LevellingOneHoldsUpThatOneAlone) {
    for (const char* bank : {"R", "L"})
        heights(bank, {200.29, 200.28, 200.25, 200.24});
    const std::string first = now().decks.bank, other = first == "R" ? "L" : "R";
    for (const auto& [end, side, height] :
         {std::tuple("front", "+v", 0.0), {"front", "-v", 0.0}, {"rear", "+v", 0.05}, {"rear", "-v", 0.05}}) {
        Reading r;
        r.at = {{FeatureKind::deck, first, 0}, Quantity::indicator, end, side, {}};
        r.value = height;
        add(r);
    }
    const Assessment a = now();
    EXPECT_EQ(a.steps.now()->id, "deck." + first + "/level");
    const auto waits = [&](const std::string& bank) {
        std::vector<std::string> first_steps;
        for (const Wait& w : a.steps.find("deck." + bank + "/witness")->waits_for)
            first_steps.push_back(w.step);
        return first_steps;
    };
    EXPECT_THAT(waits(first), testing::Contains("deck." + first + "/level"));
    EXPECT_THAT(waits(other), testing::Not(testing::Contains("deck." + first + "/level")));
}
