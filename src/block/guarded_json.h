// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <string_view>

namespace pallix::block {

/// Why a text is not to be read as JSON, and the byte (from 0) at which that shows.
struct JsonTrouble {
    std::string what;
    std::string expected;
    std::size_t byte = 0;
};

// What any file of ours stays far below, and what keeps a hostile one from filling memory or an afternoon.
inline constexpr std::size_t deepest_json = 64;         ///< lists and objects in one another
inline constexpr std::size_t longest_key = 200;         ///< bytes
inline constexpr std::size_t most_keys = 2000;          ///< of one object
inline constexpr std::size_t largest_json = 256u << 20; ///< bytes

/// Goes through the text once without building anything from it.
/// @return nothing where it is well-formed JSON in UTF-8 within the bounds above
[[nodiscard]] std::optional<JsonTrouble> trouble_with_json(std::string_view text);

} // namespace pallix::block
