// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QPushButton;

namespace pallix::ui {

class FigureLine;

/// What this job is held against where its blueprint sets no limit, changed in its sentence; and the way to make it the
/// shop's.
class LimitsDialog : public QDialog {
    Q_OBJECT
  public:
    explicit LimitsDialog(Context context, QWidget* parent = nullptr);

  private:
    void refresh();

    Context context_;
    FigureLine* sentence_;
    QPushButton* keep_;
};

} // namespace pallix::ui
