// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/block/block_drawing.h"

#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;
using planning::Face;
using planning::StageMark;

namespace {

constexpr double skirt = 0.9;  // of the deck's height, how far the block reaches below the crankshaft: not measured
constexpr double metal = 1.32; // of a bore's radius, half the width of its bank: not measured
constexpr double tall = 1.7;   // of a bore's diameter, how long it is drawn: not measured

/// How far a bank's deck lies from the crankshaft, mm.
double height_of(const block::BankBlueprint& bank) {
    return bank.deck_height.nominal;
}

double bore_radius(const block::Blueprint& b, const std::string& bank) {
    double radius = 0;
    for (const block::HoleBlueprint& bore : b.bores)
        if (bore.id.bank == bank)
            radius = std::max(radius, bore.diameter.nominal / 2);
    return radius > 0 ? radius : 40;
}

struct Box {
    double left = 1e9, right = -1e9, top = -1e9, bottom = 1e9; // mm, top is up
    void add(double x, double up) {
        left = std::min(left, x);
        right = std::max(right, x);
        top = std::max(top, up);
        bottom = std::min(bottom, up);
    }
};

} // namespace

BlockDrawing::BlockDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("block"), tr("the block"), parent) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("Click a feature to go to its page; arrow keys go from one to the next, Enter goes there; hold B for "
                  "the block as found; T shows the table"));
}

void BlockDrawing::refresh() {
    now_ = planning::faces_of(context_.session.state(), context_.session.assessment());
    found_for_.reset();
    update();
}

void BlockDrawing::show_as_found(bool found) {
    if (found == as_found_)
        return;
    as_found_ = found;
    const auto& entries = context_.session.entries();
    if (found && found_for_ != entries.size()) {
        const block::Folded state = block::fold(planning::entries_as_found(entries));
        found_ = planning::faces_of(state, planning::assess(state));
        found_for_ = entries.size();
    }
    update();
}

const Face* BlockDrawing::face(const FeatureId& id) const {
    const auto found = std::ranges::find(faces(), id, &Face::id);
    return found == faces().end() ? nullptr : &*found;
}

QString BlockDrawing::name_of(const FeatureId& id) const {
    return qt(wording::feature_words(*intake_of(context_.session.state()).blueprint, id));
}

QString BlockDrawing::number_of(const Face& face) const {
    const auto l = context_.lengths();
    if (!face.what)
        return {};
    switch (*face.what) {
    case planning::FaceNumber::size:
    case planning::FaceNumber::height:
        return qt(l.plain(face.number));
    case planning::FaceNumber::over:
        return qt(l.side(face.number, "over", "under"));
    case planning::FaceNumber::offline:
        return qt(l.side(face.number, "up", "down"));
    case planning::FaceNumber::left:
        return qt(l.plain(face.number));
    }
    return {};
}

QString BlockDrawing::words_of(const Face& face) const {
    QString words = face.mark == StageMark::open      ? tr("not measured")
                    : face.mark == StageMark::current ? tr("to be worked on")
                    : face.mark == StageMark::stale   ? tr("to be measured again")
                    : face.mark == StageMark::done    ? tr("measured")
                                                      : qt(wording::stage_word(face.mark));
    if (const QString number = number_of(face); !number.isEmpty())
        words += (face.what == planning::FaceNumber::left ? tr(", %1 to go") : tr(", %1")).arg(number);
    return face.decides ? words + tr(", decides") : words;
}

// ---- where things are ---------------------------------------------------------------------------------------------

BlockDrawing::Panels BlockDrawing::panels() const {
    Panels p;
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    const QRectF all = QRectF(rect()).adjusted(14, 12, -14, -12);
    const double high = stages_height(all.width());
    p.stages = QRectF(all.left(), all.bottom() - high, all.width(), high);
    const double bottom = p.stages.top() - 10, split = all.left() + all.width() * 0.5;
    p.end = QRectF(all.left(), all.top(), split - all.left() - 8, bottom - all.top());
    const double side = std::min((bottom - all.top()) * 0.27, scaled(150) * 1.0);
    p.side = QRectF(split, all.top(), all.right() - split, side);
    const double each = (bottom - p.side.bottom() - 8) / static_cast<double>(blueprint.banks.size());
    for (std::size_t i = 0; i < blueprint.banks.size(); ++i)
        p.decks.emplace_back(split, p.side.bottom() + 8 + each * static_cast<double>(i), all.right() - split, each - 8);
    return p;
}

BlockDrawing::Map BlockDrawing::end_map(const QRectF& box) const {
    const auto& b = *intake_of(context_.session.state()).blueprint;
    Box room;
    for (const block::BankBlueprint& bank : b.banks) {
        const double half = bore_radius(b, bank.id) * metal, h = height_of(bank), a = bank.angle;
        for (const double side : {-half, half})
            for (const double up : {0.0, h})
                room.add(up * std::sin(a) + side * std::cos(a), up * std::cos(a) - side * std::sin(a));
        room.add(0, -h * skirt * 0.5);
    }
    const QRectF inner = box.adjusted(scaled(10), scaled(64), -scaled(10), -scaled(54)); // for the words round it
    const double scale = std::min(inner.width() / (room.right - room.left), inner.height() / (room.top - room.bottom));
    Map map{{}, scale};
    map.origin = inner.center() - scale * QPointF((room.left + room.right) / 2, -(room.top + room.bottom) / 2);
    return map;
}

BlockDrawing::Map BlockDrawing::deck_map(const QRectF& box, const std::string& bank) const {
    const auto& b = *intake_of(context_.session.state()).blueprint;
    Box room;
    for (const metrology::Vec2 corner : b.bank(bank)->deck_outline)
        room.add(corner.x, corner.y);
    const QRectF inner = box.adjusted(8, scaled(26), -8, -6);
    const double scale = std::min(inner.width() / std::max(1.0, room.right - room.left),
                                  inner.height() / std::max(1.0, room.top - room.bottom));
    Map map{{}, scale};
    map.origin = inner.center() - scale * QPointF((room.left + room.right) / 2, -(room.top + room.bottom) / 2);
    return map;
}

std::vector<Drawing::Thing> BlockDrawing::things() const {
    std::vector<Thing> all;
    const auto& state = context_.session.state();
    if (!context_.session.has_job() || !intake_of(state).blueprint)
        return all;
    const auto& b = *intake_of(state).blueprint;
    const Panels p = panels();
    const Map end = end_map(p.end);
    const auto add = [&](const FeatureId& id, const QRectF& where) {
        if (const Face* f = face(id))
            all.push_back({id, where, name_of(id), words_of(*f)});
    };
    const auto round = [](QPointF middle, double radius) {
        return QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius);
    };
    const double column = p.side.width() / std::max<double>(1, static_cast<double>(b.mains.size()));
    for (std::size_t i = 0; i < b.mains.size(); ++i)
        add(b.mains[i].id,
            QRectF(p.side.left() + column * static_cast<double>(i), p.side.top(), column, p.side.height()));
    for (std::size_t i = 0; i < b.banks.size(); ++i) {
        const std::string& bank = b.banks[i].id;
        const Map map = deck_map(p.decks[i], bank);
        for (const block::HoleBlueprint& bore : b.bores)
            if (bore.id.bank == bank)
                add(bore.id, round(map.at(bore.u, bore.v), bore.diameter.nominal / 2 * map.scale));
        add({FeatureKind::deck, bank, 0}, p.decks[i]); // behind its bores
    }
    for (const block::HoleBlueprint& lifter : b.lifters) {
        const block::BankBlueprint& bank = *b.bank(lifter.id.bank);
        const double a = lifter.angle.value_or(bank.angle), h = b.cam ? b.cam->z : height_of(bank) * 0.5;
        const double reach = lifter.diameter.nominal * 1.6;
        const QPointF foot = end.at((b.cam ? b.cam->y : 0) + reach * std::sin(a), h + reach * std::cos(a));
        add(lifter.id, round(foot, scaled(9)));
    }
    return all;
}

// ---- painting -----------------------------------------------------------------------------------------------------

void BlockDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    if (!context_.session.has_job() || !intake_of(context_.session.state()).blueprint)
        return paint_empty(painter, tr("The blueprint cannot be read: there is no block to draw."));
    const auto& b = *intake_of(context_.session.state()).blueprint;
    const Panels p = panels();
    paint_end(painter, p.end);
    paint_side(painter, p.side);
    for (std::size_t i = 0; i < b.banks.size(); ++i)
        paint_deck(painter, p.decks[i], b.banks[i].id);
    paint_stages(painter, p.stages);
    paint_focus(painter);
}

/// Tone and stroke by state: what meets is drawn twice, what fails is hatched at its ends, what is to be worked on is
/// thick, what nobody knows thin.
void BlockDrawing::set_line(QPainter& painter, const Face* f, double width) const {
    const Palette& p = context_.palette();
    const StageMark mark = f ? f->mark : StageMark::open;
    QPen pen(mark == StageMark::open || mark == StageMark::done ? p.deck.edge : mark_colour(mark, p), width);
    if (mark == StageMark::open)
        pen.setWidthF(1.2);
    if (mark == StageMark::stale || mark == StageMark::cannot_tell)
        pen.setStyle(Qt::DashLine);
    pen.setCapStyle(Qt::FlatCap);
    painter.setPen(pen);
}

void BlockDrawing::paint_end(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto& b = *intake_of(context_.session.state()).blueprint;
    const Map map = end_map(box);
    double deepest = 0, half_pan = 0;
    for (const block::BankBlueprint& bank : b.banks) {
        deepest = std::max(deepest, height_of(bank) * skirt * 0.5);
        half_pan = std::max(half_pan, height_of(bank) * 0.5);
    }
    const double main = b.mains.empty() ? 30 : b.mains.front().diameter.nominal / 2;
    painter.setPen(QPen(p.deck.edge, 1.4)); // the crankcase
    painter.setBrush(p.deck.bright);
    painter.drawPolygon(QPolygonF{map.at(-half_pan * 0.86, main * 1.5), map.at(half_pan * 0.86, main * 1.5),
                                  map.at(half_pan, -deepest), map.at(-half_pan, -deepest)});
    for (const block::BankBlueprint& bank : b.banks)
        paint_bank(painter, map, bank.id);
    if (b.cam) {
        const double r = b.cam->bearings.empty() ? 25 : b.cam->bearings.front().diameter.nominal / 2;
        painter.setPen(QPen(p.deck.edge, 1.4));
        painter.setBrush(p.panel);
        painter.drawEllipse(map.at(b.cam->y, b.cam->z), r * map.scale, r * map.scale);
    }
    for (const Thing& thing : things())
        if (thing.id.kind == FeatureKind::lifter) {
            set_line(painter, face(thing.id), 2.4);
            painter.setBrush(marked() == thing.id ? p.selected : p.panel);
            painter.drawEllipse(thing.where.adjusted(2, 2, -2, -2));
        }
    // The worst of the mains stands for the tunnel.
    const Face* worst = nullptr;
    const auto weight = [](const Face& f) {
        return (f.decides ? 10 : 0) + (f.mark == StageMark::fails         ? 5
                                       : f.mark == StageMark::stale       ? 4
                                       : f.mark == StageMark::cannot_tell ? 3
                                       : f.mark == StageMark::open        ? 2
                                                                          : 1);
    };
    for (const Face& f : faces())
        if (f.id.kind == FeatureKind::main && (!worst || weight(f) > weight(*worst)))
            worst = &f;
    set_line(painter, worst, 4);
    painter.setBrush(p.panel);
    painter.drawEllipse(map.at(0, 0), main * map.scale, main * map.scale);
    if (worst) {
        painter.setFont(font_of(Type::number, true));
        painter.setPen(p.ink);
        painter.drawText(QRectF(map.at(0, 0) - QPointF(90, scaled(13)), QSizeF(180, scaled(26))),
                         Qt::AlignCenter | Qt::TextDontClip, number_of(*worst));
    }
    paint_bank_words(painter, box);
    const auto& a = context_.session.assessment();
    const QRectF below(box.left(), map.at(0, -deepest).y() + 6, box.width(), scaled(26));
    if (a.tunnel && !as_found_ && tunnel_of(context_.session.state()).latest) {
        painter.setPen(mark_colour(mark_of(a.tunnel->straightness), p));
        write(painter, below, Qt::AlignCenter,
              tr("tunnel straight within %1").arg(qt(context_.lengths().with_unit(a.tunnel->straightness_value))),
              Type::number);
    } else if (worst) {
        painter.setPen(mark_colour(worst->mark, p));
        write(painter, below, Qt::AlignCenter, tr("tunnel: %1").arg(words_of(*worst)), Type::number);
    }
}

void BlockDrawing::paint_bank(QPainter& painter, const Map& map, const std::string& bank_id) {
    const Palette& p = context_.palette();
    const auto& b = *intake_of(context_.session.state()).blueprint;
    const block::BankBlueprint& bank = *b.bank(bank_id);
    const double radius = bore_radius(b, bank_id), half = radius * metal, h = height_of(bank), a = bank.angle;
    const auto at = [&](double side, double up) {
        return map.at(up * std::sin(a) + side * std::cos(a), up * std::cos(a) - side * std::sin(a));
    };
    const double foot = std::max(h - 2 * radius * tall - radius * 0.6, h * 0.2), bottom = h - 2 * radius * tall;
    painter.setPen(QPen(p.deck.edge, 1.4));
    painter.setBrush(p.deck.bright);
    painter.drawPolygon(QPolygonF{at(-half, foot), at(-half, h), at(half, h), at(half, foot)});
    painter.setBrush(p.panel);
    painter.drawPolygon(QPolygonF{at(-radius, std::max(bottom, h * 0.25)), at(-radius, h), at(radius, h),
                                  at(radius, std::max(bottom, h * 0.25))});
    const Face* deck = face({FeatureKind::deck, bank_id, 0});
    set_line(painter, deck, 5);
    painter.drawLine(at(-half, h), at(half, h));
    if (deck && deck->mark == StageMark::meets) // drawn twice
        painter.drawLine(at(-half, h + 7 / map.scale), at(half, h + 7 / map.scale));
    if (deck && deck->mark == StageMark::fails)
        for (const double side : {-half, half})
            painter.drawLine(at(side, h - 9 / map.scale), at(side, h + 9 / map.scale));
}

/// What of each bank is to be known first, above it.
void BlockDrawing::paint_bank_words(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto& b = *intake_of(context_.session.state()).blueprint;
    std::vector<const block::BankBlueprint*> banks;
    for (const auto& bank : b.banks)
        banks.push_back(&bank);
    std::ranges::sort(banks, {}, [](const auto* bank) { return bank->angle; }); // left to right, seen from the rear
    const double column = box.width() / static_cast<double>(banks.size());
    for (std::size_t i = 0; i < banks.size(); ++i) {
        const Face* deck = face({FeatureKind::deck, banks[i]->id, 0});
        if (!deck)
            continue;
        const QRectF cell(box.left() + column * static_cast<double>(i), box.top(),
                          column - (i > 0 ? scaled(14) : scaled(6)), scaled(28));
        const auto side = banks.size() == 1 ? Qt::AlignHCenter : i == 0 ? Qt::AlignLeft : Qt::AlignRight;
        painter.setPen(mark_colour(deck->mark, p));
        const QString number = number_of(*deck);
        const QString words =
            deck->mark == StageMark::current && deck->what
                ? tr("%1 to go").arg(qt(context_.lengths().with_unit(deck->number)))
            : deck->mark == StageMark::open
                ? tr("not measured")
                : number + QLatin1Char(' ') +
                      (deck->mark == StageMark::done ? QString() : qt(wording::stage_word(deck->mark)));
        write(painter, cell, side | Qt::AlignVCenter, words, Type::title, true);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(cell.translated(0, scaled(24)), side | Qt::AlignVCenter, qt(wording::bank_name(*banks[i])));
    }
    QString foot = as_found_ ? tr("as found · seen from the rear") : tr("seen from the rear · hold B for as found");
    painter.setPen(p.quiet);
    if (std::ranges::any_of(faces(), [](const Face& f) { return f.what == planning::FaceNumber::over; })) {
        const QString sign = tr("+ over nominal"); // of the cylinders; beside it where there is room
        painter.setFont(font_of(Type::small));
        const QString both = foot + QStringLiteral(" · ") + sign;
        if (painter.fontMetrics().horizontalAdvance(both) < box.width())
            foot = both;
        else
            write(painter, QRectF(box.left(), box.bottom() - scaled(38), box.width(), scaled(18)), Qt::AlignLeft, sign,
                  Type::small);
    }
    write(painter, QRectF(box.left(), box.bottom() - scaled(20), box.width(), scaled(20)), Qt::AlignLeft, foot,
          Type::small);
}

// ---- keys, table --------------------------------------------------------------------------------------------------

/// Pointing leads on at once; by the keys one looks first.
void BlockDrawing::mouseReleaseEvent(QMouseEvent* event) {
    if (thing_at(event->position()))
        Q_EMIT entered();
}

void BlockDrawing::press(std::size_t part) {
    Drawing::press(part);
    Q_EMIT entered();
}

void BlockDrawing::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_B && event->modifiers() == Qt::NoModifier)
        return show_as_found(true);
    Drawing::keyPressEvent(event);
}

void BlockDrawing::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_B && !event->isAutoRepeat())
        return show_as_found(false);
    Drawing::keyReleaseEvent(event);
}

void BlockDrawing::focusOutEvent(QFocusEvent* event) {
    show_as_found(false); // the key is let go elsewhere
    Drawing::focusOutEvent(event);
}

TwinTable BlockDrawing::table() const {
    TwinTable t = TwinTable::headed(tr("feature|stands|number"), 2);
    for (const Face& f : now_) {
        t.rows.push_back({name_of(f.id), words_of(f), number_of(f)});
        t.ids.push_back(f.id);
    }
    return t;
}

} // namespace pallix::ui
