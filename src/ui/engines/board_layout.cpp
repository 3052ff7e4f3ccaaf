// SPDX-License-Identifier: GPL-3.0-or-later
// Where the views of the drawing board lie, and the numbers on them.
#include "ui/engines/board_drawing.h"

#include "planning/common/usual_figures.h"
#include "ui/engines/board_measures.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {

using planning::Board;

namespace {

constexpr double number_wide = 136, name_share = 0.52, number_high = 22, cell_high = 26,
                 least_cell = 204; // px at 100 %

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

} // namespace

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

} // namespace pallix::ui
