// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/engines/engine_delegate.h"

#include "block/blueprint.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <memory>

namespace pallix::ui {

EngineDelegate::EngineDelegate(Context context, QObject* parent) : QStyledItemDelegate(parent), context_(context) {}

QSize EngineDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const {
    return {option.rect.width(), scaled(84)};
}

namespace {

/// Banks, decks, mains and cam from the rear, small.
void paint_from_the_rear(QPainter& painter, const QRectF& box, const block::Blueprint& b, const Palette& p) {
    double highest = 1, radius = 40;
    for (const block::BankBlueprint& bank : b.banks)
        highest = std::max(highest, bank.deck_height.nominal);
    if (!b.bores.empty())
        radius = b.bores.front().diameter.nominal / 2;
    const double scale = box.height() / (highest * 1.5);
    const QPointF middle = b.banks.size() == 2 && std::abs(b.banks[0].angle) > 1.4
                               ? box.center()
                               : QPointF(box.center().x(), box.bottom() - box.height() * 0.2);
    const auto at = [&](double angle, double side, double up) {
        return middle + scale * QPointF(up * std::sin(angle) + side * std::cos(angle),
                                        -up * std::cos(angle) + side * std::sin(angle));
    };
    for (const block::BankBlueprint& bank : b.banks) {
        const double h = bank.deck_height.nominal, half = radius * 1.32, a = bank.angle;
        painter.setPen(QPen(p.deck.edge, 1));
        painter.setBrush(p.deck.bright);
        painter.drawPolygon(QPolygonF{at(a, -half, h * 0.3), at(a, -half, h), at(a, half, h), at(a, half, h * 0.3)});
        painter.setPen(QPen(p.deck.edge, 3));
        painter.drawLine(at(a, -half, h), at(a, half, h));
    }
    painter.setPen(QPen(p.deck.edge, 2));
    painter.setBrush(p.panel);
    const double main = b.mains.front().diameter.nominal / 2 * scale;
    painter.drawEllipse(middle, main, main);
    if (b.cam)
        painter.drawEllipse(middle + scale * QPointF(b.cam->y, -b.cam->z), main * 0.6, main * 0.6);
}

} // namespace

void EngineDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const Palette& p = context_.palette();
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    const QRect r = option.rect;
    if (option.state & QStyle::State_Selected) {
        painter->fillRect(r, p.selected);
        painter->fillRect(QRect(r.left(), r.top(), scaled(4), r.height()), p.accent);
    }
    painter->fillRect(QRect(r.left(), r.bottom(), r.width(), 1), p.hairline);
    if (const auto b = index.data(blueprint_role).value<std::shared_ptr<const block::Blueprint>>())
        paint_from_the_rear(
            *painter, QRectF(r.left() + scaled(24), r.top() + scaled(8), scaled(96), r.height() - scaled(16)), *b, p);
    const QRect text = r.adjusted(scaled(140), scaled(12), -scaled(24), -scaled(10));
    painter->setPen(p.ink);
    painter->setFont(font_of(Type::title, true));
    painter->drawText(text, Qt::AlignLeft | Qt::AlignTop, index.data(name_role).toString());
    painter->setFont(font_of(Type::small));
    painter->setPen(p.quiet);
    painter->drawText(text, Qt::AlignRight | Qt::AlignTop, index.data(revision_role).toString());
    painter->drawText(text.adjusted(0, scaled(30), 0, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                      index.data(words_role).toString());
    if (option.state & QStyle::State_HasFocus) {
        painter->setPen(QPen(p.accent, 1.5));
        painter->setBrush(Qt::NoBrush);
        painter->drawRect(r.adjusted(1, 1, -2, -2));
    }
    painter->restore();
}

} // namespace pallix::ui
