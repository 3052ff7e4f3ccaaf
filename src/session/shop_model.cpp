// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_model.h"

#include "block/shop_papers.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/times.h"
#include "planning/common/assessment.h"
#include "session/shop_standing.h"
#include "session/wall_time.h"
#include "wording/shop/shop_words.h"
#include "wording/steps/step_words.h"

#include <QLocale>
#include <QtMath>
#include <algorithm>
#include <tuple>

namespace pallix::session {

using planning::JobHours;
using planning::WaitsFor;

ShopModel::ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent, Session::Clock clock)
    : QAbstractListModel(parent), book_(book), preferences_(preferences), clock_(std::move(clock)) {
    connect(&preferences, &Preferences::unit_changed, this, &ShopModel::change_unit);
}

namespace {

/// Who remembers standings: another version works them out anew.
QString reader_name() {
    return QStringLiteral("board %1, both units, by steps, with forecasts, serials and practice")
               .arg(QStringLiteral(PALLIX_VERSION)) +
           (wording::decimal_sign() == ',' ? QStringLiteral(", comma") : QString());
}

constexpr std::array units{block::Unit::mm, block::Unit::inch};
constexpr std::size_t length_of_day = 10; // "2026-03-02"

ShopModel::Row unreadable(const storage::JobRow& job, const QString& why) {
    ShopModel::Row row;
    row.id = job.id;
    row.title = job.title;
    row.opened = job.opened;
    row.waits = {why, why};
    row.readable = false;
    return row;
}

double days_between(const std::string& from, const std::string& to) {
    const auto a = block::read_day(from.substr(0, length_of_day)), b = block::read_day(to.substr(0, length_of_day));
    return a && b ? static_cast<double>((*b - *a).count()) : 0;
}

double all_minutes(const JobHours& hours) {
    double sum = 0;
    for (const auto& [stage, minutes] : hours.minutes)
        sum += minutes;
    return sum;
}

} // namespace

QString group_name(WaitsFor waits) {
    switch (waits) {
    case WaitsFor::part:
        return ShopModel::tr("for a part");
    case WaitsFor::person:
        return ShopModel::tr("for somebody");
    case WaitsFor::decision:
        return ShopModel::tr("for a decision");
    case WaitsFor::machine:
        return ShopModel::tr("at a machine");
    case WaitsFor::ready:
        return ShopModel::tr("ready");
    case WaitsFor::time:
        return ShopModel::tr("for time");
    case WaitsFor::practice:
        return ShopModel::tr("practice: no block of the shop's");
    case WaitsFor::delivered:
        break;
    }
    return ShopModel::tr("delivered");
}

planning::TypedTimes typed_times(const storage::ShopBook& book) {
    planning::TypedTimes typed;
    const auto known = book.usual().minutes();
    for (std::size_t i = 0; i < planning::work_keys.size(); ++i)
        if (const auto found = known.find(planning::work_keys[i]); found != known.end())
            typed[static_cast<planning::Work>(i)] = found->second;
    return typed;
}

ShopModel::Row ShopModel::row_of(const storage::JobRow& job) {
    if (!job.damage.isEmpty())
        return unreadable(job, job.damage);
    if (!job.standing.isEmpty())
        return recalled(job);
    const Row row = worked_out(job);
    if (row.readable && !row.hangs_on_time)
        book_.remember_standing(job.id, job.entries, reader_name(), remembered(row));
    return row;
}

ShopModel::Row ShopModel::worked_out(const storage::JobRow& job) const {
    const auto entries = book_.entries(job.id);
    if (!entries)
        return unreadable(job, entries.error().what);
    Row row;
    row.id = job.id;
    row.title = job.title;
    row.opened = job.opened;
    try {
        const std::string at = clock_();
        const block::Folded state = block::fold(*entries);
        const planning::Assessment assessment = planning::assess(state, nullptr, at);
        row.customer = QString::fromStdString(intake_of(state).customer);
        row.engine = intake_of(state).blueprint ? QString::fromStdString(intake_of(state).blueprint->name) : QString();
        for (std::size_t i = 0; i < units.size(); ++i)
            row.waits[i] = QString::fromStdString(wording::waits_for(state, assessment, wording::LengthText(units[i])));
        row.stages = assessment.stages;
        row.hangs_on_time = std::ranges::any_of(assessment.steps.steps, [](const planning::Step& step) {
            return std::ranges::any_of(step.waits_for, [](const planning::Wait& wait) { return !wait.until.empty(); });
        });
        row.standing = planning::standing_of(state, assessment, *entries, at);
        row.standing.words = QString::fromStdString(row.standing.words).toLower().toStdString(); // of any alphabet
        if (row.standing.practised)
            return row; // it teaches the shop nothing of its blocks, gauges and hours
        row.traits = planning::traits_of(state);
        row.forecasts = forecasts_text(planning::forecasts_that_came(state));
        row.hours = planning::job_hours(*entries, row.engine.toStdString(), row.standing.waits == WaitsFor::delivered);
    } catch (const std::exception& error) { // the list goes on without it
        return unreadable(job, tr("This job cannot be worked out (%1).").arg(QString::fromUtf8(error.what())));
    }
    return row;
}

void ShopModel::reload() {
    beginResetModel();
    rows_.clear();
    if (const auto jobs = book_.jobs(reader_name()))
        for (const storage::JobRow& job : *jobs) {
            rows_.push_back(row_of(job));
            rows_.back().set_aside = job.set_aside;
        }
    shop_hours_.clear();
    hours_left_.clear();
    typed_ = typed_times(book_);
    std::vector<double> rates;
    for (const Row& row : rows_)
        if (row.readable && row.hours.delivered) {
            shop_hours_.push_back(row.hours);
            if (const double minutes = all_minutes(row.hours); minutes > 0)
                rates.push_back(minutes /
                                std::max(1.0, days_between(row.opened.toStdString(), row.standing.delivered)));
        }
    minutes_a_day_ = rates.empty() ? 0 : planning::median(std::move(rates));
    arrange();
    endResetModel();
}

/// Which are shown, in the order of the board: what is overdue first, then by the promised day, the newest first.
void ShopModel::arrange() {
    set_aside_ = static_cast<int>(std::ranges::count(rows_, true, &Row::set_aside));
    delivered_ = static_cast<int>(
        std::ranges::count_if(rows_, [](const Row& row) { return row.standing.waits == WaitsFor::delivered; }));
    const QStringList wanted = search_.toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    const auto fits = [&](const Row& row) {
        const QString words = QString::fromStdString(row.standing.words) + QLatin1Char(' ') + row.title.toLower();
        return std::ranges::all_of(wanted, [&words](const QString& word) { return words.contains(word); });
    };
    shown_.clear();
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const Row& row = rows_[i];
        const bool gone = row.standing.waits == WaitsFor::delivered && !with_delivered_ && wanted.empty();
        if ((all_ || !row.set_aside) && !gone && fits(row))
            shown_.push_back(i);
    }
    const std::string today = clock_().substr(0, length_of_day);
    std::ranges::stable_sort(shown_, {}, [&](std::size_t i) {
        const planning::JobStanding& s = rows_[i].standing;
        const bool overdue = !s.due.empty() && s.due < today;
        return std::tuple(static_cast<int>(s.waits), !overdue, s.promised.empty(), s.promised);
    });
}

void ShopModel::list_anew() {
    beginResetModel();
    arrange();
    endResetModel();
}

void ShopModel::show_set_aside(bool shown) {
    all_ = shown;
    list_anew();
}

void ShopModel::show_delivered(bool shown) {
    with_delivered_ = shown;
    list_anew();
}

void ShopModel::search(const QString& words) {
    if (words == search_)
        return;
    // Of a scanned paper only its serial is looked for.
    const bool scanned =
        words.trimmed().startsWith(QLatin1String(block::serial_mark.data(), block::serial_mark.size()));
    search_ = scanned ? QString::fromStdString(block::serial_in(words.toStdString())) : words;
    list_anew();
}

std::optional<storage::JobId> ShopModel::job_of_serial(const QString& typed) const {
    const std::string serial = block::serial_in(typed.toStdString());
    const auto given = book_.serials();
    if (serial.empty() || !given)
        return std::nullopt;
    const auto last =
        std::find_if(given->rbegin(), given->rend(), [&](const auto& one) { return one.serial == serial; });
    return last == given->rend() ? std::nullopt : std::optional(last->job);
}

void ShopModel::change_unit() {
    if (!shown_.empty())
        Q_EMIT dataChanged(index(0), index(static_cast<int>(shown_.size()) - 1), {waits_role, Qt::AccessibleTextRole});
}

void ShopModel::reload_job(storage::JobId job) {
    const auto jobs = book_.jobs(reader_name());
    const auto known = std::ranges::find(rows_, job, &Row::id);
    const auto found = jobs ? std::ranges::find(*jobs, job, &storage::JobRow::id) : decltype(jobs->begin())();
    if (!jobs || known == rows_.end() || found == jobs->end())
        return reload();
    *known = row_of(*found);
    hours_left_.erase(job);
    known->set_aside = found->set_aside;
    std::vector<std::size_t> before = shown_;
    arrange();
    if (shown_ == before) {
        if (const int at = index_of(job); at >= 0)
            Q_EMIT dataChanged(index(at), index(at));
        return;
    }
    std::swap(shown_, before);
    beginResetModel();
    std::swap(shown_, before);
    endResetModel();
}

int ShopModel::index_of(storage::JobId job) const {
    const auto found = std::ranges::find_if(shown_, [&](std::size_t i) { return rows_[i].id == job; });
    return found == shown_.end() ? -1 : static_cast<int>(found - shown_.begin());
}

const planning::HoursLeft& ShopModel::hours_left(const Row& row) const {
    if (const auto known = hours_left_.find(row.id); known != hours_left_.end())
        return known->second;
    const std::string engine = row.engine.toStdString();
    double listed = 0;
    for (const auto& [work, times] : row.standing.open)
        listed += times * planning::usual_time(shop_hours_, work, engine, {}, typed_).minutes;
    return hours_left_[row.id] = planning::hours_left(shop_hours_, engine, row.standing.left, listed);
}

std::optional<planning::Promise> ShopModel::promise(const Row& row) const {
    const std::string now = clock_();
    const double days = days_between(row.opened.toStdString(), now);
    constexpr double enough = 120; // minutes: before that a job's own pace says nothing
    const double own = days >= 1 && row.standing.spent >= enough ? row.standing.spent / days : 0;
    return planning::promise(row.standing.promised, hours_left(row).minutes, own > 0 ? own : minutes_a_day_, now);
}

bool ShopModel::late(const Row& row) const {
    const auto kept = promise(row);
    const bool over = !row.standing.promised.empty() && row.standing.promised < clock_().substr(0, length_of_day);
    return planning::is_at_work(row.standing.waits) && (over || (kept && !kept->kept));
}

bool ShopModel::overdue(const Row& row) const {
    return planning::is_at_work(row.standing.waits) && !row.standing.due.empty() &&
           row.standing.due < clock_().substr(0, length_of_day);
}

/// "promised 04/12 · ready 03/12"
QString ShopModel::day_of(const Row& row) const {
    if (!row.readable)
        return {};
    if (row.standing.waits == WaitsFor::delivered)
        return tr("delivered %1").arg(day_words(row.standing.delivered));
    QStringList parts;
    if (!row.standing.promised.empty())
        parts << tr("promised %1").arg(day_words(row.standing.promised));
    if (const auto kept = promise(row))
        parts << (kept->kept ? tr("ready %1") : tr("late: ready %1")).arg(day_words(kept->ready));
    return parts.join(QStringLiteral("  ·  "));
}

/// "6.0 h left, 4.5 to 9.0 in 8 of 10 such jobs"
QString ShopModel::hours_of(const Row& row) const {
    if (!row.readable || !planning::is_at_work(row.standing.waits))
        return {};
    const planning::HoursLeft& left = hours_left(row);
    const auto hours = [](double minutes) { return QLocale().toString(minutes / 60, 'f', minutes < 600 ? 1 : 0); };
    if (left.least && left.most)
        return tr("%1 h left, %2 to %3 in %4 of 10 such jobs")
            .arg(hours(left.minutes), hours(*left.least), hours(*left.most))
            .arg(qFloor(10 * left.holds));
    return left.minutes > 0 ? tr("%1 h listed").arg(hours(left.minutes)) : QString();
}

/// "gasket set, due 04/03: overdue"
QString ShopModel::part_of(const Row& row) const {
    if (!row.readable || row.standing.part.empty() || !planning::is_at_work(row.standing.waits))
        return {};
    const QString part = QString::fromStdString(row.standing.part);
    if (row.standing.due.empty())
        return tr("%1 not here").arg(part);
    return (overdue(row) ? tr("%1, due %2: overdue") : tr("%1, due %2")).arg(part, day_words(row.standing.due));
}

int ShopModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(shown_.size());
}

QVariant ShopModel::data(const QModelIndex& index, int role) const {
    if (!checkIndex(index, CheckIndexOption::IndexIsValid | CheckIndexOption::ParentIsInvalid))
        return {};
    const Row& r = row(index.row());
    const auto waits = [&] { return with_wall_times(r.waits[preferences_.unit() == units[0] ? 0 : 1]); };
    switch (role) {
    case Qt::DisplayRole:
        return r.title;
    case Qt::AccessibleTextRole:
        return r.readable ? tr("%1, %2, next: %3").arg(r.title, r.engine, waits()) : tr("%1: %2").arg(r.title, waits());
    case job_role:
        return r.id;
    case customer_role:
        return r.customer;
    case engine_role:
        return r.engine;
    case waits_role:
        return waits();
    case readable_role:
        return r.readable;
    case opened_role:
        return r.opened;
    case group_role: {
        const bool first = index.row() == 0 || row(index.row() - 1).standing.waits != r.standing.waits;
        return first && r.readable ? group_name(r.standing.waits) : QString();
    }
    case day_role:
        return day_of(r);
    case hours_role:
        return hours_of(r);
    case part_role:
        return part_of(r);
    case overdue_role:
        return r.readable && overdue(r);
    case late_role:
        return r.readable && late(r);
    case stages_role: {
        QVariantList marks;
        for (const auto& stage : r.stages)
            marks << static_cast<int>(stage.mark);
        return marks;
    }
    default:
        return {};
    }
}

} // namespace pallix::session
