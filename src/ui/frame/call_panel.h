// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/frame/route_panel.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace pallix::ui {

/// On the right, the same on every page: one sentence in large type, the number to dial in, and why.
class CallPanel : public QWidget {
    Q_OBJECT
  public:
    explicit CallPanel(Context context, QWidget* parent = nullptr);
    /// @param here the page on screen: it is not named to who stands on it
    void refresh(Place here);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QLabel* headline_;
    QLabel* number_;
    QLabel* reasons_;
    QLabel* caution_;
    QPushButton* answer_; ///< where one key answers the step
};

} // namespace pallix::ui
