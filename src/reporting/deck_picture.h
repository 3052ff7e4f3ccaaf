// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/decks/deck_map.h"

#include <QColor>
#include <QImage>
#include <QPointF>
#include <QRectF>
#include <optional>
#include <vector>

class QPainter;

namespace pallix::reporting {

/// The colours a deck is drawn in: what the eye sees at the machine.
struct DeckColours {
    QColor page;        ///< behind the block
    QColor iron_low;    ///< untouched, lowest
    QColor iron_high;   ///< untouched, highest
    QColor bright;      ///< where the cut has touched
    QColor bright_line; ///< tool marks and contours on it
    QColor contour;     ///< contours on untouched iron
    QColor edge;        ///< outline, bores
    QColor blank;       ///< hatching where nothing was probed
    QColor point;       ///< probed points
    QColor mark;        ///< places marked dark
};

/// A deck in plan, seen from outside (w towards the viewer): front to the left, +v up, so nothing is mirrored. Draws on
/// any paint device, so that screen and paper agree.
class DeckPicture {
  public:
    DeckPicture(const block::Blueprint& blueprint, const block::BankBlueprint& bank, block::SharedPoints points);

    /// Fits the deck into an area; recomputes the map only when the scale has changed.
    void lay_out(const QRectF& area);

    [[nodiscard]] QPointF to_screen(metrology::Vec2 place) const;
    [[nodiscard]] metrology::Vec2 to_deck(QPointF screen) const;
    [[nodiscard]] double pixels_per_mm() const { return scale_; }
    [[nodiscard]] const planning::DeckMap& map() const { return *map_; }
    [[nodiscard]] const std::vector<metrology::Vec3>& points() const { return points_; }
    [[nodiscard]] const QRectF& frame() const { return frame_; } ///< where the deck's box lies on screen

    struct Drawn {
        double level = 0;                             ///< w of the cut, mm
        double contour_step = 0.01;                   ///< mm
        std::vector<metrology::Vec2> dark;            ///< places painted dark
        double brush = block::DeckCut::default_brush; ///< mm, radius each of them stands for
        bool show_points = true;
        block::SharedPoints touched{}; ///< the measured ones; none: all that the map was made from
        bool machined = false;         ///< the heights were taken on cut metal: bright to begin with
    };
    void paint(QPainter& painter, const DeckColours& colours, const Drawn& drawn);

  private:
    void shade(const DeckColours& colours, const Drawn& drawn);

    const block::Blueprint& blueprint_;
    const block::BankBlueprint& bank_;
    block::SharedPoints points_;
    planning::DeckExtent extent_;
    QRectF frame_;
    double scale_ = 0;
    double low_ = 0, high_ = 0;
    std::optional<planning::DeckMap> map_;
    QImage image_;
};

} // namespace pallix::reporting
