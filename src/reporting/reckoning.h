// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

#include <QImage>

namespace pallix::workshop {
struct Reckoning;
}

namespace pallix::reporting {

/// What came of an exercise, held against the truth, on one page. While the truth is sealed it says no more than that.
[[nodiscard]] QString reckoning_html(const PaperSource& source);

/// Every part that was asked for by how far it is out of its limit, larger than life: hollow as it was found, full as
/// it is left; what lies on the shaded side is good.
/// @param scale pixels of the picture for one of the layout
[[nodiscard]] QImage truth_picture(const block::JobState& state, const workshop::Reckoning& reckoning,
                                   const wording::LengthText& l, int scale);

} // namespace pallix::reporting
