// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/assessment.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_targets.h"
#include "planning/readings/log_doubts.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {
namespace {

using block::JobState;
using metrology::Verdict;

/// After the block was rolled the datum is confirmed on each bank by its dowel pair.
std::vector<std::string> unconfirmed_banks(const JobState& state, const std::vector<BankPositions>& positions) {
    const block::Blueprint& blueprint = *intake_of(state).blueprint;
    const block::EvaluationState& latest = *tunnel_of(state).latest;
    if (std::ranges::none_of(latest.logs, &block::LogHeader::rolled))
        return {};
    std::vector<std::string> banks;
    for (const block::BankBlueprint& bank : blueprint.banks) {
        const auto listed =
            std::ranges::count_if(blueprint.dowels, [&](const auto& d) { return d.id.bank == bank.id; });
        const auto found = std::ranges::find(positions, bank.id, &BankPositions::bank);
        const bool probed = latest.evaluation.deck(bank.id) || found != positions.end();
        const bool said = std::ranges::any_of(tunnel_of(state).steps, [&](const auto& step) {
            return step.first > latest.sequence && step.second == datum_confirmed(bank.id);
        });
        if (probed && listed >= 2 && !said && (found == positions.end() || !found->dowels))
            banks.push_back(bank.id);
    }
    return banks;
}

PairVerdict pair_of(const JobState& state, const BankProgress& first, const BankProgress& second) {
    const auto measured = [&state](const BankProgress& b) {
        block::DeckMeasurement m = *decks_of(state).deck(b.plan.bank).latest;
        if (b.to_come)
            m.result.height_mean = b.to_come->height_mean;
        return m;
    };
    const block::DeckTargetChosen& target = decks_of(state).target;
    if (target.school == block::TargetSchool::least_cut && target.equal) // wherever one ended, the other is to end too
        return judge_pair(measured(first), 0, measured(second), 0, limits_of(state));
    return judge_pair(measured(first), first.plan.target, measured(second), second.plan.target, limits_of(state));
}

/// Whether what is probed there was cut since.
bool cut_since_probed(const JobState& state, const block::FeatureId& id) {
    switch (id.kind) {
    case block::FeatureKind::main:
        return !tunnel_of(state).mains_as_probed();
    case block::FeatureKind::deck:
        return decks_of(state).deck(id.bank).stale();
    case block::FeatureKind::bore:
    case block::FeatureKind::lifter:
        return bores_of(state).bore(id).last_cut() > tunnel_of(state).latest->sequence;
    default:
        return false;
    }
}

/// Entry that last cut there; 0 for none.
std::int64_t last_cut_of(const JobState& state, const block::FeatureId& id) {
    switch (id.kind) {
    case block::FeatureKind::deck:
        return decks_of(state).deck(id.bank).last_cut();
    case block::FeatureKind::bore:
    case block::FeatureKind::lifter:
        return bores_of(state).bore(id).last_cut();
    default:
        return tunnel_of(state).last_work_on_mains();
    }
}

/// As long as nothing was cut there, and nobody has said since that the metal is so.
std::vector<block::TouchStandingOut> touches_to_look_at(const JobState& state) {
    std::vector<block::TouchStandingOut> touches = touches_standing_out(state);
    std::erase_if(touches, [&](const block::TouchStandingOut& t) {
        return cut_since_probed(state, t.feature) || std::ranges::any_of(tunnel_of(state).steps, [&](const auto& step) {
                   return step.first > last_cut_of(state, t.feature) && step.second.starts_with(touch_is_so(t));
               });
    });
    return touches;
}

std::vector<BankPositions> positions_of(const block::Blueprint& blueprint, const block::Evaluation& e) {
    std::vector<BankPositions> found;
    for (const block::BankBlueprint& bank : blueprint.banks) {
        BankPositions p;
        p.bank = bank.id;
        p.cylinder_errors = position_errors(blueprint, e.bores, bank.id);
        p.lifter_errors = position_errors(blueprint, e.lifters, bank.id);
        p.cylinders = read_pattern(p.cylinder_errors);
        p.lifters = read_pattern(p.lifter_errors);
        std::vector<metrology::Vec2> sizes;
        for (const block::HoleResult& h : e.lifters)
            if (h.id.bank == bank.id)
                sizes.push_back({h.centre.x, h.diameter()});
        p.lifter_sizes = read_size_drift(sizes);
        p.dowels = dowel_pair(blueprint, e.dowels, bank.id);
        if (!p.cylinder_errors.empty() || !p.lifter_errors.empty() || p.dowels)
            found.push_back(std::move(p));
    }
    return found;
}

} // namespace

Assessment::Assessment() = default;
Assessment::~Assessment() = default;
Assessment::Assessment(const Assessment&) = default;
Assessment::Assessment(Assessment&&) noexcept = default;
Assessment& Assessment::operator=(const Assessment&) = default;
Assessment& Assessment::operator=(Assessment&&) noexcept = default;

std::optional<CentreLine> line_to_come(const JobState& state) {
    if (!tunnel_of(state).tunnel_policy || tunnel_of(state).tunnel_policy_chosen < tunnel_of(state).tunnel_cut)
        return std::nullopt;
    const auto study = study_tunnel(state);
    if (!study || !study->plan.feasible)
        return std::nullopt;
    const CentreLine& line = study->plan.line;
    return line.y0 == 0 && line.yk == 0 && line.z0 == 0 && line.zk == 0 ? std::nullopt : std::optional(line);
}

bool Assessment::tunnel_fails() const {
    return std::ranges::any_of(
        stages, [](const StageState& s) { return s.stage == Stage::tunnel && s.mark == StageMark::fails; });
}

const FeelProgress* Assessment::feel(std::string_view id) const {
    const auto found = std::ranges::find(by_feel, id, [](const FeelProgress& f) { return std::string_view(f.bank); });
    return found == by_feel.end() ? nullptr : &*found;
}

const HeadProgress* Assessment::head(std::string_view id) const {
    const auto found = std::ranges::find(heads, id, [](const HeadProgress& h) { return std::string_view(h.bank); });
    return found == heads.end() ? nullptr : &*found;
}

const BankProgress* Assessment::bank(std::string_view id) const {
    const auto found =
        std::ranges::find(banks, id, [](const BankProgress& b) { return std::string_view(b.plan.bank); });
    return found == banks.end() ? nullptr : &*found;
}

void look_again(Assessment& a, const JobState& state, const std::string& at) {
    a.steps = steps_of(state, a, at);
    a.stages = stages_of(state, a);
}

Assessment assess(const JobState& state, const Certainty* certainty, const std::string& at, const CleanDepths& depths) {
    Assessment a;
    if (intake_of(state).blueprint) {
        const std::optional<CentreLine> line = line_to_come(state);
        a.tunnel_to_come = line.has_value();
        a.cylinders = cylinder_work(state, line.value_or(CentreLine{}));
        a.crowns = piston_crowns(state, a.cylinders ? a.cylinders->study.oversize : std::nullopt);
        std::vector<block::DeckResult> moved;
        moved.reserve(intake_of(state).blueprint->banks.size());
        std::vector<DeckToPlan> decks;
        for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks)
            if (const auto& deck = decks_of(state).deck(bank.id); deck.as_found) {
                if (line)
                    moved.push_back(measured_from(deck.as_found->result, *line));
                decks.push_back({&bank, line ? &moved.back() : &deck.as_found->result});
            }
        using enum block::TargetSchool;
        const bool from_mock_up = decks_of(state).target.school == clearance || decks_of(state).target.school == ratio;
        a.plan = plan_decks(decks, decks_of(state).target,
                            from_mock_up ? mock_up_heights(state, a.crowns, decks_of(state).target) : MockUpHeights{});
        if (cut_by_clearance_alone(state))
            a.plan.lack = TargetLack::nothing;
        const block::PassPlanChosen chosen = decks_of(state).passes.value_or(usual_passes());
        move_targets(a.plan, state, chosen, line, depths);
        for (const BankPlan& plan : a.plan.banks) {
            const auto drawn = drawn_deck(state, *decks_of(state).deck(plan.bank).latest, certainty);
            const block::BankBlueprint& bank = *intake_of(state).blueprint->bank(plan.bank);
            a.banks.push_back(progress_of(bank, plan, decks_of(state).deck(plan.bank), chosen,
                                          {false, drawn ? &*drawn : nullptr, felt_flat(state, bank)}, limits_of(state),
                                          line));
        }
        if (tunnel_of(state).latest)
            a.tunnel = judge_tunnel(*intake_of(state).blueprint, *tunnel_of(state).latest, certainty, limits_of(state));
        for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks) {
            if (auto feel = feel_of(state, bank, chosen))
                a.by_feel.push_back(std::move(*feel));
            if (auto head = head_progress(state, bank, chosen))
                a.heads.push_back(std::move(*head));
        }
        a.lifters = lifter_work(state);
        a.gauge = gauge_findings(state, a.cylinders ? a.cylinders->study.oversize : std::nullopt);
        if (tunnel_of(state).latest) {
            a.positions = positions_of(*intake_of(state).blueprint, tunnel_of(state).latest->evaluation);
            a.unconfirmed_banks = unconfirmed_banks(state, a.positions);
        }
        a.touches = touches_to_look_at(state);
        if (a.banks.size() == 2 && !a.banks[0].stale && !a.banks[1].stale)
            a.pair = pair_of(state, a.banks[0], a.banks[1]);
        a.tunnel_work =
            tunnel_work(state, a.gauge, a.tunnel && tunnel_of(state).mains_as_probed() ? &*a.tunnel : nullptr);
        a.decks = deck_call(state, a.plan, a.banks, a.by_feel, a.pair);
    }
    look_again(a, state, at);
    return a;
}

} // namespace pallix::planning
