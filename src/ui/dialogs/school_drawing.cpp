// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/school_drawing.h"

#include "wording/practice/practice_words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <limits>

namespace pallix::ui {
namespace {

constexpr double edge = 14, head = 58, tallest_row = 66; // px at 100 %
constexpr double names = 0.25, figure = 0.145;           // of the width

} // namespace

SchoolDrawing::SchoolDrawing(Context context, const session::SchoolWork& work, QWidget* parent)
    : Drawing(context, QStringLiteral("schools"), tr("ways of planning this job, and what came of each"), parent),
      work_(work) {
    setFocusPolicy(Qt::StrongFocus);
    connect(&work_, &session::SchoolWork::came, this, [this] {
        update();
        say_changed();
    });
}

QRectF SchoolDrawing::row(std::size_t school) const {
    const double all = height() - scaled(head) - scaled(edge),
                 high = std::min<double>(scaled(tallest_row), all / static_cast<double>(work_.schools().size()));
    return {scaled(edge) * 1.0, scaled(head) + high * static_cast<double>(school), width() - 2.0 * scaled(edge), high};
}

QRectF SchoolDrawing::cell(std::size_t school, std::size_t which) const {
    const QRectF all = row(school);
    return {all.left() + (names + static_cast<double>(which) * figure) * all.width(), all.top(),
            figure * all.width() - scaled(14), all.height()};
}

std::pair<double, double> SchoolDrawing::range(workshop::TriedFigure which) const {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (std::size_t s = 0; s < work_.schools().size(); ++s)
        for (const workshop::TriedOnce& once : work_.tried(s)) {
            low = std::min(low, once.*which);
            high = std::max(high, once.*which);
        }
    return {low, high};
}

QString SchoolDrawing::words(workshop::TriedFigure which, double value) const {
    if (which == &workshop::TriedOnce::minutes)
        return tr("%1 h").arg(qt(wording::fixed(value / 60, 1)));
    return qt(context_.lengths().plain(value));
}

/// Every block a ring, their middle a bar with its number.
void SchoolDrawing::paint_strip(QPainter& painter, std::size_t school, std::size_t which) const {
    const workshop::TriedFigure of = workshop::tried_figures.at(which).second;
    const auto& tried = work_.tried(school);
    if (tried.empty())
        return;
    const Palette& p = context_.palette();
    const QRectF box = cell(school, which);
    const auto [low, high] = range(of);
    const double span = std::max(high - low, 1e-3), y = box.top() + 0.36 * box.height();
    const auto x = [&, low = low](double value) {
        return box.left() + 5_px + (value - low) / span * (box.width() - 10_px);
    };
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
    painter.setPen(QPen(p.quiet, 1.3));
    painter.setBrush(Qt::NoBrush);
    for (const workshop::TriedOnce& once : tried)
        painter.drawEllipse(QPointF(x(once.*of), y), 3.5_px, 3.5_px);
    const double middle = workshop::spread_of(tried, of).middle;
    painter.setPen(QPen(p.ink, 3));
    painter.drawLine(QPointF(x(middle), y - 8_px), QPointF(x(middle), y + 8_px));
    painter.setPen(p.ink);
    write(painter, QRectF(box.left(), y + 9_px, box.width(), box.bottom() - y - 9_px), Qt::AlignHCenter | Qt::AlignTop,
          words(of, middle), Type::small);
}

void SchoolDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    painter.setPen(p.quiet);
    painter.setFont(font_of(Type::small));
    for (std::size_t f = 0; f < workshop::tried_figures.size(); ++f) {
        const QRectF box = cell(0, f);
        painter.drawText(QRectF(box.left(), 8, box.width() + scaled(10), scaled(head) - 10.0),
                         Qt::AlignLeft | Qt::AlignBottom | Qt::TextWordWrap,
                         qt(wording::tried_figure_name(workshop::tried_figures.at(f).second)));
    }
    for (std::size_t s = 0; s < work_.schools().size(); ++s) {
        const QRectF box = row(s);
        if (s == chosen_)
            painter.fillRect(box, p.selected);
        painter.setPen(p.ink);
        painter.setFont(font_of(Type::text, s == 0));
        painter.drawText(
            box.adjusted(8, 0, 0, 0).intersected(QRectF(box.left(), box.top(), names * box.width() - 12, box.height())),
            Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, qt(wording::school_words(work_.schools()[s])));
        for (std::size_t f = 0; f < workshop::tried_figures.size(); ++f)
            paint_strip(painter, s, f);
        if (work_.tried(s).empty())
            continue;
        const double from = names + figure * static_cast<double>(workshop::tried_figures.size());
        const bool all_good = std::ranges::all_of(work_.tried(s), &workshop::TriedOnce::good);
        painter.setPen(all_good ? p.ink : p.fails);
        painter.setFont(font_of(Type::small));
        painter.drawText(QRectF(box.left() + from * box.width(), box.top(), (1 - from) * box.width() - 4, box.height()),
                         Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, qt(wording::tried_words(work_.tried(s))));
    }
    paint_focus(painter);
}

void SchoolDrawing::choose(std::size_t school) {
    chosen_ = std::min(school, work_.schools().size() - 1);
    update();
    say_changed();
    Q_EMIT chosen_changed();
}

void SchoolDrawing::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Down)
        return choose(chosen_ + 1);
    if (event->key() == Qt::Key_Up)
        return choose(chosen_ == 0 ? 0 : chosen_ - 1);
    Drawing::keyPressEvent(event);
}

void SchoolDrawing::mousePressEvent(QMouseEvent* event) {
    for (std::size_t s = 0; s < work_.schools().size(); ++s)
        if (row(s).contains(event->position()))
            choose(s);
    Drawing::mousePressEvent(event);
}

std::vector<SpokenPart> SchoolDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    for (std::size_t s = 0; s < work_.schools().size(); ++s) {
        QStringList said{qt(wording::tried_words(work_.tried(s)))};
        for (const auto& [name, of] : workshop::tried_figures) {
            const workshop::SchoolSpread spread = workshop::spread_of(work_.tried(s), of);
            said << tr("%1: %2, from %3 to %4")
                        .arg(qt(wording::tried_figure_name(of)), words(of, spread.middle), words(of, spread.least),
                             words(of, spread.most));
        }
        parts.push_back({qt(wording::school_words(work_.schools()[s])), said.join(QStringLiteral("; ")),
                         row(s).toAlignedRect(), s == chosen_, true});
    }
    return parts;
}

} // namespace pallix::ui
