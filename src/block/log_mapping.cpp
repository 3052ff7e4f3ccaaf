// SPDX-License-Identifier: GPL-3.0-or-later
// How a shop's own logs are read, as a file.
#include "block/log_dialect.h"
#include "block/number_text.h"
#include "block/schema.h"

#include <cmath>

namespace pallix::block {

std::string write_mapping(const LogMapping& mapping) {
    Json root{{"format", "pallix-log-mapping"}, {"version", 1}};
    const auto set = [&root](const char* key, const std::string& value) {
        if (!value.empty())
            root[key] = value;
    };
    set("delimiter", mapping.delimiter);
    set("decimal", mapping.decimal);
    if (mapping.unit)
        root["unit"] = std::string(unit_name(*mapping.unit));
    set("kind", mapping.kind);
    if (const auto tip = finite_number(mapping.tip_diameter))
        root["tip_diameter"] = *tip;
    for (const auto& [ours, theirs] : mapping.columns)
        root["columns"][ours] = theirs;
    for (const auto& [theirs, ours] : mapping.features)
        root["features"][theirs] = ours;
    for (const auto& [theirs, ours] : mapping.levels)
        root["levels"][theirs] = ours;
    for (const ProgramStep& step : mapping.program) {
        Json one{{"touches", step.touches}};
        if (!step.feature.empty())
            one["feature"] = step.feature;
        if (!step.level.empty())
            one["level"] = step.level;
        root["program"].push_back(std::move(one));
    }
    for (const auto& [name, turn] : mapping.setups)
        root["setups"][name] = {{"rotation_deg", std::round(turn.rotation / radians_per_degree * 1e9) / 1e9},
                                {"axis_y", turn.axis_y},
                                {"axis_z", turn.axis_z}};
    return root.dump(1) + "\n";
}

Result<LogMapping> read_mapping(std::string_view text, const std::string& file) {
    return read_document(text, file, mapping_schema_text).map([](const JsonDocument& document) {
        const Json& root = document.root;
        LogMapping m;
        m.delimiter = root.value("delimiter", "");
        m.decimal = root.value("decimal", "");
        if (root.contains("unit"))
            m.unit = unit_from_name(root["unit"].get<std::string>());
        m.kind = root.value("kind", "");
        if (root.contains("tip_diameter"))
            m.tip_diameter = short_number(root["tip_diameter"].get<double>());
        const auto each = [&root](const char* key, auto take) {
            if (root.contains(key))
                for (const auto& [name, value] : root[key].items())
                    take(name, value.template get<std::string>());
        };
        each("columns", [&m](const std::string& ours, std::string theirs) { m.columns[ours] = std::move(theirs); });
        each("features",
             [&m](const std::string& theirs, std::string ours) { m.features.emplace_back(theirs, std::move(ours)); });
        each("levels", [&m](const std::string& theirs, std::string ours) { m.levels[theirs] = std::move(ours); });
        if (root.contains("program"))
            for (const Json& step : root["program"])
                m.program.push_back(
                    {step.value("feature", ""), step.value("level", ""), step["touches"].get<std::size_t>()});
        if (root.contains("setups"))
            for (const auto& [name, turn] : root["setups"].items())
                m.setups[name] = {turn["rotation_deg"].get<double>() * radians_per_degree, turn.value("axis_y", 0.0),
                                  turn.value("axis_z", 0.0)};
        return m;
    });
}

} // namespace pallix::block
