// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/balance_drawing.h"

#include "block/state/deck_state.h"
#include "planning/decks/balance.h"

#include <QPainter>
#include <QPainterPath>
#include <array>

namespace pallix::ui {
namespace {

QString grams(const std::optional<double>& mass) {
    return mass ? QStringLiteral("%1 g").arg(*mass, 0, 'f', 1) : QStringLiteral("…");
}

} // namespace

BalanceDrawing::BalanceDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("balance"), tr("one throw of the crankshaft, what turns and what moves"),
              parent) {
    setToolTip(tr("Type the masses in the sentence below; T shows the table"));
}

const block::BalanceCard& BalanceDrawing::card() const {
    return decks_of(context_.session.state()).balance;
}

TwinTable BalanceDrawing::table() const {
    TwinTable t = TwinTable::headed(tr("part|what it does|mass"), 2);
    const block::BalanceCard& c = card();
    const QString turns = tr("turns with the throw"), moves = tr("goes up and down");
    t.rows = {{tr("rod, big end"), turns, grams(c.big_end)}, {tr("shells"), turns, grams(c.bearing)},
              {tr("oil in the throw"), turns, grams(c.oil)}, {tr("rod, small end"), moves, grams(c.small_end)},
              {tr("piston"), moves, grams(c.piston)},        {tr("pin"), moves, grams(c.pin)},
              {tr("rings"), moves, grams(c.rings)},          {tr("locks"), moves, grams(c.locks)}};
    if (const auto b = planning::bobweight(c))
        t.rows.push_back({tr("bobweight of a throw"), tr("clamped on in their place"), grams(b->weight)});
    if (const auto u = planning::permissible_unbalance(c))
        t.rows.push_back({tr("unbalance allowed"), tr("in all, G %1").arg(c.grade), tr("%1 g·mm").arg(*u, 0, 'f', 0)});
    t.ids.resize(t.rows.size());
    return t;
}

void BalanceDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const QRectF all = QRectF(rect()).adjusted(20, 16, -20, -16);
    paint_rod(painter, {all.left(), all.top(), all.width() * 0.5, all.height()});
    paint_throw(painter, {all.left() + all.width() * 0.54, all.top(), all.width() * 0.46, all.height()});
}

/// Piston above, throw below; each mass beside its part.
void BalanceDrawing::paint_rod(QPainter& painter, const QRectF& box) const {
    const Palette& ink = context_.palette();
    const block::BalanceCard& c = card();
    const double unit = box.height() / 10, x = box.left() + 2.2 * unit;
    painter.setPen(QPen(ink.ink, 1.5));
    painter.setBrush(ink.field);
    const QRectF piston(x - 1.6 * unit, box.top() + 0.4 * unit, 3.2 * unit, 2.6 * unit);
    painter.drawRoundedRect(piston, 6, 6);
    for (const double y : {0.35, 0.65, 0.95})
        painter.drawLine(QPointF(piston.left(), piston.top() + y * unit),
                         QPointF(piston.right(), piston.top() + y * unit));
    const QPointF pin(x, box.top() + 2.0 * unit), big(x, box.top() + 7.6 * unit);
    QPainterPath rod;
    rod.moveTo(pin.x() - 0.35 * unit, pin.y());
    rod.lineTo(big.x() - 0.7 * unit, big.y());
    rod.lineTo(big.x() + 0.7 * unit, big.y());
    rod.lineTo(pin.x() + 0.35 * unit, pin.y());
    painter.drawPath(rod);
    painter.drawEllipse(pin, 0.55 * unit, 0.55 * unit);
    painter.drawEllipse(pin, 0.3 * unit, 0.3 * unit);
    painter.drawEllipse(big, 1.5 * unit, 1.5 * unit);
    painter.setBrush(ink.panel);
    painter.drawEllipse(big, 1.05 * unit, 1.05 * unit);
    painter.drawEllipse(big, 0.9 * unit, 0.9 * unit);
    struct Line {
        double y; ///< units from the top
        QString words;
    };
    const std::array lines{Line{0.4, tr("rings %1").arg(grams(c.rings))},
                           Line{1.2, tr("piston %1").arg(grams(c.piston))},
                           Line{2.0, tr("pin %1, locks %2").arg(grams(c.pin), grams(c.locks))},
                           Line{3.4, tr("small end %1").arg(grams(c.small_end))},
                           Line{6.4, tr("big end %1").arg(grams(c.big_end))},
                           Line{7.2, tr("shells %1").arg(grams(c.bearing))},
                           Line{8.0, tr("oil %1").arg(grams(c.oil))}};
    painter.setPen(ink.ink);
    for (const Line& line : lines)
        write(painter, {x + 2.1 * unit, box.top() + line.y * unit, box.right() - x - 2.1 * unit, 0.8 * unit},
              Qt::AlignLeft | Qt::AlignVCenter, line.words, Type::text);
    painter.setPen(ink.quiet);
    write(painter, {box.left(), box.bottom() - 0.7 * unit, box.width(), 0.7 * unit}, Qt::AlignLeft | Qt::AlignVCenter,
          tr("above: goes up and down · below: turns"), Type::small);
}

/// The throw with two half rings clamped on it, and what they weigh.
void BalanceDrawing::paint_throw(QPainter& painter, const QRectF& box) const {
    const Palette& ink = context_.palette();
    const block::BalanceCard& c = card();
    const double unit = box.height() / 10;
    const QPointF middle(box.center().x(), box.top() + 4.4 * unit), main(middle.x(), middle.y() + 2.4 * unit);
    painter.setPen(QPen(ink.ink, 1.5));
    painter.setBrush(ink.field);
    QPainterPath cheek;
    cheek.addRoundedRect(QRectF(middle.x() - 1.2 * unit, middle.y() - 1.1 * unit, 2.4 * unit, 4.6 * unit), unit, unit);
    painter.drawPath(cheek);
    painter.drawEllipse(main, 0.85 * unit, 0.85 * unit);
    painter.setBrush(ink.panel);
    painter.drawEllipse(middle, 2.0 * unit, 2.0 * unit);
    painter.setBrush(ink.field);
    painter.drawEllipse(middle, 0.8 * unit, 0.8 * unit);
    painter.drawLine(QPointF(middle.x() - 2.0 * unit, middle.y()), QPointF(middle.x() - 0.8 * unit, middle.y()));
    painter.drawLine(QPointF(middle.x() + 0.8 * unit, middle.y()), QPointF(middle.x() + 2.0 * unit, middle.y()));
    const auto weight = planning::bobweight(c);
    painter.setPen(ink.ink);
    write(painter, {box.left(), box.top(), box.width(), 1.3 * unit}, Qt::AlignCenter,
          weight ? tr("bobweight %1").arg(grams(weight->weight)) : tr("bobweight: masses are missing"), Type::number,
          true);
    if (weight)
        write(painter, {box.left(), box.top() + 1.3 * unit, box.width(), 0.9 * unit}, Qt::AlignCenter,
              tr("%1 × (%2 turning + %3 × %4 moving) + %5 oil")
                  .arg(c.rods)
                  .arg(grams(weight->turning))
                  .arg(c.share, 0, 'g', 3)
                  .arg(grams(weight->moving), grams(c.oil)),
              Type::text);
    const auto allowed = planning::permissible_unbalance(c);
    write(painter, {box.left(), box.bottom() - 1.9 * unit, box.width(), 1.1 * unit}, Qt::AlignCenter,
          allowed ? tr("%1 g·mm allowed in all").arg(*allowed, 0, 'f', 0)
                  : tr("mass and speed of the crankshaft are missing"),
          Type::number, true);
    painter.setPen(ink.quiet);
    write(painter, {box.left(), box.bottom() - 0.8 * unit, box.width(), 0.8 * unit}, Qt::AlignCenter,
          tr("guards shut before it spins; drill only with it at rest"), Type::small);
}

} // namespace pallix::ui
