// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "block/evaluation.h"
#include "block/forward.h"
#include "block/state/measured.h"
#include "block/state/taken.h"

#include <algorithm>
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>
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
    bool caps_off = false; ///< those mains were open
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
    std::vector<TakenCut> cuts;              ///< all passes but flush ones, in order
    std::vector<TakenCut> flushes;           ///< those, in order
    std::vector<TakenReading> readings;      ///< heights by hand since it was last cut or probed
    std::int64_t tunnel_cut = 0;             ///< entry of the last cut of the tunnel; 0 for none

    /// Infeed of the passes since a measurement, mm.
    [[nodiscard]] double depth_since(std::int64_t sequence) const;
    [[nodiscard]] double depth_in_all() const { return depth_since(0); }
    /// The last pass touched everywhere, as it was marked.
    [[nodiscard]] bool marked_clean() const { return !cuts.empty() && cuts.back().cut.clean; }
    /// Cut after it was last measured, so its heights are no longer true.
    [[nodiscard]] bool stale() const;
    /// Entry of the last cut of any kind; 0 for none.
    [[nodiscard]] std::int64_t last_cut() const {
        return std::max(cuts.empty() ? 0 : cuts.back().sequence, flushes.empty() ? 0 : flushes.back().sequence);
    }
    /// A sleeve was taken flush after it was last measured: how much of its own metal went with it nobody knows.
    [[nodiscard]] bool flushed_since() const {
        return latest && !flushes.empty() && flushes.back().sequence > latest->sequence;
    }
    /// Measured from a tunnel that was cut since, or from mains with their caps off.
    [[nodiscard]] bool from_other_tunnel() const {
        return latest && (latest->caps_off || tunnel_cut > latest->mains_from.value_or(latest->sequence));
    }
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

/// What was decided on the decks and what is bolted to them, found on them and done to them.
struct DecksState {
    std::map<std::string, DeckState> decks; ///< by bank id; one for every bank of the blueprint
    std::map<std::string, DeckState> faces; ///< of the heads likewise, of which only the passes are kept
    DeckTargetChosen target;
    std::optional<PassPlanChosen> passes;
    std::vector<KnownFlaw> flaws;                       ///< cracks, pits and marks of the decks
    std::optional<Taken<PressureTested>> pressure_test; ///< the last
    std::vector<Taken<DeckForecastKept>> forecasts;     ///< what passes were expected to take
    std::optional<Taken<CutterFitted>> cutter;          ///< as it now is
    std::vector<Taken<FinishNoted>> finishes;           ///< in order
    std::optional<GasketChosen> gasket;                 ///< the finish is for
    std::map<std::string, Taken<SetUpRead>> set_ups;    ///< the last of each bank, and of each head: `set_up_key`
    EngineFigures figures;                              ///< as last stated
    BalanceCard balance;                                ///< as last stated
    std::vector<Taken<HeadWork>> heads;                 ///< in order, what came off by passes with them
    std::vector<CrownReading> crowns;                   ///< of the mock-up, in order
    std::vector<CrownReading> waiting_crowns; ///< read before any height of their deck: `crown` is not known yet

    [[nodiscard]] const DeckState& deck(const std::string& bank) const { return decks.at(bank); }
    [[nodiscard]] const DeckState& face(const std::string& bank) const { return faces.at(bank); }
};

/// Whose set-up it is among those that are kept: a bank's own, or its head's.
[[nodiscard]] inline std::string set_up_key(const std::string& bank, bool head) {
    return head ? bank + " head" : bank;
}
inline constexpr std::string_view on_head = "head"; ///< surface of a set-up

[[nodiscard]] const DecksState& decks_of(const JobState& state);
[[nodiscard]] DecksState& decks_of(JobState& state);

/// Height of a deck at a place as it is now: the surface as last measured, no higher than the cuts since have left it.
/// @return nothing where it was not measured, or from a tunnel that was cut since
[[nodiscard]] std::optional<double> height_now(const DeckState& deck, metrology::Vec2 place);

/// With a bank's name behind it: the reading plan of its heights.
inline const std::string deck_heights_plan = "deck_heights ";

/// The four places a deck is measured at by hand: front and rear, both sides, one cylinder wall in from the edge.
struct DeckPlace {
    metrology::Vec2 place; ///< (u, v) mm
    bool rear = false;
    bool positive_v = false;
};
[[nodiscard]] std::vector<DeckPlace> deck_places(const BankBlueprint& bank);

} // namespace pallix::block
