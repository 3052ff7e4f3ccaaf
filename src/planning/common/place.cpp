// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/place.h"

#include <algorithm>
#include <limits>

namespace pallix::planning {

using metrology::Vec2;

DeckExtent deck_extent(const block::BankBlueprint& bank) {
    constexpr double far = std::numeric_limits<double>::infinity();
    DeckExtent e{{far, far}, {-far, -far}};
    for (const Vec2 c : bank.deck_outline) {
        e.low = {std::min(e.low.x, c.x), std::min(e.low.y, c.y)};
        e.high = {std::max(e.high.x, c.x), std::max(e.high.y, c.y)};
    }
    return e;
}

Across positive_side(const block::BankBlueprint& bank) {
    if (bank.angle == 0)
        return Across::right;
    return bank.angle > 0 ? Across::outboard : Across::inboard;
}

Across negative_side(const block::BankBlueprint& bank) {
    if (bank.angle == 0)
        return Across::left;
    return bank.angle > 0 ? Across::inboard : Across::outboard;
}

PlaceOnDeck place_on_deck(const block::BankBlueprint& bank, Vec2 place) {
    const DeckExtent e = deck_extent(bank);
    const double along = (place.x - e.low.x) / e.length();
    const double across = (place.y - e.low.y) / e.width();
    const auto third = [](double share, auto low, auto middle, auto high) {
        return share < 1.0 / 3 ? low : share > 2.0 / 3 ? high : middle;
    };
    return {third(along, Along::front, Along::middle, Along::rear),
            third(across, negative_side(bank), Across::middle, positive_side(bank))};
}

std::vector<BetweenBores> between_bores(const block::Blueprint& blueprint, const std::string& bank) {
    std::vector<BetweenBores> between;
    const block::HoleBlueprint* before = nullptr;
    for (const block::HoleBlueprint& bore : blueprint.bores) {
        if (bore.id.bank != bank)
            continue;
        if (before)
            between.push_back({(before->u + bore.u) / 2, before->id.number, bore.id.number});
        before = &bore;
    }
    return between;
}

bool inside(const std::vector<Vec2>& outline, Vec2 p) {
    bool odd = false; // crossings of a ray along u
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vec2 a = outline[i], b = outline[(i + 1) % outline.size()];
        if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x))
            odd = !odd;
    }
    return odd;
}

bool on_metal(const block::Blueprint& blueprint, const block::BankBlueprint& bank, Vec2 p) {
    const auto in_hole = [&](const block::HoleBlueprint& h) {
        return h.id.bank == bank.id && norm(p - Vec2{h.u, h.v}) < h.diameter.nominal / 2;
    };
    return inside(bank.deck_outline, p) && std::ranges::none_of(blueprint.bores, in_hole) &&
           std::ranges::none_of(blueprint.dowels, in_hole);
}

} // namespace pallix::planning
