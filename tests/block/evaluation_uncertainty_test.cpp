// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation_uncertainty.h"

#include "block/evaluation_values.h"
#include "metrology/monte_carlo.h"
#include "small_block.h"

#include <nlohmann/json.hpp>

using namespace pallix::block;
using nlohmann::json;
using pallix::metrology::MonteCarloRun;
using pallix::metrology::Vec3;
using pallix::test::LogWriter;

namespace {

constexpr double touch = 0.002; // mm

/// The small block with a cylinder of three levels, exact.
LogWriter whole_log() {
    LogWriter log = pallix::test::small_log();
    for (const auto& [level, w] : {std::pair("top", 190.0), std::pair("middle", 140.0), std::pair("bottom", 90.0)})
        for (int i = 0; i < 8; ++i) {
            const double a = 2 * std::numbers::pi * (i + 0.3) / 8;
            log.touch("bore.C.1", {75 + 30 * std::cos(a), 30 * std::sin(a), w}, level);
        }
    return log;
}

ProbeSet probe_of(const Blueprint& blueprint, const std::string& log) {
    const std::vector<NamedText> logs{{"log.csv", log}};
    const auto set = read_probe_logs(logs, blueprint);
    EXPECT_TRUE(set) << set.error().front().text();
    return *set;
}

MonteCarloRun run_of(std::size_t trials) {
    MonteCarloRun run;
    run.trials = trials;
    return run;
}

/// Every value's standard deviation over probings with noise on every touch, in the order of `each_value`.
std::vector<double> spread_of_values(const Blueprint& b, const ProbeSet& probe, std::size_t trials) {
    const auto numbers_of = [&](const ProbeSet& set) {
        std::vector<double> numbers;
        const auto e = evaluate(b, set);
        EXPECT_TRUE(e);
        each_value(*e, [&](const ValuePlace&, const Field& field) { numbers.push_back(field.value); });
        return numbers;
    };
    const std::size_t count = numbers_of(probe).size();
    const auto drawn = pallix::metrology::monte_carlo(
        count,
        [&](pallix::metrology::Deviates& draw, std::span<double> outputs) {
            ProbeSet noisy = probe;
            for (Section& s : noisy.sections)
                for (Touch& t : s.touches)
                    t.position = t.position + touch * Vec3{draw.normal(), draw.normal(), draw.normal()};
            std::ranges::copy(numbers_of(noisy), outputs.begin());
            return true;
        },
        run_of(trials));
    std::vector<double> spread;
    for (const auto& distribution : *drawn)
        spread.push_back(distribution.standard_deviation);
    return spread;
}

} // namespace

TEST(Propagation, SizesByHand) { // 8 touches round: the radius is their mean, u(diameter) = 2·u/√8; centre u·√(2/8)
    const Blueprint b = pallix::test::read_small_blueprint();
    const Uncertainties u = propagate(b, probe_of(b, whole_log().text()), touch);
    EXPECT_NEAR(*u.of("mains[0].diameter"), 2 * touch / std::sqrt(8.0), 1e-6);
    EXPECT_NEAR(*u.of("bores[0].levels[1].diameter"), 2 * touch / std::sqrt(8.0), 1e-6);
    EXPECT_NEAR(*u.of("bores[0].taper"), 2 * touch / 2, 1e-6) << "√2 of one size";
    EXPECT_NEAR(*u.of("dowels[0].diameter"), 2 * touch / std::sqrt(6.0), 1e-6);
    // The cam's distance from the axis at x 20, where the axis is known by main 1 alone: √(2/8 + 2/8) of a touch.
    EXPECT_NEAR(*u.of("cam.distance"), touch * std::sqrt(0.5), 1e-5);
    // Six touches and the axis, which is clocked by the cam: more than the touches alone, u/√6.
    EXPECT_GT(*u.of("decks[0].height_mean"), touch / std::sqrt(6.0));
    EXPECT_FALSE(u.of("decks[0].flatness_mz")) << "an extreme is drawn, not propagated";
    EXPECT_FALSE(u.of("mains[0].nothing"));
}

TEST(Propagation, AgreesWithDrawsForEveryClocking) {
    for (const char* clocking : {"cam", "decks", "panrail"}) {
        const Blueprint b = pallix::test::read_small_blueprint(clocking);
        LogWriter log = whole_log();
        for (const double x : {0.0, 70.0, 140.0})
            for (const double y : {-80.0, 80.0})
                log.touch("panrail", {x, y, -60});
        const ProbeSet probe = probe_of(b, log.text());
        const Uncertainties propagated = propagate(b, probe, touch);
        const auto e = evaluate(b, probe);
        ASSERT_TRUE(e);
        const std::vector<double> drawn = spread_of_values(b, probe, 3000);
        std::size_t k = 0;
        int compared = 0;
        each_value(*e, [&](const ValuePlace& place, const Field& field) {
            const double d = drawn[k++];
            if (field.follows != Follows::smoothly)
                return;
            const std::string address = place.address(field.key);
            const double p = *propagated.of(address);
            if (p < 1e-9) { // fixed by the frame's definition: 0 either way, or of second order
                EXPECT_LT(d, 1e-5) << address;
                return;
            }
            EXPECT_NEAR(d / p, 1, 0.07) << clocking << " " << address; // 3000 draws know it to 1.3 %
            ++compared;
        });
        EXPECT_GT(compared, 30);
    }
}

TEST(Draws, GiveExtremesTheirUncertainty) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const auto u = uncertainties_of(b, probe_of(b, whole_log().text()), {touch, true}, run_of(300));
    ASSERT_TRUE(u);
    const auto flat = u->of("decks[0].flatness_mz");
    ASSERT_TRUE(flat);
    EXPECT_GT(*flat, 0.2 * touch);
    EXPECT_LT(*flat, 2 * touch);
    EXPECT_TRUE(u->of("bores[0].clean_blueprint"));
    EXPECT_TRUE(u->without_noise("bores[0].clean_blueprint"));
    EXPECT_FALSE(u->without_noise("mains[0].diameter")) << "the value itself is what is known best of it";
    EXPECT_NEAR(*u->of("mains[0].diameter"), 2 * touch / std::sqrt(8.0), 1e-6) << "smooth values stay propagated";
}

TEST(Draws, CanBeCancelled) {
    const Blueprint b = pallix::test::read_small_blueprint();
    std::atomic<bool> cancelled = true;
    MonteCarloRun run = run_of(1000);
    run.cancelled = &cancelled;
    EXPECT_FALSE(uncertainties_of(b, probe_of(b, whole_log().text()), {touch, true}, run));
}

TEST(TouchUncertainties, ComeFromTheAskerTheLogOrTheScatter) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const auto found = [&](const std::string& text, std::optional<double> stated) {
        const ProbeSet probe = probe_of(b, text);
        return touch_uncertainty(probe, *evaluate(b, probe), stated);
    };
    const std::string plain = whole_log().text();
    const std::string stating = "# touch_uncertainty: 0.0031\n" + plain;
    EXPECT_EQ(found(stating, 0.004)->value, 0.004);
    EXPECT_EQ(found(stating, {})->value, 0.0031);
    EXPECT_TRUE(found(stating, {})->stated);
    EXPECT_FALSE(found(plain, {})->stated);
    EXPECT_NEAR(found(plain, {})->value, 0, 1e-7) << "an exact block scatters by its log's rounding only";
    EXPECT_NEAR(found("# unit: in\n# touch_uncertainty: 0.0001\n" + plain.substr(plain.find("setup,")), {})->value,
                0.00254, 1e-12)
        << "in the log's unit";
}

TEST(Json, CarriesUncertaintiesUnderTheSameNamesAndLeavesTheRestAlone) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const ProbeSet probe = probe_of(b, whole_log().text());
    const Evaluation e = *evaluate(b, probe);
    const auto u = uncertainties_of(b, probe, {touch, true}, run_of(60));
    const json without = json::parse(evaluation_json(e, Unit::inch)),
               with = json::parse(evaluation_json(e, Unit::inch, &*u));
    EXPECT_FALSE(without["mains"][0].contains("uncertainty"));
    EXPECT_NEAR(with["touch_uncertainty"]["value"].get<double>(), touch / 25.4, 1e-12);
    EXPECT_EQ(with["touch_uncertainty"]["source"], "stated");
    for (const char* list : {"mains", "decks", "dowels", "bores"})
        for (const json& item : with[list])
            for (const auto& [key, value] : item["uncertainty"].items()) {
                ASSERT_TRUE(item.contains(key)) << list << " " << key;
                EXPECT_GE(value.get<double>(), 0);
            }
    EXPECT_NEAR(with["bores"][0]["levels"][0]["uncertainty"]["diameter"].get<double>(),
                2 * touch / std::sqrt(8.0) / 25.4, 1e-7);
    EXPECT_NEAR(with["decks"][0]["uncertainty"]["slope_u"].get<double>(), u->of("decks[0].slope_u").value(), 1e-15)
        << "a ratio has no unit";
    json stripped = with;
    stripped.erase("touch_uncertainty");
    for (const char* list : {"mains", "decks", "dowels", "bores"})
        for (json& item : stripped[list]) {
            item.erase("uncertainty");
            item.erase("without_noise");
            if (item.contains("levels"))
                for (json& level : item["levels"])
                    for (const char* key : {"uncertainty", "without_noise"})
                        level.erase(key);
        }
    for (const char* object : {"tunnel", "cam"})
        for (const char* key : {"uncertainty", "without_noise"})
            stripped[object].erase(key);
    EXPECT_EQ(stripped, without);
}
