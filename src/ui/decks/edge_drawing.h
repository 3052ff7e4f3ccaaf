// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/straightedge.h"
#include "ui/frame/drawing.h"

namespace pallix::ui {

/// One line of the deck from the side, heights drawn larger than life, with the straightedge as it lies on it and,
/// where it rocks, as it lies then.
class EdgeDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit EdgeDrawing(Context context, QWidget* parent = nullptr);
    void show_edge(const std::optional<planning::EdgeComparison>& edge);
    QSize minimumSizeHint() const override { return {240, 130}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] double height_below() const; ///< px, where the iron ends
    std::optional<planning::EdgeComparison> edge_;
};

} // namespace pallix::ui
