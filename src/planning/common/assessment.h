// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/touch_outliers.h"
#include "planning/common/stages.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/decks/deck_work.h"
#include "planning/decks/head_work.h"
#include "planning/lifters/lifter_plan.h"
#include "planning/readings/gauge_findings.h"
#include "planning/readings/pattern.h"
#include "planning/steps/step.h"
#include "planning/tunnel/tunnel_verdict.h"
#include "planning/tunnel/tunnel_work.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where the cylinders and lifters of one bank lie.
struct BankPositions {
    std::string bank;
    std::vector<PositionError> cylinder_errors, lifter_errors;
    Pattern cylinders, lifters;
    SizeDrift lifter_sizes; ///< growing along the bank
    std::optional<DowelPair> dowels;
};

/// The tunnel's line once it is cut as planned; nothing where no cut is to come or its plan does not work out.
[[nodiscard]] std::optional<CentreLine> line_to_come(const block::JobState& state);
/// Everything the window, the shop list and the passport say of a job, worked out from its state.
struct Assessment {
    DeckPlan plan;
    bool tunnel_to_come = false;       ///< decks are planned from the tunnel as it will be
    std::vector<PistonCrown> crowns;   ///< of the mock-up, cylinder by cylinder
    std::vector<BankProgress> banks;   ///< in the blueprint's order; those with a measurement
    std::vector<FeelProgress> by_feel; ///< banks with feelers or passes and no height
    std::vector<HeadProgress> heads;   ///< that somebody has begun with
    std::optional<TunnelVerdict> tunnel;
    std::optional<PairVerdict> pair;
    GaugeFindings gauge;                          ///< what was measured by hand
    std::vector<BankPositions> positions;         ///< in the blueprint's order; those with a probed hole or dowel pair
    std::vector<block::TouchStandingOut> touches; ///< that nobody has looked at
    std::vector<std::string> unconfirmed_banks;   ///< measured after the block was rolled, dowel pair not probed
    std::optional<CylinderWork> cylinders;        ///< where any was measured
    std::optional<LifterWork> lifters;            ///< where any was measured
    TunnelWork tunnel_work;
    DeckCall decks;
    StepList steps; ///< what is to be done, all of it
    std::vector<StageState> stages;

    [[nodiscard]] const BankProgress* bank(std::string_view id) const;
    [[nodiscard]] const FeelProgress* feel(std::string_view id) const;
    [[nodiscard]] const HeadProgress* head(std::string_view id) const;
    [[nodiscard]] bool tunnel_fails() const;

    // Compiled once: what it holds is too much to copy in every file that does.
    Assessment();
    ~Assessment();
    Assessment(const Assessment&);
    Assessment(Assessment&&) noexcept;
    Assessment& operator=(const Assessment&);
    Assessment& operator=(Assessment&&) noexcept;
};

/// What is known of each stage; where the one call stands, the work is.
[[nodiscard]] std::vector<StageState> stages_of(const block::JobState& state, const Assessment& assessment);

/// @param certainty drawn uncertainties, used where they belong to the newest evaluation; may be null
/// @param at UTC, ISO 8601, the time of asking: rests hang on it; empty: whatever rests is rested
/// @param depths of decks by their newest heights, as far as they were worked out: others are cut as measured
[[nodiscard]] Assessment assess(const block::JobState& state, const Certainty* certainty = nullptr,
                                const std::string& at = {}, const CleanDepths& depths = {});
/// The same at another time.
void look_again(Assessment& assessment, const block::JobState& state, const std::string& at);

} // namespace pallix::planning
