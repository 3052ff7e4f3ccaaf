// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

namespace pallix::reporting {

// Papers that lie beside the machine: what to do, in numbers and words, and room for what is read by hand. Each is
// self-contained HTML and says so where there is nothing to put on it.

/// Cap by cap: what comes off, why, what each size becomes, and room for what was taken and read.
[[nodiscard]] QString cap_sheet_html(const PaperSource& source);

/// Hole by hole in the order to bore: present centre, target, the move in words, sizes and settings.
[[nodiscard]] QString boring_sheet_html(const PaperSource& source);

/// The places that are still to be read, drawn and numbered in the order in which the bench asks for them, with blanks.
[[nodiscard]] QString reading_sheet_html(const PaperSource& source);

} // namespace pallix::reporting
