// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/steps/ask_words.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/figures.h"
#include "planning/steps/answer.h"
#include "wording/common/phrases.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/tunnel/tunnel_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>
#include <utility>

namespace pallix::wording {

using block::JobState;
using planning::Ask;
using planning::AskKind;
using planning::Step;
using planning::Task;

namespace {

/// What was done, as its button says. What is not here is answered by a reading, a file or on paper.
struct DoneWord {
    Task task;
    const char* words;
};
constexpr std::array done_words = std::to_array<DoneWord>({
    {Task::wash, "Washed"},
    {Task::inspect, "Looked over"},
    {Task::state_caps, "They were torqued"},
    {Task::torque_caps, "Torqued"},
    {Task::cut_caps, "Caps are cut so"},
    {Task::hone_tunnel, "Honed"},
    {Task::hone_bore, "Honed"},
    {Task::bore_tunnel, "Bored"},
    {Task::bore, "Bored"},
    {Task::finish_tunnel, "The tunnel is done"},
    {Task::cut_deck, "Cut"},
    {Task::flush_deck, "Cut"},
    {Task::level, "Levelled"},
    {Task::level_head, "Levelled"},
    {Task::ease_clamp, "Eased and tightened"},
    {Task::read_set_up_on, "Keep"},
    {Task::cut_head, "Cut"},
    {Task::cut_lifter, "Cut"},
    {Task::work_head, "Note it"},
    {Task::press, "It is in"},
    {Task::press_bush, "It is in"},
    {Task::rest, "It rests"},
    {Task::put_plate_on, "Torqued on"},
    {Task::confirm_datum, "Confirmed on its dowel"},
    {Task::look_why_dark, "Looked at"},
    {Task::look_at_touch, "The metal is so"},
    {Task::look_at_edge, "Looked at"},
    {Task::judge_trial, "That is what it shows"},
    {Task::mark_main, "Mark it"},
    {Task::give_bar, "Keep"},
    {Task::read_ring, "Keep"},
    {Task::move_bar, "Moved"},
    {Task::mark_flaw, "Mark it"},
    {Task::state_conditions, "From here on"},
    {Task::test_pressure, "Note it"},
    {Task::note_finish, "Note it"},
    {Task::note_pit, "Note it"},
    {Task::note_roughness, "Note them"},
    {Task::pass_tunnel, "Log it"},
    {Task::cut_tunnel, "Log it"},
    {Task::give_target, "Keep"},
    {Task::give_volumes, "Keep"},
    {Task::give_sizes, "Keep"},
    {Task::measure_insert, "Keep"},
    {Task::give_lifter_numbers, "Keep"},
    {Task::plan_cylinders, "Keep the plan"},
    {Task::decide_main, "Go on, with this reason"},
    {Task::decide_bored, "Go on, with this reason"},
    {Task::decide_doubt, "Go on, with this reason"},
    {Task::give_limits, "Go on, with this reason"},
    {Task::plan_tunnel, "Go on, with this reason"},
    {Task::accept, "Go on, with this reason"},
    {Task::decide_deck, "Decided"},
    {Task::go_on_unmeasured, "Go on, with this reason"},
    {Task::decide_flaw, "Decided"},
    {Task::decide_size, "Decided"},
    {Task::decide_wall, "Decided"},
    {Task::refuse_insert, "Decided"},
    {Task::decide_over, "Decided"},
    {Task::decide_large, "Decided"},
    {Task::decide_place, "It goes on so"},
    {Task::decide_bush, "Decided"},
    {Task::decide_lifter, "Decided"},
    {Task::choose_bore, "Decided"},
    {Task::choose_lifter, "Decided"},
    {Task::dress, "Done"},
    {Task::tick_tunnel, "Done"},
    {Task::open_truth, "Open the truth"},
    {Task::hand_over, "Handed over"},
    {Task::fill_card, "Keep"},
    {Task::choose_scope, "Keep"},
    {Task::choose_target, "Keep"},
    {Task::note_part, "Note it"},
    {Task::part_came, "It is here"},
    {Task::place_hold, "Note it"},
    {Task::lift_hold, "Settled"},
    {Task::soak, "It soaks"},
    {Task::set_clock, "Set it"},
    {Task::inspect_one, "Looked over"},
    {Task::sign_off, "I answer for it"},
});

template <class Enum, std::size_t N>
std::size_t place_of(const std::array<const char*, N>& keys, const std::string& key) {
    return static_cast<std::size_t>(std::ranges::find(keys, key) - keys.begin());
}
template <class Enum, std::size_t N>
Enum value_of(const std::array<const char*, N>& keys, const std::string& key) {
    return static_cast<Enum>(std::min(place_of<Enum>(keys, key), N - 1));
}

/// Of the cylinders, what the size would be with and without the one that is decided on.
std::string bore_consequence(const JobState& state, const planning::Assessment& a, const Step& step,
                             block::BoreChoice choice, const LengthText& l) {
    if (!a.cylinders || !step.about)
        return "";
    const auto& study = a.cylinders->study;
    const planning::CommonSize* common = study.by(planning::cylinder_plan_of(state).centre);
    switch (choice) {
    case block::BoreChoice::with_the_rest:
        return study.oversize ? "all go to " + oversize_text(*study.oversize, l) : "no size on offer holds every bore";
    case block::BoreChoice::sleeve:
        return common && common->set_by == step.about && common->without
                   ? "the others go to " + oversize_text(*common->without, l)
                   : "its seat is bored, a sleeve goes in, and its neighbours are read again";
    case block::BoreChoice::leave:
        return "it is not cut, and sets no size";
    case block::BoreChoice::scrap:
        return "the block is not worth its work";
    }
    return "";
}

std::string flaw_consequence(block::FlawChoice choice) {
    switch (choice) {
    case block::FlawChoice::watch:
        return "work goes on there; looked at again after each cut";
    case block::FlawChoice::stop_and_pin:
        return "its ends are drilled and pinned, then pressure tested";
    case block::FlawChoice::sleeve:
        return "the cylinder beside it gets a sleeve";
    case block::FlawChoice::scrap:
        return "the block is not worth its work";
    }
    return "";
}

std::string stage_of_key(const std::string& key) {
    const auto place = place_of<planning::Stage>(block::stage_keys, key);
    return place < block::stage_keys.size() ? stage_name(static_cast<planning::Stage>(place)) : key;
}

} // namespace

std::string answer_name(const Step& step) {
    if (step.task == planning::Task::measure_insert && step.asks.empty()) // its outside is read first
        return "";
    const auto found = std::ranges::find(done_words, step.task, &DoneWord::task);
    return found == done_words.end() ? "" : found->words;
}

std::string ask_name(const Step& step, const Ask& ask) {
    static constexpr std::array<std::pair<std::string_view, const char*>, 73> names{{
        {"where", "where"},
        {"mark", "what the pass left"},
        {"depth", "depth"},
        {"at_12", "at 12 o'clock"},
        {"at_6", "at 6 o'clock"},
        {"clean", "touched everywhere"},
        {"dark", "dark places: paint them on the deck"},
        {"strokes", "strokes"},
        {"load", "load, %"},
        {"hatch", "cross-hatch seen, °"},
        {"surface", "it runs on the"},
        {"protrusion", "protrusion"},
        {"new_cutter", "fresh cutter"},
        {"new_edge", "fresh edge"},
        {"setting", "tool set"},
        {"proud", "stands proud"},
        {"minutes", "minutes"},
        {"reading", "reading"},
        {"seen", "seen"},
        {"note", "note"},
        {"reason", "why"},
        {"choice", "what becomes of it"},
        {"height", "height"},
        {"piston", "size of the pistons"},
        {"plate", "torque plate"},
        {"fasteners", "fasteners and lube"},
        {"torqued", "torqued"},
        {"part_c", "block, °C"},
        {"gauge_c", "gauge, °C"},
        {"also_before", "it was so before, too"},
        {"done", "done"},
        {"flaw", "kind"},
        {"near", "where"},
        {"result", "the jacket is"},
        {"cutter", "cutter left"},
        {"ra_um", "Ra, µm"},
        {"rz_um", "Rz, µm"},
        {"rk_um", "Rk, µm"},
        {"rpk_um", "Rpk, µm"},
        {"rvk_um", "Rvk, µm"},
        {"mr1_percent", "Mr1, %"},
        {"mr2_percent", "Mr2, %"},
        {"cut", "came off"},
        {"level", "level"},
        {"side", "side"},
        {"pass", "pass"},
        {"method", "by"},
        {"as_planned", "as planned"},
        {"log", "log"},
        {"value", "reading"},
        {"to", "to"},
        {"identity", "serial or casting"},
        {"customer", "customer"},
        {"reach", "reached by"},
        {"complaint", "complaint"},
        {"history", "history"},
        {"use", "use"},
        {"fuel", "fuel"},
        {"boost", "boost"},
        {"gasket", "gasket"},
        {"wanted", "wanted"},
        {"oversize", "over nominal"},
        {"promised", "a day, or 14 days"},
        {"clearance", "piston clearance"},
        {"ratio", "ratio"},
        {"part", "what"},
        {"due", "due"},
        {"waiting", "waits for it"},
        {"with", "who"},
        {"what", "what"},
        {"found", "what was found"},
        {"by", "name"},
        {"code", "code"},
    }};
    static constexpr std::array<std::pair<std::string_view, const char*>, 13> figures{{
        {"insert_measured/inside_mm", "inside"},
        {"insert_measured/length_mm", "length"},
        {"insert_measured/interference_mm", "interference"},
        {"insert_measured/parent_outside_mm", "iron around it, across"},
        {"engine_figures/stroke_mm", "stroke"},
        {"engine_figures/chamber_mm3", "chamber, cm³"},
        {"engine_figures/gasket_thickness_mm", "gasket thickness"},
        {"tunnel_plan/bar_mm", "diameter of the bar"},
        {"lifter_plan/lifter_mm", "size of the lifters"},
        {"lifter_plan/clearance_least_mm", "least clearance"},
        {"lifter_plan/clearance_most_mm", "largest clearance"},
        {"lifter_plan/bush_outside_mm", "outside of the bushes"},
        {"lifter_plan/interference_mm", "interference"},
    }};
    if ((step.task == Task::cut_deck || step.task == Task::cut_head) && ask.key == "depth")
        return "taken";
    if (step.task == Task::choose_scope && ask.kind == AskKind::tick)
        return stage_of_key(ask.key);
    for (const auto& [key, name] : figures)
        if (ask.key == key)
            return name;
    for (const auto& [key, name] : names)
        if (ask.key == key)
            return name;
    return ask.key;
}

std::string proposed_text(const Ask& ask, const LengthText& l) {
    if (!ask.proposed)
        return "";
    if (ask.kind == AskKind::length)
        return l.with_unit(*ask.proposed);
    const bool whole = *ask.proposed == std::round(*ask.proposed);
    return ask.kind == AskKind::count ? fixed(*ask.proposed, whole ? 0 : 2) : "";
}

std::string choice_name(const Step& step, const Ask& ask, const std::string& key) {
    if (ask.key == "choice") {
        if (step.task == Task::decide_flaw)
            return flaw_choice_name(value_of<block::FlawChoice>(block::flaw_choice_keys, key));
        if (step.stage == block::Stage::tunnel)
            return key == "work_again" ? "work it again" : key == "replace_cap" ? "another cap" : "go on as it is";
        if (step.stage == block::Stage::lifters)
            return lifter_choice_name(value_of<block::LifterChoice>(block::lifter_choice_keys, key));
        return bore_choice_name(value_of<block::BoreChoice>(block::bore_choice_keys, key));
    }
    if (ask.key == "flaw")
        return flaw_kind_name(value_of<block::FlawKind>(block::flaw_kind_keys, key));
    if (ask.key == "near")
        return flaw_near_words(value_of<block::FlawNear>(block::flaw_near_keys, key));
    if (ask.key == "trial")
        return key == "clean" ? "clean all round" : key == "pits" ? "pits left" : "still open";
    if (ask.key == "use" && key == "not_stated")
        return "not stated";
    if (ask.key == "waiting")
        return key == "hand_over" ? "handing over" : stage_of_key(key);
    if (ask.key == "where")
        return key;
    if (ask.key == "mark")
        return bar_mark_name(value_of<block::BarMark>(block::bar_mark_keys, key));
    if (ask.key == "lines")
        return marker_lines_words(value_of<block::MarkerLines>(block::marker_lines_keys, key));
    if (ask.key == "cutter")
        return cutter_state_name(value_of<block::CutterState>(block::cutter_state_keys, key));
    if (ask.key == "caps")
        return key == "yes" ? "caps torqued as they will run" : key == "no" ? "caps off or loose" : "caps not stated";
    if (ask.key == "plate" && ask.kind == AskKind::choice)
        return key == "yes" || key == "on"   ? "torque plate on"
               : key == "no" || key == "off" ? "no torque plate"
                                             : "plate not stated";
    if (ask.key == "method" && step.task == Task::inspect_one)
        return key == "magnetic" ? "magnetic particles" : key == "eye" ? "by eye" : key;
    if (ask.key == "method")
        return key == "hone" ? "line hone" : "line bore";
    if (ask.key == "pass") {
        constexpr std::array names{"strokes", "caps alone", "establishing pass", "final pass"};
        const auto place = place_of<block::TunnelPassKind>(block::tunnel_pass_keys, key);
        return place < names.size() ? names[place] : key;
    }
    return key;
}

std::string choice_consequence(const JobState& state, const planning::Assessment& a, const Step& step,
                               const std::string& key, const LengthText& l) {
    if (step.kind != planning::StepKind::decide)
        return "";
    if (step.task == Task::decide_flaw)
        return flaw_consequence(value_of<block::FlawChoice>(block::flaw_choice_keys, key));
    if (step.stage == block::Stage::cylinders)
        return bore_consequence(state, a, step, value_of<block::BoreChoice>(block::bore_choice_keys, key), l);
    if (step.stage == block::Stage::tunnel)
        return key == "work_again"    ? "done as it is, and planned anew from what was measured last"
               : key == "replace_cap" ? "planned anew; what is too large gets a cap that is cut on its own"
                                      : "somebody answers for the tunnel, and the passport says so";
    if (step.stage != block::Stage::lifters)
        return "";
    switch (value_of<block::LifterChoice>(block::lifter_choice_keys, key)) {
    case block::LifterChoice::leave:
        return "it stays as it is";
    case block::LifterChoice::hone:
        return "honed to its clearance";
    case block::LifterChoice::bush:
        return "bored out, bushed at the blueprint's place";
    }
    return "";
}

} // namespace pallix::wording
