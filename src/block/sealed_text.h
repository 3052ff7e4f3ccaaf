// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace pallix::block {

/// A text that nobody reads by looking into a file. It is a seal, no lock: its key is in this program, and whoever
/// breaks it cheats nobody but themselves. The same text gives the same seal.
[[nodiscard]] std::string sealed_text(std::string_view text);
/// @return nothing where it was not sealed so, or was changed since
[[nodiscard]] std::optional<std::string> opened_text(std::string_view sealed);

} // namespace pallix::block
