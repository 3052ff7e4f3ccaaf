// SPDX-License-Identifier: GPL-3.0-or-later
// Sizes, heights and sweeps read by gauge in simulated shops: warm blocks, thermometers and expansions that are a
// little off, a gauge with an error of its own, a zero that drifts, a dial with steps, hands that repeat no better than
// hands do.
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "certainty/coverage.h"
#include "planning/readings/gauge_findings.h"
#include "planning/row_block.h"

#include <cmath>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using test::Dice;
using test::even;
using test::normal;

namespace {

struct Shop {
    std::string kind;
    std::string material = "grey_iron";
    double expansion = 0;           ///< of the block, as tables have it
    double block_least, block_most; ///< °C
    double gauge_least, gauge_most; ///< °C
    double step;                    ///< of the dial
    double stated;                  ///< standard, of the gauge and what its zero was set on
    double repeat;                  ///< s of one reading
    double drift;                   ///< standard, from one check of the zero to the next; 0: it is not checked twice
    bool knocked = false;           ///< the zero moved all at once
    int times = 3;                  ///< each place is read
    bool tested = true;             ///< ten readings of one place told how well it repeats
};

std::vector<Shop> shops() {
    const double iron = expansion_of(Material::grey_iron), aluminium = expansion_of(Material::aluminium);
    return {{"cold iron, good gauge", "grey_iron", iron, 8, 14, 8, 14, 0.001, 0.0015, 0.001, 0},
            {"iron off the machine", "grey_iron", iron, 26, 36, 18, 24, 0.001, 0.0015, 0.0015, 0.003},
            {"aluminium off the machine", "aluminium", aluminium, 26, 40, 18, 24, 0.001, 0.0015, 0.0015, 0.003},
            {"coarse dial", "grey_iron", iron, 18, 22, 18, 22, 0.01, 0.002, 0.002, 0.004},
            {"zero wanders", "grey_iron", iron, 18, 22, 18, 22, 0.001, 0.001, 0.001, 0.012},
            {"gauge knocked", "grey_iron", iron, 18, 22, 18, 22, 0.001, 0.001, 0.001, 0.012, true},
            {"one reading each", "grey_iron", iron, 22, 28, 18, 22, 0.002, 0.002, 0.003, 0.004, false, 1},
            {"twice, never tested", "grey_iron", iron, 18, 24, 18, 22, 0.002, 0.003, 0.0015, 0, false, 2, false}};
}

/// What is off in one shop on one day, and nobody knows.
struct Hidden {
    double part_expansion, gauge_expansion, part_c, gauge_c, gauge_error, drift, bend, when;
};

/// A day in the shop: what its ledger says of sizes of 80 and heights of 210, beside what they are at 20 °C.
class Day {
  public:
    Day(const Shop& shop, Dice& dice) : shop_(shop), dice_(dice), job_(shop.material) {
        gauge_.name = "gauge";
        gauge_.resolution = shop.step;
        // Nothing was tested: what is stated of one reading has its repeatability in it.
        gauge_.standard_uncertainty = shop.tested ? shop.stated : std::hypot(shop.stated, shop.repeat);
        gauge_.repeatability = repeatability_found();
        held_.part_c = even(dice, shop.block_least, shop.block_most);
        held_.gauge_c = even(dice, shop.gauge_least, shop.gauge_most);
        hidden_ = {shop.expansion * (1 + normal(dice, 0.1)),
                   11.5e-6 * (1 + normal(dice, 0.1)),
                   *held_.part_c + normal(dice, 0.5),
                   *held_.gauge_c + normal(dice, 0.5),
                   normal(dice, shop.stated),
                   normal(dice, shop.drift),
                   even(dice, 0.5, 2),
                   even(dice, 0, 1)};
        read_all();
    }
    void count(test::Held& held) const {
        const Folded state = job_.state();
        for (const MeasuredPlace& place : readings_of(state).places) {
            const double u = place.standard_uncertainty().value_or(0);
            held.add(truths_.at(place.at.key()), place.value - 2 * u, place.value + 2 * u, 4 * oracle(place));
        }
    }

  private:
    std::optional<double> repeatability_found() {
        if (!shop_.tested)
            return std::nullopt;
        constexpr int readings = 10;
        double sum = 0, squares = 0;
        for (int i = 0; i < readings; ++i) {
            const double x = normal(dice_, shop_.repeat);
            sum += x;
            squares += x * x;
        }
        return std::sqrt((squares - sum * sum / readings) / (readings - 1));
    }
    void read_all() {
        std::vector<MeasuredAt> places;
        for (int bore = 1; bore <= 4; ++bore)
            places.push_back({test::bore_id(bore), Quantity::size, "top", "across", {}});
        const FeatureId deck{FeatureKind::deck, "C", 0};
        for (const double u : {0.0, 300.0})
            places.push_back({deck, Quantity::height, "", "", {u, 40}});
        if (shop_.drift > 0)
            job_.add(RingCheck{gauge_.name, 80, 80});
        const int all = static_cast<int>(places.size()) * shop_.times;
        for (int i = 0; i < all; ++i) {
            const MeasuredAt& at = places[static_cast<std::size_t>(i / shop_.times)];
            const double nominal = at.quantity == Quantity::size ? 80 : 210;
            const auto [truth, is_new] = truths_.try_emplace(at.key(), nominal + even(dice_, -0.05, 0.05));
            const double grown = truth->second * (1 + hidden_.part_expansion * (hidden_.part_c - 20)) /
                                 (1 + hidden_.gauge_expansion * (hidden_.gauge_c - 20));
            const double share = (i + 1.0) / (all + 1.0);
            const double drifted =
                hidden_.drift * (!shop_.knocked ? std::pow(share, hidden_.bend) : share > hidden_.when);
            const double seen = grown + hidden_.gauge_error + drifted + normal(dice_, shop_.repeat);
            Reading r;
            r.at = at;
            r.value = shop_.step * std::round(seen / shop_.step);
            r.instrument = gauge_;
            r.conditions = held_;
            job_.add(r);
        }
        if (shop_.drift > 0)
            job_.add(RingCheck{gauge_.name, 80, 80 + hidden_.drift});
    }
    /// Standard, of whoever knows how large everything that was drawn usually is.
    double oracle(const MeasuredPlace& place) const {
        const auto thermal = [](double expansion, double celsius) {
            return std::hypot(expansion * 0.5, 0.1 * expansion * (celsius - 20));
        };
        const double part = thermal(shop_.expansion, *held_.part_c), gauge = thermal(11.5e-6, *held_.gauge_c);
        return std::sqrt(std::pow(place.value * std::hypot(part, gauge), 2) + shop_.stated * shop_.stated +
                         (shop_.repeat * shop_.repeat + shop_.step * shop_.step / 12) / shop_.times);
    }

    const Shop& shop_;
    Dice& dice_;
    test::RowJob job_;
    Instrument gauge_;
    Conditions held_;
    Hidden hidden_{};
    std::map<std::string, double> truths_;
};

} // namespace

TEST(Coverage, OfReadingsInShopsWithEverythingALittleOff) {
    Dice dice(10);
    for (const Shop& shop : shops()) {
        test::Held held;
        for (std::size_t i = 0; i < test::tries(150); ++i)
            Day(shop, dice).count(held);
        test::CertaintyTable::get().add("size or height by gauge", shop.kind, held);
        if (test::too_few_to_judge)
            continue;
        EXPECT_GE(held.share(), 0.93) << shop.kind; // six places a day hang together: 150 days are worth 150
        if (shop.drift < 0.01) { // what a drift leaves is wide, and whoever knows how it went is not to be had
            EXPECT_LT(held.sharpness(), 1.6) << shop.kind;
        }
    }
}

/// A lever swept round a bore from a bar: long by the cosine of an angle that was judged by eye.
TEST(Coverage, OfABarSweptWithALever) {
    Dice dice(11);
    for (const double angle : {0.0, 12.0, 30.0}) {
        test::Held held;
        for (std::size_t i = 0; i < test::tries(300); ++i) {
            const double truly = (angle + normal(dice, 3)) * radians_per_degree;
            const double up = even(dice, -0.3, 0.3), towards_3 = even(dice, -0.3, 0.3);
            test::RowJob job;
            const FeatureId main{FeatureKind::main, "", 1};
            for (const auto& [clock, at] :
                 {std::pair("12", up), std::pair("6", -up), std::pair("3", towards_3), std::pair("9", -towards_3)}) {
                Reading r;
                r.at = {main, Quantity::sweep, "", clock, {}};
                r.instrument.name = "lever";
                r.instrument.kind = InstrumentKind::lever_indicator;
                r.instrument.resolution = 0.002;
                r.instrument.standard_uncertainty = 0.001;
                r.instrument.contact_angle = angle * radians_per_degree;
                const double seen = at / std::cos(truly) + normal(dice, 0.001);
                r.value = 0.002 * std::round(seen / 0.002);
                job.add(r);
            }
            const auto sweeps = planning::gauge_findings(job.state()).sweeps;
            ASSERT_EQ(sweeps.size(), 1U);
            ASSERT_TRUE(sweeps[0].uncertainty);
            held.add(up, sweeps[0].up - 2 * *sweeps[0].uncertainty, sweeps[0].up + 2 * *sweeps[0].uncertainty);
        }
        test::CertaintyTable::get().add("bar off a bore, swept", std::to_string(static_cast<int>(angle)) + " degrees",
                                        held);
        EXPECT_TRUE(test::too_few_to_judge || held.share() >= 0.93) << angle << ": " << held.share();
    }
}
