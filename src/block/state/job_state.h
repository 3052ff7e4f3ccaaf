// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/ledger.h"
#include "block/state/measured.h"
#include "block/state/read_logs.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

/// How a deck was last measured.
enum class DeckSource { probe, readings };

/// A deck measurement and what has been taken off since.
struct DeckMeasurement {
    DeckSource source = DeckSource::probe;
    std::int64_t sequence = 0;                  ///< of the entry that completed it
    std::optional<double> standard_uncertainty; ///< mm, of one height
    DeckResult result;
    metrology::Sureness sureness{}; ///< the same in its two parts; means nothing where it was not stated
    /// Entry of the log whose mains it was measured from, where that is an earlier one: decks probed alone.
    std::optional<std::int64_t> mains_from{};
};

/// A pass as the ledger has it.
struct TakenCut {
    std::int64_t sequence = 0;
    std::string time;
    std::string person;
    DeckCut cut;
};

/// What the ledger says of one bank's deck.
struct DeckState {
    std::optional<DeckMeasurement> as_found; ///< the last one before the first cut: what the plan is made from
    std::optional<DeckMeasurement> latest;   ///< the last one; the same as as_found until it is cut and measured again
    std::vector<TakenCut> cuts;              ///< all passes, in order
    std::vector<TakenReading> readings;      ///< heights by hand since it was last cut or probed
    std::int64_t tunnel_cut = 0;             ///< entry of the last cut of the tunnel; 0 for none

    /// Infeed of the passes since a measurement, mm.
    [[nodiscard]] double depth_since(std::int64_t sequence) const;
    [[nodiscard]] double depth_in_all() const { return depth_since(0); }
    /// Cut after it was last measured, so its heights are no longer true.
    [[nodiscard]] bool stale() const;
    /// Measured from a tunnel that was cut since.
    [[nodiscard]] bool from_old_tunnel() const {
        return latest && tunnel_cut > latest->mains_from.value_or(latest->sequence);
    }
};

/// An evaluation and the entries it came from.
struct EvaluationState {
    std::int64_t sequence = 0;                  ///< of the probe log that completed it
    std::optional<double> standard_uncertainty; ///< mm, of one touch
    std::vector<LogHeader> logs;
    Evaluation evaluation;
    std::string remark;                      ///< what was taken from an earlier log, or empty
    std::shared_ptr<const ProbeSet> probe{}; ///< the touches it was made from
    Conditions conditions{};                 ///< as they were stated when the mains were probed
    /// The log that holds the mains, where it is an earlier one: decks or bores were probed alone since.
    struct Mains {
        std::int64_t sequence = 0;
        std::optional<double> standard_uncertainty; ///< mm, of one touch
    };
    std::optional<Mains> mains_from{};

    [[nodiscard]] std::int64_t mains_sequence() const { return mains_from ? mains_from->sequence : sequence; }
    /// Of one touch of the mains, mm, standard.
    [[nodiscard]] std::optional<double> mains_uncertainty() const {
        return mains_from ? mains_from->standard_uncertainty : standard_uncertainty;
    }
};

/// Caps cut and passes of hone or bar, as the ledger has them.
struct TakenCaps {
    std::int64_t sequence = 0;
    CapsCut cut;
    std::vector<MainResult> before{}; ///< the mains as probed before it, where that still held; empty where not
};
struct TakenPass {
    std::int64_t sequence = 0;
    TunnelPass pass;
};

/// A flaw with what was decided on it.
struct KnownFlaw {
    std::int64_t sequence = 0;
    FlawMarked flaw;
    std::optional<FlawDecided> decided;
};

/// Where a piston's crown stood at top dead centre: it stays there when the deck is cut, until the tunnel moves.
struct CrownReading {
    std::int64_t sequence = 0;
    FeatureId bore;
    std::string side;                  ///< of the pin
    double crown = 0;                  ///< w, mm
    double clearance = 0;              ///< mm below the deck as it then was
    std::optional<double> uncertainty; ///< mm, standard, of the reading
};

/// An entry of a bank, with its place in the ledger.
template <class Payload>
struct Taken {
    std::int64_t sequence = 0;
    Payload payload;
};

/// What was found, decided and done in one cylinder or lifter bore, in order.
struct BoreWork {
    std::vector<Taken<BorePitted>> pits;
    std::optional<Taken<BoreDecided>> decided;
    std::optional<Taken<LifterDecided>> lifter_decided;
    std::vector<Taken<BoreCut>> cuts;
    std::optional<Taken<InsertMeasured>> insert; ///< the last
    std::optional<Taken<InsertFitted>> fitted;   ///< the last
    std::vector<Taken<BoreStepDone>> steps;
    std::optional<Taken<TraceTaken>> trace; ///< the last

    [[nodiscard]] std::int64_t last_cut() const { return cuts.empty() ? 0 : cuts.back().sequence; }
    /// Cuts since a sleeve or bush went in; all of them where none did.
    [[nodiscard]] std::vector<Taken<BoreCut>> cuts_now() const;
    [[nodiscard]] double deepest_pit() const; ///< mm; 0 for none
};

/// An entry that could not be used: it may have been a cut, so nothing is called until it is struck or put right.
struct Trouble {
    std::int64_t sequence = 0;
    std::string words; ///< "entry 7 (deck_cut) cannot be read: depth_mm is 12, expected 0 to 5"
};

/// Everything the ledger says of a job: a fold over its entries. Struck entries have no part in it.
struct JobState {
    std::string title;
    std::string customer;
    std::optional<Blueprint> blueprint;
    std::optional<EvaluationState> as_found; ///< the first
    std::optional<EvaluationState> latest;
    std::map<std::string, DeckState> decks; ///< by bank id; one for every bank of the blueprint
    DeckTargetChosen target;
    std::optional<PassPlanChosen> passes;
    std::vector<TakenReading> readings;                      ///< all that are not struck, in order
    std::vector<MeasuredPlace> places;                       ///< what they say, place by place
    Conditions conditions;                                   ///< as last stated
    std::vector<TakenCheck> checks;                          ///< of instruments against something known
    std::vector<RepeatabilityTest> repeats;                  ///< tests of instruments
    std::optional<TunnelPolicy> tunnel_policy;               ///< as last chosen
    std::int64_t tunnel_policy_chosen = 0;                   ///< entry that chose it
    std::vector<TakenCaps> caps_cut;                         ///< in order
    std::vector<TakenPass> tunnel_passes;                    ///< in order
    std::vector<std::pair<std::int64_t, std::string>> steps; ///< done by hand or eye, in order
    std::int64_t caps_torqued = 0;                           ///< entry that last said so; 0 for none
    std::int64_t tunnel_cut = 0;                             ///< entry that last moved the finished tunnel; 0 for none
    std::int64_t tunnel_done = 0; ///< entry that last said that the tunnel is done; 0 for none
    std::int64_t mains_round =
        0; ///< entry that last ended the mains' round: probed before it, they are not as they are
    std::string mains_round_because;
    std::vector<Taken<GatePassed>> gates;                   ///< in order
    std::vector<Taken<StepSkipped>> skipped;                ///< in order
    std::optional<Taken<ScopeChosen>> scope;                ///< the last
    std::optional<Taken<RouteChosen>> route;                ///< the last
    std::map<std::string, ReadingPlanChosen> reading_plans; ///< by their name
    std::vector<KnownFlaw> flaws;                           ///< cracks, pits and marks of the decks
    std::optional<Taken<PressureTested>> pressure_test;     ///< the last
    std::vector<Taken<DeckForecastKept>> forecasts;         ///< what passes were expected to take
    std::optional<Taken<CutterFitted>> cutter;              ///< as it now is
    std::vector<Taken<FinishNoted>> finishes;               ///< in order
    std::optional<GasketChosen> gasket;                     ///< the finish is for
    std::map<std::string, Taken<SetUpRead>> set_ups;        ///< the last of each bank
    EngineFigures figures;                                  ///< as last stated
    std::vector<Taken<HeadWork>> heads;                     ///< in order
    std::vector<CrownReading> crowns;                       ///< of the mock-up, in order
    std::map<FeatureId, BoreWork> bores;                    ///< cylinders and lifters that anything was said of
    std::vector<FeatureId> bores_cut;                       ///< one for each go of a tool, in order
    std::optional<Taken<CylinderPlanChosen>> cylinder_plan;
    std::optional<Taken<PistonsStated>> pistons;
    std::optional<Taken<HonePlanChosen>> hone_plan;
    std::optional<Taken<TextureLimits>> texture_limits;
    std::optional<Taken<LifterPlanChosen>> lifter_plan;
    std::optional<Taken<RestBegun>> rest; ///< the last
    std::vector<Trouble> troubles;        ///< entries that could not be used
    std::vector<std::int64_t> unknown;    ///< entries of kinds that this version does not know

    [[nodiscard]] const DeckState& deck(const std::string& bank) const { return decks.at(bank); }
    /// The tunnel was cut after it was last probed: positions and heights by that log no longer hold.
    [[nodiscard]] bool probe_stale() const { return latest && tunnel_cut > latest->mains_sequence(); }
    /// The mains are as they were last probed: no cap, stroke or bolt since.
    [[nodiscard]] bool mains_as_probed() const { return latest && latest->mains_sequence() > mains_round; }
    /// Caps or bores of the mains were worked on since the tunnel was last said to be done.
    [[nodiscard]] bool tunnel_worked() const;
    /// The hone was the last tool in it.
    [[nodiscard]] bool honed_last(const FeatureId& bore) const;
    /// @return what the ledger says of a cylinder or lifter bore; an empty one where it says nothing
    [[nodiscard]] const BoreWork& bore(const FeatureId& id) const;
    /// @param key of MeasuredAt
    [[nodiscard]] const MeasuredPlace* place(const std::string& key) const;
    [[nodiscard]] const MeasuredPlace* place(const MeasuredAt& at) const;

    // Compiled once: what it holds is too much to copy in every file that does.
    JobState();
    ~JobState();
    JobState(const JobState&);
    JobState(JobState&&) noexcept;
    JobState& operator=(const JobState&);
    JobState& operator=(JobState&&) noexcept;
};

/// Why a size counts for nothing that was read before the block had rested.
inline constexpr const char* still_warm = "read before the block had rested";

/// Height of a deck at a place as it is now: the surface as last measured, no higher than the cuts since have left it.
/// @return nothing where it was not measured, or from a tunnel that was cut since
[[nodiscard]] std::optional<double> height_now(const DeckState& deck, metrology::Vec2 place);

/// The four places a deck is measured at by hand: front and rear, both sides, one cylinder wall in from the edge.
struct DeckPlace {
    metrology::Vec2 place; ///< (u, v) mm
    bool rear = false;
    bool positive_v = false;
};
[[nodiscard]] std::vector<DeckPlace> deck_places(const BankBlueprint& bank);

/// Expansion of the block per kelvin: grey iron 10.8e-6, compacted iron 11.5e-6, aluminium alloy 22e-6 (typical values,
/// from memory).
[[nodiscard]] double expansion_of(Material material);

/// What one group of logs gave.
struct ReadLogs::Read {
    std::shared_ptr<const ProbeSet> laid;     ///< with what was probed before; null where it could not be read
    std::optional<EvaluationState> evaluated; ///< nothing where it could not be
    std::string trouble;                      ///< why not
    std::vector<FeatureId> held;              ///< features of this group of logs alone
};

/// @param entries in the order of their sequence
/// @param logs what earlier folds have read; what this one reads is added; may be null
[[nodiscard]] JobState fold(const std::vector<Entry>& entries, ReadLogs* logs = nullptr);

/// The state of a job with one more reading, as folding all its entries anew would make it: in a long job a reading
/// must not cost what all those before it have cost.
/// @param entry a Reading, the one after the last that `state` was made from
void fold_reading(JobState& state, const Entry& entry);

/// Evaluates logs that are read together, on top of what was probed before: features of `earlier` that the new logs do
/// not hold stay in place (a log of the decks alone lies in the frame of the mains before it, taken in one clamping).
/// @param earlier may be null
[[nodiscard]] Result<EvaluationState> evaluate_on_top(const Blueprint& blueprint, const ProbeSet* earlier,
                                                      const ProbeSet& newest);

} // namespace pallix::block
