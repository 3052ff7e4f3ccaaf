// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_belief.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pallix::metrology;

namespace {

/// A strip of nodes 10 mm apart, heights seen at some of them.
SurfaceQuestion strip(const std::vector<HeightSeen>& seen) {
    SurfaceQuestion q;
    for (int i = 0; i <= 20; ++i)
        for (int j = 0; j <= 2; ++j)
            q.nodes.push_back({10.0 * i, 20.0 * j});
    q.seen = seen;
    return q;
}

std::vector<HeightSeen> flat_grid(double height, std::optional<double> u) {
    std::vector<HeightSeen> seen;
    for (int i = 0; i <= 10; ++i)
        for (int j = 0; j <= 2; ++j)
            seen.push_back({{20.0 * i, 20.0 * j}, height + 0.0001 * ((7 * i + 3 * j) % 5 - 2), u});
    return seen;
}

std::size_t node_at(const SurfaceQuestion& q, Vec2 place) {
    for (std::size_t i = 0; i < q.nodes.size(); ++i)
        if (norm(q.nodes[i] - place) < 1e-9)
            return i;
    ADD_FAILURE() << "no such node";
    return 0;
}

CutSeen cut_at(const SurfaceQuestion& q, double depth, Touch all) {
    return {depth, 0.001, std::vector<Touch>(q.nodes.size(), all), {}};
}

} // namespace

TEST(SurfaceBelief, NothingIsBelievedWithoutAHeight) {
    EXPECT_FALSE(believe(strip({})));
    SurfaceQuestion q;
    q.seen = flat_grid(5, 0.001);
    EXPECT_FALSE(believe(q)) << "nor without a place to think of";
}

TEST(SurfaceBelief, WhereItWasMeasuredItIsSure) {
    std::vector<HeightSeen> ends = flat_grid(200, 0.001);
    std::erase_if(ends, [](const HeightSeen& h) { return h.place.x > 70 && h.place.x < 130; });
    const SurfaceQuestion q = strip(ends);
    const auto b = believe(q);
    ASSERT_TRUE(b);
    const std::size_t seen = node_at(q, {40, 20}), between = node_at(q, {100, 20});
    EXPECT_NEAR(b->mean[seen], 200, 0.002);
    EXPECT_NEAR(b->mean[between], 200, 0.01);
    EXPECT_LT(b->deviation[seen], 0.002);
    EXPECT_GT(b->deviation[between], b->deviation[seen]) << "between measured places less is known";
}

TEST(SurfaceBelief, TheSameQuestionHasTheSameAnswer) {
    const SurfaceQuestion q = strip(flat_grid(200, 0.001));
    EXPECT_EQ(believe(q)->lowest.low, believe(q)->lowest.low);
    EXPECT_EQ(believe(q)->mean, believe(q)->mean);
}

TEST(SurfaceBelief, ASlopeCarriesOnPastTheMeasuredPlaces) {
    std::vector<HeightSeen> seen;
    for (int i = 0; i <= 5; ++i)
        for (int j = 0; j <= 2; ++j)
            seen.push_back({{20.0 * i, 20.0 * j}, 200 + 0.0005 * 20 * i, 0.0005});
    const SurfaceQuestion q = strip(seen);
    const auto b = believe(q);
    const std::size_t end = node_at(q, {200, 20});
    EXPECT_NEAR(b->mean[end], 200.1, 4 * b->deviation[end]) << "measured to 100 only";
    EXPECT_GT(b->mean[end], 200.06);
    EXPECT_GT(b->deviation[end], 0.003);
    EXPECT_GT(b->lowest_share[node_at(q, {0, 0})] + b->lowest_share[node_at(q, {0, 20})] +
                  b->lowest_share[node_at(q, {0, 40})],
              0.5)
        << "its low end decides";
}

TEST(SurfaceBelief, ACutThatTouchedEverywhereBoundsTheLowestPlace) {
    SurfaceQuestion q = strip(flat_grid(200, 0.003));
    const auto before = believe(q);
    q.cuts.push_back(cut_at(q, 0.009, Touch::bright));
    const auto after = believe(q);
    EXPECT_LT(before->lowest.low, after->lowest.low);
    EXPECT_NEAR(after->cut_heights[0], before->highest.middle - 0.009, 0.003);
    for (const double low : after->lowest_draws)
        EXPECT_GT(low, after->cut_heights[0] - 0.012);
}

TEST(SurfaceBelief, ADarkPlaceLiesBelowTheCut) {
    SurfaceQuestion q = strip(flat_grid(200, 0.001));
    const auto before = believe(q);
    CutSeen cut = cut_at(q, 0.010, Touch::bright);
    const std::size_t dark = node_at(q, {90, 20}); // between measured places: it may lie low
    cut.touched[dark] = Touch::unknown;
    cut.marks = {{dark}};
    q.cuts.push_back(cut);
    const auto after = believe(q);
    EXPECT_GT(before->mean[dark], 199.99 + 0.005);
    EXPECT_LT(after->mean[dark], before->mean[dark] - 0.001) << "its patch lies below; its middle with it, or beside";
    EXPECT_EQ(std::ranges::max_element(after->lowest_share) - after->lowest_share.begin(),
              static_cast<std::ptrdiff_t>(dark))
        << "no place is as likely the lowest";
    EXPECT_GT(after->lowest_share[dark], 0.3) << "some other, between touches and paint, may lie lower yet";
    EXPECT_GT(after->mean[node_at(q, {30, 20})], after->cut_heights[0]) << "the others stay where they were";
}

TEST(SurfaceBelief, UnstatedUncertaintyIsToldFromTheScatter) {
    std::vector<HeightSeen> rough = flat_grid(200, {});
    for (std::size_t i = 0; i < rough.size(); ++i)
        rough[i].height += 0.008 * (static_cast<double>((i * 7919) % 11) / 5.0 - 1);
    const auto quiet = believe(strip(flat_grid(200, {}))), loud = believe(strip(rough));
    const SurfaceQuestion q = strip({});
    EXPECT_GT(loud->deviation[node_at(q, {100, 20})], 1.5 * quiet->deviation[node_at(q, {100, 20})]);
}
