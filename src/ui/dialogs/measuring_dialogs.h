// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

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

/// A gauge or probe on the line: where to listen, what has arrived.
class GaugeDialog : public QDialog {
    Q_OBJECT
  public:
    explicit GaugeDialog(Context context, QWidget* parent = nullptr);

  private:
    void refresh();
    void switch_connection();

    Context context_;
    QLineEdit* address_;
    QLabel* state_;
    QLabel* echo_;
    QPushButton *connect_, *take_in_;
    bool sure_ = false; ///< the person was asked about what is doubtful of the log
};

} // namespace pallix::ui
