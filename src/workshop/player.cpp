// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/player.h"

#include "block/digest.h"
#include "block/reading_text.h"
#include "block/state/bore_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/times.h"
#include "planning/common/assessment.h"
#include "planning/common/entry_rules.h"
#include "planning/cylinders/honing.h"
#include "planning/decks/deck_belief.h"
#include "planning/readings/reading_plan.h"
#include "planning/shop/forecasts.h"
#include "planning/steps/answer.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <map>
#include <set>

namespace pallix::workshop {
namespace {

using block::Folded;
using block::Payload;
using planning::Answers;
using planning::Ask;
using planning::AskKind;
using planning::Assessment;
using planning::Step;
using planning::StepState;
using planning::Task;

constexpr int first_strokes = 20; ///< of a hone, before it is known what a stroke takes

constexpr std::array against_a_rule{Task::accept,       Task::plan_tunnel,      Task::decide_main, Task::decide_bored,
                                    Task::decide_doubt, Task::go_on_unmeasured, Task::decide_deck, Task::give_limits,
                                    Task::decide_over,  Task::decide_large,     Task::decide_size};

class Player {
  public:
    Player(PracticeBench& bench, const PlayerHabits& habits, std::uint64_t seed)
        : bench_(bench), habits_(habits), random_(seed, 2) {}

    Played run(std::vector<Payload> opening) {
        for (Payload& p : opening)
            add(std::move(p));
        if (habits_.thermometer)
            add(block::ConditionsStated{{{}, {}, bench_.gauges().part_c, bench_.gauges().gauge_c, ""}, false});
        while (played_.steps < habits_.patience && played_.stuck.empty() && !played_.ended)
            next();
        if (!played_.ended && played_.stuck.empty())
            played_.stuck = "given up at " + (played_.told.empty() ? "the start" : played_.told.back());
        return std::move(played_);
    }

  private:
    void next() {
        const Folded state = block::fold(played_.entries, &logs_);
        Assessment a = planning::assess(state, nullptr, time());
        if (habits_.sure && a.decks.kind == planning::DeckStep::cut)
            a = planning::assess(state, nullptr, time(), depths_of(state));
        if (habits_.careless && pass_a_gate(state, a))
            return;
        const Step* now = a.steps.now();
        if (!now)
            return wait(a);
        ++played_.steps;
        played_.told.push_back(now->id);
        if (now->task == Task::hand_over || now->task == Task::open_truth) {
            played_.ended = true;
            return;
        }
        if (now->task == Task::feel || (habits_.straightedge && is_height(*now)))
            return lay_straightedge(state, a, *now);
        const bool wants_log = std::ranges::any_of(now->asks, [](const Ask& ask) { return ask.kind == AskKind::file; });
        if (wants_log && habits_.probe)
            return take(state, a, *now, bench_.probe());
        if (wants_log)
            now = by_gauge(a, *now);
        if (now->place)
            return read(state, a, *now);
        answer(state, a, *now);
    }
    static bool is_height(const Step& step) { return step.place && step.place->quantity == block::Quantity::height; }

    /// Whatever keeps him from cutting, he goes on against, once each.
    bool pass_a_gate(const Folded& state, const Assessment& a) {
        for (const Step& step : a.steps.steps)
            if (step.state == StepState::waits && step.cannot_be_undone)
                for (const planning::Wait& wait : step.waits_for)
                    if (wait.rule != block::Rule::order && wait.rule != block::Rule::sign_off &&
                        wait.rule != block::Rule::size_decided && wait.rule != block::Rule::figures &&
                        wait.until.empty() && wait.part.empty() && wait.person.empty() && step.about &&
                        passed_.emplace(wait.rule, step.about->text()).second) {
                        take(state, a, step, block::GatePassed{wait.rule, step.about->text(), "no time"});
                        return true;
                    }
        return false;
    }

    /// Whatever line of that bank was not felt since its last cut.
    void lay_straightedge(const Folded& state, const Assessment& a, const Step& called) {
        for (const auto& at : planning::chosen_places(state, planning::Measuring::feelers, called.about->bank)) {
            const block::MeasuredPlace* felt = readings_of(state).place(at);
            if (felt && !felt->stale())
                continue;
            Step line = called;
            line.id = at.key();
            line.place = at;
            return feel(state, a, line);
        }
        const Step* go_on = a.steps.find("deck." + called.about->bank + "/unmeasured");
        if (go_on)
            return answer(state, a, *go_on);
        played_.stuck = called.id + ": felt all over, and it is called for again";
    }

    /// Worked out once for the same heights and passes.
    planning::CleanDepths depths_of(const Folded& state) {
        planning::CleanDepths depths;
        for (const std::string& bank : planning::banks_to_believe(state))
            if (const auto question = planning::ask_about_deck(state, bank)) {
                if (const auto& belief = believed(*question))
                    depths[bank] = belief->clean_depth();
            }
        return depths;
    }
    const std::optional<planning::DeckBelief>& believed(const planning::DeckQuestion& question) {
        const auto [known, fresh] = believed_.try_emplace(question.key);
        if (fresh)
            known->second = planning::answer(question);
        return known->second;
    }

    void wait(const Assessment& a) {
        const bool timed = std::ranges::any_of(a.steps.steps, [](const Step& s) {
            return s.state == StepState::waits &&
                   std::ranges::any_of(s.waits_for, [](const auto& w) { return !w.until.empty(); });
        });
        if (timed && ++waited_ < 50) {
            minutes_ += 30;
            return;
        }
        const bool open = std::ranges::any_of(a.steps.steps, [](const Step& s) {
            return (s.state == StepState::ready || s.state == StepState::waits) && !s.aside;
        });
        played_.ended = !open;
        if (open)
            played_.stuck = "nothing is called for, and something is left";
    }

    /// Nobody here has a probe: whatever gauge reading is ready instead.
    static const Step* by_gauge(const Assessment& a, const Step& called) {
        for (const Step& s : a.steps.steps)
            if (s.state == StepState::ready && s.place &&
                s.stage == (called.stage == block::Stage::as_found ? block::Stage::tunnel : called.stage))
                return &s;
        return &called;
    }

    // ---- readings ----

    void feel(const Folded& state, const Assessment& a, const Step& step) {
        const auto sent = bench_.read(*step.place);
        block::Reading r = reading_of(state, step);
        r.value = sent->value;
        r.upper = sent->upper;
        r.instrument.name = "simulated straightedge";
        ++played_.readings;
        take(state, a, step, Payload(r));
    }
    [[nodiscard]] block::Reading reading_of(const Folded& state, const Step& step) const {
        block::Reading r;
        r.at = *step.place;
        r.words = step.id;
        r.instrument = bench_.instrument(*step.place);
        r.conditions = readings_of(state).conditions;
        return r;
    }

    void read(const Folded& state, const Assessment& a, const Step& step) {
        if (block::is_bracket(step.place->quantity))
            return feel(state, a, step);
        auto sent = bench_.read(*step.place);
        if (!sent) {
            played_.stuck = step.id + ": there is no gauge for it";
            return;
        }
        block::Reading r = reading_of(state, step);
        if (!habits_.gauge_name.empty())
            r.instrument.name = habits_.gauge_name;
        const block::Expected expected =
            planning::expectation(state, asked_for(state, step), r.instrument, block::Unit::mm);
        const auto asks = [&expected](double value) {
            const auto seen = understood(value, expected);
            return seen ? seen->suspicion : block::Suspicion::none;
        };
        played_.slips += sent->slipped ? 1 : 0;
        if (asks(sent->value) != block::Suspicion::none && !habits_.careless) {
            played_.caught += sent->slipped ? 1 : 0;
            sent = bench_.read(*step.place); // looked at again
        }
        // A repeat unlike what the place gave before: he looks, and strikes what was wrong.
        if (asks(sent->value) == block::Suspicion::unlike_repeat && !habits_.careless)
            if (const block::MeasuredPlace* before = readings_of(state).place(*step.place);
                before && std::abs(before->value - sent->value) > 10 * habits_.gauge)
                for (const std::int64_t wrong : before->sequences)
                    add(block::Strike{wrong, "slipped"});
        r.value = sent->value;
        r.confirmed = asks(sent->value) != block::Suspicion::none;
        ++played_.readings;
        take(state, a, step, Payload(r));
        if (habits_.check_every > 0 && static_cast<int>(unchecked_.size()) >= habits_.check_every)
            hold_against_ring();
    }
    /// The gauge in hand against its ring; what was read since the last time is read anew where its zero has gone.
    /// @return whether it has
    bool hold_against_ring() {
        constexpr double ring = 50; // mm
        const block::RingCheck check = bench_.check(habits_.gauge_name, ring);
        const bool gone = std::abs(check.reading - check.size) > 3 * bench_.gauges().stated;
        for (const std::int64_t wrong : unchecked_)
            if (gone)
                add(block::Strike{wrong, "read from a zero that had gone"});
        unchecked_.clear();
        bench_.work(Payload(check));
        if (!gone)
            add(check);
        return gone;
    }
    static planning::AskedReading asked_for(const Folded& state, const Step& step) {
        for (std::size_t i = 0; i < planning::measurings; ++i) {
            const auto what = static_cast<planning::Measuring>(i);
            const auto places = planning::all_places(*intake_of(state).blueprint, what, step.place->feature.bank);
            if (std::ranges::find(places, *step.place) == places.end())
                continue;
            planning::ReadingWish wish{what, step.place->feature.bank, false, {}, step.place->key(), {}, 0};
            if (const auto asked = planning::next_reading(state, wish); asked && asked->at == *step.place)
                return *asked;
        }
        return {*step.place, 0, 1e9, 1, 1, 1};
    }
    static std::optional<block::Understood> understood(double value, const block::Expected& expected) {
        std::array<char, 40> text{};
        std::snprintf(text.data(), text.size(), "%.3f", value);
        const auto read = block::read_shorthand(text.data(), expected);
        return read ? std::optional(*read) : std::nullopt;
    }

    // ---- everything else ----

    void answer(const Folded& state, const Assessment& a, const Step& step) {
        Answers answers = planning::proposed(step);
        const auto choice = std::ranges::find(step.asks, "choice", &Ask::key);
        if (step.stage == block::Stage::cylinders && choice != step.asks.end())
            answers["choice"] = std::string(
                habits_.sleeves                                                                ? "sleeve"
                : std::ranges::find(choice->choices, "with_the_rest") != choice->choices.end() ? "with_the_rest"
                                                                                               : "leave");
        if (step.stage == block::Stage::tunnel && choice != step.asks.end())
            answers["choice"] = std::string(worked_again_++ < 2 ? "work_again" : "go_on");
        if (step.task == Task::measure_insert)
            tell_of_sleeve(step, answers);
        for (const Ask& ask : step.asks)
            fill(ask, answers);
        if (step.task == Task::cut_deck)
            answers["depth"] = number(answers, "depth", step.number.value_or(0));
        if (step.task == Task::hone_tunnel)
            answers["strokes"] = number(answers, "strokes", first_strokes);
        if (step.task == Task::hone_bore)
            answers["strokes"] = hone_strokes(state, a, step);
        if (habits_.careless)
            take_more(answers);
        if (step.cannot_be_undone && !unchecked_.empty() && habits_.check_every > 0 && hold_against_ring())
            return; // nothing is cut by it
        answers = bench_.completed(step, std::move(answers));
        const auto chosen = answers.find("choice");
        const bool mended =
            chosen != answers.end() && chosen->second == Answers::mapped_type(std::string("work_again"));
        if (!mended && std::ranges::find(against_a_rule, step.task) != against_a_rule.end())
            played_.decisions.push_back(step.id);
        auto entries = planning::answer(state, a, step, answers, time());
        if (!entries) {
            played_.stuck = step.id + ": " + entries.error().front().text();
            return;
        }
        for (Payload& p : *entries) {
            if (auto* caps = std::get_if<block::CapsCut>(&p); caps && habits_.careless)
                for (auto& [id, cut] : caps->cuts)
                    cut *= 1.5;
            take(state, a, step, std::move(p));
        }
    }
    void tell_of_sleeve(const Step& step, Answers& answers) const {
        const double nominal = bench_.block().blueprint().hole(*step.about)->diameter.nominal;
        answers["insert_measured/inside_mm"] = nominal - 1;
        answers["insert_measured/length_mm"] = 140.0;
        answers["insert_measured/interference_mm"] = 0.03;
        answers["insert_measured/parent_outside_mm"] = nominal + 8 * SimulatedBlock::sleeve_wall;
    }
    static double number(const Answers& answers, const std::string& key, double otherwise) {
        const auto found = answers.find(key);
        return found == answers.end() ? otherwise : std::get<double>(found->second);
    }
    void fill(const Ask& ask, Answers& answers) const {
        if (answers.contains(ask.key))
            return;
        if (ask.key == "piston" && ask.kind == AskKind::length) // the largest that are to be had
            answers[ask.key] = bench_.block().blueprint().bores.front().diameter.nominal + 1.6;
        else if (ask.kind == AskKind::text)
            answers[ask.key] = std::string("as it stands");
        else if (ask.kind == AskKind::choice && !ask.choices.empty())
            answers[ask.key] = ask.choices.front();
        else if (ask.kind == AskKind::tick && (ask.key == "done" || ask.key == "seen"))
            answers[ask.key] = true;
    }
    /// Half as much again, to be on the safe side of what he takes for safe.
    static void take_more(Answers& answers) {
        constexpr double too_far = 0.03; // mm
        for (const char* key : {"depth", "strokes"})
            if (const auto found = answers.find(key); found != answers.end())
                found->second = std::ceil(1000 * 1.5 * std::get<double>(found->second)) / 1000;
        if (const auto found = answers.find("setting"); found != answers.end())
            found->second = std::get<double>(found->second) + too_far;
    }
    double hone_strokes(const Folded& state, const Assessment& a, const Step& step) const {
        const auto& bores = a.cylinders->hone.bores;
        const auto b = std::ranges::find(bores, *step.about, &planning::HoneBore::id);
        if (b == bores.end() || !b->measured || brush_in_hand(state, *b))
            return first_strokes;
        return b->strokes.value_or(first_strokes);
    }
    static bool brush_in_hand(const Folded& state, const planning::HoneBore& b) {
        return b.step && planning::hone_plan_of(state).steps[*b.step].abrasive == block::Abrasive::brush;
    }
    void take(const Folded& state, const Assessment& a, const Step& step, Payload p) {
        if (const auto faults = block::faults_in(p); !faults.empty())
            played_.stuck = step.id + ": " + faults.front().text();
        else if (const auto fault = planning::fault_now(state, a, p))
            played_.stuck = step.id + ": " + fault->text();
        else {
            if (habits_.forecasts)
                keep_forecast(state, p);
            if (std::holds_alternative<block::Reading>(p))
                unchecked_.push_back(static_cast<std::int64_t>(played_.entries.size() + 1));
            add(std::move(p));
            bench_.work(played_.entries, played_.entries.size() - 1);
        }
    }
    void keep_forecast(const Folded& state, const Payload& p) {
        if (const auto* cut = std::get_if<block::DeckCut>(&p); cut && planning::keeps_deck_forecast(state, *cut)) {
            if (const auto question = planning::ask_about_deck(state, cut->bank))
                if (const auto& belief = believed(*question))
                    add(planning::kept_forecast(*belief));
        } else if (const auto* pass = std::get_if<block::TunnelPass>(&p)) {
            auto study = planning::keeps_rise_forecast(state, *pass) ? planning::study_tunnel(state) : std::nullopt;
            if (!study)
                return;
            planning::explain(*study, planning::draw_housings(state, *study));
            if (auto rise = planning::kept_forecast(*study))
                add(std::move(*rise));
        }
    }
    void add(Payload p) {
        minutes_ += habits_.takes_its_time ? minutes_for(p) : 1;
        played_.entries.push_back(
            {static_cast<std::int64_t>(played_.entries.size() + 1), time(), habits_.person, std::move(p)});
    }
    /// About what it takes by the clock, a third more or less; common practice, no source.
    double minutes_for(const Payload& p) {
        const double usual =
            std::holds_alternative<block::Reading>(p)                                                   ? 0.5
            : std::holds_alternative<block::ProbeLogTaken>(p)                                           ? 20
            : std::holds_alternative<block::DeckCut>(p) || std::holds_alternative<block::CapsCut>(p)    ? 12
            : std::holds_alternative<block::BoreCut>(p) || std::holds_alternative<block::TunnelPass>(p) ? 8
                                                                                                        : 1;
        return usual * std::exp(0.33 * random_.normal());
    }
    [[nodiscard]] std::string time() const {
        return block::time_text(*block::read_time(habits_.begins) + std::chrono::seconds(std::lround(60 * minutes_)));
    }

    PracticeBench& bench_;
    PlayerHabits habits_;
    metrology::Deviates random_;
    std::vector<std::int64_t> unchecked_; ///< readings since the gauge was held against its ring
    std::set<std::pair<block::Rule, std::string>> passed_;
    block::ReadLogs logs_;
    Played played_;
    std::map<std::string, std::optional<planning::DeckBelief>> believed_; ///< by question
    double minutes_ = 0;
    int waited_ = 0, worked_again_ = 0;
};

} // namespace

Played play(PracticeBench& bench, std::vector<Payload> opening, const PlayerHabits& habits, std::uint64_t seed) {
    return Player(bench, habits, seed).run(std::move(opening));
}

Played play(SimulatedBlock& block, std::vector<Payload> opening, const PlayerHabits& habits, std::uint64_t seed) {
    PracticeBench bench(block, {.scatter = habits.truly * habits.gauge, .stated = habits.gauge, .slips = habits.slips},
                        seed);
    Played played = play(bench, std::move(opening), habits, seed);
    block = bench.block();
    return played;
}

} // namespace pallix::workshop
