// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>

class QCheckBox;
class QLabel;
class QTableWidget;

namespace pallix::ui {

class BankButtons;
class PositionsDrawing;
class RoundnessPlot;

/// Where the cylinders and lifters of a bank lie, how round they are, and what was measured of each.
class PositionsView : public View {
    Q_OBJECT
  public:
    explicit PositionsView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

    [[nodiscard]] std::optional<std::string> bank() const;
    void show_bank(const std::string& bank);
    void show_other_bank();
    void mark(const block::FeatureId& id);
    void show_asked(const std::optional<planning::AskedReading>& asked);

  Q_SIGNALS:
    void bank_changed();

  private:
    void fill();
    void fill_hole();
    void fill_levels();
    [[nodiscard]] QStringList bank_sentences() const;
    [[nodiscard]] QString history() const;
    [[nodiscard]] const block::HoleResult* marked_result() const;

    Context context_;
    std::string bank_;
    std::optional<block::FeatureId> marked_;
    QLabel* empty_;
    BankButtons* banks_;
    QCheckBox* from_dowel_;
    PositionsDrawing* drawing_;
    QLabel* pattern_;
    QLabel* name_;
    QLabel* where_;
    QTableWidget* levels_;
    QLabel* history_;
    RoundnessPlot* round_;
};

} // namespace pallix::ui
