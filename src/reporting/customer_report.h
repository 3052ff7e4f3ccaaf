// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

namespace pallix::reporting {

/// What the block's owner takes home: found, done, why, how good it is now, what to watch, with pictures before and
/// after. Self-contained HTML.
[[nodiscard]] QString customer_report_html(const PaperSource& source);

/// Before the work: what is to be done, about how long it takes, which sizes may be needed, what could turn up.
[[nodiscard]] QString estimate_html(const PaperSource& source);

} // namespace pallix::reporting
