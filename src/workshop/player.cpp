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
    Player(SimulatedBlock& block, const PlayerHabits& habits, std::uint64_t seed)
        : block_(block), habits_(habits), random_(seed) {}

    Played run(std::vector<Payload> opening) {
        for (Payload& p : opening)
            add(std::move(p));
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
        const Step* now = a.steps.now();
        if (!now)
            return wait(a);
        ++played_.steps;
        played_.told.push_back(now->id);
        if (now->task == Task::hand_over) {
            played_.ended = true;
            return;
        }
        if (now->task == Task::feel || (habits_.straightedge && is_height(*now)))
            return lay_straightedge(state, a, *now);
        const bool wants_log = std::ranges::any_of(now->asks, [](const Ask& ask) { return ask.kind == AskKind::file; });
        if (wants_log && habits_.probe)
            return take(state, a, *now, probed());
        if (wants_log)
            now = by_gauge(a, *now);
        if (now->place)
            return read(state, a, *now);
        answer(state, a, *now);
    }
    static bool is_height(const Step& step) { return step.place && step.place->quantity == block::Quantity::height; }

    Payload probed() {
        constexpr double scatter = 0.001; // mm, of a touch
        const std::string text = block_.probe(scatter);
        const std::string name = "probed " + std::to_string(++probings_) + ".csv";
        return block::ProbeLogTaken{name, block::sha256_hex(text), text, scatter, false};
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

    /// A pack of feelers: the thickest that goes in, the thinnest that does not.
    void feel(const Folded& state, const Assessment& a, const Step& step) {
        constexpr std::array pack{0.0, 0.02, 0.03, 0.04, 0.05, 0.06, 0.08, 0.10, 0.15, 0.20, 0.30};
        const auto* stuck = std::ranges::upper_bound(pack, block_.truth(*step.place));
        block::Reading r;
        r.at = *step.place;
        r.words = step.id;
        r.value = *(stuck - 1);
        r.upper = stuck == pack.end() ? 2 * pack.back() : *stuck;
        r.instrument.name = "simulated straightedge";
        r.instrument.kind = block::InstrumentKind::straightedge;
        r.instrument.resolution = 0.01;
        r.conditions = readings_of(state).conditions;
        ++played_.readings;
        take(state, a, step, Payload(r));
    }

    void read(const Folded& state, const Assessment& a, const Step& step) {
        if (block::is_bracket(step.place->quantity))
            return feel(state, a, step);
        const double seen =
            block_.truth(*step.place) + std::normal_distribution<double>(0, habits_.truly * habits_.gauge)(random_);
        const planning::AskedReading asked = asked_for(state, step);
        block::Instrument gauge;
        gauge.name = habits_.gauge_name;
        gauge.kind = step.place->quantity == block::Quantity::size ? block::InstrumentKind::bore_gauge
                                                                   : block::InstrumentKind::dial_indicator;
        gauge.resolution = 0.001;
        gauge.turn = 1;
        gauge.standard_uncertainty = habits_.gauge;
        const block::Expected expected = planning::expectation(state, asked, gauge, block::Unit::mm);
        double typed = std::round(seen * 1000) / 1000;
        if (std::uniform_real_distribution<double>(0, 1)(random_) < habits_.slips) {
            const double slip = std::uniform_real_distribution<double>(0, 1)(random_) < 0.5 ? 1 : 0.1;
            ++played_.slips;
            const auto wrong = understood(typed + slip, expected);
            if (wrong && wrong->suspicion == block::Suspicion::none)
                typed += slip; // nobody asked
            else
                ++played_.caught; // asked about, looked at again, typed as it is
        }
        // A repeat unlike what the place gave before: he looks, and strikes what was wrong.
        if (const auto now = understood(typed, expected); now && now->suspicion == block::Suspicion::unlike_repeat)
            if (const block::MeasuredPlace* before = readings_of(state).place(*step.place);
                before && std::abs(before->value - seen) > 10 * habits_.gauge)
                for (const std::int64_t wrong : before->sequences)
                    add(block::Strike{wrong, "slipped"});
        block::Reading r;
        r.at = *step.place;
        r.words = step.id;
        r.value = typed;
        r.confirmed = true;
        r.instrument = gauge;
        r.conditions = readings_of(state).conditions;
        ++played_.readings;
        take(state, a, step, Payload(r));
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
        if (step.task == Task::mark_main)
            answers["mark"] =
                std::string(block::bar_mark_keys.at(static_cast<std::size_t>(block_.mark_of(*step.about))));
        if (step.task == Task::give_bar)
            answers["tunnel_plan/bar_mm"] = SimulatedBlock::bar;
        for (const Ask& ask : step.asks)
            fill(ask, answers);
        if (step.task == Task::cut_deck || step.task == Task::flush_deck)
            cut_deck(step, answers);
        if (step.task == Task::press)
            answers["proud"] = block_.press(*step.about);
        if (step.task == Task::press_bush)
            block_.press(*step.about);
        if (step.task == Task::hone_tunnel)
            answers["strokes"] = number(answers, "strokes", first_strokes);
        if (a.tunnel_work.study && step.stage == block::Stage::tunnel)
            block_.set_up_bar(a.tunnel_work.study->plan.line);
        if (step.task == Task::hone_bore)
            answers["strokes"] = hone_strokes(state, a, step);
        const auto chosen = answers.find("choice");
        const bool mended =
            chosen != answers.end() && chosen->second == Answers::mapped_type(std::string("work_again"));
        if (!mended && std::ranges::find(against_a_rule, step.task) != against_a_rule.end())
            played_.decisions.push_back(step.id);
        const auto entries = planning::answer(state, a, step, answers, time());
        if (!entries) {
            played_.stuck = step.id + ": " + entries.error().front().text();
            return;
        }
        for (const Payload& p : *entries) {
            work(p);
            take(state, a, step, p);
        }
    }
    void tell_of_sleeve(const Step& step, Answers& answers) const {
        const double nominal = block_.blueprint().hole(*step.about)->diameter.nominal;
        answers["insert_measured/inside_mm"] = nominal - 1;
        answers["insert_measured/length_mm"] = 140.0;
        answers["insert_measured/interference_mm"] = 0.03;
        answers["insert_measured/parent_outside_mm"] = nominal + 8 * SimulatedBlock::sleeve_wall;
    }
    static double number(const Answers& answers, const std::string& key, double otherwise) {
        const auto found = answers.find(key);
        return found == answers.end() ? otherwise : std::get<double>(found->second);
    }
    static void fill(const Ask& ask, Answers& answers) {
        if (answers.contains(ask.key))
            return;
        if (ask.kind == AskKind::text)
            answers[ask.key] = std::string("as it stands");
        else if (ask.kind == AskKind::choice && !ask.choices.empty())
            answers[ask.key] = ask.choices.front();
        else if (ask.kind == AskKind::tick && (ask.key == "done" || ask.key == "seen"))
            answers[ask.key] = true;
    }
    void cut_deck(const Step& step, Answers& answers) {
        if (step.task == Task::flush_deck)
            return; // only the sleeve is met
        const double depth = number(answers, "depth", step.number.value_or(0));
        const std::vector<metrology::Vec2> dark = block_.cut_deck(step.about->bank, depth);
        answers["clean"] = dark.empty();
        if (!dark.empty())
            answers["dark"] = dark;
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
    /// What the machines make of it.
    void work(const Payload& p) {
        if (const auto* caps = std::get_if<block::CapsCut>(&p))
            block_.cut_caps(caps->cuts);
        if (const auto* pass = std::get_if<block::TunnelPass>(&p))
            pass->protrusion ? block_.bore_tunnel(*pass->protrusion) : block_.hone_tunnel(pass->strokes);
        if (const auto* cut = std::get_if<block::BoreCut>(&p)) {
            if (cut->operation == block::BoreOperation::hone && cut->bore.kind == block::FeatureKind::bore)
                block_.hone(cut->bore, cut->strokes, cut->step.find("brush") != std::string::npos);
            else
                block_.bore(cut->bore, cut->setting.value_or(cut->target.value_or(0)));
        }
    }
    void take(const Folded& state, const Assessment& a, const Step& step, Payload p) {
        if (const auto faults = block::faults_in(p); !faults.empty())
            played_.stuck = step.id + ": " + faults.front().text();
        else if (const auto fault = planning::fault_now(state, a, p))
            played_.stuck = step.id + ": " + fault->text();
        else {
            if (habits_.forecasts)
                keep_forecast(state, p);
            add(std::move(p));
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
        return usual * std::lognormal_distribution<double>(0, 0.33)(random_);
    }
    [[nodiscard]] std::string time() const {
        return block::time_text(*block::read_time(habits_.begins) + std::chrono::seconds(std::lround(60 * minutes_)));
    }

    SimulatedBlock& block_;
    PlayerHabits habits_;
    std::mt19937_64 random_;
    block::ReadLogs logs_;
    Played played_;
    std::map<std::string, std::optional<planning::DeckBelief>> believed_; ///< by question
    double minutes_ = 0;
    int waited_ = 0, probings_ = 0, worked_again_ = 0;
};

} // namespace

Played play(SimulatedBlock& block, std::vector<Payload> opening, const PlayerHabits& habits, std::uint64_t seed) {
    return Player(block, habits, seed).run(std::move(opening));
}

} // namespace pallix::workshop
