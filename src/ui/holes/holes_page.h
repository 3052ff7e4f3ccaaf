// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/hole_evaluation.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/drawn_page.h"

#include <optional>
#include <string>

class QCheckBox;
class QLabel;

namespace pallix::ui {

class BoreSection;
class HolesDrawing;
class RoundnessPlot;

/// Where the cylinders or the lifters of a bank lie, and of the marked one its section, how round it is and what was
/// measured of it. The table has every level of every hole.
class HolesPage : public DrawnPage {
    Q_OBJECT
  public:
    /// @param kind cylinders or lifters
    HolesPage(Context context, block::FeatureKind kind, QWidget* parent = nullptr);

    void show_bank(const std::string& bank);
    void mark(const block::FeatureId& id);
    void show_asked(const std::optional<planning::AskedReading>& asked);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    HolesPage(Context context, HolesDrawing* drawing, block::FeatureKind kind, QWidget* parent);
    void fill();
    void fill_hole();
    [[nodiscard]] TwinTable levels() const;
    [[nodiscard]] QStringList bank_sentences() const;
    [[nodiscard]] QString where() const;
    [[nodiscard]] const block::HoleResult* result(const block::FeatureId& id) const;

    Context context_;
    block::FeatureKind kind_;
    std::string bank_;
    std::optional<block::FeatureId> marked_;
    HolesDrawing* drawing_;
    QCheckBox* from_dowel_;
    QLabel *pattern_, *name_, *where_;
    RoundnessPlot* round_;
    BoreSection* section_;
};

} // namespace pallix::ui
