// SPDX-License-Identifier: GPL-3.0-or-later
// What was probed, and what was decided on the main tunnel and done to it.
#include "block/state/folding.h"

#include <algorithm>

namespace pallix::block {
namespace {

ReadLogs::Read read_anew(const Folding& f) {
    ReadLogs::Read read;
    std::vector<NamedText> texts; // of scans a hundred megabytes: copied only to be read
    for (const ProbeLogTaken* log : f.logs.waiting)
        texts.push_back({log->file, log->text});
    const Blueprint& blueprint = *f.state.blueprint;
    const auto probe = read_probe_logs(texts, blueprint, ProbeScope::part, f.read ? f.read->watch : nullptr);
    if (!probe) {
        read.trouble = probe.error().front().text();
        return read;
    }
    for (const Section& section : probe->sections)
        read.held.push_back(section.feature);
    std::ranges::sort(read.held);
    read.held.erase(std::unique(read.held.begin(), read.held.end()), read.held.end());
    const auto& before = f.logs.probed;
    auto evaluated = evaluate_on_top(blueprint, before.get(), *probe);
    read.laid = std::make_shared<const ProbeSet>(before ? laid_over(*before, *probe) : *probe);
    if (evaluated) {
        for (DeckResult& deck : evaluated->evaluation.decks)
            deck = thinned(std::move(deck)); // from here on it is drawn and planned in the window's own time
        read.evaluated = std::move(*evaluated);
    } else {
        read.trouble = evaluated.error().front().text();
    }
    return read;
}

/// The tunnel lies where its last go has left it; with no go on record, this entry stands for it.
void apply(Folding& f, const TunnelCut&) {
    JobState& state = f.state;
    const std::int64_t moved = state.tunnel_worked() ? state.last_work_on_mains() : f.entry->sequence;
    state.tunnel_cut = moved;
    state.tunnel_done = f.entry->sequence;
    for (auto& [bank, deck] : state.decks) {
        deck.tunnel_cut = moved;
        deck.readings.clear();
    }
    state.crowns.clear();
    state.waiting_crowns.clear();
}

void apply(Folding& f, const TunnelPolicy& policy) {
    if (!std::ranges::all_of(policy.replaced, [&f](const FeatureId& id) { return f.listed(id); }))
        return;
    f.state.tunnel_policy = policy;
    f.state.tunnel_policy_chosen = f.entry->sequence;
}

/// What was probed of them since the last work on them.
std::vector<MainResult> mains_before(const JobState& state) {
    const bool probed = state.latest && state.latest->mains_sequence() > state.last_work_on_mains();
    return probed ? state.latest->evaluation.mains : std::vector<MainResult>();
}

void apply(Folding& f, const CapsCut& cut) {
    JobState& state = f.state;
    if (!std::ranges::all_of(cut.cuts, [&f](const auto& cap) { return f.listed(cap.first); }))
        return;
    state.conditions.caps_torqued.reset();
    state.caps_cut.push_back({f.entry->sequence, cut, mains_before(state)});
}

void apply(Folding& f, const TunnelPass& pass) {
    f.state.tunnel_passes.push_back({f.entry->sequence, pass, mains_before(f.state)});
}

void apply(Folding& f, const TunnelForecastKept& kept) {
    TakenForecast taken{f.entry->sequence, kept};
    if (f.state.latest && !f.state.probe_stale()) {
        taken.cam = f.state.latest->evaluation.cam;
        taken.touch = f.state.latest->standard_uncertainty.value_or(0);
    }
    f.state.rise_forecasts.push_back(std::move(taken));
}

void apply(Folding& f, const MainMarked& mark) {
    if (f.listed(mark.main))
        f.state.marks.push_back({f.entry->sequence, mark});
}

void apply(Folding& f, const IndicatorSag& sag) {
    f.state.sag = sag;
}

void apply(Folding& f, const StepDone& done) {
    f.state.steps.emplace_back(f.entry->sequence, done.step);
    if (done.step.starts_with("caps torqued"))
        f.state.caps_torqued = f.entry->sequence;
}

} // namespace

std::size_t TunnelState::times_probed(FeatureKind kind, const std::string& bank, std::int64_t since) const {
    return static_cast<std::size_t>(std::ranges::count_if(logs, [&](const TakenLogs& log) {
        return log.sequences.back() > since && std::ranges::any_of(log.features, [&](const FeatureId& id) {
                   return id.kind == kind && id.bank == bank;
               });
    }));
}

std::optional<BarMark> TunnelState::mark_of(const FeatureId& main) const {
    const std::int64_t pass = tunnel_passes.empty() ? 0 : tunnel_passes.back().sequence;
    for (auto m = marks.rbegin(); m != marks.rend() && m->sequence > pass; ++m)
        if (m->payload.main == main)
            return m->payload.mark;
    return std::nullopt;
}

void fold_entry(Folding& f, TunnelKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

void finish_logs(Folding& f) {
    Folding::Logs& logs = f.logs;
    if (logs.waiting.empty())
        return;
    const ReadLogs::Read* known = f.read ? f.read->find(logs.key) : nullptr;
    const ReadLogs::Read read = known ? *known : read_anew(f);
    if (f.read && !known)
        f.read->keep(logs.key, read);
    logs.waiting.clear();
    f.state.logs.push_back({std::exchange(logs.sequences, {}), read.held});
    if (read.laid)
        logs.probed = read.laid;
    if (!read.evaluated)
        return f.trouble(logs.sequence, read.trouble);
    EvaluationState evaluated = *read.evaluated;
    evaluated.sequence = logs.sequence;
    evaluated.standard_uncertainty = logs.standard_uncertainty;
    std::optional<EvaluationState>& latest = f.state.latest;
    const bool own_mains =
        std::ranges::any_of(read.held, [](const FeatureId& id) { return id.kind == FeatureKind::main; });
    if (own_mains || !latest) {
        evaluated.conditions = f.state.conditions;
    } else {
        evaluated.conditions = latest->conditions;
        evaluated.mains_from = {latest->mains_sequence(), latest->mains_uncertainty()};
    }
    for (const DeckResult& deck : evaluated.evaluation.decks)
        if (std::ranges::find(read.held, deck.id) != read.held.end())
            f.take_measurement(deck.id.bank,
                               {DeckSource::probe,
                                logs.sequence,
                                logs.standard_uncertainty,
                                deck,
                                {logs.standard_uncertainty.value_or(0), 0, 1},
                                evaluated.mains_from ? std::optional(evaluated.mains_from->sequence) : std::nullopt,
                                f.from_open_mains(evaluated.conditions, {FeatureKind::deck, deck.id.bank, 0})});
    if (!f.state.as_found)
        f.state.as_found = evaluated;
    latest = std::move(evaluated);
}

Result<EvaluationState> evaluate_on_top(const Blueprint& blueprint, const ProbeSet* earlier, const ProbeSet& newest) {
    const auto state_of = [&blueprint](const ProbeSet& set, std::string remark) {
        return [&set, &blueprint, remark = std::move(remark)](Evaluation e) {
            const auto touches = std::make_shared<const ProbeSet>(set);
            return EvaluationState{0,
                                   std::nullopt,
                                   set.logs,
                                   std::move(e),
                                   remark,
                                   touches,
                                   std::make_shared<const Propagated>(blueprint, touches)};
        };
    };
    const bool own_tunnel = newest.of(FeatureKind::main).size() >= 2;
    if (own_tunnel || !earlier) {
        if (newest.of(FeatureKind::main).empty())
            return tl::unexpected(Faults{{newest.logs.front().file, newest.logs.front().header_line,
                                          "no main was probed, and no earlier log holds them", "at least two mains"}});
        auto alone = evaluate(blueprint, newest);
        if (alone || !earlier)
            return alone.map(state_of(newest, ""));
    }
    const ProbeSet both = laid_over(*earlier, newest);
    return evaluate(blueprint, both).map(state_of(both, "datum features from " + earlier->logs.front().file));
}

} // namespace pallix::block
