// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/bore_faults.h"

#include "planning/press_fit.h"

#include <algorithm>

namespace pallix::session {
namespace {

using block::FeatureId;
using block::JobState;

MaybeFault refuse(std::string what, std::string expected) {
    return block::Fault{"cylinders and lifters", 0, std::move(what), std::move(expected)};
}

bool positive(const std::optional<double>& x) {
    return !x || *x > 0;
}

MaybeFault unlisted(const JobState& state, const FeatureId& id) {
    const bool listed = state.blueprint && state.blueprint->hole(id);
    return listed ? MaybeFault() : refuse(id.text() + " is not in the blueprint", "a cylinder or lifter bore it lists");
}

/// A size that a bore of this blueprint may have at any stage: half to twice its nominal.
bool believable(const JobState& state, const FeatureId& id, const std::optional<double>& size) {
    const double nominal = state.blueprint->hole(id)->diameter.nominal;
    return !size || (*size > nominal / 2 && *size < 2 * nominal);
}

} // namespace

MaybeFault fault_of(const JobState&, const block::CylinderPlanChosen& p) {
    if (p.oversizes.empty())
        return refuse("the list of sizes is empty", "at least one oversize, 0 for the nominal");
    if (std::ranges::any_of(p.oversizes, [](double o) { return o < 0 || o > 10; }))
        return refuse("an oversize cannot be", "oversizes from 0 to 10 mm");
    if (p.margin < 0 || !positive(p.wall) || !positive(p.wall_thrust))
        return refuse("margin or least wall cannot be", "a margin of 0 or more, walls greater than 0");
    return {};
}

MaybeFault fault_of(const JobState& state, const block::BorePitted& p) {
    if (auto f = unlisted(state, p.bore))
        return f;
    return p.depth > 0 && p.depth < 10 ? MaybeFault() : refuse("the pit's depth cannot be", "a depth from 0 to 10 mm");
}

MaybeFault fault_of(const JobState& state, const block::BoreDecided& p) {
    return unlisted(state, p.bore);
}

MaybeFault fault_of(const JobState& state, const block::PistonsStated& p) {
    if (!positive(p.size) || !positive(p.clearance))
        return refuse("piston or clearance cannot be", "sizes greater than 0");
    for (const auto& [id, size] : p.sizes)
        if (auto f = unlisted(state, id))
            return f;
        else if (!believable(state, id, size))
            return refuse("the piston of " + id.text() + " does not belong into its bore", "a size near the bore's");
    if (p.size && state.blueprint)
        for (const auto& bore : state.blueprint->bores)
            if (!believable(state, bore.id, p.size))
                return refuse("these pistons do not belong into " + bore.id.text(), "a size near the bore's");
    if (p.hone_stock < 0 || p.hone_stock > 1 || !(p.tolerance > 0) || !(p.largest_cut > 0) ||
        !(p.finish_tolerance > 0) || !(p.shape > 0))
        return refuse("a figure of the bores cannot be", "stock from 0 to 1 mm, tolerances and cuts greater than 0");
    return {};
}

MaybeFault fault_of(const JobState& state, const block::BoreCut& p) {
    if (auto f = unlisted(state, p.bore))
        return f;
    if (!believable(state, p.bore, p.target) || !believable(state, p.bore, p.setting))
        return refuse("the size of the cut cannot be", "a size near the bore's");
    if (p.operation == block::BoreOperation::hone && (p.strokes < 0 || p.strokes > 100000))
        return refuse("the number of strokes cannot be", "a whole number from 0");
    return {};
}

MaybeFault fault_of(const JobState& state, const block::InsertMeasured& p) {
    if (auto f = unlisted(state, p.bore))
        return f;
    if (std::ranges::any_of(p.outside, [](double d) { return !(d > 0); }) || !(p.length > 0))
        return refuse("six outside readings and a length are needed", "sizes greater than 0");
    if (!planning::plan_insert(p, block::expansion_of(state.blueprint->material)))
        return refuse("these lengths are no rings in one another",
                      "inside < outside < the metal round it, an interference greater than 0");
    return {};
}

MaybeFault fault_of(const JobState& state, const block::InsertFitted& p) {
    if (auto f = unlisted(state, p.bore))
        return f;
    return p.proud > -50 && p.proud < 50 ? MaybeFault()
                                         : refuse("it cannot stand that far off", "mm above the deck, − below it");
}

MaybeFault fault_of(const JobState& state, const block::BoreStepDone& p) {
    if (auto f = unlisted(state, p.bore))
        return f;
    return p.step.empty() ? refuse("the step has no name", "what was done") : MaybeFault();
}

MaybeFault fault_of(const JobState&, const block::HonePlanChosen& p) {
    if (p.steps.empty())
        return refuse("the hone plan has no step", "at least one grit");
    for (std::size_t i = 0; i < p.steps.size(); ++i)
        if (p.steps[i].leaves < 0 || (i > 0 && p.steps[i].leaves > p.steps[i - 1].leaves))
            return refuse("step " + std::to_string(i + 1) + " leaves more than the one before it",
                          "less and less stock");
    if (!(p.speed > 0) || !(p.stroke > 0) || !(p.rate > 0))
        return refuse("speed, stroke or rate cannot be", "numbers greater than 0");
    return {};
}

MaybeFault fault_of(const JobState&, const block::RestBegun& p) {
    return p.minutes > 0 && p.minutes <= 24 * 60 ? MaybeFault()
                                                 : refuse("the rest cannot be that long", "minutes from 1 to a day");
}

MaybeFault fault_of(const JobState&, const block::TextureLimits& p) {
    for (const auto& r : {p.ra, p.rz, p.rk, p.rpk, p.rvk, p.mr1, p.mr2})
        if ((r.least && *r.least < 0) || (r.most && *r.most < 0) || (r.least && r.most && *r.least > *r.most))
            return refuse("a limit of texture cannot be", "the smaller number first");
    return {};
}

MaybeFault fault_of(const JobState&, const block::LifterPlanChosen& p) {
    for (const auto& x : {p.lifter, p.position, p.bush_outside, p.interference, p.base_radius, p.roller_radius})
        if (!positive(x))
            return refuse("a figure of the lifters cannot be", "sizes greater than 0");
    if (p.clearance_least && p.clearance_most && (*p.clearance_least < 0 || *p.clearance_least > *p.clearance_most))
        return refuse("the clearances cannot be", "the smaller first");
    if (p.lifter && p.bush_outside && *p.bush_outside <= *p.lifter)
        return refuse("the bush is no larger than the lifter in it", "an outside greater than the lifter's");
    return {};
}

MaybeFault fault_of(const JobState& state, const block::LifterDecided& p) {
    return unlisted(state, p.lifter);
}

} // namespace pallix::session
