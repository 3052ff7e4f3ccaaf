// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"

#include <QPageSize>
#include <QStringList>
#include <array>
#include <tl/expected.hpp>

class QPagedPaintDevice;

namespace pallix::reporting {

/// The papers of a job.
enum class PaperKind {
    passport,
    customer,
    estimate,
    work_sheet,
    caps,
    boring,
    readings,
    coordinates,
    label,
    data,
    reckoning
};
inline constexpr std::array paper_keys{"passport", "customer",    "estimate", "work-sheet", "caps",     "boring",
                                       "readings", "coordinates", "label",    "data",       "reckoning"};

/// How a paper is wanted.
struct PaperWish {
    PaperKind kind = PaperKind::passport;
    QPageSize paper = QPageSize(QPageSize::A4);
    std::string machine{}; ///< of the shop, whose axes coordinates go by; empty: none
};

/// Suffixes of files that a kind can be written to, the usual one first: "pdf", "html".
[[nodiscard]] QStringList formats_of(PaperKind kind);

/// Whether it is printed with the longer side of the paper across: it has many columns.
[[nodiscard]] inline bool is_wide(PaperKind kind) {
    return kind == PaperKind::coordinates;
}

/// The paper as a page; of a label its picture, of data what it holds.
[[nodiscard]] QString html_of(const PaperSource& source, const PaperWish& wish);

/// Writes it in the form that the file's suffix says. CSV of data is a file for each table, its name before the suffix.
/// @return the files that were written; the reason in words where one cannot be
[[nodiscard]] tl::expected<QStringList, QString> write_paper(const PaperSource& source, const PaperWish& wish,
                                                             const QString& file);
/// Prints it; data is no paper.
void print(const PaperSource& source, const PaperWish& wish, QPagedPaintDevice& device);

/// A title as the name of a file: no folder, no hidden file, nothing a shell or another system stumbles over.
[[nodiscard]] QString file_name_of(const QString& title);

/// The type that papers are set in, for programs without a window.
void load_paper_fonts();

} // namespace pallix::reporting
