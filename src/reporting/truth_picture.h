// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "wording/common/lengths.h"
#include "workshop/practice/shape.h"

#include <QColor>
#include <QFont>
#include <QPointF>
#include <QRectF>
#include <QStringList>
#include <optional>
#include <set>
#include <string>
#include <vector>

class QPainter;

namespace pallix::reporting {

/// How a block truly is, larger than life: a panel for each of its shapes, the crankshaft's front to the left. Hollow
/// and dashed as it was found, full as it is. Draws on any paint device, so that screen and paper agree.
class TruthPicture {
  public:
    struct Colours {
        QColor page, ink, quiet, hairline;
        QColor allowed; ///< what it may be
        QColor wrong;   ///< out of it; a square besides
    };
    /// A part of a shape, as both stand in `shapes`.
    struct Place {
        std::size_t shape = 0, part = 0;
        bool operator==(const Place&) const = default;
    };

    /// @param names of the shapes, in their order
    /// @param out what is out of its limits, by its `about`
    /// @param least mm that a panel spans at least: what differs by far less is drawn as alike
    TruthPicture(std::vector<workshop::Shape> shapes, QStringList names, std::set<std::string> out,
                 double least = 0.02);

    /// What it is as high as, at a type of so many pixels.
    [[nodiscard]] double height(double type) const;
    /// @param l of the length beside each panel
    void paint(QPainter& painter, const QRectF& area, const Colours& colours, const QFont& font,
               const wording::LengthText& l, const std::optional<Place>& marked = {});

    // Of where it was painted last:
    [[nodiscard]] std::optional<Place> at(QPointF where) const;
    [[nodiscard]] QPointF point_of(const Place& place) const;
    /// The length that stands at that height of a shape, mm.
    [[nodiscard]] double length_at(std::size_t shape, double y) const;

    [[nodiscard]] const std::vector<workshop::Shape>& shapes() const { return shapes_; }
    /// Other shapes of the same block, to the same scale: while one is drawn on.
    void show(std::vector<workshop::Shape> shapes) { shapes_ = std::move(shapes); }

  private:
    struct Scale {
        double low = 0, high = 0; ///< mm
    };
    void lay_out(const QRectF& area, double type);
    [[nodiscard]] QPointF point(std::size_t shape, double x, double length) const;
    void paint_allowed(QPainter& painter, std::size_t shape, const QColor& colour) const;
    void paint_deck(QPainter& painter, std::size_t shape, const Colours& colours) const;
    void paint_parts(QPainter& painter, std::size_t shape, const Colours& colours) const;
    void paint_scale(QPainter& painter, std::size_t shape, const Colours& colours, const wording::LengthText& l) const;

    std::vector<workshop::Shape> shapes_;
    QStringList names_;
    std::set<std::string> out_;
    std::vector<Scale> scales_;
    double from_ = 0, to_ = 1; ///< mm along the crankshaft
    std::vector<QRectF> plots_;
    double type_ = 14;
};

} // namespace pallix::reporting
