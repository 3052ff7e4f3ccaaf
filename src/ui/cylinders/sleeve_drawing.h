// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

namespace pallix::ui {

/// A sleeve and the metal that holds it, as two rings seen from above and cut open, with its six sizes at their places.
class SleeveDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit SleeveDrawing(Context context, QWidget* parent = nullptr);

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_section(QPainter& painter, const QRectF& box);
    void paint_rings(QPainter& painter, const QRectF& box);
    void paint_fit(QPainter& painter, const QRectF& box);
};

} // namespace pallix::ui
