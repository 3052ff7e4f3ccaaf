// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/deck_picture.h"
#include "session/preferences.h"

#include <QColor>
#include <QFont>

class QApplication;

namespace pallix::ui {

/// The colours of the bench by day or by night, picked by hand: paper and cast iron, marking-blue as the one accent.
/// Text on page or panel is at least 4.5 : 1 (checked in tests/ui/theme_test.cpp).
struct Palette {
    QColor page, panel, ink, quiet, hairline, accent, on_accent;
    QColor meets, cannot_tell, fails;
    QColor field;    ///< where something is typed
    QColor selected; ///< behind a chosen row
    reporting::DeckColours deck;
};

[[nodiscard]] const Palette& palette_of(session::Theme theme);

/// Sizes of type, px.
enum class Type { small = 13, text = 15, number = 16, title = 20, call = 24, dial = 44 };
[[nodiscard]] QFont font_of(Type type, bool bold = false);

/// Registers the shipped fonts; to be called once before the first window.
void load_fonts();

/// Sets palette, fonts and style sheet of the whole application.
void apply_theme(QApplication& app, session::Theme theme);

} // namespace pallix::ui
