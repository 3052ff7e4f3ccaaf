// SPDX-License-Identifier: GPL-3.0-or-later
// How a shop's own logs are read, as a file.
#include "block/log_dialect.h"
#include "block/number_text.h"
#include "block/schema.h"

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
        return m;
    });
}

} // namespace pallix::block
