// SPDX-License-Identifier: GPL-3.0-or-later
// What stands beside the block from the rear: the tunnel from the side, the decks unfolded, how the work stands.
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "ui/block/block_drawing.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"
#include "wording/steps/step_words.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;
using planning::Face;
using planning::StageMark;

namespace {

constexpr double least_stages_high = 78; // px at 100 %
constexpr int words_flags = Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap;

} // namespace

/// How high each main stands off the line, mm; nothing where nobody knows.
std::optional<std::vector<double>> BlockDrawing::mains_off_line() const {
    const auto& state = context_.session.state();
    const auto& b = *intake_of(state).blueprint;
    std::vector<double> off(b.mains.size(), 0);
    bool known = false;
    if (const auto& log = as_found_ ? tunnel_of(state).as_found : tunnel_of(state).latest) {
        std::vector<int> ends(b.mains.size(), 0);
        for (const block::MainResult& m : log->evaluation.mains)
            for (std::size_t i = 0; i < b.mains.size(); ++i)
                if (b.mains[i].id == m.id) {
                    off[i] += m.centre.z;
                    ++ends[i];
                    known = true;
                }
        for (std::size_t i = 0; i < off.size(); ++i)
            off[i] /= std::max(1, ends[i]);
    } else if (const auto& saddles = context_.session.assessment().gauge.saddles; saddles && !as_found_) {
        for (const auto& s : saddles->saddles)
            for (std::size_t i = 0; i < b.mains.size(); ++i)
                if (b.mains[i].id == s.main)
                    off[i] = s.off, known = true;
    }
    return known ? std::optional(std::move(off)) : std::nullopt;
}

void BlockDrawing::paint_side(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const auto& state = context_.session.state();
    const auto& b = *intake_of(state).blueprint;
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(box.left(), box.top() - 2, box.width(), scaled(20)), Qt::AlignLeft,
                     tr("Tunnel from the side"));
    const QRectF room = box.adjusted(0, scaled(22), 0, -scaled(24));
    const double axis = room.center().y(), column = room.width() / static_cast<double>(b.mains.size());
    const std::optional<std::vector<double>> known = mains_off_line();
    const std::vector<double> off = known.value_or(std::vector<double>(b.mains.size(), 0));
    double largest = 0.005; // mm
    for (const double o : off)
        largest = std::max(largest, std::abs(o));
    const double px = room.height() * 0.22 / largest, half = room.height() * 0.26, wall = std::min(16.0, column * 0.2);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(room.left(), axis), QPointF(room.right(), axis));
    QPolygonF line;
    for (std::size_t i = 0; i < b.mains.size(); ++i) {
        const double x = room.left() + column * (static_cast<double>(i) + 0.5), y = axis - off[i] * px;
        const Face* f = face(b.mains[i].id);
        if (marked() == b.mains[i].id)
            paint_frame(painter,
                        QRectF(x - column / 2 + 2, box.top() + scaled(20), column - 4, box.height() - scaled(20)),
                        true);
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.deck.iron_high);
        painter.drawRect(QRectF(x - wall, y - half - 12, 2 * wall, 12));
        painter.drawRect(QRectF(x - wall, y + half, 2 * wall, 12));
        set_line(painter, f, 3);
        painter.drawLine(QPointF(x - wall, y - half), QPointF(x + wall, y - half));
        painter.drawLine(QPointF(x - wall, y + half), QPointF(x + wall, y + half));
        line << QPointF(x, y);
        if (!f)
            continue;
        paint_mark(painter, QRectF(x - column / 2 + 4, box.bottom() - scaled(20), scaled(14), scaled(14)), f->mark, p);
        painter.setPen(f->decides ? p.accent : p.ink);
        write(painter, QRectF(x - column / 2 + scaled(22), box.bottom() - scaled(22), column - scaled(26), scaled(20)),
              Qt::AlignLeft | Qt::AlignVCenter, f->what ? number_of(*f) : QString::number(b.mains[i].id.number),
              Type::small, f->decides);
    }
    if (!known)
        return;
    painter.setPen(QPen(p.accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    painter.setBrush(p.accent);
    for (const QPointF at : line)
        painter.drawEllipse(at, 4, 4);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.left(), box.top() - 2, box.width(), scaled(20)), Qt::AlignRight,
                     tr("worst %1")
                         .arg(qt(context_.lengths().side(
                             *std::ranges::max_element(off, {}, [](double o) { return std::abs(o); }), "up", "down"))));
}

void BlockDrawing::paint_deck(QPainter& painter, const QRectF& box, const std::string& bank_id) {
    const Palette& p = context_.palette();
    const auto& state = context_.session.state();
    const auto& b = *intake_of(state).blueprint;
    const block::BankBlueprint& bank = *b.bank(bank_id);
    const Map map = deck_map(box, bank_id);
    const Face* deck = face({FeatureKind::deck, bank_id, 0});
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    const QRectF head(box.left(), box.top(), box.width(), scaled(22));
    painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, qt(wording::bank_name(bank)));
    if (deck) {
        painter.setPen(mark_colour(deck->mark, p));
        const bool goes = deck->mark == StageMark::current && deck->what; // the mark says that it is worked on
        const double name = painter.fontMetrics().horizontalAdvance(qt(wording::bank_name(bank))) + scaled(8);
        write(painter, head.adjusted(name, 0, -scaled(20), 0), Qt::AlignRight | Qt::AlignVCenter,
              goes ? (deck->decides ? tr("%1 to go, decides") : tr("%1 to go")).arg(number_of(*deck)) : words_of(*deck),
              Type::small, true);
        paint_mark(painter, QRectF(head.right() - scaled(16), head.top() + scaled(4), scaled(14), scaled(14)),
                   deck->mark, p);
    }
    QPolygonF outline;
    for (const metrology::Vec2 corner : bank.deck_outline)
        outline << map.at(corner.x, corner.y);
    set_line(painter, deck, 2.4);
    painter.setBrush(marked() == FeatureId{FeatureKind::deck, bank_id, 0} ? p.selected : p.deck.bright);
    painter.drawPolygon(outline);
    for (const block::HoleBlueprint& bore : b.bores)
        if (const Face* f = bore.id.bank == bank_id ? face(bore.id) : nullptr)
            paint_hole(painter, *f, map.at(bore.u, bore.v), bore.diameter.nominal / 2 * map.scale,
                       QString::number(bore.cylinder.value_or(bore.id.number)));
    for (const block::KnownFlaw& flaw : decks_of(state).flaws) {
        if (flaw.flaw.bank != bank_id || flaw.flaw.path.empty())
            continue;
        QPolygonF run;
        for (const metrology::Vec2 at : flaw.flaw.path)
            run << map.at(at.x, at.y);
        painter.setPen(QPen(flaw.decided ? p.cannot_tell : p.fails, 3));
        run.size() > 1 ? painter.drawPolyline(run) : painter.drawEllipse(run.first(), 4, 4);
    }
    // The place that decides how much comes off.
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_id);
    if (!progress || as_found_ || progress->corners.empty() || !deck || deck->mark != StageMark::current)
        return;
    const auto lowest = std::ranges::min_element(progress->corners, {}, &planning::CornerHeight::height);
    painter.setPen(QPen(p.panel, 2));
    painter.setBrush(p.accent);
    painter.drawEllipse(map.at(lowest->place.x, lowest->place.y), 7, 7);
}

void BlockDrawing::paint_hole(QPainter& painter, const Face& f, QPointF middle, double radius, const QString& name) {
    const Palette& p = context_.palette();
    set_line(painter, &f, f.mark == StageMark::done ? 1.6 : 3);
    painter.setBrush(marked() == f.id ? p.selected : p.panel);
    painter.drawEllipse(middle, radius, radius);
    const double line = std::min(scaled(22) * 1.0, radius * 0.8);
    painter.setFont(font_of(Type::number, true));
    painter.setPen(f.decides ? p.accent : p.ink);
    painter.drawText(QRectF(middle.x() - radius, middle.y() - line, 2 * radius, line),
                     Qt::AlignCenter | Qt::TextDontClip, name);
    painter.setPen(p.quiet);
    write(painter, QRectF(middle.x() - radius, middle.y(), 2 * radius, line), Qt::AlignCenter | Qt::TextDontClip,
          f.what == planning::FaceNumber::over ? qt(context_.lengths().with_sign(f.number)) : number_of(f),
          Type::small);
    if (f.mark == StageMark::fails || f.mark == StageMark::meets) {
        const double mark = scaled(12);
        paint_mark(painter, QRectF(middle.x() - mark / 2, middle.y() + line, mark, mark), f.mark, p);
    }
}

std::vector<BlockDrawing::StageCell> BlockDrawing::stage_cells(double width) const {
    const auto& a = context_.session.assessment();
    std::vector<StageCell> cells;
    for (const auto stage :
         {planning::Stage::tunnel, planning::Stage::decks, planning::Stage::cylinders, planning::Stage::lifters}) {
        const StageMark mark = a.stages[static_cast<std::size_t>(stage)].mark;
        const planning::Step* next = a.steps.of(stage);
        if (mark != StageMark::open || next)
            cells.push_back({qt(wording::stage_name(stage)),
                             mark,
                             next ? qt(wording::step_headline(context_.session.state(), *next, context_.lengths()))
                                  : qt(wording::stage_word(mark)),
                             {},
                             {}});
    }
    const double column = width / static_cast<double>(std::max<std::size_t>(cells.size(), 1));
    const QFontMetricsF metrics(font_of(Type::small));
    for (std::size_t i = 0; i < cells.size(); ++i) {
        cells[i].name = {column * static_cast<double>(i) + scaled(24), 8, column - 10 - scaled(24), scaled(24) * 1.0};
        cells[i].words = metrics.boundingRect(QRectF(cells[i].name.bottomLeft(), QSizeF(cells[i].name.width(), 1e4)),
                                              words_flags, cells[i].text);
    }
    return cells;
}

double BlockDrawing::stages_height(double width) const {
    double height = scaled(least_stages_high);
    for (const StageCell& cell : stage_cells(width))
        height = std::max(height, std::ceil(cell.words.bottom()));
    return height;
}

/// How the parts of the work stand and what each is at.
void BlockDrawing::paint_stages(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(box.topLeft(), box.topRight());
    for (const StageCell& cell : stage_cells(box.width())) {
        const QRectF name = cell.name.translated(box.topLeft());
        paint_mark(painter, QRectF(name.left() - scaled(24), name.top() + scaled(4), scaled(16), scaled(16)), cell.mark,
                   p);
        painter.setFont(font_of(Type::number, true));
        painter.setPen(p.ink);
        painter.drawText(name, Qt::AlignLeft | Qt::AlignVCenter, cell.stage);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(name.left(), name.bottom(), name.width(), cell.words.height() + 1), words_flags,
                         cell.text);
    }
}

} // namespace pallix::ui
