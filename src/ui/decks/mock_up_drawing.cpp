// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/mock_up_drawing.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {
namespace {

/// A crown against its deck.
std::string stands(const wording::LengthText& l, double clearance) {
    return l.side(clearance, "below", "proud");
}

constexpr double strip_height = 74; // px at 100 %

} // namespace

MockUpDrawing::MockUpDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("mock-up"), tr("pistons at top dead centre"), parent) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("Click a cylinder, or go from one to the next with the arrow keys; T shows the table"));
}

std::vector<MockUpDrawing::Cylinder> MockUpDrawing::cylinders() const {
    std::vector<Cylinder> all;
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    for (const planning::BankProgress& b : a.banks)
        for (const planning::CylinderAfter& c :
             planning::deck_consequences(state, a.crowns, b.plan.bank, b.plan.target, b.plan.cut).cylinders) {
            const auto crown = std::ranges::find(a.crowns, c.bore, &planning::PistonCrown::bore);
            const auto* meant = intake_of(state).blueprint->hole(c.bore);
            const auto height = block::height_now(decks_of(state).deck(c.bore.bank), {meant->u, meant->v});
            const bool known = crown != a.crowns.end();
            all.push_back(
                {c, known ? &*crown : nullptr, height && known ? std::optional(*height - crown->crown) : std::nullopt});
        }
    return all;
}

std::optional<block::FeatureId> MockUpDrawing::first_of(const std::string& bank) const {
    for (const Cylinder& c : cylinders())
        if (c.planned.bore.bank == bank)
            return c.planned.bore;
    return std::nullopt;
}

std::vector<Drawing::Thing> MockUpDrawing::things() const {
    std::vector<Thing> parts;
    const auto all = cylinders();
    const auto l = context_.lengths();
    const double column = (width() - 24.0) / std::max<double>(1, static_cast<double>(all.size()));
    for (const Cylinder& c : all)
        parts.push_back({c.planned.bore,
                         QRectF(12 + column * static_cast<double>(parts.size()), 8, column - 4, scaled(strip_height)),
                         short_name(context_, c.planned.bore),
                         tr("%1 its deck as planned").arg(qt(l.side(c.planned.clearance, "below", "proud of")))});
    return parts;
}

void MockUpDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const auto all = cylinders();
    if (all.empty())
        return paint_empty(painter, tr("Crank, one rod and piston per corner at top dead centre: read both sides of "
                                       "the pin in the line below (Ctrl+M chooses piston to deck). Positive is below "
                                       "the deck."));
    paint_strip(painter, all, rect());
    auto here = std::ranges::find_if(all, [this](const Cylinder& c) { return marked() == c.planned.bore; });
    if (here == all.end())
        here = all.begin();
    const QRectF room = QRectF(rect()).adjusted(20, scaled(strip_height) + 20, -20, -14);
    paint_chamber(painter, *here, QRectF(room.left(), room.top(), room.width() * 0.56, room.height()));
    paint_numbers(painter, *here,
                  QRectF(room.left() + room.width() * 0.6, room.top(), room.width() * 0.4, room.height()));
    paint_focus(painter);
}

void MockUpDrawing::paint_strip(QPainter& painter, const std::vector<Cylinder>& all, const QRectF&) {
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const auto parts = things();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Cylinder& c = all[i];
        const QRectF& box = parts[i].where;
        paint_frame(painter, box, marked() == c.planned.bore);
        painter.setFont(font_of(Type::small, marked() == c.planned.bore));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(box.left(), box.top() + 4, box.width(), scaled(20)), Qt::AlignCenter,
                         tr("cyl %1").arg(c.planned.cylinder));
        painter.setPen(p.ink);
        write(painter, QRectF(box.left(), box.top() + scaled(24), box.width(), scaled(24)), Qt::AlignCenter,
              qt(stands(l, c.planned.clearance)), Type::number, true);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(box.left(), box.top() + scaled(48), box.width(), scaled(20)), Qt::AlignCenter,
                         c.planned.ratio ? qt(wording::fixed(*c.planned.ratio, 2)) : QString());
    }
}

/// Head, gasket, deck and piston cut open; what lies between them is drawn larger than life.
void MockUpDrawing::paint_chamber(QPainter& painter, const Cylinder& c, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto& figures = decks_of(context_.session.state()).figures;
    const double gasket = figures.gasket_thickness.value_or(0), clear = c.planned.clearance;
    const double largest = std::max({gasket + std::max(clear, 0.0), std::abs(clear), c.now.value_or(0), 0.5}); // mm
    const double px = box.height() * 0.3 / largest;
    const double deck = box.top() + box.height() * 0.48, head = deck - gasket * px, crown = deck + clear * px;
    const double wall = box.width() * 0.16, left = box.left() + wall, right = box.right() - wall;
    painter.setPen(QPen(p.deck.edge, 1.2));
    painter.setBrush(p.deck.iron_low); // the head with its chamber
    painter.drawRect(QRectF(QPointF(box.left(), box.top()), QPointF(box.right(), head)));
    painter.setBrush(p.panel);
    painter.drawEllipse(QPointF(box.center().x(), head), (right - left) * 0.36, (head - box.top()) * 0.62);
    painter.setPen(Qt::NoPen);
    painter.drawRect(QRectF(QPointF(left + 1, head), QPointF(right - 1, deck)));
    painter.setPen(QPen(p.deck.edge, 1.2));
    painter.setBrush(p.deck.iron_high); // the block
    painter.drawRect(QRectF(QPointF(box.left(), deck), QPointF(left, box.bottom())));
    painter.drawRect(QRectF(QPointF(right, deck), QPointF(box.right(), box.bottom())));
    painter.setBrush(p.accent); // the gasket
    painter.setPen(Qt::NoPen);
    if (gasket > 0) {
        painter.drawRect(QRectF(QPointF(box.left(), head), QPointF(left - 4, deck)));
        painter.drawRect(QRectF(QPointF(right + 4, head), QPointF(box.right(), deck)));
    }
    painter.setPen(QPen(p.deck.edge, 1.4)); // the piston with its ring lands
    painter.setBrush(p.selected);
    painter.drawRect(QRectF(QPointF(left + 3, crown), QPointF(right - 3, box.bottom())));
    painter.setPen(QPen(p.quiet, 1));
    for (const double land : {0.18, 0.3, 0.42})
        painter.drawLine(QPointF(left + 3, crown + (box.bottom() - crown) * land),
                         QPointF(right - 3, crown + (box.bottom() - crown) * land));
    if (c.now) { // the deck as it is now, where more is to come off
        const double now = deck - (*c.now - clear) * px;
        painter.setPen(QPen(p.cannot_tell, 1.6, Qt::DashLine));
        painter.drawLine(QPointF(box.left(), now), QPointF(left, now));
        painter.drawLine(QPointF(right, now), QPointF(box.right(), now));
    }
    painter.setFont(font_of(Type::title, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(left, crown + 4, right - left, scaled(30)), Qt::AlignCenter,
                     qt(stands(context_.lengths(), clear)));
}

void MockUpDrawing::paint_numbers(QPainter& painter, const Cylinder& c, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    double y = box.top();
    const auto line = [&](const QString& what, const QString& number, bool strong, const QColor& colour) {
        if (number.isEmpty())
            return;
        painter.setPen(p.quiet);
        write(painter, QRectF(box.left(), y, box.width(), scaled(18)), Qt::AlignLeft | Qt::AlignVCenter, what,
              Type::small);
        painter.setPen(colour);
        write(painter, QRectF(box.left(), y + scaled(15), box.width(), scaled(24)), Qt::AlignLeft | Qt::AlignVCenter,
              number, strong ? Type::call : Type::title, strong);
        y += std::min(box.height() / 5, 56_px);
    };
    constexpr std::array sources{QT_TR_NOOP("both sides read"), QT_TR_NOOP("one side only"),
                                 QT_TR_NOOP("between its neighbours"), QT_TR_NOOP("from the figures")};
    line(tr("to its deck as planned, %1").arg(tr(sources[static_cast<std::size_t>(c.planned.source)])),
         qt(l.side_with_unit(c.planned.clearance, "below", "proud")), true, p.accent);
    line(tr("now"), c.now ? qt(stands(l, *c.now)) : QString(), false, p.ink);
    line(tr("compression"), c.planned.ratio ? qt(wording::ratio_text(*c.planned.ratio)) : QString(), false, p.ink);
    const bool close = c.planned.quench && *c.planned.quench < planning::usual_quench;
    line(close ? tr("quench: closer than is usual with steel rods") : tr("quench"),
         c.planned.quench ? qt(l.plain(*c.planned.quench)) : QString(), false, close ? p.cannot_tell : p.ink);
    if (c.crown && c.planned.source == planning::CrownSource::read)
        line(tr("rock"), qt(l.plain(c.crown->rock)), false, p.ink);
}

TwinTable MockUpDrawing::table() const {
    TwinTable t = TwinTable::headed(tr("cylinder|known from|rock|to deck now|as planned|compression|quench"), 2);
    const auto l = context_.lengths();
    const QStringList sources{tr("both sides read"), tr("one side only"), tr("its neighbours"), tr("figures")};
    for (const Cylinder& c : cylinders()) {
        t.rows.push_back(
            {short_name(context_, c.planned.bore), sources[static_cast<int>(c.planned.source)],
             c.crown && c.planned.source == planning::CrownSource::read ? qt(l.plain(c.crown->rock)) : QString(),
             c.now ? qt(stands(l, *c.now)) : QString(), qt(stands(l, c.planned.clearance)),
             c.planned.ratio ? qt(wording::fixed(*c.planned.ratio, 2)) : QString(),
             c.planned.quench ? qt(l.plain(*c.planned.quench)) : QString()});
        t.ids.push_back(c.planned.bore);
    }
    return t;
}

} // namespace pallix::ui
