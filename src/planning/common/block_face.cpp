// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/block_face.h"

#include "block/metal.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"

#include <algorithm>
#include <cmath>
#include <variant>

namespace pallix::planning {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;

namespace {

StageMark mark_of(metrology::Verdict verdict) {
    switch (verdict) {
    case metrology::Verdict::meets:
        return StageMark::meets;
    case metrology::Verdict::cannot_tell:
        return StageMark::cannot_tell;
    case metrology::Verdict::fails:
        break;
    }
    return StageMark::fails;
}

Face face_of_main(const JobState& state, const Assessment& a, const FeatureId& id) {
    Face face{id, StageMark::open, {}, 0};
    const auto& tunnel = tunnel_of(state);
    std::optional<metrology::Verdict> verdict;
    if (tunnel.latest && a.tunnel && !tunnel.latest->evaluation.mains.empty()) {
        const auto& mains = tunnel.latest->evaluation.mains;
        for (std::size_t i = 0; i < mains.size() && i < a.tunnel->mains.size(); ++i)
            if (mains[i].id == id) {
                verdict = verdict ? worse(*verdict, a.tunnel->mains[i].verdict) : a.tunnel->mains[i].verdict;
                face.what = FaceNumber::size;
                face.number = std::max(face.number, mains[i].diameter);
            }
        if (verdict && !tunnel.mains_as_probed())
            face.mark = StageMark::stale;
        else if (verdict)
            face.mark = mark_of(*verdict);
    }
    // What was read by gauge since is newer.
    const auto gauged = std::ranges::find(a.gauge.mains, id, &BoreFinding::id);
    if (gauged == a.gauge.mains.end() || gauged->sizes.empty() || (verdict && gauged->stale))
        return face;
    verdict = std::nullopt;
    face.number = 0;
    for (const SizeFinding& size : gauged->sizes) {
        verdict = verdict ? worse(*verdict, size.verdict) : size.verdict;
        face.number = std::max(face.number, size.place.value);
    }
    face.what = FaceNumber::size;
    face.mark = gauged->stale ? StageMark::stale : mark_of(*verdict);
    return face;
}

Face face_of_deck(const Assessment& a, const std::string& bank) {
    Face face{{FeatureKind::deck, bank, 0}, StageMark::open, {}, 0};
    const BankProgress* b = a.bank(bank);
    if (!b) {
        if (const FeelProgress* felt = a.feel(bank))
            face.mark = felt->verdict ? mark_of(*felt->verdict) : StageMark::current;
        return face;
    }
    constexpr double nothing = 5e-4; // mm, less cannot be dialled in
    if (b->remaining > nothing && !b->passes.empty()) {
        face.mark = StageMark::current;
        face.what = FaceNumber::left;
        face.number = b->remaining;
        return face;
    }
    face.mark = b->stale ? StageMark::stale : b->verdict ? mark_of(b->verdict->verdict) : StageMark::done;
    face.what = FaceNumber::height;
    face.number = b->plan.target;
    if (!b->stale && !b->corners.empty()) {
        face.number = b->corners.front().height;
        for (const CornerHeight& c : b->corners)
            face.number = std::min(face.number, c.height);
    }
    return face;
}

Face face_of_bore(const JobState& state, const Assessment& a, const FeatureId& id) {
    Face face{id, StageMark::open, {}, 0};
    if (!a.cylinders)
        return face;
    const CylinderWork& w = *a.cylinders;
    if (const CylinderNeed* need = w.study.bore(id)) {
        face.mark = StageMark::done; // measured, nothing judged yet
        face.what = FaceNumber::over;
        face.number = need->found.worn - need->found.nominal;
        if (need->thin() || (!need->cleans && !need->sleeved && !need->left_out))
            face.mark = StageMark::fails;
        const CommonSize* common = w.study.by(cylinder_plan_of(state).centre);
        face.decides = common && common->set_by == id && bores_of(state).cylinder_plan;
    }
    const bool begun = bores_of(state).cylinder_plan || bores_of(state).pistons || intake_of(state).scope ||
                       std::ranges::any_of(bores_of(state).bores_cut,
                                           [](const FeatureId& cut) { return cut.kind == FeatureKind::bore; });
    if (!begun)
        return face; // found, and nobody has asked for work on them
    const auto hole = std::ranges::find(w.boring.holes, id, &HoleProgress::id);
    if (hole != w.boring.holes.end() && hole->state != HoleState::finished) {
        face.mark = hole->state == HoleState::over         ? StageMark::fails
                    : hole->state == HoleState::unmeasured ? StageMark::stale
                                                           : StageMark::current;
        if (hole->size && hole->state != HoleState::unmeasured) {
            face.what = FaceNumber::left;
            face.number = hole->still();
        }
    }
    const auto hone = std::ranges::find(w.hone.bores, id, &HoneBore::id);
    const bool bored =
        hole != w.boring.holes.end() && (hole->state == HoleState::in || hole->state == HoleState::finished);
    if (hone == w.hone.bores.end() || !bored || hole->seat)
        return face;
    face.mark = StageMark::current;
    if (hone->measured) {
        face.what = FaceNumber::left;
        face.number = hone->most;
    }
    if (hone->honed && hone->measured && hone->most <= 0)
        face.mark = hone->verdict ? mark_of(*hone->verdict) : StageMark::cannot_tell;
    return face;
}

Face face_of_lifter(const Assessment& a, const FeatureId& id) {
    Face face{id, StageMark::open, {}, 0};
    const LifterNeed* need = a.lifters ? a.lifters->study.lifter(id) : nullptr;
    if (!need)
        return face;
    face.mark = StageMark::done;
    if (need->diameter) {
        face.what = FaceNumber::size;
        face.number = *need->diameter;
    }
    const auto progress = std::ranges::find(a.lifters->board.each, id, &LifterProgress::id);
    if (progress == a.lifters->board.each.end())
        return face;
    switch (progress->state) {
    case LifterState::left_alone:
        break;
    case LifterState::to_cut:
    case LifterState::to_press:
        face.mark = StageMark::current;
        break;
    case LifterState::near_limit:
        face.mark = StageMark::cannot_tell;
        break;
    case LifterState::to_measure:
    case LifterState::to_prove:
        face.mark = StageMark::stale;
        break;
    case LifterState::proven:
        face.mark = StageMark::meets;
        break;
    case LifterState::too_large:
    case LifterState::off_place:
    case LifterState::answered:
        face.mark = StageMark::fails;
        break;
    }
    return face;
}

} // namespace

std::vector<Face> faces_of(const JobState& state, const Assessment& a) {
    std::vector<Face> faces;
    const auto& blueprint = intake_of(state).blueprint;
    if (!blueprint)
        return faces;
    for (const block::MainBlueprint& main : blueprint->mains)
        faces.push_back(face_of_main(state, a, main.id));
    for (const block::BankBlueprint& bank : blueprint->banks)
        faces.push_back(face_of_deck(a, bank.id));
    for (const block::HoleBlueprint& bore : blueprint->bores)
        faces.push_back(face_of_bore(state, a, bore.id));
    for (const block::HoleBlueprint& lifter : blueprint->lifters)
        faces.push_back(face_of_lifter(a, lifter.id));
    if (const Step* now = a.steps.now(); now && now->about)
        for (Face& face : faces)
            face.decides = face.decides || face.id == now->about;
    return faces;
}

std::vector<block::Entry> entries_as_found(const std::vector<block::Entry>& entries) {
    const std::vector<bool> out = block::struck(entries);
    std::size_t end = 0;
    while (end < entries.size() && (out[end] || !block::takes_metal(entries[end].payload)))
        ++end;
    std::vector<block::Entry> found(entries.begin(), entries.begin() + static_cast<std::ptrdiff_t>(end));
    // What was struck later is not what was found; its strike stands behind the cut.
    std::vector<block::Entry> standing;
    for (std::size_t i = 0; i < found.size(); ++i)
        if (!out[i] && !std::holds_alternative<block::Strike>(found[i].payload))
            standing.push_back(std::move(found[i]));
    return standing;
}

} // namespace pallix::planning
