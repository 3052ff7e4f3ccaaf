// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/answer.h"

#include "block/ledger.h"
#include "block/reading_text.h"
#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/fresh.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/figures.h"
#include "planning/decks/flaw_risk.h"
#include "planning/decks/set_up.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/given.h"
#include "planning/steps/shop_steps.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <utility>

namespace pallix::planning {
namespace {

/// mm, radially: a wall that is open nobody says how deep is open past what the hone takes by this.
constexpr double deeper_than_the_hone = 0.01;

using namespace block;
using Payloads = std::vector<Payload>;

class Answering : Given {
  public:
    Answering(const JobState& state, const Assessment& a, const Step& step, const Answers& answers, std::string at)
        : Given(step, answers), state_(state), a_(a), at_(std::move(at)) {}

    Payloads entries() const {
        if (step_.state != StepState::now && step_.state != StepState::ready)
            throw Refused{{"job", 0, step_.id + " cannot be answered now", "a step that is ready"}};
        if (step_.kind == StepKind::decide && card_of(state_).learner_at_bench() && !to_be_signed(step_).empty() &&
            !card_of(state_).is_signed_off(to_be_signed(step_)))
            throw Refused{{"job", 0, step_.id + " is a decision, and who is at the bench is learning",
                           "somebody who answers for it, at the bench"}};
        if (step_.task == Task::look_at_touch)
            return of_touch();
        if (auto of_shop = shop_answer(state_, step_, answers_, at_))
            return std::move(*of_shop);
        switch (step_.stage) {
        case Stage::tunnel:
            return of_tunnel();
        case Stage::decks:
        case Stage::mock_up:
            return of_decks();
        case Stage::cylinders:
            return of_cylinders();
        case Stage::lifters:
            return of_lifters();
        default:
            return of_intake();
        }
    }

  private:
    template <class Entry>
    static Payloads one(Entry entry) {
        return {Payload(std::move(entry))};
    }
    Payloads done(std::string what) const {
        ticked("done");
        return one(StepDone{std::move(what)});
    }

    Conditions with_caps_on() const {
        Conditions c = readings_of(state_).conditions;
        c.caps_torqued = true;
        if (const auto fasteners = given<std::string>("fasteners"))
            c.fasteners = *fasteners;
        return c;
    }

    Payloads conditions() const {
        const auto stated = [this](const char* key) {
            const auto value = words(key);
            return value == "not_stated" ? std::nullopt : std::optional(value == "yes");
        };
        Conditions c{stated("caps"), stated("plate"), if_given("part_c"), if_given("gauge_c"), words_if("fasteners")};
        if (c.fasteners.empty())
            c.fasteners = readings_of(state_).conditions.fasteners;
        return one(ConditionsStated{c, is_ticked("also_before")});
    }

    /// Figures that were missing, each by its address: one entry of them all.
    Payloads figures() const {
        std::optional<Payload> entry;
        for (const Ask& ask : step_.asks) {
            if (!entry)
                entry = standing(state_, ask.key.substr(0, ask.key.find('/')), step_.about);
            *entry = with_field(*entry, ask.key.substr(ask.key.find('/') + 1), {.number = number(ask.key)});
        }
        if (!entry)
            elsewhere("the page of the figures");
        return {*entry};
    }

    Payloads of_touch() const { return one(StepDone{touch_is_so(*touch_of(a_, step_)) + ": " + words("reason")}); }

    FlawMarked flaw_marked() const {
        FlawMarked flaw{{}, choice<FlawKind>("flaw"), {}, {}, if_given("depth"), words_if("note"), {}, {}};
        if (step_.about && step_.about->kind == block::FeatureKind::deck) {
            flaw.bank = step_.about->bank;
            flaw.path = places("path");
            flaw.near = choice<FlawNear>("near");
            return flaw;
        }
        flaw.feature = step_.about;
        flaw.where = !step_.about ? FlawWhere::outside
                     : step_.about->kind == block::FeatureKind::bore
                         ? FlawWhere::bore
                         : choice<FlawWhere>("where", block::flaw_where_keys);
        return flaw;
    }

    /// A sleeve decided on is the cylinder's: of a deck the nearest one's.
    Payloads flaw_decided() const {
        const FlawDecided decided{step_.why.front(), choice<FlawChoice>("choice", block::flaw_choice_keys),
                                  words_if("note")};
        if (decided.choice != FlawChoice::sleeve)
            return one(decided);
        const auto& flaws = decks_of(state_).flaws;
        const auto flaw = std::ranges::find(flaws, decided.flaw, &block::KnownFlaw::sequence);
        if (flaw == flaws.end())
            return one(decided);
        const FlawRisk risk = flaw_risk(*intake_of(state_).blueprint, flaw->flaw);
        if (!risk.cylinder || risk.to_edge > within_a_sleeve)
            throw Refused{{"job", 0, step_.id + ": no cylinder lies so near that its sleeve would take the flaw in",
                           "another choice"}};
        const auto& work = bores_of(state_).bore(*risk.cylinder);
        if (work.decided && work.decided->payload.choice == BoreChoice::sleeve)
            return one(decided);
        return {Payload(decided), Payload(BoreDecided{*risk.cylinder, BoreChoice::sleeve,
                                                      "the flaw of entry " + std::to_string(decided.flaw)})};
    }

    Payloads of_intake() const {
        if (step_.task == Task::decide_flaw)
            return flaw_decided();
        if (step_.task == Task::mark_flaw)
            return one(flaw_marked());
        if (step_.task == Task::test_pressure)
            return of_decks();
        if (step_.task == Task::state_conditions)
            return conditions();
        ticked("done");
        if (step_.task == Task::wash)
            return one(StepDone{"washed"});
        if (step_.task == Task::inspect)
            return one(StepDone{"inspected for cracks, threads, caps and registers"});
        elsewhere("a file, or the passport");
    }

    /// This campaign ends as it is, and the next begins from what was measured last; a main whose cap is replaced goes
    /// into it with a cap of its own.
    Payloads tunnel_worked_again() const {
        enum class Way { work_again, replace_cap };
        const Way way = choice<Way>("choice");
        TunnelPolicy policy = tunnel_policy_of(state_);
        Payloads all = one(TunnelCut{policy.method, words("reason")});
        if (way == Way::work_again)
            return all;
        for (const StockLeft& s : a_.tunnel_work.board)
            if (!s.stale && s.to_largest < 0 &&
                std::ranges::find(policy.replaced, s.at.feature) == policy.replaced.end())
                policy.replaced.push_back(s.at.feature);
        all.emplace_back(policy);
        return all;
    }

    Payloads of_tunnel() const {
        switch (step_.task) {
        case Task::state_caps: {
            ConditionsStated stated{with_caps_on(), true};
            stated.conditions.caps_torqued = given<bool>("torqued").value_or(false);
            return one(stated);
        }
        case Task::torque_caps:
            ticked("torqued");
            return one(ConditionsStated{with_caps_on(), false});
        case Task::cut_caps: {
            ticked("as_planned");
            CapsCut cut;
            for (const CapCut& cap : a_.tunnel_work.to_cut) // a cap that was dragged is cut as it was dragged
                cut.cuts.emplace_back(cap.id, given<double>(cap.id.text()).value_or(cap.cut));
            return one(cut);
        }
        case Task::hone_tunnel:
            return one(
                TunnelPass{TunnelPassKind::strokes, static_cast<int>(std::lround(number("strokes"))), {}, false});
        case Task::bore_tunnel:
            return one(
                TunnelPass{a_.tunnel_work.establishing_due ? TunnelPassKind::establishing : TunnelPassKind::final_pass,
                           0, number("protrusion"), is_ticked("new_cutter")});
        case Task::give_bar:
            return figures();
        case Task::mark_main:
            return one(block::MainMarked{*step_.about, choice<block::BarMark>("mark")});
        case Task::finish_tunnel: {
            ticked("done");
            const bool bored =
                tunnel_of(state_).tunnel_policy && tunnel_of(state_).tunnel_policy->method == TunnelMethod::bore;
            return one(TunnelCut{bored ? TunnelMethod::bore : TunnelMethod::hone, words_if("note")});
        }
        case Task::tick_tunnel:
            ticked("done");
            for (const std::string& step : cap_steps())
                if (step_.id.ends_with(id_part(step)))
                    return one(StepDone{step});
            elsewhere("a step of the caps");
        case Task::pass_tunnel: {
            const auto kind = choice<TunnelPassKind>("pass");
            const auto strokes = static_cast<int>(std::lround(if_given("strokes").value_or(0)));
            const bool hone = kind == TunnelPassKind::strokes;
            return one(TunnelPass{kind, hone ? strokes : 0, hone ? std::nullopt : if_given("protrusion"), false});
        }
        case Task::cut_tunnel:
            return one(TunnelCut{choice<TunnelMethod>("method"), words_if("note")});
        case Task::decide_bored:
            return one(GatePassed{Rule::sign_off, "tunnel", words("reason")});
        case Task::decide_doubt:
            return one(
                GatePassed{a_.tunnel_work.begun ? Rule::sign_off : Rule::tunnel_first, "tunnel", words("reason")});
        case Task::read_ring:
            return one(IndicatorSag{number("at_12"), number("at_6")});
        case Task::move_bar:
            return done("screws turned, bar dialled in");
        case Task::decide_main:
        case Task::plan_tunnel:
            if (answers_.contains("choice") && words("choice") != "go_on")
                return tunnel_worked_again();
            [[fallthrough]];
        case Task::accept:
        case Task::give_limits:
            return one(GatePassed{Rule::tunnel_first, "tunnel", words("reason")});
        default:
            elsewhere("a reading or a log");
        }
    }

    Payloads of_decks() const {
        const std::string bank = step_.about ? step_.about->bank : "";
        switch (step_.task) {
        case Task::cut_deck:
        case Task::cut_head: {
            const bool head = step_.task == Task::cut_head;
            const std::string what = step_.id.substr((step_.about->text() + (head ? "/head/" : "/")).size());
            const PassKind kind = what.starts_with("witness")  ? PassKind::witness
                                  : what.starts_with("finish") ? PassKind::finish
                                  : what.starts_with("spring") ? PassKind::spring
                                                               : PassKind::pass;
            DeckCut cut{bank, kind, kind == PassKind::spring ? if_given("depth").value_or(0) : number("depth"),
                        is_ticked("clean"), places("dark")};
            if (!cut.dark.empty()) { // what is painted dark was not touched, whatever was ticked
                cut.brush = given<double>("brush").value_or(DeckCut::default_brush);
                cut.rest_bright = std::exchange(cut.clean, false); // everywhere else, then
            }
            if (kind == PassKind::spring && answers_.contains("lines"))
                cut.lines = choice<MarkerLines>("lines");
            cut.head = head;
            return one(cut);
        }
        case Task::level:
            return done("block levelled, " + bank); // what its corners read is void
        case Task::level_head:
            return done(std::string(head_levelled) + bank);
        case Task::read_set_up_on: {
            SetUpRead set_up = set_up_of(state_, bank);
            set_up.surface = words("surface");
            set_up.readings.clear(); // what was read is of another surface
            return one(set_up);
        }
        case Task::ease_clamp:
            return done(clamp_eased + bank);
        case Task::flush_deck:
            return one(DeckCut{bank, PassKind::flush, number("depth"), false, {}});
        case Task::confirm_datum:
            return one(StepDone{datum_confirmed(bank)});
        case Task::decide_flaw:
            return flaw_decided();
        case Task::mark_flaw:
            return one(flaw_marked());
        case Task::test_pressure:
            return one(PressureTested{words("result") == "tight", words_if("note")});
        case Task::note_finish: {
            const auto um = if_given("ra_um");
            return one(FinishNoted{bank, choice<CutterState>("cutter"), um ? std::optional(*um / 1000) : std::nullopt,
                                   words_if("note")});
        }
        case Task::work_head:
            return one(HeadWork{bank, {}, {}, number("cut"), if_given("engine_figures/chamber_mm3")});
        case Task::give_volumes:
            return figures();
        case Task::give_target: {
            DeckTargetChosen target = decks_of(state_).target;
            const double value = number("height");
            (target.school == TargetSchool::ratio       ? target.ratio
             : target.school == TargetSchool::clearance ? target.clearance
                                                        : target.height) = value;
            return one(target);
        }
        case Task::give_limits:
        case Task::go_on_unmeasured:
            return one(GatePassed{Rule::sign_off, step_.about->text(), words("reason")});
        case Task::decide_deck:
            if (a_.decks.kind == DeckStep::will_not_clean) {
                const DeckTargetChosen& target = decks_of(state_).target;
                return {Payload(Note{words("reason")}),
                        Payload(DeckTargetChosen{TargetSchool::least_cut, target.equal, {}, {}, {}, target.clean})};
            }
            return one(GatePassed{Rule::sign_off, step_.about ? step_.about->text() : "decks", words("reason")});
        case Task::look_why_dark:
            return one(StepDone{looked_why_dark(bank)});
        default:
            elsewhere("a reading, a log, or the page of the decks");
        }
    }

    /// What is left in its wall is kept as a pit of that wall. One that is open, nobody says how deep, reaches past
    /// what the hone would take.
    Payloads trial_judged_so(const FeatureId& bore) const {
        const std::string seen = words("trial");
        std::optional<double> depth = seen == "pits" ? std::optional(number("depth")) : if_given("depth");
        const auto& holes = a_.cylinders->boring.holes;
        const auto h = std::ranges::find(holes, bore, &HoleProgress::id);
        if (seen == "open" && !depth && h != holes.end())
            depth = (pistons_of(state_).hone_stock + std::max(0.0, h->still())) / 2 + deeper_than_the_hone;
        Payloads all = one(BoreStepDone{bore, trial_judged, {}, seen});
        if (seen != "clean" && depth && *depth > 0)
            all.insert(all.begin(), BorePitted{bore, *depth, "", "", words_if("note")});
        return all;
    }

    Payloads of_cylinders() const {
        const FeatureId bore = step_.about.value_or(FeatureId{});
        switch (step_.task) {
        case Task::plan_cylinders: {
            CylinderPlanChosen plan = cylinder_plan_of(state_);
            return one(plan);
        }
        case Task::decide_size:
        case Task::decide_wall:
        case Task::decide_over:
        case Task::decide_large:
        case Task::refuse_insert:
        case Task::choose_bore:
            return one(BoreDecided{bore, choice<BoreChoice>("choice", block::bore_choice_keys), words_if("note")});
        case Task::note_pit:
            return one(BorePitted{bore, number("depth"), words("level"), words("side"), ""});
        case Task::note_roughness: {
            const auto of = [this](const char* key, double unit) {
                const auto number = if_given(key);
                return number ? std::optional(*number * unit) : number;
            };
            constexpr double um = 1e-3, percent = 0.01;
            return one(block::RoughnessRead{bore, of("ra_um", um), of("rz_um", um), of("rk_um", um), of("rpk_um", um),
                                            of("rvk_um", um), of("mr1_percent", percent), of("mr2_percent", percent)});
        }
        case Task::give_sizes: {
            PistonsStated pistons = pistons_of(state_);
            pistons.size = number("piston");
            return one(pistons);
        }
        case Task::measure_insert:
            return figures();
        case Task::bore:
            return one(BoreCut{
                bore, BoreOperation::rough, step_.number, number("setting"), is_ticked("new_edge"), 0, "", {}, ""});
        case Task::look_at_edge:
            return one(BoreStepDone{bore, edge_looked_at, {}, ""});
        case Task::decide_place:
            return one(GatePassed{Rule::sign_off, bore.text(), words("reason")});
        case Task::judge_trial:
            return trial_judged_so(bore);
        case Task::press:
            return one(InsertFitted{bore, number("proud"), {}, {}, words_if("note")});
        case Task::put_plate_on: {
            Conditions c = with_caps_on();
            c.plate_on = words("plate") == "on";
            return one(ConditionsStated{c, false});
        }
        case Task::hone_bore: {
            BoreCut cut{bore, BoreOperation::hone, step_.least, {}, false, 0, "", {}, ""};
            cut.strokes = static_cast<int>(std::lround(number("strokes")));
            cut.load = if_given("load");
            if (const auto degrees = if_given("hatch"))
                cut.hatch = *degrees * radians_per_degree;
            const auto& bores = a_.cylinders->hone.bores;
            if (const auto b = std::ranges::find(bores, bore, &HoneBore::id); b != bores.end() && b->step)
                cut.step = hone_plan_of(state_).steps[*b->step].grit;
            return one(cut);
        }
        case Task::rest: {
            return one(rest_begun(at_, number("minutes")));
        }
        case Task::dress: {
            ticked("seen");
            for (const std::string& what : bore_steps()) {
                const std::string note = words_if("note");
                if (step_.id.ends_with(id_part(what)))
                    return one(BoreStepDone{bore, what, if_given("reading"), note.empty() ? "seen" : note});
            }
            elsewhere("the page of the cylinders");
        }
        default:
            elsewhere("a reading, a log, or the page of the cylinders");
        }
    }

    Payloads of_lifters() const {
        const FeatureId lifter = step_.about.value_or(FeatureId{});
        switch (step_.task) {
        case Task::decide_bush:
        case Task::decide_lifter:
        case Task::choose_lifter:
            return one(LifterDecided{lifter, choice<LifterChoice>("choice"), words_if("note")});
        case Task::give_lifter_numbers:
            return figures();
        case Task::cut_lifter: {
            const auto& each = a_.lifters->board.each;
            const auto p = std::ranges::find(each, lifter, &LifterProgress::id);
            const BoreOperation operation = p != each.end() && p->next ? p->next->operation : BoreOperation::rough;
            return one(BoreCut{lifter, operation, step_.number, number("setting"), false, 0, "", {}, ""});
        }
        case Task::press_bush:
            return one(InsertFitted{lifter, 0, lifter_plan_of(state_).key_angle, lifter_plan_of(state_).height, ""});
        default:
            elsewhere("a reading, a log, or the page of the lifters");
        }
    }

    const JobState& state_;
    const Assessment& a_;
    std::string at_;
};

} // namespace

Result<std::vector<Payload>> answer(const JobState& state, const Assessment& a, const Step& step,
                                    const Answers& answers, const std::string& at) {
    try {
        return Answering(state, a, step, answers, at).entries();
    } catch (const Refused& refused) {
        return tl::unexpected(Faults{refused.fault});
    }
}

} // namespace pallix::planning
