// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_state.h"

#include "block/job_file.h"

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

constexpr const char* warm = "read before the block had rested";

/// Builds the state entry by entry.
class Folder {
  public:
    /// @param corrected every reading that counts, corrected for what later checks tell of its instrument
    Folder(JobState& state, std::vector<TakenReading> corrected, ReadLogs* read)
        : state_(state), corrected_(std::move(corrected)), read_(read) {}

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
        const ReadLogs::Read* known = read_ ? read_->find(logs_key_) : nullptr;
        const ReadLogs::Read read = known ? *known : read_anew();
        if (read_ && !known)
            read_->keep(logs_key_, read);
        logs_.clear();
        if (read.laid)
            probed_ = read.laid;
        if (!read.evaluated)
            return trouble(logs_sequence_, read.trouble);
        EvaluationState evaluated = *read.evaluated;
        evaluated.sequence = logs_sequence_;
        evaluated.standard_uncertainty = logs_uncertainty_;
        for (const DeckResult& deck : evaluated.evaluation.decks)
            if (std::ranges::find(read.held, deck.id) != read.held.end())
                take_measurement(deck.id.bank, {DeckSource::probe,
                                                logs_sequence_,
                                                logs_uncertainty_,
                                                deck,
                                                {logs_uncertainty_.value_or(0), 0, 1}});
        if (!state_.as_found)
            state_.as_found = evaluated;
        state_.latest = std::move(evaluated);
    }

  private:
    [[nodiscard]] ReadLogs::Read read_anew() const {
        ReadLogs::Read read;
        const auto probe = read_probe_logs(logs_, *state_.blueprint, ProbeScope::part, read_ ? read_->watch : nullptr);
        if (!probe) {
            read.trouble = probe.error().front().text();
            return read;
        }
        for (const Section& section : probe->sections)
            read.held.push_back(section.feature);
        auto evaluated = evaluate_on_top(*state_.blueprint, probed_.get(), *probe);
        read.laid = std::make_shared<const ProbeSet>(probed_ ? laid_over(*probed_, *probe) : *probe);
        if (evaluated)
            read.evaluated = std::move(*evaluated);
        else
            read.trouble = evaluated.error().front().text();
        return read;
    }

    void trouble(std::int64_t sequence, std::string words) { state_.troubles.push_back({sequence, std::move(words)}); }
    void trouble(const std::string& words) { trouble(entry_->sequence, entry_words(*entry_) + " " + words); }

    void take_measurement(const std::string& bank, DeckMeasurement measurement) {
        DeckState& deck = state_.decks[bank];
        // After a cut of the tunnel the deck is found anew: what was planned from the old one is void.
        if (!deck.as_found || deck.cuts.empty() || deck.tunnel_cut > deck.as_found->sequence)
            deck.as_found = measurement;
        if (measurement.source == DeckSource::probe)
            deck.readings.clear();
        deck.latest = std::move(measurement);
    }

    DeckState* deck_of(const std::string& bank) {
        const auto found = state_.decks.find(bank);
        if (found != state_.decks.end())
            return &found->second;
        trouble("speaks of bank \"" + bank + "\", which the blueprint does not have");
        return nullptr;
    }

    void apply(const JobOpened& opened) {
        state_.title = opened.title;
        state_.customer = opened.customer;
        auto blueprint = read_blueprint(opened.blueprint, opened.blueprint_file);
        if (!blueprint) {
            trouble(entry_->sequence, blueprint.error().front().text());
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
        // Entries never change; the digest guards a log that was refused and another that took its place.
        logs_key_ += std::to_string(entry_->sequence) + ":" + log.sha256 + ":" + std::to_string(log.text.size()) + ";";
    }

    void apply(const Reading& reading) {
        if (!state_.blueprint)
            return;
        if (!state_.blueprint->lists(reading.at.feature)) {
            trouble("is a reading of " + reading.at.feature.text() + ", which the blueprint does not list");
            return;
        }
        const auto corrected = std::ranges::find(corrected_, entry_->sequence, &TakenReading::sequence);
        state_.readings.push_back(*corrected);
        if (still_resting(reading))
            state_.readings.back().stale_because = warm;
        if (reading.at.quantity == Quantity::temperature)
            (reading.at.direction == "gauge" ? state_.conditions.gauge_c : state_.conditions.part_c) = reading.value;
        if (reading.at.quantity == Quantity::height)
            take_height(*corrected);
        if (reading.at.quantity == Quantity::piston)
            take_crown(*corrected);
    }

    /// A piston's clearance is kept as the height of its crown, which no cut of the deck changes.
    void take_crown(const TakenReading& taken) {
        const FeatureId& bore = taken.reading.at.feature;
        const DeckState* deck = deck_of(bore.bank);
        const HoleBlueprint* meant = state_.blueprint->hole(bore);
        if (!deck || !meant)
            return;
        if (const auto height = height_now(*deck, {meant->u, meant->v}))
            state_.crowns.push_back(
                {taken.sequence, bore, taken.reading.at.direction, *height - taken.value, taken.value, taken.fixed});
    }

    /// Heights by hand make a measurement of the deck once every place was read.
    void take_height(const TakenReading& taken) {
        DeckState* deck = deck_of(taken.reading.at.feature.bank);
        if (!deck)
            return;
        deck->readings.push_back(taken);
        const BankBlueprint& bank = *state_.blueprint->bank(taken.reading.at.feature.bank);
        std::vector<Vec3> points;
        std::optional<double> uncertainty = 0.0;
        metrology::Sureness sureness;
        const std::vector<MeasuredPlace> places = measured_places(deck->readings);
        for (const DeckPlace& wanted : deck_places(bank)) {
            const auto read = std::ranges::find_if(
                places, [&](const MeasuredPlace& p) { return same_place(p.at.place, wanted.place); });
            if (read == places.end())
                return; // the set is not complete
            points.push_back({wanted.place.x, wanted.place.y, read->value});
            const auto u = read->standard_uncertainty();
            if (u && uncertainty && *u >= *uncertainty)
                sureness = *read->sureness;
            uncertainty = uncertainty && u ? std::optional(std::max(*uncertainty, *u)) : std::nullopt;
        }
        if (auto result = evaluate_deck(bank, std::move(points)))
            take_measurement(bank.id,
                             {DeckSource::readings, entry_->sequence, uncertainty, std::move(*result), sureness});
    }

    /// Readings that a cut has made untrue.
    template <class Touched>
    void make_stale(const std::string& because, Touched touched) {
        for (TakenReading& r : state_.readings)
            if (!r.stale() && touched(r.reading.at))
                r.stale_because = because;
    }

    void apply(const DeckCut& cut) {
        DeckState* deck = deck_of(cut.bank);
        if (!deck)
            return;
        deck->cuts.push_back({entry_->sequence, entry_->time, entry_->person, cut});
        deck->readings.clear();
        make_stale("the deck was cut since", [&](const MeasuredAt& at) {
            return at.feature.bank == cut.bank &&
                   (at.feature.kind == FeatureKind::deck || at.quantity == Quantity::piston);
        });
    }

    void apply(const TunnelCut&) {
        state_.tunnel_cut = entry_->sequence;
        for (auto& [bank, deck] : state_.decks) {
            deck.tunnel_cut = entry_->sequence;
            deck.readings.clear();
        }
        state_.crowns.clear();
        make_stale("the tunnel was cut since", [](const MeasuredAt& at) {
            return at.feature.kind == FeatureKind::main || at.quantity == Quantity::height ||
                   at.quantity == Quantity::piston;
        });
    }

    void apply(const TunnelPolicy& policy) {
        if (std::ranges::any_of(policy.replaced, [this](const FeatureId& id) { return !listed(id); }))
            return;
        state_.tunnel_policy = policy;
        state_.tunnel_policy_chosen = entry_->sequence;
    }
    void apply(const CapsCut& cut) {
        if (std::ranges::any_of(cut.cuts, [this](const auto& cap) { return !listed(cap.first); }))
            return;
        state_.caps_cut.push_back({entry_->sequence, cut});
        make_stale("the caps were cut since", [](const MeasuredAt& at) { // a saddle stands where it stood
            return at.feature.kind == FeatureKind::main && at.quantity != Quantity::saddle;
        });
    }
    void apply(const TunnelPass& pass) {
        state_.tunnel_passes.push_back({entry_->sequence, pass});
        mains_changed("the tunnel was worked on since");
    }
    void apply(const StepDone& done) { state_.steps.emplace_back(entry_->sequence, done.step); }

    /// Sizes of the mains are void; what hangs on the tunnel waits for the tunnel to be finished.
    void mains_changed(const std::string& because) {
        make_stale(because, [](const MeasuredAt& at) { return at.feature.kind == FeatureKind::main; });
    }

    void apply(const ConditionsStated& stated) {
        state_.conditions = stated.conditions;
        if (stated.conditions.caps_torqued.value_or(false))
            state_.caps_torqued = entry_->sequence;
    }
    void apply(const RingCheck& check) {
        state_.checks.push_back({entry_->sequence, check.instrument, check.reading - check.size});
    }
    void apply(const RepeatabilityTest& test) { state_.repeats.push_back(test); }
    void apply(const ReadingPlanChosen& plan) { state_.reading_plans[plan.plan] = plan; }
    void apply(const DeckTargetChosen& target) { state_.target = target; }
    void apply(const PassPlanChosen& passes) { state_.passes = passes; }
    void apply(const FlawMarked& flaw) {
        if (deck_of(flaw.bank))
            state_.flaws.push_back({entry_->sequence, flaw, {}});
    }
    void apply(const FlawDecided& decided) {
        const auto flaw = std::ranges::find(state_.flaws, decided.flaw, &KnownFlaw::sequence);
        if (flaw != state_.flaws.end())
            flaw->decided = decided;
    }
    void apply(const PressureTested& test) { state_.pressure_test = {entry_->sequence, test}; }
    void apply(const DeckForecastKept& forecast) {
        if (deck_of(forecast.bank))
            state_.forecasts.push_back({entry_->sequence, forecast});
    }
    void apply(const CutterFitted& cutter) { state_.cutter = {entry_->sequence, cutter}; }
    void apply(const FinishNoted& finish) {
        if (deck_of(finish.bank))
            state_.finishes.push_back({entry_->sequence, finish});
    }
    void apply(const GasketChosen& gasket) { state_.gasket = gasket; }
    void apply(const SetUpRead& set_up) {
        if (deck_of(set_up.bank))
            state_.set_ups[set_up.bank] = {entry_->sequence, set_up};
    }
    void apply(const EngineFigures& figures) { state_.figures = figures; }
    void apply(const HeadWork& head) {
        if (deck_of(head.bank))
            state_.heads.push_back({entry_->sequence, head});
    }
    void apply(const CylinderPlanChosen& plan) { state_.cylinder_plan = {entry_->sequence, plan}; }
    void apply(const PistonsStated& pistons) {
        if (std::ranges::all_of(pistons.sizes, [this](const auto& size) { return listed(size.first); }))
            state_.pistons = {entry_->sequence, pistons};
    }
    void apply(const HonePlanChosen& plan) { state_.hone_plan = {entry_->sequence, plan}; }
    void apply(const TextureLimits& limits) { state_.texture_limits = {entry_->sequence, limits}; }
    void apply(const LifterPlanChosen& plan) { state_.lifter_plan = {entry_->sequence, plan}; }

    BoreWork* bore_of(const FeatureId& id) { return listed(id) ? &state_.bores[id] : nullptr; }

    bool listed(const FeatureId& id) {
        if (state_.blueprint && state_.blueprint->lists(id))
            return true;
        trouble("speaks of " + id.text() + ", which the blueprint does not list");
        return false;
    }
    void apply(const BorePitted& pit) {
        if (BoreWork* bore = bore_of(pit.bore))
            bore->pits.push_back({entry_->sequence, pit});
    }
    void apply(const BoreDecided& decided) {
        if (BoreWork* bore = bore_of(decided.bore))
            bore->decided = {entry_->sequence, decided};
    }
    void apply(const LifterDecided& decided) {
        if (BoreWork* bore = bore_of(decided.lifter))
            bore->lifter_decided = {entry_->sequence, decided};
    }
    void apply(const BoreCut& cut) {
        BoreWork* bore = bore_of(cut.bore);
        if (!bore)
            return;
        bore->cuts.push_back({entry_->sequence, cut});
        state_.bores_cut.push_back(cut.bore);
        make_stale("the bore was cut since", [&](const MeasuredAt& at) {
            return at.feature == cut.bore && (at.quantity == Quantity::size || at.quantity == Quantity::wall);
        });
    }
    void apply(const InsertMeasured& insert) {
        if (BoreWork* bore = bore_of(insert.bore))
            bore->insert = {entry_->sequence, insert};
    }
    /// What is pressed in pushes the metal beside it: neighbours in the row are measured again.
    void apply(const InsertFitted& fitted) {
        BoreWork* bore = bore_of(fitted.bore);
        if (!bore)
            return;
        bore->fitted = {entry_->sequence, fitted};
        make_stale("a sleeve or bush was fitted since", [&](const MeasuredAt& at) {
            return at.feature == fitted.bore && (at.quantity == Quantity::size || at.quantity == Quantity::wall);
        });
        if (fitted.bore.kind != FeatureKind::bore)
            return;
        make_stale("the bore beside it was sleeved since", [&](const MeasuredAt& at) {
            return at.feature.kind == FeatureKind::bore && at.feature.bank == fitted.bore.bank &&
                   std::abs(at.feature.number - fitted.bore.number) == 1 && at.quantity == Quantity::size;
        });
    }
    void apply(const BoreStepDone& step) {
        if (BoreWork* bore = bore_of(step.bore))
            bore->steps.push_back({entry_->sequence, step});
    }
    void apply(const TraceTaken& trace) {
        if (BoreWork* bore = bore_of(trace.bore))
            bore->trace = {entry_->sequence, trace};
    }
    /// Sizes read in a bore that is still warm from the hone are not what it will be.
    void apply(const RestBegun& rest) {
        state_.rest = {entry_->sequence, rest};
        make_stale(warm, [&](const MeasuredAt& at) { return at.quantity == Quantity::size && honed(at.feature); });
    }
    [[nodiscard]] bool honed(const FeatureId& id) const {
        const auto found = state_.bores.find(id);
        return found != state_.bores.end() && !found->second.cuts.empty() &&
               found->second.cuts.back().payload.operation == BoreOperation::hone;
    }
    [[nodiscard]] bool still_resting(const Reading& reading) const {
        return state_.rest && reading.at.quantity == Quantity::size && honed(reading.at.feature) &&
               entry_->time < state_.rest->payload.until;
    }

    void apply(const Note&) {}
    void apply(const Strike&) {}
    void apply(const UnknownPayload& unknown) {
        if (unknown.faults.empty())
            state_.unknown.push_back(entry_->sequence);
        else
            trouble("cannot be read: " + unknown.faults.front().text());
    }

    JobState& state_;
    std::vector<TakenReading> corrected_;
    const Entry* entry_ = nullptr;
    std::vector<NamedText> logs_;
    std::int64_t logs_sequence_ = 0;
    std::optional<double> logs_uncertainty_;
    std::string logs_key_; ///< of all logs so far that are not struck
    std::shared_ptr<const ProbeSet> probed_;
    ReadLogs* read_;
};

} // namespace

JobState::JobState() = default;
JobState::~JobState() = default;
JobState::JobState(const JobState&) = default;
JobState::JobState(JobState&&) noexcept = default;
JobState& JobState::operator=(const JobState&) = default;
JobState& JobState::operator=(JobState&&) noexcept = default;

double DeckState::depth_since(std::int64_t sequence) const {
    double depth = 0;
    for (const TakenCut& taken : cuts)
        if (taken.sequence > sequence)
            depth += taken.cut.depth;
    return depth;
}

bool DeckState::stale() const {
    return from_old_tunnel() ||
           (latest && std::ranges::any_of(cuts, [this](const TakenCut& c) { return c.sequence > latest->sequence; }));
}

std::vector<Taken<BoreCut>> BoreWork::cuts_now() const {
    std::vector<Taken<BoreCut>> now;
    for (const Taken<BoreCut>& cut : cuts)
        if (!fitted || cut.sequence > fitted->sequence)
            now.push_back(cut);
    return now;
}

double BoreWork::deepest_pit() const {
    double deepest = 0;
    for (const Taken<BorePitted>& pit : pits)
        deepest = std::max(deepest, pit.payload.depth);
    return deepest;
}

const BoreWork& JobState::bore(const FeatureId& id) const {
    static const BoreWork nothing_said;
    const auto found = bores.find(id);
    return found == bores.end() ? nothing_said : found->second;
}

const MeasuredPlace* JobState::place(const std::string& key) const {
    const auto found = std::ranges::find_if(places, [&key](const MeasuredPlace& p) { return p.at.key() == key; });
    return found == places.end() ? nullptr : &*found;
}

std::optional<double> height_now(const DeckState& deck, Vec2 place) {
    if (!deck.latest || deck.from_old_tunnel())
        return std::nullopt;
    const DeckResult& d = deck.latest->result;
    // The plane of the LSQ fit passes through the mean of the points.
    Vec2 mean;
    for (const Vec3 p : d.points)
        mean = mean + Vec2{p.x, p.y};
    mean = (1.0 / static_cast<double>(d.points.size())) * mean;
    const double plane = d.height_mean + d.slope_u * (place.x - mean.x) + d.tilt_v * (place.y - mean.y);
    const double depth = deck.depth_since(deck.latest->sequence);
    return depth > 0 ? std::min(plane, d.height_max - depth) : plane;
}

double expansion_of(Material material) {
    switch (material) {
    case Material::grey_iron:
        return 10.8e-6;
    case Material::compacted_iron:
        return 11.5e-6;
    case Material::aluminium:
        break;
    }
    return 22e-6;
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

namespace {

/// The error of an instrument shows only at its next check, so readings are corrected before the fold begins.
std::vector<TakenReading> corrected_readings(const std::vector<Entry>& entries, const std::vector<bool>& out) {
    std::vector<TakenReading> readings;
    std::vector<TakenCheck> checks;
    double expansion = expansion_of(Material::grey_iron);
    for (std::size_t i = 0; i < entries.size(); ++i) {
        const Entry& e = entries[i];
        if (out[i])
            continue;
        if (const auto* r = std::get_if<Reading>(&e.payload))
            readings.push_back(
                {e.sequence, e.time, e.person, *r, r->value, 0, 0, fixed_uncertainty(r->instrument), ""});
        else if (const auto* check = std::get_if<RingCheck>(&e.payload))
            checks.push_back({e.sequence, check->instrument, check->reading - check->size});
        else if (const auto* opened = std::get_if<JobOpened>(&e.payload))
            if (const auto blueprint = read_blueprint(opened->blueprint, opened->blueprint_file))
                expansion = expansion_of(blueprint->material);
    }
    spread_drift(readings, checks);
    bring_to_reference_temperature(readings, expansion);
    return readings;
}

} // namespace

const ReadLogs::Read* ReadLogs::find(const std::string& key) const {
    const auto found = reads_.find(key);
    return found == reads_.end() ? nullptr : found->second.get();
}

void ReadLogs::keep(const std::string& key, Read read) {
    reads_[key] = std::make_shared<const Read>(std::move(read));
}

JobState fold(const std::vector<Entry>& entries, ReadLogs* logs) {
    JobState state;
    const std::vector<bool> out = struck(entries);
    Folder folder(state, corrected_readings(entries, out), logs);
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i])
            folder.take(entries[i]);
    folder.finish_logs();
    state.places = measured_places(state.readings);
    return state;
}

Result<EvaluationState> evaluate_on_top(const Blueprint& blueprint, const ProbeSet* earlier, const ProbeSet& newest) {
    const auto state_of = [](const ProbeSet& set, std::string remark) {
        return [&set, remark = std::move(remark)](Evaluation e) {
            return EvaluationState{
                0, std::nullopt, set.logs, std::move(e), remark, std::make_shared<const ProbeSet>(set)};
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
