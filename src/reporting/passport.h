// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/assessment.h"
#include "wording/common/lengths.h"

#include <QByteArray>
#include <QString>
#include <memory>
#include <tl/expected.hpp>
#include <vector>

class QPagedPaintDevice;
class QTextDocument;

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

/// The passport on one sheet: as found, what was cut, as left, who and when. Self-contained HTML.
[[nodiscard]] QString passport_html(const PassportSource& source);

/// Lays the sheet out on a page of any paged device (PDF, printer, print preview), scaled down to one page.
void print_passport(const QString& html, QPagedPaintDevice& device);

/// @return the reason in words where the file cannot be written
[[nodiscard]] tl::expected<void, QString> save_passport_pdf(const QString& html, const QString& title,
                                                            const QString& file);
[[nodiscard]] tl::expected<void, QString> save_passport_html(const QString& html, const QString& file);

} // namespace pallix::reporting
