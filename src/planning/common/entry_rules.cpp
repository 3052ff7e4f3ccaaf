// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/entry_rules.h"

#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/cylinders/press_fit.h"
#include "planning/decks/set_up.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using namespace block;
using MaybeFault = std::optional<Fault>;

MaybeFault refuse(std::string what, std::string expected) {
    return Fault{"job", 0, std::move(what), std::move(expected)};
}

/// A size that a bore of this blueprint may have at any stage: half to twice its nominal.
bool believable(const JobState& state, const FeatureId& id, const std::optional<double>& size) {
    const double nominal = intake_of(state).blueprint->hole(id)->diameter.nominal;
    return !size || (*size > nominal / 2 && *size < 2 * nominal);
}

/// What belongs to this block at all, whatever was done before.
class Fits {
  public:
    explicit Fits(const JobState& state) : state_(state) {}

    /// What was measured must still be there: a touch or reading of nothing would be a trouble for good.
    MaybeFault operator()(const BlueprintAmended& p) const {
        const auto amended = read_blueprint(p.blueprint, p.blueprint_file);
        if (!amended)
            return amended.error().front();
        const auto lost = [&](const FeatureId& id) { return !amended->lists(id); };
        for (const TakenReading& r : readings_of(state_).readings)
            if (lost(r.reading.at.feature))
                return missing(r.reading.at.feature, r.sequence);
        for (const TakenLogs& logs : tunnel_of(state_).logs)
            if (const auto found = std::ranges::find_if(logs.features, lost); found != logs.features.end())
                return missing(*found, logs.sequences.back());
        return {};
    }
    static MaybeFault missing(const FeatureId& id, std::int64_t sequence) {
        return refuse("the amended blueprint has no " + id.text() + ", which was measured in entry " +
                          std::to_string(sequence),
                      "a blueprint that lists what was measured, or that entry struck first");
    }
    MaybeFault operator()(const DeckCut& p) const { return unlisted_bank(p.bank); }
    MaybeFault operator()(const FlawMarked& p) const {
        if (p.where == FlawWhere::outside)
            return {};
        return p.feature ? unlisted(*p.feature) : unlisted_bank(p.bank);
    }
    MaybeFault operator()(const DeckForecastKept& p) const { return unlisted_bank(p.bank); }
    MaybeFault operator()(const FinishNoted& p) const { return unlisted_bank(p.bank); }
    MaybeFault operator()(const HeadWork& p) const {
        if (!p.gap_low && p.cut == 0 && !p.chamber)
            return refuse("nothing was said of the head",
                          "what was read on it, what came off it, or what its chambers hold");
        return unlisted_bank(p.bank);
    }
    MaybeFault operator()(const SetUpRead& p) const {
        if (auto f = unlisted_bank(p.bank))
            return f;
        if (p.readings.size() >= 3 &&
            !correct_set_up(p)) // feet alone say where they stand, two places how one station lies
            return refuse("these readings fix no plane, or the feet no line",
                          "at least three places not on one line, and two feet apart");
        return {};
    }
    MaybeFault operator()(const MainMarked& p) const { return unlisted(p.main); }
    MaybeFault operator()(const CapsCut& p) const {
        for (const auto& [id, depth] : p.cuts)
            if (auto f = unlisted(id))
                return f;
        return {};
    }
    MaybeFault operator()(const TunnelForecastKept& p) const {
        for (const auto& rise : p.rises)
            if (auto f = unlisted(rise.main))
                return f;
        return {};
    }
    MaybeFault operator()(const TunnelPolicy& p) const {
        for (const FeatureId& id : p.replaced)
            if (auto f = unlisted(id))
                return f;
        return {};
    }
    MaybeFault operator()(const Reading& p) const { return unlisted(p.at.feature); }
    MaybeFault operator()(const BorePitted& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const BoreDecided& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const PistonsStated& p) const {
        for (const auto& [id, size] : p.sizes)
            if (auto f = unlisted(id))
                return f;
            else if (!believable(state_, id, size))
                return refuse("the piston of " + id.text() + " does not belong into its bore",
                              "a size near the bore's");
        if (p.size && intake_of(state_).blueprint)
            for (const auto& bore : intake_of(state_).blueprint->bores)
                if (!believable(state_, bore.id, p.size))
                    return refuse("these pistons do not belong into " + bore.id.text(), "a size near the bore's");
        return {};
    }
    MaybeFault operator()(const BoreCut& p) const {
        if (auto f = unlisted(p.bore))
            return f;
        if (!believable(state_, p.bore, p.target) || !believable(state_, p.bore, p.setting))
            return refuse("the size of the cut cannot be", "a size near the bore's");
        return {};
    }
    MaybeFault operator()(const InsertMeasured& p) const {
        if (auto f = unlisted(p.bore))
            return f;
        if (!plan_insert(p, expansion_of(intake_of(state_).blueprint->material)))
            return refuse("these lengths are no rings in one another",
                          "inside < outside < the metal round it, an interference greater than 0");
        return {};
    }
    MaybeFault operator()(const InsertFitted& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const BoreStepDone& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const TraceTaken& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const RoughnessRead& p) const { return unlisted(p.bore); }
    MaybeFault operator()(const LifterDecided& p) const { return unlisted(p.lifter); }
    MaybeFault operator()(const SerialGiven&) const {
        return card_of(state_).practice ? refuse("this block is practice", "a block that is there") : MaybeFault();
    }
    MaybeFault operator()(const TruthOpened&) const {
        return card_of(state_).practice ? MaybeFault()
                                        : refuse("this block is no practice", "a job that was begun as practice");
    }
    /// What is practice stays practice, and what was looked at was looked at.
    MaybeFault operator()(const Strike& p) const {
        const CardState& card = card_of(state_);
        const bool stays = (card.practice && card.practice->sequence == p.sequence) ||
                           (card.truth_opened && card.truth_opened->sequence == p.sequence);
        return stays ? refuse("entry " + std::to_string(p.sequence) + " makes this job practice and cannot be struck",
                              "a job of its own for a real block")
                     : MaybeFault();
    }

    /// What belongs to any block.
    template <class Entry>
    MaybeFault operator()(const Entry&) const {
        return {};
    }

  private:
    MaybeFault unlisted(const FeatureId& id) const {
        const bool listed = intake_of(state_).blueprint && intake_of(state_).blueprint->lists(id);
        return listed ? MaybeFault() : refuse(id.text() + " is not in the blueprint", "a feature it lists");
    }
    MaybeFault unlisted_bank(const std::string& bank) const {
        return decks_of(state_).decks.contains(bank)
                   ? MaybeFault()
                   : refuse("bank \"" + bank + "\" is not in the blueprint", "a bank it lists");
    }

    const JobState& state_;
};

/// What the work at hand allows now; each fits the block.
class Allowed {
  public:
    Allowed(const JobState& state, const Assessment& assessment) : state_(state), a_(assessment) {}

    MaybeFault operator()(const DeckCut& p) const {
        if (p.head)
            return a_.head(p.bank) ? MaybeFault()
                                   : refuse("nothing was read of the head of bank " + p.bank,
                                            "a line felt or a height read before its first cut");
        const bool felt = a_.feel(p.bank) != nullptr; // a straightedge is measuring too
        if (!decks_of(state_).deck(p.bank).latest && !felt && !flush_due(state_, p.bank)) // a sleeve tells its height
            return refuse("bank " + p.bank + " was not measured", "a measurement before the first cut");
        return {};
    }
    MaybeFault operator()(const FlawDecided& p) const {
        if (std::ranges::find(decks_of(state_).flaws, p.flaw, &KnownFlaw::sequence) == decks_of(state_).flaws.end())
            return refuse("no flaw stands in entry " + std::to_string(p.flaw), "a flaw that was marked");
        return {};
    }
    MaybeFault operator()(const HoldLifted& p) const {
        if (std::ranges::find(card_of(state_).holds, p.hold, &Taken<HoldPlaced>::sequence) ==
            card_of(state_).holds.end())
            return refuse("nobody is waited for by entry " + std::to_string(p.hold), "a hold that stands");
        return {};
    }
    MaybeFault operator()(const PracticeBegun&) const {
        const bool begun = card_of(state_).practice || !readings_of(state_).readings.empty() ||
                           !tunnel_of(state_).logs.empty() || !card_of(state_).parts.empty();
        return begun ? refuse("this job has begun already", "practice from its beginning on") : MaybeFault();
    }
    MaybeFault operator()(const TruthOpened&) const {
        return card_of(state_).truth_opened ? refuse("its truth was opened before", "once is enough") : MaybeFault();
    }
    MaybeFault operator()(const GatePassed&) const { return not_by_a_learner("goes on against a rule"); }
    MaybeFault operator()(const StepSkipped&) const { return not_by_a_learner("leaves a step out"); }
    MaybeFault operator()(const LimitsChosen&) const { return not_by_a_learner("changes what is judged by"); }
    MaybeFault operator()(const BlueprintAmended& p) const {
        if (p.reason.find_first_not_of(" \t\n") == std::string::npos)
            return refuse("nothing says why the blueprint is amended", "a reason: it stands in the passport");
        return {};
    }
    MaybeFault operator()(const Note& p) const {
        if (p.text.find_first_not_of(" \t\n") == std::string::npos)
            return refuse("the note is empty", "some words");
        return {};
    }
    MaybeFault operator()(const BoreCut& p) const {
        return p.bore.kind == FeatureKind::bore && p.operation != BoreOperation::hone ? barred(p) : MaybeFault();
    }
    MaybeFault operator()(const InsertFitted& p) const {
        if (p.bore.kind == FeatureKind::bore)
            return bores_of(state_).bore(p.bore).insert
                       ? MaybeFault()
                       : refuse("the sleeve of " + p.bore.text() + " was not measured", "its six outside readings");
        const LifterProgress* l = progress_of(p.bore);
        if (!l)
            return refuse("no bush is to go into " + p.bore.text(),
                          "a lifter plan that bushes it, its place or size measured");
        if (l->state != LifterState::to_press)
            return refuse("the seat of " + p.bore.text() + " is not in size yet", "cut and measured before the bush");
        if (lifter_plan_of(state_).keyed && !p.key_angle)
            return refuse("a keyed bush went in at no angle", "the angle of its key");
        return {};
    }

    /// What may be said at any time.
    template <class Entry>
    MaybeFault operator()(const Entry&) const {
        return {};
    }

  private:
    /// A decision that somebody else has signed is theirs, and is made once.
    MaybeFault not_by_a_learner(const char* does) const {
        std::int64_t decided = 0, made = 0;
        for (const auto& one : card_of(state_).signed_off)
            if (one.payload.what.find('/') != std::string::npos)
                decided = one.sequence;
        for (const auto& gate : intake_of(state_).gates)
            made = std::max(made, gate.sequence);
        if (!card_of(state_).learner_at_bench() || decided > made)
            return {};
        return refuse(std::string("nobody ") + does + " while learning", "fetch somebody who answers for it");
    }
    /// One cut too many: the hole before was not measured, came out over its size, or its edge was not looked at.
    MaybeFault barred(const BoreCut& cut) const {
        if (!a_.cylinders || std::ranges::find(a_.cylinders->boring.holes, cut.bore, &HoleProgress::id) ==
                                 a_.cylinders->boring.holes.end())
            return {};
        using enum BoringStep;
        const BoringStep step = a_.cylinders->boring.step;
        if (step == measure)
            return refuse("the last hole was not measured", "its sizes before the next is cut");
        if (step == over)
            return refuse("a hole came out over its size", "a decision on it before the next is cut");
        if (step == look_at_edge && !cut.new_edge)
            return refuse("the edge of the tool is in doubt", "a look at it, or a fresh one");
        return {};
    }
    const LifterProgress* progress_of(const FeatureId& id) const {
        if (!a_.lifters)
            return nullptr;
        const auto& all = a_.lifters->board.each;
        const auto found = std::ranges::find(all, id, &LifterProgress::id);
        return found == all.end() ? nullptr : &*found;
    }

    const JobState& state_;
    const Assessment& a_;
};

} // namespace

std::optional<Fault> fault_of(const JobState& state, const Payload& payload) {
    return std::visit(Fits(state), payload);
}

std::optional<Fault> fault_now(const JobState& state, const Assessment& assessment, const Payload& payload) {
    if (auto fault = fault_of(state, payload))
        return fault;
    return std::visit(Allowed(state, assessment), payload);
}

} // namespace pallix::planning
