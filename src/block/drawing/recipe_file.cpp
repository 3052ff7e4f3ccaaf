// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/number_text.h"
#include "block/schema.h"

#include <algorithm>
#include <array>

namespace pallix::block {
namespace {

constexpr std::array<const char*, 6> source_keys{"", "sheet", "drawing", "measured", "shop", "assumed"};

[[nodiscard]] Json recipe_json(const Recipe& recipe) {
    Json root{{"format", "pallix-recipe"}, {"version", 1}, {"unit", std::string(unit_name(recipe.unit))}};
    root["figures"] = Json::object();
    const auto put = [&](const std::string& key) {
        if (const auto found = recipe.figures.find(key); found != recipe.figures.end())
            root["figures"][key] = found->second;
    };
    for (const RecipeFigure& figure : recipe_figures())
        put(figure.key);
    for (const auto& [key, typed] : recipe.figures)
        root["figures"][key] = typed;
    for (const auto& [key, origin] : recipe.origins) {
        if (origin.source == FigureSource::unstated)
            continue;
        Json& j = root["origins"][key];
        j["from"] = source_keys[static_cast<std::size_t>(origin.source)];
        if (origin.blocks > 0)
            j["blocks"] = origin.blocks;
        if (origin.spread)
            j["spread_mm"] = *origin.spread;
    }
    for (const auto& [what, why] : recipe.accepted)
        root["accepted"][what] = why;
    return root;
}

} // namespace

Result<Blueprint> blueprint_from(std::string_view text, const std::string& file) {
    if (format_of(text) != "pallix-recipe")
        return read_blueprint(text, file);
    return read_recipe(text, file).and_then([&](const Recipe& recipe) { return draw(recipe, file); });
}

Result<Recipe> read_recipe(std::string_view text, const std::string& file) {
    return read_document(text, file, recipe_schema_text).and_then([&](const JsonDocument& document) -> Result<Recipe> {
        Recipe r;
        r.unit = *unit_from_name(document.root.value("unit", "mm"));
        for (const auto& [key, value] : document.root["figures"].items()) {
            r.figures[key] = value.is_string() ? value.get<std::string>() : short_number(value.get<double>());
            const auto at = text.find('"' + key + '"'); // keys hold points, which addresses do not
            r.lines[key] = at == std::string_view::npos ? document.lines.line("figures") : line_of_byte(text, at);
        }
        const Json origins = document.root.value("origins", Json::object());
        for (const auto& [key, value] : origins.items()) {
            FigureOrigin& origin = r.origins[key];
            origin.source = static_cast<FigureSource>(std::ranges::find(source_keys, value["from"].get<std::string>()) -
                                                      source_keys.begin());
            origin.blocks = value.value("blocks", 0);
            if (value.contains("spread_mm"))
                origin.spread = value["spread_mm"].get<double>();
        }
        const Json accepted = document.root.value("accepted", Json::object());
        for (const auto& [what, why] : accepted.items())
            r.accepted[what] = why.get<std::string>();
        return r;
    });
}

std::string write_recipe(const Recipe& recipe) {
    return recipe_json(recipe).dump(1) + "\n";
}

} // namespace pallix::block
