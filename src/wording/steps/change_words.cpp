// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/steps/change_words.h"

#include "block/state/intake_state.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <algorithm>
#include <cmath>

namespace pallix::wording {

using block::JobState;
using planning::Change;
using planning::Changed;
using planning::Machine;
using planning::SetUp;

namespace {

std::string set_up_words(const JobState& state, const planning::Step& step) {
    const block::BankBlueprint* bank =
        step.about && intake_of(state).blueprint ? intake_of(state).blueprint->bank(step.about->bank) : nullptr;
    const std::string which = bank ? bank_name(*bank) : "deck";
    switch (step.where.set_up) {
    case SetUp::any:
        return "";
    case SetUp::caps_off:
        return "caps off the block";
    case SetUp::mains_up:
        return "mains up";
    case SetUp::deck_up:
        return which + " up and level";
    case SetUp::lifters_up:
        return "lifters of the " + which + " plumb";
    case SetUp::head_up:
        return "head of the " + which + " face up and level";
    }
    return "";
}

/// The range that all of one kind go from and to, each by its worst: "0.40 to 0.35 mm".
struct Worst {
    double from = 0, to = 0;
    bool any = false;
};
Worst least_of(const std::vector<Change>& changes, Changed what) {
    Worst worst;
    for (const Change& c : changes)
        if (c.what == what && c.from && c.to && (!worst.any || *c.to < worst.to))
            worst = {*c.from, *c.to, true};
    return worst;
}
Worst largest_of(const std::vector<Change>& changes, Changed what) {
    Worst worst;
    for (const Change& c : changes)
        if (c.what == what && c.from && c.to && (!worst.any || *c.to > worst.to))
            worst = {*c.from, *c.to, true};
    return worst;
}

std::string stale_words(const JobState& state, const std::vector<Change>& changes) {
    std::string words;
    for (auto c = changes.begin(); c != changes.end();) {
        if (c->what != Changed::stale) {
            ++c;
            continue;
        }
        const auto end = std::find_if(c, changes.end(), [&c](const Change& other) {
            return other.what != Changed::stale || other.about.kind != c->about.kind ||
                   other.about.bank != c->about.bank;
        });
        words += (words.empty() ? "" : ", ") + feature_words(*intake_of(state).blueprint, c->about);
        if (end - c > 1)
            words +=
                (end - c == 2 ? " and " : " to ") + feature_words(*intake_of(state).blueprint, std::prev(end)->about);
        c = end;
    }
    return words;
}

} // namespace

std::string machine_name(planning::Machine machine) {
    switch (machine) {
    case planning::Machine::desk:
        return "";
    case planning::Machine::bench:
        return "bench";
    case planning::Machine::washer:
        return "washer";
    case planning::Machine::probe:
        return "probe";
    case planning::Machine::cap_grinder:
        return "cap grinder";
    case planning::Machine::tunnel_hone:
        return "tunnel hone";
    case planning::Machine::line_bar:
        return "line bar";
    case planning::Machine::surfacer:
        return "surfacer";
    case planning::Machine::boring_bar:
        return "boring bar";
    case planning::Machine::cylinder_hone:
        return "cylinder hone";
    case planning::Machine::reamer:
        return "reamer";
    case planning::Machine::press:
        return "press";
    }
    return "";
}

std::string where_words(const JobState& state, const planning::Step& step) {
    std::string words = machine_name(step.where.machine);
    const auto add = [&words](const std::string& more) {
        if (!more.empty())
            words += (words.empty() ? "" : ", ") + more;
    };
    if (!words.empty())
        add(set_up_words(state, step));
    if (step.where.minutes)
        add("about " + std::to_string(std::lround(*step.where.minutes)) + " min");
    return words;
}

std::vector<std::string> change_words(const JobState& state, const std::vector<Change>& changes, const LengthText& l) {
    std::vector<std::string> words;
    for (const Change& c : changes) {
        if (c.what == Changed::deck_height && c.from && c.to)
            words.push_back(feature_words(*intake_of(state).blueprint, c.about) + " " +
                            l.with_unit(std::abs(*c.from - *c.to)) + (*c.to < *c.from ? " lower" : " higher"));
        else if (c.what == Changed::size && c.to)
            words.push_back(feature_words(*intake_of(state).blueprint, c.about) + " " +
                            (c.from ? l.plain(*c.from) + " to " : "to ") + l.with_unit(*c.to));
    }
    if (const Worst piston = least_of(changes, Changed::clearance); piston.any)
        words.push_back("nearest piston " + l.plain(piston.from) + " to " + l.with_unit(piston.to) + " below its deck");
    if (const Worst ratio = largest_of(changes, Changed::ratio); ratio.any)
        words.push_back("compression " + fixed(ratio.from, 2) + " to " + fixed(ratio.to, 2));
    if (const std::string stale = stale_words(state, changes); !stale.empty())
        words.push_back("to be read again: " + stale);
    return words;
}

} // namespace pallix::wording
