// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/head_work.h"

#include "block/evaluation.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/shop_limits.h"
#include "planning/decks/compression.h"
#include "planning/decks/deck_shape.h"
#include "planning/decks/deck_targets.h"
#include "planning/decks/deck_verdict.h"
#include "planning/decks/deck_work.h"
#include "planning/readings/reading_plan.h"

#include <algorithm>
#include <numbers>

namespace pallix::planning {

using block::JobState;
using block::MeasuredAt;
using block::MeasuredPlace;
using block::Quantity;
using metrology::Verdict;

namespace {

std::int64_t newest_of(const JobState& state, const std::string& bank, Quantity quantity) {
    std::int64_t newest = 0;
    for (const MeasuredPlace& p : readings_of(state).places)
        if (p.at.quantity == quantity && p.at.feature.bank == bank)
            newest = std::max(newest, p.sequences.back());
    return newest;
}

/// Those of the shop's places that are not read, or no longer hold.
std::vector<MeasuredAt> unread(const JobState& state, Measuring what, const std::string& bank) {
    std::vector<MeasuredAt> places = chosen_places(state, what, bank);
    std::erase_if(places, [&state](const MeasuredAt& at) {
        const MeasuredPlace* read = readings_of(state).place(at);
        return read && !read->stale();
    });
    return places;
}

void take_points(HeadProgress& p, const JobState& state) {
    double widest = 0;
    bool stated = true;
    for (const MeasuredPlace& read : readings_of(state).places) {
        if (read.at.quantity != Quantity::head_height || read.at.feature.bank != p.bank || read.stale())
            continue;
        p.points.push_back({read.at.place.x, read.at.place.y, read.value});
        const auto u = read.standard_uncertainty();
        stated = stated && u;
        widest = std::max(widest, u.value_or(0));
    }
    p.uncertainty = stated && !p.points.empty() ? std::optional(widest) : std::nullopt;
}

/// A zone is the difference of two heights: √2 of the uncertainty of one.
Verdict judge_heights(const HeadProgress& p, const JobState& state, double limit) {
    const auto u = p.uncertainty ? std::optional(std::numbers::sqrt2 * *p.uncertainty) : std::nullopt;
    return metrology::decide_extreme(*p.flatness, u,
                                     2 * metrology::noise_in_extreme(p.uncertainty.value_or(0), p.points.size()),
                                     {std::nullopt, limit}, rule_of(limits_of(state)));
}

/// By heights where they cover the face; what the straightedge says of it goes with them.
std::optional<Verdict> judge(const HeadProgress& p, const JobState& state, const block::BankBlueprint& bank) {
    const auto felt = felt_flat(state, bank, true);
    if (felt == Verdict::fails || !p.flatness)
        return felt;
    const Verdict read = judge_heights(p, state, flatness_limit(limits_of(state), bank));
    if (read == Verdict::meets && !felt && !shows_all_of(bank, p.points))
        return Verdict::cannot_tell;
    return read;
}

/// Passes until it is clean, one finishing cut, spring passes until the lines are gone.
std::vector<Pass> passes_of(const HeadProgress& p, const block::DeckState& face, const block::PassPlanChosen& chosen) {
    if (!p.cut)
        return p.to_clean ? plan_passes(*p.to_clean + chosen.finish, chosen, true)
                          : std::vector<Pass>{{block::PassKind::witness, chosen.witness}};
    if (!p.clean)
        return {{block::PassKind::pass, chosen.pass}};
    if (!p.finished && chosen.finish >= least_infeed)
        return {{block::PassKind::finish, chosen.finish}};
    return std::vector<Pass>(static_cast<std::size_t>(springs_left(face, chosen.spring_passes)),
                             {block::PassKind::spring, 0});
}

} // namespace

std::int64_t head_touched(const JobState& state, const std::string& bank) {
    return std::max({newest_of(state, bank, Quantity::head_gap), newest_of(state, bank, Quantity::head_height),
                     decks_of(state).face(bank).last_cut()});
}

std::optional<HeadProgress> head_progress(const JobState& state, const block::BankBlueprint& bank,
                                          const block::PassPlanChosen& chosen) {
    if (head_touched(state, bank.id) == 0)
        return std::nullopt;
    const block::DeckState& face = decks_of(state).face(bank.id);
    HeadProgress p;
    p.bank = bank.id;
    p.lines = compare_edges(state, bank.id, nullptr, Quantity::head_gap);
    take_points(p, state);
    p.taken = head_state(state, bank.id).cut;
    p.cut = !face.cuts.empty();
    p.clean = face.marked_clean();
    p.finished = finished(face) || (p.clean && chosen.finish < least_infeed);

    const bool by_heights =
        newest_of(state, bank.id, Quantity::head_height) > newest_of(state, bank.id, Quantity::head_gap);
    const Measuring way = by_heights ? Measuring::head_heights : Measuring::head_feelers;
    std::vector<MeasuredAt> missing = unread(state, way, bank.id);
    if (p.points.size() >= 3 && unread(state, Measuring::head_heights, bank.id).empty())
        if (const auto face_now = block::evaluate_deck(bank, p.points))
            p.flatness = face_now->flatness_mz;
    p.flat = judge(p, state, bank);

    // Once it is cut the table has made it level; before, its corners say how it lies. What is flat is not set up.
    const SetUpLie lie = set_up_lie(state, set_up_of(state, bank.id, true));
    if (!p.cut && by_heights && p.flat != Verdict::meets && lie.to_mend()) {
        p.level = lie;
        return p;
    }
    if (!p.cut && p.flatness) {
        const auto [low, high] = std::ranges::minmax(p.points, {}, &metrology::Vec3::z);
        p.to_clean = high.z - low.z;
    }
    const std::vector<Pass> passes = passes_of(p, face, chosen);
    if (p.cut && !passes.empty()) {
        p.passes = passes;
    } else if (p.flat == Verdict::fails) {
        p.passes = p.cut ? std::vector<Pass>{{block::PassKind::pass, chosen.pass}} : passes;
    } else if (p.flat != Verdict::meets) {
        // Heights too few to say flat, or too near: the straightedge says it.
        p.to_read = missing.empty() ? unread(state, Measuring::head_feelers, bank.id) : std::move(missing);
    }
    return p;
}

} // namespace pallix::planning
