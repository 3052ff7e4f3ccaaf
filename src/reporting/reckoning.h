// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

namespace pallix::reporting {

/// What came of an exercise, held against the truth, on one page. While the truth is sealed it says no more than that.
[[nodiscard]] QString reckoning_html(const PaperSource& source);

} // namespace pallix::reporting
