// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

namespace pallix::ui {

/// F1: what the view in front of you is for; Shift+F1: all keys there are.
class HelpDialog : public QDialog {
    Q_OBJECT
  public:
    explicit HelpDialog(const QString& html, QWidget* parent = nullptr);
};

} // namespace pallix::ui
