// SPDX-License-Identifier: GPL-3.0-or-later
// A drawing or a table of an engine that anybody may have sent.
#include "block/drawing/dxf_engine.h"
#include "block/drawing/engine.h"
#include "block/drawing/table.h"
#include "input.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text = fuzz::text(data, size);
    block::DxfPlacing placing;
    placing.unit = block::Unit::mm;
    if (const auto drawing = block::read_dxf(text, "deck.dxf"))
        static_cast<void>(block::recipe_from_dxf(*drawing, block::dxf_groups(*drawing), placing, {}, "deck.dxf"));
    if (!text.starts_with("PK")) // spreadsheets are others' code, and are kept in one try
        if (const auto table = block::read_table(text, "sheet"))
            static_cast<void>(block::recipe_from_table(*table, {}, "sheet"));
    if (const auto engine = block::engine_from(text, "engine"))
        static_cast<void>(block::sketch(engine->recipe));
    return 0;
}
