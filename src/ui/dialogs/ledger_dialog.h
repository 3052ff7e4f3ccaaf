// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/ledger_model.h"
#include "ui/context.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QPushButton;
class QTableView;

namespace pallix::ui {

/// Every entry of the job; a wrong one is struck with a reason and stays readable. Notes are added here.
class LedgerDialog : public QDialog {
    Q_OBJECT
  public:
    explicit LedgerDialog(Context context, QWidget* parent = nullptr);
    /// @param only entries by their numbers: the others are hidden until all are asked for
    LedgerDialog(Context context, const std::vector<std::int64_t>& only, QWidget* parent = nullptr);

  private:
    void show_only(const std::vector<std::int64_t>& only);
    void strike();
    void add_note();
    void say(const session::Outcome& outcome);

    Context context_;
    session::LedgerModel model_;
    QTableView* table_;
    QLineEdit* words_;
    QPushButton* strike_;
    QPushButton* all_;
    QLabel* echo_;
};

} // namespace pallix::ui
