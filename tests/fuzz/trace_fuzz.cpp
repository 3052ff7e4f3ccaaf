// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/profile_trace.h"
#include "input.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static_cast<void>(block::read_trace({"trace", fuzz::text(data, size)}));
    return 0;
}
