// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper.h"
#include "ui/context.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QListWidget;

namespace pallix::ui {

/// A work sheet that was filled by hand is typed in, line by line: four letters, then what was read or set.
class TickDialog : public QDialog {
    Q_OBJECT
  public:
    explicit TickDialog(Context context, QWidget* parent = nullptr);

  private:
    void take();

    Context context_;
    QLineEdit* line_;
    QListWidget* taken_;
    QLabel* echo_;
};

/// Print preview of a sheet, on as many pages as it needs.
void preview_sheet(const QString& html, const reporting::PaperFoot& foot, QWidget* parent);

} // namespace pallix::ui
