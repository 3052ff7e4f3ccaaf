// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawn_page.h"

class QLabel;
class QPushButton;

namespace pallix::ui {

class PlanDrawing;

/// The tunnel plan: the mains in section with what comes off, the line through them, by which school and within which
/// limits; the other schools as its table, of which Enter takes one.
class PlanPage : public DrawnPage {
    Q_OBJECT
  public:
    explicit PlanPage(Context context, QWidget* parent = nullptr);
    void refresh();
    /// Caps as they were dragged, for the answer of their step; nothing where they stand as planned.
    [[nodiscard]] planning::Answers painted() const;

  private:
    PlanPage(Context context, PlanDrawing* drawing, QWidget* parent);
    void follow();
    void take(const block::TunnelPolicy& policy);
    void toggle_replaced(const block::FeatureId& main);

    Context context_;
    PlanDrawing* plan_;
    QLabel* verdict_;
    QPushButton* back_;
};

} // namespace pallix::ui
