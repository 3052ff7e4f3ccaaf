// SPDX-License-Identifier: GPL-3.0-or-later
// Zones and extremes: flatness, roundness, straightness, what cleans up. The truth is the same block touched at the
// same places without noise; it must lie within two standard uncertainties of the value without noise.
#include "block/evaluation_uncertainty.h"
#include "block/evaluation_values.h"
#include "block/small_block.h"
#include "certainty/coverage.h"
#include "metrology/monte_carlo.h"
#include "metrology/uncertainty.h"
#include "workshop/harbour.h"

#include <cmath>
#include <functional>
#include <gmock/gmock.h>
#include <numbers>
#include <random>

using namespace pallix;
using namespace pallix::block;
using metrology::Vec2;
using metrology::Vec3;

namespace {

using test::Dice;
using test::even;
using test::normal;

using Form = std::function<double(double, double)>; ///< mm, of a place

/// Decks as a shop gets them, in mm over a length and width from −1 to 1.
Form deck_form(const std::string& kind, Dice& dice) {
    const double size = std::exp(even(dice, std::log(0.003), std::log(0.05)));
    const double x = even(dice, -0.9, 0.9), y = even(dice, -0.9, 0.9), wide = even(dice, 0.15, 0.5);
    if (kind == "flat")
        return [](double, double) { return 0.0; };
    if (kind == "bow")
        return [=](double u, double v) { return size * (u * u - 0.3 * v * v + 0.4 * u * v); };
    if (kind == "low corner")
        return [=](double u, double v) { return -size * std::exp(-3 * (std::abs(u - 1) + std::abs(v - 1))); };
    if (kind == "dip")
        return [=](double u, double v) {
            return -size * std::exp(-((u - x) * (u - x) + (v - y) * (v - y)) / (2 * wide * wide));
        };
    if (kind == "step")
        return [=](double u, double v) { return u + 0.3 * v > x ? size : 0.0; };
    // rough: every touch by itself, worn by the gasket
    const double own = size / 6;
    std::vector<double> waves;
    for (int i = 0; i < 12; ++i)
        waves.push_back(even(dice, 0, 40));
    return [=](double u, double v) {
        double w = 0;
        for (int i = 0; i < 12; i += 3)
            w += own * std::sin(waves[static_cast<std::size_t>(i)] * u + waves[static_cast<std::size_t>(i + 1)] * v +
                                waves[static_cast<std::size_t>(i + 2)]);
        return w;
    };
}
const std::vector<std::string> deck_kinds{"flat", "bow", "low corner", "dip", "step", "rough"};

/// Bores: radius over nominal by angle and depth (0 at the top to 1).
Form bore_form(const std::string& kind, Dice& dice) {
    const double size = std::exp(even(dice, std::log(0.002), std::log(0.04))), turn = even(dice, 0, 6.28);
    if (kind == "true")
        return [](double, double) { return 0.0; };
    if (kind == "oval")
        return [=](double a, double) { return size / 2 * std::cos(2 * (a - turn)); };
    if (kind == "three lobes")
        return [=](double a, double) { return size / 2 * std::cos(3 * (a - turn)); };
    if (kind == "barrel")
        return [=](double, double z) { return -size * 4 * (z - 0.5) * (z - 0.5); };
    if (kind == "worn at the top")
        return [=](double a, double z) { return size * std::exp(-8 * z) * std::max(0.0, std::cos(a - turn)); };
    const double lean = even(dice, 0, 3), second = even(dice, 0, 6.28);
    return [=](double a, double z) { // leaning, tapered, with a flat of its own at every level
        return size * lean * z * std::cos(a - second) + size * z + size / 3 * std::cos(5 * a + 9 * z + turn);
    };
}
const std::vector<std::string> bore_kinds{"true", "oval", "three lobes", "barrel", "worn at the top", "leaning"};

/// Mains: where their centres lie off the line (by number), and their form.
struct Tunnel {
    std::vector<Vec2> off;
    Form form;
    Vec2 bow{}; ///< ends over the middle
};
Tunnel tunnel_of(const std::string& kind, std::size_t mains, Dice& dice) {
    Tunnel t{std::vector<Vec2>(mains), [](double, double) { return 0.0; }};
    const double size = std::exp(even(dice, std::log(0.002), std::log(0.05)));
    if (kind == "bowed")
        t.bow = {size / 3, size};
    if (kind == "one main low")
        t.off[static_cast<std::size_t>(even(dice, 0, static_cast<double>(mains) - 1e-9))] = {0, -size};
    if (kind == "each its own")
        for (Vec2& o : t.off)
            o = {normal(dice, size / 2), normal(dice, size / 2)};
    if (kind == "caps shifted")
        t.form = [=](double a, double) { return std::sin(a) > 0 ? 0.0 : size / 3 * std::cos(a); };
    return t;
}
const std::vector<std::string> tunnel_kinds{"in line", "bowed", "one main low", "each its own", "caps shifted"};

/// Touches of the ferry's engine, one deck and one cylinder of it.
struct Touches {
    std::vector<std::tuple<std::string, std::string, Vec3>> at;
    std::string log(double noise, Dice& dice) const {
        test::LogWriter log;
        for (const auto& [feature, level, p] : at)
            log.touch(feature, p + Vec3{normal(dice, noise), normal(dice, noise), normal(dice, noise)}, level);
        return log.text();
    }
};

/// How a deck leans and where a cylinder lies.
struct Lie {
    double along = 0, across = 0; ///< mm, end over end
    Vec2 off;
};

struct Plan {
    int along = 7, across = 4, round = 8;
};

Touches touches_of(const Blueprint& b, const Tunnel& tunnel, const Form& deck, const Form& bore, const Plan& plan,
                   const Lie& lie) {
    Touches t;
    const auto ring = [&](const std::string& feature, const std::string& level, int count, auto&& place) {
        for (int i = 0; i < count; ++i)
            t.at.emplace_back(feature, level, place(2 * std::numbers::pi * (i + 0.3) / count));
    };
    const double length = b.mains.back().x - b.mains.front().x;
    for (std::size_t m = 0; m < b.mains.size(); ++m)
        for (const auto& [level, dx] : {std::pair("front", -8.0), std::pair("rear", 8.0)})
            ring(b.mains[m].id.text(), level, plan.round, [&](double a) {
                const double r = b.mains[m].diameter.nominal / 2 + tunnel.form(a, dx);
                const double x = b.mains[m].x + dx, far = 2 * (x - b.mains.front().x) / length - 1;
                const Vec2 centre = tunnel.off[m] + far * far * tunnel.bow;
                return Vec3{x, centre.x + r * std::cos(a), centre.y + r * std::sin(a)};
            });
    for (const auto& bearing : b.cam->bearings)
        ring(bearing.id.text(), "", 8, [&](double a) {
            const double r = bearing.diameter.nominal / 2;
            return Vec3{bearing.x, b.cam->y + r * std::cos(a), b.cam->z + r * std::sin(a)};
        });
    const BankBlueprint& bank = *b.bank("R");
    const BankAxes axes(bank.angle);
    const auto in_block = [&](double u, double v, double w) { return u * axes.u + v * axes.v + w * axes.w; };
    for (const auto& dowel : b.dowels)
        if (dowel.id.bank == bank.id)
            ring(dowel.id.text(), "", 6, [&](double a) {
                const double r = dowel.diameter.nominal / 2;
                return in_block(dowel.u + r * std::cos(a), dowel.v + r * std::sin(a), bank.deck_height.nominal - 3);
            });
    Vec2 low{1e9, 1e9}, high{-1e9, -1e9};
    for (const Vec2 p : bank.deck_outline) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    for (int i = 0; i < plan.along; ++i)
        for (int k = 0; k < plan.across; ++k) {
            const double x = 1.84 * i / (plan.along - 1) - 0.92, y = 1.84 * k / (plan.across - 1) - 0.92;
            t.at.emplace_back("deck.R", "",
                              in_block((low.x + high.x) / 2 + x * (high.x - low.x) / 2,
                                       (low.y + high.y) / 2 + y * (high.y - low.y) / 2,
                                       bank.deck_height.nominal + deck(x, y) + lie.along * x / 2 + lie.across * y / 2));
        }
    const auto hole = std::ranges::find(b.bores, bank.id, [](const HoleBlueprint& h) { return h.id.bank; });
    int depth = 0;
    for (const char* level : {"top", "middle", "bottom"}) {
        ring(hole->id.text(), level, plan.round, [&](double a) {
            const double r = hole->diameter.nominal / 2 + bore(a, depth / 2.0);
            return in_block(hole->u + lie.off.x + r * std::cos(a), hole->v + lie.off.y + r * std::sin(a),
                            bank.deck_height.nominal - 10 - 50 * depth);
        });
        ++depth;
    }
    return t;
}

ProbeSet read(const Blueprint& b, const std::string& log) {
    const auto set = read_probe_logs(std::vector<NamedText>{{"log", log}}, b);
    EXPECT_TRUE(set) << set.error().front().text();
    return *set;
}

/// What a zone would be known by if its bias were known: the spread of the value over probings of the same block.
std::map<std::string, double> spread_over_probings(const Blueprint& b, const Touches& touches, double noise,
                                                   Dice& dice) {
    constexpr int probings = 6;
    std::map<std::string, std::vector<double>> values;
    for (int i = 0; i < probings; ++i)
        each_value(*evaluate(b, read(b, touches.log(noise, dice))), [&](const ValuePlace& place, const Field& field) {
            values[place.address(field.key)].push_back(field.value);
        });
    std::map<std::string, double> spread;
    for (const auto& [address, found] : values)
        spread[address] = metrology::repeatability(found).standard_deviation;
    return spread;
}

using ByName = std::map<std::pair<std::string, std::string>, test::Held>; ///< value, kind

/// One block, probed: every value set by outermost touches is held against the truth.
void try_block(const Blueprint& b, const Touches& touches, double noise,
               const std::map<std::string, std::string>& kinds, Dice& dice, ByName& held) {
    const auto truth = evaluate(b, read(b, touches.log(0, dice)));
    const ProbeSet probe = read(b, touches.log(noise, dice));
    const auto oracle = spread_over_probings(b, touches, noise, dice);
    metrology::MonteCarloRun run;
    run.trials = 160;
    const auto sure = uncertainties_of(b, probe, {noise, true}, run);
    ASSERT_TRUE(truth && sure);
    each_value(*truth, [&](const ValuePlace& place, const Field& field) {
        const auto kind = kinds.find(std::string(place.list));
        if (field.follows != Follows::by_extreme || kind == kinds.end())
            return;
        const std::string address = place.address(field.key);
        const double u = *sure->of(address), value = *sure->without_noise(address);
        held[{kind->first + " " + std::string(field.key), kind->second}].add(field.value, value - 2 * u, value + 2 * u,
                                                                             4 * oracle.at(address));
    });
}

} // namespace

// Blocks of six kinds of decks and bores and five of tunnels, probed with 2 × 2 to 24 × 20 touches on the deck and 4 to
// 24 a ring, noise 0.4 to 8 µm. Values of one block hang together, so the shares may scatter by more than the binomial
// law.
TEST(Coverage, OfZonesAndExtremes) {
    const Blueprint b = workshop::ferry_v8();
    Dice dice(14);
    const std::vector<Plan> plans{{2, 2, 4}, {3, 3, 6}, {7, 4, 8}, {12, 6, 12},
                                  {2, 2, 4}, {3, 3, 6}, {7, 4, 8}, {24, 20, 24}};
    const std::vector<double> noises{0.0004, 0.0008, 0.002, 0.004, 0.008};
    ByName held;
    const std::size_t blocks = test::tries(120);
    for (std::size_t i = 0; i < blocks; ++i) {
        const std::string deck = deck_kinds[i % deck_kinds.size()], bore = bore_kinds[i % bore_kinds.size()],
                          tunnel = tunnel_kinds[i % tunnel_kinds.size()];
        const double wrong = i % 3 == 0 ? 0.002 : 0.02; // as left, as found
        const Lie lie{normal(dice, wrong), normal(dice, wrong), {normal(dice, wrong), normal(dice, wrong)}};
        const Tunnel mains = tunnel_of(tunnel, b.mains.size(), dice);
        const Form deck_truth = deck_form(deck, dice), bore_truth = bore_form(bore, dice);
        try_block(b, touches_of(b, mains, deck_truth, bore_truth, plans[i / 7 % plans.size()], lie),
                  noises[i % 11 % noises.size()],
                  {{"decks", deck + " " + std::to_string(plans[i / 7 % plans.size()].along)},
                   {"bores", bore},
                   {"mains", tunnel},
                   {"tunnel", tunnel}},
                  dice, held);
    }
    std::map<std::string, test::Held> by_value;
    for (const auto& [name, h] : held) {
        by_value[name.first] += h;
        test::CertaintyTable::get().add(name.first, name.second, h);
    }
    ASSERT_EQ(by_value.size(), 16U) << "every value set by outermost touches, of mains, tunnel, deck and bore";
    for (const auto& [value, h] : by_value) {
        test::CertaintyTable::get().add(value, "all", h);
        if (test::too_few_to_judge)
            continue;
        const double by_chance = 2 * std::sqrt(0.05 * 0.95 / static_cast<double>(blocks));
        EXPECT_GE(h.share(), 0.93 - by_chance) << value;
        // A lowest height is held against a least one, all else against a largest.
        const bool lowest = value.ends_with("height_min") || value.ends_with("stock_to_nominal");
        const double beyond = static_cast<double>(h.above) / static_cast<double>(h.all);
        EXPECT_LE(lowest ? beyond : h.below(), 0.03 + by_chance) << value << " on its limit fails too often";
        EXPECT_LT(h.sharpness(), 2.2) << value;
        EXPECT_GT(h.sharpness(), 0.3) << value;
    }
}
