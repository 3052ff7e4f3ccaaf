// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QLabel;

namespace pallix::ui {

/// What the call speaks of: the job as a whole, or the part of it that is on screen.
enum class CallAbout { job, tunnel, cylinders, lifters };

/// On the right: one sentence in large type, the number to dial in, and why.
class CallPanel : public QWidget {
    Q_OBJECT
  public:
    explicit CallPanel(Context context, QWidget* parent = nullptr);
    void refresh(CallAbout about = CallAbout::job);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QLabel* headline_;
    QLabel* number_;
    QLabel* reasons_;
    QLabel* caution_;
};

} // namespace pallix::ui
