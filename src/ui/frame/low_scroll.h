// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/theme.h"

#include <QLayout>
#include <QScrollArea>
#include <algorithm>

namespace pallix::ui {

/// As tall as what it holds, and no taller; where there is less room, it scrolls.
class LowScroll : public QScrollArea {
  public:
    explicit LowScroll(QWidget* parent) : QScrollArea(parent) {
        setFrameShape(QFrame::NoFrame);
        setWidgetResizable(true);
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
        setFocusPolicy(Qt::NoFocus);
        setStyleSheet(QStringLiteral("QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; }"));
    }
    QSize sizeHint() const override {
        const int room = std::max(100, parentWidget() ? parentWidget()->width() - 44 : width());
        const int tall = widget() ? widget()->layout()->hasHeightForWidth() ? widget()->layout()->heightForWidth(room)
                                                                            : widget()->sizeHint().height()
                                  : 0;
        return {room, tall};
    }
    QSize minimumSizeHint() const override { return {100, std::min(sizeHint().height(), scaled(64))}; }
};

} // namespace pallix::ui
