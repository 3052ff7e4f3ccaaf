// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/set_up.h"
#include "planning/steps/contributors.h"
#include "planning/steps/pass_ids.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <array>
#include <optional>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;
using block::MeasuredAt;
using block::Rule;
using block::Stage;

class DeckPart {
  public:
    explicit DeckPart(Route& route) : r_(route), state_(route.state), a_(route.a) {}

    /// Where the decks themselves are not wanted, a proud sleeve still is.
    void add_flush_only() {
        for (const block::BankBlueprint& bank : intake_of(state_).blueprint->banks)
            add_flush(bank.id);
        for (Step& step : r_.steps)
            step.leads = step.leads || (!lead_.empty() && step.id == lead_);
    }

    void add() {
        add_target();
        for (const std::string& bank : in_order())
            add_bank(bank);
        add_pair();
        for (Step& step : r_.steps)
            step.leads = step.leads || (!lead_.empty() && step.id == lead_);
    }

  private:
    /// The bank to work on, then the others.
    std::vector<std::string> in_order() const {
        std::vector<std::string> banks;
        const auto put = [&banks](const std::string& bank) {
            if (!bank.empty() && std::ranges::find(banks, bank) == banks.end())
                banks.push_back(bank);
        };
        put(a_.decks.bank);
        put(a_.plan.start_with);
        for (const block::BankBlueprint& bank : intake_of(state_).blueprint->banks)
            put(bank.id);
        return banks;
    }

    static FeatureId deck_id(const std::string& bank) { return {FeatureKind::deck, bank, 0}; }
    static std::string id_of(const std::string& bank, const std::string& what) { return "deck." + bank + "/" + what; }
    bool is(DeckStep step, const std::string& bank) const {
        return a_.decks.kind == step && (a_.decks.bank.empty() || a_.decks.bank == bank);
    }
    void lead(const Step& step) {
        if (lead_.empty() && (step.state == StepState::ready || step.state == StepState::waits) && !step.aside)
            lead_ = step.id;
    }

    void add_target() {
        if (a_.decks.kind != DeckStep::give_height)
            return;
        Step& step = r_.add(Task::give_target, "decks/target", Stage::decks);
        step.asks = {{"height", AskKind::length, {}, {}, {}}};
        lead(step);
    }

    /// What the cuts of every bank wait for, besides what is wrong with the bank itself.
    void hold_cut(Step& step, const std::string& bank) {
        if (step.state == StepState::done)
            return;
        r_.hold(step, Rule::inspected, "cleaned/inspect");
        if (!tunnel_stands(state_, a_, Stage::decks))
            r_.hold(step, Rule::tunnel_first, r_.tunnel_first);
        if (std::ranges::find(a_.unconfirmed_banks, bank) != a_.unconfirmed_banks.end())
            r_.hold(step, Rule::datum_confirmed, id_of(bank, "datum"));
        for (const block::KnownFlaw& flaw : decks_of(state_).flaws)
            if (flaw.flaw.bank == bank && !flaw.decided)
                r_.hold(step, Rule::flaw_decided, id_of(bank, "flaw/" + std::to_string(flaw.sequence)));
        if (!doubtful_.empty())
            r_.hold(step, Rule::doubt, doubtful_);
        if (step.task == Task::flush_deck)
            return; // by what the sleeve stands proud, whatever the decks are to be
        if (!level_.empty())
            r_.hold(step, Rule::order, level_);
        if (a_.decks.kind == DeckStep::give_height)
            r_.hold(step, Rule::figures, "decks/target");
        if (a_.decks.kind == DeckStep::read_pistons || a_.decks.kind == DeckStep::give_figures)
            r_.hold(step, Rule::figures,
                    a_.decks.kind == DeckStep::read_pistons ? first_piston_reading(r_) : "mock_up/figures");
        if (is(DeckStep::under_limit, bank) || is(DeckStep::will_not_clean, bank))
            r_.hold(step, Rule::sign_off, id_of(bank, "decide"));
    }

    void add_bank(const std::string& bank) {
        const block::DeckState& deck = decks_of(state_).deck(bank);
        for (const block::KnownFlaw& flaw : decks_of(state_).flaws)
            if (flaw.flaw.bank == bank) {
                Step& step = r_.add(Task::decide_flaw, id_of(bank, "flaw/" + std::to_string(flaw.sequence)),
                                    Stage::decks, deck_id(bank));
                step.why = {flaw.sequence};
                step.asks = flaw_asks(block::FlawWhere::deck);
                if (flaw.decided)
                    step.state = StepState::done;
            }
        if (std::ranges::find(a_.unconfirmed_banks, bank) != a_.unconfirmed_banks.end())
            r_.add(Task::confirm_datum, id_of(bank, "datum"), Stage::decks, deck_id(bank)).why = {
                tunnel_of(state_).latest->sequence};
        add_flush(bank);
        add_done_cuts(bank, deck);
        const bool of_both = a_.decks.bank.empty(); // one bank against the other
        if (is(DeckStep::under_limit, bank) || is(DeckStep::will_not_clean, bank) ||
            (!of_both && (is(DeckStep::fails, bank) || is(DeckStep::cannot_be_told, bank))))
            add_decision(bank, Task::decide_deck, "decide");
        if (is(DeckStep::flat_by_feel, bank)) // where nobody has a bridge or a probe
            add_decision(bank, Task::go_on_unmeasured, "unmeasured", !heights_left_out(bank));
        if (is(DeckStep::no_limits, bank))
            add_decision(bank, Task::give_limits, "limits");
        if (is(DeckStep::look_why_dark, bank))
            lead(r_.add(Task::look_why_dark, id_of(bank, "look"), Stage::decks, deck_id(bank)));
        add_level(bank);
        add_measuring(bank, deck);
        add_passes(bank);
    }

    void add_decision(const std::string& bank, Task task, const char* what, bool aside = false) {
        Step& step = r_.add(task, id_of(bank, what), Stage::decks, deck_id(bank));
        step.asks = {{"reason", AskKind::text, {}, {}, {}}};
        if (const auto& latest = decks_of(state_).deck(bank).latest)
            step.why = {latest->sequence};
        step.aside = aside;
        lead(step);
    }

    /// Both decks get a pass that takes a proud sleeve flush before anything else of the bores is believed.
    void add_flush(const std::string& bank) {
        const std::optional<double> proud = flush_due(state_, bank);
        if (!proud)
            return;
        Step& step = r_.add(Task::flush_deck, id_of(bank, "flush"), Stage::decks, deck_id(bank));
        step.number = *proud;
        step.asks = {{"depth", AskKind::length, *proud, 0, 5}};
        hold_cut(step, bank);
        lead(step);
    }

    /// Once somebody has begun to level a bank, its corners are read, a clamp that pulls is eased and its feet are
    /// raised in turn until they agree: a cut follows the table, whatever was meant.
    void add_level(const std::string& bank) {
        level_.clear();
        const BankProgress* progress = a_.bank(bank);
        const auto places =
            chosen_places(state_, by_level(state_, bank) ? Measuring::deck_level : Measuring::set_up, bank);
        if (!progress || progress->passes.empty())
            return;
        // A cut ends the round: whether the block was moved for the next is for whoever stands there to say.
        std::int64_t newest = 0;
        for (const MeasuredAt& at : places)
            if (const auto* known = r_.place(at))
                newest = std::max(newest, known->sequences.back());
        if (newest == 0 || decks_of(state_).deck(bank).last_cut() > newest)
            return;
        for (const MeasuredAt& at : places)
            if (const auto* known = r_.place(at); !known || known->stale()) {
                const Step& step = r_.add_reading(at, Stage::decks);
                level_ = level_.empty() ? step.id : level_;
                lead(step);
            }
        const SetUpLie lie = set_up_lie(state_, set_up_of(state_, bank));
        if (!level_.empty() || !lie.to_mend())
            return;
        Step& step = r_.add(lie.ease ? Task::ease_clamp : Task::level, id_of(bank, lie.ease ? "clamp" : "level"),
                            Stage::decks, deck_id(bank));
        step.number = lie.ease ? lie.ease->by : std::ranges::max(lie.correction->moves, {}, &FootMove::raise).raise;
        step.asks = {{"done", AskKind::tick, 1, {}, {}}};
        level_ = step.id;
        lead(step);
    }

    void add_done_cuts(const std::string& bank, const block::DeckState& deck) {
        std::vector<block::TakenCut> all = deck.cuts;
        all.insert(all.end(), deck.flushes.begin(), deck.flushes.end());
        std::ranges::sort(all, {}, &block::TakenCut::sequence);
        for (const block::TakenCut& taken : all)
            add_done_cut(r_, Task::cut_deck, id_of(bank, ""), taken);
    }

    void add_passes(const std::string& bank) {
        std::vector<Pass> passes;
        double target = 0;
        if (const BankProgress* b = a_.bank(bank)) {
            passes = b->passes;
            target = b->plan.target;
        } else if (is(DeckStep::cut_by_feel, bank)) {
            passes = {*a_.decks.pass};
        }
        if (flush_due(state_, bank))
            return; // what is planned from heights under a proud sleeve waits until it is flush
        // What was clean stays clean under a deeper cut, until somebody sees otherwise.
        const bool clean = decks_of(state_).deck(bank).marked_clean();
        PassIds ids(id_of(bank, ""));
        std::string before = other_bank_first(bank);
        for (const Pass& pass : passes) {
            const std::string id = ids.next(pass.kind);
            Step& step = r_.add(Task::cut_deck, id, Stage::decks, deck_id(bank));
            step.number = pass.depth;
            if (a_.bank(bank)) {
                const block::BankBlueprint& meant = *intake_of(state_).blueprint->bank(bank);
                if (meant.deck_height.whole()) {
                    step.least = target + *meant.deck_height.lower;
                    step.most = target + *meant.deck_height.upper;
                }
            }
            step.asks = pass_asks(pass, clean);
            if (!before.empty()) {
                step.state = StepState::waits;
                step.waits_for.push_back({Rule::order, before, "", "", ""});
            }
            hold_cut(step, bank);
            if (const auto line = heights_left_out(bank) ? unfelt(bank) : std::nullopt)
                r_.hold(step, Rule::complete, reading_id(*line));
            lead(step);
            before = id;
        }
    }
    /// Along one bank before the block is rolled to the other.
    std::string other_bank_first(const std::string& bank) const {
        if (a_.decks.kind != DeckStep::cut || a_.decks.bank == bank)
            return "";
        const BankProgress* first = a_.bank(a_.decks.bank);
        return first && !first->passes.empty()
                   ? id_of(a_.decks.bank, pass_ids[static_cast<std::size_t>(first->passes.front().kind)])
                   : "";
    }

    void add_measuring(const std::string& bank, const block::DeckState& deck) {
        const BankProgress* progress = a_.bank(bank);
        if (is(DeckStep::feel_again, bank)) {
            Step& step = r_.add(Task::feel, id_of(bank, "feel"), Stage::decks, deck_id(bank));
            lead(step);
            return;
        }
        if (is(DeckStep::see_flatness, bank) || (heights_left_out(bank) && unfelt(bank)))
            add_feelers(bank);
        if (is(DeckStep::settle_doubt, bank) && !a_.decks.bank.empty()) {
            Step& step = r_.add(Task::settle, id_of(bank, "settle"), Stage::decks, deck_id(bank));
            step.why = {deck.latest->sequence};
            read_again(step, {bank});
            lead(step);
        }
        if (deck.latest && add_doubtful_corner(bank, deck))
            return;
        const bool by_probe = deck.latest && deck.latest->source == block::DeckSource::probe;
        const bool turn = !deck.latest || is(DeckStep::measure_again, bank) || is(DeckStep::flat_by_feel, bank) ||
                          is(DeckStep::look_why_dark, bank) || deck.from_other_tunnel();
        const bool felt = a_.feel(bank) && !is(DeckStep::flat_by_feel, bank);
        if (deck.latest) {
            Step& probe = r_.add(Task::probe, id_of(bank, "probe"), Stage::decks, deck_id(bank));
            probe.why = {deck.latest->sequence};
            probe.asks = {{"log", AskKind::file, {}, {}, {}}};
            if (!progress || !progress->stale)
                probe.state = by_probe ? StepState::done : StepState::skipped;
            else if (!turn)
                probe.state = StepState::stale;
            probe.aside = !by_probe;
            hold_measuring(probe);
            if (turn && !is(DeckStep::look_why_dark, bank))
                lead(probe);
        }
        for (const MeasuredAt& at : chosen_places(state_, Measuring::deck_heights, bank)) {
            Step& step = r_.add_reading(at, Stage::decks);
            if (step.state == StepState::done)
                continue;
            if (!turn) {
                step.state = r_.place(at) ? StepState::stale : StepState::skipped;
                continue;
            }
            step.aside = by_probe || felt || (!deck.latest && log_is_awaited());
            hold_measuring(step);
            lead(step);
        }
    }
    /// Nothing was measured yet, and the first to come is a log; where nobody has a probe that step was left out.
    bool log_is_awaited() const {
        return !tunnel_of(state_).as_found && readings_of(state_).places.empty() &&
               std::ranges::none_of(intake_of(state_).skipped,
                                    [](const auto& skipped) { return skipped.payload.step == "as_found/log"; });
    }
    /// Nobody here reads its heights: every place of them was left out.
    bool heights_left_out(const std::string& bank) const {
        const auto places = chosen_places(state_, Measuring::deck_heights, bank);
        return !places.empty() && std::ranges::all_of(places, [this](const MeasuredAt& at) {
            return std::ranges::any_of(intake_of(state_).skipped, [id = reading_id(at)](const auto& skipped) {
                return skipped.payload.step == id;
            });
        });
    }
    /// A line of it that the straightedge has never lain along.
    std::optional<MeasuredAt> unfelt(const std::string& bank) const {
        const auto lines = chosen_places(state_, Measuring::feelers, bank);
        const auto open = std::ranges::find_if(lines, [this](const MeasuredAt& at) { return !r_.place(at); });
        return open == lines.end() ? std::nullopt : std::optional(*open);
    }
    void add_feelers(const std::string& bank) {
        for (const MeasuredAt& at : chosen_places(state_, Measuring::feelers, bank)) {
            Step& step = r_.add_reading(at, Stage::decks);
            step.second_look = SecondLook::between;
            lead(step);
        }
    }
    /// Four corners that disagree across the diagonals: one of them may be a slip, and nobody can say which. Before the
    /// first cut those that were read once are read again, the one furthest off first.
    bool add_doubtful_corner(const std::string& bank, const block::DeckState& deck) {
        constexpr double twisted = 2 * block::mm_per_thou; // across the diagonals (common practice, no source)
        const BankProgress* progress = a_.bank(bank);
        if (!deck.cuts.empty() || deck.latest->source == block::DeckSource::probe ||
            deck.latest->result.points.size() != 4 || !progress || std::abs(progress->lie.twist) <= twisted)
            return false;
        const block::MeasuredPlace* doubtful = seldomest_read(state_, {bank});
        if (!doubtful || doubtful->count > 1)
            return false;
        Step& step = r_.add_reading(doubtful->at, Stage::decks);
        step.state = StepState::ready;
        step.second_look = SecondLook::twisted;
        doubtful_ = step.id;
        lead(step);
        return true;
    }
    /// What will move is not measured: a tunnel that is being worked on carries every height with it.
    void hold_measuring(Step& step) {
        if (step.state != StepState::ready)
            return;
        if (!tunnel_of(state_).as_found && readings_of(state_).places.empty())
            r_.hold(step, Rule::clean_first, "cleaned/wash");
        if (a_.tunnel_work.begun && !tunnel_stands(state_, a_, Stage::decks))
            r_.hold(step, Rule::tunnel_first, r_.tunnel_first);
    }

    void add_pair() {
        if (!a_.decks.bank.empty())
            return;
        if (a_.decks.kind == DeckStep::fails || a_.decks.kind == DeckStep::cannot_be_told) {
            Step& step = r_.add(Task::decide_deck, "decks/decide", Stage::decks);
            step.asks = {{"reason", AskKind::text, {}, {}, {}}};
            lead(step);
        }
        if (a_.decks.kind == DeckStep::settle_doubt)
            settle_pair();
    }
    void settle_pair() {
        std::vector<std::string> banks;
        for (const BankProgress& b : a_.banks)
            banks.push_back(b.plan.bank);
        Step& step = r_.add(Task::settle, "decks/settle", Stage::decks);
        read_again(step, banks);
        lead(step);
    }
    void read_again(Step& step, const std::vector<std::string>& banks) const {
        const block::MeasuredPlace* best = seldomest_read(state_, banks);
        if (!best) {
            step.asks = {{"log", AskKind::file, {}, {}, {}}};
            return;
        }
        step.place = best->at;
        step.asks = {{"value", AskKind::length, {}, {}, {}}};
    }

    Route& r_;
    const JobState& state_;
    const Assessment& a_;
    std::string lead_;
    std::string level_;    ///< what stands between the bank in hand and level
    std::string doubtful_; ///< a corner to be read again before anything is cut
};

} // namespace

std::vector<Ask> pass_asks(const Pass& pass, bool clean_before) {
    std::vector<Ask> asks;
    if (pass.kind == block::PassKind::spring) // without infeed
        asks = {
            {"lines", AskKind::choice, 0, {}, {}, {block::marker_lines_keys.begin(), block::marker_lines_keys.end()}}};
    else
        asks = {{"depth", AskKind::length, pass.depth, 0, 5}};
    asks.push_back({"clean", AskKind::tick, clean_before ? std::optional(1.0) : std::nullopt, {}, {}});
    asks.push_back({"dark", AskKind::place, {}, {}, {}, {}, true});
    return asks;
}

void add_done_cut(Route& route, Task task, const std::string& before, const block::TakenCut& taken) {
    Step& step = route.add(task,
                           before + pass_ids.at(static_cast<std::size_t>(taken.cut.kind)) + "/entry/" +
                               std::to_string(taken.sequence),
                           Stage::decks, FeatureId{FeatureKind::deck, taken.cut.bank, 0});
    step.state = StepState::done;
    step.number = taken.cut.depth;
    step.why = {taken.sequence};
}

std::optional<double> flush_due(const JobState& state, const std::string& bank) {
    double proud = 0;
    std::int64_t fitted = 0;
    for (const auto& [id, work] : bores_of(state).bores)
        if (id.kind == FeatureKind::bore && work.fitted && work.fitted->payload.proud > 0) {
            proud = std::max(proud, work.fitted->payload.proud);
            fitted = std::max(fitted, work.fitted->sequence);
        }
    const bool flush = decks_of(state).deck(bank).last_cut() > fitted;
    return fitted > 0 && !flush ? std::optional(proud) : std::nullopt;
}

/// What is pressed in stands proud, and ends flush with a deck that is cut after it: decks that nobody has begun to cut
/// wait for sleeves that can be worked on now. An order that somebody chose is kept.
void hold_decks_for_sleeves(Route& route) {
    const auto cut = [](const auto& deck) { return !deck.second.cuts.empty(); };
    if (intake_of(route.state).route || !wanted(route.state, Stage::cylinders) || !route.a.cylinders ||
        std::ranges::any_of(decks_of(route.state).decks, cut) || std::ranges::none_of(route.steps, [](const Step& s) {
            return s.task == Task::press && (s.state == StepState::ready || s.state == StepState::waits) &&
                   !is_held_from_outside(s);
        }))
        return;
    const auto sleeve = std::ranges::find_if(route.steps, [](const Step& s) {
        return s.stage == Stage::cylinders && s.leads && !s.aside && s.state == StepState::ready;
    });
    if (sleeve == route.steps.end())
        return;
    for (Step& step : route.steps)
        if (step.task == Task::cut_deck)
            route.hold(step, Rule::order, sleeve->id);
}

void add_deck_steps(Route& route) {
    DeckPart part(route);
    if (wanted(route.state, Stage::decks))
        part.add();
    else
        part.add_flush_only();
}

} // namespace pallix::planning
