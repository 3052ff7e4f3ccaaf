// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/ledger.h"
#include "block/named_text.h"
#include "ui/context.h"

#include <QString>

namespace pallix::ui {

using session::read_text_file;

/// A text that came with the program. @param file as the resources name it: "help/decks.html"
[[nodiscard]] QString shipped_text(const QString& file);

/// A title as the name of a file: no folder, no hidden file, nothing a shell or another system stumbles over.
[[nodiscard]] QString file_name_of(const QString& title);

/// Asks for a name and writes a job file; says so where it cannot.
void save_job(const std::vector<block::Entry>& entries, const QString& title, Context context, QWidget* parent);

enum class FileKind { blueprint, engine, drawing, spreadsheet, probe_log, trace, job, other };
/// By the ending of its name.
[[nodiscard]] FileKind kind_of_file(const QString& file);

} // namespace pallix::ui
