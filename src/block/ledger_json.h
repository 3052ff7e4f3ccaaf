// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: small helpers for reading and writing payloads.

#include "block/instrument.h"
#include "block/reading.h"

#include <array>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

namespace pallix::block {

using Json = nlohmann::ordered_json;

/// @throws Json::exception where the name is not among the known ones
template <class Enum, std::size_t N>
Enum enum_from(const Json& j, const std::array<const char*, N>& names) {
    const std::string name = j;
    for (std::size_t i = 0; i < N; ++i)
        if (name == names[i])
            return static_cast<Enum>(i);
    throw Json::other_error::create(501, "\"" + name + "\" is not known here", &j);
}

template <class T>
void set_optional(Json& j, const char* key, const std::optional<T>& value) {
    if (value)
        j[key] = *value;
}
template <class T = double>
std::optional<T> optional_from(const Json& j, const char* key) {
    return j.contains(key) ? std::optional(j.at(key).get<T>()) : std::nullopt;
}

inline Json place_json(metrology::Vec2 p) {
    return Json::array({p.x, p.y});
}
inline metrology::Vec2 place_from(const Json& j) {
    return {j.at(0).get<double>(), j.at(1).get<double>()};
}

[[nodiscard]] Json instrument_to_json(const Instrument& instrument);
[[nodiscard]] Instrument instrument_from_json(const Json& j);
[[nodiscard]] Json conditions_to_json(const Conditions& conditions);
[[nodiscard]] Conditions conditions_from_json(const Json& j);
[[nodiscard]] Json reading_to_json(const Reading& reading);
[[nodiscard]] Reading reading_from_json(const Json& j);

} // namespace pallix::block
