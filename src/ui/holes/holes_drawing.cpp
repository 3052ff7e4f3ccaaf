// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/holes_drawing.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/place.h"
#include "planning/readings/reading_plan.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;
using metrology::Vec2;

namespace {

const block::HoleResult* result_of(const block::JobState& state, const FeatureId& id) {
    if (!tunnel_of(state).latest)
        return nullptr;
    const auto& e = tunnel_of(state).latest->evaluation;
    const auto& list = id.kind == FeatureKind::bore ? e.bores : e.lifters;
    const auto found = std::ranges::find(list, id, &block::HoleResult::id);
    return found == list.end() ? nullptr : &*found;
}

} // namespace

HolesDrawing::HolesDrawing(Context context, FeatureKind kind, QWidget* parent)
    : Drawing(context, kind == FeatureKind::bore ? QStringLiteral("positions") : QStringLiteral("lifter-positions"),
              tr("bank in plan with the position errors of its holes"), parent),
      kind_(kind) {
    setToolTip(tr("Click a hole, or go from one to the next with the arrow keys; T shows the table"));
    setFocusPolicy(Qt::StrongFocus);
}

void HolesDrawing::show_bank(const std::string& bank, bool from_dowel) {
    bank_ = bank;
    from_dowel_ = from_dowel;
    update();
}

void HolesDrawing::set_asked(const std::optional<planning::AskedReading>& asked) {
    asked_ = asked;
    update();
}

std::vector<FeatureId> HolesDrawing::holes() const {
    std::vector<FeatureId> ids;
    if (const auto& b = intake_of(context_.session.state()).blueprint)
        for (const auto& hole : kind_ == FeatureKind::bore ? b->bores : b->lifters)
            if (hole.id.bank == bank_)
                ids.push_back(hole.id);
    return ids;
}

std::optional<Vec2> HolesDrawing::error_of(const FeatureId& id) const {
    const auto& state = context_.session.state();
    if (id.kind == FeatureKind::dowel) {
        if (tunnel_of(state).latest)
            for (const auto& d : tunnel_of(state).latest->evaluation.dowels)
                if (d.id == id && d.place_known)
                    return Vec2{d.du, d.dv};
        return std::nullopt;
    }
    const block::HoleResult* hole = result_of(state, id);
    if (!hole || !hole->place_known)
        return std::nullopt;
    return from_dowel_ && hole->from_dowel ? *hole->from_dowel : hole->error;
}

QPointF HolesDrawing::Layout::at(Vec2 place) const {
    return {deck.left() + (place.x - low.x) * per_mm, deck.bottom() - (place.y - low.y) * per_mm};
}

HolesDrawing::Layout HolesDrawing::lay_out() const {
    const auto& b = *intake_of(context_.session.state()).blueprint;
    const planning::DeckExtent e = planning::deck_extent(*b.bank(bank_));
    QRectF room = QRectF(rect()).adjusted(44_px, 26_px, -44_px, -26_px);
    room.setSize(room.size().expandedTo(QSizeF(40, 40))); // before it has a size
    Layout l;
    l.per_mm = std::min(room.width() / e.length(), room.height() / e.width());
    const QSizeF size(e.length() * l.per_mm, e.width() * l.per_mm);
    l.deck = QRectF(QPointF(room.center().x() - size.width() / 2, room.top()), size);
    l.lifters_y = height() / 2.0 - 6_px;
    const double lifter_px = 46_px; // what a lifter bore is drawn as
    if (kind_ == FeatureKind::lifter && !b.lifters.empty())
        l.per_mm = lifter_px / b.lifters.front().diameter.nominal;
    l.low = e.low;
    double largest = 0.01; // mm
    for (const FeatureId& id : holes())
        if (const auto error = error_of(id))
            largest = std::max(largest, norm(*error));
    l.scale = exaggeration_for(largest, 44, l.per_mm, block::mm_per(context_.preferences.unit()));
    return l;
}

double HolesDrawing::radius_of(const Layout& layout, const block::HoleBlueprint& hole) const {
    return std::max(hole.diameter.nominal / 2 * layout.per_mm, 5.0_px);
}

/// A lifter stands in its row, front to the left; what else there is, at its place.
QPointF HolesDrawing::middle_of(const Layout& layout, const block::HoleBlueprint& hole) const {
    if (kind_ != FeatureKind::lifter)
        return layout.at({hole.u, hole.v});
    const std::vector<FeatureId> row = holes();
    const auto place = static_cast<double>(std::ranges::find(row, hole.id) - row.begin());
    return {35_px + (width() - 70.0_px) * (place + 0.5) / static_cast<double>(row.size()), layout.lifters_y};
}

std::vector<Drawing::Thing> HolesDrawing::things() const {
    std::vector<Thing> all;
    const auto& blueprint = intake_of(context_.session.state()).blueprint;
    if (!blueprint || !blueprint->bank(bank_))
        return all;
    const Layout layout = lay_out();
    for (const FeatureId& id : holes()) {
        const block::HoleBlueprint& hole = *blueprint->hole(id);
        const double r = radius_of(layout, hole) + 4;
        const auto error = error_of(id);
        all.push_back({id, QRectF(middle_of(layout, hole) - QPointF(r, r), QSizeF(2 * r, 2 * r)),
                       short_name(context_, id),
                       error ? qt(wording::across_text(*blueprint->bank(bank_), error->y, context_.lengths()))
                             : tr("not probed")});
    }
    return all;
}

void HolesDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const auto& blueprint = intake_of(context_.session.state()).blueprint;
    if (!blueprint || !blueprint->bank(bank_))
        return;
    const Layout layout = lay_out();
    if (kind_ == FeatureKind::lifter)
        return paint_row(painter, layout);
    paint_outline(painter, layout);
    for (const auto* list : {&blueprint->dowels, &blueprint->bores})
        for (const auto& hole : *list)
            if (hole.id.bank == bank_)
                paint_hole(painter, layout, hole, layout.at({hole.u, hole.v}));
    paint_words(painter, layout);
    paint_focus(painter);
}

/// Half of what a lifter's numbers may take, px.
double HolesDrawing::lifter_reach() const {
    return std::min(46_px, (width() - 70.0_px) / static_cast<double>(2 * std::max<std::size_t>(1, holes().size())) - 2);
}

/// Lifters evenly along the width, front to the left; only their errors are to scale.
void HolesDrawing::paint_row(QPainter& painter, const Layout& layout) {
    const Palette& p = context_.palette();
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const std::vector<FeatureId> row = holes();
    const double reach = lifter_reach();
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine)); // the blueprint's places
    painter.drawLine(QPointF(30_px, layout.lifters_y), QPointF(width() - 30_px, layout.lifters_y));
    for (std::size_t i = 0; i < row.size(); ++i) {
        const block::HoleBlueprint& lifter = *intake_of(context_.session.state()).blueprint->hole(row[i]);
        const double x = middle_of(layout, lifter).x();
        paint_hole(painter, layout, lifter, {x, layout.lifters_y});
        if (const block::HoleResult* hole = result_of(context_.session.state(), row[i])) {
            painter.setPen(p.quiet);
            write(painter, QRectF(x - reach, height() - 32_px, 2 * reach, 22_px), Qt::AlignCenter,
                  qt(context_.lengths().plain(hole->diameter())), Type::number);
        }
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(12_px, layout.lifters_y - 48_px, 90_px, 18_px), Qt::AlignLeft,
                     tr("+ %1").arg(qt(wording::across_word(planning::positive_side(bank)))));
    painter.drawText(QRectF(12_px, layout.lifters_y + 30_px, 90_px, 18_px), Qt::AlignLeft,
                     tr("− %1").arg(qt(wording::across_word(planning::negative_side(bank)))));
    painter.drawText(QRectF(12_px, height() - 30_px, 90_px, 18_px), Qt::AlignLeft, tr("size"));
    paint_scale(painter, layout);
    paint_focus(painter);
}

void HolesDrawing::paint_outline(QPainter& painter, const Layout& layout) {
    const Palette& p = context_.palette();
    QPolygonF outline;
    for (const Vec2 corner : intake_of(context_.session.state()).blueprint->bank(bank_)->deck_outline)
        outline << layout.at(corner);
    painter.setPen(QPen(p.deck.edge, 1.4));
    painter.setBrush(p.panel);
    painter.drawPolygon(outline);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine)); // the plane through the crankshaft
    const double y = layout.at({0, 0}).y();
    painter.drawLine(QPointF(layout.deck.left() - 12_px, y), QPointF(layout.deck.right() + 12_px, y));
}

void HolesDrawing::paint_hole(QPainter& painter, const Layout& layout, const block::HoleBlueprint& hole, QPointF at) {
    const Palette& p = context_.palette();
    const double radius = radius_of(layout, hole);
    const bool marked = this->marked() == hole.id, asked = asked_ && asked_->at.feature == hole.id;
    painter.setPen(QPen(marked || asked ? p.accent : p.deck.edge, marked || asked ? 2.4 : 1.2));
    painter.setBrush(hole.id.kind == FeatureKind::dowel ? p.hairline : p.page);
    painter.drawEllipse(at, radius, radius);
    const bool others = hole.id.kind == FeatureKind::bore && kind_ != FeatureKind::bore; // only for finding one's way
    const auto error = others ? std::nullopt : error_of(hole.id);
    if (error)
        paint_error(painter, layout, *error, at, marked);
    painter.setFont(font_of(Type::number, marked));
    painter.setPen(p.ink);
    const bool lifter = hole.id.kind == FeatureKind::lifter;
    if (hole.id.kind == FeatureKind::bore) {
        const QString name = hole.cylinder ? tr("cyl %1").arg(*hole.cylinder) : tr("bore %1").arg(hole.id.number);
        painter.drawText(QRectF(at.x() - 60_px, at.y() - radius + 10_px, 120_px, 22_px), Qt::AlignCenter, name);
        if (error)
            painter.drawText(QRectF(at.x() - 70_px, at.y() + radius - 34_px, 140_px, 22_px), Qt::AlignCenter,
                             qt(context_.lengths().with_sign(error->y)));
    } else if (lifter) {
        const double reach = lifter_reach();
        painter.drawText(QRectF(at.x() - reach, 34_px, 2 * reach, 22_px), Qt::AlignCenter,
                         QString::number(hole.id.number));
        if (error)
            write(painter, QRectF(at.x() - reach, height() - 56_px, 2 * reach, 22_px), Qt::AlignCenter,
                  qt(context_.lengths().with_sign(error->y)), Type::number, marked);
    }
}

void HolesDrawing::paint_error(QPainter& painter, const Layout& layout, Vec2 error, QPointF at, bool marked) {
    const Palette& p = context_.palette();
    const double px = layout.per_mm * layout.scale.factor;
    const QPointF along(error.x * px, 0), across(0, -error.y * px);
    painter.setPen(QPen(p.quiet, 1.2, Qt::DotLine));
    painter.drawLine(at, at + along);
    painter.setPen(QPen(p.accent, marked ? 4 : 3));
    painter.drawLine(at + along, at + along + across);
    painter.setPen(QPen(p.accent, 1));
    painter.drawLine(at, at + along + across);
    painter.setPen(QPen(p.page, 1.5));
    painter.setBrush(p.accent);
    painter.drawEllipse(at + along + across, 4.5_px, 4.5_px);
    painter.setPen(QPen(p.ink, 1.2)); // where the blueprint has it
    painter.drawLine(at - QPointF(4_px, 0), at + QPointF(4_px, 0));
    painter.drawLine(at - QPointF(0, 4_px), at + QPointF(0, 4_px));
}

void HolesDrawing::paint_words(QPainter& painter, const Layout& layout) {
    const Palette& p = context_.palette();
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    const QRectF d = layout.deck;
    painter.drawText(QRectF(d.left(), d.top() - 20_px, d.width(), 18_px), Qt::AlignCenter,
                     tr("+ %1").arg(qt(wording::across_word(planning::positive_side(bank)))));
    painter.drawText(QRectF(d.left(), d.bottom() + 2, d.width(), 18_px), Qt::AlignCenter,
                     tr("− %1").arg(qt(wording::across_word(planning::negative_side(bank)))));
    for (const bool rear : {false, true}) {
        painter.save();
        painter.translate(rear ? d.right() + 26_px : d.left() - 26_px, d.center().y());
        painter.rotate(-90);
        painter.drawText(QRectF(-60_px, -9_px, 120_px, 18_px), Qt::AlignCenter, rear ? tr("rear") : tr("front"));
        painter.restore();
    }
    paint_scale(painter, layout);
}

/// In the corner where no hole is.
void HolesDrawing::paint_scale(QPainter& painter, const Layout& layout) {
    const Palette& p = context_.palette();
    painter.setFont(font_of(Type::small));
    const double x = width() - 16_px,
                 top = kind_ == FeatureKind::bore ? height() - 10_px - layout.scale.bar_pixels : 8_px;
    painter.setPen(QPen(p.ink, 1.6));
    painter.drawLine(QPointF(x, top), QPointF(x, top + layout.scale.bar_pixels));
    for (const double y : {top, top + layout.scale.bar_pixels})
        painter.drawLine(QPointF(x - 5_px, y), QPointF(x + 5_px, y));
    painter.drawText(QRectF(x - 150_px, top - 6_px, 140_px, 18_px), Qt::AlignRight,
                     qt(context_.lengths().with_unit(layout.scale.bar)));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(x - 150_px, top + 10_px, 140_px, 18_px), Qt::AlignRight,
                     tr("errors × %1").arg(layout.scale.factor, 0, 'f', 0));
}

// ---- roundness ----------------------------------------------------------------------------------------------------

RoundnessPlot::RoundnessPlot(Context context, QWidget* parent) : QWidget(parent), context_(context) {
    setAccessibleName(tr("roundness of the marked level"));
    fix_size(this, 176, 180);
}

void RoundnessPlot::show_level(const std::optional<block::HoleLevel>& level) {
    level_ = level;
    update();
}

void RoundnessPlot::paintEvent(QPaintEvent*) {
    if (!level_)
        return;
    const Palette& p = context_.palette();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QPointF middle(width() / 2.0, height() / 2.0 - 8_px);
    const double radius = 58_px; // px, of the LSQ circle
    const double r = level_->diameter / 2;
    double largest = 1e-4;
    for (const Vec2 q : level_->surface)
        largest = std::max(largest, std::abs(norm(q - level_->centre) - r));
    const Exaggeration scale = exaggeration_for(largest, 20, radius / r, block::mm_per(context_.preferences.unit()));
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(middle, radius, radius);
    std::vector<std::pair<double, QPointF>> ring;
    for (const Vec2 q : level_->surface) {
        const Vec2 d = q - level_->centre;
        const double out = radius + (norm(d) - r) * radius / r * scale.factor;
        ring.emplace_back(std::atan2(d.y, d.x), middle + out / norm(d) * QPointF(d.x, -d.y));
    }
    std::ranges::sort(ring, {}, [](const auto& entry) { return entry.first; });
    QPolygonF line;
    for (const auto& [angle, at] : ring)
        line << at;
    painter.setPen(QPen(p.accent, 2));
    painter.drawPolygon(line);
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.accent);
    for (const QPointF at : line)
        painter.drawEllipse(at, 2.6_px, 2.6_px);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    const auto l = context_.lengths();
    painter.drawText(QRectF(0, middle.y() - 20_px, width(), 40_px), Qt::AlignCenter,
                     tr("%1\nround %2").arg(qt(level_->level), qt(l.plain(level_->roundness_mz))));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(0, height() - 20_px, width(), 18_px), Qt::AlignCenter,
                     tr("form × %1").arg(scale.factor, 0, 'f', 0));
}

} // namespace pallix::ui
