// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/engine.h"

#include "block/schema.h"

namespace pallix::block {
namespace {

Result<Engine> read_engine(std::string_view text, const std::string& file) {
    return read_document(text, file, engine_schema_text).and_then([&](const JsonDocument& document) {
        return read_recipe(document.root["recipe"].dump(), file).map([&](Recipe recipe) {
            recipe.lines.clear(); // they are of the recipe alone
            Engine e{std::move(recipe)};
            e.note = document.root.value("note", "");
            const Json usual = document.root.value("usual", Json::object());
            for (const auto& [address, typed] : usual.items())
                e.usual[address] = typed.get<std::string>();
            return e;
        });
    });
}

} // namespace

Result<Engine> engine_from(std::string_view text, const std::string& file) {
    const std::string format = format_of(text);
    if (format == "pallix-engine")
        return read_engine(text, file);
    const auto bare = [](Recipe recipe) {
        recipe.lines.clear();
        return Engine{std::move(recipe)};
    };
    if (format == "pallix-blueprint")
        return read_blueprint(text, file).and_then(recipe_of).map(bare);
    return read_recipe(text, file).map(bare);
}

std::string write_engine(const Engine& engine) {
    Json root{{"format", "pallix-engine"}, {"version", 1}};
    if (!engine.note.empty())
        root["note"] = engine.note;
    root["recipe"] = Json::parse(write_recipe(engine.recipe));
    for (const auto& [address, typed] : engine.usual)
        root["usual"][address] = typed;
    return root.dump(1) + "\n";
}

} // namespace pallix::block
