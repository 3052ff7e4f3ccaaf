// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/place_card.h"

#include "block/state/intake_state.h"
#include "block/units.h"
#include "planning/common/place.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <map>

namespace pallix::ui {

using block::FeatureKind;
using block::InstrumentKind;
using block::Quantity;

namespace {

constexpr int card_width = 167, card_height = 188; // px at 100 %: a third of a drawing

/// Where a direction points on a round thing as it is drawn, from straight up, clockwise; degrees. Mains are seen from
/// the rear, bores from their deck with the front to the left.
double angle_of(const block::MeasuredAt& at) {
    static const std::map<std::string, double> angles{
        {"60 left", -60}, {"60 right", 60}, {"3", 90},     {"6", 180},     {"9", -90},
        {"along", 90},    {"rear", 90},     {"left", 180}, {"front", -90}, {"the other way", 90}};
    const auto found = angles.find(at.direction);
    return found == angles.end() ? 0 : found->second;
}

bool at_one_side(Quantity q) { // not from one side to the other
    return q == Quantity::sweep || q == Quantity::wall || q == Quantity::piston;
}

bool on_deck(Quantity q) {
    return block::is_at_a_place(q) || q == Quantity::slope || q == Quantity::indicator || block::is_bracket(q);
}

} // namespace

PlaceCard::PlaceCard(Context context, QWidget* parent) : QWidget(parent), context_(context) {
    setObjectName(QStringLiteral("place-card"));
    fix_size(this, card_width, card_height);
    hide();
}

void PlaceCard::show_asked(const std::optional<planning::AskedReading>& asked, InstrumentKind instrument) {
    instrument_ = instrument;
    asked_ = asked && asked->at.quantity != Quantity::temperature ? asked : std::nullopt;
    setVisible(asked_.has_value());
    if (asked_)
        setAccessibleName(
            tr("where to read: %1")
                .arg(qt(wording::place_of_reading(*intake_of(context_.session.state()).blueprint, asked_->at))));
    update();
}

QPen PlaceCard::strong() const {
    return {context_.palette().accent, 3_px, Qt::SolidLine, Qt::RoundCap};
}

void PlaceCard::dot(QPainter& painter, QPointF at) const {
    painter.setPen(Qt::NoPen);
    painter.setBrush(context_.palette().accent);
    painter.drawEllipse(at, 6_px, 6_px);
}

void PlaceCard::paintEvent(QPaintEvent*) {
    if (!asked_ || !intake_of(context_.session.state()).blueprint)
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(0, 0, width(), 1), context_.palette().hairline);
    painter.fillRect(QRect(width() - 1, 0, 1, height()), context_.palette().hairline);
    painter.setFont(font_of(Type::small));
    const QRectF room = QRectF(rect()).adjusted(10_px, 4_px, -10_px, -60_px);
    if (on_deck(asked_->at.quantity))
        paint_deck(painter, room);
    else {
        const double side = std::min(room.width() * 0.56, room.height() - 22_px);
        paint_round(painter, {room.left(), room.top(), side, side});
        paint_levels(painter,
                     {room.left() + side + 14_px, room.top() + 4_px, room.width() - side - 14_px, side - 8_px});
    }
    paint_dial(painter, {12_px, height() - 54_px, width() - 24_px, 48_px});
}

/// Which way: the bore with the line through it, or the place beside it.
void PlaceCard::paint_round(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const bool main = asked_->at.feature.kind == FeatureKind::main;
    const double r = box.width() * 0.36;
    const QPointF middle = box.center();
    painter.setPen(QPen(p.deck.edge, 1.6));
    painter.setBrush(p.page);
    painter.drawEllipse(middle, r, r);
    painter.setPen(QPen(p.quiet, 1, main ? Qt::SolidLine : Qt::DashDotLine)); // parting line, or along the crankshaft
    for (const double way : {-1.0, 1.0})
        painter.drawLine(middle + QPointF(way * r, 0), middle + QPointF(way * (r + 10_px), 0));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.left() - 8_px, box.bottom(), box.width() + 16_px, 20_px), Qt::AlignCenter,
                     main ? tr("from the rear") : tr("← front"));
    if (asked_->at.quantity == Quantity::volume || asked_->at.quantity == Quantity::valve ||
        asked_->at.quantity == Quantity::saddle)
        return dot(painter, middle + (asked_->at.quantity == Quantity::saddle ? QPointF(0, -r) : QPointF()));
    const double a = angle_of(asked_->at) * block::radians_per_degree;
    const bool other_side = asked_->at.direction.starts_with("the other side");
    const QPointF d = (other_side ? -1 : 1) * QPointF(std::sin(a), -std::cos(a));
    painter.setPen(strong());
    const double out = asked_->at.quantity == Quantity::wall ? r + 9_px : r;
    if (asked_->at.quantity == Quantity::piston)
        return dot(painter, middle + 0.7 * r * d);
    if (!at_one_side(asked_->at.quantity))
        painter.drawLine(middle - out * d, middle + out * d);
    dot(painter, middle + out * d);
    if (!at_one_side(asked_->at.quantity))
        dot(painter, middle - out * d);
}

/// At which end or level: the housing or the bore cut open.
void PlaceCard::paint_levels(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const std::string& level = asked_->at.level;
    const bool main = asked_->at.feature.kind == FeatureKind::main;
    const QRectF wall(box.left(), box.top(), box.width() * 0.22, box.height());
    painter.setPen(QPen(p.deck.edge, 1.4));
    painter.setBrush(p.deck.iron_high);
    if (main) { // from the side, front to the left: saddle above, cap below
        painter.drawRect(QRectF(box.left(), box.top(), box.width(), box.height() * 0.22));
        painter.drawRect(QRectF(box.left(), box.bottom() - box.height() * 0.22, box.width(), box.height() * 0.22));
    } else {
        painter.drawRect(wall);
        painter.drawRect(wall.translated(box.width() - wall.width(), 0));
    }
    painter.setPen(strong());
    const double inner = 0.24;
    if (main && !level.empty()) {
        const double x = level == "front" ? box.left() + 8_px : box.right() - 8_px;
        painter.drawLine(QPointF(x, box.top() + box.height() * inner), QPointF(x, box.bottom() - box.height() * inner));
    } else if (level == "top" || level == "middle" || level == "bottom") {
        const double y = level == "top"      ? box.top() + box.height() * 0.14
                         : level == "middle" ? box.center().y()
                                             : box.bottom() - box.height() * 0.14;
        painter.drawLine(QPointF(box.left() + box.width() * inner, y), QPointF(box.right() - box.width() * inner, y));
    }
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.left() - 12_px, box.bottom() + 4_px, box.width() + 24_px, 20_px), Qt::AlignCenter,
                     level.empty() ? main ? tr("saddle") : QString() : qt(level));
}

/// Which corner or line of a deck.
void PlaceCard::paint_deck(QPainter& painter, const QRectF& room) {
    const Palette& p = context_.palette();
    const block::MeasuredAt& at = asked_->at;
    const block::Blueprint& b = *intake_of(context_.session.state()).blueprint;
    const block::BankBlueprint& bank = *b.bank(at.feature.bank);
    const planning::DeckExtent e = planning::deck_extent(bank);
    const QRectF box = room.adjusted(6_px, 18_px, -6_px, -22_px);
    const double scale = std::min(box.width() / e.length(), box.height() / e.width());
    const QPointF corner(box.center().x() - scale * e.length() / 2, box.center().y() + scale * e.width() / 2);
    const auto on = [&](metrology::Vec2 q) {
        return corner + scale * QPointF(q.x - e.low.x, -(q.y - e.low.y)); // +v up, front to the left
    };
    painter.setPen(QPen(p.deck.edge, 1.6));
    painter.setBrush(p.page);
    painter.drawRect(QRectF(on({e.low.x, e.high.y}), on({e.high.x, e.low.y})));
    for (const block::HoleBlueprint& bore : b.bores)
        if (bore.id.bank == bank.id)
            painter.drawEllipse(on({bore.u, bore.v}), scale * bore.diameter.nominal / 2,
                                scale * bore.diameter.nominal / 2);
    painter.setPen(p.quiet);
    painter.drawText(QRectF(room.left(), room.top() - 2, room.width(), 20_px), Qt::AlignCenter,
                     qt(wording::across_word(planning::positive_side(bank))));
    painter.drawText(QRectF(room.left(), box.bottom() + 2, room.width(), 20_px), Qt::AlignCenter, tr("← front"));
    painter.setPen(strong());
    const metrology::Vec2 middle{(e.low.x + e.high.x) / 2, (e.low.y + e.high.y) / 2};
    if (block::is_at_a_place(at.quantity))
        return dot(painter, on(at.place));
    if (at.quantity == Quantity::indicator)
        return dot(painter, on({at.level == "rear" ? e.high.x : e.low.x, at.direction == "+v" ? e.high.y : e.low.y}));
    if (at.quantity == Quantity::slope) {
        const bool along = at.direction == "along";
        const metrology::Vec2 half = along ? metrology::Vec2{e.length() / 3, 0} : metrology::Vec2{0, e.width() / 3};
        return painter.drawLine(on(middle - half), on(middle + half));
    }
    for (const planning::EdgeLine& line : planning::edge_lines(b, bank.id))
        if (line.name == at.direction)
            painter.drawLine(on(line.from), on(line.to));
}

/// The needle, and which way it goes when the value grows: an indicator's follows its plunger; a bore gauge's goes
/// back when its feet come out (common practice, no source).
void PlaceCard::paint_dial(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const std::string more = wording::more_means(asked_->at.quantity);
    if (more.empty())
        return;
    const bool has_needle = instrument_ == InstrumentKind::bore_gauge || instrument_ == InstrumentKind::deck_bridge ||
                            instrument_ == InstrumentKind::lever_indicator ||
                            instrument_ == InstrumentKind::dial_indicator;
    const bool back = instrument_ == InstrumentKind::bore_gauge;
    const double r = box.height() / 2 - 2_px;
    const QPointF middle(box.left() + r, box.center().y());
    if (has_needle) {
        painter.setPen(QPen(p.deck.edge, 1.6));
        painter.setBrush(p.field);
        painter.drawEllipse(middle, r, r);
        painter.setPen(QPen(p.ink, 2_px));
        painter.drawLine(middle, middle - QPointF(0, r * 0.62));
        const double sweep = back ? 1 : -1; // Qt's arcs go the other way round
        const QRectF arc(middle - QPointF(r * 0.74, r * 0.74), middle + QPointF(r * 0.74, r * 0.74));
        painter.setPen(QPen(p.accent, 2.4_px));
        painter.drawArc(arc, 90 * 16, static_cast<int>(sweep * 70 * 16));
        const double end = (90 + sweep * 70) * block::radians_per_degree;
        const QPointF tip = middle + r * 0.74 * QPointF(std::cos(end), -std::sin(end));
        const QPointF out(std::cos(end), -std::sin(end)), on(sweep * -std::sin(end), sweep * -std::cos(end));
        painter.drawPolyline(QPolygonF{tip - 6_px * on + 5_px * out, tip, tip - 6_px * on - 5_px * out});
    }
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    painter.drawText(box.adjusted(has_needle ? 2 * r + 10_px : 0, 0, 0, 0),
                     Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap, QStringLiteral("+ ") + qt(more));
}

} // namespace pallix::ui
