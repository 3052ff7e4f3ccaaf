// SPDX-License-Identifier: GPL-3.0-or-later
// What a gauge on the line has sent while the field was taken, or another job was open; and what one of a practice
// bench sends when it is told to.
#include "ui/frame/reading_line.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "session/counted.h"
#include "ui/dialogs/ask.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"
#include <QLineEdit>
#include <QTimer>
#include <cmath>
#include <utility>

namespace pallix::ui {

/// What was typed and what a gauge sent belong to the job they came for: they wait there until it is open again.
void ReadingLine::change_job() {
    const auto job = context_.session.job();
    if (job == job_)
        return;
    if (job_ && (!sent_.empty() || !field_->text().isEmpty()))
        elsewhere_[*job_] = {std::exchange(sent_, {}), field_->text()};
    sent_.clear();
    questioned_.clear();
    wish_.skipped.clear();
    wish_.once_more.reset();
    job_ = job;
    Waiting back;
    if (const auto found = job ? elsewhere_.find(*job) : elsewhere_.end(); found != elsewhere_.end())
        back = std::move(elsewhere_.extract(found).mapped());
    sent_ = std::move(back.sent);
    field_->setText(back.typed);
}

/// One in each turn of the window, so that however many come, it goes on answering.
void ReadingLine::take_soon() {
    if (!std::exchange(taking_, true))
        QTimer::singleShot(0, this, &ReadingLine::take_what_waits);
}

/// Readings of a gauge wait while something stands in the field: typed by hand, asked about or not understood.
void ReadingLine::take_what_waits() {
    taking_ = false;
    if (sent_.empty())
        return;
    if (!field_->text().isEmpty())
        return show_said();
    if (!asked_)
        return note_what_was_sent();
    take_from_gauge();
    if (!sent_.empty())
        take_soon();
}

namespace {

/// A reading as it would be typed.
QString typed(const block::GaugeReading& reading) {
    const QString value =
        reading.value.find_first_of("eE") == std::string::npos
            ? qt(reading.value)
            : QString::number(qt(reading.value).toDouble(), 'f', 6); // powers of ten are not typed here
    return value + QLatin1Char(' ') + qt(reading.unit);
}

} // namespace

/// Nobody asked: they are kept all the same, together.
void ReadingLine::note_what_was_sent() {
    QStringList values;
    for (const block::GaugeReading& reading : sent_)
        values << typed(reading);
    const QString words = values.join(QStringLiteral(", "));
    const auto kept = context_.session.take(
        block::Note{tr("The gauge sent %1 while no reading was asked for.").arg(words).toStdString()});
    echo_->setVisible(true);
    if (kept)
        say(values.size() == 1
                ? tr("The gauge sent %1: kept as a note, nothing was asked for.").arg(words)
                : tr("The gauge sent %1 readings: kept as a note, nothing was asked for.").arg(values.size()),
            context_.palette().quiet);
    else
        say(tr("Not taken: the gauge sent %1; %2").arg(words.left(200), qt(kept.error().front().text())),
            context_.palette().fails);
    sent_.clear();
}

void ReadingLine::take_from_gauge() {
    const block::GaugeReading reading = sent_.front();
    sent_.pop_front();
    const QString text = typed(reading);
    const bool celsius = reading.unit == "C";
    const block::Quantity wanted = asked_->at.quantity;
    if (celsius != (wanted == block::Quantity::temperature) || wanted == block::Quantity::volume) {
        say(tr("Not taken: the gauge sent %1, expected %2.")
                .arg(text, wanted == block::Quantity::temperature ? tr("a temperature")
                           : wanted == block::Quantity::volume    ? tr("a volume")
                                                                  : tr("a length")),
            context_.palette().fails);
        return;
    }
    field_->setText(text);
    take();
}

bool ReadingLine::take_simulated() {
    const auto sent = asked_ ? context_.practice.reading(asked_->at) : std::nullopt;
    if (!sent)
        return false;
    const auto number = [](const QString& text) {
        return text.section(QLatin1Char(' '), 0, 0).replace(QLatin1Char(','), QLatin1Char('.')).toDouble();
    };
    const double alike = asked_->at.quantity == block::Quantity::temperature ? 1 : 0.01; // °C, mm
    const QString asked_about = questioned_;
    field_->setText(*sent);
    if (!asked_about.isEmpty() && std::abs(number(asked_about) - number(*sent)) < alike)
        questioned_ = *sent; // looked at again, it is so
    take();
    return true;
}

} // namespace pallix::ui
