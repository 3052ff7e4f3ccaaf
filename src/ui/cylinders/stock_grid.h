// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/honing.h"
#include "ui/frame/drawing.h"

#include <optional>
#include <vector>

namespace pallix::ui {

/// Stock left in every bore: top, middle and bottom, both ways, as a wall cut open; what is in size by shape and word.
class StockGrid : public Drawing {
    Q_OBJECT
  public:
    explicit StockGrid(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 210}; }
    void mark(const std::optional<block::FeatureId>& id);
    void refresh();

  Q_SIGNALS:
    void pointed_at(const block::FeatureId& id);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void paint_bore(QPainter& painter, const planning::HoneBore& bore, const QRectF& box, double largest);
    [[nodiscard]] const std::vector<planning::HoneBore>& bores() const;
    std::optional<block::FeatureId> marked_;
};

} // namespace pallix::ui
