// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/truth_picture.h"

#include "block/feature.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::reporting {
namespace {

using workshop::Shape;
using workshop::ShapeOf;
using workshop::ShapePart;

constexpr double high_panel = 6.2, low_panel = 5.5; // lines of type that a panel is high
constexpr double margin = 6.6;                      // widths of type, for the length beside it

bool is_line(ShapeOf what) {
    return what == ShapeOf::line_upright || what == ShapeOf::line_sideways;
}
double middle(double low, double high) {
    return (low + high) / 2;
}
/// 1, 2 or 5 times a power of ten of the unit, at most so much.
double round_length(double most, block::Unit unit) {
    const double in_unit = most / block::mm_per(unit), ten = std::pow(10, std::floor(std::log10(in_unit)));
    const double times = in_unit / ten >= 5 ? 5 : in_unit / ten >= 2 ? 2 : 1;
    return times * ten * block::mm_per(unit);
}

} // namespace

TruthPicture::TruthPicture(std::vector<Shape> shapes, QStringList names, std::set<std::string> out, double least)
    : shapes_(std::move(shapes)), names_(std::move(names)), out_(std::move(out)) {
    from_ = std::numeric_limits<double>::infinity();
    to_ = -from_;
    for (const Shape& shape : shapes_) {
        Scale scale{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
        const auto hold = [&scale](double length) {
            scale.low = std::min(scale.low, length);
            scale.high = std::max(scale.high, length);
        };
        for (const ShapePart& part : shape.parts) {
            for (const double length : {part.was_low, part.was_high, part.is_low, part.is_high})
                hold(length);
            hold(part.least.value_or(part.is_low));
            hold(part.most.value_or(part.is_high));
            from_ = std::min(from_, part.x);
            to_ = std::max(to_, part.x);
        }
        const double spare = std::max(least - (scale.high - scale.low), 0.1 * (scale.high - scale.low)) / 2;
        scales_.push_back({scale.low - spare, scale.high + spare});
    }
}

double TruthPicture::height(double type) const {
    constexpr double many = 4; // rows of them: lower, so that all stay on a page
    const double rows = std::ceil(static_cast<double>(shapes_.size()) / 2);
    return rows * (rows > many ? low_panel : high_panel) * type;
}

void TruthPicture::lay_out(const QRectF& area, double type) {
    type_ = type;
    plots_.clear();
    const double gap = type, wide = (area.width() - gap) / 2,
                 high = area.height() / std::max(1.0, std::ceil(static_cast<double>(shapes_.size()) / 2));
    for (std::size_t i = 0; i < shapes_.size(); ++i) {
        const QPointF corner(area.left() + static_cast<double>(i % 2) * (wide + gap),
                             area.top() + static_cast<double>(i / 2) * high);
        plots_.emplace_back(corner.x() + margin * type, corner.y() + 1.5 * type, wide - (margin + 1) * type,
                            high - 3.4 * type);
    }
}

QPointF TruthPicture::point(std::size_t shape, double x, double length) const {
    const QRectF& plot = plots_[shape];
    const Scale& scale = scales_[shape];
    return {plot.left() + (x - from_) / std::max(to_ - from_, 1e-9) * plot.width(),
            plot.bottom() - (length - scale.low) / (scale.high - scale.low) * plot.height()};
}

double TruthPicture::length_at(std::size_t shape, double y) const {
    const Scale& scale = scales_[shape];
    return scale.low + (plots_[shape].bottom() - y) / plots_[shape].height() * (scale.high - scale.low);
}

QPointF TruthPicture::point_of(const Place& place) const {
    const ShapePart& part = shapes_[place.shape].parts[place.part];
    return point(place.shape, part.x,
                 shapes_[place.shape].what == ShapeOf::deck ? part.is_low : middle(part.is_low, part.is_high));
}

std::optional<TruthPicture::Place> TruthPicture::at(QPointF where) const {
    for (std::size_t s = 0; s < plots_.size(); ++s) {
        if (!plots_[s].adjusted(-type_, -type_, type_, type_).contains(where) || shapes_[s].parts.empty())
            continue;
        Place nearest{s, 0};
        for (std::size_t i = 1; i < shapes_[s].parts.size(); ++i)
            if (std::abs(point_of({s, i}).x() - where.x()) < std::abs(point_of(nearest).x() - where.x()))
                nearest.part = i;
        return nearest;
    }
    return std::nullopt;
}

void TruthPicture::paint_allowed(QPainter& painter, std::size_t shape, const QColor& colour) const {
    const Shape& s = shapes_[shape];
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    QPolygonF top, bottom;
    for (const ShapePart& part : s.parts) {
        if (!part.least || !part.most)
            continue;
        const QPointF high = point(shape, part.x, *part.most), low = point(shape, part.x, *part.least);
        if (is_line(s.what)) {
            top << high;
            bottom.prepend(low);
        } else {
            painter.drawRect(QRectF(high - QPointF(type_ * 0.6, 0), low + QPointF(type_ * 0.6, 0)));
        }
    }
    painter.drawPolygon(top + bottom);
}

void TruthPicture::paint_deck(QPainter& painter, std::size_t shape, const Colours& colours) const {
    const auto outline = [&](double ShapePart::*low, double ShapePart::*high) {
        QPolygonF top, bottom;
        for (const ShapePart& part : shapes_[shape].parts) {
            top << point(shape, part.x, part.*high);
            bottom.prepend(point(shape, part.x, part.*low));
        }
        return top + bottom;
    };
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colours.quiet, 1, Qt::DashLine));
    painter.drawPolygon(outline(&ShapePart::was_low, &ShapePart::was_high));
    const bool wrong = out_.contains(shapes_[shape].parts.front().about);
    painter.setPen(QPen(wrong ? colours.wrong : colours.ink, 1.5));
    QColor iron = wrong ? colours.wrong : colours.ink;
    iron.setAlphaF(0.16F);
    painter.setBrush(iron);
    painter.drawPolygon(outline(&ShapePart::is_low, &ShapePart::is_high));
}

void TruthPicture::paint_parts(QPainter& painter, std::size_t shape, const Colours& colours) const {
    const Shape& s = shapes_[shape];
    if (is_line(s.what)) {
        QPolygonF was, is;
        for (const ShapePart& part : s.parts) {
            was << point(shape, part.x, part.was_low);
            is << point(shape, part.x, part.is_low);
        }
        painter.setPen(QPen(colours.quiet, 1, Qt::DashLine));
        painter.drawPolyline(was);
        painter.setPen(QPen(colours.ink, 1.5));
        painter.drawPolyline(is);
    }
    const double r = 0.32 * type_;
    for (const ShapePart& part : s.parts) {
        const QPointF was = point(shape, part.x, middle(part.was_low, part.was_high)),
                      is = point(shape, part.x, middle(part.is_low, part.is_high));
        const bool wrong = out_.contains(is_line(s.what) ? "tunnel" : part.about);
        painter.setPen(QPen(colours.quiet, 1, Qt::DashLine));
        painter.drawLine(point(shape, part.x, part.was_low), point(shape, part.x, part.was_high));
        painter.setPen(QPen(colours.ink, 1.3));
        painter.setBrush(colours.page);
        painter.drawEllipse(was, r, r);
        painter.setPen(QPen(wrong ? colours.wrong : colours.ink, 1.5));
        painter.setBrush(wrong ? colours.wrong : colours.ink);
        painter.drawLine(point(shape, part.x, part.is_low), point(shape, part.x, part.is_high));
        if (wrong)
            painter.drawRect(QRectF(is - QPointF(r, r), is + QPointF(r, r)));
        else
            painter.drawEllipse(is, r, r);
    }
}

/// A length beside the panel, and the line of what is drawn.
void TruthPicture::paint_scale(QPainter& painter, std::size_t shape, const Colours& colours,
                               const wording::LengthText& l) const {
    const QRectF& plot = plots_[shape];
    const Scale& scale = scales_[shape];
    const double length = round_length(0.6 * (scale.high - scale.low), l.unit());
    const double high = length / (scale.high - scale.low) * plot.height(), x = plot.left() - 0.9 * type_;
    painter.setPen(QPen(colours.quiet, 1.2));
    painter.drawLine(QPointF(x, plot.bottom()), QPointF(x, plot.bottom() - high));
    for (const double y : {plot.bottom(), plot.bottom() - high})
        painter.drawLine(QPointF(x - 3, y), QPointF(x + 3, y));
    painter.drawText(
        QRectF(plot.left() - margin * type_, plot.bottom() - high / 2 - type_, (margin - 1.4) * type_, 2 * type_),
        Qt::AlignRight | Qt::AlignVCenter, QString::fromStdString(l.with_unit(length)));
    if (scale.low < 0 && scale.high > 0) {
        painter.setPen(QPen(colours.hairline, 1));
        painter.drawLine(QPointF(plot.left(), point(shape, from_, 0).y()),
                         QPointF(plot.right(), point(shape, from_, 0).y()));
    }
}

void TruthPicture::paint(QPainter& painter, const QRectF& area, const Colours& colours, const QFont& font,
                         const wording::LengthText& l, const std::optional<Place>& marked) {
    lay_out(area, font.pixelSize());
    painter.setFont(font);
    for (std::size_t i = 0; i < shapes_.size(); ++i) {
        const Shape& shape = shapes_[i];
        const QRectF& plot = plots_[i];
        painter.setPen(colours.ink);
        painter.drawText(QRectF(plot.left() - margin * type_, plot.top() - 1.5 * type_,
                                plot.width() + (margin + 1) * type_, 1.4 * type_),
                         Qt::AlignLeft | Qt::AlignVCenter, names_.value(static_cast<qsizetype>(i)));
        paint_allowed(painter, i, colours.allowed);
        paint_scale(painter, i, colours, l);
        if (shape.what == ShapeOf::deck) {
            paint_deck(painter, i, colours);
            continue;
        }
        paint_parts(painter, i, colours);
        painter.setPen(colours.quiet);
        for (const ShapePart& part : shape.parts)
            if (const auto id = block::FeatureId::parse(part.about))
                painter.drawText(
                    QRectF(point(i, part.x, 0).x() - 2 * type_, plot.bottom() + 0.3 * type_, 4 * type_, 1.4 * type_),
                    Qt::AlignCenter, QString::number(id->number));
    }
    if (!marked)
        return;
    painter.setPen(QPen(colours.ink, 1.5, Qt::DotLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(point_of(*marked), 0.7 * type_, 0.7 * type_);
}

} // namespace pallix::reporting
