// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/sentences.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "wording/common/phrases.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"
#include "wording/shop/shop_words.h"
#include "wording/steps/step_words.h"
#include "wording/tunnel/tunnel_words.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::wording {

using block::JobState;
using metrology::Verdict;
using planning::Across;
using planning::Along;
using planning::CheckKind;
using planning::Stage;
using planning::StageMark;

std::string verdict_word(Verdict verdict) {
    switch (verdict) {
    case Verdict::meets:
        return "meets";
    case Verdict::cannot_tell:
        return "can't tell yet";
    case Verdict::fails:
        break;
    }
    return "fails";
}

std::string stage_name(Stage stage) {
    constexpr std::array names{"received",  "cleaned", "as found", "tunnel", "decks",
                               "cylinders", "lifters", "mock-up",  "finish", "passport"};
    static_assert(names.size() == block::stage_keys.size());
    return names[static_cast<std::size_t>(stage)];
}

std::string stage_word(StageMark mark) {
    constexpr std::array words{"", "now", "done", "meets", "can't tell yet", "fails", "measure again"};
    return words[static_cast<std::size_t>(mark)];
}

std::string along_word(Along along) {
    constexpr std::array words{"front", "middle", "rear"};
    return words[static_cast<std::size_t>(along)];
}

std::string across_word(Across across) {
    constexpr std::array words{"inboard", "outboard", "left side", "right side", "middle"};
    return words[static_cast<std::size_t>(across)];
}

std::string place_words(planning::PlaceOnDeck place) {
    if (place.along == Along::middle && place.across == Across::middle)
        return "middle";
    if (place.across == Across::middle)
        return along_word(place.along) + ", between the edges";
    if (place.along == Along::middle)
        return "halfway along, " + across_word(place.across);
    return along_word(place.along) + ", " + across_word(place.across);
}

std::string across_text(const block::BankBlueprint& bank, double mm, const LengthText& l) {
    const auto way = [](Across side) { // "right" of a place, not "right side" of a deck
        const std::string word = across_word(side);
        return word.substr(0, word.find(' '));
    };
    return l.side(mm, way(planning::positive_side(bank)), way(planning::negative_side(bank)));
}

std::string corner_words(const block::BankBlueprint& bank, bool rear, bool positive_v) {
    return place_words({rear ? Along::rear : Along::front,
                        positive_v ? planning::positive_side(bank) : planning::negative_side(bank)});
}

std::string bank_name(const block::BankBlueprint& bank) {
    if (bank.id == "R")
        return "right bank";
    if (bank.id == "L")
        return "left bank";
    return bank.id == "C" ? "deck" : "bank " + bank.id;
}

std::string pass_name(block::PassKind kind) {
    constexpr std::array names{"witness cut", "pass", "finishing cut", "spring pass", "flush pass"};
    return names[static_cast<std::size_t>(kind)];
}

std::string school_name(block::TargetSchool school) {
    constexpr std::array names{"least cut", "blueprint height", "given height", "piston clearance",
                               "compression ratio"};
    return names[static_cast<std::size_t>(school)];
}

std::string datum_name(const block::Blueprint& b) {
    constexpr std::array clocking{"cam", "pan rail", "decks"};
    return std::string(clocking[static_cast<std::size_t>(b.clocking)]) + ", " +
           (b.origin_dowel ? b.origin_dowel->text() : "the first main's place");
}

namespace {

/// The bore an entry is about; null for other entries.
template <class Payload>
const block::FeatureId* bore_of(const Payload& p) {
    if constexpr (requires { p.bore; })
        return &p.bore;
    else if constexpr (std::is_same_v<Payload, block::LifterDecided>)
        return &p.lifter;
    else
        return nullptr;
}

} // namespace

std::vector<std::string> lie_sentences(const block::BankBlueprint& bank, const planning::DeckLie& lie,
                                       const LengthText& l) {
    const auto compared = [&l](double over, const std::string& high, const std::string& low) {
        if (l.with_sign(over) == l.plain(0))
            return capitalised(high) + " and " + low + " at one height.";
        return over > 0 ? capitalised(high) + " " + l.with_unit(over) + " above " + low + "."
                        : capitalised(high) + " " + l.with_unit(-over) + " below " + low + ".";
    };
    std::vector<std::string> out;
    out.push_back(compared(lie.rear_over_front, "rear", "front"));
    const bool out_is_positive = planning::positive_side(bank) != Across::inboard;
    const Across outer = out_is_positive ? planning::positive_side(bank) : planning::negative_side(bank);
    const Across inner = out_is_positive ? planning::negative_side(bank) : planning::positive_side(bank);
    out.push_back(compared(out_is_positive ? lie.positive_over_negative : -lie.positive_over_negative,
                           across_word(outer), across_word(inner)));
    out.push_back(l.with_sign(lie.twist) == l.plain(0)
                      ? std::string("Not twisted.")
                      : "Twisted by " + l.with_unit(std::abs(lie.twist)) + ": " + across_word(outer) + " is " +
                            (lie.twist > 0 ? "higher at the front." : "higher at the rear."));
    return out;
}

std::string touched_beside(double judged, double touched, const LengthText& l) {
    return l.plain(touched) == l.plain(judged) ? "" : " (" + l.plain(touched) + " with the touches' noise)";
}

std::string check_sentence(const planning::DeckCheck& check, const LengthText& l) {
    const std::string tail = " — " + verdict_word(check.verdict);
    const std::string sure = (check.uncertainty ? " ±" + l.fine(2 * *check.uncertainty) : std::string()) +
                             touched_beside(check.value, check.touched, l);
    switch (check.kind) {
    case CheckKind::lowest_height:
        return "lowest height " + l.plain(check.value) + sure + ", by the blueprint at least " +
               l.plain(*check.limits.lower) + tail;
    case CheckKind::highest_height:
        return "highest height " + l.plain(check.value) + sure + ", by the blueprint at most " +
               l.plain(*check.limits.upper) + tail;
    case CheckKind::lowest_planned:
        return "as planned: lowest at least " + l.plain(*check.limits.lower) + tail;
    case CheckKind::highest_planned:
        return "as planned: highest at most " + l.plain(*check.limits.upper) + tail;
    case CheckKind::flatness:
        return "flatness " + l.plain(check.value) + sure + ", at most " + l.plain(*check.limits.upper) + tail;
    case CheckKind::clean:
        break;
    }
    return "places stayed dark" + tail;
}

std::string pair_sentence(const planning::PairVerdict& pair, const block::BankBlueprint& first, const LengthText& l) {
    const std::string amount = l.with_unit(std::abs(pair.difference));
    const std::string sure = pair.uncertainty ? " ±" + l.fine(2 * *pair.uncertainty) : std::string();
    return "the " + bank_name(first) + " stands " + amount + sure + (pair.difference < 0 ? " lower" : " higher") +
           " than the other, at most " + l.plain(pair.limit) + " — " + verdict_word(pair.verdict);
}

namespace {

std::string words(const block::JobOpened& p, const LengthText&) {
    return p.engine.empty() ? "job opened from " + p.blueprint_file
                            : "job opened from the engine " + p.engine + ", revision " + std::to_string(p.revision);
}

std::string words(const block::BlueprintAmended& p, const LengthText&) {
    return "blueprint amended from " + p.blueprint_file + ": " + p.reason;
}

std::string words(const block::ProbeLogTaken& p, const LengthText& l) {
    return "probe log " + p.file + " taken in" +
           (p.standard_uncertainty ? ", standard uncertainty " + l.fine(*p.standard_uncertainty) : std::string());
}

std::string words(const block::Note& p, const LengthText&) {
    const std::size_t end = p.text.find('\n');
    return "note: " + p.text.substr(0, end) + (end == std::string::npos ? "" : " …");
}

std::string words(const block::Strike& p, const LengthText&) {
    return "struck entry " + std::to_string(p.sequence) + (p.reason.empty() ? std::string() : ": " + p.reason);
}

std::string words(const block::GatePassed& p, const LengthText&) {
    return "went on against a rule (" + rule_name(p.rule) + (p.about.empty() ? "" : ", " + p.about) + "): " + p.reason;
}

std::string words(const block::RoundOpened& p, const LengthText&) {
    return "read anew from here: " + p.about + ", " + p.reason;
}

std::string words(const block::ScopeChosen& p, const LengthText&) {
    std::string list;
    for (const planning::Stage stage : p.stages)
        list += (list.empty() ? "" : ", ") + stage_name(stage);
    return "wanted: " + list + (p.reason.empty() ? "" : " (" + p.reason + ")");
}

std::string words(const block::RouteChosen& p, const LengthText&) {
    std::string list;
    for (const planning::Stage stage : p.order)
        list += (list.empty() ? ": " : ", ") + stage_name(stage);
    return "route: " + route_name(p.preset) + list;
}

std::string words(const block::StepSkipped& p, const LengthText&) {
    return "left out: " + p.step + " (" + p.reason + ")";
}

std::string words(const block::LimitsChosen& p, const LengthText& l) {
    std::string out = "limits: tunnel " + l.plain(p.straightness) + ", main to main " + l.plain(p.main_step) +
                      ", decks flat " + l.plain(p.flatness) + " and within a window " + l.plain(p.local_flatness) +
                      ", alike " + l.with_unit(p.bank_difference);
    if (p.main_shape)
        out += ", mains' shape " + l.with_unit(*p.main_shape);
    if (p.position_across || p.position_along)
        out += ", cylinders' place " + (p.position_across ? l.plain(*p.position_across) : "any") + " across, " +
               (p.position_along ? l.plain(*p.position_along) : "any") + " along";
    if (p.zero_hours != block::LimitsChosen::usual_zero_hours || p.zero_step != block::LimitsChosen::usual_zero_step)
        out += ", a zero holds " + fixed(p.zero_hours, 0) + " h and " + fixed(p.zero_step, 1) + " °C";
    return out + ", guard band " + fixed(p.coverage, 2) + " × u (" + p.reason + ")";
}

std::string words(const block::UnknownPayload& p, const LengthText&) {
    return "an entry of kind \"" + p.kind + "\", which " +
           (p.faults.empty() ? "this version does not know" : "cannot be read: " + p.faults.front().text());
}

template <class... Kind>
std::string entry_words(block::Kinds<Kind...> kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

/// Which bank or bore an entry is about; empty where it is about neither.
std::string subject_of(const block::Payload& entry, const JobState& state) {
    const auto& blueprint = intake_of(state).blueprint;
    return std::visit(
        [&](const auto& p) -> std::string {
            if (const block::FeatureId* bore = bore_of(p); bore && blueprint && blueprint->hole(*bore))
                return feature_words(*blueprint, *bore) + ": ";
            if constexpr (requires { p.bank; }) {
                const auto* bank = blueprint ? blueprint->bank(p.bank) : nullptr;
                return (bank ? bank_name(*bank) : "bank " + p.bank) + ": ";
            }
            return "";
        },
        static_cast<const block::PayloadKinds&>(entry));
}

} // namespace

std::string entry_words(const block::Payload& entry, const LengthText& l) {
    return std::apply([&](auto... kinds) { return (entry_words(kinds, entry, l) + ...); }, block::PartsOfTheLedger());
}

std::string entry_sentence(const block::Entry& entry, const JobState& state, const LengthText& l) {
    return subject_of(entry.payload, state) + entry_words(entry.payload, l);
}

std::string digest_sentence(const std::vector<block::Entry>& entries, std::int64_t of) {
    const auto entry = std::ranges::find(entries, of, &block::Entry::sequence);
    constexpr std::size_t length_of_day = 10; // "2026-03-02"
    return "The paper belongs to this ledger, unaltered up to entry " + std::to_string(of) + " of " +
           std::to_string(entries.size()) +
           (entry == entries.end() ? "" : " (" + entry->time.substr(0, length_of_day) + ")") + ".";
}

} // namespace pallix::wording
