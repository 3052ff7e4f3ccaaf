// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_belief.h"

#include "block/state/deck_state.h"
#include "story.h"

#include <algorithm>
#include <gtest/gtest.h>

namespace pallix::planning {
namespace {

using block::DeckTargetChosen;
using block::PassKind;
using block::Sureness;
using block::TargetSchool;

/// A deck of 200.00 to 200.04 from rear to front, in heights that can be off.
test::Story sloping(double lowest = 200.00) {
    test::LogWriter w;
    for (const double u : {5.0, 60.0, 120.0, 180.0, 235.0})
        for (const double v : {-45.0, 45.0})
            w.touch("deck.C", {u, v, lowest + 0.04 * (235 - u) / 230});
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.0)).log(w.text());
    return s;
}
DeckTargetChosen least_cut(Sureness clean) {
    return {TargetSchool::least_cut, true, {}, {}, {}, clean};
}
Assessment with(const test::Story& s, const CleanDepth& depth) {
    return assess(s.state(), nullptr, "", {{"C", depth}});
}
constexpr CleanDepth depth{0.043, 0.055}; // from first touch; as measured it takes 0.040
constexpr double finish = 0.0254;         // common practice: a thou

} // namespace

// As measured, half of what may be lower, and all but a fortieth of it: each its own target, the finish under it.
TEST(CleanDepth, EachChoiceHasItsOwnTarget) {
    test::Story s = sloping();
    EXPECT_EQ(decks_of(s.state()).target.clean, Sureness::sure) << "unless somebody says otherwise";
    EXPECT_NEAR(with(s, depth).bank("C")->plan.target, 200.04 - 0.055 - finish, 1e-9);
    s.add(least_cut(Sureness::likely));
    EXPECT_NEAR(with(s, depth).bank("C")->plan.target, 200.04 - 0.043 - finish, 1e-9);
    s.add(least_cut(Sureness::as_measured));
    EXPECT_NEAR(with(s, depth).bank("C")->plan.target, 200.04 - 0.040 - finish, 1e-9);
    EXPECT_NEAR(s.now().bank("C")->plan.target, 200.04 - 0.040 - finish, 1e-9) << "while nothing more is known of it";
}

// Dark where the heights have it clean, and within what is believed: on with passes, nobody looks why.
TEST(CleanDepth, DarkWithinTheBeliefIsCutOn) {
    test::Story s = sloping();
    s.deck(PassKind::witness, 0.02, false, {{235, 45}}).deck(PassKind::pass, 0.02, false, {{235, 45}});
    const Assessment a = with(s, depth);
    EXPECT_EQ(a.steps.now()->id, "deck.C/pass");
    EXPECT_NEAR(*a.steps.now()->number, 0.003, 1e-9) << "to where it is likely clean";
    EXPECT_NEAR(a.bank("C")->remaining, 0.015 + finish, 1e-9) << "to 0.055 in all, and the finish";
}

// Clean before that: what was sure is not cut for its own sake, the finish comes under where it stands.
TEST(CleanDepth, CleanSoonerEndsSooner) {
    test::Story s = sloping();
    s.deck(PassKind::witness, 0.02, false, {{235, 45}}).deck(PassKind::pass, 0.022, true);
    const Assessment a = with(s, depth);
    EXPECT_EQ(a.steps.now()->id, "deck.C/finish");
    EXPECT_NEAR(a.bank("C")->plan.target, 200.04 - 0.042 - finish, 1e-9);
}

// The blueprint allows 199.95. As measured there is room for the finish over it; to be sure there is not. Metal shows
// first whether it has to go under that: nothing is decided beforehand.
TEST(CleanDepth, TheBlueprintsLeastHeightIsNotGivenUpBeforehand) {
    test::Story s = sloping(199.99);
    s.deck(PassKind::witness, 0.02, false, {{235, 45}});
    const Assessment a = with(s, {0.045, 0.09}); // 199.94 and the finish
    EXPECT_EQ(a.steps.now()->id, "deck.C/pass");
    EXPECT_GE(a.bank("C")->plan.target, 199.95);
    EXPECT_LT(a.bank("C")->plan.target, 199.99 - finish);
}

TEST(CleanDepth, IsBelievedOnlyOfDecksThatAreCutUntilClean) {
    test::Story s = sloping();
    EXPECT_EQ(banks_to_believe(s.state()), std::vector<std::string>{"C"});
    const CleanDepths depths = clean_depths(s.state());
    ASSERT_TRUE(depths.contains("C"));
    const auto belief = believe_deck(s.state(), "C");
    EXPECT_EQ(depths.at("C").sure, belief->surface.removal.high);
    EXPECT_EQ(depths.at("C").likely, belief->surface.removal.middle);
    s.deck(PassKind::witness, 0.02, true);
    EXPECT_TRUE(banks_to_believe(s.state()).empty()) << "clean";
    EXPECT_TRUE(banks_to_believe(sloping().add(DeckTargetChosen{TargetSchool::blueprint, true, {}}).state()).empty());
    EXPECT_TRUE(banks_to_believe(sloping().add(least_cut(Sureness::as_measured)).state()).empty());
    EXPECT_TRUE(banks_to_believe(test::Story().state()).empty()) << "nothing measured";
}

} // namespace pallix::planning
