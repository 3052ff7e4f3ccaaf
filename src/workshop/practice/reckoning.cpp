// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/reckoning.h"

#include "block/digest.h"
#include "block/metal.h"
#include "block/sealed_text.h"
#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/pass_plan.h"
#include "planning/lifters/lifter_plan.h"
#include "planning/readings/reading_plan.h"
#include "planning/shop/work_times.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/hone_line.h"
#include "planning/tunnel/tunnel_study.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace pallix::workshop {
namespace {

using block::Entry;
using block::FeatureId;
using block::FeatureKind;
using block::Folded;
using block::MeasuredAt;
using block::Quantity;
using block::Stage;
using planning::Remark;
using planning::RemarkKind;
using planning::Told;

constexpr double needle = 0.002; ///< mm, what no gauge of the bench tells

block::Faults not_practice(std::string what) {
    return {{"practice", 0, std::move(what), "a job that was begun as practice"}};
}

class Reckoner {
  public:
    Reckoner(const std::vector<Entry>& entries, const block::Blueprint& blueprint, const HiddenTruth& truth)
        : entries_(entries), b_(blueprint), truth_(truth), found_(blueprint, truth), bench_(blueprint, truth) {}

    Reckoning all() {
        go_through();
        const Folded state = block::fold(entries_, &logs_);
        const planning::Assessment a = planning::assess(state, nullptr, "");
        r_.finished = std::ranges::none_of(a.steps.steps, [](const planning::Step& step) {
            return planning::is_open(step) && step.task != planning::Task::open_truth;
        });
        for (const auto& [stage, minutes] : planning::job_hours(entries_, "", false).minutes)
            r_.minutes += minutes;
        if (asked(state, a, Stage::tunnel))
            mains(state);
        if (asked(state, a, Stage::decks))
            decks(state);
        if (asked(state, a, Stage::cylinders))
            cylinders(state, a);
        if (asked(state, a, Stage::lifters))
            lifters(state);
        claims(state, a);
        shapes(state, a);
        score();
        return std::move(r_);
    }

  private:
    /// The ledger once more, entry by entry: what could be known before each, and what the machines made of it.
    void go_through() {
        std::vector<Entry> before;
        const auto out = block::struck(entries_);
        for (std::size_t i = 0; i < entries_.size(); ++i) {
            const Entry& entry = entries_[i];
            if (begun_ && matters(entry.payload)) {
                const Folded state = block::fold(before, &logs_);
                const planning::Assessment a = planning::assess(state, nullptr, entry.time);
                std::vector<Remark> remarks = planning::remarks_on(a, entry.payload);
                // What is called off a deck hangs on whether its belief was worked out by then: either is as called.
                if (!remarks.empty() && std::holds_alternative<block::DeckCut>(entry.payload))
                    if (std::vector<Remark> believed = planning::remarks_on(
                            planning::assess(state, nullptr, entry.time, planning::clean_depths(state)), entry.payload);
                        believed.empty() || believed.front().by < remarks.front().by)
                        remarks = std::move(believed);
                for (Remark& remark : remarks)
                    r_.remarks.push_back({entry.sequence, std::move(remark)});
            }
            if (const auto* reading = std::get_if<block::Reading>(&entry.payload)) {
                ++r_.readings;
                if (!out[i])
                    hold(*reading, entry.sequence);
            }
            begun_ = begun_ || std::holds_alternative<block::PracticeBegun>(entry.payload);
            bench_.work(entries_, i);
            widen(entry.payload);
            before.push_back(entry);
        }
        r_.needless = static_cast<std::size_t>(std::ranges::count_if(
            r_.remarks, [](const RemarkAt& at) { return at.remark.kind == RemarkKind::not_needed; }));
    }
    /// Of a copy whose job has no scope, cylinders that nobody has planned anything for are not.
    static bool asked(const Folded& state, const planning::Assessment& a, Stage stage) {
        const bool planned = stage != Stage::cylinders || intake_of(state).scope ||
                             (a.cylinders && a.cylinders->step != planning::CylinderStep::plan);
        return planned && planning::wanted(state, stage);
    }
    static bool matters(const block::Payload& p) {
        return block::takes_metal(p) || std::holds_alternative<block::Reading>(p) ||
               std::holds_alternative<block::GatePassed>(p) || std::holds_alternative<block::StepSkipped>(p);
    }
    /// What was cut for a bush is off, whatever stands in it now.
    void widen(const block::Payload& p) {
        const auto* cut = std::get_if<block::BoreCut>(&p);
        if (cut && cut->bore.kind == FeatureKind::lifter)
            widest_[cut->bore] = std::max(widest_[cut->bore], bench_.block().truth(size_of(cut->bore)));
    }
    static MeasuredAt size_of(const FeatureId& lifter) { return {lifter, Quantity::size, "top", "along", {}}; }
    /// Against what a perfect gauge would have read then.
    void hold(const block::Reading& reading, std::int64_t sequence) {
        constexpr double beyond = 6; // times its standard uncertainty
        if (block::is_bracket(reading.at.quantity))
            return;
        const auto sent = PracticeBench(bench_).read(reading.at);
        const double u = std::max(truth_.gauges.scatter, reading.instrument.resolution);
        if (sent && block::is_length(reading.at.quantity) && std::abs(reading.value - sent->is) > beyond * u + needle)
            r_.slips.push_back({sequence, reading.at.feature.text(), reading.value - sent->is});
    }

    void leave(std::string about, double out) { r_.left.push_back({std::move(about), out, out <= needle, {}, {}}); }
    /// Between what its size is to be.
    void window(std::optional<double> least, std::optional<double> most) {
        r_.left.back().least = least;
        r_.left.back().most = most;
    }

    void mains(const Folded& state) {
        for (const block::MainBlueprint& main : b_.mains)
            leave(main.id.text(), bench_.block().main_out(main));
        leave("tunnel", bench_.block().straightness() - planning::limits_of(state).straightness);
        MetalOff off{"tunnel", 0, least_cap_cut(state, 2 * truth_.gauges.stated), least_cap_cut(state, 0)};
        std::map<FeatureId, double> cut;
        const auto out = block::struck(entries_);
        for (const Entry& entry : entries_)
            if (const auto* caps = std::get_if<block::CapsCut>(&entry.payload))
                for (const auto& [id, depth] : caps->cuts)
                    off.taken = std::max(off.taken, cut[id] += depth);
        r_.metal.push_back(off);
    }
    /// The largest cut off a cap with which the hone would have cleaned the tunnel as it was found.
    /// @param margin mm that nobody knows each place better than
    double least_cap_cut(const Folded& state, double margin) const {
        const planning::TunnelPolicy policy = planning::tunnel_policy_of(state);
        std::vector<planning::Housing> mains = found_.block().mains();
        for (planning::Housing& main : mains)
            main.margin = margin;
        const planning::TunnelPlan plan = planning::plan_hone(mains, policy, planning::hone_line(mains, policy));
        return plan.feasible ? plan.max_cap_cut : 0;
    }

    void decks(const Folded& state) {
        const bool heights = truth_.gauges.bridge;
        double equal = std::numeric_limits<double>::infinity();
        for (const block::BankBlueprint& bank : b_.banks)
            equal = std::min(equal, found_.block().deck(bank.id).clean_at);
        for (const block::BankBlueprint& bank : b_.banks) {
            const SimulatedBlock::DeckStand stand = bench_.block().deck(bank.id), was = found_.block().deck(bank.id);
            const double flat = stand.high - stand.low - planning::limits_of(state).flatness;
            const bool left_alone = stand.taken == 0 && was.high - was.low <= planning::limits_of(state).flatness;
            const double needed = left_alone ? 0 : heights ? was.high - equal : was.needed;
            const double finish = needed > 0 ? planning::usual_passes().finish : 0,
                         unsure = needed > 0 ? margin(bank) : 0;
            // Who cannot stay over the blueprint's limit is not to blame for it: the line of the mains may have risen.
            const double risen = was.high - stand.taken - stand.high;
            const auto limit = bank.deck_height.smallest();
            const double under =
                limit && heights && equal - risen - finish - unsure >= *limit ? *limit - stand.low : -1;
            const double dark = stand.taken > 0 ? stand.needed - stand.taken : -1;
            leave("deck." + bank.id, std::max({flat, under, dark}));
            r_.metal.push_back({"deck." + bank.id, stand.taken, needed + finish + unsure, needed});
        }
    }
    /// How much deeper than its lowest read place a deck is cut to be clean as surely as 95 %.
    double margin(const block::BankBlueprint& bank) const {
        constexpr double by_feel = 0.05; // a pass: nothing tells how far the dark still goes
        if (!truth_.gauges.bridge)
            return by_feel;
        const Folded known = with_all_readings(planning::Measuring::deck_heights, 0);
        const auto belief = planning::believe_deck(known, bank.id);
        if (!belief)
            return 0;
        return std::max(0.0, belief->clean_depth().sure - found_.block().deck(bank.id).needed);
    }
    /// The job as it would have begun had everything of a kind been read.
    /// @param over mm, that each reading is too large by: as much as its gauge may be off
    Folded with_all_readings(planning::Measuring what, double over) const {
        std::vector<Entry> all;
        for (const Entry& entry : entries_) {
            all.push_back(entry);
            if (std::holds_alternative<block::PracticeBegun>(entry.payload))
                break;
        }
        for (const block::BankBlueprint& bank : b_.banks)
            for (const MeasuredAt& at : planning::all_places(b_, what, bank.id)) {
                block::Reading r;
                r.at = at;
                r.words = at.key();
                r.value = found_.block().truth(at) + over;
                r.instrument = found_.instrument(at);
                all.push_back({static_cast<std::int64_t>(all.size() + 1), all.back().time, "", r});
            }
        return block::fold(all);
    }

    void cylinders(const Folded& state, const planning::Assessment& a) {
        double taken = 0, found = 0;
        for (const block::HoleBlueprint& bore : b_.bores) {
            const auto meant = planning::bore_sizes(
                state, bore.id, a.cylinders ? a.cylinders->study.oversize : std::optional<double>());
            double least = std::numeric_limits<double>::infinity(), most = 0, was = 0;
            for (const char* level : {"top", "middle", "bottom"})
                for (const char* way : {"across", "along"}) {
                    const MeasuredAt at{bore.id, Quantity::size, level, way, {}};
                    const double d = bench_.block().truth(at);
                    least = std::min(least, d);
                    most = std::max(most, d);
                    was = std::max(was, found_.block().truth(at));
                }
            const double out = meant ? std::max(meant->finish - least, most - meant->finish_most) : 1;
            leave(bore.id.text(), out);
            if (meant)
                window(meant->finish, meant->finish_most);
            taken = std::max(taken, most - bore.diameter.nominal);
            found = std::max(found, was - bore.diameter.nominal);
        }
        const auto study = planning::study_cylinders(
            with_all_readings(planning::Measuring::cylinder_sizes, 2 * truth_.gauges.stated), {});
        const double needed = smallest_that_holds(state, found);
        const double size = study && study->oversize ? std::max(*study->oversize, needed) : needed;
        constexpr double clearance = 0.06; // mm, the finished bore over the size that its piston is named by
        r_.metal.push_back({"cylinders", taken, size + clearance, needed + clearance});
    }
    /// The size on offer that who knew the truth would have taken.
    static double smallest_that_holds(const Folded& state, double worst) {
        const auto plan = planning::cylinder_plan_of(state);
        std::vector<double> sizes = plan.oversizes;
        std::ranges::sort(sizes);
        const auto holds = std::ranges::find_if(sizes, [worst](double size) { return size >= worst; });
        return holds == sizes.end() ? worst : *holds;
    }

    void lifters(const Folded& state) {
        const block::LifterPlanChosen plan = planning::lifter_plan_of(state);
        if (!plan.lifter || !plan.clearance_least || !plan.clearance_most)
            return;
        std::optional<MetalOff> worst;
        for (const block::HoleBlueprint& lifter : b_.lifters) {
            const double was = found_.block().truth(size_of(lifter.id)),
                         d = bench_.block().truth(size_of(lifter.id)) - *plan.lifter;
            leave(lifter.id.text(), std::max(*plan.clearance_least - d, d - *plan.clearance_most));
            window(*plan.lifter + *plan.clearance_least, *plan.lifter + *plan.clearance_most);
            const auto cut = widest_.find(lifter.id);
            const MetalOff off{lifter.id.text(), cut == widest_.end() ? 0 : cut->second - was,
                               off_a_lifter(lifter.id, plan, 2 * truth_.gauges.stated),
                               off_a_lifter(lifter.id, plan, 0)};
            if (!worst || off.taken - off.knowable > worst->taken - worst->knowable)
                worst = off;
        }
        if (worst)
            r_.metal.push_back(*worst);
    }
    /// What has to come off one, on diameter: all for a bush, or up to the middle of its clearances.
    /// @param margin mm that nobody knows it better than; 0 who knew the truth
    [[nodiscard]] double off_a_lifter(const FeatureId& id, const block::LifterPlanChosen& plan, double margin) const {
        const double was = found_.block().truth(size_of(id)), clearance = was - *plan.lifter;
        const bool off_place = plan.position && norm(found_.block().off_its_place(id)) > *plan.position - 2 * margin;
        const bool bush =
            off_place || clearance > *plan.clearance_most - margin || plan.school == block::LifterSchool::bush_all;
        if (bush && plan.bush_outside && plan.interference)
            return std::max(0.0, *plan.bush_outside - *plan.interference - was);
        if (clearance >= *plan.clearance_least + margin)
            return 0;
        const double to = margin > 0 ? (*plan.clearance_least + *plan.clearance_most) / 2 : *plan.clearance_least;
        return to - clearance;
    }

    void shapes(const Folded& state, const planning::Assessment& a) {
        ShapeLimits limits = drawn_limits(b_);
        limits.straightness = planning::limits_of(state).straightness;
        for (const PartLeft& part : r_.left)
            if (const auto id = FeatureId::parse(part.about); id && part.least && part.most)
                limits.sizes.emplace(*id, std::pair(*part.least, *part.most));
        r_.shapes = shapes_of(found_.block(), bench_.block(), limits);
        std::erase_if(r_.shapes, [&](const Shape& shape) { return !asked(state, a, stage_of(shape.what)); });
    }
    static Stage stage_of(ShapeOf what) {
        switch (what) {
        case ShapeOf::deck:
            return Stage::decks;
        case ShapeOf::cylinders:
            return Stage::cylinders;
        case ShapeOf::lifters:
            return Stage::lifters;
        default:
            return Stage::tunnel;
        }
    }

    void claims(const Folded& state, const planning::Assessment& a) {
        for (const planning::Outcome& outcome : planning::outcomes(state, a))
            if (const auto good = truly(outcome); good && outcome.verdict)
                r_.claims.push_back({outcome.what, outcome.bank, *outcome.verdict, *good});
    }
    /// @return nothing where the exercise does not ask for it
    [[nodiscard]] std::optional<bool> truly(const planning::Outcome& outcome) const {
        const auto is = [&](auto belongs) -> std::optional<bool> {
            std::optional<bool> all;
            for (const PartLeft& part : r_.left)
                if (belongs(part.about))
                    all = all.value_or(true) && part.good;
            return all;
        };
        switch (outcome.what) {
        case Told::tunnel_line:
            return is([](const std::string& about) { return about == "tunnel"; });
        case Told::main_size:
            return is([](const std::string& about) { return about.starts_with("main."); });
        case Told::deck_flatness:
            return is([&](const std::string& about) { return about == "deck." + outcome.bank; });
        case Told::bore_size:
            return is([&](const std::string& about) { return about.starts_with("bore." + outcome.bank + "."); });
        default:
            return std::nullopt;
        }
    }

    void score() {
        const auto part = [this](ScorePart p) -> double& { return r_.parts[static_cast<std::size_t>(p)]; };
        const auto most = [](ScorePart p) { return score_part_most[static_cast<std::size_t>(p)]; };
        const auto good = static_cast<double>(std::ranges::count(r_.left, true, &PartLeft::good));
        const double all = std::max(1.0, static_cast<double>(r_.left.size()));
        part(ScorePart::block) = most(ScorePart::block) * good / all;
        // A tenth of a millimetre more than had to come off is all of it.
        constexpr double too_much = 0.1;
        double over = 0;
        for (const MetalOff& off : r_.metal)
            over = std::max(over, off.taken - off.knowable);
        const bool touched = r_.readings > 0 || r_.finished; // who does nothing is not careful
        const double begun = touched && (r_.finished || good > 0) ? 1 : 0;
        part(ScorePart::metal) = begun * most(ScorePart::metal) * std::clamp(1 - over / too_much, 0.0, 1.0);
        double cost = 0;
        for (const RemarkAt& at : r_.remarks)
            cost += cost_of(at.remark);
        part(ScorePart::judgement) = begun * std::max(0.0, most(ScorePart::judgement) - cost);
        constexpr double a_slip = 3, needless = 0.25, most_needless = 4;
        part(ScorePart::readings) =
            begun * std::max(0.0, most(ScorePart::readings) - a_slip * static_cast<double>(r_.slips.size()) -
                                      std::min(most_needless, needless * static_cast<double>(r_.needless)));
        const auto honest = static_cast<double>(std::ranges::count_if(r_.claims, &Claim::honest));
        part(ScorePart::honesty) = r_.claims.empty()
                                       ? (r_.finished ? most(ScorePart::honesty) * good / all : 0)
                                       : most(ScorePart::honesty) * honest / static_cast<double>(r_.claims.size());
    }

    const std::vector<Entry>& entries_;
    const block::Blueprint& b_;
    const HiddenTruth& truth_;
    PracticeBench found_, bench_;
    block::ReadLogs logs_;
    std::map<FeatureId, double> widest_; ///< mm, of the lifters that were cut
    Reckoning r_;
    bool begun_ = false;
};

} // namespace

double cost_of(const Remark& remark) {
    switch (remark.kind) {
    case RemarkKind::against_rule:
        return 5;
    case RemarkKind::left_out:
    case RemarkKind::too_deep:
        return 4;
    case RemarkKind::not_called:
        return 6;
    case RemarkKind::asked_about:
    case RemarkKind::not_needed:
        break; // among the readings
    }
    return 0;
}

bool Claim::honest() const {
    return said == metrology::Verdict::cannot_tell || (said == metrology::Verdict::meets) == good;
}

double Reckoning::score() const {
    return std::accumulate(parts.begin(), parts.end(), 0.0);
}

block::Result<HiddenTruth> hidden_truth(const block::JobState& state) {
    const auto& practice = card_of(state).practice;
    if (!practice || !intake_of(state).blueprint)
        return tl::unexpected(not_practice("this block is no practice"));
    const auto text = block::opened_text(practice->payload.sealed);
    if (!text || block::sha256_hex(*text) != practice->payload.sha256)
        return tl::unexpected(not_practice("the seal of its truth is broken"));
    return read_hidden(*text, *intake_of(state).blueprint);
}

block::Result<Reckoning> reckon(const std::vector<Entry>& entries) {
    const auto opened = std::ranges::find_if(
        entries, [](const Entry& e) { return std::holds_alternative<block::TruthOpened>(e.payload); });
    const std::vector<Entry> counted(entries.begin(), opened);
    const Folded state = block::fold(counted);
    const auto truth = hidden_truth(state);
    if (!truth)
        return tl::unexpected(truth.error());
    const block::Blueprint blueprint = *intake_of(state).blueprint;
    return Reckoner(counted, blueprint, *truth).all();
}

} // namespace pallix::workshop
