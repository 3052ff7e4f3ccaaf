// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

namespace pallix::ui {

/// F1: what the view in front of you is for and which keys it takes.
class HelpDialog : public QDialog {
    Q_OBJECT
  public:
    explicit HelpDialog(const QString& view_help, QWidget* parent = nullptr);
};

} // namespace pallix::ui
