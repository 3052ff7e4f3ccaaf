// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/frame/drawing.h"
#include "ui/marks.h"

#include <optional>

namespace pallix::ui {

/// The main tunnel from the side and from above: housings where they are, section centres off datum A drawn larger
/// than life, with the bar that says how much.
class TunnelDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit TunnelDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 280}; }

    void set_asked(const std::optional<planning::AskedReading>& asked);

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

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

    std::optional<planning::AskedReading> asked_;
};

} // namespace pallix::ui
