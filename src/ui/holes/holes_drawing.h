// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"
#include "ui/marks.h"

#include <QWidget>
#include <optional>
#include <vector>

namespace pallix::ui {

/// A bank in plan with its cylinders and dowels, or with its lifters in a row below; where each hole lies off its
/// place is drawn larger than life, the part across the crankshaft strong, the part along it faint.
class HolesDrawing : public Drawing {
    Q_OBJECT
  public:
    /// @param kind cylinders or lifters
    HolesDrawing(Context context, block::FeatureKind kind, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, kind_ == block::FeatureKind::bore ? 230 : 150}; }

    void show_bank(const std::string& bank, bool from_dowel);
    void set_asked(const std::optional<planning::AskedReading>& asked);
    /// Holes of the bank that can be marked, cylinders first, each row from front to rear.
    [[nodiscard]] std::vector<block::FeatureId> holes() const;

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Layout {
        QRectF deck;      ///< px, of the outline's box
        double per_mm;    ///< px per mm
        double lifters_y; ///< px, middle of the row of lifters
        Exaggeration scale;
        metrology::Vec2 low; ///< (u, v) of the box's corner, mm
        [[nodiscard]] QPointF at(metrology::Vec2 place) const;
    };
    [[nodiscard]] Layout lay_out() const;
    [[nodiscard]] std::optional<metrology::Vec2> error_of(const block::FeatureId& id) const;
    void paint_outline(QPainter& painter, const Layout& layout);
    void paint_hole(QPainter& painter, const Layout& layout, const block::HoleBlueprint& hole, QPointF at);
    void paint_error(QPainter& painter, const Layout& layout, metrology::Vec2 error, QPointF at, bool marked);
    void paint_words(QPainter& painter, const Layout& layout);
    void paint_row(QPainter& painter, const Layout& layout);
    void paint_scale(QPainter& painter, const Layout& layout);

    [[nodiscard]] QPointF middle_of(const Layout& layout, const block::HoleBlueprint& hole) const;
    [[nodiscard]] double lifter_reach() const;
    [[nodiscard]] double radius_of(const Layout& layout, const block::HoleBlueprint& hole) const;

    block::FeatureKind kind_;
    std::string bank_;
    bool from_dowel_ = false;
    std::optional<planning::AskedReading> asked_;
};

/// The touches of one level about their circle, drawn larger than life, with the zone that holds them.
class RoundnessPlot : public QWidget {
    Q_OBJECT
  public:
    explicit RoundnessPlot(Context context, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {176, 180}; }
    void show_level(const std::optional<block::HoleLevel>& level);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    std::optional<block::HoleLevel> level_;
};

} // namespace pallix::ui
