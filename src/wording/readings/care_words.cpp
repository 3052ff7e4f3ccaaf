// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/readings/care_words.h"

#include "wording/common/phrases.h"

#include <cmath>

namespace pallix::wording {
namespace {

/// How far a gauge is off, finer than lengths are told otherwise: "0.0006 mm too much"; "as it should" within a tenth
/// of a micrometre.
std::string off_words(double error, const LengthText& l) {
    constexpr double needle = 0.0001; // mm
    return std::abs(error) < needle ? "as it should"
                                    : l.fine(std::abs(error)) + (error > 0 ? " too much" : " too little");
}

} // namespace

using block::InstrumentHappening;
using planning::ZeroDoubted;

std::string zero_doubt_words(const planning::ZeroDoubt& doubt, const LengthText& l) {
    switch (doubt.why) {
    case ZeroDoubted::old:
        return "Its zero was set " + fixed(doubt.by, 0) + " hours ago";
    case ZeroDoubted::warmed:
        return "The gauge is " + fixed(std::abs(doubt.by), 1) + " °C " + (doubt.by > 0 ? "warmer" : "colder") +
               " than when its zero was set";
    case ZeroDoubted::drifted:
        return "The last check found it reading " + off_words(doubt.by, l);
    case ZeroDoubted::repaired:
        return "It was repaired since its zero was set";
    case ZeroDoubted::taken:
        return doubt.who + " has set its zero, at another bench";
    }
    return {};
}

std::string event_words(const block::InstrumentEvent& e, const LengthText& l) {
    std::string said;
    switch (e.what) {
    case InstrumentHappening::zeroed:
        said = "zeroed" + (e.size ? " at " + l.with_unit(*e.size) : std::string()) +
               (e.words.empty() ? "" : " on " + e.words) +
               (e.celsius ? ", the gauge at " + fixed(*e.celsius, 1) + " °C" : std::string());
        break;
    case InstrumentHappening::checked:
        said = "checked on " + l.with_unit(e.size.value_or(0)) + ": reads " + off_words(e.error().value_or(0), l);
        break;
    case InstrumentHappening::repeated:
        said = "one reading scatters by " + l.fine(e.spread.value_or(0)) + " (s of " + std::to_string(e.count) + ")" +
               (e.words.empty() ? "" : ", " + e.words);
        break;
    case InstrumentHappening::studied:
        said = "gauge study";
        break;
    case InstrumentHappening::repaired:
        said = "repaired: " + e.words;
        break;
    }
    return e.struck ? said + " (struck)" : said;
}

std::string due_words(const planning::InstrumentRecord& record) {
    if (record.due.empty())
        return record.overdue ? "to be checked, and never was" : "";
    return (record.overdue ? "check overdue since " : "check due ") + record.due;
}

std::string record_sentence(const planning::InstrumentRecord& r, const LengthText& l) {
    std::string said = r.last_check.empty() ? "Nobody has checked it." : "Last checked " + r.last_check;
    if (!r.last_check.empty()) {
        if (r.error)
            said += ": it read " + off_words(*r.error, l);
        said += ".";
    }
    if (r.usual_error && r.error_spread)
        said += " Of " + std::to_string(r.checks) + " checks" + (r.repaired.empty() ? "" : " since it was repaired") +
                " it usually reads " + off_words(*r.usual_error, l) + ", more or less by " + l.fine(*r.error_spread) +
                ".";
    if (r.spread)
        said += " One reading scatters by " + l.fine(*r.spread) + " (s of " + std::to_string(r.spread_of) + ").";
    if (const std::string due = due_words(r); !due.empty())
        said += " " + capitalised(due) + ".";
    return said;
}

std::string study_sentence(const planning::StudyStanding& s, const LengthText& l) {
    if (s.spoilt)
        return "Not finished: what was read was cut or changed since.";
    if (s.next)
        return "Not finished: " + std::to_string(s.next->number - 1) + " of " + std::to_string(s.next->of) +
               " readings; " + s.next->person + " is next.";
    const auto result = metrology::study_gauge(s.read);
    if (!result)
        return "Nothing can be told of it.";
    const metrology::GaugeScatter& g = result->by_variance;
    return "In one hand it scatters by " + l.fine(g.repeat) + ", from person to person by " + l.fine(g.people) +
           "; the parts differ by " + l.fine(g.parts) + ". It takes " + fixed(g.share(g.gauge), 0) +
           " % of all that was seen, and tells " + count_words(static_cast<std::size_t>(g.sorts()), "sort", "sorts") +
           " of parts apart.";
}

} // namespace pallix::wording
