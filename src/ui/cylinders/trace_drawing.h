// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/texture.h"
#include "ui/frame/drawn_page.h"

#include <optional>

namespace pallix::ui {

/// A roughness profile and beside it its material-ratio curve with the straight line through its flattest part.
class TraceDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit TraceDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 220}; }
    void refresh() override; ///< follows the marked cylinder and the limits
    [[nodiscard]] const std::optional<planning::TextureFinding>& finding() const { return finding_; }
    [[nodiscard]] TwinTable table() const;

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_profile(QPainter& painter, const QRectF& room, double low, double high);
    void paint_curve(QPainter& painter, const QRectF& room, double low, double high);
    void paint_parameters(QPainter& painter, const QRectF& box);
    std::optional<planning::TextureFinding> finding_;
    std::string worked_out_for_;
};

} // namespace pallix::ui
