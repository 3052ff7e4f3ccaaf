// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/tunnel_entries.h"
#include "block/evaluation.h"
#include "block/forward.h"
#include "block/propagated.h"
#include "block/reading.h"
#include "block/state/taken.h"

#include <algorithm>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::block {

/// An evaluation and the entries it came from.
struct EvaluationState {
    std::int64_t sequence = 0;                  ///< of the probe log that completed it
    std::optional<double> standard_uncertainty; ///< mm, of one touch
    std::vector<LogHeader> logs;
    Evaluation evaluation;
    std::string remark;                             ///< what was taken from an earlier log, or empty
    std::shared_ptr<const ProbeSet> probe{};        ///< the touches it was made from
    std::shared_ptr<const Propagated> propagated{}; ///< what its values hang on the touches by
    Conditions conditions{};                        ///< as they were stated when the mains were probed
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

/// Evaluates logs that are read together, on top of what was probed before: features of `earlier` that the new logs do
/// not hold stay in place (a log of the decks alone lies in the frame of the mains before it, taken in one clamping).
/// @param earlier may be null
[[nodiscard]] Result<EvaluationState> evaluate_on_top(const Blueprint& blueprint, const ProbeSet* earlier,
                                                      const ProbeSet& newest);

/// Logs that were read together, and what they hold.
struct TakenLogs {
    std::vector<std::int64_t> sequences;
    std::vector<FeatureId> features;
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
    std::vector<MainResult> before{}; ///< as of caps
};

/// What the hone was expected to do, and the camshaft as it was probed before.
struct TakenForecast {
    std::int64_t sequence = 0;
    TunnelForecastKept forecast;
    std::optional<CamResult> cam{};
    double touch = 0; ///< mm, standard uncertainty of one touch of it
};

/// What was probed, and what was decided on the main tunnel and done to it.
struct TunnelState {
    std::optional<EvaluationState> as_found; ///< the first
    std::optional<EvaluationState> latest;
    std::vector<TakenLogs> logs;                             ///< in order
    std::optional<TunnelPolicy> tunnel_policy;               ///< as last chosen
    std::int64_t tunnel_policy_chosen = 0;                   ///< entry that chose it
    std::vector<TakenCaps> caps_cut;                         ///< in order
    std::vector<TakenPass> tunnel_passes;                    ///< in order
    std::vector<TakenForecast> rise_forecasts;               ///< in order
    std::vector<Taken<MainMarked>> marks;                    ///< what passes of the bar left, in order
    std::optional<IndicatorSag> sag;                         ///< of the indicator on the bar, as last read in a ring
    std::vector<std::pair<std::int64_t, std::string>> steps; ///< done by hand or eye, in order
    std::int64_t caps_torqued = 0;                           ///< entry that last said so; 0 for none
    std::int64_t tunnel_cut = 0;                             ///< entry that last moved the finished tunnel; 0 for none
    std::int64_t tunnel_done = 0; ///< entry that last said that the tunnel is done; 0 for none
    /// Entry that last ended the mains' round: probed before it, they are not as they are.
    std::int64_t mains_round = 0;
    std::string mains_round_because;

    /// The tunnel was cut after it was last probed: positions and heights by that log no longer hold.
    [[nodiscard]] bool probe_stale() const { return latest && tunnel_cut > latest->mains_sequence(); }
    /// The mains are as they were last probed: no cap, stroke or bolt since.
    [[nodiscard]] bool mains_as_probed() const { return latest && latest->mains_sequence() > mains_round; }
    /// Entry that last cut caps or a main; 0 for none.
    [[nodiscard]] std::int64_t last_work_on_mains() const {
        return std::max(caps_cut.empty() ? 0 : caps_cut.back().sequence,
                        tunnel_passes.empty() ? 0 : tunnel_passes.back().sequence);
    }
    /// Caps or bores of the mains were worked on since the tunnel was last said to be done.
    [[nodiscard]] bool tunnel_worked() const { return last_work_on_mains() > tunnel_done; }
    /// How often logs held that feature (of mains and cylinders any) since an entry.
    [[nodiscard]] std::size_t times_probed(FeatureKind kind, const std::string& bank, std::int64_t since) const;
    /// @return what the last pass left there; nothing where nobody has marked it since
    [[nodiscard]] std::optional<BarMark> mark_of(const FeatureId& main) const;
};

[[nodiscard]] const TunnelState& tunnel_of(const JobState& state);
[[nodiscard]] TunnelState& tunnel_of(JobState& state);

} // namespace pallix::block
