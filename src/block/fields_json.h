// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fields.h"

#include <functional>
#include <tl/expected.hpp>

namespace pallix::block {

/// Walks an entry through one way of its fields.
using Walk = std::function<void(Fields&)>;

/// @return the fields as one line of JSON
/// @param walk visits something that is sound: a text that is no UTF-8 throws
[[nodiscard]] std::string fields_as_json(const Walk& walk);

/// Reads fields from an object of JSON.
/// @return every fault, in the order of the fields; with none everything was read
[[nodiscard]] std::vector<FieldFault> fields_from_json(std::string_view json, const Walk& walk);

/// @return whether the text is well-formed JSON: then it can stand in a file as it is
[[nodiscard]] bool is_json(std::string_view text);

} // namespace pallix::block
