// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/gauge_protocol.h"
#include "input.h"

using namespace pallix;

/// Bytes as they come, in two pieces: where they are cut must not matter to what is taken.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string all = fuzz::text(data, size);
    block::GaugeLineReader whole, parts;
    const std::size_t lines = whole.feed(all).size();
    std::size_t in_parts = parts.feed(all.substr(0, size / 2)).size();
    in_parts += parts.feed(all.substr(size / 2)).size();
    if (size < 400 && lines != in_parts)
        __builtin_trap();
    return 0;
}
