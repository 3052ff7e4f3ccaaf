// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/boring.h"
#include "ui/frame/drawing.h"

#include <optional>

namespace pallix::ui {

/// Every hole of the boring board about what it is to become: how much is still to go, in, or over. Near the target the
/// scale is fine; what lies further out is shown at the edge with its number.
class HoleStrip : public Drawing {
    Q_OBJECT
  public:
    explicit HoleStrip(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 90}; }
    void show_bore(const std::optional<block::FeatureId>& bore);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_hole(QPainter& painter, const planning::HoleProgress& hole, double x, double reach);
    std::optional<block::FeatureId> bore_;
};

} // namespace pallix::ui
