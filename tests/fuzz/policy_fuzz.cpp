// SPDX-License-Identifier: GPL-3.0-or-later
// Policies of a plan, and the shop's papers as a file has them.
#include "block/shop_papers.h"
#include "input.h"
#include "planning/common/correction_plan.h"

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text = fuzz::text(data, size);
    static_cast<void>(planning::read_policy(text, "policy", fuzz::blueprint()));
    static_cast<void>(block::read_shop_papers(text, "papers"));
    return 0;
}
