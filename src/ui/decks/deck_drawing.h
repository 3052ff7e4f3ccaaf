// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/deck_state.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_plan.h"
#include "planning/readings/reading_plan.h"
#include "reporting/deck_picture.h"
#include "ui/frame/drawing.h"

#include <memory>

namespace pallix::ui {

/// What the pointer does on a deck.
enum class DeckTask {
    paint_dark, ///< a brush for what stayed dark; with the right button, or over paint with Space, it wipes
    mark_flaw,  ///< a click is a place, a drag a line
};

/// One bank's deck in plan. Shows what a cut at the level would touch, follows the pointer with the height under it,
/// and takes paint for places that stayed dark (mouse, or arrow keys and Space) or the run of a crack.
class DeckDrawing : public Drawing {
    Q_OBJECT
  public:
    DeckDrawing(Context context, DeckTask task, QWidget* parent = nullptr);

    /// @param points (u, v, w) mm; empty shows nothing
    /// @param machined measured on cut metal
    void set_deck(const block::BankBlueprint& bank, const block::SharedPoints& points, bool machined = false);
    /// Where it was really measured, when the map is made from what is believed.
    void set_touched(const block::SharedPoints& touched);
    /// What is believed between the measured places; null where it is not known yet.
    void set_belief(std::shared_ptr<const planning::DeckBelief> belief);
    void set_flaws(std::vector<block::KnownFlaw> flaws);
    /// A straightedge's line to show; nothing for none.
    void set_line(const std::optional<planning::EdgeLine>& line);
    void set_level(double w);
    /// The head of that bank is drawn instead: its points count from the highest, which lies at the deck's nominal.
    void set_head(bool head);
    void set_asked(const std::optional<planning::AskedReading>& asked);
    void set_corners(std::vector<planning::CornerHeight> corners, double target);

    [[nodiscard]] const std::vector<metrology::Vec2>& dark() const { return dark_; }
    void clear_dark();
    [[nodiscard]] double brush() const { return brush_; } ///< mm
    void set_brush(double mm);
    /// Share of the mapped deck that a cut at the level touches; nothing without a map.
    [[nodiscard]] std::optional<double> clean_share(double w) const;
    [[nodiscard]] const reporting::DeckPicture* picture() const { return picture_.get(); }
    [[nodiscard]] double contour_step() const; ///< mm

    QSize minimumSizeHint() const override { return {480, 200}; }
    /// Corners with what they stand over the target, and flaws.
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;

  Q_SIGNALS:
    void dark_changed();
    void flaw_drawn(const std::vector<pallix::metrology::Vec2>& path);
    void flaw_pointed_at(const pallix::block::KnownFlaw& flaw); ///< its decision is wanted

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] QRectF deck_area() const;
    void toggle_dark(metrology::Vec2 place);
    void brush_at(metrology::Vec2 place, bool wipe);
    [[nodiscard]] const block::KnownFlaw* flaw_at(QPointF place) const;
    void paint_flaws(QPainter& painter);
    void paint_note(QPainter& painter, const QRectF& box, const QString& words, const QColor& colour) const;
    void paint_words(QPainter& painter);
    void paint_corners(QPainter& painter);
    void paint_asked(QPainter& painter);
    void paint_feelers(QPainter& painter, const std::string& asked);
    void paint_pointer(QPainter& painter);
    [[nodiscard]] std::string off_target(double height) const;

    std::string bank_id_;
    std::unique_ptr<block::Blueprint> blueprint_; ///< a copy: the state behind it is replaced at every entry
    std::unique_ptr<reporting::DeckPicture> picture_;
    DeckTask task_;
    block::SharedPoints points_;
    block::SharedPoints touched_;
    std::shared_ptr<const planning::DeckBelief> belief_;
    std::vector<block::KnownFlaw> flaws_;
    std::optional<planning::EdgeLine> line_;
    double brush_ = block::DeckCut::default_brush;
    std::optional<metrology::Vec2> pressed_; ///< where a flaw's line begins
    bool painting_ = false;                  ///< the button is down
    bool head_ = false;
    bool machined_ = false; ///< the points were measured on cut metal
    double level_ = 1e9;
    double target_ = 0;
    std::vector<metrology::Vec2> dark_;
    std::vector<planning::CornerHeight> corners_;
    std::optional<planning::AskedReading> asked_;
    std::optional<metrology::Vec2> pointer_;
};

} // namespace pallix::ui
