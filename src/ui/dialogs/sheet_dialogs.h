// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper.h"
#include "ui/context.h"

#include <QDialog>
#include <functional>

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

/// Shows a paper as it would be printed.
/// @param paper "a4" or "letter"; empty: as is usual here
/// @param wide the longer side across
void preview_paper(const std::function<void(QPagedPaintDevice&)>& print, const QString& paper, bool wide,
                   QWidget* parent);
/// A sheet, on as many pages as it needs.
void preview_sheet(const QString& html, const reporting::PaperFoot& foot, const QString& paper, QWidget* parent);

} // namespace pallix::ui
