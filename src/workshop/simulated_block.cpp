// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/simulated_block.h"

#include "planning/decks/deck_map.h"
#include "planning/tunnel/hone_line.h"
#include "workshop/line_hone.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::workshop {
namespace {

using block::FeatureId;
using metrology::Vec2;
using metrology::Vec3;
using planning::Housing;

constexpr int round_a_main = 24;  // places of each end: every 15°, so that the three ways of a gauge are among them
constexpr double end_of_main = 8; // mm from its middle
constexpr double deck_grid = 4;   // mm
constexpr double hone_stroke = 0.0008; // mm on diameter that the line hone's stones come out in a stroke

/// Over where it would be in a housing about the datum.
double saddle_top(const Housing& h) {
    return (h.points[0].z + h.points[round_a_main].z) / 2 - h.target_diameter / 2;
}

} // namespace

SimulatedBlock::SimulatedBlock(const block::Blueprint& blueprint, std::uint64_t seed)
    : SimulatedBlock(blueprint, worn(blueprint, seed), {}, seed) {}

SimulatedBlock::SimulatedBlock(block::Blueprint blueprint, const BlockTruth& truth, const MachineHabits& machines,
                               std::uint64_t seed)
    : blueprint_(std::move(blueprint)), machines_(machines), random_(seed, 1), sharpness_(truth.sharpness),
      bores_(truth.bores), crowns_(truth.crowns) {
    for (std::size_t m = 0; m < blueprint_.mains.size(); ++m) {
        const block::MainBlueprint& main = blueprint_.mains[m];
        const MainTruth& is = truth.mains[m];
        Housing h{main.id, {}, main.diameter.middle(), 0};
        for (const double end : {-end_of_main, end_of_main})
            for (int i = 0; i < round_a_main; ++i) {
                const double a = 2 * std::numbers::pi * i / round_a_main,
                             r = (h.target_diameter + is.over) / 2 + is.oval / 2 * std::cos(2 * a);
                h.points.push_back({main.x + end, is.side + r * std::sin(a), is.up + r * std::cos(a)});
            }
        mains_.push_back(std::move(h));
    }
    line_ = planning::hone_line(mains_, {}).uncut;
    for (const block::BankBlueprint& bank : blueprint_.banks) {
        Deck deck;
        deck.form = truth.decks.at(bank.id);
        const planning::DeckExtent e = planning::deck_extent(bank);
        for (double u = e.low.x; u <= e.high.x; u += deck_grid)
            for (double v = e.low.y; v <= e.high.y; v += deck_grid)
                if (planning::on_metal(blueprint_, bank, {u, v}))
                    deck.places.emplace_back(Vec2{u, v}, deck.form.height(bank, {u, v}));
        deck.top = std::ranges::max(deck.places, {}, &std::pair<Vec2, double>::second).second;
        deck.found_low = std::ranges::min(deck.places, {}, &std::pair<Vec2, double>::second).second;
        decks_[bank.id] = std::move(deck);
    }
}

double SimulatedBlock::Deck::left_at(Vec2 place, double as_found, const planning::DeckExtent& extent) const {
    double height = std::min(as_found, top - cut);
    for (const Tilted& pass : tilted)
        height = std::min(height, top - pass.cut - pass.rear * (place.x - extent.low.x) / extent.length());
    return height;
}

double SimulatedBlock::size(const block::MeasuredAt& at) const {
    if (at.feature.kind == block::FeatureKind::bore || at.feature.kind == block::FeatureKind::lifter) {
        const BoreTruth& b = bores_.at(at.feature);
        return b.along(at.level) + (at.direction == "across" ? b.oval : 0);
    }
    const auto main = std::ranges::find(mains_, at.feature, &Housing::id);
    const std::size_t from = at.level == "rear" ? round_a_main : 0;
    const int way = at.direction == "60 left" ? -4 : at.direction == "60 right" ? 4 : 0; // in 15°
    const auto far = [&](int i) {
        const Vec3 p = main->points[from + static_cast<std::size_t>((i + round_a_main) % round_a_main)];
        return std::hypot(p.y, p.z);
    };
    return far(way) + far(way + round_a_main / 2);
}

double SimulatedBlock::from_tunnel(const block::BankBlueprint& bank, Vec2 place) const {
    const Deck& deck = decks_.at(bank.id);
    const double height = deck.left_at(place, deck.form.height(bank, place), planning::deck_extent(bank));
    return bank.deck_height.nominal + height -
           (line_.y(place.x) * std::sin(bank.angle) + line_.z(place.x) * std::cos(bank.angle));
}

double SimulatedBlock::gap(const block::BankBlueprint& bank, const std::string& name) const {
    constexpr int steps = 100;
    const auto lines = planning::edge_lines(blueprint_, bank.id);
    const auto line = std::ranges::find(lines, name, &planning::EdgeLine::name);
    const Vec2 along = line->to - line->from;
    std::vector<Vec2> profile;
    for (int i = 0; i <= steps; ++i) {
        const double share = static_cast<double>(i) / steps;
        const Vec2 place = line->from + share * along;
        if (planning::on_metal(blueprint_, bank, place))
            profile.push_back({share * metrology::norm(along), from_tunnel(bank, place)});
    }
    return planning::lay_straightedge(profile).gap();
}

double SimulatedBlock::truth(const block::MeasuredAt& at) const {
    switch (at.quantity) {
    case block::Quantity::height:
        return from_tunnel(*blueprint_.bank(at.feature.bank), at.place);
    case block::Quantity::saddle: {
        const Housing &front = mains_.front(), &rear = mains_.back();
        const auto main = std::ranges::find(mains_, at.feature, &Housing::id);
        const double share = (main->mean_x() - front.mean_x()) / (rear.mean_x() - front.mean_x());
        return saddle_top(*main) - (1 - share) * saddle_top(front) - share * saddle_top(rear);
    }
    case block::Quantity::gap:
        return gap(*blueprint_.bank(at.feature.bank), at.direction);
    case block::Quantity::piston: {
        constexpr double rocks = 0.03; // either way about its pin
        const double deck = from_tunnel(*blueprint_.bank(at.feature.bank), {hole(at.feature).u, 0});
        return deck - crowns_.at(at.feature) + (at.direction == "one side of the pin" ? rocks : -rocks);
    }
    case block::Quantity::outside:
        return hole(at.feature).diameter.nominal + 2 * sleeve_wall;
    default:
        return size(at);
    }
}

void SimulatedBlock::cut_caps(const std::vector<std::pair<FeatureId, double>>& cuts) {
    for (const auto& [id, cut] : cuts)
        for (Vec3& p : std::ranges::find(mains_, id, &Housing::id)->points)
            if (p.z < -1e-6)
                p.z += cut + noise(0.0002);
    line_ = planning::hone_line(mains_, {}).uncut;
    reach_ = -1;
}

void SimulatedBlock::hone_tunnel(int strokes) {
    if (reach_ < -0.5) { // its stones out until they touch
        reach_ = 0;
        const auto r = [](Vec3 p) { return std::hypot(p.y, p.z); };
        for (const Housing& h : mains_)
            for (std::size_t i = 0; i < h.points.size(); ++i)
                if (i % round_a_main < round_a_main / 2)
                    reach_ = std::min(reach_, r(h.points[i]) + r(h.points[i + round_a_main / 2]) - h.target_diameter);
    }
    reach_ += hone_stroke * strokes;
    std::vector<Housing> to = mains_;
    for (Housing& h : to)
        h.target_diameter += reach_;
    to = workshop::hone({.sharpness = sharpness_}, std::move(to)).mains;
    for (std::size_t i = 0; i < mains_.size(); ++i)
        mains_[i].points = std::move(to[i].points);
    line_ = planning::hone_line(mains_, {}).uncut;
}

void SimulatedBlock::set_up_bar(const planning::CentreLine& line) {
    const Housing &front = mains_.front(), &rear = mains_.back();
    const double x0 = front.mean_x(), x1 = rear.mean_x(), z0 = saddle_top(front), z1 = saddle_top(rear);
    bar_ = line;
    bar_.zk += (z1 - z0) / (x1 - x0);
    bar_.z0 += z0 - x0 * (z1 - z0) / (x1 - x0);
}

void SimulatedBlock::bore_tunnel(double protrusion) {
    const double radius = bar / 2 + protrusion + noise(0.0005);
    for (Housing& h : mains_) {
        std::size_t cut = 0, all = 0; // outside the relief beside the parting line
        for (Vec3& p : h.points) {
            const double r = std::hypot(p.y, p.z), y = p.y / r, z = p.z / r;
            const double to = std::max(r, radius + y * bar_.y(p.x) + z * bar_.z(p.x));
            constexpr double relief = 0.21; // sine of 12°
            all += std::abs(z) > relief ? 1 : 0;
            cut += std::abs(z) > relief && to > r ? 1 : 0;
            p = {p.x, y * to, z * to};
        }
        marks_[h.id] = 20 * cut >= 19 * all ? block::BarMark::clean // a hand's breadth shows no less
                       : 3 * cut > all      ? block::BarMark::part
                       : cut > 0            ? block::BarMark::dusting
                                            : block::BarMark::untouched;
    }
    line_ = planning::hone_line(mains_, {}).uncut;
}

std::vector<Vec2> SimulatedBlock::cut_deck(const std::string& bank, double depth) {
    Deck& deck = decks_.at(bank);
    const planning::DeckExtent extent = planning::deck_extent(*blueprint_.bank(bank));
    const double short_by = deck.passes++ == 0 ? machines_.backlash : 0;
    deck.cut += depth - std::min(short_by, depth) + noise(0.0005);
    const bool lifted = machines_.lifted_at > 0 && --machines_.lifted_at == 0;
    if (lifted)
        deck.tilted.push_back({deck.cut, machines_.lifted});
    const auto cut_to = [&](Vec2 place) {
        return deck.top - deck.cut - (lifted ? machines_.lifted * (place.x - extent.low.x) / extent.length() : 0);
    };
    std::vector<Vec2> dark;
    for (const auto& [place, height] : deck.places)
        if (deck.left_at(place, height, extent) < cut_to(place) - 1e-9 &&
            std::ranges::none_of(dark, [p = place](Vec2 d) { return norm(d - p) < 5; }))
            dark.push_back(place);
    return dark;
}

void SimulatedBlock::bore(const FeatureId& bore, double setting, bool fresh_edge) {
    if (fresh_edge)
        machines_.boring_bar.fit_new_edge();
    bores_.at(bore) = {
        machines_.boring_bar.bore(setting) + noise(0.002), noise(0.001), noise(0.001), {noise(0.004), noise(0.004)}};
}

double SimulatedBlock::press(const FeatureId& bore) {
    const double nominal = hole(bore).diameter.nominal;
    if (bore.kind == block::FeatureKind::lifter) {
        bores_.at(bore).size = nominal - bush_inside;
        return 0;
    }
    bores_.at(bore).size = nominal - 1;
    for (auto& [id, b] : bores_)
        if (id.kind == bore.kind && id.bank == bore.bank && std::abs(id.number - bore.number) == 1)
            b.size -= 0.004;
    return 0.03 + std::abs(noise(0.01));
}

void SimulatedBlock::hone(const FeatureId& bore, int strokes, bool brush) {
    if (brush)
        return;
    BoreTruth& b = bores_.at(bore);
    b.size += bore_stroke * strokes;
    b.taper += noise(0.0002);
}

double SimulatedBlock::main_out(const block::MainBlueprint& main) const {
    double out = -1;
    for (const char* level : {"front", "rear"})
        for (const char* way : {"upright", "60 left", "60 right"}) {
            const double d = size({main.id, block::Quantity::size, level, way, {}});
            out = std::max({out, *main.diameter.smallest() - d, d - *main.diameter.largest()});
        }
    return out;
}

double SimulatedBlock::mains_out() const {
    double out = -1;
    for (const block::MainBlueprint& main : blueprint_.mains)
        out = std::max(out, main_out(main));
    return out;
}

double SimulatedBlock::straightness() const {
    double off = 0;
    for (const auto& middle : planning::hone_line(mains_, {}).middles)
        off = std::max(off, std::hypot(middle.y - line_.y(middle.x), middle.z - line_.z(middle.x)));
    return 2 * off;
}

SimulatedBlock::DeckStand SimulatedBlock::deck(const std::string& bank) const {
    const Deck& deck = decks_.at(bank);
    DeckStand stand{1e9, -1e9, deck.cut, deck.top - deck.found_low, 0, false};
    for (const auto& [place, height] : deck.places) {
        const double h = from_tunnel(*blueprint_.bank(bank), place);
        stand.low = std::min(stand.low, h);
        stand.high = std::max(stand.high, h);
    }
    stand.clean_at = stand.low + std::max(0.0, stand.taken - stand.needed);
    stand.clean = stand.taken >= stand.needed - 1e-4;
    return stand;
}

std::vector<SimulatedBlock::DeckAcross> SimulatedBlock::deck_along(const std::string& bank) const {
    const block::BankBlueprint& drawn = *blueprint_.bank(bank);
    std::vector<DeckAcross> along;
    for (const auto& [place, found] : decks_.at(bank).places) { // row by row from the front
        const double height = from_tunnel(drawn, place) - drawn.deck_height.nominal;
        if (along.empty() || along.back().u != place.x)
            along.push_back({place.x, height, height});
        along.back().low = std::min(along.back().low, height);
        along.back().high = std::max(along.back().high, height);
    }
    return along;
}

} // namespace pallix::workshop
