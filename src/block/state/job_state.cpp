// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/job_state.h"

#include "block/job_file.h"
#include "block/state/fresh.h"

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

/// The blueprint of a job, read once.
/// @param read may be null
Result<std::shared_ptr<const Blueprint>> blueprint_of(const JobOpened& opened, ReadLogs* read) {
    if (auto known = read ? read->blueprint(opened.blueprint) : nullptr)
        return known;
    return read_blueprint(opened.blueprint, opened.blueprint_file).map([&](Blueprint blueprint) {
        auto shared = std::make_shared<const Blueprint>(std::move(blueprint));
        if (read)
            read->keep(opened.blueprint, shared);
        return shared;
    });
}

/// Builds the state entry by entry.
class Folder {
  public:
    /// @param corrected every reading that counts, corrected for what later checks tell of its instrument
    Folder(JobState& state, std::vector<TakenReading> corrected, ReadLogs* read)
        : state_(state), corrected_(std::move(corrected)), read_(read) {
        state_.readings.reserve(corrected_.size());
        fresh_.reserve(corrected_.size());
    }

    void take(const Entry& entry) {
        entry_ = &entry;
        if (!std::holds_alternative<ProbeLogTaken>(entry.payload))
            finish_logs();
        if (!leaves_decks_alone(entry.payload))
            finish_heights();
        const std::vector<RoundEnd> ended = std::holds_alternative<Reading>(entry.payload)
                                                ? std::vector<RoundEnd>()
                                                : rounds_ended_by(entry.payload, state_);
        for (const RoundEnd& round : ended)
            end_round(round);
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
        const bool own_mains =
            std::ranges::any_of(read.held, [](const FeatureId& id) { return id.kind == FeatureKind::main; });
        if (own_mains || !state_.latest) {
            evaluated.conditions = state_.conditions;
        } else {
            evaluated.conditions = state_.latest->conditions;
            evaluated.mains_from = {state_.latest->mains_sequence(), state_.latest->mains_uncertainty()};
        }
        for (const DeckResult& deck : evaluated.evaluation.decks)
            if (std::ranges::find(read.held, deck.id) != read.held.end())
                take_measurement(deck.id.bank,
                                 {DeckSource::probe,
                                  logs_sequence_,
                                  logs_uncertainty_,
                                  deck,
                                  {logs_uncertainty_.value_or(0), 0, 1},
                                  evaluated.mains_from ? std::optional(evaluated.mains_from->sequence) : std::nullopt});
        if (!state_.as_found)
            state_.as_found = evaluated;
        state_.latest = std::move(evaluated);
    }

    /// Heights by hand that came one after the other are looked at once, after the last of them.
    void finish_heights() {
        for (const auto& [bank, sequence] : std::exchange(heights_, {}))
            measure_by_heights(bank, sequence);
    }

  private:
    /// What neither cuts a deck nor asks how high it stands.
    static bool leaves_decks_alone(const Payload& payload) {
        const auto* reading = std::get_if<Reading>(&payload);
        return (reading && reading->at.quantity != Quantity::piston) || std::holds_alternative<Note>(payload) ||
               std::holds_alternative<ConditionsStated>(payload) || std::holds_alternative<RingCheck>(payload) ||
               std::holds_alternative<StepDone>(payload);
    }

    [[nodiscard]] ReadLogs::Read read_anew() const {
        ReadLogs::Read read;
        std::vector<NamedText> texts; // of scans a hundred megabytes: copied only to be read
        for (const ProbeLogTaken* log : logs_)
            texts.push_back({log->file, log->text});
        const auto probe = read_probe_logs(texts, *state_.blueprint, ProbeScope::part, read_ ? read_->watch : nullptr);
        if (!probe) {
            read.trouble = probe.error().front().text();
            return read;
        }
        for (const Section& section : probe->sections)
            read.held.push_back(section.feature);
        auto evaluated = evaluate_on_top(*state_.blueprint, probed_.get(), *probe);
        read.laid = std::make_shared<const ProbeSet>(probed_ ? laid_over(*probed_, *probe) : *probe);
        if (evaluated) {
            for (DeckResult& deck : evaluated->evaluation.decks)
                deck = thinned(std::move(deck)); // from here on it is drawn and planned in the window's own time
            read.evaluated = std::move(*evaluated);
        } else {
            read.trouble = evaluated.error().front().text();
        }
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
        const auto blueprint = blueprint_of(opened, read_);
        if (!blueprint) {
            trouble(entry_->sequence, blueprint.error().front().text());
            return;
        }
        state_.blueprint = **blueprint;
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
        logs_.push_back(&log);
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
        // Both are in the order of the ledger; what could not be used stays behind.
        while (corrected_[next_corrected_].sequence != entry_->sequence)
            ++next_corrected_;
        state_.readings.push_back(std::move(corrected_[next_corrected_++]));
        TakenReading& taken = state_.readings.back();
        complete(taken.reading.conditions, state_.conditions);
        if (still_resting(reading))
            taken.stale_because = still_warm;
        else
            fresh_.push_back(state_.readings.size() - 1);
        if (reading.at.quantity == Quantity::temperature)
            (reading.at.direction == "gauge" ? state_.conditions.gauge_c : state_.conditions.part_c) = reading.value;
        if (reading.at.quantity == Quantity::height)
            take_height(taken);
        if (reading.at.quantity == Quantity::piston)
            take_crown(taken);
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

    void take_height(const TakenReading& taken) {
        DeckState* deck = deck_of(taken.reading.at.feature.bank);
        if (!deck)
            return;
        deck->readings.push_back(taken);
        heights_[taken.reading.at.feature.bank] = entry_->sequence;
    }

    /// Heights by hand make a measurement of the deck once every place was read.
    /// @param sequence of the last of them
    void measure_by_heights(const std::string& bank_id, std::int64_t sequence) {
        const DeckState* deck = &state_.decks[bank_id];
        const BankBlueprint& bank = *state_.blueprint->bank(bank_id);
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
            take_measurement(bank.id, {DeckSource::readings, sequence, uncertainty, std::move(*result), sureness});
    }

    /// Readings of a round that is over hold no longer.
    void end_round(const RoundEnd& round) {
        std::erase_if(fresh_, [&](std::size_t i) {
            TakenReading& r = state_.readings[i];
            const bool over = round.touches(r.reading.at);
            if (over)
                r.stale_because = round.because;
            return over;
        });
        static const MeasuredAt upright{{FeatureKind::main, "", 1}, Quantity::size, "front", "upright", {}};
        if (round.touches(upright)) {
            state_.mains_round = entry_->sequence;
            state_.mains_round_because = round.because;
        }
    }

    void apply(const DeckCut& cut) {
        DeckState* deck = deck_of(cut.bank);
        if (!deck)
            return;
        deck->cuts.push_back({entry_->sequence, entry_->time, entry_->person, cut});
        deck->readings.clear();
    }

    /// The tunnel lies where its last go has left it; with no go on record, this entry stands for it.
    void apply(const TunnelCut&) {
        std::int64_t moved = entry_->sequence;
        if (state_.tunnel_worked()) {
            moved = std::max(state_.caps_cut.empty() ? 0 : state_.caps_cut.back().sequence,
                             state_.tunnel_passes.empty() ? 0 : state_.tunnel_passes.back().sequence);
        }
        state_.tunnel_cut = moved;
        state_.tunnel_done = entry_->sequence;
        for (auto& [bank, deck] : state_.decks) {
            deck.tunnel_cut = moved;
            deck.readings.clear();
        }
        state_.crowns.clear();
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
        state_.conditions.caps_torqued.reset();
        const bool probed = state_.latest && state_.latest->mains_sequence() > last_work_on_mains();
        state_.caps_cut.push_back(
            {entry_->sequence, cut, probed ? state_.latest->evaluation.mains : std::vector<MainResult>()});
    }
    void apply(const TunnelPass& pass) { state_.tunnel_passes.push_back({entry_->sequence, pass}); }
    [[nodiscard]] std::int64_t last_work_on_mains() const {
        return std::max(state_.caps_cut.empty() ? 0 : state_.caps_cut.back().sequence,
                        state_.tunnel_passes.empty() ? 0 : state_.tunnel_passes.back().sequence);
    }
    void apply(const StepDone& done) {
        state_.steps.emplace_back(entry_->sequence, done.step);
        if (done.step.starts_with("caps torqued"))
            state_.caps_torqued = entry_->sequence;
    }

    void apply(const ConditionsStated& stated) {
        state_.conditions = stated.conditions;
        if (stated.conditions.caps_torqued.value_or(false))
            state_.caps_torqued = entry_->sequence;
        if (!stated.also_before)
            return;
        for (const std::size_t i : fresh_)
            complete(state_.readings[i].reading.conditions, stated.conditions);
        if (state_.latest)
            complete(state_.latest->conditions, stated.conditions);
    }
    /// What was stated holds from then on, also for readings that say nothing of it themselves.
    static void complete(Conditions& own, const Conditions& stated) {
        if (!own.caps_torqued)
            own.caps_torqued = stated.caps_torqued;
        if (!own.plate_on)
            own.plate_on = stated.plate_on;
    }
    void apply(const GatePassed& gate) { state_.gates.push_back({entry_->sequence, gate}); }
    void apply(const RoundOpened&) {}
    void apply(const ScopeChosen& scope) { state_.scope = {entry_->sequence, scope}; }
    void apply(const RouteChosen& route) { state_.route = {entry_->sequence, route}; }
    void apply(const StepSkipped& step) { state_.skipped.push_back({entry_->sequence, step}); }
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
    }
    void apply(const InsertMeasured& insert) {
        if (BoreWork* bore = bore_of(insert.bore))
            bore->insert = {entry_->sequence, insert};
    }
    void apply(const InsertFitted& fitted) {
        if (BoreWork* bore = bore_of(fitted.bore))
            bore->fitted = {entry_->sequence, fitted};
    }
    void apply(const BoreStepDone& step) {
        if (BoreWork* bore = bore_of(step.bore))
            bore->steps.push_back({entry_->sequence, step});
    }
    void apply(const TraceTaken& trace) {
        if (BoreWork* bore = bore_of(trace.bore))
            bore->trace = {entry_->sequence, trace};
    }
    void apply(const RestBegun& rest) { state_.rest = {entry_->sequence, rest}; }
    [[nodiscard]] bool still_resting(const Reading& reading) const {
        return state_.rest && reading.at.quantity == Quantity::size && state_.honed_last(reading.at.feature) &&
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
    std::size_t next_corrected_ = 0;
    std::vector<std::size_t> fresh_;              ///< readings that nothing has made untrue
    std::map<std::string, std::int64_t> heights_; ///< banks with heights not looked at yet, and the last one's entry
    const Entry* entry_ = nullptr;
    std::vector<const ProbeLogTaken*> logs_; ///< of the entries that are being folded
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

bool JobState::tunnel_worked() const {
    return (!caps_cut.empty() && caps_cut.back().sequence > tunnel_done) ||
           (!tunnel_passes.empty() && tunnel_passes.back().sequence > tunnel_done);
}

bool JobState::honed_last(const FeatureId& id) const {
    const BoreWork& work = bore(id);
    return !work.cuts.empty() && work.cuts.back().payload.operation == BoreOperation::hone;
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

const MeasuredPlace* JobState::place(const MeasuredAt& at) const {
    if (at.quantity == Quantity::height)
        return place(at.key()); // coordinates are the same when they are written the same
    const auto found = std::ranges::find_if(places, [&at](const MeasuredPlace& p) {
        return p.at.quantity == at.quantity && p.at.feature == at.feature && p.at.level == at.level &&
               p.at.direction == at.direction;
    });
    return found == places.end() ? nullptr : &*found;
}

std::optional<double> height_now(const DeckState& deck, Vec2 place) {
    if (!deck.latest || deck.from_old_tunnel())
        return std::nullopt;
    const DeckResult& d = deck.latest->result;
    const double plane = d.height_mean + d.slope_u * (place.x - d.middle.x) + d.tilt_v * (place.y - d.middle.y);
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
std::vector<TakenReading> corrected_readings(const std::vector<Entry>& entries, const std::vector<bool>& out,
                                             ReadLogs* read) {
    std::vector<TakenReading> readings;
    readings.reserve(static_cast<std::size_t>(
        std::ranges::count_if(entries, [](const Entry& e) { return std::holds_alternative<Reading>(e.payload); })));
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
            if (const auto blueprint = blueprint_of(*opened, read))
                expansion = expansion_of((*blueprint)->material);
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

std::shared_ptr<const Blueprint> ReadLogs::blueprint(const std::string& text) const {
    return blueprint_ && text == blueprint_text_ ? blueprint_ : nullptr;
}

void ReadLogs::keep(const std::string& text, std::shared_ptr<const Blueprint> blueprint) {
    blueprint_text_ = text;
    blueprint_ = std::move(blueprint);
}

JobState fold(const std::vector<Entry>& entries, ReadLogs* logs) {
    JobState state;
    const std::vector<bool> out = struck(entries);
    Folder folder(state, corrected_readings(entries, out, logs), logs);
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i])
            folder.take(entries[i]);
    folder.finish_logs();
    folder.finish_heights();
    state.places = measured_places(state.readings);
    return state;
}

void fold_reading(JobState& state, const Entry& entry) {
    const auto& reading = std::get<Reading>(entry.payload);
    // Nothing that is known of its instrument came after it: only its temperature corrects it.
    std::vector<TakenReading> corrected{{entry.sequence, entry.time, entry.person, reading, reading.value, 0, 0,
                                         fixed_uncertainty(reading.instrument), ""}};
    bring_to_reference_temperature(corrected,
                                   expansion_of(state.blueprint ? state.blueprint->material : Material::grey_iron));
    const std::size_t before = state.readings.size();
    Folder folder(state, std::move(corrected), nullptr);
    folder.take(entry);
    folder.finish_heights();
    if (state.readings.size() == before)
        return; // it could not be used
    const std::string key = reading.at.key();
    const auto is_there = [&](const MeasuredAt& at) {
        return at.quantity == reading.at.quantity && at.feature == reading.at.feature && at.key() == key;
    };
    std::vector<const TakenReading*> there;
    for (const TakenReading& r : state.readings)
        if (is_there(r.reading.at))
            there.push_back(&r);
    MeasuredPlace place = measured_place(there);
    const auto known = std::ranges::find_if(state.places, is_there, &MeasuredPlace::at);
    if (known == state.places.end())
        state.places.push_back(std::move(place));
    else
        *known = std::move(place);
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
