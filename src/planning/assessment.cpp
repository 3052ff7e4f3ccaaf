// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/assessment.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using block::JobState;
using metrology::Verdict;

constexpr double nothing = 5e-4; // mm, less cannot be dialled in

BankProgress progress_of(const block::BankBlueprint& bank, const BankPlan& plan, const block::DeckState& deck,
                         const block::PassPlanChosen& chosen) {
    BankProgress p;
    p.plan = plan;
    p.taken = deck.depth_in_all();
    p.stale = deck.stale();
    p.dark_left = !deck.cuts.empty() && !deck.cuts.back().cut.clean;
    const block::DeckMeasurement& newest = *deck.latest;
    const bool measured_after_cut = !deck.cuts.empty() && !p.stale;
    if (measured_after_cut)
        p.dark_left = false; // heights say it better than marks
    if (!p.stale)
        p.verdict = judge_deck(bank, newest, plan.target, p.dark_left);
    const bool good = p.verdict && p.verdict->verdict == Verdict::meets;
    p.remaining = newest.result.height_max - plan.target - deck.depth_since(newest.sequence);
    // Once it is measured at depth, only a place proven too high is a reason to cut on.
    const bool too_high = p.verdict && std::ranges::any_of(p.verdict->checks, [](const DeckCheck& c) {
                              return c.kind == CheckKind::highest_height && c.verdict == Verdict::fails;
                          });
    if (!good && (!measured_after_cut || too_high))
        p.passes = plan_passes(p.remaining, chosen, deck.cuts.empty());
    // Spring passes belong to the finishing cut: once it is made they are asked for one by one.
    if (p.passes.empty() && p.stale) {
        int spring = 0;
        for (auto c = deck.cuts.rbegin(); c != deck.cuts.rend() && c->cut.kind == block::PassKind::spring; ++c)
            ++spring;
        for (; spring < chosen.spring_passes; ++spring)
            p.passes.push_back({block::PassKind::spring, 0});
    }
    p.corners = corner_heights(bank, newest.result.points);
    p.lie = deck_lie(bank, newest.result);
    return p;
}

/// The bank to work on: the one begun, else the one that lies lowest, else the next that has something left.
const BankProgress* bank_to_cut(const Assessment& a) {
    const auto open = [](const BankProgress& b) { return !b.passes.empty(); };
    for (const BankProgress& b : a.banks)
        if (open(b) && b.stale)
            return &b;
    for (const BankProgress& b : a.banks)
        if (open(b) && b.plan.bank == a.plan.start_with)
            return &b;
    const auto any = std::ranges::find_if(a.banks, open);
    return any == a.banks.end() ? nullptr : &*any;
}

Call call_for(const JobState& state, const Assessment& a) {
    if (!state.blueprint)
        return {CallKind::mend_blueprint, {}, {}, 0, 0};
    if (a.plan.height_missing)
        return {CallKind::give_height, {}, {}, 0, 0};
    if (a.banks.empty())
        return {CallKind::take_probe_log, {}, {}, 0, 0};
    const auto first = [&a](auto condition) -> const BankProgress* {
        const auto found = std::ranges::find_if(a.banks, condition);
        return found == a.banks.end() ? nullptr : &*found;
    };
    const bool uncut = std::ranges::all_of(a.banks, [](const BankProgress& b) { return b.taken == 0 && !b.stale; });
    if (const auto* b = first([&](const BankProgress& p) { return uncut && !p.plan.cleans && !p.passes.empty(); }))
        return {CallKind::will_not_clean, b->plan.bank, {}, 0, b->plan.short_by};
    if (const auto* b = bank_to_cut(a))
        return {CallKind::cut, b->plan.bank, b->passes.front(), b->passes.size(), b->remaining};
    if (const auto* b = first([](const BankProgress& p) { return p.stale && p.dark_left; }))
        return {CallKind::look_why_dark, b->plan.bank, {}, 0, 0};
    if (const auto* b = first([](const BankProgress& p) { return p.stale; }))
        return {CallKind::measure_again, b->plan.bank, {}, 0, 0};
    const auto has = [&](Verdict v) {
        return first([v](const BankProgress& p) { return p.verdict && p.verdict->verdict == v; });
    };
    if (const auto* b = has(Verdict::fails))
        return {CallKind::fails, b->plan.bank, {}, 0, 0};
    if (a.pair && a.pair->verdict == Verdict::fails)
        return {CallKind::fails, {}, {}, 0, 0};
    if (const auto* b = has(Verdict::cannot_tell))
        return {CallKind::settle_doubt, b->plan.bank, {}, 0, 0};
    if (a.pair && a.pair->verdict == Verdict::cannot_tell)
        return {CallKind::settle_doubt, {}, {}, 0, 0};
    return {CallKind::done, {}, {}, 0, 0};
}

StageMark mark_of(Verdict v) {
    return v == Verdict::meets ? StageMark::meets : v == Verdict::fails ? StageMark::fails : StageMark::cannot_tell;
}

StageMark deck_mark(const Assessment& a) {
    if (a.banks.empty())
        return StageMark::open;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return !b.passes.empty(); }))
        return StageMark::current;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.stale; }))
        return StageMark::stale;
    Verdict v = a.pair ? a.pair->verdict : Verdict::meets;
    for (const BankProgress& b : a.banks)
        if (b.verdict)
            v = worse(v, b.verdict->verdict);
    return mark_of(v);
}

std::vector<StageState> stages_of(const JobState& state, const Assessment& a) {
    const bool measured = state.latest.has_value() || !a.banks.empty();
    const StageMark decks = deck_mark(a);
    return {{Stage::received, state.blueprint ? StageMark::done : StageMark::fails},
            {Stage::as_found, measured          ? StageMark::done
                              : state.blueprint ? StageMark::current
                                                : StageMark::open},
            {Stage::tunnel, a.tunnel ? mark_of(a.tunnel->overall) : StageMark::open},
            {Stage::decks, decks},
            {Stage::passport, decks == StageMark::meets ? StageMark::current : StageMark::open}};
}

} // namespace

const BankProgress* Assessment::bank(std::string_view id) const {
    const auto found =
        std::ranges::find(banks, id, [](const BankProgress& b) { return std::string_view(b.plan.bank); });
    return found == banks.end() ? nullptr : &*found;
}

Assessment assess(const JobState& state) {
    Assessment a;
    if (state.blueprint) {
        std::vector<DeckToPlan> decks;
        for (const block::BankBlueprint& bank : state.blueprint->banks)
            if (const auto& deck = state.deck(bank.id); deck.as_found)
                decks.push_back({&bank, &deck.as_found->result});
        a.plan = plan_decks(decks, state.target);
        const block::PassPlanChosen chosen = state.passes.value_or(usual_passes());
        for (const BankPlan& plan : a.plan.banks)
            a.banks.push_back(progress_of(*state.blueprint->bank(plan.bank), plan, state.deck(plan.bank), chosen));
        if (state.latest)
            a.tunnel = judge_tunnel(*state.blueprint, *state.latest);
        if (a.banks.size() == 2 && !a.banks[0].stale && !a.banks[1].stale)
            a.pair = judge_pair(*state.deck(a.banks[0].plan.bank).latest, a.banks[0].plan.target,
                                *state.deck(a.banks[1].plan.bank).latest, a.banks[1].plan.target);
    }
    a.call = call_for(state, a);
    a.stages = stages_of(state, a);
    return a;
}

} // namespace pallix::planning
