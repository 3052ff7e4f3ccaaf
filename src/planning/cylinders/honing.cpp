// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/honing.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/shop_limits.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <tuple>

namespace pallix::planning {
namespace {

using block::BoreOperation;
using block::FeatureId;
using block::JobState;
using metrology::Verdict;

constexpr double stock_rounding = 1e-6; // mm
constexpr std::array levels{"top", "middle", "bottom"};
constexpr std::array ways{"across", "along"};

double axial_per_stroke(const HoneMotion& m) {
    return m.stroke * (m.there_and_back ? 2 : 1);
}

std::optional<double> mean_of(const std::vector<HoneCell>& cells, const std::string& level, const std::string& way) {
    double sum = 0;
    int n = 0;
    for (const HoneCell& c : cells)
        if (c.size && (level.empty() || c.level == level) && (way.empty() || c.direction == way)) {
            sum += c.left;
            ++n;
        }
    return n > 0 ? std::optional(sum / n) : std::nullopt;
}

/// What stands out most: the middle against the ends, the ends against each other, or one way against the other.
void name_shape(HoneBore& b, double limit) {
    const auto top = mean_of(b.cells, "top", ""), middle = mean_of(b.cells, "middle", ""),
               bottom = mean_of(b.cells, "bottom", ""), across = mean_of(b.cells, "", "across"),
               along = mean_of(b.cells, "", "along");
    const auto offer = [&b, limit](BoreShape shape, double by, const char* dwell) {
        if (by > limit && by > b.shape_by) {
            b.shape = shape;
            b.shape_by = by;
            b.dwell = dwell;
        }
    };
    if (top && bottom) {
        offer(BoreShape::tight_top, *top - *bottom, "top");
        offer(BoreShape::tight_bottom, *bottom - *top, "bottom");
        if (middle) {
            offer(BoreShape::barrel, std::min(*top, *bottom) - *middle, "");
            offer(BoreShape::waist, *middle - std::max(*top, *bottom), "middle");
        }
    }
    if (across && along)
        offer(BoreShape::oval, std::abs(*across - *along), "");
}

/// Whether the last honing was rested off: a rest begun after it, or a block that needs none.
bool rested_since(const JobState& state, std::int64_t cut) {
    return intake_of(state).blueprint->material != block::Material::aluminium ||
           (bores_of(state).rest && bores_of(state).rest->sequence > cut);
}

bool is_brush(const block::HonePlanChosen::Step& step) {
    return step.abrasive == block::Abrasive::brush;
}

/// Stones go on until the bore is in size as surely as it was read, then comes the brush: it is counted in strokes, not
/// in size. A bore that has been brushed is honed again only where it is still too small, and then by the finest stone:
/// the brush takes nothing that counts.
/// @param last_grit of the hone; empty: not honed
void choose_step(HoneBore& b, const std::optional<double>& uncertainty, const block::HonePlanChosen& plan,
                 const std::string& last_grit) {
    const auto brush = std::ranges::find_if(plan.steps, is_brush);
    const bool has_brush = brush != plan.steps.end(), brushed = has_brush && last_grit == brush->grit;
    std::optional<std::size_t> stone, finest; // the coarsest that has more to take than it leaves, else the finest
    for (std::size_t i = plan.steps.size(); i-- > 0;)
        if (!is_brush(plan.steps[i])) {
            finest = finest.value_or(i);
            if (!stone || b.most > plan.steps[i].leaves + stock_rounding)
                stone = i;
        }
    b.beyond = std::min(2 * uncertainty.value_or(0), (b.sizes.finish_most - b.sizes.finish) / 4);
    const double to_the_brush = finest && has_brush && !brushed ? plan.steps[*finest].leaves : 0,
                 left = b.most + (brushed ? 0 : b.beyond);
    if (stone && left > to_the_brush + stock_rounding) {
        b.to_hone = true;
        b.step = stone;
    } else if (has_brush && !brushed && (b.most > stock_rounding || (b.honed && b.measured))) {
        b.to_hone = true;
        b.brush_due = b.honed && b.measured && b.most <= stock_rounding;
        b.step = static_cast<std::size_t>(brush - plan.steps.begin());
    }
}

/// A size read without the plate, or with the caps off, says nothing of the bore as it is honed.
bool as_it_is_honed(const JobState& state, const block::MeasuredPlace& p) {
    const block::Conditions &now = readings_of(state).conditions, &then = p.conditions;
    return (now.plate_on != true || then.plate_on == true) && then.caps_torqued != false;
}

/// @param with_plate also by what was read with a plate that is off now
HoneBore as_read(const JobState& state, const FeatureId& id, const BoreSizes& sizes, const block::HonePlanChosen& plan,
                 bool with_plate) {
    HoneBore b;
    b.id = id;
    b.sizes = sizes;
    const block::PistonsStated figures = pistons_of(state);
    bool any = false;
    b.measured = true;
    std::optional<double> uncertainty = 0.0;
    double smallest = 1e9, largest = 0;
    for (const char* level : levels)
        for (const char* way : ways) {
            HoneCell c{level, way, {}, 0};
            const auto* p = readings_of(state).place({id, block::Quantity::size, level, way, {}});
            if (p && !p->stale() && as_it_is_honed(state, *p) && (with_plate || p->conditions.plate_on != true)) {
                c.size = p->value;
                c.left = sizes.finish - p->value;
                b.most = any ? std::max(b.most, c.left) : c.left;
                b.least = any ? std::min(b.least, c.left) : c.left;
                smallest = std::min(smallest, p->value);
                largest = std::max(largest, p->value);
                any = true;
                const auto u = p->standard_uncertainty();
                uncertainty = u && uncertainty ? std::optional(std::max(*u, *uncertainty)) : std::nullopt;
            } else {
                b.measured = false;
            }
            b.cells.push_back(c);
        }
    const auto cuts = bores_of(state).bore(id).cuts_now();
    b.honed = !cuts.empty() && cuts.back().payload.operation == BoreOperation::hone;
    b.rested = !b.honed || rested_since(state, cuts.back().sequence);
    name_shape(b, figures.shape);
    if (!any)
        return b;
    choose_step(b, uncertainty, plan, b.honed ? cuts.back().payload.step : "");
    if (b.measured && b.honed) {
        const metrology::DecisionRule rule = rule_of(state);
        b.verdict = metrology::decide(smallest, uncertainty, {sizes.finish, std::nullopt}, rule);
        b.verdict = metrology::worse(*b.verdict,
                                     metrology::decide(largest, uncertainty, {std::nullopt, sizes.finish_most}, rule));
        const std::optional<double> u_shape =
            uncertainty ? std::optional(*uncertainty * std::numbers::sqrt2) : std::nullopt;
        b.verdict = metrology::worse(
            *b.verdict, metrology::decide(largest - smallest, u_shape, {std::nullopt, 2 * figures.shape}, rule));
    }
    return b;
}

/// What was read with the plate on stays true of a bore that is done, and says nothing of one that is to be honed
/// without.
HoneBore bore_of(const JobState& state, const FeatureId& id, const BoreSizes& sizes,
                 const block::HonePlanChosen& plan) {
    HoneBore b = as_read(state, id, sizes, plan, true);
    if (!b.to_hone || readings_of(state).conditions.plate_on != false)
        return b;
    HoneBore without = as_read(state, id, sizes, plan, false);
    if (!readings_of(state).plate_came_off)
        return without;
    const auto read = [](const HoneBore& x) { return std::ranges::count_if(x.cells, &HoneCell::is_read); };
    b.plate_off = read(without) < read(b);
    return b;
}

bool bored(const JobState& state, const FeatureId& id) {
    return !bores_of(state).bore(id).cuts_now().empty();
}

/// Along one bank before the block is rolled; grit by grit, the coarsest that a bore of it still needs first; each time
/// the bore that has cooled longest, at first every other one, so that none is honed beside one that is warm.
const HoneBore* next_to_hone(const HoneBoard& board, const JobState& state) {
    std::string under_way; // the bank honed last
    std::int64_t last = 0;
    for (const HoneBore& b : board.bores)
        if (const std::int64_t cut = b.honed ? bores_of(state).bore(b.id).last_cut() : 0; cut > last) {
            last = cut;
            under_way = b.id.bank;
        }
    const auto& banks = intake_of(state).blueprint->banks;
    const auto turn = [&](const HoneBore& b) {
        const auto bank = std::ranges::find(banks, b.id.bank, &block::BankBlueprint::id) - banks.begin();
        return std::tuple(b.id.bank != under_way, bank, b.step.value_or(0),
                          b.honed ? bores_of(state).bore(b.id).last_cut() : 0, b.id.number % 2 == 0, b.id.number);
    };
    const HoneBore* best = nullptr;
    for (const HoneBore& b : board.bores)
        if (bored(state, b.id) && (b.to_hone || !b.honed) && (!best || turn(b) < turn(*best)))
            best = &b;
    return best;
}

/// With plate and caps or, by decision, without the plate: it must be said before anything is honed.
bool plate_first(const HoneBoard& board, const JobState& state) {
    const block::Conditions& now = readings_of(state).conditions;
    const auto not_done = [&state](const HoneBore& b) {
        return bored(state, b.id) && (b.to_hone || !b.measured || !b.honed);
    };
    return !now.plate_on || !now.caps_torqued || (!*now.caps_torqued && std::ranges::any_of(board.bores, not_done)) ||
           std::ranges::any_of(board.bores, &HoneBore::plate_off);
}

void next_step(HoneBoard& board, const JobState& state) {
    const auto at = [&board](HoneStep step, const HoneBore& b) {
        board.step = step;
        board.bore = b.id;
    };
    bool begun = false;
    for (const HoneBore& b : board.bores) {
        if (!bored(state, b.id))
            continue;
        begun = true;
        if (b.measured && b.sizes.finish_most - (b.sizes.finish - b.least) < 0)
            return at(HoneStep::too_large, b);
    }
    if (!begun)
        return;
    if (plate_first(board, state)) {
        board.step = HoneStep::put_plate_on;
        return;
    }
    for (const HoneBore& b : board.bores)
        if (bored(state, b.id) && !b.measured)
            return at(b.honed && bores_of(state).rest &&
                              bores_of(state).rest->sequence > bores_of(state).bore(b.id).last_cut()
                          ? HoneStep::check_again
                          : HoneStep::measure,
                      b);
    if (const HoneBore* b = next_to_hone(board, state))
        return at(HoneStep::hone, *b);
    for (const HoneBore& b : board.bores)
        if (b.honed && !b.rested)
            return at(HoneStep::rest, b);
    for (const HoneBore& b : board.bores) {
        if (!bored(state, b.id))
            continue;
        for (const std::string& step : bore_steps())
            if (std::ranges::none_of(bores_of(state).bore(b.id).steps, [&](const auto& s) {
                    return s.payload.step == step && s.sequence > dressed_after(state, b.id, step);
                }))
                board.steps_left.push_back(step);
        if (!board.steps_left.empty())
            return at(HoneStep::dress, b);
    }
    board.step = HoneStep::done;
}

} // namespace

double cross_hatch(const HoneMotion& m) {
    const double surface = std::numbers::pi * m.bore * m.speed;
    return 2 * std::atan2(axial_per_stroke(m) * m.rate, surface);
}

double rate_for_cross_hatch(const HoneMotion& m, double angle) {
    return std::tan(angle / 2) * std::numbers::pi * m.bore * m.speed / axial_per_stroke(m);
}

HatchSeen hatch_seen(const HoneMotion& m, double seen) {
    HatchSeen h{seen, cross_hatch(m), 0, false};
    h.rate = m.rate * std::tan(h.meant / 2) / std::tan(seen / 2);
    HoneMotion other = m;
    other.there_and_back = !m.there_and_back;
    h.counted_twice = h.off() && std::abs(cross_hatch(other) - seen) <= hatch_read_within;
    return h;
}

bool HatchSeen::off() const {
    return std::abs(seen - meant) > hatch_read_within;
}

block::HonePlanChosen usual_hone_plan(block::Abrasive abrasive, double bore) {
    using enum block::Abrasive;
    block::HonePlanChosen plan;
    if (abrasive == diamond)
        plan.steps = {{"170 diamond", diamond, 0.030},
                      {"325 diamond", diamond, 0.012},
                      {"600 diamond", diamond, 0.002},
                      {"brush", brush, 0}};
    else
        plan.steps = {{"150 stone", vitrified, 0.040},
                      {"220 stone", vitrified, 0.015},
                      {"400 stone", vitrified, 0.003},
                      {"brush", brush, 0}};
    plan.speed = std::round(170 * 100 / bore);
    plan.stroke = 100;
    plan.rate = 60;
    return plan;
}

block::HonePlanChosen hone_plan_of(const JobState& state) {
    if (bores_of(state).hone_plan)
        return bores_of(state).hone_plan->payload;
    const bool any = intake_of(state).blueprint && !intake_of(state).blueprint->bores.empty();
    return usual_hone_plan(block::Abrasive::vitrified,
                           any ? intake_of(state).blueprint->bores.front().diameter.nominal : 100);
}

namespace {

/// How many strokes, at what load; and what is left where nobody has measured since the last go.
void foresee_strokes(HoneBore& b, const JobState& state, const block::HonePlanChosen& plan,
                     const std::map<std::string, HoneRate>& rates) {
    const auto cuts = bores_of(state).bore(b.id).cuts_now();
    const block::BoreCut* last = b.honed ? &cuts.back().payload : nullptr;
    if (last && last->load)
        b.load = b.measured && b.shape == BoreShape::barrel ? 0.8 * *last->load : *last->load;
    const std::int64_t planned = bores_of(state).hone_plan ? bores_of(state).hone_plan->sequence : 0;
    for (const auto& cut : cuts)
        if (cut.payload.hatch && cut.sequence > planned) // of the speed and rate that are planned now
            b.hatch = hatch_seen({b.sizes.finish, plan.speed, plan.stroke, plan.rate, plan.there_and_back},
                                 *cut.payload.hatch);
    if (b.step && b.measured)
        if (const auto rate = rates.find(plan.steps[*b.step].grit); rate != rates.end()) {
            b.rate = rate->second;
            const auto brush = std::ranges::find_if(plan.steps, is_brush);
            const bool brushed =
                last && brush != plan.steps.end() && last->step == brush->grit; // nothing is left for it
            b.strokes = strokes_for(*b.rate, b.most + b.beyond - (brushed ? 0 : plan.steps[*b.step].leaves), b.load);
        }
    const bool unread = std::ranges::none_of(b.cells, [](const HoneCell& c) { return c.size.has_value(); });
    if (const auto size = last && unread ? size_by_rate(state, b.id, rates) : std::nullopt)
        b.estimate = b.sizes.finish - *size;
}

} // namespace

HoneBoard hone_board(const JobState& state, const CylinderStudy& study) {
    const std::map<std::string, HoneRate> rates = hone_rates(state);
    constexpr double usual_rest = 40; // min
    HoneBoard board;
    board.aluminium = intake_of(state).blueprint->material == block::Material::aluminium;
    board.rest_minutes = board.aluminium ? usual_rest : 0;
    const block::HonePlanChosen plan = hone_plan_of(state);
    for (const CylinderNeed& n : study.each) {
        if (n.left_out)
            continue;
        const auto sizes = bore_sizes(state, n.found.id, study.oversize);
        if (!sizes || sizes->seat)
            continue; // a seat is bored, not honed
        board.bores.push_back(bore_of(state, n.found.id, *sizes, plan));
        foresee_strokes(board.bores.back(), state, plan, rates);
        const HoneBore& b = board.bores.back();
        if (b.honed && bores_of(state).rest && bores_of(state).rest->sequence > bores_of(state).bore(b.id).last_cut() &&
            !b.measured)
            board.again.push_back(b.id);
    }
    const auto seen = [&board](bool off) {
        return std::ranges::any_of(board.bores, [off](const HoneBore& b) { return b.hatch && b.hatch->off() == off; });
    };
    board.hatch_wanted = seen(true) || !seen(false);
    next_step(board, state);
    return board;
}

std::int64_t dressed_after(const JobState& state, const FeatureId& bore, std::string_view step) {
    std::int64_t cut = bores_of(state).bore(bore).last_cut();
    if (step == bore_steps().front())
        cut = std::max(cut, decks_of(state).deck(bore.bank).last_cut());
    return cut;
}

std::vector<std::string> bore_steps() {
    return {"chamfer, top", "chamfer, bottom", "deburred, oil holes clear"};
}

} // namespace pallix::planning
