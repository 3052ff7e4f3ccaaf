// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/probe_log.h"

#include <QString>

namespace pallix::ui {

/// @return the file's bytes under its own name, or the one fault that says why not
[[nodiscard]] block::Result<block::NamedText> read_text_file(const QString& file);

enum class FileKind { blueprint, probe_log, trace, job, other };
/// By the ending of its name.
[[nodiscard]] FileKind kind_of_file(const QString& file);

} // namespace pallix::ui
