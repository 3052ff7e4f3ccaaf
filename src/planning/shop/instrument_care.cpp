// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/instrument_care.h"

#include "block/times.h"
#include "metrology/uncertainty.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <vector>

namespace pallix::planning {

using block::InstrumentEvent;
using block::InstrumentHappening;
using block::InstrumentHistory;

namespace {

constexpr std::size_t length_of_day = 10; // "2026-03-02"

const InstrumentEvent* last_of(const InstrumentHistory& history, InstrumentHappening what) {
    const auto found = std::ranges::find_if(history.rbegin(), history.rend(),
                                            [what](const auto& e) { return e.what == what && !e.struck; });
    return found == history.rend() ? nullptr : &*found;
}

double hours_between(const std::string& from, const std::string& to) {
    const auto a = block::read_time(from), b = block::read_time(to);
    return a && b ? std::chrono::duration<double, std::ratio<3600>>(*b - *a).count() : 0;
}

} // namespace

std::optional<ZeroDoubt> doubt_zero(const block::Instrument& i, const block::Conditions& conditions,
                                    const std::string& now, const block::LimitsChosen& limits,
                                    const InstrumentHistory& history, const std::string& here) {
    if (!reads_from_zero(i.kind) || !i.zero)
        return std::nullopt;
    const InstrumentEvent* zeroed = last_of(history, InstrumentHappening::zeroed);
    const std::string set = std::max(i.zero_time, zeroed ? zeroed->time : std::string());
    if (zeroed && !here.empty() && zeroed->person != here && zeroed->time >= i.zero_time)
        return ZeroDoubt{ZeroDoubted::taken, 0, zeroed->person};
    const auto since = [&](const InstrumentEvent* event) { return event && event->time > set; };
    if (const auto* repair = last_of(history, InstrumentHappening::repaired); since(repair))
        return ZeroDoubt{ZeroDoubted::repaired, 0};
    if (const auto* check = last_of(history, InstrumentHappening::checked); since(check)) {
        const double allowed = std::max(i.resolution, 2 * fixed_uncertainty(i).value_or(0));
        if (const double error = *check->error(); std::abs(error) > allowed)
            return ZeroDoubt{ZeroDoubted::drifted, error};
    }
    if (i.zero_c && conditions.gauge_c && std::abs(*conditions.gauge_c - *i.zero_c) > limits.zero_step)
        return ZeroDoubt{ZeroDoubted::warmed, *conditions.gauge_c - *i.zero_c};
    if (set.empty())
        return std::nullopt; // from before it was asked
    if (const double hours = hours_between(set, now); hours > limits.zero_hours)
        return ZeroDoubt{ZeroDoubted::old, hours};
    return std::nullopt;
}

InstrumentRecord record_of(const block::Instrument& i, const InstrumentHistory& history, const std::string& today) {
    InstrumentRecord record;
    record.last_check = i.last_check;
    std::vector<double> errors;
    for (const InstrumentEvent& event : history) {
        if (event.struck)
            continue;
        if (event.what == InstrumentHappening::repaired) {
            record.repaired = event.time;
            record.error.reset();
            record.spread.reset();
            record.spread_of = 0;
            errors.clear();
        }
        if (event.what == InstrumentHappening::repeated && event.spread) {
            record.spread = event.spread;
            record.spread_of = event.count;
        }
        if (const auto error = event.error()) {
            errors.push_back(*error);
            record.error = error;
            record.last_check = std::max(record.last_check, event.time.substr(0, length_of_day));
        }
    }
    record.checks = errors.size();
    if (errors.size() >= 2) {
        const auto found = metrology::repeatability(errors);
        record.usual_error = found.mean;
        record.error_spread = found.standard_deviation;
    }
    const auto checked = block::read_day(record.last_check);
    if (i.check_days > 0 && checked) {
        record.due = block::day_text(*checked + std::chrono::days(i.check_days));
        record.overdue = record.due < today.substr(0, length_of_day);
    } else if (i.check_days > 0) {
        record.overdue = true; // it is to be checked, and never was
    }
    return record;
}

} // namespace pallix::planning
