// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/engines/board_drawing.h"

#include "ui/engines/board_measures.h"
#include "wording/common/blueprint_words.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;
using planning::Board;

BoardDrawing::BoardDrawing(Context context, const Board& board, QWidget* parent)
    : Drawing(context, QStringLiteral("board"), tr("the engine's drawing"), parent), board_(board) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("Click a number to change it; Tab goes to the next that is missing, arrow keys from hole to hole"));
}

void BoardDrawing::refresh() {
    lay_out();
    update();
    say_changed();
}

void BoardDrawing::show_sheet(Sheet sheet) {
    sheet_ = sheet;
    refresh();
}

void BoardDrawing::show_other_bank() {
    ++bank_;
    mark(std::nullopt);
    refresh();
}

void BoardDrawing::set_current(const std::string& key) {
    current_ = key;
    update();
    say_changed();
}

QRectF BoardDrawing::place_of(const std::string& key) const {
    const auto found = std::ranges::find(spots_, key, &Spot::key);
    return found == spots_.end() ? QRectF() : found->box;
}

QString BoardDrawing::text_of(const std::string& key) const {
    std::string text = board_.typed(key);
    if (!text.empty() && !Board::choices_of(key).empty())
        std::ranges::replace(text, '_', ' ');
    if (!text.empty())
        return (board_.origin(key).source == block::FigureSource::assumed ? QStringLiteral("≈ ") : QString()) +
               qt(text);
    if (const std::string drawn = board_.drawn(key); !drawn.empty())
        return qt(drawn);
    return board_.needed(key) ? QStringLiteral("?") : QStringLiteral("–");
}

std::vector<SpokenPart> BoardDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    for (const Spot& spot : spots_)
        parts.push_back({qt(Board::brief_of(spot.key)), board_.needed(spot.key) ? tr("missing") : text_of(spot.key),
                         spot.box.toAlignedRect(), spot.key == current_});
    return parts;
}

void BoardDrawing::press(std::size_t part) {
    if (part < spots_.size())
        Q_EMIT figure_chosen(qt(spots_[part].key));
}

std::vector<Drawing::Thing> BoardDrawing::things() const {
    std::vector<Thing> all;
    if (sheet_ == Sheet::parts)
        return all;
    const auto add = [&](const FeatureId& id, QPointF middle, double radius) {
        all.push_back({id, QRectF(middle - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius)),
                       qt(wording::feature_words(b(), id)), QString()});
    };
    for (std::size_t i = 0; i < b().mains.size(); ++i)
        add(b().mains[i].id, side_.at(b().mains[i].x, 0), scaled(12));
    for (const auto* list : {&b().bores, &b().dowels})
        for (const block::HoleBlueprint& hole : *list)
            if (hole.id.bank == bank().id)
                add(hole.id, deck_.at(hole.u, hole.v), hole.diameter.nominal / 2 * deck_.scale);
    for (const block::HoleBlueprint& lifter : b().lifters)
        if (lifter.id.bank == bank().id)
            add(lifter.id, lifter_place(lifter), scaled(5));
    QRectF deck; // behind its holes
    for (const metrology::Vec2 corner : bank().deck_outline)
        deck = deck.united(QRectF(deck_.at(corner.x, corner.y) - QPointF(1, 1), QSizeF(2, 2)));
    const FeatureId id{FeatureKind::deck, bank().id, 0};
    all.push_back({id, deck, qt(wording::feature_words(b(), id)), QString()});
    return all;
}

void BoardDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    for (const Spot& spot : spots_)
        if (spot.box.adjusted(-4, -3, 4, 3).contains(event->position())) {
            Q_EMIT figure_chosen(qt(spot.key));
            return;
        }
    Drawing::mousePressEvent(event);
}

void BoardDrawing::resizeEvent(QResizeEvent* event) {
    Drawing::resizeEvent(event);
    lay_out();
}

// ---- painting -----------------------------------------------------------------------------------------------------

void BoardDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    paint_all(painter);
    paint_focus(painter);
}

void BoardDrawing::paint_sheet(QPainter& painter) {
    const std::string at_hand = std::exchange(current_, {});
    painter.setRenderHint(QPainter::Antialiasing);
    paint_all(painter);
    current_ = at_hand;
}

void BoardDrawing::paint_all(QPainter& painter) const {
    const Palette& p = context_.palette();
    if (sheet_ == Sheet::block) {
        paint_end(painter);
        paint_deck(painter);
        paint_side(painter);
        paint_questions(painter);
    } else {
        paint_crank(painter);
    }
    painter.setPen(QPen(p.quiet, 1));
    painter.setBrush(Qt::NoBrush);
    for (const QPolygonF& line : lines_)
        painter.drawPolyline(line);
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(cells_box_.topLeft() - QPointF(0, 3), cells_box_.topRight() - QPointF(0, 3));
    for (const Spot& spot : spots_)
        paint_spot(painter, spot);
}

/// Blue is what can be changed; a box with a question mark must be filled, red cannot be read.
void BoardDrawing::paint_spot(QPainter& painter, const Spot& spot) const {
    const Palette& p = context_.palette();
    const bool wrong = !board_.wrong(spot.key).empty(), needed = board_.needed(spot.key);
    QRectF box = spot.box;
    QString text = text_of(spot.key);
    if (spot.name_wide > 0) {
        const QRectF name(box.left() - spot.name_wide - scaled(4), box.top(), spot.name_wide, box.height());
        painter.setPen(p.quiet);
        const auto slash = spot.key.find('/');
        const auto id = slash == std::string::npos || Board::is_usual(spot.key)
                            ? std::nullopt
                            : FeatureId::parse(spot.key.substr(0, slash));
        write(painter, name, Qt::AlignRight | Qt::AlignVCenter,
              (id ? qt(wording::feature_words(b(), *id)) + QStringLiteral(" ") : QString()) +
                  qt(Board::brief_of(spot.key)),
              Type::small);
    } else {                                // the line is broken for its number
        if (board_.typed(spot.key).empty()) // what is not there yet is at least named
            text = needed ? tr("%1 ?").arg(qt(Board::brief_of(spot.key))) : qt(Board::brief_of(spot.key));
        painter.setFont(font_of(board_.typed(spot.key).empty() ? Type::small : Type::number, true));
        const double wide = std::min(box.width(), painter.fontMetrics().horizontalAdvance(text) + scaled(12) * 1.0);
        box = QRectF(box.center().x() - wide / 2, box.top(), wide, box.height());
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.panel);
        painter.drawRect(box);
    }
    if (needed || wrong || spot.key == current_) {
        painter.setPen(QPen(wrong                  ? p.fails
                            : spot.key == current_ ? p.accent
                                                   : p.cannot_tell,
                            2, needed && spot.key != current_ ? Qt::DashLine : Qt::SolidLine));
        painter.setBrush(spot.key == current_ ? p.selected : p.panel);
        painter.drawRoundedRect(box.adjusted(0, 1, 0, -1), 3, 3);
    }
    const bool typed = !board_.typed(spot.key).empty();
    painter.setPen(wrong ? p.fails : needed ? p.cannot_tell : typed ? p.accent : p.quiet);
    const bool cell = spot.name_wide > 0;
    write(painter, box.adjusted(4, 0, -4, 0), (cell ? Qt::AlignLeft : Qt::AlignHCenter) | Qt::AlignVCenter, text,
          cell    ? Type::text
          : typed ? Type::number
                  : Type::small,
          typed);
}

void BoardDrawing::paint_end(QPainter& painter) const {
    const Palette& p = context_.palette();
    const double radius = bore_radius(b()), half = radius * wall_share, main = b().mains.front().diameter.nominal / 2;
    const Qt::PenStyle style = board_.sketch().stand_ins.contains("deck_height") ? Qt::DashLine : Qt::SolidLine;
    for (const block::BankBlueprint& bank : b().banks) {
        const double h = bank.deck_height.nominal, a = bank.angle;
        const auto at = [&](double side, double up) {
            return end_.at(up * std::sin(a) + side * std::cos(a), up * std::cos(a) - side * std::sin(a));
        };
        const double foot = std::max(h - 3.6 * radius, h * 0.22);
        painter.setPen(QPen(p.deck.edge, 1.4, style));
        painter.setBrush(p.deck.bright);
        painter.drawPolygon(QPolygonF{at(-half, foot), at(-half, h), at(half, h), at(half, foot)});
        painter.setBrush(p.panel);
        painter.drawPolygon(QPolygonF{at(-radius, foot), at(-radius, h), at(radius, h), at(radius, foot)});
        painter.setPen(QPen(p.deck.edge, 4, style));
        painter.drawLine(at(-half, h), at(half, h));
        painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
        painter.drawLine(at(0, 0), at(0, h * 1.06));
    }
    painter.setPen(
        QPen(p.deck.edge, 3, board_.sketch().stand_ins.contains("main_size") ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(p.panel);
    painter.drawEllipse(end_.at(0, 0), main * end_.scale, main * end_.scale);
    if (b().cam && board_.relevant("cam")) {
        const double r = b().cam->bearings.empty() ? main * 0.6 : b().cam->bearings.front().diameter.nominal / 2;
        painter.setPen(QPen(p.deck.edge, 2, board_.sketch().stand_ins.contains("cam") ? Qt::DashLine : Qt::SolidLine));
        painter.drawEllipse(end_.at(b().cam->y, b().cam->z), r * end_.scale, r * end_.scale);
    }
    for (const block::HoleBlueprint& lifter : b().lifters) { // in their own planes, seen from the rear
        const double a = lifter.angle.value_or(0),
                     h = b().cam ? metrology::norm(metrology::Vec2{b().cam->y, b().cam->z}) : radius;
        const auto at = [&](double up) {
            return end_.at(up * std::sin(a) + lifter.v * std::cos(a), up * std::cos(a) - lifter.v * std::sin(a));
        };
        painter.setPen(QPen(p.deck.edge, std::max(1.0, lifter.diameter.nominal * end_.scale * 0.5)));
        painter.drawLine(at(h * 1.15), at(h * 1.5));
    }
    if (!board_.wrong("").empty()) {
        painter.setPen(p.fails);
        painter.setFont(font_of(Type::small));
        painter.drawText(QRectF(end_box_.left(), end_box_.bottom() - scaled(40), end_box_.width(), scaled(40)),
                         Qt::AlignLeft | Qt::AlignBottom | Qt::TextWordWrap, qt(board_.wrong("")));
    }
}

void BoardDrawing::paint_deck(QPainter& painter) const {
    const Palette& p = context_.palette();
    const block::BankBlueprint& right = bank();
    QPolygonF outline;
    for (const metrology::Vec2 corner : right.deck_outline)
        outline << deck_.at(corner.x, corner.y);
    const bool whole_deck = marked() == FeatureId{FeatureKind::deck, right.id, 0};
    painter.setPen(QPen(whole_deck ? p.accent : p.deck.edge, whole_deck ? 4 : 2,
                        right.outline_assumed ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(p.deck.bright);
    painter.drawPolygon(outline);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(deck_.at(0, 0), deck_.at(right.deck_outline[1].x, 0));
    const bool bores_stand_in =
        board_.sketch().stand_ins.contains("bore") || board_.sketch().stand_ins.contains("pitch");
    for (const auto* list : {&b().bores, &b().dowels})
        for (const block::HoleBlueprint& hole : *list) {
            if (hole.id.bank != right.id)
                continue;
            const double r = std::max(2.5, hole.diameter.nominal / 2 * deck_.scale);
            painter.setPen(QPen(marked() == hole.id ? p.accent : p.deck.edge, marked() == hole.id ? 4 : 2,
                                hole.place_assumed || bores_stand_in ? Qt::DashLine : Qt::SolidLine));
            painter.setBrush(p.panel);
            painter.drawEllipse(deck_.at(hole.u, hole.v), r, r);
            if (hole.id.kind != FeatureKind::bore)
                continue;
            painter.setPen(p.ink); // both numberings: ours from the front, the maker's
            const QRectF above(deck_.at(hole.u, hole.v) - QPointF(r, r * 0.8), QSizeF(2 * r, r * 0.6));
            const auto same = hole.cylinder.value_or(hole.id.number) == hole.id.number;
            painter.setFont(font_of(Type::small, true));
            QString both =
                same ? QString::number(hole.id.number) : tr("%1 · no. %2").arg(hole.id.number).arg(*hole.cylinder);
            if (painter.fontMetrics().horizontalAdvance(both) > above.width())
                both = QString::number(hole.cylinder.value_or(hole.id.number));
            painter.drawText(above, Qt::AlignCenter | Qt::TextDontClip, both);
        }
    painter.setPen(p.quiet);
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(end_box_.left(), end_box_.top(), end_box_.width(), scaled(20)), Qt::AlignLeft,
                     board_.engine().recipe.unit == block::Unit::mm ? tr("from the rear; numbers in mm")
                                                                    : tr("from the rear; numbers in inches"));
    painter.setPen(p.ink);
    painter.setFont(font_of(Type::small, true));
    painter.drawText(QRectF(deck_box_.left(), deck_box_.top(), deck_box_.width(), scaled(20)), Qt::AlignLeft,
                     b().banks.size() > 1 ? tr("%1 (B: the other bank)").arg(qt(wording::bank_name(right)))
                                          : qt(wording::bank_name(right)));
}

void BoardDrawing::paint_side(QPainter& painter) const {
    const Palette& p = context_.palette();
    const double radius = b().mains.front().diameter.nominal / 2;
    const double wall = std::min(9.0, b().mains.size() > 1 ? (b().mains[1].x - b().mains[0].x) * 0.16 : 9.0);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(side_.at(b().mains.front().x, 0) - QPointF(scaled(20), 0),
                     side_.at(b().mains.back().x, 0) + QPointF(scaled(20), 0));
    for (const block::HoleBlueprint& lifter : b().lifters)
        if (lifter.id.bank == bank().id) {
            painter.setPen(QPen(marked() == lifter.id ? p.accent : p.deck.edge, marked() == lifter.id ? 3 : 1.4));
            painter.setBrush(p.panel);
            painter.drawEllipse(lifter_place(lifter), scaled(4), scaled(4));
        }
    for (const block::MainBlueprint& main : b().mains) {
        painter.setPen(QPen(marked() == main.id ? p.accent : p.deck.edge, marked() == main.id ? 3 : 1.4));
        painter.setBrush(p.deck.iron_high);
        for (const double side : {1.0, -1.0})
            painter.drawRect(
                QRectF(side_.at(main.x - wall, side * radius), side_.at(main.x + wall, side * radius * 1.3))
                    .normalized());
        const QRectF name(side_.at(main.x, 0) - QPointF(scaled(12), scaled(10)), QSizeF(scaled(24), scaled(20)));
        painter.fillRect(name, p.panel);
        painter.setPen(p.ink);
        write(painter, name, Qt::AlignCenter, QString::number(main.id.number), Type::small);
    }
}

/// Beside the mains, where it stands along: its plane is none of the views'.
QPointF BoardDrawing::lifter_place(const block::HoleBlueprint& lifter) const {
    return side_.at(lifter.u, b().mains.front().diameter.nominal * 0.28);
}

void BoardDrawing::paint_crank(QPainter& painter) const {
    const Palette& p = context_.palette();
    const double h = b().banks.front().deck_height.nominal, r = bore_radius(b());
    const double stroke = h * 0.42, rod = h * 0.62, pin = stroke / 2 + rod;
    painter.setPen(QPen(p.deck.edge, 1.6));
    painter.setBrush(p.deck.bright);
    for (const double side : {-1.0, 1.0})
        painter.drawRect(QRectF(crank_.at(side * r, h), crank_.at(side * r * wall_share, h * 0.45)).normalized());
    painter.setBrush(p.deck.iron_high);
    painter.drawRect(QRectF(crank_.at(-r * 0.97, h * 0.995), crank_.at(r * 0.97, pin - 0.3 * r)).normalized());
    painter.setBrush(p.panel);
    painter.setPen(QPen(p.deck.edge, std::max(2.0, 0.2 * r * crank_.scale)));
    painter.drawLine(crank_.at(0, pin), crank_.at(0, stroke / 2));
    painter.setPen(QPen(p.deck.edge, 2));
    painter.drawEllipse(crank_.at(0, pin), 0.18 * r * crank_.scale, 0.18 * r * crank_.scale);
    painter.drawEllipse(crank_.at(0, stroke / 2), 0.3 * r * crank_.scale, 0.3 * r * crank_.scale);
    painter.drawEllipse(crank_.at(0, 0), 0.36 * r * crank_.scale, 0.36 * r * crank_.scale);
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(crank_.at(0, 0), stroke / 2 * crank_.scale, stroke / 2 * crank_.scale);
    painter.setPen(QPen(p.accent, 4));
    painter.drawLine(crank_.at(-1.5 * r, 1.02 * h), crank_.at(-1.05 * r, 1.02 * h));
    painter.drawLine(crank_.at(1.05 * r, 1.02 * h), crank_.at(1.5 * r, 1.02 * h));
}

/// A ring round what is asked about, as long as nobody has said why it is right.
void BoardDrawing::paint_questions(QPainter& painter) const {
    const Palette& p = context_.palette();
    const auto all = things();
    for (const planning::BoardQuestion& question : board_.questions()) {
        if (!question.why.empty())
            continue;
        for (const Thing& thing : all)
            if (thing.id == question.doubt.about || question.doubt.other == thing.id) {
                painter.setPen(QPen(p.cannot_tell, 3, Qt::DotLine));
                painter.setBrush(Qt::NoBrush);
                painter.drawEllipse(thing.where.adjusted(-4, -4, 4, 4));
            }
    }
}

} // namespace pallix::ui
