// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace pallix::ui {

/// Across the top: which block, from which datum, how warm, in which unit.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    explicit TopBar(Context context, QWidget* parent = nullptr);
    void refresh();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QLabel* title_;
    QLabel* datum_;
    QPushButton* inch_;
    QPushButton* mm_;
    QPushButton* theme_;
};

} // namespace pallix::ui
