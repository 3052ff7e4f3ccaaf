// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/marks.h"

#include <QWidget>
#include <optional>

namespace pallix::ui {

/// The main tunnel from the side and from above: housings where they are, section centres off datum A drawn larger
/// than life, with the bar that says how much.
class TunnelDrawing : public QWidget {
    Q_OBJECT
  public:
    explicit TunnelDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 280}; }

    /// @param section index into what is drawn, in its order; −1 for none
    void mark(int section);
    void set_asked(const std::optional<planning::AskedReading>& asked);

  Q_SIGNALS:
    void pointed_at(int section);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    enum class Seen { from_side, from_above };
    /// A section centre off the datum: as probed, else by indicator over the saddles, else as the blueprint has it.
    struct Section {
        block::FeatureId id;
        metrology::Vec3 centre; ///< mm
        bool height_known = true;
        bool side_known = true;
    };
    [[nodiscard]] std::vector<Section> sections() const;
    void paint_asked(QPainter& painter, const QRectF& box);
    struct Panel {
        QRectF box;
        double x0, x1; ///< mm along the crankshaft at the box's ends
        double per_mm; ///< px per mm along
        double factor; ///< exaggeration across the crankshaft
        double to_screen(double x) const { return box.left() + (x - x0) * per_mm; }
    };
    [[nodiscard]] Panel panel_in(const QRectF& box, Exaggeration& scale) const;
    void paint_margins(QPainter& painter, const QRectF& box, const Panel& panel, Seen seen);
    void paint_scale(QPainter& painter, const QRectF& box, const Panel& panel, const Exaggeration& scale);
    void paint_panel(QPainter& painter, const QRectF& box, Seen seen);
    void paint_housing(QPainter& painter, const Panel& panel, double centre_x, double offset_px, bool marked);
    [[nodiscard]] int main_at(QPointF position) const;

    Context context_;
    int marked_ = -1;
    std::optional<planning::AskedReading> asked_;
    std::vector<std::pair<QPointF, int>> hot_; ///< where the centres were drawn
};

} // namespace pallix::ui
