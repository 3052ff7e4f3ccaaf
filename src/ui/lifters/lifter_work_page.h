// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/lifters/lifter_plan.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>
#include <string>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace pallix::ui {

class Echo;
class FigureForm;
class PlainTable;
class TimingFan;

/// Lifters as they shall become, one row each, and the way there: cut, bush, finish, prove.
class LifterWorkPage : public QWidget {
    Q_OBJECT
  public:
    explicit LifterWorkPage(Context context, QWidget* parent = nullptr);
    void show_lifter(const std::string& bank, const std::optional<block::FeatureId>& lifter);
    void take_focus();

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    void fill_table();
    void fill_plan();
    void fill_words();
    void keep_plan();
    void decide();
    void log_cut();
    void log_pressed();
    [[nodiscard]] const planning::LifterProgress* progress() const;

    Context context_;
    std::string bank_;
    std::optional<block::FeatureId> lifter_;
    std::vector<block::FeatureId> rows_;
    PlainTable* table_;
    TimingFan* fan_;
    QLabel* words_;
    QLabel* name_;
    QComboBox* operation_;
    QLineEdit* to_;
    QComboBox* choice_;
    QLineEdit* why_;
    FigureForm* form_;
    QComboBox *school_, *follower_, *turns_;
    QCheckBox* keyed_;
    Echo* echo_;
    std::string offered_for_, filled_for_;
};

} // namespace pallix::ui
