// SPDX-License-Identifier: GPL-3.0-or-later
// What was decided on cylinders and lifters, found in them and done to them.
#include "block/state/folding.h"

#include <algorithm>

namespace pallix::block {
namespace {

/// @return null where the blueprint does not list it, which is a trouble
BoreWork* bore_of(Folding& f, const FeatureId& id) {
    return f.listed(id) ? &f.state.bores[id] : nullptr;
}

void apply(Folding& f, const CylinderPlanChosen& plan) {
    f.state.cylinder_plan = {f.entry->sequence, plan};
}
void apply(Folding& f, const PistonsStated& pistons) {
    if (std::ranges::all_of(pistons.sizes, [&f](const auto& size) { return f.listed(size.first); }))
        f.state.pistons = {f.entry->sequence, pistons};
}
void apply(Folding& f, const HonePlanChosen& plan) {
    f.state.hone_plan = {f.entry->sequence, plan};
}
void apply(Folding& f, const TextureLimits& limits) {
    f.state.texture_limits = {f.entry->sequence, limits};
}
void apply(Folding& f, const RestBegun& rest) {
    f.state.rest = {f.entry->sequence, rest};
}

void apply(Folding& f, const BorePitted& pit) {
    if (BoreWork* bore = bore_of(f, pit.bore))
        bore->pits.push_back({f.entry->sequence, pit});
}
void apply(Folding& f, const BoreDecided& decided) {
    BoreWork* bore = bore_of(f, decided.bore);
    if (!bore)
        return;
    bore->decided = {f.entry->sequence, decided};
    if (decided.choice == BoreChoice::sleeve && !bore->fitted)
        bore->insert.reset(); // another one, where one was refused
}
void apply(Folding& f, const BoreCut& cut) {
    BoreWork* bore = bore_of(f, cut.bore);
    if (!bore)
        return;
    bore->cuts.push_back({f.entry->sequence, cut});
    f.state.bores_cut.push_back(cut.bore);
}
void apply(Folding& f, const InsertMeasured& insert) {
    if (BoreWork* bore = bore_of(f, insert.bore))
        bore->insert = {f.entry->sequence, insert};
}
void apply(Folding& f, const InsertFitted& fitted) {
    if (BoreWork* bore = bore_of(f, fitted.bore))
        bore->fitted = {f.entry->sequence, fitted};
}
void apply(Folding& f, const BoreStepDone& step) {
    if (BoreWork* bore = bore_of(f, step.bore))
        bore->steps.push_back({f.entry->sequence, step});
}
void apply(Folding& f, const TraceTaken& trace) {
    if (BoreWork* bore = bore_of(f, trace.bore))
        bore->traces.push_back({f.entry->sequence, trace});
}

void apply(Folding& f, const RoughnessRead& read) {
    if (BoreWork* bore = bore_of(f, read.bore))
        bore->roughness.push_back({f.entry->sequence, read});
}

void apply(Folding& f, const LifterPlanChosen& plan) {
    f.state.lifter_plan = {f.entry->sequence, plan};
}
void apply(Folding& f, const LifterDecided& decided) {
    if (BoreWork* bore = bore_of(f, decided.lifter))
        bore->lifter_decided = {f.entry->sequence, decided};
}

} // namespace

void fold_entry(Folding& f, CylinderKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}
void fold_entry(Folding& f, LifterKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

bool Folding::listed(const FeatureId& id) {
    if (state.blueprint && state.blueprint->lists(id))
        return true;
    trouble("speaks of " + id.text() + ", which the blueprint does not list");
    return false;
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
        if (cuts.empty() || pit.sequence < cuts.front().sequence)
            deepest = std::max(deepest, pit.payload.depth);
    return deepest;
}

const BoreWork& BoresState::bore(const FeatureId& id) const {
    static const BoreWork nothing_said;
    const auto found = bores.find(id);
    return found == bores.end() ? nothing_said : found->second;
}

bool BoresState::honed_last(const FeatureId& id) const {
    const BoreWork& work = bore(id);
    return !work.cuts.empty() && work.cuts.back().payload.operation == BoreOperation::hone;
}

} // namespace pallix::block
