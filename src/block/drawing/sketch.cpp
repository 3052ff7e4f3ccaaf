// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <stdexcept>

namespace pallix::block {
namespace {

constexpr double usual_bore = 90; // mm

/// In the proportions of what most benches see (common practice, no source); only ever drawn, never kept.
struct Proportion {
    const char* key;
    double of_bore;
};
constexpr std::array<Proportion, 8> proportions{{{"bore", 1},
                                                 {"pitch", 1.15},
                                                 {"deck_height", 2.4},
                                                 {"main_size", 0.7},
                                                 {"cam", 1.35},
                                                 {"cam_size", 0.55},
                                                 {"lifter_size", 0.24},
                                                 {"dowel_size", 0.14}}};

double bore_of(const Recipe& r) {
    const auto typed = r.figures.find("bore");
    const auto size = typed == r.figures.end() ? tl::expected<Tolerance, std::string>(tl::unexpected(std::string()))
                                               : read_size(typed->second, r.unit);
    return size ? size->nominal : usual_bore;
}

std::string stand_in(const std::string& key, const Recipe& r) {
    if (key == "layout")
        return "inline";
    if (key == "cylinders")
        return "4";
    if (key == "angle")
        return "90";
    if (key == "crank_teeth" || key == "cam_teeth")
        return "20";
    const auto* found = std::ranges::find(proportions, key, [](const Proportion& p) { return std::string(p.key); });
    return short_number(bore_of(r) * (found == proportions.end() ? 0.1 : found->of_bore)) + " mm";
}

/// Leaves out what only goes wrong together with other figures: what is irregular first, then places one by one.
bool simplify(Recipe& r) {
    return std::erase_if(r.figures, [](const auto& f) { return f.first.find('/') != std::string::npos; }) > 0 ||
           std::erase_if(r.figures,
                         [](const auto& f) { return f.first.ends_with("_at") || f.first.ends_with("_pitch"); }) > 0;
}

} // namespace

Sketch sketch(const Recipe& recipe) {
    Sketch s;
    Recipe r = recipe;
    constexpr int most = 20; // each round leaves something out
    const std::map<std::string, std::string> plainest{{"clocking", "decks"}};
    for (int round = 0; round < most; ++round) {
        if (round == most - 2) // a figure may spoil what stands in for others, again and again
            r.figures = plainest;
        for (const std::string& key : lacking(r)) {
            r.figures[key] = stand_in(key, r);
            s.stand_ins.insert(key);
        }
        auto drawn = draw_figures(r, "board");
        if (drawn) {
            s.blueprint = std::move(*drawn);
            return s;
        }
        bool left_out = false;
        for (const auto& [key, fault] : drawn.error())
            if (!key.empty() && r.figures.erase(key) > 0) {
                s.wrong[key] = fault.what + (fault.expected.empty() ? "" : "; expected: " + fault.expected);
                left_out = true;
            }
        if (left_out)
            continue;
        s.wrong.emplace("", drawn.error().front().fault.what);
        if (!simplify(r)) // what one figure does to another nobody can say: the plainest block
            r.figures = plainest;
    }
    throw std::logic_error("the plainest block cannot be drawn");
}

} // namespace pallix::block
