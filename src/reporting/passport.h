// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

namespace pallix::reporting {

/// The passport: on its first page all that matters, then what was found, cut and left of every feature, who and when
/// and with what, and the digest of the ledger it was made from. Self-contained HTML.
[[nodiscard]] QString passport_html(const PaperSource& source);

} // namespace pallix::reporting
