// SPDX-License-Identifier: GPL-3.0-or-later
// A boring bar dialled in by an indicator: sag ring, sweep, move, sweep again, enough.
#include "planning/readings/reading_plan.h"
#include "planning/steps/answer.h"
#include "planning/tunnel/tunnel_consequences.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

/// A tunnel that is to be line bored, up to its first pass.
test::Story to_bore() {
    test::Story s;
    TunnelPolicy policy = usual_tunnel_policy();
    policy.method = TunnelMethod::bore;
    policy.stock = 0;
    policy.line = GivenLine::ends;
    policy.bar = 50;
    return s.caps(true).sizes(60.02, 60.02).saddles().add(policy).cut_caps(0.06).caps(true).sizes(59.96, 59.99);
}
/// Both end mains swept: the bar that far above their middle, and the indicator sagging by that between 12 and 6.
test::Story& swept(test::Story& s, double above, double sag) {
    for (const int main : {1, 5})
        for (const auto& [clock, reads] :
             {std::pair{"12", above - sag / 2}, {"3", 0.0}, {"6", -above + sag / 2}, {"9", 0.0}}) {
            Reading r = test::size_reading("main." + std::to_string(main), "", clock, reads, 0.0005);
            r.at.quantity = Quantity::sweep;
            s.add(r);
        }
    return s;
}
void answer_now(test::Story& s, const Answers& answers) {
    const Folded state = s.state();
    const Assessment a = s.now();
    ASSERT_TRUE(a.steps.now());
    const auto entries = answer(state, a, *a.steps.now(), answers, "2026-03-02T12:00:00Z");
    ASSERT_TRUE(entries) << entries.error().front().text();
    for (const Payload& p : *entries)
        s.add(p);
}

} // namespace

TEST(DialIn, IsOfferedBeforeTheFirstPassAndNotCalledFor) {
    const test::Story s = to_bore();
    EXPECT_EQ(s.called(), "tunnel/bore");
    const Assessment a = s.now();
    const Step* ring = a.steps.find("tunnel/dial_in/ring");
    ASSERT_TRUE(ring);
    EXPECT_TRUE(ring->aside);
    EXPECT_EQ(ring->state, StepState::ready);
    test::Story honed;
    honed.caps(true).sizes(60.02, 60.02).saddles();
    EXPECT_FALSE(honed.now().steps.find("tunnel/dial_in/ring")) << "a hone finds its own line";
}

// The bar stands 0.03 too high. An indicator that reads 0.02 less at 12 and as much more at 6 than it should would have
// it 0.01 too high, and the block raised by that.
TEST(DialIn, TheSagOfTheIndicatorIsTakenOff) {
    test::Story s = to_bore();
    s.add(IndicatorSag{-0.02, 0.02});
    EXPECT_EQ(s.called(), "main.1/measure/sweep/12");
    EXPECT_THAT(s.waits("tunnel/bore"), testing::ElementsAre(Rule::order));
    swept(s, 0.03, 0.04);
    ASSERT_EQ(s.called(), "tunnel/dial_in/move");
    for (const SweepFinding& sweep : s.now().gauge.sweeps)
        EXPECT_NEAR(sweep.up, 0.03, 1e-12);
    EXPECT_NEAR(*s.now().steps.now()->number, 0.03, 1e-12);
    test::Story unknown = to_bore();
    swept(unknown, 0.03, 0.04);
    EXPECT_EQ(unknown.called(), "tunnel/dial_in/ring") << "nothing is moved by a sweep with its sag in it";
    answer_now(unknown, {{"at_12", -0.02}, {"at_6", 0.02}});
    EXPECT_EQ(unknown.called(), "tunnel/dial_in/move");
}

// What was swept for a tunnel that is finished is not swept again for nothing.
TEST(DialIn, EndsWithItsTunnel) {
    test::Story s = to_bore();
    s.add(IndicatorSag{});
    swept(s, 0, 0);
    s.add(TunnelPass{TunnelPassKind::final_pass, 0, 5.005, false});
    for (int n = 1; n <= 5; ++n)
        s.add(MainMarked{{FeatureKind::main, "", n}, BarMark::clean});
    s.sizes(60.01, 60.01).saddles();
    ASSERT_EQ(s.called(), "tunnel/finish");
    answer_now(s, {{"done", true}});
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets);
    EXPECT_THAT(s.called(), testing::Not(testing::HasSubstr("sweep")));
    EXPECT_FALSE(s.now().steps.find("tunnel/dial_in/ring"));
}

TEST(DialIn, GoesRoundByRoundUntilItIsEnough) {
    test::Story s = to_bore();
    s.add(IndicatorSag{});
    swept(s, 0.03, 0);
    answer_now(s, {{"done", true}});
    EXPECT_EQ(s.called(), "main.1/measure/sweep/12") << "swept again at both ends";
    swept(s, 0.008, 0);
    EXPECT_EQ(s.called(), "tunnel/dial_in/move") << "more than two tenths";
    answer_now(s, {{"done", true}});
    swept(s, dialled_in - 1e-6, 0);
    EXPECT_EQ(s.called(), "tunnel/bore") << "enough";
    EXPECT_FALSE(s.now().steps.find("tunnel/dial_in/move"));
    s.add(TunnelPass{TunnelPassKind::establishing, 0, 4.98, false});
    EXPECT_EQ(s.called(), "main.1/mark") << "its own bores stand round it: no sweep any more";
}
