// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_dialect.h"
#include "block/unnamed/named_log.h"
#include "input.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const block::LogLook look = block::look_at_log(fuzz::text(data, size), "log");
    constexpr std::size_t enough = 400; // touches: more only take longer
    if (look.touches.size() <= enough)
        static_cast<void>(
            block::convert_log(fuzz::text(data, size), "log", block::name_log(look, {}, {}, nullptr).mapping));
    static_cast<void>(block::read_mapping(fuzz::text(data, size), "mapping"));
    return 0;
}
