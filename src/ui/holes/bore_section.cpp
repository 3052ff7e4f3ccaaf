// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/bore_section.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "ui/marks.h"
#include "ui/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

BoreSection::BoreSection(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("bore-section"), tr("the marked bore opened across the crankshaft"), parent) {
    fix_size(this, 190, 180);
    setFocusPolicy(Qt::NoFocus);
}

void BoreSection::show_bore(const block::FeatureId& id) {
    id_ = id;
    update();
}

const block::HoleResult* BoreSection::hole() const {
    const auto& latest = tunnel_of(context_.session.state()).latest;
    if (!latest || !id_)
        return nullptr;
    const auto& list = id_->kind == block::FeatureKind::bore ? latest->evaluation.bores : latest->evaluation.lifters;
    const auto found = std::ranges::find(list, *id_, &block::HoleResult::id);
    return found == list.end() ? nullptr : &*found;
}

void BoreSection::paintEvent(QPaintEvent*) {
    const block::HoleResult* h = hole();
    const auto& blueprint = intake_of(context_.session.state()).blueprint;
    if (!h || !blueprint || h->levels.size() < 2)
        return;
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const block::HoleBlueprint& meant = *blueprint->hole(h->id);
    const double half = 40_px, middle = width() / 2.0, top = 34_px, bottom = height() - 46_px; // px
    const double high = h->levels.front().w, low = h->levels.back().w;
    double largest = 0.005; // mm
    for (const block::HoleLevel& level : h->levels)
        largest = std::max(
            {largest, std::abs(level.centre.y - meant.v), std::abs(level.diameter - meant.diameter.nominal) / 2});
    const Exaggeration scale =
        exaggeration_for(largest, 22, 2 * half / meant.diameter.nominal, block::mm_per(context_.preferences.unit()));
    const double px = 2 * half / meant.diameter.nominal * scale.factor; // per mm of error
    const auto y_of = [&](double w) { return top + (high - w) / (high - low) * (bottom - top); };
    QPolygonF left, right, axis;
    for (const block::HoleLevel& level : h->levels) {
        const double off = (level.centre.y - meant.v) * px, wide = (level.diameter - meant.diameter.nominal) / 2 * px;
        left << QPointF(middle - half + off - wide, y_of(level.w));
        right << QPointF(middle + half + off + wide, y_of(level.w));
        axis << QPointF(middle + off, y_of(level.w));
    }
    // Metal from the walls outwards.
    const double outer = half + 44;
    QPolygonF metal = left;
    metal << QPointF(middle - outer, bottom) << QPointF(middle - outer, top);
    QPolygonF other = right;
    other << QPointF(middle + outer, bottom) << QPointF(middle + outer, top);
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.deck.iron_high);
    painter.drawPolygon(metal);
    painter.drawPolygon(other);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine)); // the blueprint's axis
    painter.drawLine(QPointF(middle, top - 12_px), QPointF(middle, bottom + 12_px));
    painter.setPen(QPen(p.accent, 2.2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(left);
    painter.drawPolyline(right);
    painter.setPen(QPen(p.accent, 1.2, Qt::DashLine));
    painter.drawPolyline(axis);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    painter.drawText(QRectF(0, 2, width(), 16_px), Qt::AlignCenter,
                     (h->lean.y < 0 ? tr("leans left %1 mm/m") : tr("leans right %1 mm/m"))
                         .arg(std::abs(h->lean.y) * 1000, 0, 'f', 2));
    if (const auto& work = context_.session.assessment().cylinders)
        if (const planning::CylinderNeed* n = work->study.bore(h->id))
            for (const planning::WallAt& w : n->found.walls) {
                if (w.outwards.y == 0)
                    continue;
                const double y = w.level == "bottom" ? bottom : w.level == "top" ? top : (top + bottom) / 2;
                painter.setPen(w.thin() ? p.fails : p.ink);
                painter.drawText(w.outwards.y > 0 ? QRectF(width() - 44_px, y - 8_px, 44_px, 16_px)
                                                  : QRectF(0, y - 8_px, 44_px, 16_px),
                                 w.outwards.y > 0 ? Qt::AlignLeft : Qt::AlignRight,
                                 qt(l.plain(w.after.value_or(w.before))));
            }
    painter.setPen(p.quiet);
    painter.drawText(QRectF(0, height() - 36_px, width(), 16_px), Qt::AlignCenter,
                     tr("left · seen from the rear · right"));
    painter.drawText(QRectF(0, height() - 18_px, width(), 16_px), Qt::AlignCenter,
                     tr("sideways × %1").arg(scale.factor, 0, 'f', 0));
}

} // namespace pallix::ui
