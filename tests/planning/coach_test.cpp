// SPDX-License-Identifier: GPL-3.0-or-later
// What somebody with experience remarks on, from the rules of the list alone.
#include "planning/practice/coach.h"

#include "planning/readings/reading_plan.h"
#include "planning/story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::Story;
using testing::ElementsAre;
using testing::IsEmpty;

namespace {

std::vector<RemarkKind> remarked(const Story& s, const Payload& entry) {
    std::vector<RemarkKind> kinds;
    for (const Remark& remark : remarks_on(s.now(), entry))
        kinds.push_back(remark.kind);
    return kinds;
}

/// Tunnel good, washed and looked at, four corners of the deck read.
Story ready_deck() {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    s.caps(true).sizes(60.010, 60.010).saddles();
    const std::array heights{200.16, 200.15, 200.07, 200.06};
    const auto places = chosen_places(s.state(), Measuring::deck_heights, "C");
    for (std::size_t i = 0; i < heights.size(); ++i) {
        Reading r = test::size_reading("main.1", "", "", heights.at(i), 0.001);
        r.at = places.at(i);
        s.add(r);
    }
    return s;
}

} // namespace

TEST(Coach, RemarksOnMoreMetalThanWasCalledFor) {
    const Story s = ready_deck();
    const Assessment a = s.now();
    const Step* cut = a.steps.now();
    ASSERT_TRUE(cut && cut->number);
    EXPECT_THAT(remarked(s, DeckCut{"C", PassKind::witness, *cut->number, true, {}}), IsEmpty());
    EXPECT_THAT(remarked(s, DeckCut{"C", PassKind::witness, *cut->number + 0.004, true, {}}), IsEmpty())
        << "nobody remarks on a hair";
    const auto deep = remarks_on(a, DeckCut{"C", PassKind::witness, *cut->number + 0.05, true, {}});
    ASSERT_EQ(deep.size(), 1U);
    EXPECT_EQ(deep.front().kind, RemarkKind::too_deep);
    EXPECT_EQ(deep.front().about, "deck.C");
    EXPECT_NEAR(*deep.front().by, 0.05, 1e-9);
}

TEST(Coach, RemarksOnMetalThatNothingCalledFor) {
    Story s; // nothing was measured
    EXPECT_THAT(remarked(s, TunnelPass{TunnelPassKind::strokes, 20, {}, false}), ElementsAre(RemarkKind::not_called));
    EXPECT_THAT(remarked(s, DeckCut{"C", PassKind::pass, 0.05, false, {}}), ElementsAre(RemarkKind::not_called));
    EXPECT_THAT(remarked(s, CapsCut{{{FeatureId{FeatureKind::main, "", 2}, 0.1}}}),
                ElementsAre(RemarkKind::not_called));
}

TEST(Coach, RemarksOnRulesThatWereGoneOnAgainstAndStepsLeftOut) {
    Story s;
    s.add(StepDone{"washed"});
    EXPECT_THAT(remarked(s, GatePassed{Rule::complete, "main.1", "no time"}), ElementsAre(RemarkKind::against_rule));
    EXPECT_THAT(remarked(s, StepSkipped{"cleaned/inspect", "no time"}), ElementsAre(RemarkKind::left_out));
    EXPECT_THAT(remarked(s, Note{"no time"}), IsEmpty());
}

TEST(Coach, RemarksOnReadingsThatNothingWaitsForAndThatWereAskedAbout) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    s.caps(true);
    Reading first = test::size_reading("main.1", "front", "upright", 60.010, 0.0005);
    EXPECT_THAT(remarked(s, first), IsEmpty());
    s.add(first);
    EXPECT_THAT(remarked(s, first), ElementsAre(RemarkKind::not_needed)) << "a needle's width is not chased";
    Reading sure = test::size_reading("main.1", "front", "60 left", 61.010, 0.0005);
    sure.confirmed = true;
    EXPECT_THAT(remarked(s, sure), ElementsAre(RemarkKind::asked_about));
}
