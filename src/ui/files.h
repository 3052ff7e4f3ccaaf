// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/ledger.h"
#include "block/named_text.h"
#include "reporting/report.h"
#include "ui/context.h"

#include <QString>

namespace pallix::ui {

using session::read_text_file;

/// A text that came with the program. @param file as the resources name it: "manual/5-questions.md"
[[nodiscard]] QString shipped_text(const QString& file);

using reporting::file_name_of;

/// Asks for a name and writes a job file; says so where it cannot.
void save_job(const std::vector<block::Entry>& entries, const QString& title, Context context, QWidget* parent);

enum class FileKind { blueprint, engine, drawing, spreadsheet, probe_log, trace, exercise, job, book, other };
/// By the ending of its name.
[[nodiscard]] FileKind kind_of_file(const QString& file);

} // namespace pallix::ui
