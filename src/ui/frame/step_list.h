// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/steps/step.h"
#include "ui/context.h"

#include <QFrame>
#include <optional>

class QLineEdit;
class QListWidget;

namespace pallix::ui {

/// All that could be done now, nearest first, and what can be done at any time: picked by typing part of its name.
class StepListPopup : public QFrame {
    Q_OBJECT
  public:
    StepListPopup(Context context, const std::optional<block::FeatureId>& about, planning::Stage stage,
                  QWidget* parent);
    void open_under(QWidget* button);

  Q_SIGNALS:
    void picked(const QString& step);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void filter(const QString& text);
    void pick();
    Context context_;
    QLineEdit* field_;
    QListWidget* list_;
};

} // namespace pallix::ui
