// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/engines/board_drawing.h"

#include "planning/common/usual_figures.h"
#include "wording/common/blueprint_words.h"
#include "wording/readings/readings.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;
using planning::Board;

namespace {

constexpr double number_wide = 136, name_share = 0.52, number_high = 22, cell_high = 26,
                 least_cell = 204;  // px at 100 %
constexpr double wall_share = 1.32; // of a bore's radius, half the width of its bank: nobody states it

/// Whose words are longer than a number.
bool is_wide(const std::string& key) {
    constexpr std::array keys{"name",           "texture_limits/rings",       "pistons/alloy",
                              "overhead_chain", "cylinder_plan/oversizes_mm", "engine_figures/overhead_chain"};
    return std::ranges::find(keys, key) != keys.end();
}

QRectF spot_at(QPointF middle) {
    const QSizeF size(scaled(number_wide), scaled(number_high));
    return {middle - QPointF(size.width() / 2, size.height() / 2), size};
}

double bore_radius(const block::Blueprint& b) {
    return b.bores.empty() ? 40 : b.bores.front().diameter.nominal / 2;
}

} // namespace

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

// ---- where things are ---------------------------------------------------------------------------------------------

/// Of millimetres with up growing (`mm.top()` is the lowest) into a box of the screen.
BoardDrawing::Map BoardDrawing::fit(const QRectF& box, const QRectF& mm) const {
    Map map;
    map.scale = std::max(0.01, std::min(box.width() / mm.width(), box.height() / mm.height()));
    map.origin = box.center() - map.scale * QPointF(mm.center().x(), -mm.center().y());
    return map;
}

/// A line beside what it measures, with a number in its middle. @param away to the left of the way, px at 100 %
void BoardDrawing::dimension(const std::string& key, QPointF from, QPointF to, double away) {
    const QPointF way = to - from;
    const double length = std::max(1.0, std::hypot(way.x(), way.y()));
    const QPointF along = way / length, aside = QPointF(along.y(), -along.x()) * scaled(1) * away;
    const QPointF a = from + aside, z = to + aside, tick = (along + QPointF(along.y(), -along.x())) * scaled(5);
    lines_.push_back({from, a + aside / std::max(1.0, std::abs(away)) * 4});
    lines_.push_back({to, z + aside / std::max(1.0, std::abs(away)) * 4});
    lines_.push_back({a, z});
    lines_.push_back({a - tick, a + tick});
    lines_.push_back({z - tick, z + tick});
    spots_.push_back({key, inside(spot_at((a + z) / 2))});
}

QRectF BoardDrawing::inside(QRectF box) const {
    box.moveLeft(std::clamp(box.left(), scaled(4) * 1.0, std::max(scaled(4) * 1.0, width() - box.width() - scaled(4))));
    return box;
}

void BoardDrawing::leader(const std::string& key, QPointF at, QPointF to) {
    lines_.push_back({at, to});
    spots_.push_back({key, inside(spot_at(to))});
}

void BoardDrawing::lay_out() {
    spots_.clear();
    lines_.clear();
    QRectF all = QRectF(rect()).adjusted(scaled(16), scaled(12), -scaled(16), -scaled(12));
    all.setSize(all.size().expandedTo(QSizeF(100, 100)));
    const auto rows = [&](std::size_t n) {
        const double columns = std::max(1.0, std::floor(all.width() / scaled(least_cell)));
        return std::ceil(static_cast<double>(n + 2) / columns) * scaled(cell_high); // the name takes two
    };
    if (sheet_ == Sheet::parts) {
        const double below = rows(planning::usual_figures().size() + 1); // the wide ones take two
        end_box_ = QRectF(all.left(), all.top(), all.width(), all.height() - below - scaled(10));
        lay_out_crank(end_box_);
        part_spots();
        cells_box_ = QRectF(all.left(), end_box_.bottom() + scaled(8), all.width(), all.bottom() - end_box_.bottom());
        return lay_out_cells(cells_box_, cells());
    }
    double below = rows(26);
    for (int round = 0; round < 2; ++round) { // what has no line of its own is only known once the lines are
        spots_.clear();
        lines_.clear();
        const double bottom = all.bottom() - below - scaled(10), split = all.left() + all.width() * 0.42;
        end_box_ = QRectF(all.left(), all.top(), split - all.left() - scaled(12), bottom - all.top());
        const double deck_high = (bottom - all.top()) * 0.62;
        deck_box_ = QRectF(split, all.top(), all.right() - split, deck_high);
        side_box_ = QRectF(split, all.top() + deck_high + scaled(8), all.right() - split,
                           bottom - all.top() - deck_high - scaled(8));
        lay_out_end(end_box_);
        lay_out_deck(deck_box_);
        lay_out_side(side_box_);
        below = rows(cells().size());
    }
    cells_box_ = QRectF(all.left(), all.bottom() - below, all.width(), below);
    part_spots();
    lay_out_cells(cells_box_, cells());
}

/// A number that would stand over another moves down.
void BoardDrawing::part_spots() {
    for (std::size_t i = 0; i < spots_.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (spots_[i].box.intersects(spots_[k].box)) {
                spots_[i].box.moveTop(spots_[k].box.bottom() + 1);
                k = 0;
            }
}

void BoardDrawing::lay_out_end(const QRectF& box) {
    QRectF room(-1, 0, 2, 1);
    const double half = bore_radius(b()) * wall_share, main = b().mains.front().diameter.nominal / 2;
    const auto add = [&room](double x, double up) { room = room.united(QRectF(x - 0.5, up - 0.5, 1, 1)); };
    for (const block::BankBlueprint& bank : b().banks)
        for (const double side : {-half, half}) {
            const double h = bank.deck_height.nominal, a = bank.angle;
            add(h * std::sin(a) + side * std::cos(a), h * std::cos(a) - side * std::sin(a));
        }
    add(-main * 1.6, -main * 1.8);
    add(main * 1.6, -main * 1.8);
    end_ = fit(box.adjusted(scaled(44), scaled(40), -scaled(64), -scaled(30)), room);
    const block::BankBlueprint& right = b().banks.front();
    const double a = right.angle, h = right.deck_height.nominal;
    const auto at = [&](double side, double up) {
        return end_.at(up * std::sin(a) + side * std::cos(a), up * std::cos(a) - side * std::sin(a));
    };
    dimension("deck_height", at(half, h), at(half, 0), 30);
    leader("main_size", end_.at(main * 0.7, -main * 0.7),
           end_.at(main * 0.7, -main * 0.7) + QPointF(scaled(70), scaled(26)));
    if (b().banks.size() > 1 && board_.relevant("angle")) {
        const double reach = h * 0.9;
        QPolygonF arc;
        for (int i = 0; i <= 20; ++i) {
            const double turn = b().banks.back().angle + (a - b().banks.back().angle) * i / 20;
            arc << end_.at(reach * std::sin(turn), reach * std::cos(turn));
        }
        lines_.push_back(arc);
        spots_.push_back({"angle", spot_at(arc[10])});
    }
    if (b().cam && board_.relevant("cam")) {
        const QPointF cam = end_.at(b().cam->y, b().cam->z);
        dimension("cam", end_.at(0, 0), cam, half * end_.scale / scaled(1) * 0.45 + 34);
        if (!b().cam->bearings.empty()) {
            const double r = b().cam->bearings.front().diameter.nominal / 2 * end_.scale;
            leader("cam_size", cam + QPointF(0, -r), cam + QPointF(0, -r - scaled(b().banks.size() > 1 ? 64 : 26)));
        }
    }
}

void BoardDrawing::lay_out_deck(const QRectF& box) {
    const block::BankBlueprint& right = bank();
    QRectF room(0, -1, 1, 2);
    for (const metrology::Vec2 corner : right.deck_outline)
        room = room.united(QRectF(corner.x - 0.5, corner.y - 0.5, 1, 1));
    deck_ = fit(box.adjusted(scaled(20), scaled(56), -scaled(76), -scaled(54)), room);
    std::vector<const block::HoleBlueprint*> bores, dowels;
    for (const block::HoleBlueprint& h : b().bores)
        if (h.id.bank == right.id)
            bores.push_back(&h);
    for (const block::HoleBlueprint& h : b().dowels)
        if (h.id.bank == right.id)
            dowels.push_back(&h);
    const double top = room.bottom(), bottom = room.top(); // mm, up grows
    if (!bores.empty()) {
        const block::HoleBlueprint &first = *bores.front(), &last = *bores.back();
        spots_.push_back({"bore", spot_at(deck_.at(first.u, first.v) + QPointF(0, scaled(4)))});
        if (bores.size() > 1)
            dimension("pitch", deck_.at(first.u, top), deck_.at(bores[1]->u, top), 22);
        dimension("first_bore", deck_.at(0, bottom), deck_.at(first.u, bottom), -22);
        if (board_.relevant("outline_ends"))
            dimension("outline_ends", deck_.at(last.u, bottom), deck_.at(room.right(), bottom), -22);
        if (board_.relevant("outline_side"))
            dimension("outline_side", deck_.at(room.right(), 0), deck_.at(room.right(), bottom), 40);
    }
    if (dowels.size() > 1 && board_.relevant("dowel_apart"))
        dimension("dowel_apart", deck_.at(dowels.front()->u, bottom), deck_.at(dowels[1]->u, bottom), -44);
}

void BoardDrawing::lay_out_side(const QRectF& box) {
    const auto& mains = b().mains;
    const double radius = mains.front().diameter.nominal / 2;
    side_ = fit(box.adjusted(scaled(60), scaled(34), -scaled(60), -scaled(34)),
                QRectF(std::min(0.0, mains.front().x), -radius * 1.5, std::max(1.0, mains.back().x), 3 * radius));
    if (mains.size() > 1)
        dimension("main_pitch", side_.at(mains[0].x, radius * 1.4), side_.at(mains[1].x, radius * 1.4), 16);
    leader("first_main", side_.at(mains.front().x, -radius * 1.3),
           side_.at(mains.front().x, -radius * 1.3) + QPointF(0, scaled(18)));
}

/// Crank, rod and piston under the deck, at the top of the stroke.
void BoardDrawing::lay_out_crank(const QRectF& box) {
    const double h = b().banks.front().deck_height.nominal, r = bore_radius(b());
    crank_ = fit(box.adjusted(scaled(20), scaled(30), -scaled(20), -scaled(24)),
                 QRectF(-3.2 * r, -0.45 * h, 6.4 * r, 1.5 * h));
    const double stroke = h * 0.42, rod = h * 0.62, pin = stroke / 2 + rod;
    dimension("engine_figures/stroke_mm", crank_.at(-1.7 * r, stroke / 2), crank_.at(-1.7 * r, -stroke / 2), -30);
    dimension("engine_figures/rod_mm", crank_.at(1.15 * r, pin), crank_.at(1.15 * r, stroke / 2), 40);
    dimension("engine_figures/pin_height_mm", crank_.at(1.15 * r, h), crank_.at(1.15 * r, pin), 40);
    leader("engine_figures/gasket_thickness_mm", crank_.at(1.5 * r, 1.02 * h), crank_.at(2.6 * r, 1.02 * h));
    leader("engine_figures/gasket_bore_mm", crank_.at(-1.2 * r, 1.02 * h), crank_.at(-2.3 * r, 1.02 * h));
    leader("pistons/clearance_mm", crank_.at(-r, 0.9 * h), crank_.at(-2.3 * r, 0.88 * h));
}

std::vector<std::string> BoardDrawing::cells() const {
    std::vector<std::string> keys;
    for (const std::string& key : Board::keys())
        if (Board::is_usual(key) == (sheet_ == Sheet::parts) && board_.relevant(key) && place_of(key).isNull())
            keys.push_back(key);
    if (sheet_ == Sheet::block && marked())
        for (const std::string& own : Board::keys_of(*marked()))
            keys.push_back(own);
    return keys;
}

void BoardDrawing::lay_out_cells(const QRectF& box, const std::vector<std::string>& keys) {
    const double columns = std::max(1.0, std::floor(box.width() / scaled(least_cell))), wide = box.width() / columns;
    double at = 0; // cells so far; a name takes two
    for (const std::string& key : keys) {
        double column = std::fmod(at, columns), row = std::floor(at / columns);
        const bool wider = is_wide(key) && columns > 1;
        if (wider && column + 2 > columns) { // not over the edge
            at += 1;
            column = 0;
            row += 1;
        }
        at += wider ? 2 : 1;
        spots_.push_back(
            {key,
             QRectF(box.left() + column * wide + wide * name_share, box.top() + row * scaled(cell_high) + scaled(2),
                    wide * (1 - name_share + (wider ? 1 : 0)) - scaled(10), scaled(cell_high) - scaled(3)),
             wide * name_share - scaled(8)});
    }
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
    painter.setPen(QPen(p.deck.edge, 2, right.outline_assumed ? Qt::DashLine : Qt::SolidLine));
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
