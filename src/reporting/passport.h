// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/assessment.h"
#include "wording/common/lengths.h"

#include <QString>
#include <vector>

namespace pallix::reporting {

/// What a passport is made from.
struct PassportSource {
    const block::JobState& state;
    const planning::Assessment& assessment;
    const std::vector<block::Entry>& entries;
    wording::LengthText lengths;
    int picture_scale = 3; ///< pixels of a picture for one of the layout: 1 for the screen, 3 for paper
    QString printed;       ///< the day it is printed, as it shall stand on the sheet
};

/// The passport: as found, what was cut, as left, who and when, and the digest of the ledger it was made from.
/// Self-contained HTML.
[[nodiscard]] QString passport_html(const PassportSource& source);

} // namespace pallix::reporting
