// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/deck_picture.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::reporting {

using metrology::Vec2;
using metrology::Vec3;

namespace {

constexpr int tones = 64;

/// Shades between two colours, made once a frame instead of once a pixel.
std::array<QRgb, tones> ramp(const QColor& from, const QColor& to) {
    std::array<QRgb, tones> out{};
    for (int i = 0; i < tones; ++i) {
        const double t = static_cast<double>(i) / (tones - 1);
        const auto mix = [t](int a, int b) { return static_cast<int>(std::lround(a + t * (b - a))); };
        out[static_cast<std::size_t>(i)] =
            qRgb(mix(from.red(), to.red()), mix(from.green(), to.green()), mix(from.blue(), to.blue()));
    }
    return out;
}

} // namespace

DeckPicture::DeckPicture(const block::Blueprint& blueprint, const block::BankBlueprint& bank,
                         block::SharedPoints points)
    : blueprint_(blueprint), bank_(bank), points_(std::move(points)), extent_(planning::deck_extent(bank)),
      low_(bank.deck_height.nominal), high_(low_) {
    if (points_.empty())
        return; // outline and holes only
    const auto [low, high] = std::ranges::minmax_element(points_, {}, &Vec3::z);
    low_ = low->z;
    high_ = high->z;
}

void DeckPicture::lay_out(const QRectF& area) {
    const double scale = std::max(0.05, std::min(area.width() / extent_.length(), area.height() / extent_.width()));
    const QSizeF size(extent_.length() * scale, extent_.width() * scale);
    frame_ = QRectF(area.center() - QPointF(size.width() / 2, size.height() / 2), size);
    if (map_ && std::abs(scale - scale_) < 1e-9)
        return;
    scale_ = scale;
    map_.emplace(blueprint_, bank_, points_, 1.0 / scale);
    image_ = QImage(map_->columns(), map_->rows(), QImage::Format_ARGB32_Premultiplied);
}

QPointF DeckPicture::to_screen(Vec2 place) const {
    return frame_.topLeft() + QPointF((place.x - extent_.low.x) * scale_, (extent_.high.y - place.y) * scale_);
}

Vec2 DeckPicture::to_deck(QPointF screen) const {
    const QPointF p = (screen - frame_.topLeft()) / scale_;
    return {extent_.low.x + p.x(), extent_.high.y - p.y()};
}

/// One pass over the cells: bright where the cut reaches, iron where it does not, a line at every contour.
void DeckPicture::shade(const DeckColours& colours, const Drawn& drawn) {
    const auto iron = drawn.machined ? ramp(colours.bright_line.darker(118), colours.bright)
                                     : ramp(colours.iron_low, colours.iron_high);
    const QRgb bright = colours.bright.rgb(), tool_mark = colours.bright_line.rgb();
    const QRgb contour = drawn.machined ? colours.iron_high.rgb() : colours.contour.rgb();
    const auto level = static_cast<float>(drawn.level - map_->nominal());
    const auto low = static_cast<float>(low_ - map_->nominal());
    const float per_tone = static_cast<float>(tones - 1) /
                           std::max(2 * static_cast<float>(drawn.contour_step), static_cast<float>(high_ - low_));
    const float per_step = 1.0F / static_cast<float>(drawn.contour_step);
    const int columns = map_->columns(), rows = map_->rows();
    for (int row = 0; row < rows; ++row) {
        auto* line = reinterpret_cast<QRgb*>(image_.scanLine(rows - 1 - row));
        for (int column = 0; column < columns; ++column) {
            const float h = map_->height(column, row);
            if (std::isnan(h)) {
                line[column] = 0;
                continue;
            }
            if (h >= level) {
                // Feed marks: the arcs a wide cutter leaves.
                const double bow = 0.0006 * (row - rows / 2.0) * (row - rows / 2.0);
                line[column] = static_cast<int>(column + bow) % 14 == 0 ? tool_mark : bright;
                continue;
            }
            const float right = column + 1 < columns ? map_->height(column + 1, row) : h;
            const float below = row + 1 < rows ? map_->height(column, row + 1) : h;
            const float step = std::floor(h * per_step);
            const bool on_contour = (!std::isnan(right) && std::floor(right * per_step) != step) ||
                                    (!std::isnan(below) && std::floor(below * per_step) != step);
            const int tone = std::clamp(static_cast<int>((h - low) * per_tone), 0, tones - 1);
            line[column] = on_contour ? contour : iron[static_cast<std::size_t>(tone)];
        }
    }
}

void DeckPicture::paint(QPainter& painter, const DeckColours& colours, const Drawn& drawn) {
    shade(colours, drawn);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);

    QPolygonF outline;
    for (const Vec2 corner : bank_.deck_outline)
        outline << to_screen(corner);
    QPainterPath deck;
    deck.addPolygon(outline);
    deck.closeSubpath();
    painter.fillPath(deck, QBrush(colours.page));
    painter.fillPath(deck, QBrush(colours.blank, Qt::BDiagPattern));
    const QSizeF drawn_size = QSizeF(image_.size()) * (map_->cell() * scale_);
    painter.drawImage(QRectF(frame_.bottomLeft() - QPointF(0, drawn_size.height()), drawn_size), image_);

    painter.setPen(QPen(colours.edge, 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(deck);
    const auto hole = [&](const block::HoleBlueprint& h, const QBrush& brush) {
        if (h.id.bank != bank_.id)
            return;
        painter.setBrush(brush);
        const double r = h.diameter.nominal / 2 * scale_;
        painter.drawEllipse(to_screen({h.u, h.v}), r, r);
    };
    for (const auto& bore : blueprint_.bores)
        hole(bore, colours.page);
    for (const auto& dowel : blueprint_.dowels)
        hole(dowel, colours.edge);

    const block::SharedPoints& touched = drawn.touched.empty() ? points_ : drawn.touched;
    if (drawn.show_points && touched.size() <= 2000) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours.point);
        for (const Vec3 p : touched)
            painter.drawEllipse(to_screen({p.x, p.y}), 1.8, 1.8);
    }
    if (!drawn.dark.empty()) { // one hatched patch, however many dabs the brush left
        QPainterPath patch;
        patch.setFillRule(Qt::WindingFill);
        const double r = std::max(5.0, drawn.brush * scale_);
        for (const Vec2 place : drawn.dark)
            patch.addEllipse(to_screen(place), r, r);
        patch = patch.simplified();
        QColor wash = colours.mark;
        wash.setAlpha(60);
        painter.fillPath(patch, wash);
        painter.fillPath(patch, QBrush(colours.mark, Qt::FDiagPattern));
        painter.setPen(QPen(colours.mark, 1.6));
        painter.drawPath(patch);
    }
    painter.restore();
}

} // namespace pallix::reporting
