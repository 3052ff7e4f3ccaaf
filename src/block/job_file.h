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

/// @return the entries, in order; entries of kinds this version does not know are kept
[[nodiscard]] Result<std::vector<Entry>> read_job(std::string_view text, const std::string& file);

} // namespace pallix::block
