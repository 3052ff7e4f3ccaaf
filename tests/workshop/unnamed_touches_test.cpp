// SPDX-License-Identifier: GPL-3.0-or-later
// Touches whose names were taken away, against the names that the stand-in probe had given them.
#include "block/number_text.h"
#include "block/unnamed/touch_names.h"

#include "probe_rows.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <cmath>
#include <functional>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::block;
using metrology::Vec3;
using pallix::test::probe_rows;
using testing::HasSubstr;

namespace {

struct Probed {
    std::vector<LooseTouch> touches;
    std::vector<FeatureId> truth;
    std::vector<std::string> levels;
};

enum class Tells { nothing, gaps, labels };

Probed probed(const Blueprint& b, bool holes, Tells tells, double noise = 0.002, double tip = 0) {
    workshop::PracticeBlock p{b, {}, 0.02, 0.01, 0, {}};
    for (const BankBlueprint& bank : b.banks)
        p.decks[bank.id] = {0.15, 0.05, -0.04, 0.03, 0.02, {}, 0, 30, {}};
    workshop::ProbeJob job;
    job.holes = holes;
    job.noise = noise;
    job.tip_radius = tip;
    Probed out;
    std::string before;
    for (const auto& f : probe_rows(workshop::probe(p, job))) {
        const std::string place = f[1] + f[2];
        LooseTouch t{{*finite_number(f[3]), *finite_number(f[4]), *finite_number(f[5])}, {}, 0, false};
        t.after_gap = tells == Tells::gaps && !before.empty() && place != before;
        if (tells == Tells::labels)
            t.label = "E" + f[1];
        before = place;
        out.touches.push_back(t);
        out.truth.push_back(*FeatureId::parse(f[1]));
        out.levels.push_back(f[2]);
    }
    return out;
}

/// The share of touches whose name is the truth.
double told(const Probed& p, const std::vector<TouchGroup>& groups, const NamedTouches& named) {
    std::size_t right = 0;
    for (std::size_t g = 0; g < groups.size(); ++g)
        for (std::size_t i = groups[g].first; i < groups[g].first + groups[g].count; ++i) {
            right += named.names[g].id == p.truth[i] ? 1 : 0;
            if (named.names[g].id && named.names[g].id != p.truth[i] && i == groups[g].first)
                ADD_FAILURE() << p.truth[i].text() << p.levels[i] << " is called " << named.names[g].id->text();
        }
    return static_cast<double>(right) / static_cast<double>(p.touches.size());
}

std::vector<Blueprint> engines() {
    return {workshop::tender_inline_four(), workshop::workboat_v6(), workshop::ferry_v8()};
}

/// As if the machine's axes lay otherwise.
void turn(Probed& p, const std::function<Vec3(Vec3)>& how) {
    for (LooseTouch& t : p.touches)
        t.position = how(t.position);
}

} // namespace

TEST(UnnamedTouches, FallIntoThePlacesTheyWereTakenAt) {
    for (const Blueprint& b : engines())
        for (const Tells tells : {Tells::nothing, Tells::gaps, Tells::labels})
            for (const bool holes : {false, true}) {
                const Probed p = probed(b, holes, tells);
                const auto groups = group_touches(p.touches);
                std::size_t at = 0;
                for (const TouchGroup& g : groups) {
                    EXPECT_EQ(g.first, at);
                    at += g.count;
                    EXPECT_NE(g.kind, TouchGroup::Kind::stray) << p.truth[g.first].text();
                    for (std::size_t i = g.first; i < g.first + g.count; ++i)
                        EXPECT_EQ(p.truth[i].text() + p.levels[i], p.truth[g.first].text() + p.levels[g.first])
                            << b.name << " touch " << i;
                    EXPECT_EQ(g.kind == TouchGroup::Kind::hole, is_round(p.truth[g.first].kind))
                        << b.name << " " << p.truth[g.first].text() << p.levels[g.first] << ", " << g.count
                        << " touches, the log tells " << static_cast<int>(tells);
                }
                EXPECT_EQ(at, p.touches.size());
            }
}

TEST(UnnamedTouches, AreNamedByABlueprintHoweverTheAxesLie) {
    const std::vector<std::function<Vec3(Vec3)>> ways{
        [](Vec3 v) { return v; },
        [](Vec3 v) {
            return Vec3{-v.x, -v.y, v.z};
        }, // the front at the other end
        [](Vec3 v) {
            return Vec3{v.y, -v.x, v.z};
        }, // along the machine's y
        [](Vec3 v) {
            return Vec3{v.z, v.x, v.y};
        }, // standing on its end
        [](Vec3 v) {
            return Vec3{v.x, -v.y, v.z};
        }, // left-handed
        [](Vec3 v) {
            return Vec3{v.x + 500, 0.8 * v.y - 0.6 * v.z, 0.6 * v.y + 0.8 * v.z - 90};
        }, // rolled by 37°
    };
    for (const Blueprint& b : engines())
        for (const bool holes : {false, true})
            for (std::size_t way = 0; way < ways.size(); ++way) {
                SCOPED_TRACE(b.name + (holes ? " with holes" : "") + ", way " + std::to_string(way));
                Probed p = probed(b, holes, Tells::nothing);
                turn(p, ways[way]);
                const auto groups = group_touches(p.touches);
                const auto named = name_touches(groups, {}, &b);
                EXPECT_EQ(told(p, groups, named), 1);
                EXPECT_THAT(named.open, testing::IsEmpty());
                // What is called x runs along the crankshaft, from the front.
                std::array<double, 3> first{}, last{};
                for (std::size_t i = 0; i < p.touches.size(); ++i)
                    if (p.truth[i].kind == FeatureKind::main)
                        (p.truth[i].number == 1 ? first : last) = {p.touches[i].position.x, p.touches[i].position.y,
                                                                   p.touches[i].position.z};
                const LogAxis x = named.axes[0];
                const auto at = static_cast<std::size_t>(x.from);
                EXPECT_GT((last[at] - first[at]) * (x.turned ? -1 : 1), 200);
            }
}

TEST(UnnamedTouches, AreNamedByTheShapeOfBlocksWhereThereIsNoBlueprint) {
    for (const Blueprint& b : engines()) {
        SCOPED_TRACE(b.name);
        const Probed p = probed(b, true, Tells::nothing);
        const auto groups = group_touches(p.touches);
        const auto named = name_touches(groups, {}, nullptr);
        EXPECT_EQ(told(p, groups, named), 1);
        for (const TouchName& name : named.names)
            EXPECT_EQ(name.sure, TouchName::Sure::likely) << "nobody said so";
    }
}

namespace {

/// Another way to probe: this many touches in a hole, a deck to and fro over this many places.
struct Habit {
    int in_hole;
    int along, across;
    bool fro; ///< each second row of the deck backwards
};

Probed inline_four_by(const Habit& habit) {
    Probed out;
    const auto touch = [&](const std::string& id, Vec3 p) {
        out.touches.push_back({p, {}, 0, false});
        out.truth.push_back(*FeatureId::parse(id));
        out.levels.emplace_back();
    };
    const auto ring = [&](const std::string& id, Vec3 c, double r, Vec3 a, Vec3 b) {
        for (int i = 0; i < habit.in_hole; ++i) {
            const double t = 0.3 + 2 * 3.14159265358979 * i / habit.in_hole;
            touch(id, c + r * std::cos(t) * a + r * std::sin(t) * b);
        }
    };
    for (int n = 0; n < 5; ++n)
        ring("main." + std::to_string(n + 1), {100.0 * n, 0, 0}, 32, {0, 1, 0}, {0, 0, 1});
    for (int n = 0; n < 4; ++n)
        for (const double w : {200.0, 120.0})
            ring("bore.C." + std::to_string(n + 1), {50 + 100.0 * n, 0, w}, 43, {1, 0, 0}, {0, 1, 0});
    ring("dowel.C.1", {-10, -55, 205}, 6, {1, 0, 0}, {0, 1, 0});
    ring("dowel.C.2", {410, -55, 205}, 6, {1, 0, 0}, {0, 1, 0});
    for (int k = 0; k < habit.across; ++k)
        for (int i = 0; i < habit.along; ++i) {
            const int at = habit.fro && k % 2 == 1 ? habit.along - 1 - i : i;
            touch("deck.C", {-20 + 440.0 * at / (habit.along - 1), -65 + 130.0 * k / (habit.across - 1), 210});
        }
    return out;
}

} // namespace

TEST(UnnamedTouches, AreNamedHoweverManyThereAreInAHoleAndOnADeck) {
    for (const Habit& habit : {Habit{3, 2, 2, false},
                               {4, 2, 2, true},
                               {4, 5, 3, true},
                               {3, 5, 3, true},
                               {4, 10, 5, true},
                               {5, 24, 8, true},
                               {6, 24, 8, false},
                               {12, 7, 2, true},
                               {24, 4, 2, true},
                               {200, 4, 2, true},
                               {4, 4, 2, true}}) {
        SCOPED_TRACE(std::to_string(habit.in_hole) + " in a hole, deck " + std::to_string(habit.along) + " by " +
                     std::to_string(habit.across) + (habit.fro ? ", to and fro" : ""));
        const Probed p = inline_four_by(habit);
        const auto groups = group_touches(p.touches);
        const auto named = name_touches(groups, {}, nullptr);
        EXPECT_EQ(told(p, groups, named), 1);
    }
}

// An inline block is the same from both ends but for its dowels: without them only a person can tell the front.
TEST(UnnamedTouches, AskWhichEndIsTheFrontWhereNothingTells) {
    const Blueprint b = workshop::tender_inline_four();
    const Probed p = probed(b, false, Tells::nothing);
    // Only what is the same from both ends: mains and the deck.
    Probed same;
    for (std::size_t i = 0; i < p.touches.size(); ++i)
        if (p.truth[i].kind == FeatureKind::main || p.truth[i].kind == FeatureKind::deck) {
            same.touches.push_back(p.touches[i]);
            same.truth.push_back(p.truth[i]);
            same.levels.push_back(p.levels[i]);
        }
    const auto groups = group_touches(same.touches);
    const auto unsure = name_touches(groups, {}, &b);
    ASSERT_THAT(unsure.open, testing::ElementsAre(HasSubstr("point at main 1")));
    EXPECT_TRUE(std::ranges::none_of(unsure.names, [](const TouchName& n) { return n.sure == TouchName::Sure::sure; }));
    // Pointed at, whichever it is, the rest follows.
    std::size_t last = 0;
    for (std::size_t g = 0; g < groups.size(); ++g)
        if (same.truth[groups[g].first].text() == "main.5")
            last = g;
    const FeatureId first_main{FeatureKind::main, {}, 1};
    const auto turned = name_touches(groups, {{last, first_main}}, &b);
    EXPECT_THAT(turned.open, testing::IsEmpty());
    EXPECT_EQ(turned.names[last].id, first_main);
    EXPECT_EQ(turned.names[last].sure, TouchName::Sure::stated);
    EXPECT_EQ(turned.names[0].id->text(), "main.5");
    const auto straight = name_touches(groups, {{0, first_main}}, &b);
    EXPECT_EQ(told(same, groups, straight), 1);
}

// The deck alone, after a cut: there is no line of mains, so three places are pointed at.
TEST(UnnamedTouches, OfOneBankAreLaidByThreePlacesPointedAt) {
    const Blueprint b = workshop::ferry_v8();
    Probed all = probed(b, true, Tells::nothing), p;
    for (std::size_t i = 0; i < all.touches.size(); ++i)
        if (all.truth[i].bank == "L" && all.truth[i].kind != FeatureKind::lifter) {
            p.touches.push_back(all.touches[i]);
            p.truth.push_back(all.truth[i]);
            p.levels.push_back(all.levels[i]);
        }
    turn(p, [](Vec3 v) { return Vec3{-v.y, v.x, v.z}; });
    const auto groups = group_touches(p.touches);
    const auto nothing = name_touches(groups, {}, &b);
    EXPECT_THAT(nothing.open, testing::ElementsAre(HasSubstr("point at three places of one bank")));
    std::map<std::size_t, FeatureId> pointed;
    for (std::size_t g = 0; g < groups.size(); ++g)
        for (const char* id : {"bore.L.1", "bore.L.4", "dowel.L.1"})
            if (p.truth[groups[g].first].text() == id && p.levels[groups[g].first] != "middle")
                pointed[g] = p.truth[groups[g].first];
    const auto named = name_touches(groups, pointed, &b);
    EXPECT_EQ(told(p, groups, named), 1);
}

// The log of a block that was rolled over between its banks, by a machine that does not say so.
TEST(UnnamedTouches, SayFromWhereTheBlockSeemsTurned) {
    const Blueprint b = workshop::ferry_v8();
    Probed p = probed(b, true, Tells::nothing);
    const double angle = b.bank("L")->angle;
    std::size_t first = p.touches.size();
    for (std::size_t i = 0; i < p.touches.size(); ++i)
        if (p.truth[i].bank == "L") {
            first = std::min(first, i);
            const Vec3 v = p.touches[i].position; // turned by the bank's angle, about an axis somewhere
            const double y = v.y - 30, z = v.z + 20, c = std::cos(angle - 0.6), s = std::sin(angle - 0.6);
            p.touches[i].position = {v.x, 30 + c * y - s * z, -20 + s * y + c * z};
        }
    const auto groups = group_touches(p.touches);
    const auto named = name_touches(groups, {}, &b);
    ASSERT_TRUE(named.turned);
    EXPECT_NEAR(*named.turned, angle - 0.6, 0.02) << "right-handed about x, as a log's head has it";
    EXPECT_EQ(groups[named.turned_from].first, first);
    EXPECT_THAT(named.open, testing::Contains(HasSubstr("from touch " + std::to_string(first + 1) +
                                                        " on, the block seems to be turned")));
}

TEST(UnnamedTouches, NameNothingThatIsNotThere) {
    EXPECT_TRUE(group_touches({}).empty());
    std::vector<LooseTouch> line, cloud;
    std::mt19937 dice(7);
    std::uniform_real_distribution<double> anywhere(-200, 200);
    for (int i = 0; i < 40; ++i) {
        line.push_back({{i * 5.0, 0, 0}, {}, i, false});
        cloud.push_back({{anywhere(dice), anywhere(dice), anywhere(dice)}, {}, i, false});
    }
    for (const auto& touches : {line, cloud}) {
        const auto groups = group_touches(touches);
        std::size_t count = 0;
        for (const TouchGroup& g : groups)
            count += g.count;
        EXPECT_EQ(count, touches.size());
        const Blueprint b = workshop::tender_inline_four();
        for (const Blueprint* known : {static_cast<const Blueprint*>(nullptr), &b}) {
            const auto named = name_touches(groups, {}, known);
            EXPECT_TRUE(std::ranges::none_of(named.names, [](const TouchName& n) { return n.id.has_value(); }));
            EXPECT_FALSE(named.open.empty());
        }
    }
}
