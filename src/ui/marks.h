// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/decision.h"
#include "planning/common/assessment.h"
#include "planning/common/stages.h"
#include "ui/theme.h"

#include <QRectF>
#include <QWidget>

class QPainter;

namespace pallix::ui {

/// States are told by shape and word, and only then by colour.
[[nodiscard]] planning::StageMark mark_of(metrology::Verdict verdict);
[[nodiscard]] QColor mark_colour(planning::StageMark mark, const Palette& palette);
void paint_mark(QPainter& painter, const QRectF& box, planning::StageMark mark, const Palette& palette);

/// A round exaggeration and the bar that shows its scale.
struct Exaggeration {
    double factor = 1; ///< drawn size over true size
    double bar = 0;    ///< mm, the true length the bar stands for
    double bar_pixels = 0;
};

/// @param largest mm, the deviation that shall fill `pixels`
/// @param pixels_per_mm of the drawing without exaggeration
/// @param mm_per_unit the bar's length is round in this unit
[[nodiscard]] Exaggeration exaggeration_for(double largest, double pixels, double pixels_per_mm, double mm_per_unit);

} // namespace pallix::ui
