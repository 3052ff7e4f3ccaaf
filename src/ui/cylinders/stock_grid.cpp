// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/stock_grid.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {

StockGrid::StockGrid(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("stock-grid"), tr("stock left in every bore"), parent) {
    setToolTip(tr("Click a bore, or go from one to the next with Left and Right"));
    setFocusPolicy(Qt::StrongFocus);
}

const std::vector<planning::HoneBore>& StockGrid::bores() const {
    static const std::vector<planning::HoneBore> none;
    const auto& work = context_.session.assessment().cylinders;
    return work ? work->hone.bores : none;
}

void StockGrid::mark(const std::optional<block::FeatureId>& id) {
    marked_ = id;
    update();
}

void StockGrid::refresh() {
    QStringList words;
    for (const planning::HoneBore& b : bores())
        words << tr("%1: %2 left at the most")
                     .arg(qt(wording::feature_words(*intake_of(context_.session.state()).blueprint, b.id)),
                          qt(context_.lengths().with_sign(b.most)));
    setAccessibleDescription(words.join(QStringLiteral(". ")));
    update();
}

void StockGrid::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    painter.setPen(p.quiet);
    if (bores().empty()) {
        painter.setFont(font_of(Type::text));
        painter.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("Nothing to hone yet: measure the cylinders, and state the pistons or choose a size."));
        return;
    }
    double largest = 0.01; // mm
    for (const auto& b : bores())
        for (const auto& c : b.cells)
            if (c.size)
                largest = std::max(largest, std::abs(c.left));
    painter.setFont(font_of(Type::small));
    const bool inch = context_.preferences.unit() == block::Unit::inch;
    painter.drawText(QRectF(14, 6, width() - 28, 16), Qt::AlignLeft,
                     inch ? tr("stock left on diameter, tenths of a thou") : tr("stock left on diameter, µm"));
    painter.drawText(QRectF(14, 6, width() - 28, 16), Qt::AlignRight,
                     tr("left column across, right column along the crankshaft"));
    const double column = (width() - 24.0) / static_cast<double>(bores().size());
    for (std::size_t i = 0; i < bores().size(); ++i)
        paint_bore(painter, bores()[i], QRectF(12 + column * static_cast<double>(i), 28, column, height() - 34),
                   largest);
    paint_focus(painter);
}

void StockGrid::paint_bore(QPainter& painter, const planning::HoneBore& b, const QRectF& box, double largest) {
    const Palette& p = context_.palette();
    /// µm, or tenths of a thou: two digits say what three decimals would.
    const auto short_stock = [this](double mm) {
        const double unit = context_.preferences.unit() == block::Unit::inch ? 0.00254 : 0.001;
        return QString::number(std::lround(mm / unit)).replace(QLatin1Char('-'), QChar(0x2212));
    };
    const bool marked = marked_ == b.id;
    const QRectF body = box.adjusted(6, 22, -6, -40);
    if (marked) {
        painter.setPen(QPen(p.accent, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(box.adjusted(1, 0, -1, -1), 6, 6);
    }
    const auto* meant = intake_of(context_.session.state()).blueprint->hole(b.id);
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(box.left(), box.top() + 3, box.width(), 18), Qt::AlignCenter,
                     tr("cyl %1").arg(meant->cylinder.value_or(b.id.number)));
    const double cell_w = body.width() / 2, cell_h = body.height() / 3;
    for (std::size_t i = 0; i < b.cells.size(); ++i) {
        const planning::HoneCell& c = b.cells[i];
        const QRectF cell(body.left() + cell_w * static_cast<double>(i % 2),
                          body.top() + cell_h * static_cast<double>(i / 2), cell_w, cell_h);
        painter.setPen(QPen(p.hairline, 1));
        painter.setBrush(p.page);
        painter.drawRect(cell);
        if (!c.size)
            continue;
        const bool over = *c.size > b.sizes.finish_most, in = !over && c.left <= 0;
        // As tall as what is left: the eye sees taper and barrel before it reads a number.
        const double tall = std::abs(c.left) / largest * (cell_h - 6);
        painter.setPen(Qt::NoPen);
        painter.setBrush(over ? p.fails : in ? p.meets : p.deck.iron_high);
        painter.drawRect(QRectF(cell.left() + 3, cell.bottom() - 3 - std::max(tall, 2.0), 7, std::max(tall, 2.0)));
        painter.setFont(font_of(Type::small, over));
        painter.setPen(over ? p.fails : in ? p.meets : p.ink);
        painter.drawText(cell.adjusted(12, 0, -2, 0), Qt::AlignCenter,
                         short_stock(c.left) + (over ? tr(" ✕")
                                                : in ? tr(" ✓")
                                                     : QString()));
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    QString foot = b.measured ? QString() : tr("measure");
    if (b.measured) {
        constexpr std::array shapes{"even", "tight top", "tight bottom", "barrel", "waist", "oval"};
        foot = QString::fromLatin1(shapes[static_cast<std::size_t>(b.shape)]);
    }
    painter.drawText(QRectF(box.left(), box.bottom() - 38, box.width(), 18), Qt::AlignCenter, foot);
    const bool too_large = b.measured && b.sizes.finish - b.least > b.sizes.finish_most;
    if (b.verdict && (b.most <= 0 || too_large)) {
        painter.setPen(b.rested ? mark_colour(mark_of(*b.verdict), p) : p.cannot_tell);
        painter.drawText(QRectF(box.left(), box.bottom() - 21, box.width(), 18), Qt::AlignCenter,
                         b.rested || too_large ? qt(wording::verdict_word(*b.verdict)) : tr("warm"));
    }
}

void StockGrid::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (bores().empty())
        return;
    const double column = (width() - 24.0) / static_cast<double>(bores().size());
    const auto i = static_cast<std::ptrdiff_t>(std::floor((event->position().x() - 12) / column));
    if (i >= 0 && i < std::ssize(bores()))
        Q_EMIT pointed_at(bores()[static_cast<std::size_t>(i)].id);
}

void StockGrid::keyPressEvent(QKeyEvent* event) {
    if (bores().empty() || (event->key() != Qt::Key_Left && event->key() != Qt::Key_Right))
        return QWidget::keyPressEvent(event);
    const auto here = std::ranges::find_if(bores(), [this](const auto& b) { return marked_ == b.id; });
    auto i = here == bores().end() ? -1 : here - bores().begin();
    i = std::clamp<std::ptrdiff_t>(i + (event->key() == Qt::Key_Right ? 1 : -1), 0, std::ssize(bores()) - 1);
    Q_EMIT pointed_at(bores()[static_cast<std::size_t>(i)].id);
}

} // namespace pallix::ui
