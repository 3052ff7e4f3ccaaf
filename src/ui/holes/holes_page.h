// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>
#include <string>

class QCheckBox;
class QLabel;
class QTableWidget;

namespace pallix::ui {

class BoreSection;
class HolesDrawing;
class RoundnessPlot;
class TimingFan;

/// Where the cylinders or the lifters of a bank lie, how round they are, and what was measured of each.
class HolesPage : public QWidget {
    Q_OBJECT
  public:
    /// @param kind cylinders or lifters
    HolesPage(Context context, block::FeatureKind kind, QWidget* parent = nullptr);

    void show_bank(const std::string& bank);
    void mark(const block::FeatureId& id);
    void show_asked(const std::optional<planning::AskedReading>& asked);

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    void fill();
    void fill_hole();
    void fill_levels();
    [[nodiscard]] QStringList bank_sentences() const;
    [[nodiscard]] QString history() const;
    [[nodiscard]] const block::HoleResult* marked_result() const;

    Context context_;
    block::FeatureKind kind_;
    std::string bank_;
    std::optional<block::FeatureId> marked_;
    QLabel* empty_;
    QCheckBox* from_dowel_;
    HolesDrawing* drawing_;
    QLabel* pattern_;
    QLabel* name_;
    QLabel* where_;
    QTableWidget* levels_;
    QLabel* history_;
    RoundnessPlot* round_;
    BoreSection* section_;
    TimingFan* fan_; ///< of the lifters; null for cylinders
};

} // namespace pallix::ui
