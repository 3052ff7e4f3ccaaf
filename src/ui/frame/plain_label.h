// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>

namespace pallix::ui {

/// Words as they stand. Titles, names and readings come from files and from the line: what looks like markup in them
/// must neither be shown as such nor fetch anything.
class PlainLabel : public QLabel {
    Q_OBJECT
  public:
    explicit PlainLabel(QWidget* parent = nullptr) : PlainLabel(QString(), parent) {}
    explicit PlainLabel(const QString& text, QWidget* parent = nullptr) : QLabel(parent) {
        setTextFormat(Qt::PlainText);
        setText(text);
    }
};

/// A tooltip that shows words as they stand: a tooltip has no plain format of its own.
[[nodiscard]] inline QString plain_tip(const QString& words) {
    return QStringLiteral("<qt>") + words.toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")) +
           QStringLiteral("</qt>");
}

} // namespace pallix::ui
