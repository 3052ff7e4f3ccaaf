// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/drawing/size_text.h"
#include "input.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text = fuzz::text(data, size);
    static_cast<void>(block::read_size(text, block::Unit::inch));
    static_cast<void>(block::blueprint_from(text, "recipe"));
    return 0;
}
