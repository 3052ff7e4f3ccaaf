// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_state.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::block {
namespace {

using metrology::Vec2;
using metrology::Vec3;

bool same_place(Vec2 a, Vec2 b) {
    return metrology::norm(a - b) < 1e-3;
}

/// Builds the state entry by entry.
class Folder {
  public:
    explicit Folder(JobState& state) : state_(state) {}

    void take(const Entry& entry) {
        entry_ = &entry;
        if (!std::holds_alternative<ProbeLogTaken>(entry.payload))
            finish_logs();
        std::visit([this](const auto& payload) { apply(payload); }, entry.payload);
    }

    /// Logs that continue one another are read together, once the last of them is known.
    void finish_logs() {
        if (logs_.empty())
            return;
        const auto probe = read_probe_logs(logs_, *state_.blueprint, ProbeScope::part);
        logs_.clear();
        if (!probe) {
            trouble(probe.error().front().text());
            return;
        }
        auto evaluated = evaluate_on_top(*state_.blueprint, probed_ ? &*probed_ : nullptr, *probe);
        probed_ = probed_ ? laid_over(*probed_, *probe) : *probe;
        if (!evaluated) {
            trouble(evaluated.error().front().text());
            return;
        }
        evaluated->sequence = logs_sequence_;
        evaluated->standard_uncertainty = logs_uncertainty_;
        const auto holds = [&probe](const FeatureId& deck) {
            return std::ranges::find(probe->sections, deck, &Section::feature) != probe->sections.end();
        };
        for (const DeckResult& deck : evaluated->evaluation.decks)
            if (holds(deck.id))
                take_measurement(deck.id.bank, {DeckSource::probe, logs_sequence_, logs_uncertainty_, deck});
        if (!state_.as_found)
            state_.as_found = *evaluated;
        state_.latest = std::move(*evaluated);
    }

  private:
    void trouble(const std::string& text) { state_.troubles.push_back(text); }

    void take_measurement(const std::string& bank, DeckMeasurement measurement) {
        DeckState& deck = state_.decks[bank];
        if (!deck.as_found || deck.cuts.empty())
            deck.as_found = measurement;
        deck.latest = std::move(measurement);
        deck.pending.clear();
    }

    DeckState* deck_of(const std::string& bank) {
        const auto found = state_.decks.find(bank);
        if (found != state_.decks.end())
            return &found->second;
        trouble("entry " + std::to_string(entry_->sequence) + " speaks of bank \"" + bank +
                "\", which the blueprint does not have");
        return nullptr;
    }

    void apply(const JobOpened& opened) {
        state_.title = opened.title;
        state_.customer = opened.customer;
        auto blueprint = read_blueprint(opened.blueprint, opened.blueprint_file);
        if (!blueprint) {
            trouble(blueprint.error().front().text());
            return;
        }
        state_.blueprint = std::move(*blueprint);
        for (const BankBlueprint& bank : state_.blueprint->banks)
            state_.decks[bank.id];
    }

    void apply(const ProbeLogTaken& log) {
        if (!log.continues)
            finish_logs();
        if (!state_.blueprint)
            return;
        const auto larger = [](std::optional<double> a, std::optional<double> b) {
            return a && b ? std::optional(std::max(*a, *b)) : std::nullopt;
        };
        logs_uncertainty_ =
            logs_.empty() ? log.standard_uncertainty : larger(logs_uncertainty_, log.standard_uncertainty);
        logs_.push_back({log.file, log.text});
        logs_sequence_ = entry_->sequence;
    }

    void apply(const DeckReading& reading) {
        DeckState* deck = deck_of(reading.bank);
        if (!deck)
            return;
        std::erase_if(deck->pending, [&](const DeckReading& r) { return same_place(r.place, reading.place); });
        deck->pending.push_back(reading);
        const BankBlueprint& bank = *state_.blueprint->bank(reading.bank);
        std::vector<Vec3> points;
        std::optional<double> uncertainty = 0.0;
        for (const DeckPlace& place : deck_places(bank)) {
            const auto read = std::ranges::find_if(
                deck->pending, [&](const DeckReading& r) { return same_place(r.place, place.place); });
            if (read == deck->pending.end())
                return; // the set is not complete
            points.push_back({read->place.x, read->place.y, read->height});
            uncertainty = uncertainty && read->standard_uncertainty
                              ? std::optional(std::max(*uncertainty, *read->standard_uncertainty))
                              : std::nullopt;
        }
        if (auto result = evaluate_deck(bank, std::move(points)))
            take_measurement(reading.bank, {DeckSource::readings, entry_->sequence, uncertainty, std::move(*result)});
    }

    void apply(const DeckCut& cut) {
        if (DeckState* deck = deck_of(cut.bank)) {
            deck->cuts.push_back({entry_->sequence, entry_->time, entry_->person, cut});
            deck->pending.clear();
        }
    }

    void apply(const DeckTargetChosen& target) { state_.target = target; }
    void apply(const PassPlanChosen& passes) { state_.passes = passes; }
    void apply(const Note&) {}
    void apply(const Strike&) {}
    void apply(const UnknownPayload&) {}

    JobState& state_;
    const Entry* entry_ = nullptr;
    std::vector<NamedText> logs_;
    std::int64_t logs_sequence_ = 0;
    std::optional<double> logs_uncertainty_;
    std::optional<ProbeSet> probed_;
};

} // namespace

double DeckState::depth_since(std::int64_t sequence) const {
    double depth = 0;
    for (const TakenCut& taken : cuts)
        if (taken.sequence > sequence)
            depth += taken.cut.depth;
    return depth;
}

bool DeckState::stale() const {
    return latest && std::ranges::any_of(cuts, [this](const TakenCut& c) { return c.sequence > latest->sequence; });
}

std::vector<DeckPlace> deck_places(const BankBlueprint& bank) {
    constexpr double inset = 0.08; // of the deck's length and width
    double u0 = std::numeric_limits<double>::infinity(), u1 = -u0, v0 = u0, v1 = -u0;
    for (const Vec2 c : bank.deck_outline) {
        u0 = std::min(u0, c.x);
        u1 = std::max(u1, c.x);
        v0 = std::min(v0, c.y);
        v1 = std::max(v1, c.y);
    }
    std::vector<DeckPlace> places;
    for (const bool rear : {false, true})
        for (const bool positive : {true, false}) {
            const double du = inset * (u1 - u0), dv = inset * (v1 - v0);
            places.push_back({{rear ? u1 - du : u0 + du, positive ? v1 - dv : v0 + dv}, rear, positive});
        }
    return places;
}

JobState fold(const std::vector<Entry>& entries) {
    JobState state;
    Folder folder(state);
    const std::vector<bool> out = struck(entries);
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i])
            folder.take(entries[i]);
    folder.finish_logs();
    return state;
}

Result<EvaluationState> evaluate_on_top(const Blueprint& blueprint, const ProbeSet* earlier, const ProbeSet& newest) {
    const auto state_of = [](const ProbeSet& set, std::string remark) {
        return [&set, remark = std::move(remark)](Evaluation e) {
            return EvaluationState{0, std::nullopt, set.logs, std::move(e), remark};
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
