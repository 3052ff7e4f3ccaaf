// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/honing.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>
#include <string>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTimer;

namespace pallix::ui {

class Echo;
class FigureForm;
class StockGrid;

/// The hone's board: stock left, shape, grits, cross-hatch, the rest, what is ticked at the end.
class HonePage : public QWidget {
    Q_OBJECT
  public:
    explicit HonePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);
    void take_focus();

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    QWidget* build_log_row();
    void fill_plan();
    void fill_words();
    void tell_rest();
    void keep_plan();
    void log_honing();
    void tick();
    [[nodiscard]] const planning::HoneBore* bore() const;

    Context context_;
    std::optional<block::FeatureId> bore_;
    StockGrid* grid_;
    QLabel* words_;
    QLabel* name_;
    QLineEdit *strokes_, *load_;
    QComboBox* step_;
    QPushButton *log_, *rest_;
    QLineEdit* minutes_;
    QLabel* clock_;
    QTimer* timer_;
    QComboBox* ticks_;
    QLineEdit *reading_, *seen_;
    FigureForm* form_;
    QComboBox *abrasive_, *counted_;
    QLabel* hatch_;
    QLineEdit* steps_;
    Echo* echo_;
    std::string filled_for_;
    std::optional<std::size_t> proposed_; ///< grit of the plan that the marked bore is at
};

} // namespace pallix::ui
