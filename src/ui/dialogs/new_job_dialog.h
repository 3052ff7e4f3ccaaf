// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>
#include <string>

class QLineEdit;
class QPushButton;

namespace pallix::ui {

class FaultList;

/// A new job from a blueprint. Stays open, with the faults in place, until the job is taken or the person gives up.
class NewJobDialog : public QDialog {
    Q_OBJECT
  public:
    NewJobDialog(Context context, const QString& blueprint_file, QWidget* parent = nullptr);

    void accept() override;

  private:
    Context context_;
    QLineEdit* title_;
    QLineEdit* customer_;
    QLineEdit* file_;
    FaultList* faults_;
    QPushButton* open_ = nullptr;
    std::string asked_; ///< the blueprint that was asked about
};

} // namespace pallix::ui
