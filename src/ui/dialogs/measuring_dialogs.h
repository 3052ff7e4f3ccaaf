// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QLabel;
class QListWidget;

namespace pallix::ui {

/// Which places are read, in which order.
class ReadingPlanDialog : public QDialog {
    Q_OBJECT
  public:
    ReadingPlanDialog(Context context, planning::Measuring what, const std::string& bank, QWidget* parent = nullptr);

  private:
    void accept() override;
    void fill(const std::vector<block::MeasuredAt>& chosen);
    void move(int by);

    Context context_;
    planning::Measuring what_;
    std::string bank_;
    QListWidget* list_;
    QLabel* echo_;
};

} // namespace pallix::ui
