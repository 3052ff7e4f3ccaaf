// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace pallix::ui {

class PlanDrawing;

/// The tunnel plan: by which school and within which limits, drawn, explained, with the other schools beside it; the
/// caps are cut from here.
class PlanPage : public QWidget {
    Q_OBJECT
  public:
    explicit PlanPage(Context context, QWidget* parent = nullptr);
    void refresh();
    void log_caps();   ///< the cuts as they stand
    void take_focus(); ///< the drawing

  private:
    QLineEdit* field(const char* name, const QString& what);
    void choose();
    void follow();
    void fill_schools();
    void say(const QString& text, bool fault);
    void toggle_replaced(const block::FeatureId& main);

    Context context_;
    QComboBox *method_, *caps_;
    QLineEdit *target_ = nullptr, *stock_ = nullptr, *cap_limit_ = nullptr, *rise_ = nullptr, *side_ = nullptr,
              *parting_ = nullptr;
    PlanDrawing* drawing_;
    QLabel* verdict_;
    QPushButton *back_, *log_;
    QLabel* words_;
    QTableWidget* schools_;
    QLabel* echo_;
};

} // namespace pallix::ui
