// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/shape.h"

#include "planning/tunnel/hone_line.h"

#include <algorithm>

namespace pallix::workshop {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::MeasuredAt;
using block::Quantity;

/// The middles of the mains, and the line they have in common.
class Middles {
  public:
    explicit Middles(const SimulatedBlock& block) : line_(planning::hone_line(block.mains(), {})) {}

    /// Over both ends of one: (sideways, upright).
    [[nodiscard]] metrology::Vec2 of(std::size_t main) const {
        metrology::Vec2 sum{};
        double n = 0;
        for (const auto& middle : line_.middles)
            if (middle.main == main) {
                sum = sum + metrology::Vec2{middle.y, middle.z};
                ++n;
            }
        return (1 / std::max(n, 1.0)) * sum;
    }
    [[nodiscard]] metrology::Vec2 line_at(double x) const { return {line_.uncut.y(x), line_.uncut.z(x)}; }

  private:
    planning::HoneLine line_;
};

/// What sizes of a hole or main there are, least and most.
struct Span {
    double low = 0, high = 0;
};
Span sizes_of(const SimulatedBlock& block, const FeatureId& id) {
    const bool main = id.kind == FeatureKind::main;
    const std::vector<const char*> levels =
                                       main ? std::vector{"front", "rear"} : std::vector{"top", "middle", "bottom"},
                                   ways = main ? std::vector{"upright", "60 left", "60 right"}
                                               : std::vector{"along", "across"};
    Span span{1e9, -1e9};
    for (const char* level : levels)
        for (const char* way : ways) {
            const double size = block.truth({id, Quantity::size, level, way, {}});
            span = {std::min(span.low, size), std::max(span.high, size)};
        }
    return span;
}

ShapePart part_of(const SimulatedBlock& found, const SimulatedBlock& now, const FeatureId& id, double x, double zero,
                  const ShapeLimits& limits) {
    const Span was = sizes_of(found, id), is = sizes_of(now, id);
    ShapePart part{id.text(), x, was.low - zero, was.high - zero, is.low - zero, is.high - zero};
    if (const auto limit = limits.sizes.find(id); limit != limits.sizes.end()) {
        part.least = limit->second.first - zero;
        part.most = limit->second.second - zero;
    }
    return part;
}

void add_mains(std::vector<Shape>& all, const SimulatedBlock& found, const SimulatedBlock& now,
               const ShapeLimits& limits) {
    const Middles was(found), is(now);
    Shape upright{ShapeOf::line_upright, "", {}}, sideways{ShapeOf::line_sideways, "", {}},
        sizes{ShapeOf::mains, "", {}};
    for (std::size_t m = 0; m < now.mains().size(); ++m) {
        const block::MainBlueprint& main = now.blueprint().mains[m];
        const double x = now.mains()[m].mean_x();
        const metrology::Vec2 before = was.of(m), after = is.of(m), line = is.line_at(x);
        const auto add = [&](Shape& shape, double from, double to, double middle) {
            ShapePart part{main.id.text(), x, from, from, to, to};
            if (limits.straightness) {
                part.least = middle - *limits.straightness / 2;
                part.most = middle + *limits.straightness / 2;
            }
            shape.parts.push_back(std::move(part));
        };
        add(sideways, before.x, after.x, line.x);
        add(upright, before.y, after.y, line.y);
        sizes.parts.push_back(part_of(found, now, main.id, x, main.diameter.middle(), limits));
    }
    for (Shape* shape : {&upright, &sideways, &sizes})
        all.push_back(std::move(*shape));
}

} // namespace

ShapeLimits drawn_limits(const block::Blueprint& blueprint) {
    ShapeLimits limits;
    for (const block::MainBlueprint& main : blueprint.mains)
        if (main.diameter.smallest() && main.diameter.largest())
            limits.sizes.emplace(main.id, std::pair(*main.diameter.smallest(), *main.diameter.largest()));
    return limits;
}

std::vector<Shape> shapes_of(const SimulatedBlock& found, const SimulatedBlock& now, const ShapeLimits& limits) {
    std::vector<Shape> all;
    add_mains(all, found, now, limits);
    const block::Blueprint& b = now.blueprint();
    for (const block::BankBlueprint& bank : b.banks) {
        Shape deck{ShapeOf::deck, bank.id, {}};
        const auto was = found.deck_along(bank.id), is = now.deck_along(bank.id);
        for (std::size_t i = 0; i < is.size(); ++i)
            deck.parts.push_back({"deck." + bank.id, is[i].u, was[i].low, was[i].high, is[i].low, is[i].high});
        all.push_back(std::move(deck));
    }
    for (const auto& [what, holes] : {std::pair(ShapeOf::cylinders, &b.bores), std::pair(ShapeOf::lifters, &b.lifters)})
        for (const block::BankBlueprint& bank : b.banks) {
            Shape shape{what, bank.id, {}};
            for (const block::HoleBlueprint& hole : *holes)
                if (hole.id.bank == bank.id)
                    shape.parts.push_back(part_of(found, now, hole.id, hole.u, hole.diameter.nominal, limits));
            if (!shape.parts.empty())
                all.push_back(std::move(shape));
        }
    return all;
}

} // namespace pallix::workshop
