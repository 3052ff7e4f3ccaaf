// SPDX-License-Identifier: GPL-3.0-or-later
// A tunnel that is line bored: the bar's diameter, what each pass is to touch and what it left, the next setting,
// enough.
#include "block/state/tunnel_state.h"
#include "planning/tunnel/bar_passes.h"
#include "planning/tunnel/tunnel_study.h"
#include "story.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

FeatureId main_id(int n) {
    return {FeatureKind::main, "", n};
}

/// Caps cut and torqued, mains of 59.96 to 59.97 by gauge, wanted 60.01; bored with that bar.
test::Story to_bore(std::optional<double> bar) {
    test::Story s;
    TunnelPolicy policy = usual_tunnel_policy();
    policy.method = TunnelMethod::bore;
    policy.stock = 0;
    policy.line = GivenLine::ends;
    policy.bar = bar;
    s.caps(true).sizes(60.02, 60.02).saddles().add(policy).cut_caps(0.06).caps(true).sizes(59.96, 59.99);
    return s;
}
test::Story& bored(test::Story& s, TunnelPassKind kind, double protrusion) {
    return s.add(TunnelPass{kind, 0, protrusion, false});
}
test::Story& marked(test::Story& s, BarMark mark, int except = 0, BarMark instead = BarMark::part) {
    for (int n = 1; n <= 5; ++n)
        s.add(MainMarked{main_id(n), n == except ? instead : mark});
    return s;
}

} // namespace

TEST(LineBore, TheBarIsMeasuredAndKept) {
    EXPECT_EQ(to_bore({}).called(), "tunnel/bar");
    const test::Story s = to_bore(50);
    EXPECT_EQ(s.called(), "tunnel/bore");
    const Assessment a = s.now();
    EXPECT_TRUE(a.tunnel_work.establishing_due);
    EXPECT_NEAR(*a.steps.now()->asks.front().proposed, (60.01 - 0.0508 - 50) / 2, 1e-9) << "two thou for the final one";
}

// What it touches is looked at before anything is measured; then only mains that were cut all round are.
TEST(LineBore, MarksComeBeforeSizes) {
    test::Story s = to_bore(50);
    bored(s, TunnelPassKind::establishing, 4.98);
    EXPECT_EQ(s.called(), "main.1/mark");
    EXPECT_EQ(s.now().tunnel_work.to_mark.size(), 5U);
    EXPECT_TRUE(s.metal().empty());
    EXPECT_THAT(s.waits("tunnel/bore"), testing::ElementsAre(Rule::fresh));
    marked(s, BarMark::clean, 3);
    EXPECT_THAT(s.called(), testing::StartsWith("main.1/"));
    for (const MeasuredAt& at : s.now().tunnel_work.to_read)
        EXPECT_NE(at.feature, main_id(3)) << "its size says nothing of the tool";
}

// The tool left 59.97 where it was set to 59.96: the next setting counts from what it left. A main that it only dusted
// is larger and says nothing.
TEST(LineBore, TheNextSettingComesFromMainsCutAllRound) {
    test::Story s = to_bore(50);
    bored(s, TunnelPassKind::establishing, 4.98);
    marked(s, BarMark::clean, 3, BarMark::dusting);
    for (const int n : {1, 2, 4, 5})
        s.size(n, "front", "upright", 59.97);
    s.size(3, "front", "upright", 59.95); // smaller, and not the tool's
    const Assessment a = s.now();
    EXPECT_EQ(a.steps.now()->id, "tunnel/bore");
    EXPECT_FALSE(a.tunnel_work.establishing_due);
    EXPECT_NEAR(*a.tunnel_work.next_protrusion, 4.98 + (60.01 - 59.97) / 2, 1e-9);
}

TEST(LineBore, WithoutAMainCutAllRoundTheBarItselfSetsIt) {
    test::Story s = to_bore(50);
    bored(s, TunnelPassKind::establishing, 4.95);
    marked(s, BarMark::dusting);
    const Assessment a = s.now();
    EXPECT_EQ(a.steps.now()->id, "tunnel/bore") << "nothing to measure";
    EXPECT_NEAR(*a.tunnel_work.next_protrusion, (60.01 - 50) / 2, 1e-9);
}

TEST(LineBore, InSizeAndNotCutAllRoundIsADecision) {
    test::Story s = to_bore(50);
    bored(s, TunnelPassKind::final_pass, 5.005);
    marked(s, BarMark::clean, 3);
    s.sizes(60.010, 60.010).saddles();
    EXPECT_EQ(s.called(), "tunnel/not_clean");
    s.add(GatePassed{Rule::sign_off, "tunnel", "a pit beside the parting line"});
    EXPECT_EQ(s.called(), "tunnel/finish");
    test::Story clean = to_bore(50);
    bored(clean, TunnelPassKind::final_pass, 5.005);
    marked(clean, BarMark::clean).sizes(60.010, 60.010).saddles();
    EXPECT_EQ(clean.called(), "tunnel/finish") << "clean all round and in size: enough";
}

// A housing of 30.00 whose cap end stands 0.05 nearer: a tool of 60.04 about the centre meets the cap, not the saddle.
TEST(LineBore, ForeseesWhichHalfItTouches) {
    Housing h;
    h.id = main_id(1);
    for (int k = 0; k < 36; ++k) {
        const double angle = (k + 0.5) * 2 * std::numbers::pi / 36, y = 30.03 * std::cos(angle),
                     z = 30.03 * std::sin(angle);
        h.points.push_back({0, y, z + (z < 0 ? 0.05 : 0)});
    }
    const auto about = [&h](double diameter) { return bar_contacts({h}, {}, diameter, 0.2).front(); };
    EXPECT_EQ(about(60.04).saddle, 0);
    EXPECT_GT(about(60.04).cap, 0.5);
    EXPECT_EQ(about(60.08).saddle, 1);
    EXPECT_EQ(about(60.08).cap, 1);
    EXPECT_EQ(about(59.9).cap, 0);
}
