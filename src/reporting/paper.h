// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "reporting/save.h"

#include <QMarginsF>
#include <QPageSize>
#include <QString>
#include <string>

class QPagedPaintDevice;

namespace pallix::reporting {

/// A self-contained page in the type of all papers.
/// @param title as it was typed; @param body HTML; @param more rules of style besides
[[nodiscard]] QString paper_html(const std::string& title, const QString& body, const char* more = "");

/// What stands at the foot of every page: whose it is.
struct PaperFoot {
    QString title, serial;
};
[[nodiscard]] PaperFoot foot_of(const block::JobState& state);
inline constexpr QMarginsF paper_margins{16, 14, 16, 12}; ///< mm
/// Letter where inches are at home, else A4.
[[nodiscard]] QPageSize paper_of_locale();
/// @param name "a4" or "letter"; empty: as is usual here
[[nodiscard]] QPageSize paper_named(const QString& name);

/// Lays a paper out on as many pages of a paged device (PDF, printer, print preview) as it needs: no heading stands
/// alone at the foot of a page, heads of tables are repeated, every page says whose it is and which of how many.
void print_paper(const QString& html, const PaperFoot& foot, QPagedPaintDevice& device);

/// @param wide the longer side across
[[nodiscard]] Saved save_paper_pdf(const QString& html, const PaperFoot& foot, const QPageSize& paper,
                                   const QString& file, bool wide = false);
[[nodiscard]] Saved save_paper_html(const QString& html, const QString& file);

} // namespace pallix::reporting
