// SPDX-License-Identifier: GPL-3.0-or-later
// The worked example of AIAG, Measurement Systems Analysis, 4th edition: 10 parts, 3 people, 3 trials.
#include "metrology/gauge_study.h"

#include "reference_data.h"

#include <gtest/gtest.h>
#include <random>

using namespace pallix::metrology;

namespace {

GaugeStudy worked_example() {
    const std::string text = pallix::test::read_file(std::string(PALLIX_TEST_DATA) + "/reference/gauge_study.csv");
    GaugeStudy study;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        if (line.empty() || line[0] == '#')
            continue;
        std::vector<double> parts;
        std::istringstream cells(line);
        for (std::string cell; std::getline(cells, cell, ',');)
            parts.push_back(pallix::test::reference_number(cell));
        if (study.people.empty() || study.people.back().size() == 3)
            study.people.emplace_back();
        study.people.back().push_back(std::move(parts));
    }
    return study;
}

} // namespace

TEST(GaugeStudy, RangeFactorsAreThoseOfTheTables) {
    for (const auto& [n, d2, d3] : {std::tuple(2, 1.12838, 0.85250),
                                    {3, 1.69257, 0.88837},
                                    {4, 2.05875, 0.87981},
                                    {5, 2.32593, 0.86408},
                                    {10, 3.07751, 0.79705}}) {
        const RangeFactors f = range_factors(static_cast<std::size_t>(n));
        EXPECT_NEAR(f.d2, d2, 6e-6) << n;
        EXPECT_NEAR(f.d3, d3, 6e-6) << n;
    }
    EXPECT_NEAR(range_factors(2).d2_star(), 1.41421, 6e-6);
    EXPECT_NEAR(range_factors(3).d2_star(), 1.91154, 6e-5);
    EXPECT_NEAR(range_factors(10).d2_star(), 3.17905, 6e-5);
}

TEST(GaugeStudy, TheWorkedExampleByBothMethods) {
    const auto result = study_gauge(worked_example());
    ASSERT_TRUE(result);
    // Printed figures rest on K factors of four digits.
    const GaugeScatter& r = result->by_range;
    EXPECT_NEAR(r.repeat, 0.201857, 2e-5);
    EXPECT_NEAR(r.people, 0.229667, 5e-5);
    EXPECT_NEAR(r.gauge, 0.305766, 5e-5);
    EXPECT_NEAR(r.parts, 1.104596, 2e-4);
    EXPECT_NEAR(r.all, 1.146135, 2e-4);
    EXPECT_NEAR(r.share(r.repeat), 17.61, 0.01);
    EXPECT_NEAR(r.share(r.people), 20.04, 0.01);
    EXPECT_NEAR(r.share(r.gauge), 26.68, 0.01);
    EXPECT_NEAR(r.share(r.parts), 96.38, 0.01);
    EXPECT_EQ(r.sorts(), 5);
    EXPECT_NEAR(result->f_interaction, 0.43372, 5e-6);
    EXPECT_TRUE(result->pooled);
    const GaugeScatter& v = result->by_variance;
    EXPECT_NEAR(v.repeat, 0.199933, 5e-7);
    EXPECT_NEAR(v.people, 0.226838, 5e-7);
    EXPECT_NEAR(v.parts, 1.042327, 5e-7);
    EXPECT_NEAR(v.gauge, 0.302372, 5e-7);
    EXPECT_NEAR(v.all, 1.085300, 5e-7);
    EXPECT_NEAR(v.share(v.gauge), 27.8607, 5e-5);
}

// Where people and parts do interact, both belong to the people: known scatter comes back.
TEST(GaugeStudy, KnownScatterComesBack) {
    std::mt19937_64 random(4);
    std::normal_distribution<double> one;
    double repeat = 0, people = 0, parts = 0;
    constexpr int times = 300;
    for (int round = 0; round < times; ++round) {
        GaugeStudy study;
        std::vector<double> true_parts(10);
        for (double& part : true_parts)
            part = 10 * one(random);
        for (int i = 0; i < 5; ++i) {
            const double person = 2 * one(random);
            std::vector<double> apart(10);
            for (double& a : apart)
                a = 2 * one(random);
            auto& trials = study.people.emplace_back();
            for (int j = 0; j < 3; ++j) {
                auto& row = trials.emplace_back();
                for (std::size_t k = 0; k < 10; ++k)
                    row.push_back(true_parts[k] + person + apart[k] + one(random));
            }
        }
        const GaugeScatter v = study_gauge(study)->by_variance;
        repeat += v.repeat * v.repeat / times;
        people += v.people * v.people / times;
        parts += v.parts * v.parts / times;
    }
    EXPECT_NEAR(repeat, 1, 0.03);
    EXPECT_NEAR(people, 8, 0.8) << "two squared and two squared";
    EXPECT_NEAR(parts, 100, 8);
}

TEST(GaugeStudy, WhatIsNotBalancedIsNone) {
    EXPECT_FALSE(study_gauge({}));
    EXPECT_FALSE(study_gauge({{{{1, 2}, {1, 2}}}})) << "one person";
    EXPECT_FALSE(study_gauge({{{{1, 2}, {1, 2}}, {{1, 2}, {1}}}}));
    const auto nothing = study_gauge({{{{1, 1}, {1, 1}}, {{1, 1}, {1, 1}}}});
    ASSERT_TRUE(nothing) << "no scatter at all";
    EXPECT_EQ(nothing->by_variance.all, 0);
}
