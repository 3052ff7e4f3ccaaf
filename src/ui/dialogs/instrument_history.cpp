// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/instrument_history.h"

#include "block/times.h"
#include "session/wall_time.h"
#include "wording/readings/care_words.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {
namespace {

using block::InstrumentHappening;

constexpr std::size_t length_of_day = 10; // "2026-03-02"

double seconds(const std::string& time) {
    const auto read = block::read_time(time.size() == length_of_day ? time + "T12:00:00Z" : time);
    return read ? static_cast<double>(read->time_since_epoch().count()) : 0;
}

} // namespace

InstrumentHistoryDrawing::InstrumentHistoryDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("instrument-history"), tr("what happened to the instrument"), parent) {
    setFocusPolicy(Qt::StrongFocus);
}

void InstrumentHistoryDrawing::show_history(const block::Instrument& instrument, block::InstrumentHistory history,
                                            const planning::InstrumentRecord& record) {
    history_ = std::move(history);
    record_ = record;
    sure_ = 2 * fixed_uncertainty(instrument).value_or(0);
    most_ = std::max({1.3 * sure_, 2 * instrument.resolution, 0.002});
    for (const block::InstrumentEvent& event : history_)
        if (!event.struck)
            most_ = std::max(most_, 1.2 * std::abs(event.error().value_or(0)));
    today_ = context_.session.now();
    from_ = history_.empty() ? today_ : history_.front().time;
    until_ = std::max(today_, record.due.empty() ? today_ : record.due + "T12:00:00Z");
    say_changed();
    update();
}

QRectF InstrumentHistoryDrawing::field() const {
    return QRectF(rect()).adjusted(scaled(96), scaled(34), -scaled(28), -scaled(46));
}

double InstrumentHistoryDrawing::x_of(const std::string& time) const {
    const double from = seconds(from_), span = std::max(seconds(until_) - from, 3600.0);
    return field().left() + scaled(10) + (seconds(time) - from) / span * (field().width() - 2.0 * scaled(10));
}

double InstrumentHistoryDrawing::y_of(double error) const {
    return field().center().y() - error / most_ * field().height() / 2;
}

void InstrumentHistoryDrawing::paint_scale(QPainter& painter) const {
    const Palette& p = context_.palette();
    const QRectF f = field();
    if (sure_ > 0) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.selected);
        painter.drawRect(QRectF(QPointF(f.left(), y_of(sure_)), QPointF(f.right(), y_of(-sure_))));
    }
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(f.left(), y_of(0)), QPointF(f.right(), y_of(0)));
    painter.setPen(p.quiet);
    const auto at = [&](double error, const QString& words) {
        write(painter, QRectF(4, y_of(error) - scaled(11), f.left() - 10, scaled(22)),
              Qt::AlignRight | Qt::AlignVCenter, words, Type::small);
    };
    const wording::LengthText l = context_.lengths();
    at(0, tr("true"));
    at(0.8 * most_, qt(l.with_unit(0.8 * most_)));
    at(-0.8 * most_, qt(l.with_unit(0.8 * most_)));
    write(painter, QRectF(f.left(), 6, f.width() / 2, scaled(22)), Qt::AlignLeft | Qt::AlignVCenter,
          tr("reads too much ↑, too little ↓"), Type::small);
    if (sure_ > 0)
        write(painter, QRectF(f.center().x(), 6, f.width() / 2, scaled(22)), Qt::AlignRight | Qt::AlignVCenter,
              tr("band: as sure as it is stated to be"), Type::small);
}

/// A check stands as far from the line as it was off, a zero hangs below, a repair cuts through.
void InstrumentHistoryDrawing::paint_event(QPainter& painter, const block::InstrumentEvent& event) const {
    const Palette& p = context_.palette();
    const QRectF f = field();
    const double x = x_of(event.time);
    if (const auto error = event.error()) {
        const double y = y_of(*error);
        const bool off = sure_ > 0 && std::abs(*error) > sure_;
        painter.setPen(QPen(off ? p.fails : p.ink, 1.5));
        painter.drawLine(QPointF(x, y_of(0)), QPointF(x, y));
        painter.setBrush(event.struck ? p.panel : off ? p.fails : p.ink);
        painter.drawEllipse(QPointF(x, y), 4_px, 4_px);
        return;
    }
    painter.setPen(QPen(p.quiet, 1.5));
    painter.setBrush(p.panel);
    const double foot = f.bottom();
    switch (event.what) {
    case InstrumentHappening::zeroed:
        painter.drawLine(QPointF(x, foot - scaled(4)), QPointF(x, foot - scaled(14)));
        break;
    case InstrumentHappening::repeated:
    case InstrumentHappening::studied:
        painter.drawRect(QRectF(x - 3_px, foot - scaled(14), 6_px, 6_px));
        break;
    case InstrumentHappening::repaired:
        painter.setPen(QPen(p.accent, 2));
        painter.drawLine(QPointF(x, f.top()), QPointF(x, foot));
        break;
    case InstrumentHappening::checked:
        break;
    }
}

void InstrumentHistoryDrawing::paint_day(QPainter& painter, const std::string& day, const QString& words,
                                         const QColor& colour) const {
    const QRectF f = field();
    const double x = x_of(day), width = 130_px;
    painter.setPen(QPen(colour, 1, Qt::DashLine));
    painter.drawLine(QPointF(x, f.top()), QPointF(x, f.bottom()));
    painter.setPen(colour);
    const double left = std::clamp(x - width / 2, 4.0, this->width() - width - 4);
    write(painter, QRectF(left, f.bottom() + 2, width, scaled(20)), Qt::AlignCenter, words, Type::small);
}

void InstrumentHistoryDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    if (history_.empty() && record_.due.empty()) {
        paint_empty(painter, tr("Nothing is known of it yet: log a check, a test, a repair."));
        return paint_focus(painter);
    }
    paint_scale(painter);
    for (const block::InstrumentEvent& event : history_)
        paint_event(painter, event);
    if (!record_.due.empty())
        paint_day(painter, record_.due, tr("due %1").arg(qt(record_.due)), record_.overdue ? p.fails : p.accent);
    if (!history_.empty()) {
        painter.setPen(p.quiet);
        write(painter, QRectF(field().left(), field().bottom() + scaled(20), field().width(), scaled(18)),
              Qt::AlignHCenter | Qt::AlignVCenter,
              tr("● checked · ❘ zeroed · □ tested, studied · line across: repaired"), Type::small);
        write(painter, QRectF(field().left(), field().bottom() + 2, 130_px, scaled(20)),
              Qt::AlignLeft | Qt::AlignVCenter, qt(from_.substr(0, length_of_day)), Type::small);
    }
    paint_focus(painter);
}

std::vector<SpokenPart> InstrumentHistoryDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    for (const block::InstrumentEvent& event : history_) {
        const QPointF at(x_of(event.time), event.error() ? y_of(*event.error()) : field().bottom() - scaled(9));
        parts.push_back({qt(event.time.substr(0, length_of_day)), qt(wording::event_words(event, context_.lengths())),
                         QRectF(at - QPointF(5, 5), QSizeF(10, 10)).toAlignedRect(), false, false});
    }
    return parts;
}

} // namespace pallix::ui
