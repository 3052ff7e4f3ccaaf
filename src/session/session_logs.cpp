// SPDX-License-Identifier: GPL-3.0-or-later
// Probe logs on their way into the job: read, asked about, written; from files, or line by line from a probe.
#include "block/digest.h"
#include "block/probe_log.h"
#include "block/read_file.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/readings/log_doubts.h"
#include "session/counted.h"
#include "session/session_worked.h"

#include <QFile>
#include <QFileInfo>
#include <algorithm>

namespace pallix::session {

using block::Entry;

block::Result<block::NamedText> read_text_file(const QString& file) {
    const std::string name = file.isEmpty() ? "file" : QFileInfo(file).fileName().toStdString();
    return block::read_file(QFile::encodeName(file).toStdString(), name);
}

namespace {

/// Logs that come in together are read together.
void add(std::vector<block::ProbeLogTaken>& logs, block::NamedText log) {
    logs.push_back({std::move(log.file), "", std::move(log.text), {}, !logs.empty()});
}

} // namespace

Session::LogsToRead Session::logs_to_read(std::vector<block::NamedText> logs,
                                          std::optional<double> standard_uncertainty,
                                          const std::map<std::string, std::string>& originals) const {
    LogsToRead to_read{entries_, {}, {}, standard_uncertainty, read_logs_, {}};
    for (block::NamedText& log : logs)
        add(to_read.logs, std::move(log));
    for (block::ProbeLogTaken& log : to_read.logs)
        if (const auto original = originals.find(log.file); original != originals.end()) {
            log.original_sha256 = block::sha256_hex(original->second);
            log.original = original->second;
        }
    return to_read;
}

Session::LogsToRead Session::logs_to_read(const QStringList& files, std::optional<double> standard_uncertainty) const {
    return {entries_, files, {}, standard_uncertainty, read_logs_, {}};
}

Outcome Session::read_logs(LogsToRead& to_read, const block::ReadWatch* watch) {
    block::Faults faults;
    for (const QString& file : std::exchange(to_read.files, {}))
        if (auto text = read_text_file(file))
            add(to_read.logs, std::move(*text));
        else
            faults.insert(faults.end(), text.error().begin(), text.error().end());
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    to_read.read.watch = watch;
    const block::Folded before = block::fold(to_read.entries, &to_read.read);
    if (!intake_of(before).blueprint)
        return tl::unexpected(one_fault("no job with a blueprint is open", "a job to take the log in"));
    for (block::ProbeLogTaken& log : to_read.logs) {
        log.sha256 = block::sha256_hex(log.text.str());
        to_read.entries.push_back({static_cast<std::int64_t>(to_read.entries.size() + 1), "", "", log});
    }
    // The fold is the judge: what it could not use is not taken in, and then every fault is wanted.
    const block::Folded after = block::fold(to_read.entries, &to_read.read);
    to_read.read.watch = nullptr;
    if (intake_of(after).troubles.size() > intake_of(before).troubles.size()) {
        std::vector<block::NamedText> texts;
        for (const block::ProbeLogTaken& log : to_read.logs)
            texts.push_back({log.file, log.text});
        const auto probe = block::read_probe_logs(texts, *intake_of(before).blueprint, block::ProbeScope::part);
        return tl::unexpected(
            probe ? block::Faults{{to_read.logs.front().file, 0, intake_of(after).troubles.back().words, ""}}
                  : probe.error());
    }
    std::optional<double>& u = to_read.standard_uncertainty;
    if (!u) // then what the logs themselves state holds; the newest stand first
        for (std::size_t i = 0; i < to_read.logs.size(); ++i)
            if (const auto stated = tunnel_of(after).latest->logs[i].touch_uncertainty)
                u = std::max(u.value_or(0), *stated);
    for (block::ProbeLogTaken& log : to_read.logs)
        log.standard_uncertainty = u;
    if (!to_read.logs.empty())
        to_read.doubts = planning::doubts_about_log(before, after, to_read.logs.front().file);
    static_cast<void>(planning::assess(after)); // what cannot be worked out is not written
    return {};
}

/// What is doubtful of them, asked about once.
Outcome Session::ask_about(LogsToRead& logs, bool sure) {
    asks_ = !sure && !logs.doubts.empty();
    return asks_ ? Outcome(tl::unexpected(std::move(logs.doubts))) : Outcome();
}

Outcome Session::take_read_logs(LogsToRead logs, bool sure) {
    if (auto asked = ask_about(logs, sure); !asked)
        return asked;
    read_logs_ = std::move(logs.read);
    return append({logs.logs.begin(), logs.logs.end()}); // the read has looked at every line
}

Outcome Session::begin_to_take(LogsToRead logs, bool sure) {
    if (auto asked = ask_about(logs, sure); !asked)
        return asked;
    if (!job_)
        return tl::unexpected(one_fault("no job is open", "an open job"));
    worked_->writing.insist();
    const std::string now = clock_();
    look_at_clock(now);
    std::vector<Entry> more;
    for (block::ProbeLogTaken& log : logs.logs)
        more.push_back(entry_of(std::move(log), static_cast<std::int64_t>(entries_.size() + more.size() + 1), now));
    write_beside(std::move(more), std::move(logs.read));
    return {};
}

void Session::write_beside(std::vector<Entry> entries, block::ReadLogs logs) {
    auto more = std::make_shared<std::vector<Entry>>(std::move(entries));
    worked_->writing.start(
        [book = book_.beside(), job = *job_, more](const Errand&) { return book.append(job, *more); },
        {[this, more, read = std::move(logs)](const storage::BookResult<storage::Written>& written) {
             if (!written && written.error().written_meanwhile && catch_up()) { // they stand behind what others did
                 for (std::size_t i = 0; i < more->size(); ++i)
                     (*more)[i].sequence = static_cast<std::int64_t>(entries_.size() + i + 1);
                 return write_beside(std::move(*more), read);
             }
             if (!written && written.error().no_answer && book_.go_alone(*job_, entries_))
                 return write_beside(std::move(*more), read); // they wait for the shop
             if (!written) {
                 Q_EMIT logs_taken(as_faults(written.error()));
                 return;
             }
             book_.acknowledge(*written);
             const std::size_t first = entries_.size();
             entries_.insert(entries_.end(), more->begin(), more->end());
             read_logs_ = read;
             refresh();
             idle_.start();
             Q_EMIT entries_added(static_cast<int>(first));
             Q_EMIT logs_taken({});
         },
         [this](const QString& why) {
             Q_EMIT logs_taken(one_fault("the log cannot be written (" + why.toStdString() + ")", "room for it"));
         }});
}

Outcome Session::take_probe_logs(std::vector<block::NamedText> logs, std::optional<double> standard_uncertainty,
                                 bool sure) {
    asks_ = false;
    LogsToRead to_read = logs_to_read(std::move(logs), standard_uncertainty);
    if (auto read = read_logs(to_read); !read)
        return read;
    return take_read_logs(std::move(to_read), sure);
}

Outcome Session::stream_lines(storage::JobId job, const QStringList& lines) {
    if (const auto done = book_.append_stream(job, lines); !done)
        return tl::unexpected(as_faults(done.error()));
    if (streamed_ && streamed_->job == job)
        streamed_->add(lines);
    return {};
}

void Session::Streamed::add(const QStringList& more) {
    for (const QString& line : more) {
        in_head = in_head && line.startsWith(QLatin1Char('#'));
        head += in_head ? 1 : 0;
    }
    lines += more.size();
}

/// Counted once for a job, then with every line: a probe that is fast must not be read from the book again and again.
std::size_t Session::streamed_touches() const {
    if (!job_)
        return 0;
    if (!streamed_ || streamed_->job != *job_) {
        streamed_ = Streamed{*job_};
        if (const auto lines = book_.stream(*job_))
            streamed_->add(*lines);
    }
    return static_cast<std::size_t>(
        std::max<qsizetype>(streamed_->lines - streamed_->head - 1, 0)); // less the header row
}

Outcome Session::take_stream(const QString& name, bool sure) {
    const storage::BookResult<QStringList> lines = job_ ? book_.stream(*job_) : QStringList();
    if (!lines)
        return tl::unexpected(as_faults(lines.error()));
    if (lines->isEmpty())
        return tl::unexpected(one_fault("no touch has arrived", "touches of a probe"));
    const block::NamedText log{name.toStdString(), lines->join(QLatin1Char('\n')).toStdString() + "\n"};
    if (auto taken = take_probe_logs({log}, std::nullopt, sure); !taken)
        return taken;
    drop_stream();
    return {};
}

Outcome Session::keep_stream_as_note() {
    const storage::BookResult<QStringList> lines = job_ ? book_.stream(*job_) : QStringList();
    if (!lines)
        return tl::unexpected(as_faults(lines.error()));
    const QString cut_off = tr("A probe log was cut off after %1:\n")
                                .arg(counted(static_cast<qsizetype>(streamed_touches()), tr("touch"), tr("touches")));
    if (auto noted = take(block::Note{(cut_off + lines->join(QLatin1Char('\n'))).toStdString()}); !noted)
        return noted;
    drop_stream();
    return {};
}

void Session::drop_stream() {
    streamed_.reset();
    if (job_)
        static_cast<void>(book_.clear_stream(*job_)); // lines that stay are only offered again
}

} // namespace pallix::session
