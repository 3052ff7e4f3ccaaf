// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <nlohmann/json.hpp>

namespace pallix::block {

/// Keys stay in the order they were written in.
using Json = nlohmann::ordered_json;

} // namespace pallix::block
