// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "ui/frame/drawn_page.h"

namespace pallix::ui {

/// One throw of the crankshaft with rod and piston, each mass at its part, and what is clamped to the throw in their
/// place.
class BalanceDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit BalanceDrawing(Context context, QWidget* parent = nullptr);
    [[nodiscard]] TwinTable table() const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_rod(QPainter& painter, const QRectF& box) const;
    void paint_throw(QPainter& painter, const QRectF& box) const;
    [[nodiscard]] const block::BalanceCard& card() const;
};

} // namespace pallix::ui
