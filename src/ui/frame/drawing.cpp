// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/drawing.h"

#include <QPainter>

namespace pallix::ui {

Drawing::Drawing(Context context, const QString& name, const QString& spoken, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName(name);
    setAccessibleName(spoken);
}

void Drawing::prepare(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(context_.palette().hairline, 1));
    painter.setBrush(context_.palette().panel);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    painter.setFont(font_of(Type::small));
}

void Drawing::paint_focus(QPainter& painter) const {
    if (!hasFocus())
        return;
    painter.setPen(QPen(context_.palette().accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
}

} // namespace pallix::ui
