// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_verdict.h"
#include "planning/tunnel/tunnel_verdict.h"

#include "block/small_block.h"

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Verdict;

namespace {

DeckMeasurement measured(double a, double b, double c, double d, std::optional<double> u) {
    const BankBlueprint small_bank = pallix::test::read_small_blueprint().banks[0];
    return {DeckSource::readings, 1, u,
            *evaluate_deck(small_bank, {{12, 42, a}, {12, -42, b}, {138, 42, c}, {138, -42, d}})};
}

const BankBlueprint small_bank = pallix::test::read_small_blueprint().banks[0]; // ±0.05, flat within 0.04

/// Where flatness is not what it is about: the straightedge lay flat along every line.
BankVerdict judged(const BankBlueprint& bank, const DeckMeasurement& m, double target, bool dark_left) {
    return judge_deck(bank, m, target, {dark_left, nullptr, Verdict::meets});
}

Verdict verdict_of(const BankVerdict& v, CheckKind kind) {
    for (const DeckCheck& c : v.checks)
        if (c.kind == kind)
            return c.verdict;
    throw std::logic_error("no such check");
}

} // namespace

TEST(DeckVerdict, WellInsideMeets) {
    const auto v = judged(small_bank, measured(200, 200.002, 200.001, 200.003, 0.002), 200, false);
    EXPECT_EQ(v.verdict, Verdict::meets);
    EXPECT_EQ(v.checks.size(), 3U);
}

// Four corners, or nine heights at one end, say nothing of what lies between: flat is what nine all over show, or a
// straightedge along its lines.
TEST(DeckVerdict, FlatIsNotSaidFromFewHeights) {
    const auto four = measured(200, 200.002, 200.001, 200.003, 0.002);
    const auto unseen = judge_deck(small_bank, four, 200, {});
    EXPECT_EQ(unseen.verdict, Verdict::cannot_tell);
    EXPECT_TRUE(unseen.flat_unseen);
    EXPECT_EQ(unseen.planned, Verdict::meets) << "no reason to cut";
    EXPECT_EQ(judge_deck(small_bank, four, 200, {false, nullptr, Verdict::fails}).planned, Verdict::fails);
    const auto nine = [&](double from, double by) {
        std::vector<pallix::metrology::Vec3> points;
        for (int i = 0; i < 3; ++i)
            for (const double v : {-42.0, 0.0, 42.0})
                points.push_back({from + by * i, v, 200});
        return judge_deck(small_bank, {DeckSource::readings, 1, 0.002, *evaluate_deck(small_bank, points)}, 200, {});
    };
    EXPECT_EQ(nine(12, 60).verdict, Verdict::meets);
    EXPECT_EQ(nine(12, 20).verdict, Verdict::cannot_tell) << "the rear half was not touched";
    const auto twisted = judge_deck(small_bank, measured(200.03, 199.97, 199.97, 200.03, 0.001), 200, {});
    EXPECT_EQ(twisted.planned, Verdict::fails) << "four are enough to show that it is not";
}

TEST(DeckVerdict, NearTheLimitCannotBeTold) {
    const auto v = judged(small_bank, measured(200.048, 200.047, 200.048, 200.047, 0.002), 200, false);
    EXPECT_EQ(verdict_of(v, CheckKind::highest_height), Verdict::cannot_tell); // 2 µm of room, 4 of guard band
    EXPECT_EQ(v.verdict, Verdict::cannot_tell);
}

TEST(DeckVerdict, OutsideFails) {
    EXPECT_EQ(judged(small_bank, measured(200.06, 200.05, 200.05, 200.05, 0.002), 200, false).verdict, Verdict::fails);
    EXPECT_EQ(verdict_of(judged(small_bank, measured(199.9, 199.9, 199.9, 199.9, 0.002), 200, false),
                         CheckKind::lowest_height),
              Verdict::fails);
}

// Least cut leaves a deck where its lowest place is: what meets that plan may be under the blueprint, or over it.
TEST(DeckVerdict, PlanAndBlueprintAreTwoStatements) {
    const auto under = judged(small_bank, measured(199.84, 199.84, 199.84, 199.842, 0.002), 199.84, false);
    EXPECT_EQ(under.planned, Verdict::meets);
    EXPECT_EQ(under.blueprint, Verdict::fails) << "0.16 under nominal, 0.05 is allowed";
    EXPECT_EQ(under.verdict, Verdict::fails);
    const auto over = judged(small_bank, measured(200.16, 200.16, 200.16, 200.162, 0.002), 200.16, false);
    EXPECT_EQ(over.verdict, Verdict::meets) << "nothing is spoiled";
    EXPECT_EQ(over.blueprint, Verdict::fails);
    EXPECT_FALSE(over.too_high()) << "as planned it is not";
    ASSERT_TRUE(over.check(CheckKind::highest_planned));
    EXPECT_NEAR(*over.check(CheckKind::highest_planned)->limits.upper, 200.21, 1e-9);
    EXPECT_NEAR(*over.check(CheckKind::highest_height)->limits.upper, 200.05, 1e-9);
    const auto near = judged(small_bank, measured(199.952, 199.952, 199.952, 199.953, 0.002), 199.952, false);
    EXPECT_EQ(near.verdict, Verdict::cannot_tell) << "2 µm over the least, 4 of guard band";
    EXPECT_EQ(near.planned, Verdict::meets) << "and no metal is called for because of it";
}

TEST(DeckVerdict, FlatnessOfATwist) {
    // Two opposite corners 60 µm over the other two: two edges against each other, the zone is 60 µm wide.
    const auto v = judged(small_bank, measured(200.03, 199.97, 199.97, 200.03, 0.001), 200, false);
    EXPECT_EQ(verdict_of(v, CheckKind::flatness), Verdict::fails);
    EXPECT_NEAR(v.checks[2].value, 0.06, 1e-6);
    EXPECT_NEAR(*v.checks[2].uncertainty, 0.001 * std::sqrt(2), 1e-12);
}

TEST(DeckVerdict, UnstatedUncertaintyProvesNothing) {
    EXPECT_EQ(judged(small_bank, measured(200, 200, 200, 200.001, std::nullopt), 200, false).verdict,
              Verdict::cannot_tell);
}

TEST(DeckVerdict, DarkPlacesFail) {
    EXPECT_EQ(judged(small_bank, measured(200, 200, 200, 200.001, 0.001), 200, true).verdict, Verdict::fails);
}

TEST(PairVerdict, ComparesWhatIsOverTheTargets) {
    const auto a = measured(200.01, 200.01, 200.01, 200.01, 0.003), b = measured(200, 200, 200, 200.0001, 0.004);
    const PairVerdict pair = judge_pair(a, 200, b, 200);
    EXPECT_NEAR(pair.difference, 0.01, 1e-4);
    EXPECT_NEAR(*pair.uncertainty, 0.005, 1e-12); // 3-4-5
    EXPECT_EQ(pair.verdict, Verdict::meets);      // 15 µm of room, 10 of guard band
    EXPECT_EQ(judge_pair(a, 199.99, b, 200).verdict, Verdict::cannot_tell);
    EXPECT_EQ(judge_pair(a, 199.96, b, 200).verdict, Verdict::fails);
}

TEST(TunnelVerdict, HoldsDiametersAgainstTheirWindow) {
    const auto evaluated = pallix::test::evaluate_small(pallix::test::small_log().text());
    ASSERT_TRUE(evaluated);
    EvaluationState state{1, 0.001, {}, *evaluated, ""};
    const Blueprint blueprint = pallix::test::read_small_blueprint();
    EXPECT_EQ(judge_tunnel(blueprint, state).overall, Verdict::meets); // 60.010 in 60.000 to 60.020
    state.evaluation.mains[1].diameter = 60.03;
    EXPECT_EQ(judge_tunnel(blueprint, state).mains[1].verdict, Verdict::fails);
    EXPECT_EQ(judge_tunnel(blueprint, state).overall, Verdict::fails);
    state.standard_uncertainty.reset();
    EXPECT_EQ(judge_tunnel(blueprint, state).overall, Verdict::cannot_tell);
}

// In size on the mean, and out of round by 0.03: it met, since roundness and taper were not looked at.
TEST(TunnelVerdict, JudgesRoundnessAndTaper) {
    const auto blueprint = pallix::test::read_small_blueprint(); // 60.000 to 60.020: shape within 0.010
    const auto evaluated = pallix::test::evaluate_small(pallix::test::small_log().text(), blueprint);
    EvaluationState state{1, 0.0005, {}, *evaluated, ""};
    ASSERT_EQ(judge_tunnel(blueprint, state).overall, Verdict::meets);
    state.evaluation.mains[0].roundness_mz = 0.015; // 0.030 across
    TunnelVerdict v = judge_tunnel(blueprint, state);
    EXPECT_EQ(v.mains[0].size, Verdict::meets);
    EXPECT_EQ(v.mains[0].roundness, Verdict::fails);
    EXPECT_EQ(v.mains[0].verdict, Verdict::fails);
    EXPECT_EQ(v.overall, Verdict::fails);
    state.evaluation.mains[0].roundness_mz = 0.010; // on the limit
    EXPECT_EQ(judge_tunnel(blueprint, state).mains[0].roundness, Verdict::cannot_tell);
    state.evaluation.mains[0].roundness_mz = 0.001;
    state.evaluation.mains[0].points = 3; // always on a circle
    EXPECT_EQ(judge_tunnel(blueprint, state).mains[0].roundness, Verdict::cannot_tell);
    state.evaluation.mains[0].points = 8;
    MainResult rear = state.evaluation.mains[0];
    rear.diameter = state.evaluation.mains[0].diameter + 0.008;
    state.evaluation.mains[0].diameter -= 0.008;
    state.evaluation.mains.insert(state.evaluation.mains.begin() + 1, rear);
    v = judge_tunnel(blueprint, state);
    EXPECT_NEAR(v.mains[0].taper_value, 0.016, 1e-12);
    EXPECT_EQ(v.mains[0].size, Verdict::meets) << "each end is in size";
    EXPECT_EQ(v.mains[0].taper, Verdict::fails) << "0.016 over its length, at most 0.010";
}

TEST(TunnelVerdict, ShowsTheValueItJudges) {
    const Blueprint b = pallix::test::read_small_blueprint();
    EvaluationState state;
    state.sequence = 4;
    state.standard_uncertainty = 0.001;
    state.evaluation = *pallix::test::evaluate_small(pallix::test::small_log().text());
    state.evaluation.tunnel.straightness_lsq = 0.030;
    const TunnelVerdict touched = judge_tunnel(b, state);
    EXPECT_EQ(touched.straightness_value, 0.030);
    Certainty drawn{4, {}};
    drawn.values.set("tunnel.straightness_lsq", 0.001);
    drawn.values.set_without_noise("tunnel.straightness_lsq", 0.021); // 0.0254 at most
    drawn.values.set("mains[0].roundness_mz", 0.0005);
    drawn.values.set_without_noise("mains[0].roundness_mz", 0.004);
    const TunnelVerdict judged = judge_tunnel(b, state, &drawn);
    EXPECT_EQ(judged.straightness, Verdict::meets);
    EXPECT_EQ(judged.straightness_value, 0.021) << "not the 0.030 that would fail";
    EXPECT_EQ(judged.mains[0].roundness_value, 0.004);
    drawn.sequence = 3;
    EXPECT_EQ(judge_tunnel(b, state, &drawn).straightness_value, 0.030) << "drawn of another probing";
}
