// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/gauge_link.h"

#include "session/counted.h"
#include <QTimer>
#include <array>
#include <utility>

namespace pallix::session {
namespace {

/// What reads the lines of a gauge that was taught.
tl::expected<block::GaugeLineReader, std::string> reader_of(const block::GaugeProfile& profile) {
    auto pattern = block::GaugePattern::of(profile);
    if (!pattern)
        return tl::unexpected("its pattern " + pattern.error());
    constexpr std::array ends{'\n', '\r', '\0'};
    return block::GaugeLineReader(
        [pattern = std::move(*pattern), count = std::make_shared<std::int64_t>(0)](
            std::string_view line) -> tl::expected<block::GaugeLine, std::string> {
            auto reading = pattern.read(line);
            if (!reading)
                return tl::unexpected(std::move(reading.error()));
            reading->number = ++*count;
            return *reading;
        },
        ends[static_cast<std::size_t>(profile.end)]);
}

} // namespace

GaugeLink::GaugeLink(Session& session, QObject* parent) : QObject(parent), session_(session) {
    constexpr int write_every = 50; // ms: one wait for the disk, however fast a probe is
    writing_.setSingleShot(true);
    writing_.setInterval(write_every);
    connect(&writing_, &QTimer::timeout, this, &GaugeLink::write_down);
    constexpr int break_of = 80; // ms without a byte: what came is a line
    pausing_.setSingleShot(true);
    pausing_.setInterval(break_of);
    connect(&pausing_, &QTimer::timeout, this, [this] { take_items(reader_.pause()); });
    connect(&session, &Session::job_opened, this, &GaugeLink::tell_what_waits);
}

GaugeLink::~GaugeLink() {
    write_down();
    if (line_)
        line_->disconnect(this);
}

Outcome GaugeLink::open(const QString& address, const std::optional<block::GaugeProfile>& profile) {
    close();
    auto reader = profile ? reader_of(*profile) : block::GaugeLineReader();
    if (!reader)
        return tl::unexpected(block::Faults{{profile->name, 0, reader.error(), "a pattern that can be used"}});
    auto line = GaugeLine::open(address, profile.value_or(block::GaugeProfile()));
    if (!line)
        return tl::unexpected(std::move(line.error()));
    line_ = std::move(*line);
    reader_ = std::move(*reader);
    profile_ = profile;
    address_ = address;
    name_ = profile ? QString::fromStdString(profile->name) : QString();
    held_.reset();
    greeted_ = false;
    fresh_log_ = true;
    last_number_ = 0;
    recent_.clear();
    readings_ = 0;
    connect(line_.get(), &GaugeLine::came, this, &GaugeLink::read);
    connect(line_.get(), &GaugeLine::lost, this, &GaugeLink::lost);
    connect(line_.get(), &GaugeLine::pedal, this, &GaugeLink::take_by_foot);
    Q_EMIT changed();
    if (line_->has_bytes())
        read();
    return {};
}

void GaugeLink::close() {
    if (!line_)
        return;
    line_->disconnect(this);
    line_->close();
    line_.release()->deleteLater(); // it may be what called
    pausing_.stop();
    write_down();
    Q_EMIT changed();
}

void GaugeLink::ask() {
    if (line_ && profile_)
        if (const auto bytes = block::bytes_typed(profile_->request))
            line_->send(*bytes);
}

/// A gauge that answers only when asked is asked; of one that sends without end what it sent last is the reading.
void GaugeLink::take_by_foot() {
    if (answers_when_asked())
        return ask();
    if (const auto last = std::exchange(held_, std::nullopt)) {
        ++readings_;
        Q_EMIT reading(*last);
    }
}

void GaugeLink::lost(const QString& why) {
    if (!line_)
        return;
    read(); // what came before it broke
    if (!line_)
        return; // it had said goodbye
    const bool cut = !reader_.unfinished().empty();
    close();
    const auto touches = session_.streamed_touches();
    QString kept =
        touches > 0
            ? tr("%1 kept").arg(counted(static_cast<qsizetype>(touches), tr("touch is"), tr("touches are")))
            : tr("%1 kept").arg(counted(static_cast<qsizetype>(readings_), tr("reading is"), tr("readings are")));
    if (cut)
        kept += tr("; the one being sent was cut off, take it again");
    Q_EMIT said(tr("Connection to the gauge lost: %1; %2. Connect again to go on.").arg(why, kept), true);
}

void GaugeLink::read() {
    const QByteArray bytes = line_->read_all();
    take_items(reader_.feed({bytes.constData(), static_cast<std::size_t>(bytes.size())}));
    if (line_ && profile_ && profile_->end == block::LineEnd::pause)
        pausing_.start();
}

void GaugeLink::take_items(std::vector<block::GaugeLineReader::Item> items) {
    QStringList faults;
    for (auto& item : items) {
        if (item.line)
            take(*item.line);
        else
            faults << QString::fromStdString(item.fault);
        if (!line_)
            return;
    }
    if (!faults.isEmpty()) // one message, however much of it came
        Q_EMIT said(faults.size() == 1
                        ? tr("Not taken: %1.").arg(faults.front())
                        : tr("Not taken: %1, and %2 lines more.").arg(faults.front()).arg(faults.size() - 1),
                    true);
}

/// Nothing is dropped in silence: what is missing, what came twice and a count that begins anew are told.
/// @return whether it is a new one
bool GaugeLink::counts(std::int64_t number, const std::string& words, const QString& what) {
    constexpr std::size_t remembered = 256;
    if (last_number_ > 0 && number > last_number_ + 1) {
        Q_EMIT said(tr("%1 %2 to %3 never arrived: take them again.").arg(what).arg(last_number_ + 1).arg(number - 1),
                    true);
    } else if (number <= last_number_) {
        if (const auto before = recent_.find(number); before != recent_.end() && before->second == words) {
            Q_EMIT said(tr("%1 %2 came twice and counts once.").arg(what).arg(number), false);
            return false;
        }
        recent_.clear();
        Q_EMIT said(tr("%1 are counted from %2 again: the gauge was started anew. All of them are taken.")
                        .arg(what)
                        .arg(number),
                    false);
    }
    last_number_ = number;
    recent_[number] = words;
    if (recent_.size() > remembered)
        recent_.erase(recent_.begin());
    return true;
}

void GaugeLink::take(const block::GaugeLine& line) {
    if (const auto* hello = std::get_if<block::GaugeHello>(&line)) {
        last_number_ = 0;
        recent_.clear();
        const bool again = std::exchange(greeted_, true);
        name_ = QString::fromStdString(hello->name);
        if (again)
            Q_EMIT said(tr("%1 has started anew; it counts from 1 again.").arg(name_), false);
        Q_EMIT changed();
    } else if (std::holds_alternative<block::GaugeBye>(line)) {
        const QString name = name_.isEmpty() ? tr("The gauge") : name_;
        close();
        Q_EMIT said(tr("%1 has said goodbye; everything it sent is kept.").arg(name), false);
    } else if (const auto* reading_line = std::get_if<block::GaugeReading>(&line)) {
        if (!profile_ && !counts(reading_line->number, reading_line->value + reading_line->unit, tr("Readings")))
            return;
        if (waits_for_foot()) {
            held_ = *reading_line;
            return;
        }
        ++readings_;
        Q_EMIT reading(*reading_line);
    } else if (const auto* head = std::get_if<block::ProbeLogLine>(&line)) {
        if (std::exchange(fresh_log_, false)) {
            write_down();
            log_job_ = session_.job();
            if (log_job_)
                put_away_touches();
        }
        stream(head->line);
    } else if (const auto* touch = std::get_if<block::ProbeTouch>(&line)) {
        if (counts(touch->number, touch->row, tr("Touches")))
            stream(touch->row);
    } else {
        fresh_log_ = true;
        end_log();
    }
}

void GaugeLink::end_log() {
    write_down();
    if (!log_job_)
        return;
    if (log_job_ != session_.job()) {
        Q_EMIT said(tr("The log is whole and waits in the job it came for: open that job to take it in."), false);
        return;
    }
    if (const auto taken = take_in_touches(); !taken)
        Q_EMIT said((session_.asks() ? tr("Is it the right log? %1. Its touches wait (Ctrl+Shift+G).")
                                     : tr("The log cannot be taken in: %1. Its touches are kept."))
                        .arg(QString::fromStdString(taken.error().front().text())),
                    true);
    log_job_.reset();
}

void GaugeLink::stream(const std::string& line) {
    if (!log_job_)
        log_job_ = session_.job(); // a log that goes on where another run of the program has left it
    if (!log_job_)
        return Q_EMIT said(tr("Not taken: a touch was sent, but no job is open. Open its job and send the log again."),
                           true);
    unwritten_ << QString::fromStdString(line);
    if (!writing_.isActive())
        writing_.start();
}

void GaugeLink::write_down() {
    if (unwritten_.isEmpty() || !log_job_)
        return;
    if (const auto done = session_.stream_lines(*log_job_, unwritten_); !done)
        Q_EMIT said(QString::fromStdString(done.error().front().text()), true); // and tried again with the next ones
    else
        unwritten_.clear();
    Q_EMIT changed();
}

void GaugeLink::tell_what_waits() {
    const auto touches = static_cast<qsizetype>(session_.streamed_touches());
    if (touches > 0 && (fresh_log_ || log_job_ != session_.job()))
        Q_EMIT said(tr("%1 in this job, from a log that was not taken in (Ctrl+Shift+G).")
                        .arg(counted(touches, tr("touch waits"), tr("touches wait"))),
                    false);
}

Outcome GaugeLink::take_in_touches(bool sure) {
    write_down();
    const std::size_t touches = session_.streamed_touches();
    auto done = session_.take_stream(name_.isEmpty() ? tr("probe on the line") : name_, sure);
    if (done)
        Q_EMIT said(tr("Log of %1 taken in.").arg(counted(static_cast<qsizetype>(touches), tr("touch"), tr("touches"))),
                    false);
    Q_EMIT changed();
    return done;
}

/// A new log begins while touches of one that was cut off still wait: they go into the ledger as they are.
void GaugeLink::put_away_touches() {
    if (session_.streamed_touches() == 0)
        return session_.drop_stream();
    const auto kept = session_.keep_stream_as_note();
    Q_EMIT said(kept ? tr("The log before this one was cut off; its touches stand in the ledger as a note.")
                     : QString::fromStdString(kept.error().front().text()),
                !kept);
}

} // namespace pallix::session
