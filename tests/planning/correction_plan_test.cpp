// SPDX-License-Identifier: GPL-3.0-or-later
// Plans of two blocks by an independent implementation (tests/data/examples), and each part by hand.
#include "planning/common/correction_plan.h"

#include "block/small_block.h"
#include "reference_data.h"

#include <nlohmann/json.hpp>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using nlohmann::json;

namespace {

std::string example_file(const std::string& name) {
    return test::read_file(test::example(name));
}

CorrectionPlan plan_example(const std::string& block, const std::string& policy_file) {
    const auto blueprint = read_blueprint(example_file(block + "/block.pallix-blueprint.json"), "b");
    EXPECT_TRUE(blueprint);
    const std::vector<NamedText> logs{{"p.csv", example_file(block + "/probe.csv")}};
    const auto e =
        read_probe_logs(logs, *blueprint).and_then([&](const ProbeSet& set) { return evaluate(*blueprint, set); });
    EXPECT_TRUE(e);
    const auto policy = read_policy(example_file(policy_file), policy_file, *blueprint);
    EXPECT_TRUE(policy) << (policy ? "" : policy.error().front().text());
    return plan_corrections(*blueprint, *e, *policy);
}

int compare(const json& expected, const json& ours, const std::string& at) {
    int compared = 0;
    if (expected.is_object()) {
        for (const auto& [key, value] : expected.items()) {
            if (!ours.contains(key)) {
                ADD_FAILURE() << at << "." << key << " is missing";
                continue;
            }
            compared += compare(value, ours[key], at + "." + key);
        }
    } else if (expected.is_array()) {
        EXPECT_EQ(expected.size(), ours.size()) << at;
        for (std::size_t i = 0; i < expected.size() && i < ours.size(); ++i)
            compared += compare(expected[i], ours[i], at + "[" + std::to_string(i) + "]");
    } else if (expected.is_number()) {
        EXPECT_NEAR(expected.get<double>(), ours.get<double>(), 1e-5) << at;
        ++compared;
    } else {
        EXPECT_EQ(expected, ours) << at;
        ++compared;
    }
    return compared;
}

Faults faults_of(const std::string& text) {
    const auto read = read_policy(text, "policy.json", test::read_small_blueprint());
    return read ? Faults{} : read.error();
}

} // namespace

TEST(ExamplePlans, AreMetToAHundredthOfAMicrometre) {
    for (const std::string block : {"v6", "i4"})
        for (const auto& [policy, expected] : {std::pair("policy.json", "expected-plan.json"),
                                               std::pair("policy-bore.json", "expected-plan-bore.json")}) {
            const json ours = json::parse(plan_json(plan_example(block, policy)));
            EXPECT_GT(compare(json::parse(example_file(block + "/" + expected)), ours, block + " " + expected), 30);
        }
}

TEST(Policy, DefaultsAreThoseOfTheFormat) {
    const auto policy = read_policy(R"({"format":"pallix-policy","version":1})", "p", test::read_small_blueprint());
    ASSERT_TRUE(policy);
    EXPECT_EQ(policy->tunnel.method, TunnelMethod::hone);
    EXPECT_FALSE(policy->tunnel.target_diameter);
    EXPECT_EQ(policy->tunnel.max_cap_cut, 0.5);
    EXPECT_EQ(policy->tunnel.max_rise, 0.15);
    EXPECT_EQ(policy->tunnel.max_side, 0.05);
    EXPECT_TRUE(policy->decks.equal);
    EXPECT_EQ(policy->bores.centre, CentreSchool::top);
    EXPECT_TRUE(policy->bores.oversizes.empty());
}

TEST(Policy, LengthsComeInItsUnit) {
    const auto policy = read_policy(
        R"({"format":"pallix-policy","version":1,"unit":"in","tunnel":{"target_diameter":2.3625,"max_rise":0.002},
            "bores":{"oversizes":[0,0.03],"margin":0.001,"pits":{"bore.C.1":0.004}}})",
        "p", test::read_small_blueprint());
    ASSERT_TRUE(policy);
    EXPECT_NEAR(*policy->tunnel.target_diameter, 60.0075, 1e-9);
    EXPECT_NEAR(policy->tunnel.max_rise, 0.0508, 1e-12);
    EXPECT_NEAR(policy->bores.oversizes[1], 0.762, 1e-12);
    EXPECT_NEAR(policy->bores.pits.begin()->second, 0.1016, 1e-12);
}

TEST(Policy, FaultsNamePlaceAndExpectation) {
    const Faults wrong = faults_of(
        "{\"format\":\"pallix-policy\",\"version\":1,\n\"tunnel\":{\"method\":\"file\"},\n\"bores\":{\"margin\":-1}}");
    ASSERT_EQ(wrong.size(), 2U);
    EXPECT_EQ(wrong[0].line, 2);
    EXPECT_NE(wrong[0].expected.find("\"hone\" or \"bore\""), std::string::npos);
    EXPECT_EQ(wrong[1].line, 3);
    EXPECT_EQ(faults_of(R"({"format":"pallix-policy","version":1,"decks":{"school":"height"}})").size(), 1U);
    EXPECT_EQ(
        faults_of(R"({"format":"pallix-policy","version":1,"bores":{"pits":{"bore.R.9":0.1,"main.1":1}}})").size(), 2U);
    EXPECT_FALSE(faults_of("{").empty());
    EXPECT_FALSE(faults_of("{}").empty());
}

TEST(DeckCorrections, FollowTheTunnelAsItWillBe) { // bank at 0°: the deck is lower by what the line rises
    const Blueprint blueprint = test::read_small_blueprint();
    auto deck =
        evaluate_deck(blueprint.banks[0], {{0, -40, 200.1}, {150, -40, 200.2}, {0, 40, 200.3}, {150, 40, 200.4}});
    ASSERT_TRUE(deck);
    const CentreLine line{0.05, 0, 0.02, 0.0002}; // 0.02 at the front, 0.05 at the rear
    const auto least = correct_decks(blueprint, {*deck}, line, {});
    EXPECT_NEAR(least[0].low, 200.08, 1e-9);
    EXPECT_NEAR(least[0].high, 200.35, 1e-9);
    EXPECT_NEAR(least[0].cut(), 0.27, 1e-9);
    EXPECT_TRUE(least[0].cleans());
    const auto given = correct_decks(blueprint, {*deck}, line, {TargetSchool::height, true, 200.1});
    EXPECT_FALSE(given[0].cleans());
    EXPECT_NEAR(given[0].short_by, 0.02, 1e-9);
    EXPECT_NEAR(correct_decks(blueprint, {*deck}, line, {TargetSchool::blueprint, true, {}})[0].target, 200, 1e-12);
}

TEST(BoreCorrections, ChooseTheSmallestOversizeThatHolds) {
    test::LogWriter log = test::small_log();
    for (int i = 0; i < 32; ++i) { // a bore of 60.2 at the blueprint's centre
        const double a = 2 * std::numbers::pi * i / 32;
        log.touch("bore.C.1", {75 + 30.1 * std::cos(a), 30.1 * std::sin(a), 190}, "top");
    }
    const Blueprint b = test::read_small_blueprint();
    const auto e = test::evaluate_small(log.text(), b);
    ASSERT_TRUE(e);
    const auto plan = [&](BoresPolicy policy, CentreLine line = {}) { return correct_bores(b, *e, line, policy); };
    EXPECT_NEAR(plan({}).each[0].clean, 60.2, 1e-6);
    EXPECT_FALSE(plan({}).oversize) << "no list, no oversize";
    EXPECT_EQ(plan({CentreSchool::top, {1.0, 0.5, 0.25, 0}, 0.02, {}}).oversize, 0.25) << "in any order";
    EXPECT_EQ(plan({CentreSchool::top, {0, 0.25, 0.5}, 0.06, {}}).oversize, 0.5);
    EXPECT_FALSE(plan({CentreSchool::top, {0, 0.25}, 0.06, {}}).oversize);
    const BoresPlan pitted = plan({CentreSchool::top, {0.25, 0.5}, 0, {{b.bores[0].id, 0.1}}});
    EXPECT_NEAR(pitted.each[0].needed, 60.4, 1e-6);
    EXPECT_EQ(pitted.oversize, 0.5);
    // Sideways step of the line by 0.1: the hole then lies 0.1 off its blueprint, and twice that is needed about it.
    EXPECT_NEAR(plan({CentreSchool::blueprint, {}, 0, {}}, {0.1, 0, 0, 0}).each[0].clean, 60.4, 1e-6);
    EXPECT_NEAR(plan({CentreSchool::free, {}, 0, {}}, {0.1, 0, 0, 0}).each[0].clean, 60.2, 1e-6);
    EXPECT_EQ(plan({}).set_by->text(), "bore.C.1");
}

TEST(Roll, IsTheCamsTurnAboutTheNewLine) {
    const Blueprint b = test::read_small_blueprint();
    const auto e = test::evaluate_small(test::small_log().text(), b);
    const auto mains = housings_of(b, *e, {});
    ASSERT_EQ(mains.size(), 2U);
    EXPECT_EQ(mains[0].points.size(), 8U);
    EXPECT_NEAR(mains[0].target_diameter, 60.01, 1e-9);
    EXPECT_NEAR(roll_after(b, *e, mains, {0.1, 0, 0.3, 0}), -0.001, 1e-9) << "0.1 aside, the cam 100 above";
    EXPECT_EQ(roll_after(test::read_small_blueprint("decks"), *e, mains, {0.1, 0, 0, 0}), 0);
}
