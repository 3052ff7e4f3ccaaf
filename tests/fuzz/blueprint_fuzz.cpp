// SPDX-License-Identifier: GPL-3.0-or-later
#include "input.h"

using namespace pallix;

/// A blueprint that is taken can be written and read again.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto blueprint = block::read_blueprint(fuzz::text(data, size), "blueprint");
    if (blueprint && !block::read_blueprint(block::write_blueprint(*blueprint), "again"))
        __builtin_trap();
    return 0;
}
