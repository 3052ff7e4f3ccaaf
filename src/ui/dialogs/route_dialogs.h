// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "ui/context.h"

#include <QDialog>
#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace pallix::ui {

/// Which stages a job asks for, and in which order they are gone through.
class RouteDialog : public QDialog {
    Q_OBJECT
  public:
    explicit RouteDialog(Context context, QWidget* parent = nullptr);

  private:
    void accept() override;

    Context context_;
    std::vector<QCheckBox*> wanted_;
    QComboBox* preset_;
    QLineEdit* reason_;
    QLabel* echo_;
};

} // namespace pallix::ui
