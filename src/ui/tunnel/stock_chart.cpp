// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/stock_chart.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_work.h"
#include "wording/readings/readings.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

StockChart::StockChart(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("stock-chart"), tr("stock left, main by main"), parent) {
    setFocusPolicy(Qt::StrongFocus);
}

/// The places of each main, in the order of the block.
std::map<int, std::vector<const planning::StockLeft*>> StockChart::mains() const {
    std::map<int, std::vector<const planning::StockLeft*>> all;
    if (context_.session.has_job() && intake_of(context_.session.state()).blueprint)
        for (const planning::StockLeft& s : context_.session.tunnel_work().board)
            all[s.at.feature.number].push_back(&s);
    return all;
}

QRectF StockChart::room() const {
    return QRectF(rect()).adjusted(scaled(64), scaled(44), -16, -scaled(62));
}

std::vector<Drawing::Thing> StockChart::things() const {
    std::vector<Thing> all;
    const auto by_main = mains();
    const double column = room().width() / std::max<double>(1, static_cast<double>(by_main.size()));
    for (const auto& [number, places] : by_main) {
        double worst = 0;
        for (const auto* place : places)
            worst = std::max(worst, place->left);
        all.push_back({places.front()->at.feature,
                       QRectF(room().left() + column * static_cast<double>(all.size()), room().top(), column,
                              height() - room().top() - 8),
                       tr("main %1").arg(number), tr("%1 left").arg(qt(context_.lengths().with_unit(worst)))});
    }
    return all;
}

TwinTable StockChart::table() const {
    TwinTable t = TwinTable::headed(tr("place|size|left|stands"), 1);
    const auto l = context_.lengths();
    for (const auto& [number, places] : mains())
        for (const auto* s : places) {
            t.rows.push_back({qt(wording::place_of_reading(*intake_of(context_.session.state()).blueprint, s->at)),
                              qt(l.plain(s->size)), qt(l.side(s->left, "to go", "over")),
                              s->stale              ? tr("measure again")
                              : s->to_largest < 0   ? tr("too large")
                              : s->to_smallest <= 0 ? tr("in size")
                                                    : tr("to go")});
            t.ids.push_back(s->at.feature);
        }
    return t;
}

void StockChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const auto& board = context_.session.tunnel_work().board;
    if (board.empty())
        return paint_empty(painter, tr("No size of a main was read yet: Ctrl+R, three ways at both ends."));
    double up = 0.004, down = 0.002; // mm
    for (const planning::StockLeft& s : board) {
        up = std::max({up, s.left, s.left - s.to_smallest});
        down = std::max({down, -s.left, s.to_largest - s.left});
    }
    const auto by_main = mains();
    const QRectF room = this->room();
    for (const Thing& thing : things())
        paint_frame(painter, thing.where, marked() == thing.id);
    const double scale = room.height() / (up + down), zero = room.top() + up * scale;
    const auto l = context_.lengths();
    painter.setPen(QPen(p.accent, 1.6)); // the middle of the window
    painter.drawLine(QPointF(room.left() - 6, zero), QPointF(room.right(), zero));
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(8, zero - 11, room.left() - 20, 22), Qt::AlignRight | Qt::AlignVCenter, tr("aim"));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(16, 10, width() - 32, scaled(20)), Qt::AlignLeft, tr("stock left on diameter"));
    const double column = room.width() / static_cast<double>(by_main.size());
    int i = 0;
    for (const auto& [number, places] : by_main) {
        const double left = room.left() + column * i++ + 8, cell = (column - 16) / static_cast<double>(places.size());
        // The window: what is in size.
        const planning::StockLeft& any = *places.front();
        const double top = zero - (any.left - any.to_smallest) * scale,
                     bottom = zero + (any.to_largest - any.left) * scale;
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.selected);
        painter.drawRect(QRectF(left, top, column - 16, bottom - top));
        double worst = 0;
        for (std::size_t k = 0; k < places.size(); ++k) {
            const planning::StockLeft& s = *places[k];
            const double y = zero - s.left * scale;
            const bool large = s.to_largest < 0, in_size = !large && s.to_smallest <= 0;
            const QColor colour = s.stale ? p.hairline : large ? p.fails : in_size ? p.meets : p.deck.iron_high;
            const QRectF bar(left + cell * static_cast<double>(k) + 1.5, std::min(y, zero), std::max(3.0, cell - 3),
                             std::max(2.0, std::abs(zero - y)));
            painter.setBrush(colour);
            painter.drawRect(bar);
            if (large) { // a shape of its own: crossed out
                painter.setPen(QPen(p.fails, 1.5));
                painter.drawLine(bar.topLeft(), bar.bottomRight());
                painter.setPen(Qt::NoPen);
            } else if (in_size && !s.stale) {
                painter.setBrush(p.panel);
                painter.drawEllipse(bar.center(), 2, 2);
            }
            worst = std::max(worst, s.left);
        }
        const bool stale = std::ranges::any_of(places, [](const auto* s) { return s->stale; });
        painter.setPen(p.ink);
        painter.setFont(font_of(Type::small));
        painter.drawText(QRectF(left - 8, room.bottom() + 6, column, scaled(20)), Qt::AlignCenter,
                         tr("main %1").arg(number));
        painter.setFont(font_of(Type::number, true));
        painter.setPen(stale ? p.cannot_tell : p.ink);
        painter.drawText(QRectF(left - 8, room.bottom() + 6 + scaled(20), column, scaled(24)), Qt::AlignCenter,
                         stale ? tr("again") : qt(l.plain(worst)));
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(16, 10, width() - 32, scaled(20)), Qt::AlignRight,
                     tr("front and rear · upright, 60° left, 60° right · shaded: in size"));
    paint_focus(painter);
}

} // namespace pallix::ui
