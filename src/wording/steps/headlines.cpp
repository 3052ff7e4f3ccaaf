// SPDX-License-Identifier: GPL-3.0-or-later
// What a step is, in a few words.
#include "wording/steps/step_words.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/decks/set_up.h"
#include "wording/common/phrases.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"
#include "wording/shop/shop_words.h"

#include <algorithm>
#include <array>

namespace pallix::wording {

using block::JobState;
using planning::Stage;
using planning::Step;
using planning::Task;

namespace {

std::string about_words(const JobState& state, const Step& step) {
    return step.about ? feature_words(*intake_of(state).blueprint, *step.about) : "";
}

/// What a log is wanted of, by the step's id: "the tunnel", "the right bank", "the cylinders".
std::string probed_words(const JobState& state, const Step& step) {
    switch (step.stage) {
    case Stage::decks:
        return step.about ? the_bank(state, step.about->bank) : "both decks";
    case Stage::cylinders:
        return "the cylinders";
    case Stage::lifters:
        return "the lifters";
    default:
        return "the tunnel";
    }
}

std::string settle_words(const JobState& state, const Step& step) {
    if (step.place)
        return "Too near to tell: read " + place_of_reading(*intake_of(state).blueprint, *step.place) + " again";
    return "Too near to tell: measure " + probed_words(state, step) + " again";
}

std::string cut_words(const JobState& state, const Step& step) {
    const bool head = step.task == Task::cut_head;
    const std::string what = step.id.substr((step.about->text() + (head ? "/head/" : "/")).size());
    const std::string kind = what.substr(0, what.find('/'));
    const auto& keys = block::pass_kind_keys;
    const auto* found = std::ranges::find(keys, kind);
    const auto pass = static_cast<block::PassKind>(found == keys.end() ? 1 : found - keys.begin());
    return capitalised(bank_name(bank_of(state, step.about->bank))) + (head ? ", head: " : ": ") + pass_name(pass);
}

std::string flaw_on(const JobState& state, const Step& step) {
    if (!step.about)
        return "outside";
    return step.about->kind == block::FeatureKind::deck
               ? "on " + the_bank(state, step.about->bank)
               : "in " + feature_words(*intake_of(state).blueprint, *step.about);
}

/// Tasks whose headline is always the same; those that are not here say of what.
struct PlainHeadline {
    Task task;
    const char* words;
};
constexpr std::array plain_headlines = std::to_array<PlainHeadline>({
    {Task::mend_blueprint, "The blueprint cannot be read"},
    {Task::mend_ledger, "Mend the ledger first"},
    {Task::wash, "Wash the block"},
    {Task::inspect, "Look it over for cracks"},
    {Task::take_log, "Take the probe log in"},
    {Task::state_caps, "Say whether the caps were torqued"},
    {Task::torque_caps, "Caps on, torqued as they will run"},
    {Task::plan_tunnel, "No plan for the tunnel within the limits"},
    {Task::cut_caps, "Cut the caps"},
    {Task::hone_tunnel, "Line hone"},
    {Task::bore_tunnel, "Line bore"},
    {Task::give_bar, "Measure the boring bar"},
    {Task::read_ring, "Sweep a round ring: the indicator sags"},
    {Task::move_bar, "Move the block to the bar"},
    {Task::finish_tunnel, "Every main is in size: say that the tunnel is done"},
    {Task::decide_main, "A main is too large"},
    {Task::decide_bored, "In size, and not cut all round: decide"},
    {Task::decide_doubt, "Measured again and again, and too near to tell: decide"},
    {Task::accept, "Go on without the tunnel, with a reason"},
    {Task::give_target, "Give the number to cut the decks to"},
    {Task::give_volumes, "Give the volumes"},
    {Task::look_why_dark, "Still dark at depth: look why"},
    {Task::plan_cylinders, "Choose the cylinders' centre and size"},
    {Task::give_sizes, "Measure the pistons, or choose a size"},
    {Task::look_at_edge, "Look at the cutting edge"},
    {Task::judge_trial, "Look at the trial hole"},
    {Task::put_plate_on, "Torque plate and caps on, as they will run"},
    {Task::rest, "Let the block rest"},
    {Task::give_lifter_numbers, "Give the shop's numbers for the lifters"},
    {Task::prove_lifters, "Probe the lifters again"},
    {Task::open_truth, "Done: see how it truly is"},
    {Task::hand_over, "Print the passport"},
    {Task::state_conditions, "Conditions of the readings to come"},
    {Task::test_pressure, "Pressure test"},
    {Task::pass_tunnel, "Strokes or a pass through the tunnel"},
    {Task::cut_tunnel, "The tunnel was cut"},
});

const char* plain_headline(Task task) {
    const auto* found = std::ranges::find(plain_headlines, task, &PlainHeadline::task);
    return found == plain_headlines.end() ? "" : found->words;
}

} // namespace

std::string step_headline(const JobState& state, const Step& step, const LengthText& l) {
    using enum Task;
    const std::string about = about_words(state, step);
    switch (step.task) {
    case read:
        return "Read " + place_of_reading(*intake_of(state).blueprint, *step.place);
    case probe:
        return "Probe " + probed_words(state, step) + " again";
    case settle:
        return settle_words(state, step);
    case mark_main:
        return capitalised(about) + ": look at what the pass left";
    case look_at_touch:
        return "One touch of " + about + " stands out: touch it once more";
    case confirm_datum:
        return "Confirm the datum on " + the_bank(state, step.about->bank);
    case decide_flaw:
        return "Decide on the flaw " + flaw_on(state, step);
    case give_limits:
        return step.about ? "The blueprint gives no limits for the height of " + the_bank(state, step.about->bank)
                          : "The blueprint gives no limits for a main's size";
    case decide_deck:
        return step.about ? "Decide on " + the_bank(state, step.about->bank) : "Decide on the banks";
    case go_on_unmeasured:
        return "No bridge, no probe: go on without the height of " + the_bank(state, step.about->bank);
    case cut_deck:
    case cut_head:
        return cut_words(state, step);
    case level:
        return "Level " + the_bank(state, step.about->bank);
    case level_head:
        return "Level the head of " + the_bank(state, step.about->bank);
    case ease_clamp:
        return "A clamp pulls " + the_bank(state, step.about->bank) + " out of shape: ease it";
    case read_set_up_on:
        return "What the indicator runs on, setting up " + the_bank(state, step.about->bank);
    case flush_deck:
        return capitalised(bank_name(bank_of(state, step.about->bank))) + ": take the sleeve flush";
    case feel:
        return "Lay the straightedge on " + the_bank(state, step.about->bank) + " again";
    case decide_size:
        return "Decide on the size of " + about;
    case decide_wall:
        return "Decide on the wall of " + about;
    case measure_insert:
        return "Measure the sleeve for " + about;
    case refuse_insert:
        return "The sleeve for " + about + " will not do";
    case bore:
        return "Bore " + about + " to " + l.with_unit(step.number.value_or(0));
    case decide_over:
        return "Decide on " + about + ": it came out over";
    case press:
        return "Fit the sleeve into " + about;
    case hone_bore:
        return "Hone " + about;
    case dress: {
        std::string what = step.id.substr(step.id.rfind('/') + 1);
        std::ranges::replace(what, '_', ' ');
        return "Dress " + about + ": " + what;
    }
    case decide_place:
        return "Decide on the place of " + about;
    case decide_large:
        return "Decide on " + about + ": it is too large";
    case decide_bush:
        return "The bush does not cover " + about;
    case cut_lifter:
        return "Cut " + about + " to " + l.with_unit(step.number.value_or(0));
    case press_bush:
        return "Press the bush into " + about;
    case decide_lifter:
    case choose_bore:
    case choose_lifter:
        return "Decide on " + about;
    case mark_flaw:
        return "A crack, pit or mark " + flaw_on(state, step);
    case note_finish:
        return "How " + the_bank(state, step.about->bank) + " came out";
    case work_head:
        return "The head of " + the_bank(state, step.about->bank) + " was worked on elsewhere";
    case note_roughness:
        return "What the roughness tester shows of " + about;
    case note_pit:
        return "A pit in " + about;
    case tick_tunnel: {
        std::string what = step.id.substr(step.id.rfind('/') + 1);
        std::ranges::replace(what, '_', ' ');
        return "Caps: " + what;
    }
    default:
        if (std::string of_shop = shop_headline(state, step); !of_shop.empty())
            return of_shop;
        return plain_headline(step.task);
    }
}

} // namespace pallix::wording
