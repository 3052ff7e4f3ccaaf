// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/figures.h"
#include "planning/readings/reading_plan.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <optional>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::JobState;
using block::MeasuredAt;
using block::Rule;
using block::Stage;

class CylinderPart {
  public:
    explicit CylinderPart(Route& route) : r_(route), state_(route.state), w_(route.a.cylinders) {}

    void add() {
        const bool asked_for = intake_of(state_).scope.has_value();
        const bool begun = bores_of(state_).cylinder_plan || bores_of(state_).pistons ||
                           std::ranges::any_of(bores_of(state_).bores_cut, is_bore);
        if (!w_) {
            if (asked_for)
                add_as_found();
            return;
        }
        first_ = r_.steps.size();
        add_as_measured();
        if (begun || asked_for)
            add_missing();
        add_decisions();
        add_sleeves();
        add_boring();
        add_honing();
        add_place();
        for (std::size_t i = first_; i < r_.steps.size(); ++i) {
            r_.steps[i].leads = r_.steps[i].id == lead_;
            r_.steps[i].aside = !begun && !asked_for; // found, and nobody has asked for work on them
        }
    }

  private:
    static bool is_bore(const FeatureId& id) { return id.kind == block::FeatureKind::bore; }
    static std::string id_of(const FeatureId& bore, const std::string& what) { return bore.text() + "/" + what; }
    void lead(const Step& step) {
        if (lead_.empty() && step.state != StepState::done && step.state != StepState::stale && !step.aside)
            lead_ = step.id;
    }
    std::vector<MeasuredAt> places_of(const FeatureId& bore) const {
        std::vector<MeasuredAt> places = chosen_places(state_, Measuring::cylinder_sizes, bore.bank);
        std::erase_if(places, [&](const MeasuredAt& at) { return at.feature != bore; });
        return places;
    }

    static Ask choice() {
        return {"choice", AskKind::choice, {}, {}, {}, {"with_the_rest", "sleeve", "leave", "scrap"}};
    }
    /// One that is too large as honed cannot go with the rest any more.
    void decide(Task task, const FeatureId& bore, const char* what) {
        Step& step = r_.add(task, id_of(bore, what), Stage::cylinders, bore);
        step.asks = {choice(), {"note", AskKind::text, {}, {}, {}}};
        if (task == Task::decide_large)
            std::erase(step.asks.front().choices, "with_the_rest");
        lead(step);
    }

    void add_as_found() {
        for (const block::BankBlueprint& bank : intake_of(state_).blueprint->banks)
            for (const MeasuredAt& at : chosen_places(state_, Measuring::cylinder_sizes, bank.id)) {
                Step& step = r_.add_reading(at, Stage::cylinders);
                lead(step);
            }
        for (Step& step : r_.steps)
            step.leads = step.leads || step.id == lead_;
    }

    void add_place() {
        if (w_->step == CylinderStep::decide_place) {
            Step& step = r_.add(Task::decide_place, id_of(*w_->bore, "place"), Stage::cylinders, *w_->bore);
            step.asks = {{"reason", AskKind::text, {}, {}, {}}};
            lead(step);
        }
        if (w_->step == CylinderStep::prove_place) {
            Step& step = r_.add(Task::probe, place_step, Stage::cylinders);
            step.asks = {{"log", AskKind::file, {}, {}, {}}};
            lead(step);
        }
    }

    /// As long as nothing was read of some cylinder, or less than of another, hole by hole: who sets the size is not
    /// known before.
    void add_missing() {
        std::vector<FeatureId> open;
        std::ptrdiff_t most = 1;
        const auto read = [this](const MeasuredAt& at) { return r_.place(at) != nullptr; };
        for (const block::HoleBlueprint& bore : intake_of(state_).blueprint->bores)
            most = std::max(most, std::ranges::count_if(places_of(bore.id), read));
        for (const block::HoleBlueprint& bore : intake_of(state_).blueprint->bores) {
            const block::BoreWork& work = bores_of(state_).bore(bore.id);
            const bool left = work.decided && (work.decided->payload.choice == block::BoreChoice::leave ||
                                               work.decided->payload.choice == block::BoreChoice::scrap);
            const CylinderNeed* known = w_->study.bore(bore.id);
            if (left || !work.cuts.empty() || (known && !known->found.points.empty()))
                continue; // decided, cut, or probed all round
            open.push_back(bore.id);
            const std::vector<MeasuredAt> places = places_of(bore.id);
            const auto unread = std::ranges::find_if_not(places, read);
            if (missing_.empty() && unread != places.end() && std::ranges::count_if(places, read) < most)
                missing_ = reading_id(*unread);
        }
        if (missing_.empty())
            return;
        for (const FeatureId& id : open)
            for (const MeasuredAt& at : places_of(id)) {
                const Step& step = r_.add_reading(at, Stage::cylinders);
                if (step.state == StepState::ready)
                    lead(step);
            }
    }

    /// Found by a probe from a tunnel that was cut since: where the bores lie is not known any more.
    void add_as_measured() {
        if (w_->step != CylinderStep::measure)
            return;
        Step& step = r_.add(Task::probe, "cylinders/probe", Stage::cylinders);
        step.asks = {{"log", AskKind::file, {}, {}, {}}};
        lead(step);
    }

    void add_decisions() {
        if (w_->step == CylinderStep::bore && bores_of(state_).bores_cut.empty() && missing_.empty())
            if (const CommonSize* common = w_->study.by(cylinder_plan_of(state_).centre); common && common->set_by)
                largest_once_more(*common->set_by);
        if (w_->step == CylinderStep::plan)
            decide_when_complete(r_.add(Task::plan_cylinders, "cylinders/plan", Stage::cylinders));
        if (w_->step == CylinderStep::decide_size || w_->step == CylinderStep::decide_wall) {
            const bool size = w_->step == CylinderStep::decide_size;
            const bool as_found = bores_of(state_).bore(*w_->bore).cuts.empty();
            if (size && as_found && largest_once_more(*w_->bore))
                return;
            Step& step = r_.add(size ? Task::decide_size : Task::decide_wall, id_of(*w_->bore, size ? "size" : "wall"),
                                Stage::cylinders, *w_->bore);
            step.asks = {choice(), {"note", AskKind::text, {}, {}, {}}};
            const std::map<FeatureId, double>& own = pistons_of(state_).sizes;
            if (size && !w_->study.oversize && !pistons_of(state_).size && !own.contains(*w_->bore))
                std::erase(step.asks.front().choices, "with_the_rest"); // no size on offer holds them all
            decide_when_complete(step);
        }
    }
    void decide_when_complete(Step& step) {
        if (!missing_.empty())
            r_.hold(step, Rule::complete, missing_);
        lead(step);
    }

    /// What every tool and press in a bore waits for, besides its own turn.
    void hold_metal(Step& step) {
        if (step.state == StepState::done || step.state == StepState::stale)
            return;
        r_.hold(step, Rule::inspected, "cleaned/inspect");
        if (!missing_.empty())
            r_.hold(step, Rule::complete, missing_);
        if (!tunnel_stands(state_, r_.a, Stage::cylinders))
            r_.hold(step, Rule::tunnel_first, r_.tunnel_first);
        if (!again_.empty())
            r_.hold(step, Rule::doubt, again_);
        if (w_->step == CylinderStep::measure)
            r_.hold(step, Rule::fresh, "cylinders/probe");
        if (w_->step == CylinderStep::plan)
            r_.hold(step, Rule::size_decided, "cylinders/plan");
        if (w_->step == CylinderStep::decide_size && again_.empty())
            r_.hold(step, Rule::size_decided, id_of(*w_->bore, "size"));
        if (w_->step == CylinderStep::decide_place)
            r_.hold(step, Rule::sign_off, id_of(*w_->bore, "place"));
        if (w_->step == CylinderStep::decide_wall)
            r_.hold(step, Rule::wall_decided, id_of(*w_->bore, "wall"));
        if (step.task != Task::press)
            for (const block::BankBlueprint& bank : intake_of(state_).blueprint->banks)
                if (flush_due(state_, bank.id))
                    r_.hold(step, Rule::flush_first, "deck." + bank.id + "/flush");
    }

    /// What is still to be told of a sleeve: read outside first, in the line; then the rest.
    Step& add_sleeve_measuring(const FeatureId& bore) {
        const auto lacking = still_lacking(*standing(state_, "insert_measured", bore));
        std::string first;
        if (!lacking.empty() && lacking.front().starts_with("outside_mm"))
            for (const MeasuredAt& at : chosen_places(state_, Measuring::sleeve_sizes, bore.bank))
                if (at.feature == bore)
                    if (const Step& step = r_.add_reading(at, Stage::cylinders); step.state == StepState::ready) {
                        first = first.empty() ? step.id : first;
                        lead(step);
                    }
        Step& measured = r_.add(Task::measure_insert, id_of(bore, "sleeve/measure"), Stage::cylinders, bore);
        constexpr std::size_t most = 4;
        if (first.empty())
            for (const std::string& field : lacking)
                if (measured.asks.size() < most)
                    measured.asks.push_back({"insert_measured/" + field, AskKind::length, {}, 0, block::longest});
        if (!first.empty())
            r_.hold(measured, Rule::complete, first);
        return measured;
    }

    void add_sleeves() {
        for (const SleeveWork& s : w_->sleeves) {
            if (s.measured)
                r_.add(Task::measure_insert, id_of(s.bore, "sleeve/measure"), Stage::cylinders, s.bore).state =
                    StepState::done;
            else
                lead(add_sleeve_measuring(s.bore));
            if (w_->step == CylinderStep::refuse_sleeve && w_->bore == s.bore)
                decide(Task::refuse_insert, s.bore, "sleeve/refuse");
            Step& press = r_.add(Task::press, id_of(s.bore, "sleeve/press"), Stage::cylinders, s.bore);
            press.asks = {{"proud", AskKind::length, 0, -5, 5}, {"note", AskKind::text, {}, {}, {}}};
            if (s.fitted)
                press.state = StepState::done;
            else if (w_->step != CylinderStep::press || w_->bore != s.bore)
                r_.hold(press, Rule::order, before_press(s));
            hold_metal(press);
            if (w_->step == CylinderStep::press && w_->bore == s.bore)
                lead(press);
        }
        if (w_->step == CylinderStep::measure_neighbours)
            for (const FeatureId& id : w_->neighbours)
                add_measuring(id, true);
    }

    /// What a sleeve still waits for: its own size, or the seat it goes into.
    std::string before_press(const SleeveWork& s) const {
        const auto hole = std::ranges::find(w_->boring.holes, s.bore, &HoleProgress::id);
        if (!s.measured || hole == w_->boring.holes.end() || !hole->seat)
            return s.measured ? lead_ : id_of(s.bore, "sleeve/measure");
        if (hole->state == HoleState::unmeasured && !places_of(s.bore).empty())
            return reading_id(places_of(s.bore).front()); // cut, and nobody knows to what
        return hole->state == HoleState::in ? lead_ : id_of(s.bore, "seat");
    }

    bool counts_on_hone(const MeasuredAt& at) const {
        const auto bore = std::ranges::find(w_->hone.bores, at.feature, &HoneBore::id);
        return bore != w_->hone.bores.end() && std::ranges::any_of(bore->cells, [&at](const HoneCell& c) {
                   return c.size && c.level == at.level && c.direction == at.direction;
               });
    }

    /// Sizes of one bore; its turn or not.
    /// @param again also what was read already; as it is honed: also what was read otherwise
    void add_measuring(const FeatureId& id, bool turn, bool again = false, bool as_honed = false) {
        for (const MeasuredAt& at : places_of(id)) {
            if (std::ranges::any_of(r_.steps, [&](const Step& s) { return s.place == at; }))
                continue;
            Step& step = r_.add_reading(at, Stage::cylinders);
            const block::MeasuredPlace* known = r_.place(at);
            if (again || (as_honed && known && !counts_on_hone(at)))
                step.state = StepState::ready;
            if (turn && step.state == StepState::ready && !rest_.empty()) {
                step.state = StepState::waits;
                step.waits_for.push_back({Rule::rest_over, rest_, bores_of(state_).rest->payload.until, "", ""});
            } else if (turn && step.state == StepState::ready)
                lead(step);
            else if (step.state == StepState::ready)
                step.state = StepState::stale;
        }
    }

    /// One size that was read once, and stands out beyond every other, does not send a whole engine to the next
    /// oversize: it is read a second time first.
    bool largest_once_more(const FeatureId& bore) {
        constexpr double stands_out = 0.05; // mm over every other size over its nominal
        const block::MeasuredPlace* largest = nullptr;
        double second = -1e9, over = -1e9;
        for (const block::HoleBlueprint& b : intake_of(state_).blueprint->bores)
            for (const MeasuredAt& at : places_of(b.id)) {
                const block::MeasuredPlace* known = r_.place(at);
                if (!known || known->stale())
                    continue;
                const double by = known->value - b.diameter.nominal;
                second = std::max(second, std::min(by, over));
                if (by > over) {
                    over = by;
                    largest = known;
                }
            }
        return largest && largest->at.feature == bore && largest->count == 1 && over - second > stands_out &&
               look_again(largest->at, SecondLook::sets_size);
    }

    /// Before it is decided what becomes of a bore that is too large, what says so is read a second time.
    bool over_once_more(const FeatureId& bore, double limit) {
        for (const MeasuredAt& at : places_of(bore))
            if (const block::MeasuredPlace* known = r_.place(at);
                known && !known->stale() && known->count == 1 && known->value > limit)
                return look_again(at, SecondLook::too_large);
        return false;
    }
    void seldomest_once_more(const FeatureId& bore) {
        const block::MeasuredPlace* seldomest = nullptr;
        for (const MeasuredAt& at : places_of(bore))
            if (const block::MeasuredPlace* known = r_.place(at);
                known && !known->stale() && (!seldomest || known->count < seldomest->count))
                seldomest = known;
        if (seldomest)
            look_again(seldomest->at, SecondLook::near_limit);
    }
    bool look_again(const MeasuredAt& at, SecondLook why) {
        Step& step = r_.add_reading(at, Stage::cylinders);
        step.state = StepState::ready;
        step.second_look = why;
        again_ = step.id;
        lead(step);
        return true;
    }

    void add_boring() {
        const BoringBoard& board = w_->boring;
        const bool boring = w_->step == CylinderStep::bore;
        if (board.step == BoringStep::know_sizes) {
            if (boring) {
                Step& step = r_.add(Task::give_sizes, "cylinders/sizes", Stage::cylinders);
                step.asks = {{"piston", AskKind::length, {}, 10, 1000}};
                lead(step);
            }
            return;
        }
        if (boring && board.step == BoringStep::look_at_edge)
            lead(r_.add(Task::look_at_edge, id_of(*board.hole, "edge"), Stage::cylinders, *board.hole));
        if (boring && board.step == BoringStep::judge_trial) {
            Step& step = r_.add(Task::judge_trial, id_of(*board.hole, "trial"), Stage::cylinders, *board.hole);
            step.asks = {{"trial", AskKind::choice, {}, {}, {}, {"clean", "pits", "open"}}, // nothing is proposed: look
                         {"depth", AskKind::length, {}, 0, 10, {}, true},
                         {"note", AskKind::text, {}, {}, {}}};
            lead(step);
        }
        if (boring && board.step == BoringStep::over) {
            const auto hole = std::ranges::find(board.holes, *board.hole, &HoleProgress::id);
            if (!over_once_more(*board.hole, hole->most))
                decide(Task::decide_over, *board.hole, "over");
        }
        if (boring && (board.step == BoringStep::measure || board.step == BoringStep::measure_first))
            add_measuring(*board.hole, true, board.step == BoringStep::measure_first);
        if (boring && board.step == BoringStep::read_again)
            seldomest_once_more(*board.hole);
        if (boring && board.step == BoringStep::measure_between)
            for (const FeatureId& id : board.again)
                add_measuring(id, true, true);
        std::string before;
        for (const HoleProgress& h : board.holes)
            before = add_hole(h, board, boring, before);
    }

    std::string add_hole(const HoleProgress& h, const BoringBoard& board, bool boring, const std::string& before) {
        Step& step = r_.add(Task::bore, id_of(h.id, h.seat ? "seat" : "rough"), Stage::cylinders, h.id);
        step.number = h.target;
        step.least = h.least;
        step.most = h.most;
        step.asks = {{"setting", AskKind::length, h.target, {}, {}}, {"new_edge", AskKind::tick, {}, {}, {}}};
        const bool turn =
            boring && board.hole == h.id && (board.step == BoringStep::bore || board.step == BoringStep::cut_again);
        if (h.state == HoleState::in || h.state == HoleState::finished || h.state == HoleState::unmeasured ||
            h.state == HoleState::over || h.state == HoleState::doubtful) {
            step.state = StepState::done;
            return before;
        }
        if (turn) {
            step.number = board.to;
            step.asks.front().proposed = board.set;
        } else if (!lead_.empty() && lead_ != step.id) {
            const bool trial = !before.empty() && std::ranges::none_of(bores_of(state_).bores_cut, is_bore);
            r_.hold(step, trial ? Rule::trial_first : Rule::order,
                    trial            ? id_of(board.holes.front().id, board.holes.front().seat ? "seat" : "rough")
                    : before.empty() ? lead_
                                     : before);
        }
        hold_metal(step);
        if (turn || lead_.empty())
            lead(step);
        return step.id;
    }

    void add_honing() {
        const HoneBoard& board = w_->hone;
        const bool honing = w_->step == CylinderStep::hone;
        if (board.step == HoneStep::bore_first)
            return;
        if (honing && board.step == HoneStep::put_plate_on) {
            Step& step = r_.add(Task::put_plate_on, "cylinders/plate", Stage::cylinders);
            step.asks = {{"plate", AskKind::choice, {}, {}, {}, {"on", "off"}},
                         {"fasteners", AskKind::text, {}, {}, {}}};
            lead(step);
        }
        if (honing && board.step == HoneStep::too_large) {
            const auto bore = std::ranges::find(board.bores, *board.bore, &HoneBore::id);
            if (!over_once_more(*board.bore, bore->sizes.finish_most))
                decide(Task::decide_large, *board.bore, "large");
        }
        if (honing && (board.step == HoneStep::measure || board.step == HoneStep::check_again) && resting())
            add_rest();
        if (honing && (board.step == HoneStep::measure || board.step == HoneStep::check_again))
            add_measuring(*board.bore, true, false, true);
        for (const HoneBore& b : board.bores)
            add_hone(b, board, honing);
        if (honing && board.step == HoneStep::rest)
            add_rest();
        for (const HoneBore& b : board.bores)
            add_dressing(b, board, honing);
    }

    bool resting() const {
        return bores_of(state_).rest && !r_.at.empty() && r_.at < bores_of(state_).rest->payload.until;
    }
    void add_rest() {
        Step& step = r_.add(Task::rest, "cylinders/rest", Stage::cylinders);
        if (resting()) {
            step.state = StepState::waits;
            step.waits_for.push_back({Rule::rest_over, "", bores_of(state_).rest->payload.until, "", ""});
            rest_ = step.id;
        }
        step.asks = {{"minutes", AskKind::count, w_->hone.rest_minutes, 1, 600}};
        step.where.minutes = w_->hone.rest_minutes;
        lead(step);
        if (resting())
            lead_ = step.id;
    }

    void add_hone(const HoneBore& b, const HoneBoard& board, bool honing) {
        if (bores_of(state_).bore(b.id).cuts_now().empty())
            return;
        Step& step = r_.add(Task::hone_bore, id_of(b.id, "hone"), Stage::cylinders, b.id);
        const bool turn = honing && board.bore == b.id && board.step == HoneStep::hone;
        step.least = b.sizes.finish;
        step.most = b.sizes.finish_most;
        step.asks = {{"strokes", AskKind::count, b.strokes, 1, 10000},
                     {"load", AskKind::count, b.load, 0, 1000, {}, true}};
        if (board.hatch_wanted) // it is the machine's: once it was seen right it is not asked for again
            step.asks.push_back({"hatch", AskKind::count, {}, 5, 150, {}, true});
        if (b.measured)
            step.number = b.brush_due ? 0 : std::max(0.0, b.most + b.beyond);
        const auto turn_of = std::ranges::find(board.bores, board.bore.value_or(b.id), &HoneBore::id);
        if (b.honed && b.measured && !b.to_hone)
            step.state = StepState::done;
        else if (!turn)
            r_.hold(step, board.step == HoneStep::put_plate_on ? Rule::conditions : Rule::order,
                    lead_.empty() && turn_of != board.bores.end() ? id_of(turn_of->id, "hone") : lead_);
        hold_metal(step);
        if (turn)
            lead(step);
    }

    void add_dressing(const HoneBore& b, const HoneBoard& board, bool honing) {
        if (bores_of(state_).bore(b.id).cuts_now().empty())
            return;
        const bool turn = honing && board.step == HoneStep::dress;
        for (const std::string& what : bore_steps()) {
            Step& step = r_.add(Task::dress, id_of(b.id, "dress/" + id_part(what)), Stage::cylinders, b.id);
            step.asks = {{"seen", AskKind::tick, 1, {}, {}},
                         {"reading", AskKind::length, {}, -50, 50, {}, true},
                         {"note", AskKind::text, {}, {}, {}}};
            const std::int64_t cut = dressed_after(state_, b.id, what);
            if (std::ranges::any_of(bores_of(state_).bore(b.id).steps,
                                    [&](const auto& s) { return s.payload.step == what && s.sequence > cut; }))
                step.state = StepState::done;
            else if (!turn)
                r_.hold(step, Rule::order, lead_);
            lead(step);
        }
    }

    Route& r_;
    const JobState& state_;
    const std::optional<CylinderWork>& w_;
    std::string lead_, rest_, missing_;
    std::string again_; ///< a reading that nothing is cut before
    std::size_t first_ = 0;
};

} // namespace

void add_cylinder_steps(Route& route) {
    if (wanted(route.state, Stage::cylinders) && !intake_of(route.state).blueprint->bores.empty())
        CylinderPart(route).add();
}

} // namespace pallix::planning
