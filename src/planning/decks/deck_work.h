// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/state/measured.h"
#include "planning/decks/deck_plan.h"
#include "planning/decks/deck_shape.h"
#include "planning/decks/deck_verdict.h"
#include "planning/decks/pass_plan.h"
#include "planning/decks/straightedge.h"
#include "planning/tunnel/tunnel_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where one bank's deck stands between plan and proof.
struct BankProgress {
    BankPlan plan; ///< from the as-found surface
    /// The newest surface as it will lie once the tunnel is where its plan puts it; nothing where none is to come.
    std::optional<block::DeckResult> to_come;
    double taken = 0;         ///< mm, infeed of all passes so far
    double remaining = 0;     ///< mm of infeed still to come; from the newest heights when there are any
    std::vector<Pass> passes; ///< still to make
    bool dark_left = false;   ///< the last pass left places dark
    bool stale = false;       ///< cut since it was measured
    /// mm, by how much sooner it came clean than its heights say, where that is more than they can be off: one of them
    /// is wrong, and how deep it still is to be cut is not known.
    std::optional<double> clean_too_soon;
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
    flat_by_feel,   ///< flat along its lines, or as deep as its clearance allows; its height nobody knows
    give_height,    ///< a given height, clearance or ratio was chosen and none given
    read_pistons,   ///< the target comes from the mock-up, and no piston was read
    give_figures,   ///< the target is a compression ratio, and volumes are missing
    cut,            ///< make the next pass
    look_why_dark,  ///< planned depth taken, places still dark
    measure_again,  ///< cut to depth, or measured from a tunnel that was cut since
    see_flatness,   ///< measured and good as far as that goes: too few heights to say flat
    settle_doubt,   ///< measured, too near a limit to tell
    cannot_be_told, ///< likewise, and read so often that once more tells nothing
    no_limits,      ///< measured, and the blueprint gives its height no limits
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

/// A bank that was never measured in height: what straightedge and passes say of it.
struct FeelProgress {
    std::string bank;
    FlatnessBounds bounds;                     ///< of the lines read since the last pass
    std::optional<metrology::Verdict> verdict; ///< nothing where no line was read since
    double taken = 0;                          ///< mm of infeed
    bool cut = false, clean = false;
    std::optional<double> over; ///< mm, of clearance that the mock-up has over the target; nothing where none was read
    std::optional<Pass> next;   ///< until clean, the finishing cut, spring passes; then lines are laid again
};

/// The surface a bank is worked on from: as it will be, or as it was last measured.
[[nodiscard]] const block::DeckResult& surface_of(const BankProgress& progress, const block::JobState& state);

/// A deck as it will be measured from that line.
[[nodiscard]] block::DeckResult measured_from(const block::DeckResult& deck, const CentreLine& line);

[[nodiscard]] BankProgress progress_of(const block::BankBlueprint& bank, const BankPlan& plan,
                                       const block::DeckState& deck, const block::PassPlanChosen& chosen,
                                       const DeckSeen& seen, const block::LimitsChosen& limits,
                                       const std::optional<CentreLine>& line);
/// Somebody goes on with a deck that is flat by feel, and whose height nobody measured since.
[[nodiscard]] bool goes_on_unmeasured(const block::JobState& state, const std::string& bank);
/// Until the lines are gone; where nobody looked at them, as many as were chosen.
[[nodiscard]] int springs_left(const block::DeckState& deck, int chosen);
/// What the straightedge says of a deck, or its head, as it now is: one line too far fails it, all lines laid and none
/// too far meets; nothing where lines are still to be laid.
[[nodiscard]] std::optional<metrology::Verdict> felt_flat(const block::JobState& state,
                                                          const block::BankBlueprint& bank, bool head = false);
/// Three spring passes in a row left the lines as they were: the machine gives way, there is no stock left.
[[nodiscard]] bool springs_change_nothing(const block::DeckState& deck);
/// A pass of those that are made until the deck is clean, however many that takes.
[[nodiscard]] bool cut_until_clean(const block::JobState& state, block::PassKind kind);
/// The target is a clearance, pistons were read and no height of any deck: cut is what each bank has over it.
[[nodiscard]] bool cut_by_clearance_alone(const block::JobState& state);
/// A bank without heights, as far as straightedge and passes tell.
[[nodiscard]] std::optional<FeelProgress> feel_of(const block::JobState& state, const block::BankBlueprint& bank,
                                                  const block::PassPlanChosen& chosen);
/// A bank that is to be cut, or was, under the blueprint's least height, and nobody has said that it may.
[[nodiscard]] bool under_limit(const block::JobState& state, const BankProgress& b);
/// The height of those decks that says most once it is read again: of those read seldomest, the highest or lowest.
/// @return null where none was read by hand
[[nodiscard]] const block::MeasuredPlace* seldomest_read(const block::JobState& state,
                                                         const std::vector<std::string>& banks);
/// What the decks are at, and which bank it is.
[[nodiscard]] DeckCall deck_call(const block::JobState& state, const DeckPlan& plan,
                                 const std::vector<BankProgress>& banks, const std::vector<FeelProgress>& by_feel,
                                 const std::optional<PairVerdict>& pair);

} // namespace pallix::planning
