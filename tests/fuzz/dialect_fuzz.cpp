// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_dialect.h"
#include "input.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static_cast<void>(block::convert_log(fuzz::text(data, size), "log"));
    static_cast<void>(block::read_mapping(fuzz::text(data, size), "mapping"));
    return 0;
}
