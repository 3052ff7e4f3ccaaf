// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/deck_picture.h"
#include "session/preferences.h"

#include <QColor>
#include <QFont>

class QApplication;
class QWidget;

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

/// Sizes of type, px at 100 %: words of the middle are small or larger, numbers that are compared are number or larger.
enum class Type { small = 14, text = 15, number = 18, title = 20, reading = 28, call = 24, dial = 44 };
[[nodiscard]] QFont font_of(Type type, bool bold = false);

/// The size everything is shown at: what the person chose, times how far the window is larger than it must be.
[[nodiscard]] double scale();
/// A length of the screen at that size, px.
[[nodiscard]] int scaled(double px);
[[nodiscard]] inline double operator""_px(unsigned long long px) {
    return static_cast<double>(px) * scale();
}
[[nodiscard]] inline double operator""_px(long double px) {
    return static_cast<double>(px) * scale();
}

/// Whether a finger in a glove must hit what can be pressed.
[[nodiscard]] bool touch();
/// The least height of such a thing, px at 100 %.
constexpr int touch_height = 64;

/// Gives a widget its type, and again whenever the scale changes.
void set_type(QWidget* widget, Type type, bool bold = false);
/// Gives a widget a fixed size, and again whenever the scale changes.
/// @param width,height px at 100 %; 0 where the layout decides. For fingers none is lower than `touch_height`.
void fix_size(QWidget* widget, int width, int height);
/// Follows the scale in a window and all that is in it.
void rescale(QWidget* window);

/// Registers the shipped fonts; to be called once before the first window.
void load_fonts();

/// Sets palette, fonts and style sheet of the whole application.
/// @param scale 1 is 100 %
void apply_theme(QApplication& app, session::Theme theme, double scale = 1, bool touch = false);

} // namespace pallix::ui
