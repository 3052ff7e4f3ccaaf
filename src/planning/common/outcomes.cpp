// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/outcomes.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/coordinates.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/boring.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::planning {

void Span::take(double value) {
    least = std::min(least, value);
    most = std::max(most, value);
}

namespace {

using block::JobState;
using metrology::Verdict;

void add(std::optional<Span>& span, double value) {
    if (span)
        span->take(value);
    else
        span = Span{value, value};
}

void join(std::optional<Verdict>& all, Verdict verdict) {
    all = all ? metrology::worse(*all, verdict) : verdict;
}

Span one(double value) {
    return {value, value};
}

class Lines {
  public:
    Lines(const JobState& state, const Assessment& a)
        : state_(state), a_(a), b_(*intake_of(state).blueprint), limits_(limits_of(state)) {}

    std::vector<Outcome> all() {
        tunnel();
        for (const block::BankBlueprint& bank : b_.banks)
            deck(bank);
        for (const block::BankBlueprint& bank : b_.banks)
            cylinders(bank);
        lifters();
        return std::move(out_);
    }

  private:
    void keep(Outcome o) {
        if (o.found || o.left)
            out_.push_back(std::move(o));
    }

    void tunnel() {
        const block::TunnelState& t = tunnel_of(state_);
        const std::int64_t work = t.last_work_on_mains();
        const bool by_probe = t.as_found.has_value();
        const bool before = by_probe && (work == 0 || t.as_found->mains_sequence() < first_work());
        const bool stands = by_probe && t.mains_as_probed();
        const bool after = stands && work > 0 && t.latest->mains_sequence() > work;
        const auto u = stands ? t.latest->mains_uncertainty() : std::nullopt;
        Outcome line{Told::tunnel_line, "", {}, {}, work > 0, u, {{}, limits_.straightness}, {}};
        Outcome size{Told::main_size, "", {}, {}, work > 0, u, {}, {}};
        Outcome cam{Told::cam_distance, "", {}, {}, work > 0, {}, {}, {}};
        const auto take = [&](const block::Evaluation& e, std::optional<Span> Outcome::*of) {
            line.*of = one(e.tunnel.straightness_lsq);
            for (const block::MainResult& main : e.mains)
                add(size.*of, main.diameter);
            if (e.cam)
                cam.*of = one(e.cam->distance_error);
        };
        if (before)
            take(t.as_found->evaluation, &Outcome::found);
        if (after)
            take(t.latest->evaluation, &Outcome::left);
        if (stands && a_.tunnel && (work == 0 || after)) {
            line.verdict = a_.tunnel->straightness;
            (after ? line.left : line.found) = one(a_.tunnel->straightness_value);
            for (const MainVerdict& main : a_.tunnel->mains)
                join(size.verdict, main.size);
        }
        if (!by_probe || (work > 0 && !after)) {
            mains_by_gauge(size, !by_probe);
            saddles_by_gauge(line);
        }
        const auto& meant = b_.mains.front().diameter;
        size.limits = {meant.smallest(), meant.largest()};
        if (!meant.whole())
            size.verdict.reset();
        const auto& latest = t.latest;
        if (stands && latest->propagated && latest->standard_uncertainty && latest->evaluation.cam)
            cam.uncertainty = latest->propagated->of("cam.distance", *latest->standard_uncertainty);
        line.uncertainty.reset(); // of an extreme no one number is true: its verdict takes it in
        keep(std::move(line));
        keep(std::move(size));
        keep(std::move(cam));
    }
    [[nodiscard]] std::int64_t first_work() const {
        const block::TunnelState& t = tunnel_of(state_);
        std::int64_t first = std::numeric_limits<std::int64_t>::max();
        if (!t.caps_cut.empty())
            first = t.caps_cut.front().sequence;
        if (!t.tunnel_passes.empty())
            first = std::min(first, t.tunnel_passes.front().sequence);
        return first;
    }
    /// As the hand has them since they were worked on, or where no probe was there.
    /// @param found_too no log says how they were found
    void mains_by_gauge(Outcome& size, bool found_too) const {
        for (const block::TakenReading& r : readings_of(state_).readings)
            if (found_too && r.reading.at.feature.kind == block::FeatureKind::main &&
                r.reading.at.quantity == block::Quantity::size && r.sequence < first_work())
                add(size.found, r.value);
        for (const BoreFinding& main : a_.gauge.mains) {
            if (main.stale)
                continue;
            if (size.worked)
                for (const SizeFinding& one_size : main.sizes)
                    add(size.left, one_size.place.value);
            join(size.verdict, main.verdict);
            size.uncertainty = main.sizes.front().place.standard_uncertainty();
        }
        if (size.worked && !size.left)
            size.verdict.reset();
    }

    void saddles_by_gauge(Outcome& line) const {
        const auto& saddles = a_.gauge.saddles;
        if (!saddles || !saddles->missing.empty())
            return;
        (line.worked ? line.left : line.found) = one(saddles->straightness);
        line.verdict = saddles->verdict;
    }

    void deck(const block::BankBlueprint& bank) {
        const block::DeckState& d = decks_of(state_).deck(bank.id);
        const bool worked = d.last_cut() > 0;
        const bool proven = worked && d.latest && !d.stale() && !d.from_other_tunnel() && !d.flushed_since();
        const BankProgress* progress = a_.bank(bank.id);
        const block::DeckMeasurement* now = proven ? &*d.latest : nullptr;
        const block::DeckMeasurement* measured = now ? now : d.as_found ? &*d.as_found : nullptr;
        const std::optional<double> u = measured ? measured->standard_uncertainty : std::nullopt;
        Outcome height{Told::deck_height,
                       bank.id,
                       {},
                       {},
                       worked,
                       u,
                       {bank.deck_height.smallest(), bank.deck_height.largest()},
                       {}};
        Outcome flat{Told::deck_flatness, bank.id, {}, {}, worked, {}, {{}, flatness_limit(limits_, bank)}, {}};
        if (d.as_found) {
            height.found = {d.as_found->result.height_min, d.as_found->result.height_max};
            flat.found = one(d.as_found->result.flatness_mz);
        }
        if (now) {
            height.left = {now->result.height_min, now->result.height_max};
            flat.left = one(now->result.flatness_mz);
        }
        if (progress && progress->verdict && (proven || !worked)) {
            for (const CheckKind kind : {CheckKind::lowest_height, CheckKind::highest_height})
                if (const DeckCheck* check = progress->verdict->check(kind))
                    join(height.verdict, check->verdict);
            if (const DeckCheck* check = progress->verdict->check(CheckKind::flatness)) {
                flat.verdict = check->verdict;
                (proven ? flat.left : flat.found) = one(check->value);
            }
        }
        keep(std::move(height));
        keep(std::move(flat));
    }

    void cylinders(const block::BankBlueprint& bank) {
        if (!a_.cylinders)
            return;
        Outcome size{Told::bore_size, bank.id, {}, {}, false, {}, {}, {}};
        Outcome shape{Told::bore_shape, bank.id, {}, {}, false, {}, {}, {}};
        bool all_left = true;
        for (const CylinderNeed& need : a_.cylinders->study.each) {
            if (need.found.id.bank != bank.id)
                continue;
            add(size.found, need.found.diameter);
            add(size.found, need.found.worn);
            add(shape.found, need.found.worn - need.found.diameter);
            const bool cut = !bores_of(state_).bore(need.found.id).cuts.empty();
            size.worked |= cut;
            const auto b = std::ranges::find(a_.cylinders->hone.bores, need.found.id, &HoneBore::id);
            const auto now = size_now(state_, need.found.id);
            if (!cut || b == a_.cylinders->hone.bores.end() || !b->honed || !b->measured || !now) {
                all_left = false;
                continue;
            }
            add(size.left, now->size);
            size.uncertainty = now->uncertainty;
            add(shape.left, b->most - b->least);
            if (b->verdict)
                join(size.verdict, *b->verdict);
            size.limits = {b->sizes.finish, b->sizes.finish_most};
        }
        shape.worked = size.worked;
        if (!all_left) {
            size.left.reset();
            shape.left.reset();
            size.verdict.reset();
        }
        if (shape.found)
            shape.found->least = 0;
        if (shape.left)
            shape.left->least = 0;
        if (size.found && size.found->most == size.found->least && !shape.left)
            shape.found.reset();
        keep(std::move(size));
        keep(std::move(shape));
        places(bank);
    }

    /// Off the blueprint, the worst of the bank.
    void places(const block::BankBlueprint& bank) {
        Outcome across{Told::bore_across, bank.id, {}, {}, false, {}, {}, {}};
        Outcome along{Told::bore_along, bank.id, {}, {}, false, {}, {}, {}};
        if (limits_.position_across)
            across.limits = {{}, limits_.position_across};
        if (limits_.position_along)
            along.limits = {{}, limits_.position_along};
        bool all_left = true;
        const auto& t = tunnel_of(state_);
        if (t.as_found)
            for (const block::HoleResult& hole : t.as_found->evaluation.bores)
                if (hole.id.bank == bank.id && hole.place_known) {
                    worst(across.found, hole.error.y);
                    worst(along.found, hole.error.x);
                }
        for (const CylinderNeed& need : a_.cylinders->study.each) {
            if (need.found.id.bank != bank.id)
                continue;
            const bool cut = !bores_of(state_).bore(need.found.id).cuts.empty();
            across.worked |= cut;
            const auto p = std::ranges::find(a_.cylinders->placed, need.found.id, &Placed::id);
            if (p == a_.cylinders->placed.end() || !p->bored) {
                all_left = false;
                continue;
            }
            worst(across.left, p->error.y);
            worst(along.left, p->error.x);
            if (p->uncertainty) {
                across.uncertainty = std::max(across.uncertainty.value_or(0), p->uncertainty->y);
                along.uncertainty = std::max(along.uncertainty.value_or(0), p->uncertainty->x);
            }
            if (p->most_across)
                join(across.verdict, p->across);
            if (p->most_along)
                join(along.verdict, p->along);
        }
        along.worked = across.worked;
        if (!all_left)
            for (Outcome* o : {&across, &along}) {
                o->left.reset();
                o->verdict.reset();
                o->uncertainty.reset();
            }
        keep(std::move(across));
        keep(std::move(along));
    }
    static void worst(std::optional<Span>& span, double error) {
        add(span, std::abs(error));
        span->least = span->most;
    }

    void lifters() {
        if (!a_.lifters)
            return;
        Outcome place{Told::lifter_place, "", {}, {}, false, {}, {}, {}};
        bool all_left = true;
        for (const LifterNeed& need : a_.lifters->study.each) {
            if (need.error)
                worst(place.found, norm(*need.error));
            if (bores_of(state_).bore(need.id).cuts.empty())
                continue;
            place.worked = true;
            const auto p = std::ranges::find(a_.lifters->board.each, need.id, &LifterProgress::id);
            if (p == a_.lifters->board.each.end() || !p->position)
                all_left = false;
            else {
                worst(place.left, *p->position);
                if (p->position_uncertainty)
                    place.uncertainty = std::max(place.uncertainty.value_or(0), *p->position_uncertainty);
            }
        }
        if (!all_left)
            place.left.reset();
        keep(std::move(place));
    }

    const JobState& state_;
    const Assessment& a_;
    const block::Blueprint& b_;
    const block::LimitsChosen limits_;
    std::vector<Outcome> out_;
};

} // namespace

std::vector<Outcome> outcomes(const JobState& state, const Assessment& assessment) {
    return intake_of(state).blueprint ? Lines(state, assessment).all() : std::vector<Outcome>();
}

} // namespace pallix::planning
