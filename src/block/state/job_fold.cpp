// SPDX-License-Identifier: GPL-3.0-or-later
// What opens a job, and what is said of its entries and its route.
#include "block/state/folding.h"

namespace pallix::block {
namespace {

void apply(Folding& f, const JobOpened& opened) {
    f.state.title = opened.title;
    f.state.customer = opened.customer;
    if (!f.blueprint) // a trouble already
        return;
    f.state.blueprint = *f.blueprint;
    for (const BankBlueprint& bank : f.state.blueprint->banks) {
        f.state.decks[bank.id];
        f.state.faces[bank.id];
    }
}

void apply(Folding& f, const BlueprintAmended& amended) {
    const bool unread =
        std::ranges::find(f.state.troubles, f.entry->sequence, &Trouble::sequence) != f.state.troubles.end();
    if (!unread)
        f.state.amendments.push_back({f.entry->sequence, amended.blueprint_file, amended.reason});
}

void apply(Folding& f, const ProbeLogTaken& log) {
    if (!log.continues)
        finish_logs(f);
    if (!f.state.blueprint)
        return;
    const auto larger = [](std::optional<double> a, std::optional<double> b) {
        return a && b ? std::optional(std::max(*a, *b)) : std::nullopt;
    };
    Folding::Logs& logs = f.logs;
    logs.standard_uncertainty =
        logs.waiting.empty() ? log.standard_uncertainty : larger(logs.standard_uncertainty, log.standard_uncertainty);
    logs.waiting.push_back(&log);
    logs.sequence = f.entry->sequence;
    logs.sequences.push_back(logs.sequence);
    // Entries never change; the digest guards a log that was refused and another that took its place.
    logs.key +=
        std::to_string(f.entry->sequence) + ":" + log.sha256 + ":" + std::to_string(log.text.str().size()) + ";";
}

void apply(Folding&, const Note&) {}
void apply(Folding&, const Strike&) {}

void apply(Folding& f, const GatePassed& gate) {
    f.state.gates.push_back({f.entry->sequence, gate});
}
void apply(Folding&, const RoundOpened&) {} // it ends the round before
void apply(Folding& f, const ScopeChosen& scope) {
    f.state.scope = {f.entry->sequence, scope};
}
void apply(Folding& f, const RouteChosen& route) {
    f.state.route = {f.entry->sequence, route};
}
void apply(Folding& f, const LimitsChosen& limits) {
    f.state.limits = {f.entry->sequence, limits};
}
void apply(Folding& f, const StepSkipped& step) {
    f.state.skipped.push_back({f.entry->sequence, step});
}

} // namespace

void fold_entry(Folding& f, JobKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}
void fold_entry(Folding& f, RouteKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

Result<std::shared_ptr<const Blueprint>> blueprint_of(const std::string& text, const std::string& file,
                                                      ReadLogs* read) {
    if (auto known = read ? read->blueprint(text) : nullptr)
        return known;
    return read_blueprint(text, file).map([&](Blueprint blueprint) {
        auto shared = std::make_shared<const Blueprint>(std::move(blueprint));
        if (read)
            read->keep(text, shared);
        return shared;
    });
}

const ReadLogs::Read* ReadLogs::find(const std::string& key) const {
    const auto found = reads_.find(key);
    return found == reads_.end() ? nullptr : found->second.get();
}

void ReadLogs::keep(const std::string& key, Read read) {
    reads_[key] = std::make_shared<const Read>(std::move(read));
}

std::shared_ptr<const Blueprint> ReadLogs::blueprint(const std::string& text) const {
    return blueprint_ && text == blueprint_text_ ? blueprint_ : nullptr;
}

void ReadLogs::keep(const std::string& text, std::shared_ptr<const Blueprint> blueprint) {
    blueprint_text_ = text;
    blueprint_ = std::move(blueprint);
}

} // namespace pallix::block
