// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/block_truth.h"

#include "block/fields.h"
#include "metrology/monte_carlo.h"

namespace pallix::workshop {
namespace {

using block::FeatureId;
using block::Fields;

constexpr block::Range small{-5, 5}; ///< mm, of any error

/// A map as a list, each item with its key.
template <class Map, class Each>
void listed(Fields& f, Fields::Key key, Map& map, Each each) {
    using Item = std::pair<typename Map::key_type, typename Map::mapped_type>;
    std::vector<Item> items(map.begin(), map.end());
    f.list(key, items, {0, 200}, [&](Item& item) { each(item.first, item.second); });
    map = Map(items.begin(), items.end());
}

void fields(Fields& f, DeckTruth& p) {
    f.number("offset", p.offset, small);
    f.number("rear_over_front", p.rear_over_front, small);
    f.number("positive_over_negative", p.positive_over_negative, small);
    f.number("twist", p.twist, small);
    f.number("crown", p.crown, small);
    f.place("dip", p.dip);
    f.number("dip_depth", p.dip_depth, small);
    f.number("dip_radius", p.dip_radius, {1, 1000});
}
void fields(Fields& f, BoreTruth& p) {
    f.number("size", p.size, block::size_range);
    f.number("taper", p.taper, small);
    f.number("oval", p.oval, small);
    f.place("off", p.off);
}

block::Fault unlike(const std::string& what) {
    return {"truth", 0, what + " does not fit the blueprint", "one for each that the blueprint lists"};
}

} // namespace

BlockTruth worn(const block::Blueprint& blueprint, std::uint64_t seed) {
    metrology::Deviates draw(seed, 0);
    const auto even = [&draw](double low, double high) { return low + (high - low) * draw.uniform(); };
    const auto noise = [&draw](double spread) { return spread * draw.normal(); };
    BlockTruth truth;
    const double x0 = blueprint.mains.front().x, span = blueprint.mains.back().x - x0, bow = noise(0.008);
    for (const block::MainBlueprint& main : blueprint.mains) {
        const double far = 2 * (main.x - x0) / span - 1;
        MainTruth m;
        m.over = even(0, 0.02);
        m.oval = even(0, 0.01);
        m.up = noise(0.003) + bow * (1 - far * far);
        m.side = noise(0.002);
        truth.mains.push_back(m);
        for (int end = 0; end < 2; ++end)
            truth.sharpness.push_back(even(0.6, 1.4));
    }
    for (const block::BankBlueprint& bank : blueprint.banks) {
        DeckTruth& deck = truth.decks[bank.id];
        deck.offset = even(0.02, 0.08);
        deck.rear_over_front = noise(0.02);
        deck.positive_over_negative = noise(0.015);
        deck.twist = noise(0.006);
        deck.crown = noise(0.005);
    }
    for (const block::HoleBlueprint& bore : blueprint.bores) {
        BoreTruth& b = truth.bores[bore.id];
        b.size = bore.diameter.nominal + even(0.02, 0.12);
        b.taper = even(0, 0.08);
        b.oval = even(0, 0.03);
        b.off = {noise(0.03), noise(0.03)};
        truth.crowns[bore.id] = blueprint.bank(bore.id.bank)->deck_height.nominal - 0.2 + noise(0.01);
    }
    for (const block::HoleBlueprint& lifter : blueprint.lifters) {
        BoreTruth& b = truth.bores[lifter.id];
        b.size = lifter.diameter.nominal + even(0, 0.04);
        b.oval = even(0, 0.004);
        b.off = {noise(0.05), noise(0.05)};
    }
    return truth;
}

BlockTruth as_drawn(const block::Blueprint& blueprint) {
    BlockTruth truth;
    truth.mains.resize(blueprint.mains.size());
    truth.sharpness.resize(2 * blueprint.mains.size(), 1);
    for (const block::BankBlueprint& bank : blueprint.banks)
        truth.decks[bank.id] = {};
    for (const block::HoleBlueprint& bore : blueprint.bores) {
        truth.bores[bore.id] = {bore.diameter.nominal, 0, 0, {}};
        truth.crowns[bore.id] = blueprint.bank(bore.id.bank)->deck_height.nominal - 0.2;
    }
    for (const block::HoleBlueprint& lifter : blueprint.lifters)
        truth.bores[lifter.id] = {lifter.diameter.middle(), 0, 0, {}};
    return truth;
}

void fields(Fields& f, BlockTruth& truth) {
    f.list("mains", truth.mains, {2, 20}, [&f](MainTruth& p) {
        f.number("over", p.over, small);
        f.number("oval", p.oval, small);
        f.number("up", p.up, small);
        f.number("side", p.side, small);
    });
    f.list("sharpness", truth.sharpness, {4, 40}, [&f](double& sharp) { f.number("", sharp, {0.1, 10}); });
    listed(f, "decks", truth.decks, [&f](std::string& bank, DeckTruth& p) {
        f.text("bank", bank);
        fields(f, p);
    });
    listed(f, "bores", truth.bores, [&f](FeatureId& bore, BoreTruth& p) {
        f.feature("bore", bore, {block::FeatureKind::bore, block::FeatureKind::lifter});
        fields(f, p);
    });
    listed(f, "crowns", truth.crowns, [&f](FeatureId& bore, double& height) {
        f.feature("bore", bore, {block::FeatureKind::bore});
        f.number("height", height, block::any_length);
    });
}

std::optional<block::Fault> fault_of(const BlockTruth& truth, const block::Blueprint& blueprint) {
    if (truth.mains.size() != blueprint.mains.size() || truth.sharpness.size() != 2 * truth.mains.size())
        return unlike("the number of mains");
    for (const block::BankBlueprint& bank : blueprint.banks)
        if (!truth.decks.contains(bank.id))
            return unlike("bank " + bank.id);
    for (const auto* holes : {&blueprint.bores, &blueprint.lifters})
        for (const block::HoleBlueprint& hole : *holes)
            if (!truth.bores.contains(hole.id) ||
                (hole.id.kind == block::FeatureKind::bore && !truth.crowns.contains(hole.id)))
                return unlike(hole.id.text());
    return {};
}

} // namespace pallix::workshop
