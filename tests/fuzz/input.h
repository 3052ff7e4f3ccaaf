// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/read_file.h"

#include <cstddef>
#include <cstdint>
#include <string>

namespace pallix::fuzz {

inline std::string text(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

/// A real V6, for what is read against a blueprint.
inline const block::Blueprint& blueprint() {
    static const block::Blueprint read = [] {
        const auto file = block::read_file(PALLIX_FUZZ_BLUEPRINT, "block");
        return block::read_blueprint(file.value().text, "block").value();
    }();
    return read;
}

} // namespace pallix::fuzz
