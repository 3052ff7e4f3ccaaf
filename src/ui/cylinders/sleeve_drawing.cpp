// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/sleeve_drawing.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/cylinders/cylinder_words.h"

#include <QPainter>
#include <algorithm>
#include <array>

namespace pallix::ui {
namespace {

const planning::SleeveWork* sleeve_of(const Context& context, const std::optional<block::FeatureId>& bore) {
    const auto& work = context.session.assessment().cylinders;
    if (!work || !bore)
        return nullptr;
    const auto found = std::ranges::find(work->sleeves, *bore, &planning::SleeveWork::bore);
    return found == work->sleeves.end() ? nullptr : &*found;
}

} // namespace

SleeveDrawing::SleeveDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("sleeve-drawing"), tr("the sleeve and what holds it"), parent) {
    setFocusPolicy(Qt::StrongFocus);
}

/// The sleeves there are, as a strip along the top.
std::vector<Drawing::Thing> SleeveDrawing::things() const {
    std::vector<Thing> all;
    const auto& work = context_.session.assessment().cylinders;
    if (!work)
        return all;
    for (const auto& sleeve : work->sleeves)
        all.push_back({sleeve.bore,
                       QRectF(16 + scaled(132) * static_cast<double>(all.size()), 8, scaled(124), scaled(28)),
                       short_name(context_, sleeve.bore),
                       sleeve.fitted     ? tr("it is in")
                       : sleeve.measured ? tr("measured")
                                         : tr("to be measured")});
    return all;
}

void SleeveDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const auto all = things();
    if (!sleeve_of(context_, marked()))
        return paint_empty(
            painter, all.empty() ? tr("No cylinder is to be sleeved. Mark one and decide on it: other… in the call.")
                                 : tr("This cylinder is not to be sleeved."));
    for (const Thing& thing : all) {
        paint_frame(painter, thing.where, marked() == thing.id);
        painter.setFont(font_of(Type::text, marked() == thing.id));
        painter.setPen(context_.palette().ink);
        painter.drawText(thing.where, Qt::AlignCenter, thing.name);
    }
    const QRectF room = QRectF(rect()).adjusted(16, scaled(44), -16, -12);
    paint_section(painter, QRectF(room.left(), room.top(), room.width() * 0.5, room.height()));
    paint_rings(painter,
                QRectF(room.left() + room.width() * 0.54, room.top(), room.width() * 0.46, room.height() * 0.56));
    paint_fit(painter, QRectF(room.left() + room.width() * 0.54, room.top() + room.height() * 0.6, room.width() * 0.46,
                              room.height() * 0.4));
    paint_focus(painter);
}

void SleeveDrawing::paint_section(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const auto* sleeve = sleeve_of(context_, marked());
    const auto& insert = bores_of(context_.session.state()).bore(*marked()).insert;
    const double block = scaled(40), wall = scaled(18), ledge = insert && insert->payload.ledge ? scaled(10) : 0;
    const double raise = sleeve->proud && *sleeve->proud > 0 ? 6 : sleeve->fitted ? 0 : scaled(26); // not yet in
    const double top = box.top() + scaled(54), bottom = box.bottom() - 8, middle = box.center().x();
    const double half = std::min(box.width() / 2 - block - scaled(6), scaled(150) * 1.0);
    for (const int side : {-1, 1}) {
        const auto span = [&](double from, double to, double y0, double y1) {
            const double a = middle + side * from, b = middle + side * to;
            return QRectF(QPointF(std::min(a, b), y0), QPointF(std::max(a, b), y1));
        };
        painter.setPen(QPen(p.deck.edge, 1.2));
        painter.setBrush(p.deck.iron_high);
        painter.drawRect(span(half, half + block, top, bottom));
        if (ledge > 0)
            painter.drawRect(span(half - ledge, half, bottom - 14, bottom));
        painter.setBrush(p.selected);
        painter.setPen(QPen(p.accent, 1.4));
        painter.drawRect(
            span(half - wall, half, top - raise, bottom - (ledge > 0 ? 14 : 0) - (sleeve->fitted ? 0 : raise)));
    }
    painter.setPen(QPen(p.accent, 2));
    painter.drawLine(QPointF(middle - half - block, top), QPointF(middle - half, top)); // the deck
    painter.drawLine(QPointF(middle + half, top), QPointF(middle + half + block, top));
    painter.setFont(font_of(Type::number, true));
    painter.setPen(p.ink);
    painter.drawText(
        QRectF(box.left(), box.top() - 2, box.width(), scaled(24)), Qt::AlignCenter,
        sleeve->fitted
            ? (sleeve->proud && *sleeve->proud > 0 ? tr("proud %1").arg(qt(l.with_unit(*sleeve->proud))) : tr("flush"))
            : tr("not yet in"));
    const QRectF inside(middle - half + wall, top, 2 * (half - wall), bottom - top);
    if (!insert) {
        painter.setFont(font_of(Type::number));
        painter.setPen(p.quiet);
        painter.drawText(inside, Qt::AlignCenter | Qt::TextWordWrap,
                         tr("six sizes outside: top, middle, bottom, two ways each"));
        return;
    }
    const auto& outside = insert->payload.outside;
    for (std::size_t i = 0; i < 3; ++i) {
        const QRectF at(inside.left(), inside.top() + (inside.height() - scaled(46)) * static_cast<double>(i) / 2,
                        inside.width(), scaled(24));
        painter.setFont(font_of(Type::number));
        painter.setPen(p.ink);
        painter.drawText(at, Qt::AlignCenter, qt(l.plain(outside[2 * i])));
        painter.drawText(at.translated(0, scaled(21)), Qt::AlignCenter, qt(l.plain(outside[2 * i + 1])));
    }
}

/// From above: the metal round it, the sleeve, and how much the one is too large for the other.
void SleeveDrawing::paint_rings(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto& insert = bores_of(context_.session.state()).bore(*marked()).insert;
    const double outer = std::min(box.width(), box.height()) / 2 - 6;
    const QPointF middle = box.center();
    painter.setPen(QPen(p.deck.edge, 1.2));
    painter.setBrush(p.deck.iron_high);
    painter.drawEllipse(middle, outer, outer);
    const double seat = outer * 0.72, bore = outer * 0.56;
    painter.setBrush(p.selected);
    painter.setPen(QPen(p.accent, 2));
    painter.drawEllipse(middle, seat, seat);
    painter.setBrush(p.panel);
    painter.setPen(QPen(p.accent, 1.2));
    painter.drawEllipse(middle, bore, bore);
    if (!insert)
        return;
    painter.setFont(font_of(Type::number, true));
    painter.setPen(p.ink);
    const QRectF inside(middle.x() - bore, middle.y() - scaled(24), 2 * bore, scaled(24));
    painter.drawText(inside, Qt::AlignCenter | Qt::TextDontClip, qt(context_.lengths().plain(insert->payload.inside)));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(inside.translated(0, scaled(24)), Qt::AlignCenter | Qt::TextDontClip, tr("inside"));
}

void SleeveDrawing::paint_fit(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const auto* sleeve = sleeve_of(context_, marked());
    QRectF rest = box;
    if (sleeve->plan) {
        painter.setFont(font_of(Type::call, true));
        painter.setPen(p.accent);
        painter.drawText(QRectF(box.left(), box.top(), box.width(), scaled(34)), Qt::AlignCenter,
                         tr("seat %1").arg(qt(l.plain(sleeve->plan->seat))));
        rest.setTop(box.top() + scaled(38));
    }
    painter.setFont(font_of(Type::number));
    painter.setPen(p.ink);
    painter.drawText(rest, Qt::AlignTop | Qt::AlignHCenter | Qt::TextWordWrap,
                     !sleeve->plan             ? qt(wording::sleeve_sentences(*sleeve, l).front())
                     : sleeve->plan->force > 0 ? tr("press %1 kN\nor %2 K warmer block")
                                                     .arg(sleeve->plan->force / 1000, 0, 'f', 1)
                                                     .arg(sleeve->plan->heat, 0, 'f', 0)
                                               : tr("%1 K warmer block").arg(sleeve->plan->heat, 0, 'f', 0));
}

} // namespace pallix::ui
