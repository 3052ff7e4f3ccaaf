// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/boring.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "metrology/decision.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/press_fit.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::planning {
namespace {

using block::BoreCut;
using block::BoreOperation;
using block::FeatureId;
using block::JobState;
using block::Taken;

/// The last go of a tool through a bore since an insert went in; null for none.
const Taken<BoreCut>* last_of(const std::vector<Taken<BoreCut>>& cuts) {
    return cuts.empty() ? nullptr : &cuts.back();
}

/// A rough cut with what came of it.
struct Bored {
    FeatureId id;
    std::int64_t sequence = 0;
    bool new_edge = false;
    double meant = 0; ///< setting, else target
    std::optional<double> size;
};

/// Readings of a bore between two entries, as one size.
std::optional<double> size_between(const JobState& state, const FeatureId& id, std::int64_t after,
                                   std::int64_t before) {
    double sum = 0;
    int n = 0;
    for (const block::TakenReading& r : readings_of(state).readings)
        if (r.reading.at.feature == id && r.reading.at.quantity == block::Quantity::size && r.sequence > after &&
            r.sequence < before) {
            sum += r.value;
            ++n;
        }
    return n > 0 ? std::optional(sum / n) : std::nullopt;
}

/// All rough cuts of the holes in their order, each with the size read before the hole was cut again.
std::vector<Bored> bored_so_far(const JobState& state, const std::vector<HoleProgress>& holes) {
    constexpr std::int64_t end = std::numeric_limits<std::int64_t>::max();
    std::vector<Bored> all;
    for (const HoleProgress& h : holes) {
        const auto& cuts = bores_of(state).bore(h.id).cuts;
        for (std::size_t i = 0; i < cuts.size(); ++i) {
            const BoreCut& c = cuts[i].payload;
            const auto meant = c.setting ? c.setting : c.target;
            if (c.operation != BoreOperation::rough || !meant)
                continue;
            all.push_back(
                {h.id, cuts[i].sequence, c.new_edge, *meant,
                 size_between(state, h.id, cuts[i].sequence, i + 1 < cuts.size() ? cuts[i + 1].sequence : end)});
        }
    }
    std::ranges::sort(all, {}, &Bored::sequence);
    return all;
}

bool edge_seen_since(const JobState& state, const FeatureId& id, std::int64_t sequence) {
    return std::ranges::any_of(bores_of(state).bore(id).steps, [&](const auto& s) {
        return s.sequence > sequence && s.payload.step == edge_looked_at;
    });
}

/// What the tool meets first: the bore as found, or the sleeve's own bore.
double size_to_start_from(const JobState& state, const CylinderNeed& need) {
    const block::BoreWork& work = bores_of(state).bore(need.found.id);
    return work.fitted && work.insert ? work.insert->payload.inside : need.found.worn;
}

/// The window of a seat: no wider than the sleeve's interference bears. Half of it is the least that holds (common
/// practice, no source), the most is the shop's.
void narrow_to_sleeve(HoleProgress& h, const block::InsertMeasured& sleeve) {
    h.most = std::min(h.most, h.target + sleeve.interference / 2);
    if (sleeve.interference_most)
        h.least = std::max(h.least, h.target + sleeve.interference - *sleeve.interference_most);
}

/// In or out with the guard band; once every place was read twice, more with the same gauge tell no more than its mean.
HoleState judged(const BoredSize& now, const HoleProgress& h, const metrology::DecisionRule& rule) {
    constexpr std::size_t enough = 2;
    if (now.uncertainty && now.least_read < enough &&
        metrology::decide(now.size, now.uncertainty, {h.least, h.most}, rule) == metrology::Verdict::cannot_tell)
        return HoleState::doubtful;
    constexpr double rounding = 1e-9; // mm
    return now.size > h.most + rounding    ? HoleState::over
           : now.size < h.least - rounding ? HoleState::under
                                           : HoleState::in;
}

HoleProgress progress_of(const JobState& state, const FeatureId& id, const BoreSizes& sizes,
                         const block::PistonsStated& figures, double as_found) {
    HoleProgress h;
    h.id = id;
    h.seat = sizes.seat.has_value();
    h.target = sizes.seat.value_or(sizes.rough);
    h.least = h.target - figures.tolerance;
    h.most = h.target + figures.tolerance;
    const block::BoreWork& work = bores_of(state).bore(id);
    if (h.seat)
        narrow_to_sleeve(h, work.insert->payload);
    const auto cuts = work.cuts_now();
    const Taken<BoreCut>* last = last_of(cuts);
    if (last && h.seat && last->sequence < work.decided->sequence)
        last = nullptr; // what was done before it was to be sleeved
    const auto now = size_now(state, id);
    if (!last) {
        h.size = now ? now->size : as_found;
        h.cuts = cuts_to(*h.size, h.target, figures.largest_cut);
        return h;
    }
    h.set = last->payload.setting;
    if (last->payload.operation == BoreOperation::hone) {
        h.state = HoleState::finished;
        return h;
    }
    if (!now) {
        h.state = HoleState::unmeasured;
        return h;
    }
    h.size = now->size;
    if (const auto meant = last->payload.setting ? last->payload.setting : last->payload.target)
        h.surplus = now->size - *meant;
    h.state = judged(*now, h, rule_of(state));
    if (h.state == HoleState::under)
        h.cuts = cuts_to(now->size, h.target, figures.largest_cut);
    return h;
}

/// Tool setting for a cut to `to`, from what the last measured hole told of the tool.
std::optional<double> next_setting(const std::vector<Bored>& bored, double to) {
    for (auto b = bored.rbegin(); b != bored.rend(); ++b) {
        if (b->size)
            return to - (*b->size - b->meant);
        if (b->new_edge)
            break;
    }
    return to;
}

constexpr double other_setting = 0.25; // mm: set that differently, the tool is not the same tool

/// A hole that came out off the one before it at the same edge and nearly the same setting.
bool find_edge_trouble(BoringBoard& board, const JobState& state, const std::vector<Bored>& bored, double tolerance) {
    const Bored* before = nullptr;
    for (const Bored& b : bored) {
        if (b.new_edge)
            before = nullptr;
        if (!b.size)
            continue;
        if (before && std::abs(b.meant - before->meant) < other_setting) {
            const double off = (*b.size - b.meant) - (*before->size - before->meant);
            const bool changed_since = std::ranges::any_of(
                bored, [&b](const Bored& later) { return later.new_edge && later.sequence > b.sequence; });
            if (std::abs(off) > tolerance && !changed_since && !edge_seen_since(state, b.id, b.sequence)) {
                board.step = BoringStep::look_at_edge;
                board.hole = b.id;
                board.before = before->id;
                board.by = off;
                return true;
            }
        }
        before = &b;
    }
    return false;
}

/// The last against the first: an edge that went in between, or a block that got warm.
void compare_ends(BoringBoard& board, const JobState& state, const std::vector<Bored>& bored, double tolerance) {
    board.step = BoringStep::done;
    if (std::ranges::any_of(board.holes, [](const HoleProgress& h) { return h.state == HoleState::finished; }))
        return; // the hone has begun: what the bar left is no longer there
    std::vector<FeatureId> order;
    for (const Bored& b : bored)
        if (std::ranges::find(order, b.id) == order.end())
            order.push_back(b.id);
    if (order.size() < 2)
        return;
    const FeatureId first = order.front(), last = order.back();
    const auto& cuts_of_first = bores_of(state).bore(first).cuts;
    const std::int64_t own = cuts_of_first.back().sequence, end = bored.back().sequence;
    const auto then = size_between(state, first, own, end);
    const auto again = size_between(state, first, end, std::numeric_limits<std::int64_t>::max());
    if (!again) {
        board.step = BoringStep::measure_first;
        board.hole = first;
        return;
    }
    const auto surplus_of = [&bored](const FeatureId& id) -> std::optional<double> {
        for (auto b = bored.rbegin(); b != bored.rend(); ++b)
            if (b->id == id && b->size)
                return *b->size - b->meant;
        return std::nullopt;
    };
    const double warmed = then ? *again - *then : 0;
    const auto s_first = surplus_of(first), s_last = surplus_of(last);
    const bool fresh_edge = std::ranges::any_of(bored, [&](const Bored& b) { return b.new_edge && b.id != first; });
    const double worn = s_first && s_last && !fresh_edge ? *s_last - *s_first : 0;
    const double off = std::abs(warmed) > std::abs(worn) ? warmed : worn;
    if (std::abs(off) <= tolerance)
        return;
    for (std::size_t i = 1; i + 1 < order.size(); ++i)
        if (!size_between(state, order[i], end, std::numeric_limits<std::int64_t>::max()))
            board.again.push_back(order[i]);
    if (board.again.empty())
        return;
    board.step = BoringStep::measure_between;
    board.hole = board.again.front();
    board.before = first;
    board.by = off;
}

/// The first hole of all that is no seat, alone, in size, and nobody has said whether it is clean.
const HoleProgress* trial_to_judge(const JobState& state, const std::vector<HoleProgress>& holes) {
    const HoleProgress* trial = nullptr;
    std::size_t others = 0;
    for (const HoleProgress& h : holes) {
        if (h.seat)
            continue;
        if (h.state == HoleState::open)
            ++others;
        else if (h.state != HoleState::in || trial)
            return nullptr;
        else
            trial = &h;
    }
    if (!trial || others == 0)
        return nullptr;
    const block::BoreWork& work = bores_of(state).bore(trial->id);
    const bool judged = std::ranges::any_of(
        work.steps, [&](const auto& s) { return s.sequence > work.last_cut() && s.payload.step == trial_judged; });
    return judged ? nullptr : trial;
}

} // namespace

bool trial_undecided(const JobState& state, const FoundCylinder& found) {
    const block::BoreWork& work = bores_of(state).bore(found.id);
    if (found.pitted_to == 0 || work.cuts.empty() || work.pits.empty())
        return false;
    const double meant = work.cuts.back().payload.target.value_or(0) + pistons_of(state).hone_stock;
    const std::int64_t seen = work.pits.back().sequence;
    return seen > work.last_cut() && work.cuts.back().payload.operation == BoreOperation::rough &&
           found.pitted_to > meant && !(work.decided && work.decided->sequence > seen);
}

double usual_clearance(block::PistonAlloy alloy, double bore) {
    constexpr double four_inches = 101.6, thou = 0.0254;
    const double at_four = alloy == block::PistonAlloy::cast                  ? 2 * thou
                           : alloy == block::PistonAlloy::high_silicon_forged ? 3 * thou
                                                                              : 4.5 * thou;
    return at_four * bore / four_inches;
}

block::PistonsStated pistons_of(const JobState& state) {
    return bores_of(state).pistons ? bores_of(state).pistons->payload : block::PistonsStated{};
}

std::optional<BoreSizes> bore_sizes(const JobState& state, const FeatureId& id, const std::optional<double>& oversize) {
    const block::HoleBlueprint& meant = *intake_of(state).blueprint->hole(id);
    const block::PistonsStated p = pistons_of(state);
    BoreSizes s;
    const auto own = p.sizes.find(id);
    s.piston = own != p.sizes.end() ? std::optional(own->second) : p.size;
    const block::BoreWork& work = bores_of(state).bore(id);
    const bool sleeved = work.decided && work.decided->payload.choice == block::BoreChoice::sleeve;
    s.clearance = p.clearance.value_or(usual_clearance(p.alloy, meant.diameter.nominal));
    if (s.piston)
        s.finish = *s.piston + s.clearance;
    else if (oversize)
        s.finish = meant.diameter.nominal + *oversize;
    else if (!sleeved)
        return std::nullopt;
    else
        s.finish = meant.diameter.nominal;
    s.finish_most = s.finish + p.finish_tolerance;
    s.rough = s.finish - p.hone_stock;
    if (sleeved && work.insert && (!work.fitted || work.fitted->sequence < work.insert->sequence))
        s.seat = insert_shape(work.insert->payload.outside, work.insert->payload.interference).mean -
                 work.insert->payload.interference;
    return s;
}

std::vector<double> cuts_to(double from, double to, double largest) {
    constexpr double hardly_any = 1e-6;
    std::vector<double> sizes;
    const double all = to - from;
    if (all <= hardly_any || largest <= 0)
        return sizes;
    const auto n = static_cast<int>(std::ceil(all / largest - hardly_any));
    for (int i = 1; i <= n; ++i)
        sizes.push_back(i == n ? to : from + all * i / n);
    return sizes;
}

std::optional<BoredSize> size_now(const JobState& state, const FeatureId& id) {
    BoredSize b;
    int n = 0;
    bool known = true;
    for (const block::MeasuredPlace& p : readings_of(state).places) {
        if (p.at.feature != id || p.at.quantity != block::Quantity::size || p.stale())
            continue;
        b.size += p.value;
        ++n;
        const auto u = p.standard_uncertainty();
        known = known && u;
        if (u)
            b.uncertainty = std::max(b.uncertainty.value_or(0), *u);
        b.least_read = n == 1 ? p.count : std::min(b.least_read, p.count);
        b.sequence = std::max(b.sequence, p.sequences.back());
    }
    if (n == 0)
        return std::nullopt;
    b.size /= n;
    if (!known)
        b.uncertainty.reset();
    return b;
}

BoringBoard boring_board(const JobState& state, const CylinderStudy& study) {
    BoringBoard board;
    const block::PistonsStated figures = pistons_of(state);
    for (const FeatureId& id : study.order)
        if (const auto sizes = bore_sizes(state, id, study.oversize))
            board.holes.push_back(progress_of(state, id, *sizes, figures, size_to_start_from(state, *study.bore(id))));
    if (study.order.empty()) // all were decided on to be left
        board.step = BoringStep::done;
    if (board.holes.empty())
        return board;
    const auto first_with = [&board](HoleState s) {
        const auto it = std::ranges::find(board.holes, s, &HoleProgress::state);
        return it == board.holes.end() ? nullptr : &*it;
    };
    const std::vector<Bored> bored = bored_so_far(state, board.holes);
    const HoleProgress* open = first_with(HoleState::open);
    // The first of an edge is measured before the next in any case, and so is the last of all.
    const bool first_of_edge = std::ranges::none_of(bored, [](const Bored& b) { return b.size.has_value(); }) ||
                               (!bored.empty() && bored.back().new_edge);
    if (const auto* h = first_with(HoleState::unmeasured); h && (figures.measure_each || first_of_edge || !open)) {
        board.step = BoringStep::measure;
        board.hole = h->id;
        return board;
    }
    if (const auto* h = first_with(HoleState::doubtful)) {
        board.step = BoringStep::read_again;
        board.hole = h->id;
        return board;
    }
    if (find_edge_trouble(board, state, bored, figures.tolerance))
        return board;
    for (const HoleProgress& h : board.holes) {
        if (h.state != HoleState::over)
            continue;
        const auto& decided = bores_of(state).bore(h.id).decided;
        if (decided && decided->sequence > bores_of(state).bore(h.id).last_cut())
            continue; // seen, and gone on from
        board.step = BoringStep::over;
        board.hole = h.id;
        board.by = -h.still();
        return board;
    }
    const auto cut = [&](const HoleProgress& h, BoringStep step) {
        board.step = step;
        board.hole = h.id;
        board.by = h.still();
        board.to = h.cuts.empty() ? h.target : h.cuts.front();
        board.set = next_setting(bored, *board.to);
    };
    const HoleProgress* trial = trial_to_judge(state, board.holes);
    if (trial) {
        board.step = BoringStep::judge_trial;
        board.hole = trial->id;
    } else if (const auto* h = first_with(HoleState::under))
        cut(*h, BoringStep::cut_again);
    else if (open)
        cut(*open, BoringStep::bore);
    else if (std::ranges::all_of(board.holes, [](const auto& hole) { return hole.state == HoleState::finished; }) ||
             bored.empty())
        board.step = BoringStep::done;
    else
        compare_ends(board, state, bored, figures.tolerance);
    return board;
}

} // namespace pallix::planning
