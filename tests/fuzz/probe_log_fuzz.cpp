// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation.h"
#include "input.h"

#include <array>

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::array logs{block::NamedText{"log", fuzz::text(data, size)}};
    if (const auto probe = block::read_probe_logs(logs, fuzz::blueprint()))
        static_cast<void>(block::evaluate(fuzz::blueprint(), *probe));
    return 0;
}
