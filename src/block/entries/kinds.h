// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/fields.h"

#include <algorithm>
#include <string>
#include <string_view>
#include <type_traits>
#include <variant>
#include <vector>

namespace pallix::block {

// Each kind of entry is described once, beside its struct: its name in files and its fields, which writing, reading and
// checking go through. A kind without either does not compile. docs/formats.md says what the fields mean.

template <class Entry>
inline constexpr std::string_view entry_kind = {}; // every kind has its own

/// Kinds of entries that belong to one part of the block.
template <class... Kind>
struct Kinds {
    using Variant = std::variant<Kind...>;
    template <class Entry>
    static constexpr bool has = (std::is_same_v<Entry, Kind> || ...);
    template <class... Other>
    Kinds<Kind..., Other...> operator+(Kinds<Other...>) const;

    /// Hands the entry on if it is of one of these kinds.
    /// @return whether it was
    template <class Entry, class Take>
    static bool take(const Entry& entry, const Take& into) {
        const auto one = [&](const auto* kind) {
            if (kind)
                into(*kind);
            return kind != nullptr;
        };
        return (one(std::get_if<Kind>(&entry)) || ...);
    }
};

/// Numbers by feature: {"main.2": 0.05}.
template <class Map>
void by_feature(Fields& f, Fields::Key key, Map& map, FeatureKind kind, Range range) {
    std::vector<std::string> keys;
    keys.reserve(map.size());
    for (const auto& [id, value] : map)
        keys.push_back(id.text());
    const Map before = std::move(map);
    map = Map();
    for (const std::string& name : f.begin_map(key, std::move(keys), {0, 200})) {
        const auto id = FeatureId::parse(name);
        const auto known = std::ranges::find_if(before, [&](const auto& one) { return id && one.first == *id; });
        double value = known == before.end() ? 0 : known->second;
        f.demand(id && id->kind == kind, name, "is no " + std::string(kind_name(kind)),
                 "a name such as \"" + FeatureId{kind, "R", 1}.text() + "\"");
        f.number(name, value, range);
        if (id)
            map.insert(map.end(), {*id, value});
    }
    f.end();
}

} // namespace pallix::block
