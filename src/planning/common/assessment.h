// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/stages.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/decks/deck_plan.h"
#include "planning/decks/deck_verdict.h"
#include "planning/decks/pass_plan.h"
#include "planning/decks/straightedge.h"
#include "planning/readings/gauge_findings.h"
#include "planning/readings/pattern.h"
#include "planning/steps/step.h"
#include "planning/tunnel/tunnel_work.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where one bank's deck stands between plan and proof.
struct BankProgress {
    BankPlan plan; ///< from the as-found surface
    /// The newest surface as it will lie once the tunnel is where its plan puts it; nothing where none is to come.
    std::optional<block::DeckResult> to_come;
    double taken = 0;                   ///< mm, infeed of all passes so far
    double remaining = 0;               ///< mm of infeed still to come; from the newest heights when there are any
    std::vector<Pass> passes;           ///< still to make
    bool dark_left = false;             ///< the last pass left places dark
    bool stale = false;                 ///< cut since it was measured
    std::optional<BankVerdict> verdict; ///< only for heights that are still true
    bool below_blueprint = false;       ///< proven lower than the blueprint allows, whatever the plan's target
    std::vector<CornerHeight> corners;  ///< of the newest measurement
    DeckLie lie;
};

/// What the decks are at; steps are made of it.
enum class DeckStep {
    measure,        ///< a bank was not measured
    cut_by_feel,    ///< straightedge only: another pass, until nothing stays dark
    feel_again,     ///< clean: lay the straightedge again
    flat_by_feel,   ///< flat along its lines; its height nobody knows
    give_height,    ///< a given height, clearance or ratio was chosen and none given
    read_pistons,   ///< the target comes from the mock-up, and no piston was read
    give_figures,   ///< the target is a compression ratio, and volumes are missing
    cut,            ///< make the next pass
    look_why_dark,  ///< planned depth taken, places still dark
    measure_again,  ///< cut to depth, or measured from a tunnel that was cut since
    settle_doubt,   ///< measured, too near a limit to tell
    will_not_clean, ///< the target leaves places untouched
    under_limit,    ///< meets its plan, and stands under the blueprint's least height
    fails,          ///< measured and outside the limits, nothing left to cut
    done,
};

struct DeckCall {
    DeckStep kind = DeckStep::measure;
    std::string bank{};          ///< which bank, where one is meant
    std::optional<Pass> pass{};  ///< for cut
    std::size_t passes_left = 0; ///< for cut, this one included
    double remaining = 0;        ///< mm, for cut
};

/// Where the cylinders and lifters of one bank lie.
struct BankPositions {
    std::string bank;
    std::vector<PositionError> cylinder_errors, lifter_errors;
    Pattern cylinders, lifters;
    SizeDrift lifter_sizes; ///< growing along the bank
    std::optional<DowelPair> dowels;
};

/// A bank that was never measured in height: what straightedge and passes say of it.
struct FeelProgress {
    std::string bank;
    FlatnessBounds bounds;                     ///< of the lines read since the last pass
    std::optional<metrology::Verdict> verdict; ///< nothing where no line was read since
    double taken = 0;                          ///< mm of infeed
    bool cut = false, clean = false;
    Pass next; ///< the usual one
};

/// The surface a bank is worked on from: as it will be, or as it was last measured.
[[nodiscard]] const block::DeckResult& surface_of(const BankProgress& progress, const block::JobState& state);

/// The tunnel's line once it is cut as planned; nothing where no cut is to come or its plan does not work out.
[[nodiscard]] std::optional<CentreLine> line_to_come(const block::JobState& state);
/// A deck as it will be measured from that line.
[[nodiscard]] block::DeckResult measured_from(const block::DeckResult& deck, const CentreLine& line);

/// Everything the window, the shop list and the passport say of a job, worked out from its state.
struct Assessment {
    DeckPlan plan;
    bool tunnel_to_come = false;       ///< decks are planned from the tunnel as it will be
    std::vector<PistonCrown> crowns;   ///< of the mock-up, cylinder by cylinder
    std::vector<BankProgress> banks;   ///< in the blueprint's order; those with a measurement
    std::vector<FeelProgress> by_feel; ///< banks with feelers or passes and no height
    std::optional<TunnelVerdict> tunnel;
    std::optional<PairVerdict> pair;
    GaugeFindings gauge;                        ///< what was measured by hand
    std::vector<BankPositions> positions;       ///< in the blueprint's order; those with a probed hole or dowel pair
    std::vector<std::string> unconfirmed_banks; ///< measured after the block was rolled, dowel pair not probed
    std::optional<CylinderWork> cylinders;      ///< where any was measured
    std::optional<LifterWork> lifters;          ///< where any was measured
    TunnelWork tunnel_work;
    DeckCall decks;
    StepList steps; ///< what is to be done, all of it
    std::vector<StageState> stages;

    [[nodiscard]] const BankProgress* bank(std::string_view id) const;
    [[nodiscard]] const FeelProgress* feel(std::string_view id) const;
    [[nodiscard]] bool tunnel_fails() const;

    // Compiled once: what it holds is too much to copy in every file that does.
    Assessment();
    ~Assessment();
    Assessment(const Assessment&);
    Assessment(Assessment&&) noexcept;
    Assessment& operator=(const Assessment&);
    Assessment& operator=(Assessment&&) noexcept;
};

/// @param certainty drawn uncertainties, used where they belong to the newest evaluation; may be null
/// @param at UTC, ISO 8601, the time of asking: rests hang on it; empty: whatever rests is rested
[[nodiscard]] Assessment assess(const block::JobState& state, const Certainty* certainty = nullptr,
                                const std::string& at = {});
/// The same at another time.
void look_again(Assessment& assessment, const block::JobState& state, const std::string& at);

} // namespace pallix::planning
