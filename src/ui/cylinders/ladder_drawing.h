// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/cylinder_plan.h"
#include "ui/frame/drawing.h"

#include <optional>

namespace pallix::ui {

/// What every cylinder needs over its nominal, by each centre school, against the sizes that are to be had.
class LadderDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit LadderDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 170}; }

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Scale {
        double left, right; ///< px
        double low, high;   ///< mm over nominal
        [[nodiscard]] double x(double over) const { return left + (over - low) / (high - low) * (right - left); }
    };
    [[nodiscard]] Scale scale() const;
    [[nodiscard]] double row_height() const;
    [[nodiscard]] QString remark_of(const planning::CylinderNeed& n) const;
    void paint_sizes(QPainter& painter, const Scale& s);
    void paint_row(QPainter& painter, const Scale& s, const planning::CylinderNeed& n, double y);
};

} // namespace pallix::ui
