// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/recipe.h"

namespace pallix::block {

/// An engine as the shop knows it: the recipe of its block, and the figures that its jobs begin with.
struct Engine {
    Recipe recipe;                              ///< its `origins` tell of the usual figures too
    std::map<std::string, std::string> usual{}; ///< as typed, by their address in an entry: "engine_figures/stroke_mm"
    std::string note{};
    bool operator==(const Engine&) const = default;

    [[nodiscard]] std::string name() const {
        const auto found = recipe.figures.find("name");
        return found == recipe.figures.end() ? std::string() : found->second;
    }
};

/// Reads a `.pallix-engine.json`, a recipe, or a blueprint: of the latter two what goes with the block is not known.
[[nodiscard]] Result<Engine> engine_from(std::string_view text, const std::string& file);
[[nodiscard]] std::string write_engine(const Engine& engine);

} // namespace pallix::block
