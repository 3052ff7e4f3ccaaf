// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/ledger.h"

#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// A whole job as one open file, `.pallix.json`: every entry of the ledger, nothing else needed to rebuild it.
[[nodiscard]] std::string write_job(const std::vector<Entry>& entries);

/// "entry 7 (deck_cut)"
[[nodiscard]] std::string entry_words(const Entry& entry);

/// @return the entries, in order, or every fault with its entry and field; entries of kinds this version does not know,
/// and struck ones that cannot be read, are kept
[[nodiscard]] Result<std::vector<Entry>> read_job(std::string_view text, const std::string& file);

} // namespace pallix::block
