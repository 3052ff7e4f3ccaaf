// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/readings/readings.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/tunnel/tunnel_consequences.h"
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::wording {

using block::FeatureKind;
using block::InstrumentKind;
using block::Quantity;
using planning::Measuring;

std::string instrument_kind_name(InstrumentKind kind) {
    constexpr std::array names{"dial bore gauge",
                               "inside micrometer",
                               "outside micrometer",
                               "deck bridge",
                               "straightedge and feelers",
                               "lever indicator",
                               "dial indicator",
                               "precision level",
                               "ultrasonic wall gauge",
                               "thermometer",
                               "burette",
                               "plate and depth micrometer"};
    return names[static_cast<std::size_t>(kind)];
}

std::string measuring_name(Measuring what) {
    constexpr std::array names{
        "main sizes",      "saddle heights", "bar sweep",       "deck heights",    "feelers",      "deck level",
        "cylinder sizes",  "cylinder walls", "piston to deck",  "lifter sizes",    "temperatures", "set-up",
        "sleeve, outside", "head feelers",   "chamber volumes", "valve to piston", "head heights"};
    return names[static_cast<std::size_t>(what)];
}

std::string feature_words(const block::Blueprint& b, const block::FeatureId& id) {
    const std::string number = std::to_string(id.number);
    const auto* bank = id.bank.empty() ? nullptr : b.bank(id.bank);
    const std::string on_bank = bank && id.bank != "C" ? bank_name(*bank) : "";
    switch (id.kind) {
    case FeatureKind::main:
        return "main " + number;
    case FeatureKind::cam:
        return "cam bearing " + number;
    case FeatureKind::dowel:
        return "dowel " + number + (on_bank.empty() ? "" : ", " + on_bank);
    case FeatureKind::deck:
        return on_bank.empty() ? "deck" : on_bank + " deck";
    case FeatureKind::bore: {
        const auto* hole = b.hole(id);
        const std::string place = on_bank.empty() ? "bore " + number : on_bank + ", bore " + number;
        return hole && hole->cylinder ? "cylinder " + std::to_string(*hole->cylinder) + " (" + place + ")" : place;
    }
    case FeatureKind::lifter: {
        const auto* hole = b.hole(id);
        std::string opens = hole && hole->cylinder ? "cylinder " + std::to_string(*hole->cylinder) : "";
        if (hole && hole->valve)
            opens +=
                std::string(opens.empty() ? "" : ", ") + (*hole->valve == block::Valve::intake ? "intake" : "exhaust");
        return "lifter " + number + (on_bank.empty() ? "" : ", " + on_bank) + (opens.empty() ? "" : " (" + opens + ")");
    }
    case FeatureKind::panrail:
        break;
    }
    return "pan rail";
}

std::string short_feature_words(const block::JobState& state, const block::FeatureId& id) {
    const auto& blueprint = intake_of(state).blueprint;
    const block::HoleBlueprint* hole = blueprint ? blueprint->hole(id) : nullptr;
    return id.kind == FeatureKind::bore
               ? "cylinder " + std::to_string(hole ? hole->cylinder.value_or(id.number) : id.number)
               : "lifter " + std::to_string(id.number);
}

namespace {

std::string direction_words(const block::MeasuredAt& at) {
    if (at.direction == "60 left" || at.direction == "60 right")
        return "60° " + at.direction.substr(3);
    if (at.quantity == Quantity::sweep)
        return at.direction + " o'clock, seen from the rear";
    if (at.quantity == Quantity::size && at.direction == "across")
        return "across the crankshaft";
    if (at.quantity == Quantity::size && at.direction == "along")
        return "along the crankshaft";
    return at.direction;
}

std::string join(std::initializer_list<std::string> parts) {
    std::string out;
    for (const std::string& part : parts)
        if (!part.empty())
            out += (out.empty() ? "" : ", ") + part;
    return out;
}

} // namespace

std::string place_of_reading(const block::Blueprint& b, const block::MeasuredAt& at) {
    switch (at.quantity) {
    case Quantity::head_height: {
        block::MeasuredAt under = at;
        under.quantity = Quantity::height;
        return "head of the " + place_of_reading(b, under);
    }
    case Quantity::height: {
        const block::BankBlueprint& bank = *b.bank(at.feature.bank);
        const planning::PlaceOnDeck place = planning::place_on_deck(bank, at.place);
        for (const planning::BetweenBores& between : planning::between_bores(b, bank.id))
            if (std::abs(between.u - at.place.x) < 1e-3)
                return bank_name(bank) + ", between bores " + std::to_string(between.first) + " and " +
                       std::to_string(between.second) + ", " + across_word(place.across);
        return bank_name(bank) + ", " + place_words(place);
    }
    case Quantity::gap:
        return feature_words(b, at.feature) + ", edge " + at.direction;
    case Quantity::head_gap:
        return "head over the " + feature_words(b, at.feature) + ", edge " + at.direction;
    case Quantity::volume:
        return "chamber of " + feature_words(b, at.feature);
    case Quantity::valve:
        return feature_words(b, at.feature) + ", " + at.level + " valve to piston";
    case Quantity::temperature:
        return "temperature of the " + at.direction;
    case Quantity::saddle:
        return feature_words(b, at.feature) + ", saddle over the bar";
    case Quantity::indicator: {
        const block::BankBlueprint& bank = *b.bank(at.feature.bank);
        return bank_name(bank) + " set up, " + corner_words(bank, at.level == "rear", at.direction == "+v");
    }
    case Quantity::outside:
        return join({"sleeve of " + feature_words(b, at.feature), at.level, at.direction});
    default:
        return join({feature_words(b, at.feature), at.level, direction_words(at)});
    }
}

std::string quantity_text(Quantity q, double value, const LengthText& l) {
    switch (q) {
    case Quantity::temperature:
        return fixed(value, 1) + " °C";
    case Quantity::slope:
        return fixed(value, 3) + " mm/m";
    case Quantity::volume:
        return fixed(value, 2) + " cm³";
    case Quantity::saddle:
        return l.side_with_unit(value, "back of the line", "proud of the line");
    case Quantity::sweep:
        return l.side_with_unit(value, "in", "out");
    case Quantity::indicator:
    case Quantity::head_height:
        return l.side_with_unit(value, "high", "low");
    case Quantity::piston:
        return l.side_with_unit(value, "below the deck", "proud of the deck");
    default:
        return l.with_unit(value);
    }
}

std::string instrument_words(const block::Instrument& i, const LengthText& l) {
    std::vector<std::string> parts;
    if (block::reads_from_zero(i.kind))
        parts.push_back(i.zero ? "zero " + l.with_unit(*i.zero) +
                                     (i.zero_set_on.empty() ? std::string() : ", set on " + i.zero_set_on)
                               : std::string("no zero set"));
    if (i.standard_uncertainty)
        parts.push_back("±" + (i.kind == InstrumentKind::thermometer ? fixed(2 * *i.standard_uncertainty, 1) + " °C"
                               : i.kind == InstrumentKind::burette   ? fixed(2 * *i.standard_uncertainty, 2) + " cm³"
                               : i.kind == InstrumentKind::precision_level
                                   ? fixed(2 * *i.standard_uncertainty, 3) + " mm/m"
                                   : l.fine(2 * *i.standard_uncertainty)));
    else
        parts.emplace_back("uncertainty not stated");
    if (i.clockwise != block::DialSense::not_stated)
        parts.push_back(std::string("clockwise is ") +
                        (i.clockwise == block::DialSense::smaller ? "smaller" : "larger"));
    if (i.repeatability)
        parts.push_back("repeats within " + l.fine(*i.repeatability));
    std::string out;
    for (const std::string& part : parts)
        out += (out.empty() ? "" : "; ") + part;
    return out;
}

std::string conditions_words(const block::Conditions& c) {
    std::string out;
    const auto add = [&out](const std::string& part) { out += (out.empty() ? "" : ", ") + part; };
    if (c.caps_torqued)
        add(*c.caps_torqued ? "caps torqued" : "caps off");
    if (c.plate_on)
        add(*c.plate_on ? "torque plate on" : "no torque plate");
    if (c.part_c)
        add("block " + fixed(*c.part_c, 1) + " °C");
    if (c.gauge_c)
        add("gauge " + fixed(*c.gauge_c, 1) + " °C");
    if (!c.fasteners.empty())
        add(c.fasteners);
    return out.empty() ? "conditions not stated" : out;
}

std::string settling_sentence(const metrology::Settling& s, const LengthText& l) {
    using enum metrology::SettledBy;
    switch (s.by) {
    case nothing_needed:
        return "Enough: more readings would change nothing.";
    case more_readings:
        return (s.readings == 1 ? std::string("One more reading") : std::to_string(s.readings) + " more readings") +
               " would settle it, if the mean stays where it is.";
    case better_gauge:
        return "More readings will not settle it; a gauge good to ±" + l.fine(2 * s.gauge_uncertainty) + " would.";
    case nothing_will:
        break;
    }
    return "It lies on its limit: no gauge will settle that. Decide, and note why.";
}

// ---- what the gauges say ------------------------------------------------------------------------------------------

namespace {

std::string clock_move(const planning::SweepFinding& s, const LengthText& l) {
    return (s.up >= 0 ? "raise the block by " : "lower the block by ") + l.with_unit(std::abs(s.up)) + ", push it " +
           l.with_unit(std::abs(s.towards_3)) + (s.towards_3 >= 0 ? " towards 3" : " towards 9") +
           " o'clock (seen from the rear)";
}

} // namespace

namespace {

/// The size that speaks for its bore: the worst verdict, of those the one furthest from the middle of its window.
const planning::SizeFinding* worst_size(const planning::BoreFinding& bore) {
    if (bore.stale)
        return nullptr;
    const auto off = [](const planning::SizeFinding& s) {
        return std::abs(s.place.value - (*s.limits.lower + *s.limits.upper) / 2);
    };
    const auto worst = std::ranges::max_element(bore.sizes, [&](const auto& x, const auto& y) {
        return x.verdict != y.verdict ? x.verdict < y.verdict : off(x) < off(y);
    });
    return worst == bore.sizes.end() ? nullptr : &*worst;
}

std::string capital(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

} // namespace

std::vector<std::string> tunnel_gauge_sentences(const block::JobState& state, const planning::Assessment& a,
                                                const LengthText& l) {
    std::vector<std::string> out;
    for (const planning::BoreFinding& main : a.gauge.mains)
        if (const auto worst = worst_size(main); worst && worst->verdict != metrology::Verdict::meets)
            out.push_back(capital(place_of_reading(*intake_of(state).blueprint, worst->place.at)) + ": " +
                          l.with_unit(worst->place.value) + " — " + verdict_word(worst->verdict) + "." +
                          (worst->verdict == metrology::Verdict::cannot_tell && worst->place.sureness
                               ? " " + settling_sentence(worst->settling, l)
                               : std::string()));
    if (a.gauge.saddles) {
        const auto& s = *a.gauge.saddles;
        const auto worst = std::ranges::max_element(s.saddles, {}, [](const auto& x) { return std::abs(x.off); });
        out.push_back("By indicator the saddles lie within " + l.with_unit(s.straightness) + " — " +
                      verdict_word(s.verdict) + "; main " + std::to_string(worst->main.number) + " is " +
                      l.with_unit(std::abs(worst->off)) + (worst->off >= 0 ? " high." : " low."));
    }
    for (std::string& sentence : dial_in_sentences(state, a, l))
        out.push_back(std::move(sentence));
    return out;
}

std::vector<std::string> dial_in_sentences(const block::JobState& state, const planning::Assessment& a,
                                           const LengthText& l) {
    std::vector<std::string> out;
    for (const auto& s : a.gauge.sweeps)
        out.push_back("Bar at " + feature_words(*intake_of(state).blueprint, s.main) + ": " + clock_move(s, l) +
                      (std::hypot(s.up, s.towards_3) <= planning::dialled_in ? ". Within two tenths: enough." : "."));
    if (!out.empty() && !tunnel_of(state).sag)
        out.emplace_back("The indicator's own sag is in that: nobody has swept a round ring with it.");
    return out;
}

std::vector<std::string> deck_gauge_sentences(const block::JobState& state, const planning::Assessment& a,
                                              const std::string& bank, const LengthText& l) {
    std::vector<std::string> out;
    for (const auto& f : a.gauge.feelers)
        if (f.bank == bank)
            out.push_back(
                "Feelers on " + std::to_string(f.lines) + (f.lines == 1 ? " line: " : " lines: ") +
                (f.at_least > 0 ? l.with_unit(f.at_least) + " goes in (" + f.where + "), "
                                : std::string("nothing goes in that was tried, ")) +
                l.with_unit(f.at_most) + " nowhere" +
                (f.verdict == metrology::Verdict::fails ? " — fails." : ". The ends and the height are not in it."));
    for (const auto& p : readings_of(state).places)
        if (p.at.quantity == Quantity::slope && p.at.feature.bank == bank && !p.stale())
            out.push_back("Level " + p.at.direction + ": " + quantity_text(Quantity::slope, p.value, l) + ".");
    for (const auto& c : a.gauge.clearances)
        if (c.bore.bank == bank)
            out.push_back("Piston of " + feature_words(*intake_of(state).blueprint, c.bore) + " " +
                          l.with_unit(std::abs(c.clearance)) + (c.clearance >= 0 ? " below the deck" : " proud") +
                          ", rocks " + l.with_unit(c.rock) + ".");
    return out;
}

namespace {

const block::MainBlueprint& meant_main(const block::JobState& state, const block::FeatureId& id) {
    return *std::ranges::find(intake_of(state).blueprint->mains, id, &block::MainBlueprint::id);
}

std::string main_name(const block::FeatureId& id) {
    return "Main " + std::to_string(id.number);
}

std::string shape_sentence(const std::string& main, const char* what, double value, double most,
                           metrology::Verdict verdict, const LengthText& l) {
    return main + ": " + what + " " + l.with_unit(value) + ", at most " + l.plain(most) + " — " +
           verdict_word(verdict) + ".";
}

/// Mains that are in size on the mean and still no cylinders.
std::vector<std::string> main_shape_sentences(const block::JobState& state, const planning::Assessment& a,
                                              const LengthText& l) {
    std::vector<std::string> out;
    if (a.tunnel && !tunnel_of(state).probe_stale())
        for (const planning::MainVerdict& v : a.tunnel->mains) {
            const block::MainResult& m = tunnel_of(state).latest->evaluation.mains[v.index];
            const auto most = planning::main_shape_limit(planning::limits_of(state), meant_main(state, m.id).diameter);
            const std::string name = main_name(m.id) + (m.level.empty() ? "" : ", " + m.level);
            if (most && v.roundness != metrology::Verdict::meets && m.points >= 4)
                out.push_back(shape_sentence(name, "out of round by", v.roundness_value, *most, v.roundness, l));
            if (most && v.taper == metrology::Verdict::fails)
                out.push_back(shape_sentence(name, "taper", v.taper_value, *most, v.taper, l));
        }
    for (const planning::BoreFinding& m : a.gauge.mains) {
        const auto most = planning::main_shape_limit(planning::limits_of(state), meant_main(state, m.id).diameter);
        if (most && !m.stale && m.taper > *most)
            out.push_back(shape_sentence(main_name(m.id), "taper", m.taper, *most, m.verdict, l));
    }
    constexpr std::size_t named = 3;
    if (out.size() > named) {
        const std::size_t more = out.size() - named;
        out.resize(named);
        out.push_back("The shape of " + std::to_string(more) + " more is to be looked at: see the table.");
    }
    return out;
}

} // namespace

std::vector<std::string> doubt_sentences(const block::JobState& state, const planning::Assessment& a,
                                         const LengthText& l) {
    std::vector<std::string> out = main_shape_sentences(state, a, l);
    for (const auto& d : a.gauge.disagreements)
        out.push_back("Gauge and probe disagree: " + place_of_reading(*intake_of(state).blueprint, d.at) + ", " +
                      l.with_unit(d.by_gauge) + " against " + l.plain(d.by_probe) + "; they may differ by " +
                      l.plain(d.allowed) + ".");
    for (const auto& w : a.gauge.warnings)
        out.push_back("Not to be compared: " + feature_words(*intake_of(state).blueprint, w.feature) + ", " + w.words +
                      ".");
    if (!a.gauge.measure_again.empty()) {
        const std::size_t n = a.gauge.measure_again.size();
        constexpr std::size_t named = 4;
        std::string list;
        for (std::size_t i = 0; i < std::min(n, named); ++i)
            list += (i == 0 ? "" : "; ") + a.gauge.measure_again[i];
        out.push_back("Measure again: " + list +
                      (n > named ? "; and " + std::to_string(n - named) + " more places." : "."));
    }
    if (tunnel_of(state).probe_stale())
        out.emplace_back("The tunnel was cut since it was probed: positions and heights of that log no longer hold.");
    for (const auto& [bank, deck] : decks_of(state).decks)
        if (deck.latest && deck.latest->caps_off)
            out.push_back(capitalised(bank_name(*intake_of(state).blueprint->bank(bank))) +
                          " was probed from mains with their caps off: its heights count for nothing.");
    for (const std::string& bank : a.unconfirmed_banks)
        out.push_back("The block was rolled: " + bank_name(*intake_of(state).blueprint->bank(bank)) +
                      " has no probed dowel pair, so its datum is not confirmed. Probe both its dowels.");
    return out;
}

namespace {

std::string words(const block::Reading& p, const LengthText& l) {
    const std::string value = p.upper ? l.with_unit(p.value) + " goes in, " + l.with_unit(*p.upper) + " does not"
                                      : quantity_text(p.at.quantity, p.value, l);
    return p.words + ": " + value + " (typed " + p.typed + "; " + p.instrument.name + ")";
}

std::string words(const block::ConditionsStated& p, const LengthText&) {
    return "conditions: " + conditions_words(p.conditions) + (p.also_before ? ", also for what was read before" : "");
}

std::string words(const block::RingCheck& p, const LengthText& l) {
    return p.instrument + " checked: " + l.with_unit(p.reading) + " on a size of " + l.plain(p.size) + ": " +
           l.side(p.reading - p.size, "too much", "too little");
}

std::string words(const block::RepeatabilityTest& p, const LengthText&) {
    return p.instrument + " repeated " + std::to_string(p.readings.size()) + " times at " + p.words;
}

std::string words(const block::ReadingPlanChosen& p, const LengthText&) {
    return "reading plan " + p.plan + ": " + count_words(p.places.size(), "place", "places");
}

std::string words(const block::GaugeStudyBegun& p, const LengthText&) {
    std::string people;
    for (const std::string& person : p.people)
        people += (people.empty() ? "" : ", ") + person;
    return "gauge study of " + p.instrument + " on " + count_words(p.places.size(), "place", "places") + ", " +
           std::to_string(p.trials) + " times each by " + people;
}

} // namespace

std::string entry_words(block::ReadingKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

} // namespace pallix::wording
