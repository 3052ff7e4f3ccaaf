// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/reading_plan.h"
#include "reporting/deck_picture.h"
#include "ui/context.h"

#include <QWidget>
#include <memory>

namespace pallix::ui {

/// One bank's deck in plan. Shows what a cut at the level would touch, follows the pointer with the height under it,
/// and takes marks for places that stayed dark (click, or arrow keys and Space).
class DeckDrawing : public QWidget {
    Q_OBJECT
  public:
    explicit DeckDrawing(Context context, QWidget* parent = nullptr);

    /// @param points (u, v, w) mm; empty shows nothing
    /// @param machined measured on cut metal
    void set_deck(const block::BankBlueprint& bank, const std::vector<metrology::Vec3>& points, bool machined = false);
    void set_level(double w);
    void set_asked(const std::optional<planning::AskedReading>& asked);
    void set_corners(std::vector<planning::CornerHeight> corners, double target);

    [[nodiscard]] const std::vector<metrology::Vec2>& dark() const { return dark_; }
    void clear_dark();
    /// Share of the mapped deck that a cut at the level touches; nothing without a map.
    [[nodiscard]] std::optional<double> clean_share(double w) const;
    [[nodiscard]] const reporting::DeckPicture* picture() const { return picture_.get(); }
    [[nodiscard]] double contour_step() const; ///< mm

    QSize minimumSizeHint() const override { return {480, 200}; }

  Q_SIGNALS:
    void dark_changed();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] QRectF deck_area() const;
    void toggle_dark(metrology::Vec2 place);
    void paint_words(QPainter& painter);
    void paint_corners(QPainter& painter);
    void paint_asked(QPainter& painter);
    void paint_feelers(QPainter& painter, const std::string& asked);
    void paint_pointer(QPainter& painter);

    Context context_;
    std::string bank_id_;
    std::unique_ptr<block::Blueprint> blueprint_; ///< a copy: the state behind it is replaced at every entry
    std::unique_ptr<reporting::DeckPicture> picture_;
    std::vector<metrology::Vec3> points_;
    bool machined_ = false; ///< the points were measured on cut metal
    double level_ = 1e9;
    double target_ = 0;
    std::vector<metrology::Vec2> dark_;
    std::vector<planning::CornerHeight> corners_;
    std::optional<planning::AskedReading> asked_;
    std::optional<metrology::Vec2> pointer_;
};

} // namespace pallix::ui
