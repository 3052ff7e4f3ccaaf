// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "wording/common/lengths.h"

#include <QString>
#include <vector>

namespace pallix::planning {
struct Assessment;
}

namespace pallix::reporting {

/// The paper beside the machine: what could be done on a job, clamping by clamping, each with four letters by which it
/// is typed in later and room for what is read or set. Self-contained HTML.
/// @param printed the day, as it shall stand on the sheet
[[nodiscard]] QString work_sheet_html(const block::JobState& state, const planning::Assessment& assessment,
                                      const wording::LengthText& lengths, const QString& printed);

/// A job on the sheet of the day.
struct DayLine {
    QString title, who; ///< customer and engine
    QString group;      ///< what it waits for
    QString next, where, promised;
    bool late = false;
};
[[nodiscard]] QString day_sheet_html(const std::vector<DayLine>& jobs, const QString& printed);

} // namespace pallix::reporting
