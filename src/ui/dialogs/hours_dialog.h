// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/shop/work_times.h"
#include "ui/context.h"

#include <QDialog>
#include <vector>

class QLabel;
class QTableWidget;

namespace pallix::ui {

/// How long each kind of work takes in this shop: the median of its own jobs with their number, or, before there are
/// five, what was typed here.
class HoursDialog : public QDialog {
    Q_OBJECT
  public:
    HoursDialog(Context context, const std::vector<planning::JobHours>& shop, QWidget* parent = nullptr);

    void accept() override;

  private:
    Context context_;
    QTableWidget* table_;
    QLabel* echo_;
};

} // namespace pallix::ui
