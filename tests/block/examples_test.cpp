// SPDX-License-Identifier: GPL-3.0-or-later
// Two blocks evaluated by an independent implementation: tests/data/examples holds its answers.
#include "block/evaluation_uncertainty.h"
#include "reference_data.h"

#include <nlohmann/json.hpp>

using namespace pallix::block;
using nlohmann::json;

namespace {

Evaluation evaluate_example(const std::string& name, Blueprint* blueprint_out = nullptr) {
    const auto blueprint =
        read_blueprint(pallix::test::read_file(pallix::test::example(name + "/block.pallix-blueprint.json")), "block");
    EXPECT_TRUE(blueprint);
    const std::vector<NamedText> logs{
        {"probe.csv", pallix::test::read_file(pallix::test::example(name + "/probe.csv"))}};
    const auto probe = read_probe_logs(logs, *blueprint);
    EXPECT_TRUE(probe);
    auto evaluation = evaluate(*blueprint, *probe);
    EXPECT_TRUE(evaluation);
    if (blueprint_out)
        *blueprint_out = *blueprint;
    return *evaluation;
}

/// Compares every number of `expected` with ours; lengths come in `unit`, angles and slopes as they are.
int compare(const json& expected, const json& ours, double per_unit, const std::string& at) {
    int compared = 0;
    if (expected.is_object()) {
        for (const auto& [key, value] : expected.items()) {
            if (!ours.contains(key)) {
                ADD_FAILURE() << at << "." << key << " is missing";
                continue;
            }
            const bool length = key != "slope_u" && key != "tilt_v" && key != "angle_error_deg" && key != "points" &&
                                key != "lean_u" && key != "lean_v" && key != "cylinder";
            compared += compare(value, ours[key], length ? per_unit : 1, at + "." + key);
        }
    } else if (expected.is_array()) {
        EXPECT_EQ(expected.size(), ours.size()) << at;
        for (std::size_t i = 0; i < expected.size() && i < ours.size(); ++i)
            compared += compare(expected[i], ours[i], per_unit, at + "[" + std::to_string(i) + "]");
    } else if (expected.is_number()) {
        EXPECT_NEAR(expected.get<double>(), ours.get<double>() * per_unit, 1e-6) << at;
        ++compared;
    } else {
        EXPECT_EQ(expected, ours) << at;
        ++compared;
    }
    return compared;
}

} // namespace

class Example : public testing::TestWithParam<std::tuple<std::string, Unit>> {};

TEST_P(Example, IsMetToAMillionthOfAMillimetre) {
    const auto& [name, unit] = GetParam();
    const json ours = json::parse(evaluation_json(evaluate_example(name), unit));
    const json expected =
        json::parse(pallix::test::read_file(pallix::test::example(name + "/expected-evaluation.json")));
    int compared = 0;
    for (const char* part : {"tunnel", "mains", "cam", "decks", "dowels", "bores", "lifters"}) {
        ASSERT_TRUE(expected.contains(part)) << part;
        compared += compare(expected[part], ours[part], mm_per(unit), part);
    }
    EXPECT_GT(compared, 60);
    EXPECT_EQ(ours["format"], "pallix-evaluation");
    EXPECT_EQ(ours["unit"], unit_name(unit));
}

INSTANTIATE_TEST_SUITE_P(Both, Example,
                         testing::Combine(testing::Values(std::string("v6"), std::string("i4")),
                                          testing::Values(Unit::mm, Unit::inch)),
                         [](const auto& instance) {
                             return std::get<0>(instance.param) + "_" +
                                    std::string(unit_name(std::get<1>(instance.param)));
                         });

TEST(ExampleOutput, CarriesTwelveSignificantDigits) {
    const json ours = json::parse(evaluation_json(evaluate_example("v6"), Unit::mm));
    EXPECT_NEAR(ours["decks"][0]["height_min"].get<double>(), 288.3746112578386, 1e-9);
}

TEST(ExampleFrame, MeetsItsOwnDefinition) {
    Blueprint blueprint;
    const Evaluation e = evaluate_example("v6", &blueprint);
    EXPECT_NEAR(dot(e.frame.x, e.frame.z), 0, 1e-14);
    EXPECT_NEAR(norm(cross(e.frame.z, e.frame.x) - e.frame.y), 0, 1e-14);
    ASSERT_TRUE(e.cam); // clocked by the cam: its mean lies at the blueprint's angle
    EXPECT_NEAR(e.cam->y / e.cam->z, blueprint.cam->y / blueprint.cam->z, 1e-12);
    EXPECT_EQ(e.dowels.front().id, blueprint.origin_dowel);
    EXPECT_NEAR(e.dowels.front().u, 0, 1e-12) << "the origin dowel stands at 0";
}
