// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>
#include <QStringList>

class QLabel;
class QLineEdit;

namespace pallix::ui {

class FaultList;

/// Takes probe logs into the open job, with the uncertainty that whoever probed it states.
class ImportLogDialog : public QDialog {
    Q_OBJECT
  public:
    ImportLogDialog(Context context, const QStringList& files, QWidget* parent = nullptr);

    void accept() override;

  private:
    void echo_uncertainty();

    Context context_;
    QLineEdit* files_;
    QLineEdit* uncertainty_;
    QLabel* echo_;
    FaultList* faults_;
};

} // namespace pallix::ui
