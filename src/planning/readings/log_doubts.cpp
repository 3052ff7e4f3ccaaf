// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/log_doubts.h"

#include "planning/common/blueprint_check.h"

#include "block/number_text.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {
namespace {

using block::fixed_number;
using block::JobState;

constexpr double size_share = 0.15;  // of the nominal
constexpr double place_bound = 3;    // mm
constexpr double half_a_main = 20;   // mm: a section may stand anywhere along its bearing
constexpr double nothing_cut = 0.1;  // mm between two logs
constexpr double uncertainties = 10; // and so many standard uncertainties of one touch
constexpr double unit_share = 0.03;  // of 25.4
constexpr double mm_per_inch = 25.4;
constexpr std::size_t most_doubts = 8;

bool like_another_unit(double value, double expected) {
    const double ratio = std::abs(value / expected);
    return std::abs(ratio / mm_per_inch - 1) < unit_share || std::abs(ratio * mm_per_inch - 1) < unit_share;
}

class Doubts {
  public:
    explicit Doubts(std::string file) : file_(std::move(file)) {}

    void size(const block::FeatureId& id, double value, double nominal) {
        if (nominal > 0 && std::abs(value / nominal - 1) > size_share)
            add(id.text() + " measures " + mm(value), "about " + mm(nominal) + " by the blueprint", value, nominal);
    }
    void place(const std::string& what, double value, double nominal, double bound = place_bound) {
        if (std::abs(value - nominal) > bound)
            add(what + " " + mm(value), "about " + mm(nominal) + " by the blueprint", value, nominal);
    }
    void unchanged(const std::string& what, double value, double before, double u) {
        if (std::abs(value - before) > std::max(nothing_cut, uncertainties * u))
            add(what + " " + mm(value) + ", and nothing was cut since the log before",
                mm(before) + " as that log has it; is it a log of this block?", value, before);
    }
    void range(const std::string& what, double value, double least, double most) {
        if (value < least || value > most)
            add(what + " " + mm(value), mm(least) + " to " + mm(most) + "; is the unit of the blueprint right?", 0, 0);
    }

    void stands_out(const block::TouchStandingOut& t) {
        const std::string section = t.feature.text() + (t.level.empty() ? "" : " " + t.level);
        if (t.touch)
            add("touch " + std::to_string(*t.touch) + " of " + section + " lies " + mm(t.off) +
                    " off where the others put it",
                "within a few of the " + mm(t.scatter) + " that they scatter by; is it a chip or dirt?", 0, 0);
        else
            add("the two diameters of " + section + " differ by " + mm(t.off), "four touches of one round hole", 0, 0);
    }

    [[nodiscard]] block::Faults all() const {
        block::Faults faults(faults_.begin(),
                             faults_.begin() + static_cast<std::ptrdiff_t>(std::min(most_doubts, faults_.size())));
        if (faults_.size() > most_doubts)
            faults.push_back({file_, 0, std::to_string(faults_.size() - most_doubts) + " more of the kind", ""});
        return faults;
    }

  private:
    static std::string mm(double value) { return fixed_number(value, 3) + " mm"; }
    void add(std::string what, std::string expected, double value, double other) {
        if (other != 0 && like_another_unit(value, other))
            expected += "; is the unit of the log right?";
        faults_.push_back({file_, 0, std::move(what), std::move(expected)});
    }

    std::string file_;
    block::Faults faults_;
};

void hold_against_blueprint(Doubts& doubts, const block::Blueprint& blueprint, const block::Evaluation& e) {
    for (const block::MainResult& main : e.mains)
        for (const block::MainBlueprint& b : blueprint.mains)
            if (b.id == main.id) {
                doubts.size(main.id, main.diameter, b.diameter.nominal);
                doubts.place(main.id.text() + " stands along the crankshaft at", main.centre.x, b.x, half_a_main);
            }
    for (const block::DeckResult& deck : e.decks)
        doubts.place(deck.id.text() + " stands at", deck.height_mean, deck.nominal);
    for (const auto* holes : {&e.bores, &e.lifters})
        for (const block::HoleResult& hole : *holes)
            if (const block::HoleBlueprint* b = blueprint.hole(hole.id)) {
                doubts.size(hole.id, hole.diameter(), b->diameter.nominal);
                doubts.place(hole.id.text() + " stands along its bank at", hole.centre.x, b->u);
                doubts.place(hole.id.text() + " stands across its bank at", hole.centre.y, b->v);
            }
}

void hold_against_earlier(Doubts& doubts, const JobState& before, const JobState& after) {
    const block::EvaluationState &old = *tunnel_of(before).latest, &now = *tunnel_of(after).latest;
    const double u = std::max(old.standard_uncertainty.value_or(0), now.standard_uncertainty.value_or(0));
    const bool tunnel_worked_on =
        tunnel_of(before).tunnel_cut > old.sequence ||
        std::ranges::any_of(tunnel_of(before).caps_cut, [&](const auto& cut) { return cut.sequence > old.sequence; }) ||
        std::ranges::any_of(tunnel_of(before).tunnel_passes,
                            [&](const auto& pass) { return pass.sequence > old.sequence; });
    if (tunnel_worked_on)
        return; // everything that is measured from it has moved
    for (const block::MainResult& main : now.evaluation.mains)
        for (const block::MainResult& was : old.evaluation.mains)
            if (was.id == main.id && was.level == main.level)
                doubts.unchanged(main.id.text() + " measures", main.diameter, was.diameter, u);
    for (const block::DeckResult& deck : now.evaluation.decks) {
        const block::DeckResult* was = old.evaluation.deck(deck.id.bank);
        if (was && decks_of(before).deck(deck.id.bank).depth_since(old.sequence) == 0)
            doubts.unchanged(deck.id.text() + " stands at", deck.height_mean, was->height_mean, u);
    }
    for (const auto holes : {&block::Evaluation::bores, &block::Evaluation::lifters})
        for (const block::HoleResult& hole : now.evaluation.*holes)
            for (const block::HoleResult& was : old.evaluation.*holes)
                if (was.id == hole.id && bores_of(before).bore(hole.id).last_cut() <= old.sequence &&
                    (!bores_of(before).bore(hole.id).fitted ||
                     bores_of(before).bore(hole.id).fitted->sequence <= old.sequence) &&
                    was.levels.front().level == hole.levels.front().level)
                    doubts.unchanged(hole.id.text() + " measures", hole.diameter(), was.diameter(), u);
}

/// Touches of the new log against the others of their section.
void hold_against_others(Doubts& doubts, const JobState& before, const JobState& after) {
    const auto known = touches_standing_out(before);
    for (const block::TouchStandingOut& t : touches_standing_out(after))
        if (std::ranges::find(known, t) == known.end())
            doubts.stands_out(t);
}

} // namespace

std::vector<block::TouchStandingOut> touches_standing_out(const JobState& state) {
    const auto& latest = tunnel_of(state).latest;
    if (!latest || !latest->probe)
        return {};
    return block::touches_standing_out(*intake_of(state).blueprint, *latest->probe, latest->evaluation.frame,
                                       latest->standard_uncertainty);
}

block::Faults doubts_about_log(const JobState& before, const JobState& after, const std::string& file) {
    Doubts doubts(file);
    if (!tunnel_of(after).latest || !intake_of(after).blueprint)
        return doubts.all();
    hold_against_blueprint(doubts, *intake_of(after).blueprint, tunnel_of(after).latest->evaluation);
    if (tunnel_of(before).latest)
        hold_against_earlier(doubts, before, after);
    hold_against_others(doubts, before, after);
    return doubts.all();
}

block::Faults doubts_about_blueprint(const block::Blueprint& blueprint, const std::string& file) {
    Doubts doubts(file);
    for (const block::MainBlueprint& main : blueprint.mains)
        doubts.range(main.id.text() + " has a diameter of", main.diameter.nominal, 15, 400);
    for (const block::HoleBlueprint& bore : blueprint.bores)
        doubts.range(bore.id.text() + " has a diameter of", bore.diameter.nominal, 25, 600);
    for (const block::BankBlueprint& bank : blueprint.banks)
        doubts.range("deck " + bank.id + " has a height of", bank.deck_height.nominal, 50, 1500);
    block::Faults all = doubts.all();
    for (const BlueprintDoubt& doubt : doubts_of(blueprint)) // what no block can have; the rest can be meant
        if (doubt.kind == BlueprintDoubtKind::overlap)
            all.push_back({file, 0, doubt.about.text() + " and " + doubt.other->text() + " run into one another",
                           "metal between them"});
    return all;
}

} // namespace pallix::planning
