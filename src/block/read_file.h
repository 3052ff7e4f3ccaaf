// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/named_text.h"

#include <filesystem>
#include <string>

namespace pallix::block {

/// No document is larger: a log of three million touches has 150 MB.
inline constexpr std::uintmax_t largest_file = 256u << 20;

/// Reads a whole file; a device, a pipe or a file beyond `largest_file` is refused before anything is read.
/// @param name it is known by in messages and in the ledger; bytes that are no UTF-8 become question marks
/// @return its bytes, or the one fault that says why not
[[nodiscard]] Result<NamedText> read_file(const std::filesystem::path& file, const std::string& name);

} // namespace pallix::block
