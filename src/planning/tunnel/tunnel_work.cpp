// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/tunnel_work.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/experience.h"
#include "planning/common/fit_spread.h"
#include "planning/common/shop_limits.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/bar_passes.h"
#include "planning/tunnel/cap_sizes.h"
#include "planning/tunnel/doubtful.h"
#include "planning/tunnel/stroke_forecast.h"
#include "planning/tunnel/tunnel_sizes.h"
#include "planning/tunnel/tunnel_verdict.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::planning {
namespace {

using block::BarMark;
using block::FeatureId;
using block::FeatureKind;
using block::JobState;
using block::MeasuredAt;
using block::Quantity;
using block::Rule;
using block::TunnelPassKind;
using metrology::Verdict;

/// What was done since the tunnel was last said to be done: it may be worked a second time.
struct Campaign {
    const block::TakenCaps* caps = nullptr; ///< the last
    const block::TakenPass* pass = nullptr; ///< the last
    std::int64_t cut = 0, worked = 0;       ///< their entries; 0 for none
    [[nodiscard]] bool begun() const { return caps || pass; }
    [[nodiscard]] std::int64_t last() const { return std::max(cut, worked); }
};

Campaign campaign_of(const JobState& state) {
    Campaign c;
    if (!tunnel_of(state).caps_cut.empty() && tunnel_of(state).caps_cut.back().sequence > tunnel_of(state).tunnel_done)
        c.caps = &tunnel_of(state).caps_cut.back();
    if (!tunnel_of(state).tunnel_passes.empty() &&
        tunnel_of(state).tunnel_passes.back().sequence > tunnel_of(state).tunnel_done)
        c.pass = &tunnel_of(state).tunnel_passes.back();
    c.cut = c.caps ? c.caps->sequence : 0;
    c.worked = c.pass ? c.pass->sequence : 0;
    return c;
}

/// What came of them, as far as it was measured before the mains were worked on again.
std::vector<CapPrediction> predictions_of(const JobState& state, const Campaign& c) {
    if (!c.caps)
        return {};
    std::vector<CapPrediction> out = predict_caps(state, *c.caps);
    const bool by_probe = std::ranges::any_of(out, [](const CapPrediction& p) { return p.at.direction.empty(); });
    if (by_probe && c.worked >= c.cut)
        return {};
    const auto record = widened_by(state, block::ForecastKind::cap_size, mains_measured_by(state));
    const auto now = last_sizes(state);
    for (CapPrediction& p : out) {
        p.allowed *= widening(record);
        p.widened = record;
        if (by_probe && tunnel_of(state).mains_as_probed()) {
            for (const block::MainResult& main : tunnel_of(state).latest->evaluation.mains)
                if (main.id == p.at.feature && main.level == p.at.level)
                    p.after = main.diameter;
            p.read = p.after ? 1 : 0;
        }
        const block::MeasuredPlace* place = readings_of(state).place(p.at);
        const auto after =
            std::ranges::find_if(now, [&p](const auto* size) { return is_same_place(size->reading.at, p.at); });
        if (after != now.end() && (*after)->sequence > c.cut && c.worked < c.cut && place && !place->stale()) {
            p.after = place->value;
            p.read = place->count;
        }
    }
    return out;
}

std::vector<StockLeft> board_of(const JobState& state, const TunnelPolicy& policy) {
    std::vector<StockLeft> board;
    const auto add = [&](const MeasuredAt& at, double d, bool stale) {
        const block::MainBlueprint& main = meant(state, at.feature);
        if (main.diameter.whole()) // without limits nothing is left, and nothing is in size
            board.push_back({at, d, target_of(main, policy) - d, *main.diameter.smallest() - d,
                             *main.diameter.largest() - d, stale});
    };
    const auto sizes = last_sizes(state);
    const bool probe_is_newer =
        tunnel_of(state).latest && std::ranges::none_of(sizes, [&](const block::TakenReading* size) {
            return size->sequence > tunnel_of(state).latest->mains_sequence();
        });
    if (probe_is_newer)
        for (const block::MainResult& section : tunnel_of(state).latest->evaluation.mains)
            add({section.id, Quantity::size, section.level, "", {}}, section.diameter,
                !tunnel_of(state).mains_as_probed());
    else
        for (const block::TakenReading* size : sizes)
            add(size->reading.at, size->value, size->stale());
    std::ranges::stable_sort(board, {}, [](const StockLeft& s) { return s.at.feature.number; });
    return board;
}

/// Touches of a section go round far enough to say how large and how round it is.
bool goes_round(const block::MainResult& section) {
    constexpr std::size_t fewest = 4;
    constexpr double arc = 240 * block::radians_per_degree;
    if (section.surface.size() < fewest)
        return false;
    std::vector<double> angles;
    for (const metrology::Vec3 p : section.surface)
        angles.push_back(std::atan2(p.z - section.centre.z, p.y - section.centre.y));
    std::ranges::sort(angles);
    double gap = angles.front() + 2 * std::numbers::pi - angles.back();
    for (std::size_t i = 1; i < angles.size(); ++i)
        gap = std::max(gap, angles[i] - angles[i - 1]);
    return 2 * std::numbers::pi - gap >= arc - 1e-9;
}

/// Every main at both ends; a section without a level stands for the whole main.
bool probed_whole(const block::Blueprint& blueprint, const block::Evaluation& e) {
    return std::ranges::all_of(blueprint.mains, [&](const block::MainBlueprint& main) {
        bool front = false, rear = false;
        for (const block::MainResult& section : e.mains)
            if (section.id == main.id && goes_round(section)) {
                front = front || section.level != "rear";
                rear = rear || section.level != "front";
            }
        return front && rear;
    });
}

constexpr double worth_setting = block::mm_per_thou / 10; // of a cutter (common practice, no source)

/// Looks at what the tunnel is at.
class Stand {
  public:
    Stand(TunnelWork& work, const JobState& state, const GaugeFindings& gauge, const TunnelVerdict* probed)
        : w_(work), state_(state), gauge_(gauge), probed_(probed), c_(campaign_of(state)) {
        w_.begun = c_.begun();
        for (const auto& what : {Measuring::main_sizes, Measuring::saddle_heights})
            if (what == Measuring::main_sizes || intake_of(state).blueprint->mains.size() > 2)
                for (MeasuredAt& at : chosen_places(state, what, ""))
                    (what == Measuring::main_sizes ? sizes_ : saddles_).push_back(std::move(at));
        std::int64_t newest = 0;
        for (const block::TakenReading& r : readings_of(state).readings)
            if (r.reading.at.feature.kind == FeatureKind::main && r.reading.at.quantity == Quantity::size)
                newest = r.sequence;
        w_.by_probe = tunnel_of(state).latest && newest < tunnel_of(state).latest->mains_sequence();
        probe_counts_ = tunnel_of(state).mains_as_probed() &&
                        tunnel_of(state).latest->conditions.caps_torqued != false &&
                        probed_whole(*intake_of(state).blueprint, tunnel_of(state).latest->evaluation);
    }

    TunnelStep step() {
        w_.verdict = verdict();
        const bool torque_due = c_.cut > c_.worked && tunnel_of(state_).caps_torqued < c_.cut;
        if (torque_due)
            return TunnelStep::torque_caps;
        if (readings_of(state_).conditions.caps_torqued == false)
            return TunnelStep::caps_off;
        if (c_.begun() && !limits_known())
            return TunnelStep::no_limits;
        if (!c_.begun())
            return before_work();
        return c_.cut > c_.worked ? after_caps() : after_pass();
    }

  private:
    TunnelStep before_work() {
        if (!probe_counts_) {
            want(sizes_);
            want(saddles_);
            const bool nothing_counts = w_.to_read.size() == sizes_.size() + saddles_.size();
            if (nothing_counts || (w_.by_probe && tunnel_of(state_).mains_as_probed()))
                return TunnelStep::measure;
            if (!w_.to_read.empty())
                return TunnelStep::read;
            if (unstated())
                return TunnelStep::state_caps;
        }
        if (const auto at = standing_out())
            return look_again(*at, SecondLook::stands_out);
        return contradicted() ? cannot_tell() : judged();
    }

    TunnelStep look_again(const MeasuredAt& at, SecondLook why) {
        w_.to_read = {at};
        w_.second_look = why;
        return TunnelStep::read_again;
    }

    /// A size that was read once and stands far off the others of its main is read again before anything hangs on it.
    std::optional<MeasuredAt> standing_out() const {
        if (probe_counts_)
            return std::nullopt;
        for (const block::MainBlueprint& main : intake_of(state_).blueprint->mains) {
            std::vector<const block::MeasuredPlace*> sizes;
            for (const block::MeasuredPlace& p : readings_of(state_).places)
                if (p.at.feature == main.id && p.at.quantity == Quantity::size && counts(p))
                    sizes.push_back(&p);
            if (sizes.size() < 4)
                continue;
            std::ranges::sort(sizes, {}, &block::MeasuredPlace::value);
            const double middle = sizes[sizes.size() / 2]->value;
            for (const block::MeasuredPlace* p : {sizes.front(), sizes.back()})
                if (p->count < 2 && std::abs(p->value - middle) > one_main_within)
                    return p->at;
        }
        return saddle_standing_out();
    }
    /// A saddle likewise, against the others: one slip of it would send every cap to the grinder.
    std::optional<MeasuredAt> saddle_standing_out() const {
        std::vector<const block::MeasuredPlace*> saddles;
        for (const block::MeasuredPlace& p : readings_of(state_).places)
            if (p.at.quantity == Quantity::saddle && counts(p))
                saddles.push_back(&p);
        if (saddles.size() < 3)
            return std::nullopt;
        std::ranges::sort(saddles, {}, &block::MeasuredPlace::value);
        const double middle = saddles[saddles.size() / 2]->value;
        for (const block::MeasuredPlace* p : {saddles.front(), saddles.back()})
            if (p->count < 2 && std::abs(p->value - middle) > one_main_within)
                return p->at;
        return std::nullopt;
    }

    bool limits_known() const {
        return std::ranges::all_of(intake_of(state_).blueprint->mains,
                                   [](const block::MainBlueprint& m) { return m.diameter.whole(); });
    }

    TunnelStep judged() {
        if (!limits_known())
            return TunnelStep::no_limits;
        switch (w_.verdict) {
        case Verdict::meets:
            return TunnelStep::good;
        case Verdict::cannot_tell:
            return cannot_tell();
        case Verdict::fails:
            break;
        }
        w_.study = study_tunnel(state_); // a linear programme or two: only where something is to be cut by it
        if (!w_.study || !w_.study->plan.feasible)
            return TunnelStep::decide;
        w_.to_cut = w_.study->plan.cuts;
        return w_.study->plan.max_cap_cut < 5e-4 ? TunnelStep::machine : TunnelStep::cut_caps;
    }

    TunnelStep after_caps() {
        if (!probe_counts_) {
            want(sizes_);
            if (!w_.to_read.empty())
                return TunnelStep::measure_caps;
        }
        const CapPrediction* worst = nullptr;
        for (const CapPrediction& p : w_.predictions)
            if (p.disagrees() && p.read < 2 && (!worst || excess(p) > excess(*worst)))
                worst = &p;
        if (worst) {
            w_.to_read = {worst->at};
            return TunnelStep::read_again;
        }
        return any_too_large() ? over() : TunnelStep::machine;
    }
    static double excess(const CapPrediction& p) { return std::abs(*p.after - p.predicted) - p.allowed; }

    /// Between strokes one way of each main is enough; to finish, the full set, which then is as left.
    TunnelStep after_pass() {
        const bool bar = c_.pass->pass.kind != TunnelPassKind::strokes;
        if (bar && !probe_counts_ && look_at_marks())
            return TunnelStep::mark;
        // Nothing tells the tool's size; set no further out than it was, it would leave what is there.
        const bool none_clean = w_.not_clean.size() == intake_of(state_).blueprint->mains.size();
        const double out_by = w_.next_protrusion.value_or(0) - c_.pass->pass.protrusion.value_or(0);
        if (bar && none_clean && out_by > worth_setting)
            return TunnelStep::machine;
        if (!probe_counts_) {
            const auto read = [this](const FeatureId& main) {
                return std::ranges::any_of(sizes_,
                                           [&](const MeasuredAt& at) { return at.feature == main && holds(at); });
            };
            for (const block::MainBlueprint& main : intake_of(state_).blueprint->mains)
                if (const auto at = tightest(main.id); at && !read(main.id) && (none_clean || !is_not_clean(main.id)))
                    w_.to_read.push_back(*at);
            if (!w_.to_read.empty())
                return TunnelStep::measure_work;
        }
        if (any_too_large())
            return over();
        if (std::ranges::any_of(w_.board, [](const StockLeft& s) { return !s.stale && s.to_smallest > 0; }) ||
            short_of_target())
            return TunnelStep::machine;
        if (!probe_counts_) {
            want(sizes_);
            want(saddles_);
            if (!w_.to_read.empty())
                return TunnelStep::measure_work;
        }
        if (const auto at = standing_out())
            return look_again(*at, SecondLook::stands_out);
        switch (w_.verdict) {
        case Verdict::meets:
            return w_.not_clean.empty() || gate_passed(state_, Rule::sign_off, "tunnel", c_.worked)
                       ? TunnelStep::log_finished
                       : TunnelStep::not_clean;
        case Verdict::cannot_tell:
            return cannot_tell();
        case Verdict::fails:
            break;
        }
        return TunnelStep::decide;
    }

    /// Some place cannot be told from too small, and stock is left to where the plan wants it everywhere: then more of
    /// what was planned settles it, not more readings.
    bool short_of_target() const {
        if (c_.pass->pass.kind != TunnelPassKind::strokes)
            return false;
        const bool doubtful = std::ranges::any_of(w_.board, [this](const StockLeft& s) {
            return !s.stale && metrology::decide(s.size, uncertainty_of(s), {s.size + s.to_smallest, std::nullopt},
                                                 rule_of(state_)) != Verdict::meets;
        });
        return doubtful && std::ranges::all_of(w_.board, [](const StockLeft& s) { return s.stale || s.left > 0; });
    }
    std::optional<double> uncertainty_of(const StockLeft& s) const {
        if (const block::MeasuredPlace* read = readings_of(state_).place(s.at))
            return read->standard_uncertainty();
        const block::EvaluationState& probed = *tunnel_of(state_).latest;
        for (const block::MainResult& m : probed.evaluation.mains)
            if (m.id == s.at.feature && m.level == s.at.level && probed.mains_uncertainty())
                return fit_spread(m).diameter * *probed.mains_uncertainty();
        return std::nullopt;
    }

    /// A log or a reading more of what so many have not settled tells no more: a decision.
    bool read_enough() const {
        if (w_.by_probe)
            return probe_counts_ &&
                   tunnel_of(state_).times_probed(FeatureKind::main, "", tunnel_of(state_).mains_round) >= enough_logs;
        const block::MeasuredPlace* seldomest = seldomest_doubtful(state_, gauge_);
        return seldomest && seldomest->count >= enough_readings;
    }
    TunnelStep cannot_tell() const {
        if (!read_enough())
            return TunnelStep::settle;
        const bool signed_for = c_.begun() && gate_passed(state_, Rule::sign_off, "tunnel", c_.last());
        return signed_for ? TunnelStep::log_finished : TunnelStep::cannot_settle;
    }

    /// What the last pass left, main by main: one that was read since was cut all round.
    /// @return whether somebody has to look
    bool look_at_marks() {
        for (const block::MainBlueprint& main : intake_of(state_).blueprint->mains) {
            const auto mark = tunnel_of(state_).mark_of(main.id);
            if (mark && *mark != BarMark::clean)
                w_.not_clean.push_back(main.id);
            else if (!mark && std::ranges::none_of(
                                  sizes_, [&](const MeasuredAt& at) { return at.feature == main.id && holds(at); }))
                w_.to_mark.push_back(main.id);
        }
        return !w_.to_mark.empty();
    }
    bool is_not_clean(const FeatureId& main) const {
        return std::ranges::find(w_.not_clean, main) != w_.not_clean.end();
    }

    /// What says that a main is too large is read a second time before anybody decides what becomes of it.
    TunnelStep over() {
        for (const StockLeft& s : w_.board) {
            const block::MeasuredPlace* known = readings_of(state_).place(s.at);
            if (!s.stale && s.to_largest < 0 && known && !known->stale() && known->count < 2)
                return look_again(s.at, SecondLook::too_large);
        }
        return TunnelStep::too_large;
    }

    bool any_too_large() const {
        return std::ranges::any_of(w_.board, [](const StockLeft& s) { return !s.stale && s.to_largest < 0; });
    }

    /// The place of a main that had most left before the last go: the way that is read between strokes.
    std::optional<MeasuredAt> tightest(const FeatureId& main) const {
        const block::TakenReading* least = nullptr;
        for (const block::TakenReading* size : last_sizes(state_, c_.worked))
            if (size->reading.at.feature == main && (!least || size->value < least->value))
                least = size;
        if (least)
            return least->reading.at;
        const auto any = std::ranges::find(sizes_, main, &MeasuredAt::feature);
        return any == sizes_.end() ? std::nullopt : std::optional(*any);
    }

    bool holds(const MeasuredAt& at) const {
        const block::MeasuredPlace* place = readings_of(state_).place(at);
        return place && counts(*place);
    }
    void want(const std::vector<MeasuredAt>& places) {
        for (const MeasuredAt& at : places)
            if (!holds(at))
                w_.to_read.push_back(at);
    }
    bool unstated() const {
        return std::ranges::any_of(readings_of(state_).places, [](const block::MeasuredPlace& p) {
            return p.at.feature.kind == FeatureKind::main && p.at.quantity != Quantity::sweep && !p.stale() &&
                   !p.conditions.caps_torqued;
        });
    }
    /// Probe and gauge, of the same main.
    bool contradicted() const {
        return std::ranges::any_of(gauge_.disagreements,
                                   [](const Disagreement& d) { return d.at.feature.kind == FeatureKind::main; });
    }

    /// Of what the probe and the gauges say of it, the worse; what counts no more says nothing.
    Verdict verdict() const {
        std::optional<Verdict> v;
        const auto hold = [&v](Verdict more) { v = v ? metrology::worse(*v, more) : more; };
        if (probe_counts_)
            hold(probed_ ? probed_->overall : Verdict::cannot_tell);
        std::size_t whole = 0;
        for (const BoreFinding& main : gauge_.mains)
            if (!main.stale) {
                hold(main.verdict);
                ++whole;
            }
        if (gauge_.saddles)
            hold(gauge_.saddles->verdict);
        if (!v)
            return Verdict::cannot_tell;
        // Sizes alone do not say that three mains and more stand in one line.
        if (!probe_counts_ && ((!gauge_.saddles && intake_of(state_).blueprint->mains.size() > 2) ||
                               whole < intake_of(state_).blueprint->mains.size()))
            hold(Verdict::cannot_tell);
        return *v;
    }

    TunnelWork& w_;
    const JobState& state_;
    const GaugeFindings& gauge_;
    const TunnelVerdict* probed_;
    Campaign c_;
    std::vector<MeasuredAt> sizes_, saddles_;
    bool probe_counts_ = false;
};

} // namespace

TunnelWork tunnel_work(const JobState& state, const GaugeFindings& gauge, const TunnelVerdict* probed) {
    TunnelWork work;
    if (!intake_of(state).blueprint)
        return work;
    const TunnelPolicy policy = tunnel_policy_of(state);
    work.method = policy.method;
    work.saddles_missing = known_housings(state, policy).saddles_missing;
    const Campaign c = campaign_of(state);
    work.predictions = predictions_of(state, c);
    work.board = board_of(state, policy);
    const std::vector<StockLeft> fresh = read_last(work.board);
    const auto tightest = std::ranges::max_element(fresh, {}, &StockLeft::left);
    if (tightest != fresh.end())
        work.dwell = *tightest;
    if (c.pass)
        work.last_strokes = c.pass->pass.strokes;
    work.forecast = c.pass ? forecast_strokes(state, *c.pass, std::max(c.cut, tunnel_of(state).tunnel_done), work.board)
                           : std::nullopt;
    set_bar(work, state, policy);
    work.step = Stand(work, state, gauge, probed).step();
    if (work.step == TunnelStep::machine && work.method == block::TunnelMethod::bore && !policy.bar)
        work.step = TunnelStep::give_bar;
    foresee_contacts(work, state, policy);
    return work;
}

std::vector<std::string> cap_steps() {
    return {"even contact across each parting face", "caps cut, both faces square", "deburred",
            "registers checked: snug, not tight"};
}

} // namespace pallix::planning
