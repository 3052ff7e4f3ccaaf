// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/practice_work.h"

#include "block/metal.h"
#include "block/number_text.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "session/session_worked.h"
#include "workshop/practice/school.h"

#include <algorithm>
#include <utility>

namespace pallix::session {

PracticeWork::PracticeWork(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::job_opened, this, &PracticeWork::take_up_job);
    connect(&session_, &Session::entries_added, this, &PracticeWork::after);
    session_.work_with(
        [this](const planning::Step& step, planning::Answers answers) {
            return bench_ ? bench_->completed(step, std::move(answers)) : answers;
        },
        [this](const std::vector<block::Payload>& payloads) { before(payloads); });
    take_up_job();
}

PracticeWork::~PracticeWork() {
    session_.work_with({}, {});
}

bool PracticeWork::is_practice() const {
    return session_.has_job() && card_of(session_.state()).practice;
}

void PracticeWork::take_up_job() {
    bench_.reset();
    reckoning_.cancel();
    result_.reset();
    remarks_.clear();
    last_reading_.reset();
    metal_was_struck_ = false;
    if (is_practice() && !card_of(session_.state()).truth_opened)
        if (const auto truth = workshop::hidden_truth(session_.state()))
            bench_ = std::make_unique<workshop::PracticeBench>(*intake_of(session_.state()).blueprint, *truth,
                                                               session_.entries());
    Q_EMIT changed();
}

void PracticeWork::before(const std::vector<block::Payload>& payloads) {
    if (!bench_)
        return;
    remarks_.clear();
    last_reading_.reset();
    looked_ = true;
    for (const block::Payload& payload : payloads) {
        for (planning::Remark& remark : planning::remarks_on(session_.assessment(), payload))
            remarks_.push_back(std::move(remark));
        if (const auto* reading = std::get_if<block::Reading>(&payload))
            last_reading_ = *reading;
    }
}

void PracticeWork::after(int first) {
    if (!bench_)
        return;
    const auto& entries = session_.entries();
    if (!std::exchange(looked_, false)) { // a log, or something taken back
        remarks_.clear();
        last_reading_.reset();
    }
    metal_was_struck_ = std::any_of(entries.begin() + first, entries.end(), [&entries](const block::Entry& entry) {
        const auto* strike = std::get_if<block::Strike>(&entry.payload);
        return strike && strike->sequence > 0 && strike->sequence <= static_cast<std::int64_t>(entries.size()) &&
               block::takes_metal(entries[static_cast<std::size_t>(strike->sequence - 1)].payload);
    });
    for (std::size_t i = static_cast<std::size_t>(first); i < entries.size(); ++i)
        bench_->work(entries, i);
    if (card_of(session_.state()).truth_opened)
        bench_.reset();
    Q_EMIT changed();
}

Outcome PracticeWork::begin(const workshop::Exercise& exercise) {
    return session_.begin_job(workshop::opening_of(exercise));
}

namespace {

/// One more than any that was had of it.
template <class Same>
std::int64_t number_after(const storage::ShopBook& book, Same same) {
    std::int64_t next = 1;
    if (const auto had = book.exercises())
        for (const auto& one : *had)
            if (same(one))
                next = std::max(next, one.number + 1);
    return next;
}

} // namespace

std::int64_t PracticeWork::next_number(workshop::Theme theme, int level) const {
    const std::string key = workshop::theme_keys.at(static_cast<std::size_t>(theme));
    return number_after(session_.book(), [&](const auto& one) { return one.exercise == key && one.level == level; });
}

std::int64_t PracticeWork::next_copy() const {
    const std::string key = workshop::key_of_copy(session_.state());
    return number_after(session_.book(), [&](const auto& one) { return one.exercise == key; });
}

std::optional<QString> PracticeWork::reading(const block::MeasuredAt& at) {
    const auto sent = bench_ ? bench_->read(at) : std::nullopt;
    if (!sent)
        return std::nullopt;
    const auto number = [](double value, int decimals) {
        return QString::fromStdString(block::fixed_number(value, decimals));
    };
    if (sent->upper)
        return QStringLiteral("%1 mm %2 mm").arg(number(sent->value, 2), number(*sent->upper, 2));
    if (at.quantity == block::Quantity::temperature)
        return QStringLiteral("%1 C").arg(number(sent->value, 1));
    return QStringLiteral("%1 mm").arg(number(sent->value, 3));
}

block::Instrument PracticeWork::instrument(planning::Measuring what) const {
    return bench_ ? bench_->instrument(planning::usual_instrument(what)) : block::Instrument();
}

bool PracticeWork::has_probe() const {
    return bench_ && bench_->gauges().probe;
}

Outcome PracticeWork::probe() {
    if (!has_probe())
        return tl::unexpected(one_fault("there is no probe on this bench", "a gauge"));
    const block::ProbeLogTaken log = bench_->probe();
    return session_.take_probe_logs({{log.file, log.text}}, log.standard_uncertainty, true);
}

block::Result<double> PracticeWork::hold_against_ring(const std::string& instrument, double size) {
    if (!bench_)
        return tl::unexpected(one_fault("this block is no practice", "a practice job"));
    const block::RingCheck check = bench_->check(instrument, size);
    const auto taken = session_.take(check);
    return taken ? block::Result<double>(check.reading - check.size) : tl::unexpected(taken.error());
}

void PracticeWork::reckon(std::function<void()> then) {
    reckoning_.start([entries = session_.entries()](const Errand&) { return workshop::result_of(entries); },
                     {[this, then = std::move(then)](block::Result<workshop::PracticeResult> result) {
                          if (!result)
                              return Q_EMIT failed(QString::fromStdString(result.error().front().text()));
                          result_ = std::make_shared<const workshop::PracticeResult>(std::move(*result));
                          then();
                      },
                      [this](const QString& why) { Q_EMIT failed(why); }});
}

void PracticeWork::open_truth() {
    if (!bench_ || reckoning_.running())
        return;
    reckon([this, counted = session_.entries().size()] {
        if (session_.entries().size() != counted) // somebody worked on meanwhile: that counts as well
            return open_truth();
        if (const auto taken = session_.take(block::TruthOpened{result_->own.score()}); !taken) {
            result_.reset();
            return Q_EMIT failed(QString::fromStdString(taken.error().front().text()));
        }
        Q_EMIT opened();
    });
}

std::shared_ptr<const workshop::PracticeResult> PracticeWork::result() {
    if (!result_ && !reckoning_.running() && is_practice() && card_of(session_.state()).truth_opened)
        reckon([this] { Q_EMIT reckoned(); });
    return card_of(session_.state()).truth_opened ? result_ : nullptr;
}

} // namespace pallix::session
