// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/decks/deck_words.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/decks/balance.h"
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"
#include "wording/shop/memory_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace pallix::wording {

using metrology::Vec2;

namespace {

template <class Enum, std::size_t N>
std::string name_of(Enum value, const std::array<const char*, N>& names) {
    return names[static_cast<std::size_t>(value)];
}

std::string whole_percent(double share) {
    return fixed(100 * share, 0) + " %";
}

std::string joined(const std::vector<std::string>& words) {
    std::string text;
    for (std::size_t i = 0; i < words.size(); ++i)
        text += (i == 0 ? "" : i + 1 == words.size() ? " and " : ", ") + words[i];
    return text;
}

} // namespace

std::string flaw_kind_name(block::FlawKind kind) {
    return name_of(kind, std::array{"crack", "pit", "mark"});
}
std::string flaw_near_words(block::FlawNear near) {
    return name_of(
        near, std::array{"in the open deck", "at a bore", "at a valve seat", "at a coolant hole", "at a bolt hole"});
}
std::string flaw_choice_name(block::FlawChoice choice) {
    return name_of(choice, std::array{"leave and watch", "stop-drill and pin", "sleeve", "scrap the block"});
}
std::string gasket_name(block::GasketKind gasket) {
    return name_of(gasket, std::array{"composition gasket", "multilayer steel gasket", "soft copper gasket"});
}
std::string cutter_state_name(block::CutterState state) {
    return name_of(state, std::array{"cutter sharp", "cutter dull", "chatter"});
}
std::string volume_text(double mm3) {
    return fixed(mm3 / 1000, 2) + " cm³";
}
std::string ratio_text(double ratio) {
    return fixed(ratio, 2) + " : 1";
}
std::string angle_text(double rad) {
    return fixed(rad * 180 / std::numbers::pi, 3) + "°";
}

// ---- entries ------------------------------------------------------------------------------------------------------

// ---- forecast -----------------------------------------------------------------------------------------------------

namespace {

/// What no touch and no mark tells of.
std::string unseen_words(const planning::DeckBelief& b, const LengthText& l) {
    if (!b.surface.unseen)
        return {};
    const double width = *b.surface.unseen;
    return ", more where a hollow narrower than " +
           (l.unit() == block::Unit::inch ? fixed(width / 25.4, 1) + " in" : fixed(width, 0) + " mm") +
           (b.taken > 0 ? " lies away from touches and bright metal" : " lies between the touches");
}

} // namespace

std::string forecast_sentence(const planning::DeckBelief& b, const LengthText& l) {
    std::string who = place_words(b.where) + " decides (" + whole_percent(b.where_share) + ").";
    if (b.usual)
        who += " Decks of this kind are usually flat within " + l.with_unit(b.usual->mean) + " (" +
               std::to_string(b.usual->blocks) + " blocks): that counted.";
    const std::string sure = "as sure as 95 %" + widened_words(b.widened) + unseen_words(b, l) + "; " + who;
    if (b.taken == 0)
        return l.plain(b.surface.removal.low) + " to " + l.with_unit(b.surface.removal.high) +
               " from first touch until it is clean, " + sure;
    const metrology::Interval left = b.still_to_cut();
    if (left.high < 5e-4)
        return "Clean by what was painted: the lowest place lies at " + l.plain(b.surface.lowest.low) + " to " +
               l.with_unit(b.surface.lowest.high) + ".";
    return l.plain(left.low) + " to " + l.with_unit(left.high) + " more until it is clean, " + sure;
}

std::string outcome_sentence(const planning::ForecastOutcome& o, const LengthText& l) {
    if (!o.clean)
        return {};
    const std::string text = "Forecast " + l.plain(o.forecast.low) + " to " + l.with_unit(o.forecast.high) +
                             ", clean after " + l.with_unit(o.taken);
    if (o.within())
        return text + ": it held.";
    // The last pass may have gone deeper than was needed: only too little would contradict.
    return o.taken > o.forecast.high ? text + ": more than foreseen, or the last pass went deeper than it had to."
                                     : text + ": less than foreseen.";
}

std::string depth_sentence(const planning::DepthHeld& held, const LengthText& l) {
    const std::string both = l.with_unit(held.ledger) + " by the ledger, " +
                             l.with_unit(held.measured + held.above.value_or(0)) + " by heights before and after";
    if (!held.disagrees())
        return both + ": they agree.";
    return both + ": " + l.with_unit(std::abs(held.difference())) + (held.difference() > 0 ? " more" : " less") +
           " came off than was logged — a dial misread, a pass not logged, or a block that moved.";
}

std::string marker_lines_words(block::MarkerLines lines) {
    switch (lines) {
    case block::MarkerLines::gone:
        return "marker lines gone";
    case block::MarkerLines::fewer:
        return "fewer marker lines";
    case block::MarkerLines::same:
        return "marker lines as before";
    case block::MarkerLines::not_looked_at:
        break;
    }
    return "marker lines not looked at";
}

std::string finish_sentence(const planning::FinishHeld& held) {
    return "Ra " + fixed(held.ra * 1000, 2) + " µm, at most " + fixed(held.at_most * 1000, 2) + " — " +
           verdict_word(held.verdict);
}

std::vector<std::string> contradiction_sentences(const block::BankBlueprint& bank, const planning::DeckBelief& b,
                                                 const LengthText& l) {
    std::vector<std::string> out;
    if (b.contradictions.empty())
        return out;
    const auto worst = std::ranges::max_element(b.contradictions, {}, &planning::Contradiction::by);
    out.push_back(std::string(worst->dark ? "Dark where it was measured " : "Touched where it was measured ") +
                  l.with_unit(worst->by) + (worst->dark ? " above" : " below") + " the cut (" +
                  place_words(planning::place_on_deck(bank, worst->place)) + ")" +
                  (b.contradictions.size() > 1
                       ? ", and " + std::to_string(b.contradictions.size() - 1) + " places more."
                       : std::string(".")));
    switch (b.suspicion->suspect) {
    case planning::Suspect::wrong_depth:
        out.push_back("One wrong depth explains it: the cut ran " + l.with_unit(std::abs(b.suspicion->depth_error)) +
                      (b.suspicion->depth_error > 0 ? " deeper" : " shallower") + " than logged.");
        break;
    case planning::Suspect::moved_block:
        out.push_back("A moved block explains it: the cut tilts by " + l.with_unit(std::abs(b.suspicion->along) * 100) +
                      " along and " + l.with_unit(std::abs(b.suspicion->across) * 100) +
                      " across for every 100 mm. Check the set-up before cutting on.");
        break;
    case planning::Suspect::bad_touch:
        out.push_back("One bad touch explains it: measure " +
                      place_words(planning::place_on_deck(bank, *b.suspicion->place)) + " again.");
        break;
    case planning::Suspect::several:
        out.push_back("No one cause explains it: measure the deck again before cutting on.");
        break;
    }
    return out;
}

// ---- as found -----------------------------------------------------------------------------------------------------

std::string edge_sentence(const planning::EdgeComparison& e, const LengthText& l) {
    if (e.laid.rests.empty())
        return e.goes_in ? "not on the map" : "not measured";
    const planning::EdgeRest& r = e.laid.rests.front();
    const double length = e.profile.back().x;
    const auto where = [length](double x) {
        const double share = x / length;
        return share < 0.12   ? std::string("one end")
               : share > 0.88 ? std::string("the far end")
                              : whole_percent(share) + " along";
    };
    std::string text =
        "rests " + where(r.from.x) + " and " + where(r.to.x) + ", gap " + l.with_unit(r.gap) + " at " + where(r.gap_at);
    if (e.laid.rocks()) {
        double most = r.gap;
        for (const planning::EdgeRest& rest : e.laid.rests)
            most = std::max(most, rest.gap);
        text += "; rocks, then up to " + l.with_unit(most);
    }
    return text;
}

std::vector<std::string> feeler_bound_sentences(const planning::FlatnessBounds& b, const LengthText& l) {
    std::vector<std::string> out;
    if (b.at_most)
        out.push_back("By feelers its lines are out of flat by at least " + l.plain(b.at_least) + " and at most " +
                      l.with_unit(*b.at_most) + ", as sure as 95 %" +
                      (!b.proven                        ? ""
                       : *b.proven <= *b.at_most + 1e-9 ? " (it cannot be more)"
                                                        : " (it cannot be more than " + l.plain(*b.proven) + ")") +
                      ". That is flatness, not what must come off.");
    else
        out.push_back("By feelers its lines are out of flat by at least " + l.with_unit(b.at_least) +
                      "; without both diagonals, each with a feeler that does not go in, a twist stays unseen.");
    if (!b.not_read.empty())
        out.push_back("Not laid: " + joined(b.not_read) + ".");
    out.push_back("A straightedge is blind at its very ends and between its lines.");
    return out;
}

std::string coverage_sentence(const block::BankBlueprint& bank, const planning::DeckCoverage& c, const LengthText& l) {
    std::vector<std::string> ends;
    const auto say = [&](double gap, const std::string& where) {
        if (gap > planning::near_enough_to_edge)
            ends.push_back(l.with_unit(gap) + " at the " + where);
    };
    say(c.front, "front");
    say(c.rear, "rear");
    say(c.positive, across_word(planning::positive_side(bank)) + " edge");
    say(c.negative, across_word(planning::negative_side(bank)) + " edge");
    return ends.empty() ? std::string() : "Not measured to the very ends: the last " + joined(ends) + ".";
}

std::vector<std::string> shape_sentences(const block::BankBlueprint& bank,
                                         const std::optional<planning::LocalFlatness>& local, double local_limit,
                                         const std::optional<planning::BanksLie>& banks, const LengthText& l) {
    std::vector<std::string> out;
    if (local) {
        const Vec2 middle = 0.5 * (local->low + local->high);
        out.push_back("Worst " + fixed(planning::usual_window, 0) + " mm window: " + l.with_unit(local->worst) + ", " +
                      place_words(planning::place_on_deck(bank, middle)) + " (limit " + l.plain(local_limit) + ").");
    } else {
        out.push_back("Too few places to tell flatness in a " + fixed(planning::usual_window, 0) + " mm window.");
    }
    if (banks)
        out.push_back("Banks " + angle_text(banks->angle) + " apart, " + angle_text(std::abs(banks->angle_error)) +
                      (banks->angle_error < 0 ? " less" : " more") + " than in the blueprint; this one " +
                      l.with_unit(std::abs(banks->height_difference)) +
                      (banks->height_difference < 0 ? " lower" : " higher") + " against its blueprint than the other.");
    return out;
}

// ---- set-up, milling ----------------------------------------------------------------------------------------------

std::string stack_sentence(const planning::FootMove& foot, const planning::Stack& stack, const LengthText& l) {
    if (stack.pieces.empty())
        return "Nothing on hand comes near what " + foot.name + " wants.";
    std::string words;
    for (const double mm : stack.pieces)
        words += (words.empty() ? "Under " + foot.name + " " : " + ") + l.plain(mm);
    const double off = stack.height - foot.raise;
    return words + (std::abs(off) > planning::level_enough / 2
                        ? ", " + l.side_with_unit(off, "too high", "too low") + "."
                        : ".");
}

std::string milling_sentence(const planning::MillingData& d, const LengthText& l) {
    std::string text = fixed(d.rpm, 0) + " rev/min, feed " +
                       (l.unit() == block::Unit::inch ? fixed(d.feed_rate / 25.4, 2) : fixed(d.feed_rate, 0)) + " " +
                       l.unit_name() + "/min";
    if (d.ra > 0)
        text += ", feed marks Ra " + fixed(d.ra * 1000, 2) + " µm (Rt " + fixed(d.rt * 1000, 2) + ")";
    return text + ", " + fixed(d.minutes, 1) + " min a pass";
}

// ---- consequences -------------------------------------------------------------------------------------------------

std::vector<std::string> consequence_sentences(const planning::DeckConsequences& c, bool steel_rods,
                                               const LengthText& l) {
    std::vector<std::string> out;
    if (!c.cylinders.empty()) {
        const auto [least, most] = std::ranges::minmax(c.cylinders, {}, &planning::CylinderAfter::clearance);
        const bool alike = (least.clearance < 0) == (most.clearance < 0);
        out.push_back("pistons " +
                      (alike ? l.plain(std::abs(least.clearance)) : l.side(least.clearance, "below", "proud")) +
                      " to " + l.side_with_unit(most.clearance, "below", "proud of") + " their deck");
    }
    double low = 1e300, high = -1e300;
    for (const planning::CylinderAfter& cylinder : c.cylinders)
        if (cylinder.ratio) {
            low = std::min(low, *cylinder.ratio);
            high = std::max(high, *cylinder.ratio);
        }
    if (high > 0)
        out.push_back("compression " + fixed(low, 2) + " to " + ratio_text(high));
    if (c.least_quench)
        out.push_back("quench " + l.plain(*c.least_quench) +
                      (*c.least_quench < planning::usual_quench
                           ? steel_rods ? " — under the usual " + l.plain(planning::usual_quench)
                                        : " — little, and more with rods that stretch"
                           : std::string()));
    const auto valve = [&](const char* name, const std::optional<double>& left) {
        if (left)
            out.push_back(std::string(name) + " valve to piston " + l.plain(*left) +
                          (*left <= 0 ? " — they meet" : ""));
    };
    valve("intake", c.valve_intake);
    valve("exhaust", c.valve_exhaust);
    if (c.pushrod_shorter)
        out.push_back("pushrods shorter by " + l.plain(*c.pushrod_shorter));
    if (c.manifold)
        out.push_back("manifold sinks " + l.plain(c.manifold->sinks) + ", take " + l.plain(c.manifold->off_face) +
                      " off each face");
    if (c.chain)
        out.push_back("cam chain " + l.with_unit(c.chain->excess) + " longer than its run, cam " +
                      angle_text(c.cam_retard.value_or(0)) + " late");
    return out;
}

// ---- flaws --------------------------------------------------------------------------------------------------------

std::string flaw_sentence(const block::BankBlueprint& bank, const block::KnownFlaw& f, const LengthText& l) {
    std::string text = entry_words(block::DeckKinds(), f.flaw, l);
    if (!f.flaw.path.empty())
        text = place_words(planning::place_on_deck(bank, f.flaw.path.front())) + ": " + text;
    return text + (f.decided ? " — " + flaw_choice_name(f.decided->choice) : " — not decided");
}

std::vector<std::string> flaw_reasons(const block::JobState& state, const std::string& bank_id, const LengthText& l) {
    std::vector<std::string> out;
    const block::BankBlueprint* bank = intake_of(state).blueprint->bank(bank_id);
    for (const block::KnownFlaw& f : decks_of(state).flaws) {
        const bool scrap = f.decided && f.decided->choice == block::FlawChoice::scrap;
        if (f.flaw.bank == bank_id && bank && (scrap || !f.decided))
            out.push_back(scrap ? "The block was given up: " + flaw_sentence(*bank, f, l) + "."
                                : "Decide first: " + flaw_sentence(*bank, f, l) + ".");
    }
    if (decks_of(state).pressure_test && !decks_of(state).pressure_test->payload.tight)
        out.push_back("The last pressure test leaked.");
    return out;
}

namespace {

std::string words(const block::DeckCut& p, const LengthText& l) {
    const std::string depth = p.kind == block::PassKind::spring ? std::string() : ", " + l.with_unit(p.depth);
    const std::string seen = p.clean          ? ", clean"
                             : p.dark.empty() ? ", not clean"
                                              : ", " + count_words(p.dark.size(), "place", "places") + " stayed dark";
    return (p.head ? "head, " : "") + pass_name(p.kind) + depth + seen +
           (p.lines == block::MarkerLines::not_looked_at ? "" : ", " + marker_lines_words(p.lines));
}

std::string words(const block::DeckTargetChosen& p, const LengthText& l) {
    const bool number = p.school == block::TargetSchool::height && p.height;
    std::string text = "target: " + school_name(p.school);
    if (number)
        text += " " + l.with_unit(*p.height);
    if (p.school == block::TargetSchool::clearance && p.clearance)
        text += " " + l.with_unit(*p.clearance);
    if (p.school == block::TargetSchool::ratio && p.ratio)
        text += " " + ratio_text(*p.ratio);
    if (p.school == block::TargetSchool::least_cut)
        text += p.clean == block::Sureness::sure     ? ", sure to clean"
                : p.clean == block::Sureness::likely ? ", likely to clean"
                                                     : " as measured";
    return text + (p.equal ? ", banks equal" : ", each bank its own");
}

std::string words(const block::PassPlanChosen& p, const LengthText& l) {
    return "passes: witness " + l.plain(p.witness) + ", pass " + l.plain(p.pass) + ", finish " + l.with_unit(p.finish) +
           ", " + count_words(static_cast<std::size_t>(p.spring_passes), "spring pass", "spring passes");
}

std::string words(const block::FlawMarked& p, const LengthText& l) {
    std::string text = flaw_kind_name(p.kind);
    if (p.path.size() > 1)
        text += " " + l.with_unit(p.length()) + " long";
    if (p.depth)
        text += ", " + l.with_unit(*p.depth) + " deep";
    if (p.where == block::FlawWhere::deck)
        text += " " + flaw_near_words(p.near);
    return text + (p.note.empty() ? std::string() : ": " + p.note);
}

std::string words(const block::FlawDecided& p, const LengthText&) {
    return "flaw of entry " + std::to_string(p.flaw) + ": " + flaw_choice_name(p.choice) +
           (p.note.empty() ? std::string() : ", " + p.note);
}

std::string words(const block::PressureTested& p, const LengthText&) {
    std::string text = p.tight ? "pressure test: tight" : "pressure test: leaks";
    if (!p.note.empty())
        text += ", " + p.note;
    return text;
}

std::string words(const block::DeckForecastKept& p, const LengthText& l) {
    return "forecast: " + l.plain(p.low) + " to " + l.with_unit(p.high) + " until it is clean";
}

std::string words(const block::CutterFitted& p, const LengthText& l) {
    return "cutter " + l.with_unit(p.diameter) + ", " + std::to_string(p.teeth) + (p.teeth == 1 ? " tooth" : " teeth") +
           (p.new_inserts ? ", new inserts" : "");
}

std::string words(const block::FinishNoted& p, const LengthText&) {
    return cutter_state_name(p.cutter) + (p.ra ? ", Ra " + fixed(*p.ra * 1000, 2) + " µm" : std::string()) +
           (p.note.empty() ? std::string() : ": " + p.note);
}

std::string words(const block::GasketChosen& p, const LengthText&) {
    return gasket_name(p.kind) + ", Ra at most " + fixed(p.ra_at_most * 1000, 2) + " µm";
}

std::string words(const block::SetUpRead& p, const LengthText& l) {
    if (p.readings.empty())
        return "set-up of the " + std::string(p.surface == block::on_head ? "head" : "block") + ", read on the " +
               p.surface + ", on " + count_words(p.feet.size(), "foot", "feet");
    double low = 0, high = 0;
    for (const auto& r : p.readings) {
        low = &r == &p.readings.front() ? r.height : std::min(low, r.height);
        high = &r == &p.readings.front() ? r.height : std::max(high, r.height);
    }
    return "set-up read on the " + p.surface + ": " + std::to_string(p.readings.size()) + " places, " +
           l.with_unit(high - low) + " between them";
}

std::string words(const block::EngineFigures& p, const LengthText& l) {
    std::string text = "figures of the mock-up";
    if (p.stroke)
        text += ", stroke " + l.with_unit(*p.stroke);
    if (p.chamber)
        text += ", chamber " + volume_text(*p.chamber);
    return text;
}

std::string words(const block::BalanceCard& p, const LengthText&) {
    std::string text = "balance card";
    if (const auto b = planning::bobweight(p))
        text += ", bobweight " + fixed(b->weight, 1) + " g a throw";
    if (const auto u = planning::permissible_unbalance(p))
        text += ", " + fixed(*u, 0) + " g·mm allowed over all";
    return text;
}

std::string words(const block::HeadWork& p, const LengthText& l) {
    std::string text = "head";
    if (p.gap_low)
        text += ", " + l.with_unit(*p.gap_low) + " goes in under the straightedge" +
                (p.gap_high ? ", " + l.with_unit(*p.gap_high) + " does not" : std::string());
    if (p.cut > 0)
        text += ", " + l.with_unit(p.cut) + " off its face";
    if (p.chamber)
        text += ", chamber " + volume_text(*p.chamber);
    return text;
}

} // namespace

std::string entry_words(block::DeckKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

} // namespace pallix::wording
