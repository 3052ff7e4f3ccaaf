// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading_text.h"
#include "input.h"

using namespace pallix;

/// The first byte chooses what is read.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0)
        return 0;
    const auto quantity = static_cast<block::Quantity>(data[0] % 9);
    block::Expected expected;
    expected.value = 60.01;
    static_cast<void>(block::read_reading(fuzz::text(data + 1, size - 1), quantity, expected));
    static_cast<void>(block::read_length(fuzz::text(data + 1, size - 1), block::Unit::inch));
    return 0;
}
