// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/session.h"

#include "block/digest.h"
#include "block/drawing/recipe.h"
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/profile_trace.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/entry_rules.h"
#include "planning/common/usual_figures.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_shape.h"
#include "planning/readings/log_doubts.h"
#include "planning/shop/forecasts.h"
#include "planning/steps/any_time.h"
#include "planning/tunnel/tunnel_work.h"
#include "session/session_worked.h"
#include "session/x3p_trace.h"
#include "wording/common/blueprint_words.h"
#include "wording/common/sentences.h"
#include "wording/steps/step_words.h"

#include <QDateTime>
#include <QTimeZone>
#include <algorithm>
#include <cmath>
#include <map>

namespace pallix::session {

using block::Entry;
using block::Payload;

namespace {

/// A job from elsewhere is folded, assessed and worded before it is written: what one of them cannot take would stand
/// in the way at every later start.
/// What is wrong with an entry of a whole ledger. What makes it practice, and what ends that, has its place in it.
std::optional<block::Fault> fault_in(const std::vector<Entry>& entries, std::size_t i, const block::JobState& all) {
    const Payload& payload = entries[i].payload;
    if (!std::holds_alternative<block::PracticeBegun>(payload) && !std::holds_alternative<block::TruthOpened>(payload))
        return planning::fault_of(all, payload);
    const block::Folded before = block::fold({entries.begin(), entries.begin() + static_cast<std::ptrdiff_t>(i)});
    return planning::fault_now(before, planning::assess(before), payload);
}

Outcome holds_together(const std::vector<Entry>& entries, const std::string& file) {
    try {
        const block::Folded state = block::fold(entries);
        if (!intake_of(state).troubles.empty()) {
            block::Faults faults;
            for (const block::Trouble& trouble : intake_of(state).troubles)
                faults.push_back({file, 0, trouble.words, ""});
            return tl::unexpected(std::move(faults));
        }
        block::Faults faults;
        const std::vector<bool> out = block::struck(entries);
        for (std::size_t i = 0; i < entries.size(); ++i)
            if (const auto fault = out[i] ? std::nullopt : fault_in(entries, i, state))
                faults.push_back({file, 0, block::entry_words(entries[i]) + ": " + fault->what, fault->expected});
        if (!faults.empty())
            return tl::unexpected(std::move(faults));
        const planning::Assessment assessment = planning::assess(state);
        const wording::LengthText lengths(block::Unit::mm);
        static_cast<void>(wording::call_text(state, assessment, lengths));
        static_cast<void>(wording::waits_for(state, assessment, lengths));
        for (const Entry& entry : entries)
            static_cast<void>(wording::entry_sentence(entry, state, lengths));
        return {};
    } catch (const std::exception& error) {
        return tl::unexpected(
            block::Faults{{file, 0, std::string("the job cannot be worked out (") + error.what() + ")",
                           "entries that belong together"}});
    }
}

} // namespace

block::Faults as_faults(const storage::BookFault& fault) {
    return {{"shop book", 0, fault.what.toStdString() + " " + fault.way_out.toStdString(), ""}};
}

Session::Session(storage::ShopBook& book, Person person, Clock clock, QObject* parent)
    : QObject(parent), book_(book), person_(std::move(person)), clock_(std::move(clock)),
      worked_(std::make_unique<Worked>()) {
    book_.works_for([this] { return QString::fromStdString(person_()); });
    connect(&worked_->certainty, &CertaintyWork::ready, this, [this] {
        worked_->assessment = assessed(worked_->state, clock_());
        Q_EMIT certainty_known();
    });
    connect(&worked_->beliefs, &BeliefWork::ready, this, [this] {
        if (draws_certainty_ && !planning::banks_to_believe(worked_->state).empty()) {
            worked_->assessment = assessed(worked_->state, clock_());
            Q_EMIT depths_known();
        }
        Q_EMIT belief_known();
    });
    connect(&worked_->beliefs, &BeliefWork::failed, this, &Session::remarked);
    connect(&worked_->certainty, &CertaintyWork::failed, this, &Session::remarked);
    constexpr int idle_after = 2000; // ms
    idle_.setSingleShot(true);
    idle_.setInterval(idle_after);
    connect(&idle_, &QTimer::timeout, this, [this] { book_.tidy(); });
    rest_.setSingleShot(true);
    connect(&rest_, &QTimer::timeout, this, [this] {
        planning::look_again(worked_->assessment, worked_->state, clock_());
        Q_EMIT time_passed();
        wait_for_rest();
    });
    refresh();
}

Session::~Session() {
    book_.works_for({});
    worked_->writing.insist();
}

const block::JobState& Session::state() const {
    return worked_->state;
}
const planning::Assessment& Session::assessment() const {
    return worked_->assessment;
}
Session::Clock Session::system_clock() {
    return [] { return QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString(); };
}

void Session::refresh() {
    block::Folded state = block::fold(entries_, &read_logs_);
    planning::Assessment assessment = assessed(state, clock_());
    take_over(std::move(state), std::move(assessment));
}

void Session::take_over(block::Folded state, planning::Assessment assessment) {
    worked_->state = std::move(state);
    look_anew(std::move(assessment));
}

void Session::look_anew(planning::Assessment assessment) {
    worked_->assessment = std::move(assessment);
    worked_->local_flatness.clear();
    worked_->beliefs_known.clear();
    worked_->tunnel_study.reset();
    wait_for_rest();
    if (draws_certainty_ && intake_of(worked_->state).blueprint && tunnel_of(worked_->state).latest &&
        tunnel_of(worked_->state).latest->standard_uncertainty)
        worked_->certainty.want(*intake_of(worked_->state).blueprint, *tunnel_of(worked_->state).latest);
    if (draws_certainty_)
        for (const std::string& bank : planning::banks_to_believe(worked_->state))
            static_cast<void>(belief(bank));
}

/// What waits for a time is looked at again when it has come.
void Session::wait_for_rest() {
    constexpr double a_little_later = 0.5; // s: times are whole seconds
    rest_.stop();
    constexpr double at_most = 24 * 60; // minutes: longer than a timer would take, it looks again
    if (const double minutes = minutes_left(); minutes > 0)
        rest_.start(static_cast<int>((60 * std::min(minutes, at_most) + a_little_later) * 1000));
}

Entry Session::entry_of(Payload payload, std::int64_t sequence, std::string time) const {
    return {sequence, std::move(time), person_(), std::move(payload)};
}

Session::JobToOpen Session::job_to_open(storage::JobId job) const {
    return {job, book_.beside(), {}, {}};
}

Outcome Session::read_job(JobToOpen& job, const block::ReadWatch* watch) {
    auto entries = job.book.entries(job.job);
    if (!entries)
        return tl::unexpected(as_faults(entries.error()));
    if (entries->empty())
        return tl::unexpected(one_fault("there is no such job in the shop book", "one of the shop list"));
    job.entries = std::move(*entries);
    job.read.watch = watch;
    try {
        if (watch)
            static_cast<void>(block::fold(job.entries, &job.read)); // its logs are read then
    } catch (const std::exception&) {
        job.read = {}; // opening it says why
    }
    job.read.watch = nullptr;
    return {};
}

Outcome Session::open_job(JobToOpen job) {
    worked_->writing.insist();
    if (job_ == job.job && entries_.size() > job.entries.size())
        return open_job(job.job); // it was added to while it was read
    worked_->beliefs.forget();
    worked_->certainty.forget();
    try {
        block::Folded state = block::fold(job.entries, &job.read);
        planning::Assessment assessment = planning::assess(state, nullptr, clock_());
        job_ = job.job;
        entries_ = std::move(job.entries);
        read_logs_ = std::move(job.read);
        take_over(std::move(state), std::move(assessment));
    } catch (const std::exception& error) {
        return tl::unexpected(one_fault(std::string("this job cannot be worked out (") + error.what() + ")",
                                        "a job that can; its entries are kept, and it can be set aside"));
    }
    book_.keep_at_hand(job.job);
    Q_EMIT job_opened();
    if (const auto told = bench_changed(); !told) // it can be read all the same
        Q_EMIT remarked(QString::fromStdString(told.error().front().text()));
    return {};
}

Outcome Session::open_job(storage::JobId job) {
    worked_->writing.insist();
    JobToOpen to_open = job_to_open(job);
    if (auto read = read_job(to_open); !read)
        return read;
    return open_job(std::move(to_open));
}

Outcome Session::new_job(const QString& title, const QString& customer, const block::NamedText& blueprint, bool sure) {
    asks_ = false;
    const auto read = block::blueprint_from(blueprint.text, blueprint.file);
    if (!read)
        return tl::unexpected(read.error());
    auto doubts = planning::doubts_about_blueprint(*read, blueprint.file);
    asks_ = !sure && !doubts.empty();
    if (asks_)
        return tl::unexpected(std::move(doubts));
    return create_job(
        block::JobOpened{title.trimmed().toStdString(), customer.trimmed().toStdString(), blueprint.file, read->source},
        read->name, {});
}

Outcome Session::new_job(const QString& title, const QString& customer, const block::Engine& engine, int revision) {
    asks_ = false;
    const auto drawn = block::draw(engine.recipe, engine.name());
    if (!drawn)
        return tl::unexpected(drawn.error());
    auto usual = planning::usual_entries(engine, *drawn);
    if (!usual)
        return tl::unexpected(usual.error());
    block::JobOpened opened{title.trimmed().toStdString(), customer.trimmed().toStdString(),
                            engine.name() + ".pallix-engine.json", drawn->source};
    if (revision > 0) {
        opened.engine = engine.name();
        opened.revision = revision;
    }
    return create_job(std::move(opened), drawn->name, std::move(*usual));
}

/// @param name the engine's, as its blueprint has it
/// @param more what the job begins with
Outcome Session::create_job(block::JobOpened opened, const std::string& name, std::vector<block::Payload> more) {
    const QString engine = QString::fromStdString(opened.engine);
    more.insert(more.begin(), Payload(std::move(opened)));
    if (auto limits = limits_of_shop())
        more.emplace_back(std::move(*limits));
    if (auto route = book_.usual().route(engine))
        more.emplace_back(std::move(*route));
    if (block::Experience taught = teacher_ ? teacher_(name) : block::Experience();
        !taught.traits.empty() || !taught.forecasts.empty())
        more.emplace_back(std::move(taught));
    if (book_.usual().papers())
        if (auto serial = next_serial())
            more.emplace_back(block::SerialGiven{std::move(*serial), ""});
    return begin_job(std::move(more));
}

Outcome Session::begin_job(std::vector<Payload> opening) {
    std::vector<block::Entry> entries;
    entries.reserve(opening.size());
    const std::string now = clock_();
    for (Payload& payload : opening) {
        if (const auto faults = block::faults_in(payload); !faults.empty())
            return tl::unexpected(
                one_fault("the job's " + faults.front().field + " " + faults.front().what, faults.front().expected));
        entries.push_back(entry_of(std::move(payload), static_cast<std::int64_t>(entries.size()) + 1, now));
    }
    return open_new(entries);
}

Outcome Session::import_job(const block::NamedText& job_file) {
    auto entries = block::read_job(job_file.text, job_file.file);
    if (!entries)
        return tl::unexpected(entries.error());
    if (auto sound = holds_together(*entries, job_file.file); !sound)
        return sound;
    return open_new(*entries);
}

Outcome Session::open_new(const std::vector<block::Entry>& entries) {
    auto job = book_.create_job(entries);
    if (!job && job.error().no_answer && book_.go_alone())
        job = book_.create_job(entries);
    if (!job)
        return tl::unexpected(as_faults(job.error()));
    return open_job(*job);
}

void Session::close_job() {
    worked_->writing.insist();
    worked_->beliefs.forget();
    worked_->certainty.forget();
    job_.reset();
    entries_.clear();
    refresh();
    Q_EMIT job_opened();
}

Outcome Session::append(std::vector<Payload> payloads) {
    if (!job_)
        return tl::unexpected(one_fault("no job is open", "an open job"));
    worked_->writing.insist(); // one after the other
    const bool tells = !payloads.empty() && std::holds_alternative<block::AtBench>(payloads.front());
    if (auto bench = bench_to_tell(); bench && !payloads.empty() && !tells)
        payloads.insert(payloads.begin(), std::move(*bench));
    const std::size_t first = entries_.size();
    const std::string now = clock_(); // what is done together has one time
    look_at_clock(now);
    for (Payload& payload : payloads)
        entries_.push_back(entry_of(std::move(payload), static_cast<std::int64_t>(entries_.size() + 1), now));
    const auto refuse = [&](block::Faults faults) {
        entries_.resize(first);
        return tl::unexpected(std::move(faults));
    };
    const auto write = [&] { return write_from(first); };
    // It is worked out before it is written: what cannot be would stand in the way at every later start.
    try {
        if (entries_.size() == first + 1 && std::holds_alternative<block::Reading>(entries_.back().payload)) {
            block::fold_reading(worked_->state, entries_.back());
            planning::Assessment assessment = assessed(worked_->state, now);
            if (auto done = write(); !done) {
                auto refused = refuse(as_faults(done.error()));
                refresh(); // the reading stands in the state already
                return done.error().written_meanwhile ? after_others() : refused;
            }
            look_anew(std::move(assessment));
        } else {
            block::Folded state = block::fold(entries_, &read_logs_);
            planning::Assessment assessment = assessed(state, now);
            if (auto done = write(); !done) {
                auto refused = refuse(as_faults(done.error()));
                return done.error().written_meanwhile ? after_others() : refused;
            }
            take_over(std::move(state), std::move(assessment));
        }
    } catch (const std::exception& error) {
        auto refused = refuse(
            one_fault(std::string("this cannot be worked out (") + error.what() + ")", "an entry that fits the job"));
        refresh(); // a reading may stand in the state already
        return refused;
    }
    idle_.start();
    Q_EMIT entries_added(static_cast<int>(first));
    return {};
}

/// The order of entries is their numbers; their times are the clock's.
void Session::look_at_clock(const std::string& now) {
    if (entries_.empty() || now >= entries_.back().time)
        return;
    Q_EMIT remarked(
        tr("The clock was set back: it says %1, and the last entry was made at %2. Entries keep their order; see "
           "that the clock is right.")
            .arg(QString::fromStdString(now), QString::fromStdString(entries_.back().time)));
}

Outcome Session::take_now(std::vector<Payload> payloads) {
    block::Faults faults;
    for (Payload& payload : payloads) {
        for (const block::FieldFault& fault : block::faults_in(payload))
            faults.push_back({"job", 0, fault.said(), ""});
        if (faults.empty())
            if (auto fault = planning::fault_now(worked_->state, worked_->assessment, payload))
                faults.push_back(std::move(*fault));
    }
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    keep_forecasts(payloads);
    if (onlooker_)
        onlooker_(payloads);
    return append(std::move(payloads));
}

Outcome Session::take(Payload payload) {
    std::vector<Payload> one;
    one.push_back(std::move(payload));
    return take_all(std::move(one));
}

block::Result<std::vector<std::string>> Session::if_amended(const block::BlueprintAmended& amended,
                                                            block::Unit unit) const {
    const wording::LengthText l(unit);
    const block::JobState& state = worked_->state;
    if (!job_ || !intake_of(state).blueprint)
        return tl::unexpected(one_fault("no job is open", "an open job"));
    if (auto fault = planning::fault_of(state, amended))
        return tl::unexpected(block::Faults{std::move(*fault)});
    std::vector<Entry> entries = entries_;
    const std::string now = clock_();
    entries.push_back(entry_of(amended, static_cast<std::int64_t>(entries.size() + 1), now));
    block::ReadLogs logs = read_logs_;
    const block::Folded after = block::fold(entries, &logs);
    if (intake_of(after).troubles.size() > intake_of(state).troubles.size())
        return tl::unexpected(
            one_fault(intake_of(after).troubles.back().words, "a blueprint that fits what was measured"));
    std::vector<std::string> changes =
        wording::blueprint_changes(*intake_of(state).blueprint, *intake_of(after).blueprint, l);
    if (changes.empty())
        return tl::unexpected(one_fault("it is the blueprint that the job has", "one that differs from it"));
    for (std::string& line : wording::amendment_changes(state, worked_->assessment, after, assessed(after, now), l))
        changes.push_back(std::move(line));
    return changes;
}

/// What is expected of the first pass of a deck and of the first go with the hone is kept before it, so that it can be
/// held against what came.
void Session::keep_forecasts(std::vector<Payload>& payloads) {
    const block::JobState& now = worked_->state;
    for (std::size_t i = 0; i < payloads.size(); ++i) {
        std::optional<Payload> kept;
        if (const auto* cut = std::get_if<block::DeckCut>(&payloads[i]);
            cut && planning::keeps_deck_forecast(now, *cut)) {
            const auto question = planning::ask_about_deck(now, cut->bank);
            if (const auto* belief = question ? worked_->beliefs.insist(*question) : nullptr)
                kept = planning::kept_forecast(*belief);
        } else if (const auto* pass = std::get_if<block::TunnelPass>(&payloads[i])) {
            if (const auto study = planning::keeps_rise_forecast(now, *pass) ? tunnel_study() : nullptr)
                if (auto rise = planning::kept_forecast(*study))
                    kept = std::move(*rise);
        }
        if (kept)
            payloads.insert(payloads.begin() + static_cast<std::ptrdiff_t>(i++), std::move(*kept));
    }
}

const std::optional<planning::LocalFlatness>& Session::local_flatness(const std::string& bank) const {
    const auto [found, fresh] = worked_->local_flatness.try_emplace(bank);
    if (fresh && decks_of(worked_->state).decks.contains(bank) && decks_of(worked_->state).deck(bank).latest)
        found->second = planning::local_flatness(decks_of(worked_->state).deck(bank).latest->result.points);
    return found->second;
}

const planning::TunnelWork& Session::tunnel_work() const {
    return worked_->assessment.tunnel_work;
}

std::shared_ptr<const planning::TunnelStudy> Session::tunnel_study() const {
    if (!worked_->tunnel_study && intake_of(worked_->state).blueprint)
        if (auto known = planning::study_tunnel(worked_->state)) {
            planning::explain(*known, planning::draw_housings(worked_->state, *known));
            worked_->tunnel_study = std::make_shared<const planning::TunnelStudy>(std::move(*known));
        }
    return worked_->tunnel_study;
}

double Session::minutes_left(const std::string& until) const {
    const std::string now = clock_();
    std::string next = until;
    if (until.empty())
        for (const planning::Step& step : worked_->assessment.steps.steps)
            for (const planning::Wait& wait : step.waits_for)
                if (wait.until > now && (next.empty() || wait.until < next))
                    next = wait.until;
    const auto from = block::read_time(now), to = block::read_time(next);
    return from && to ? std::max(0.0, std::chrono::duration<double, std::ratio<60>>(*to - *from).count()) : 0;
}

Outcome Session::take_trace(const block::FeatureId& bore, const block::NamedText& trace) {
    if (!intake_of(worked_->state).blueprint || !intake_of(worked_->state).blueprint->hole(bore))
        return tl::unexpected(one_fault(bore.text() + " is not in the blueprint", "a cylinder it lists"));
    auto ours = is_x3p(trace) ? trace_of_x3p(trace) : block::Result<block::NamedText>(trace);
    if (!ours)
        return tl::unexpected(ours.error());
    if (const auto read = block::read_trace(*ours); !read)
        return tl::unexpected(read.error());
    const std::string sum = block::sha256_hex(ours->text);
    return take(block::TraceTaken{bore, ours->file, sum, std::move(ours->text)});
}

} // namespace pallix::session
