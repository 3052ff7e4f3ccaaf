// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/session.h"

#include "block/job_file.h"
#include "block/profile_trace.h"
#include "planning/set_up.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QTimeZone>
#include <algorithm>
#include <cmath>

namespace pallix::session {

using block::Entry;
using block::Payload;

namespace {

constexpr const char* undone = "undone";
constexpr const char* redone = "redone";

block::Faults one_fault(std::string what, std::string expected) {
    return {{"job", 0, std::move(what), std::move(expected)}};
}

} // namespace

block::Faults as_faults(const storage::BookFault& fault) {
    return {{"shop book", 0, fault.what.toStdString() + " " + fault.way_out.toStdString(), ""}};
}

std::string sha256_hex(const std::string& text) {
    return QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex().toStdString();
}

Session::Session(storage::ShopBook& book, Person person, Clock clock, QObject* parent)
    : QObject(parent), book_(book), person_(std::move(person)), clock_(std::move(clock)) {
    connect(&certainty_, &CertaintyWork::ready, this, [this] {
        assessment_ = planning::assess(state_, certainty_of_latest());
        Q_EMIT certainty_known();
    });
    connect(&beliefs_, &BeliefWork::ready, this, &Session::belief_known);
    refresh();
}

Session::Clock Session::system_clock() {
    return [] { return QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString(); };
}

void Session::refresh() {
    state_ = block::fold(entries_, &read_logs_);
    local_flatness_.clear();
    beliefs_known_.clear();
    tunnel_work_.reset();
    tunnel_study_.reset();
    assessment_ = planning::assess(state_, certainty_of_latest());
    if (draws_certainty_ && state_.blueprint && state_.latest && state_.latest->standard_uncertainty)
        certainty_.want(*state_.blueprint, *state_.latest);
}

void Session::draw_certainty() {
    draws_certainty_ = true;
    refresh();
}

const planning::Certainty* Session::certainty_of_latest() const {
    const planning::Certainty* known = certainty_.result();
    return known && state_.latest && known->sequence == state_.latest->sequence ? known : nullptr;
}

Entry Session::entry_of(Payload payload, std::int64_t sequence) const {
    return {sequence, clock_(), person_(), std::move(payload)};
}

Outcome Session::open_job(storage::JobId job, block::ReadLogs read) {
    auto entries = book_.entries(job);
    if (!entries)
        return tl::unexpected(as_faults(entries.error()));
    job_ = job;
    entries_ = std::move(*entries);
    read_logs_ = std::move(read);
    refresh();
    Q_EMIT job_opened();
    return {};
}

Outcome Session::new_job(const QString& title, const QString& customer, const block::NamedText& blueprint) {
    if (auto read = block::read_blueprint(blueprint.text, blueprint.file); !read)
        return tl::unexpected(read.error());
    block::JobOpened opened{title.trimmed().toStdString(), customer.trimmed().toStdString(), blueprint.file,
                            blueprint.text};
    auto job = book_.create_job({entry_of(std::move(opened), 1)});
    if (!job)
        return tl::unexpected(as_faults(job.error()));
    return open_job(*job);
}

Outcome Session::import_job(const block::NamedText& job_file) {
    auto entries = block::read_job(job_file.text, job_file.file);
    if (!entries)
        return tl::unexpected(entries.error());
    auto job = book_.create_job(*entries);
    if (!job)
        return tl::unexpected(as_faults(job.error()));
    return open_job(*job);
}

void Session::close_job() {
    job_.reset();
    entries_.clear();
    refresh();
    Q_EMIT job_opened();
}

Outcome Session::append(std::vector<Payload> payloads) {
    if (!job_)
        return tl::unexpected(one_fault("no job is open", "an open job"));
    std::vector<Entry> added;
    for (Payload& payload : payloads)
        added.push_back(entry_of(std::move(payload), static_cast<std::int64_t>(entries_.size() + added.size() + 1)));
    if (auto done = book_.append(*job_, added); !done)
        return tl::unexpected(as_faults(done.error()));
    const int first = static_cast<int>(entries_.size());
    entries_.insert(entries_.end(), added.begin(), added.end());
    refresh();
    Q_EMIT entries_added(first);
    return {};
}

Session::LogsToRead Session::logs_to_read(const std::vector<block::NamedText>& logs,
                                          std::optional<double> standard_uncertainty) const {
    LogsToRead to_read{entries_, logs, standard_uncertainty, read_logs_, {}};
    for (const block::NamedText& log : logs)
        to_read.payloads.push_back(block::ProbeLogTaken{log.file, "", log.text, {}, !to_read.payloads.empty()});
    return to_read;
}

Outcome Session::read_logs(LogsToRead& to_read) {
    const block::JobState before = block::fold(to_read.entries, &to_read.read);
    if (!before.blueprint)
        return tl::unexpected(one_fault("no job with a blueprint is open", "a job to take the log in"));
    for (Payload& payload : to_read.payloads) {
        auto& log = std::get<block::ProbeLogTaken>(payload);
        log.sha256 = sha256_hex(log.text);
        to_read.entries.push_back({static_cast<std::int64_t>(to_read.entries.size() + 1), "", "", payload});
    }
    // The fold is the judge: what it could not use is not taken in, and then every fault is wanted.
    const block::JobState after = block::fold(to_read.entries, &to_read.read);
    if (after.troubles.size() > before.troubles.size()) {
        const auto probe = block::read_probe_logs(to_read.logs, *before.blueprint, block::ProbeScope::part);
        return tl::unexpected(probe ? block::Faults{{to_read.logs.front().file, 0, after.troubles.back(), ""}}
                                    : probe.error());
    }
    std::optional<double>& u = to_read.standard_uncertainty;
    if (!u) // then what the logs themselves state holds; the newest stand first
        for (std::size_t i = 0; i < to_read.logs.size(); ++i)
            if (const auto stated = after.latest->logs[i].touch_uncertainty)
                u = std::max(u.value_or(0), *stated);
    for (Payload& payload : to_read.payloads)
        std::get<block::ProbeLogTaken>(payload).standard_uncertainty = u;
    return {};
}

Outcome Session::take_read_logs(LogsToRead to_read) {
    to_read.read.watch = nullptr;
    read_logs_ = std::move(to_read.read);
    return append(std::move(to_read.payloads));
}

Outcome Session::take_probe_logs(const std::vector<block::NamedText>& logs,
                                 std::optional<double> standard_uncertainty) {
    LogsToRead to_read = logs_to_read(logs, standard_uncertainty);
    if (auto read = read_logs(to_read); !read)
        return read;
    return take_read_logs(std::move(to_read));
}

Outcome Session::log_cut(const block::DeckCut& cut) {
    const bool felt = assessment_.feel(cut.bank) != nullptr; // a straightedge is measuring too
    if (!state_.decks.contains(cut.bank) || (!state_.deck(cut.bank).latest && !felt))
        return tl::unexpected(
            one_fault("bank " + cut.bank + " was not measured", "a measurement before the first cut"));
    if (!(cut.depth >= 0) || cut.depth > 5)
        return tl::unexpected(one_fault("the depth of the pass cannot be", "a depth from 0 to 5 mm"));
    std::vector<Payload> payloads;
    const block::DeckState& deck = state_.deck(cut.bank);
    const bool kept = std::ranges::any_of(state_.forecasts, [&](const auto& f) {
        return f.payload.bank == cut.bank && deck.latest && f.sequence > deck.latest->sequence;
    });
    if (deck.latest && !kept && deck.depth_since(deck.latest->sequence) == 0 && cut.depth > 0)
        if (const auto question = planning::ask_about_deck(state_, cut.bank))
            if (const auto* belief = beliefs_.insist(*question)) {
                const auto &removal = belief->surface.removal, &lowest = belief->surface.lowest;
                payloads.push_back(block::DeckForecastKept{cut.bank, removal.low, removal.high, lowest.low, lowest.high,
                                                           belief->decides});
            }
    payloads.push_back(cut);
    return append(std::move(payloads));
}

const planning::DeckBelief* Session::belief(const std::string& bank) {
    if (!state_.blueprint || !state_.decks.contains(bank))
        return nullptr;
    if (const auto known = beliefs_known_.find(bank); known != beliefs_known_.end())
        return &known->second;
    const auto question = planning::ask_about_deck(state_, bank);
    const planning::DeckBelief* belief = question ? beliefs_.want(*question) : nullptr;
    if (!belief)
        return nullptr;
    planning::DeckBelief whole = *belief;
    planning::find_contradictions(whole, state_);
    return &(beliefs_known_[bank] = std::move(whole));
}

const std::optional<planning::LocalFlatness>& Session::local_flatness(const std::string& bank) const {
    const auto [found, fresh] = local_flatness_.try_emplace(bank);
    if (fresh && state_.decks.contains(bank) && state_.deck(bank).latest)
        found->second = planning::local_flatness(state_.deck(bank).latest->result.points);
    return found->second;
}

Outcome Session::mark_flaw(const block::FlawMarked& flaw) {
    if (!state_.decks.contains(flaw.bank) || flaw.path.empty())
        return tl::unexpected(one_fault("the flaw has no place", "at least one place on a deck"));
    return append({flaw});
}

Outcome Session::decide_flaw(const block::FlawDecided& decided) {
    if (std::ranges::find(state_.flaws, decided.flaw, &block::KnownFlaw::sequence) == state_.flaws.end())
        return tl::unexpected(
            one_fault("no flaw stands in entry " + std::to_string(decided.flaw), "a flaw that was marked"));
    return append({decided});
}

Outcome Session::test_pressure(const block::PressureTested& test) {
    return append({test});
}

Outcome Session::fit_cutter(const block::CutterFitted& c) {
    if (!(c.diameter > 0) || c.teeth < 1 || c.teeth > 60 || c.nose_radius < 0 || !(c.speed > 0) || !(c.feed > 0) ||
        !(c.finish_speed > 0) || !(c.finish_feed > 0))
        return tl::unexpected(
            one_fault("the cutter cannot be", "diameter, speeds and feeds greater than 0, 1 to 60 teeth"));
    return append({c});
}

Outcome Session::note_finish(const block::FinishNoted& finish) {
    if (finish.ra && !(*finish.ra > 0))
        return tl::unexpected(one_fault("the roughness cannot be", "an Ra greater than 0"));
    return append({finish});
}

Outcome Session::choose_gasket(const block::GasketChosen& gasket) {
    if (!(gasket.ra_at_most > 0))
        return tl::unexpected(one_fault("the finish limit cannot be", "an Ra greater than 0"));
    return append({gasket});
}

Outcome Session::read_set_up(const block::SetUpRead& set_up) {
    if (!planning::correct_set_up(set_up))
        return tl::unexpected(one_fault("these readings fix no plane, or the feet no line",
                                        "at least three places not on one line, and two feet apart"));
    return append({set_up});
}

Outcome Session::state_figures(const block::EngineFigures& f) {
    const auto wrong = [](const std::optional<double>& x) { return x && !(*x > 0); };
    if (wrong(f.stroke) || wrong(f.rod) || wrong(f.pin_height) || wrong(f.chamber) || wrong(f.gasket_bore) ||
        wrong(f.gasket_thickness) || f.crevice < 0)
        return tl::unexpected(one_fault("a figure of the mock-up cannot be", "lengths and volumes greater than 0"));
    return append({f});
}

Outcome Session::log_head_work(const block::HeadWork& work) {
    if (work.cut < 0 || work.cut > 5 || (work.chamber && !(*work.chamber > 0)) ||
        (work.gap_low && work.gap_high && !(*work.gap_high > *work.gap_low)))
        return tl::unexpected(
            one_fault("the work on the head cannot be", "a cut from 0 to 5 mm, a volume, a bracket thinner first"));
    return append({work});
}

Outcome Session::take_reading(const block::Reading& reading) {
    if (!state_.blueprint || !state_.blueprint->lists(reading.at.feature))
        return tl::unexpected(one_fault(reading.at.feature.text() + " is not in the blueprint", "a feature it lists"));
    if (!std::isfinite(reading.value) || (reading.upper && !(*reading.upper > reading.value)))
        return tl::unexpected(one_fault("the reading cannot be", "a number; of a bracket, the thinner first"));
    return append({reading});
}

Outcome Session::state_conditions(const block::Conditions& conditions) {
    return append({block::ConditionsStated{conditions}});
}

Outcome Session::check_instrument(const block::RingCheck& check) {
    if (!(check.size > 0) || !(check.reading > 0))
        return tl::unexpected(one_fault("the check cannot be", "a size and what the instrument made of it"));
    return append({check});
}

Outcome Session::test_repeatability(const block::RepeatabilityTest& test) {
    if (test.readings.size() < 2)
        return tl::unexpected(
            one_fault("a repeatability test has " + std::to_string(test.readings.size()) + " readings",
                      "at least two, better five"));
    return append({test});
}

Outcome Session::cut_tunnel(const block::TunnelCut& cut) {
    return append({cut});
}

Outcome Session::choose_tunnel_policy(const block::TunnelPolicy& policy) {
    if (policy.target_diameter && !(*policy.target_diameter > 0))
        return tl::unexpected(one_fault("the finished size cannot be", "a size greater than 0"));
    if (policy.stock < 0 || policy.max_cap_cut < 0 || policy.max_rise < 0 || policy.max_side < 0)
        return tl::unexpected(one_fault("a limit of the tunnel plan is negative", "lengths of 0 or more"));
    return append({policy});
}

Outcome Session::cut_caps(const block::CapsCut& cut) {
    for (const auto& [id, depth] : cut.cuts)
        if (!(depth >= 0) || depth > 3 || !state_.blueprint || !state_.blueprint->lists(id))
            return tl::unexpected(
                one_fault("the cut of cap " + id.text() + " cannot be", "a depth from 0 to 3 mm of a listed main"));
    return append({cut});
}

Outcome Session::log_tunnel_pass(const block::TunnelPass& pass) {
    if (pass.kind == block::TunnelPassKind::strokes && (pass.strokes < 1 || pass.strokes > 10000))
        return tl::unexpected(one_fault("the number of strokes cannot be", "a whole number from 1"));
    if (pass.protrusion && !(*pass.protrusion > 0))
        return tl::unexpected(one_fault("the cutter's protrusion cannot be", "a length greater than 0"));
    return append({pass});
}

Outcome Session::tick_step(const std::string& step) {
    return append({block::StepDone{step}});
}

const planning::TunnelWork& Session::tunnel_work() const {
    if (!tunnel_work_)
        tunnel_work_ = planning::tunnel_work(
            state_, assessment_.gauge, assessment_.tunnel && !state_.probe_stale() ? &*assessment_.tunnel : nullptr);
    return *tunnel_work_;
}

const planning::TunnelStudy* Session::tunnel_study() const {
    if (!tunnel_study_ && tunnel_work().study) {
        tunnel_study_ = tunnel_work().study;
        planning::explain(*tunnel_study_);
    }
    return tunnel_study_ ? &*tunnel_study_ : nullptr;
}

Outcome Session::begin_rest(double minutes) {
    const QDateTime now = QDateTime::fromString(QString::fromStdString(clock_()), Qt::ISODate);
    const QDateTime until = now.addSecs(static_cast<qint64>(std::lround(minutes * 60)));
    return take(block::RestBegun{minutes, until.toUTC().toString(Qt::ISODate).toStdString()});
}

double Session::rest_left() const {
    if (!state_.rest)
        return 0;
    const QDateTime now = QDateTime::fromString(QString::fromStdString(clock_()), Qt::ISODate);
    const QDateTime until = QDateTime::fromString(QString::fromStdString(state_.rest->payload.until), Qt::ISODate);
    return std::max(0.0, static_cast<double>(now.secsTo(until)) / 60);
}

Outcome Session::take_trace(const block::FeatureId& bore, const block::NamedText& trace) {
    if (!state_.blueprint || !state_.blueprint->hole(bore))
        return tl::unexpected(one_fault(bore.text() + " is not in the blueprint", "a cylinder it lists"));
    if (const auto read = block::read_trace(trace); !read)
        return tl::unexpected(read.error());
    return append({block::TraceTaken{bore, trace.file, sha256_hex(trace.text), trace.text}});
}

Outcome Session::choose_reading_plan(const block::ReadingPlanChosen& plan) {
    if (plan.places.empty())
        return tl::unexpected(one_fault("the reading plan has no place left", "at least one place"));
    return append({plan});
}

Outcome Session::stream_lines(const QStringList& lines) {
    if (!job_)
        return tl::unexpected(one_fault("no job is open", "an open job for the probe's log"));
    if (const auto done = book_.append_stream(*job_, lines); !done)
        return tl::unexpected(as_faults(done.error()));
    return {};
}

std::size_t Session::streamed_touches() const {
    const storage::BookResult<QStringList> lines = job_ ? book_.stream(*job_) : QStringList();
    if (!lines)
        return 0;
    qsizetype head = 0; // remarks and the header row
    while (head < lines->size() && lines->at(head).startsWith(QLatin1Char('#')))
        ++head;
    return static_cast<std::size_t>(std::max<qsizetype>(lines->size() - head - 1, 0));
}

Outcome Session::take_stream(const QString& name) {
    const storage::BookResult<QStringList> lines = job_ ? book_.stream(*job_) : QStringList();
    if (!lines)
        return tl::unexpected(as_faults(lines.error()));
    if (lines->isEmpty())
        return tl::unexpected(one_fault("no touch has arrived", "touches of a probe"));
    const block::NamedText log{name.toStdString(), lines->join(QLatin1Char('\n')).toStdString() + "\n"};
    if (auto taken = take_probe_logs({log}, std::nullopt); !taken)
        return taken;
    drop_stream();
    return {};
}

Outcome Session::keep_stream_as_note() {
    const storage::BookResult<QStringList> lines = job_ ? book_.stream(*job_) : QStringList();
    if (!lines)
        return tl::unexpected(as_faults(lines.error()));
    if (auto noted =
            add_note(tr("A probe log was cut off after %n touches:\n", nullptr, static_cast<int>(streamed_touches())) +
                     lines->join(QLatin1Char('\n')));
        !noted)
        return noted;
    drop_stream();
    return {};
}

void Session::drop_stream() {
    if (job_)
        static_cast<void>(book_.clear_stream(*job_)); // lines that stay are only offered again
}

Outcome Session::choose_target(const block::DeckTargetChosen& target) {
    if (target.height && !(*target.height > 0))
        return tl::unexpected(one_fault("the deck height cannot be", "a height greater than 0"));
    if (target.ratio && !(*target.ratio > 1))
        return tl::unexpected(one_fault("the compression ratio cannot be", "a ratio greater than 1"));
    return append({target});
}

Outcome Session::choose_passes(const block::PassPlanChosen& passes) {
    if (!(passes.pass > 0) || passes.witness < 0 || passes.finish < 0 || passes.spring_passes < 0 ||
        passes.spring_passes > 20)
        return tl::unexpected(one_fault("the pass plan cannot be", "a pass greater than 0, the others not negative"));
    return append({passes});
}

Outcome Session::add_note(const QString& text) {
    if (text.trimmed().isEmpty())
        return tl::unexpected(one_fault("the note is empty", "some words"));
    return append({block::Note{text.trimmed().toStdString()}});
}

Outcome Session::strike(std::int64_t sequence, const QString& reason) {
    const auto out = block::struck(entries_);
    for (std::size_t i = 0; i < entries_.size(); ++i) {
        if (entries_[i].sequence != sequence)
            continue;
        if (std::holds_alternative<block::JobOpened>(entries_[i].payload))
            return tl::unexpected(one_fault("the first entry opens the job and cannot be struck", "a later entry"));
        if (out[i])
            return tl::unexpected(
                one_fault("entry " + std::to_string(sequence) + " is struck already", "an entry that stands"));
        return append({block::Strike{sequence, reason.trimmed().toStdString()}});
    }
    return tl::unexpected(one_fault("there is no entry " + std::to_string(sequence), "an entry of this job"));
}

const Entry* Session::undo_target() const {
    const auto out = block::struck(entries_);
    for (std::size_t i = entries_.size(); i-- > 0;)
        if (!out[i] && !std::holds_alternative<block::Strike>(entries_[i].payload))
            return std::holds_alternative<block::JobOpened>(entries_[i].payload) ? nullptr : &entries_[i];
    return nullptr;
}

const Entry* Session::redo_target() const {
    const auto out = block::struck(entries_);
    for (std::size_t i = entries_.size(); i-- > 0;) {
        const auto* strike = std::get_if<block::Strike>(&entries_[i].payload);
        if (!strike)
            return nullptr; // something new was done since
        if (!out[i] && strike->reason == undone)
            return &entries_[i];
    }
    return nullptr;
}

/// Logs that were taken in together come and go together.
/// @return index of the first entry of the group
std::size_t Session::group_of(std::int64_t sequence) const {
    if (sequence < 1 || sequence > static_cast<std::int64_t>(entries_.size()))
        return entries_.size(); // a strike of nothing, from a job made elsewhere
    auto index = static_cast<std::size_t>(sequence - 1);
    const auto continues = [this](std::size_t i) {
        const auto* log = std::get_if<block::ProbeLogTaken>(&entries_[i].payload);
        // A forecast is kept with the pass it stands before.
        return (log && log->continues) ||
               (i > 0 && std::holds_alternative<block::DeckForecastKept>(entries_[i - 1].payload));
    };
    while (index > 0 && continues(index))
        --index;
    return index;
}

Outcome Session::undo() {
    const Entry* target = undo_target();
    if (!target)
        return tl::unexpected(one_fault("there is nothing to undo", "an entry that stands"));
    std::vector<Payload> strikes;
    for (std::size_t i = group_of(target->sequence); i < static_cast<std::size_t>(target->sequence); ++i)
        strikes.push_back(block::Strike{entries_[i].sequence, undone});
    return append(std::move(strikes));
}

Outcome Session::redo() {
    const Entry* target = redo_target();
    if (!target)
        return tl::unexpected(one_fault("there is nothing to redo", "something undone"));
    const std::size_t group = group_of(std::get<block::Strike>(target->payload).sequence);
    const auto out = block::struck(entries_);
    std::vector<Payload> strikes;
    for (std::size_t i = 0; i < entries_.size(); ++i) {
        const auto* strike = std::get_if<block::Strike>(&entries_[i].payload);
        if (strike && !out[i] && strike->reason == undone && group_of(strike->sequence) == group)
            strikes.push_back(block::Strike{entries_[i].sequence, redone});
    }
    return append(std::move(strikes));
}

} // namespace pallix::session
