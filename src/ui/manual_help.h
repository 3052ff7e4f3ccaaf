// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "wording/manual/manual.h"

#include <QString>

class QWidget;

namespace pallix::ui {

/// The manual that came with the program.
[[nodiscard]] const wording::Manual& shipped_manual();

/// Where the manual speaks of what is in a widget: F1 opens it there.
/// @param id of a section
void set_explained(QWidget* widget, const QString& id);
/// Of the widget, or the nearest that it stands in.
/// @return empty where nothing was said
[[nodiscard]] QString explained_by(const QWidget* widget);

/// All of it as a paper, HTML.
[[nodiscard]] QString manual_paper();

/// Opens the manual: beside the work, or over a dialog that has to be answered first.
/// @param id of a section; empty: its beginning
void show_manual(QWidget* over, const QString& id);

} // namespace pallix::ui
