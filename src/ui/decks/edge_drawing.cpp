// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/edge_drawing.h"

#include "wording/decks/deck_words.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

namespace pallix::ui {

using metrology::Vec2;

EdgeDrawing::EdgeDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("edge"), tr("straightedge on a line of the deck"), parent) {}

void EdgeDrawing::show_edge(const std::optional<planning::EdgeComparison>& edge) {
    edge_ = edge;
    setAccessibleDescription(edge ? qt(edge->line.name + ": " + wording::edge_sentence(*edge, context_.lengths()))
                                  : QString());
    update();
}

void EdgeDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    if (!edge_ || edge_->laid.rests.empty()) {
        painter.setPen(p.quiet);
        painter.drawText(rect(), Qt::AlignCenter, tr("Nothing measured along this line"));
        return;
    }
    // Drawn from the edge as it first lies: that is level.
    const planning::EdgeRest& lies = edge_->laid.rests.front();
    const double lean = (lies.to.y - lies.from.y) / (lies.to.x - lies.from.x);
    const auto levelled = [&](Vec2 q) { return Vec2{q.x, q.y - lies.from.y - lean * (q.x - lies.from.x)}; };
    std::vector<Vec2> profile;
    for (const Vec2 q : edge_->profile)
        profile.push_back(levelled(q));
    const auto [low, high] = std::ranges::minmax(profile, {}, &Vec2::y);
    const QRectF area = QRectF(rect()).adjusted(24_px, 34_px, -24_px, -26_px);
    const double height = std::max(high.y - low.y, 0.004);
    // A round factor, so that the scale can be said.
    double factor = 1;
    const double per_mm = area.width() / profile.back().x;
    while (factor * 2 * height * per_mm < area.height() * 0.8)
        factor *= 2;
    const auto at = [&](Vec2 q) {
        return QPointF(area.left() + q.x * per_mm, area.bottom() - 4_px - (q.y - low.y) * per_mm * factor);
    };
    QPainterPath iron(at(profile.front()));
    for (const Vec2 q : profile)
        iron.lineTo(at(q));
    QPainterPath body = iron;
    body.lineTo(area.right(), height_below());
    body.lineTo(area.left(), height_below());
    painter.fillPath(body, p.deck.iron_high);
    painter.setPen(QPen(p.deck.edge, 1.4));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(iron);
    painter.save();
    painter.setClipRect(QRectF(rect()).adjusted(1, 28_px, -1, -2));
    bool first = true;
    for (const planning::EdgeRest& r : edge_->laid.rests) {
        const double slope = (r.to.y - r.from.y) / (r.to.x - r.from.x);
        const auto on = [&](double x) { return at(levelled({x, r.from.y + slope * (x - r.from.x)})); };
        painter.setPen(QPen(p.accent, first ? 3 : 1.4, first ? Qt::SolidLine : Qt::DashLine));
        painter.drawLine(on(0), on(profile.back().x));
        painter.setBrush(p.accent);
        painter.setPen(Qt::NoPen);
        painter.drawEllipse(at(levelled(r.from)), first ? 4 : 2.5, first ? 4 : 2.5);
        painter.drawEllipse(at(levelled(r.to)), first ? 4 : 2.5, first ? 4 : 2.5);
        if (first && r.gap > 0) {
            const auto below = std::ranges::min_element(profile, {}, [&](Vec2 q) { return std::abs(q.x - r.gap_at); });
            painter.setPen(QPen(p.fails, 2));
            painter.drawLine(on(r.gap_at), at(*below));
        }
        first = false;
    }
    painter.restore();
    painter.setPen(p.ink);
    painter.drawText(QRectF(12_px, 6_px, width() - 24_px, 20_px), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(
                         qt(edge_->line.name + ": " + wording::edge_sentence(*edge_, context_.lengths())),
                         Qt::ElideRight, width() - scaled(24)));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(12_px, height_below() + 2, width() - 24_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                     tr("heights drawn × %1").arg(factor, 0, 'f', 0));
}

double EdgeDrawing::height_below() const {
    return height() - 24.0_px;
}

} // namespace pallix::ui
