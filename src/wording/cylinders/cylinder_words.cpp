// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/cylinders/cylinder_words.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "wording/common/phrases.h"
#include "wording/common/pick.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <numbers>

namespace pallix::wording {
namespace {

using block::FeatureId;
using block::JobState;
using planning::BoringStep;
using planning::CylinderStep;
using planning::HoneStep;

constexpr const char* cylinder_hone_caution =
    "Stop the hone before a hand goes in. Honing oil: skin, air, fire. Torque plates stand under load.";

std::string listed(const JobState& state, const std::vector<FeatureId>& ids) {
    std::string out;
    for (const FeatureId& id : ids)
        out += (out.empty() ? "" : ", ") + feature_words(*intake_of(state).blueprint, id);
    return out;
}

} // namespace

std::string centre_name(block::CentreSchool school) {
    return pick(school, std::array{"wherever it cleans up", "on the unworn top", "on the blueprint",
                                   "as far to the blueprint as it goes"});
}
std::string thrust_name(block::ThrustSide side) {
    return pick(side, std::array{"both sides", "left, from the rear", "right, from the rear"});
}
std::string bore_choice_name(block::BoreChoice choice) {
    return pick(choice, std::array{"with the rest", "sleeve it", "leave it as it is", "scrap"});
}
std::string alloy_name(block::PistonAlloy alloy) {
    return pick(alloy, std::array{"cast", "forged, high silicon", "forged, low silicon"});
}
std::string abrasive_name(block::Abrasive abrasive) {
    return pick(abrasive, std::array{"stones", "diamonds", "brush"});
}
std::string operation_name(block::BoreOperation operation) {
    return pick(operation, std::array{"rough bore", "finish bore", "hone"});
}

std::string shape_sentence(const planning::HoneBore& b, const LengthText& l) {
    const std::string by = l.with_unit(b.shape_by);
    switch (b.shape) {
    case planning::BoreShape::even:
        return "Even.";
    case planning::BoreShape::tight_top:
        return "Tapered, tight at the top by " + by + ": dwell at the top.";
    case planning::BoreShape::tight_bottom:
        return "Tapered, tight at the bottom by " + by + ": dwell at the bottom.";
    case planning::BoreShape::barrel:
        return "Barrel, larger in the middle by " + by +
               ": pushed too hard, the wall springs and warms. Lighter load, and let it rest before the next reading.";
    case planning::BoreShape::waist:
        return "Waist, tight in the middle by " + by + ": short strokes in the middle.";
    case planning::BoreShape::oval:
        break;
    }
    return "Oval by " + by + ": caps and torque plate as they run? Lighter load, and look at the stones.";
}

std::string oversize_text(double oversize, const LengthText& l) {
    return oversize == 0 ? "nominal" : l.with_sign(oversize) + " " + l.unit_name();
}

std::vector<std::string> size_sentences(const JobState& state, const planning::CylinderStudy& study,
                                        const LengthText& l) {
    std::vector<std::string> out;
    for (const planning::CommonSize& c : study.common) {
        std::string s = centre_name(c.school) + ": ";
        s[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(s[0])));
        s += c.oversize ? oversize_text(*c.oversize, l) + " for all"
                        : std::string("nothing in the list holds every bore");
        const bool limited = c.school == block::CentreSchool::limited;
        if (c.set_by && std::isfinite(c.needed_over) && (!limited || (c.without && c.without != c.oversize)))
            s += "; " + feature_words(*intake_of(state).blueprint, *c.set_by) + " sets it" +
                 (limited ? "" : " (needs " + l.with_sign(c.needed_over) + ")");
        if (c.set_by && c.without && c.without != c.oversize)
            s += ", without it " + oversize_text(*c.without, l);
        if (c.oversize && c.sure_known && c.sure != c.oversize)
            s += c.sure ? "; with 95 % certainty " + oversize_text(*c.sure, l) + " for all"
                        : std::string("; with 95 % certainty nothing in the list does");
        out.push_back(s + ".");
    }
    return out;
}

std::vector<std::string> bore_sentences(const JobState& state, const planning::CylinderStudy& study,
                                        const FeatureId& bore, const LengthText& l) {
    std::vector<std::string> out;
    const planning::CylinderNeed* n = study.bore(bore);
    if (!n)
        return out;
    if (n->sleeved)
        out.emplace_back("It is to be sleeved and sets no size.");
    if (n->found.pit > 0)
        out.push_back("Deepest pit " + l.with_unit(n->found.pit) + ".");
    if (n->found.points.empty() && !n->schools.empty())
        out.push_back("By gauge alone it needs between " + l.plain(n->schools[0].needed) + " and " +
                      l.with_unit(n->schools[0].needed_at_most) +
                      ": where its wear lies, a gauge does not tell. A probe would.");
    if (n->limited) {
        const auto& c = *n->limited;
        std::string s = "Towards the blueprint it can go " + l.with_unit(c.moved);
        s += c.left > 5e-4 ? ", " + l.plain(c.left) + " short of it" : std::string(": all the way");
        if (c.by == planning::LimitedBy::wall)
            s += "; the wall at " + c.wall + " sets it";
        else if (c.by == planning::LimitedBy::size)
            s += "; its size sets it";
        out.push_back(s + ".");
    } else if (!n->found.points.empty() && study.oversize && !n->sleeved) {
        out.emplace_back("At this size it cleans up nowhere between its top and the blueprint.");
    }
    for (const planning::WallAt& w : n->found.walls) {
        if (w.after)
            out.push_back("Wall " + w.level + ", " + w.direction + ": " + l.plain(w.before) + " before, " +
                          l.with_unit(*w.after) + " after.");
        else if (w.thin())
            out.push_back("Wall " + w.level + ", " + w.direction + ": " + l.plain(w.before) + " becomes " +
                          l.with_unit(w.planned) + ", wanted " + l.plain(*w.least) + " on the " +
                          (w.thrust ? "thrust side." : "other sides."));
    }
    const auto thinnest = std::ranges::min_element(n->found.walls, {}, &planning::WallAt::planned);
    if (thinnest != n->found.walls.end() && !thinnest->after && !n->thin() && study.oversize)
        out.push_back("Thinnest wall then " + l.with_unit(thinnest->planned) + ", " + thinnest->level + ", " +
                      thinnest->direction + ".");
    if (const auto sizes = planning::bore_sizes(state, bore, study.oversize)) {
        const double over = sizes->finish - n->found.nominal;
        if (sizes->piston && study.oversize && !n->sleeved && std::abs(over - *study.oversize) > 0.1)
            out.push_back("These pistons stand for " + oversize_text(over, l) + ", the plan for " +
                          oversize_text(*study.oversize, l) + ": choose one.");
        std::string s = sizes->piston ? "Piston " + l.plain(*sizes->piston) + " and clearance " +
                                            l.plain(sizes->clearance) + ": finish " + l.with_unit(sizes->finish)
                                      : "Finish " + l.with_unit(sizes->finish);
        out.push_back(s +
                      (sizes->seat ? ", seat of the sleeve " + l.with_unit(*sizes->seat)
                                   : ", rough bore " + l.with_unit(sizes->rough)) +
                      ".");
    }
    return out;
}

std::vector<std::string> sleeve_sentences(const planning::SleeveWork& s, const LengthText& l) {
    std::vector<std::string> out;
    if (!s.measured)
        return {"Measure its outside at top, middle and bottom, two ways each."};
    if (!s.plan)
        return {"These lengths are no rings in one another: outside, inside, interference and the metal round it."};
    const planning::InsertPlan& p = s.actual ? *s.actual : *s.plan;
    out.push_back(
        "Mean outside " + l.with_unit(p.shape.mean) + ", spread " + l.plain(p.shape.spread) + ", taper " +
        l.side(p.shape.taper, "wider at the top", "wider at the bottom") + ", oval " + l.plain(p.shape.oval) + " — " +
        (p.shape.verdict == metrology::Verdict::meets         ? "a fair sleeve."
         : p.shape.verdict == metrology::Verdict::cannot_tell ? "half its interference is in its own shape."
                                                              : "send it back: it would hang loose somewhere."));
    out.push_back(s.actual ? "Bored, its seat leaves an interference of " + l.with_unit(p.shape.mean - p.seat) + "."
                           : "Seat " + l.with_unit(p.seat) + ".");
    out.push_back("Pressure " + fixed(p.stress.pressure, 2) + " N/mm², pull in the block " +
                  fixed(p.stress.parent_hoop, 1) + ", squeeze in the sleeve " + fixed(-p.stress.bore_hoop, 1) +
                  " N/mm²; its bore closes by " + l.with_unit(p.stress.bore_closes) + ".");
    out.push_back(p.force > 0 ? "Press force about " + fixed(p.force / 1000, 1) + " kN, or " + fixed(p.heat, 0) +
                                    " K warmer block to drop it in."
                              : "The block " + fixed(p.heat, 0) + " K warmer than the sleeve: it drops in.");
    if (s.fitted && s.proud)
        out.push_back(*s.proud > 0 ? "It stands " + l.with_unit(*s.proud) + " proud: the next deck pass takes it flush."
                                   : "It is flush or below the deck.");
    return out;
}

// ---- calls --------------------------------------------------------------------------------------------------------

namespace {

CallText boring_call(const JobState& state, const planning::CylinderWork& w, const LengthText& l) {
    const planning::BoringBoard& b = w.boring;
    const std::string hole = b.hole ? feature_words(*intake_of(state).blueprint, *b.hole) : "";
    const std::string before = b.before ? feature_words(*intake_of(state).blueprint, *b.before) : "";
    const auto& insert = b.hole ? bores_of(state).bore(*b.hole).insert : std::nullopt;
    const auto progress = std::ranges::find_if(b.holes, [&b](const auto& h) { return b.hole == h.id; });
    std::string ledge; // of a sleeve's seat
    if (progress != b.holes.end() && progress->seat && insert && insert->payload.ledge)
        ledge = "Stop " + l.with_unit(*insert->payload.ledge) +
                " above the bottom: the sleeve sits on the step that is left, square.";
    switch (b.step) {
    case BoringStep::know_sizes:
        return {"Measure the pistons, or choose a size",
                "",
                {"The bore follows from the piston: clearance, hone stock, rough bore."},
                ""};
    case BoringStep::bore: {
        CallText call{"Bore " + hole + " to " + l.with_unit(b.to.value_or(0)),
                      b.set ? l.plain(*b.set) : "",
                      {"Tool set to " + l.with_unit(b.set.value_or(0)) +
                       (std::ranges::any_of(b.holes, &planning::HoleProgress::tells)
                            ? ", by what the last hole told of it."
                            : "; what this hole becomes tells how the tool stands.")},
                      bore_caution};
        if (bores_of(state).bores_cut.empty() && progress != b.holes.end() && !progress->seat)
            call.reasons.emplace_back("Worst one first: if it does not clean up, the others are not spoiled.");
        if (const planning::CylinderNeed* n = b.hole ? w.study.bore(*b.hole) : nullptr)
            if (const std::string centre = centre_sentence(state, *n, l); !centre.empty())
                call.reasons.insert(call.reasons.begin(), centre);
        if (!ledge.empty())
            call.reasons.push_back(ledge);
        return call;
    }
    case BoringStep::measure:
        return {"Measure " + hole + " before the next", "", {"What it became corrects the tool."}, ""};
    case BoringStep::read_again:
        return {"Read " + hole + " once more",
                "",
                {"It is too near the end of its window, " + l.plain(progress->least) + " to " +
                 l.with_unit(progress->most) + ", to tell on which side it lies."},
                ""};
    case BoringStep::cut_again:
        return {hole + " is under: cut it again",
                b.set ? l.plain(*b.set) : "",
                {l.with_unit(b.by) + " to go; set the tool to " + l.with_unit(b.set.value_or(0)) + "."},
                bore_caution};
    case BoringStep::over:
        return {
            "Stop: " + hole + " is over by " + l.with_unit(b.by),
            "",
            {"Everything else waits. What is left to hone there, the next oversize or a sleeve: decide on it on the "
             "page Size."},
            ""};
    case BoringStep::look_at_edge:
        return {"Stop: look at the cutting edge",
                "",
                {hole + " came out " + l.with_unit(std::abs(b.by)) + (b.by < 0 ? " smaller" : " larger") + " than " +
                     before + " at the same setting.",
                 "A chipped edge, or heat. No further hole before the edge was looked at: tick it, or log the next cut "
                 "with a fresh edge."},
                bore_caution};
    case BoringStep::judge_trial:
        return {"Look at " + hole + ", the trial hole",
                "",
                {"It was the worst and stands alone at its rough size: what it shows settles the size of all.",
                 "Clean all round; or pits left, and how deep from the wall beside them; or still open where the tool "
                 "did not reach."},
                ""};
    case BoringStep::measure_first:
        return {"Measure " + hole + " once more",
                "",
                {"The first against the last: a chipped edge or heat would show."},
                ""};
    case BoringStep::measure_between:
        return {"Measure what lies between",
                "",
                {"First and last differ by " + l.with_unit(std::abs(b.by)) +
                 " from what they were: " + listed(state, b.again) + "."},
                ""};
    case BoringStep::done:
        break;
    }
    return {"Bored", "", {}, ""};
}

std::vector<std::string> with_advice(std::string advice, std::string rest) {
    std::vector<std::string> sentences;
    if (!advice.empty())
        sentences.push_back(std::move(advice));
    sentences.push_back(std::move(rest));
    return sentences;
}

CallText plate_call(const JobState& state, const planning::HoneBoard& h) {
    std::vector<std::string> why;
    std::vector<FeatureId> with_plate;
    for (const planning::HoneBore& b : h.bores)
        if (b.plate_off)
            with_plate.push_back(b.id);
    if (!with_plate.empty())
        why.push_back((with_plate.size() > 2 ? std::to_string(with_plate.size()) + " cylinders"
                                             : capitalised(listed(state, with_plate))) +
                      ": read with the plate on, and it is off. On again, and the sizes stand; say off once more to go "
                      "on without, and what is left is read again.");
    if (readings_of(state).conditions.caps_torqued == false)
        why.emplace_back("The caps are stated off: a cylinder is honed and read with them torqued.");
    why.emplace_back("A bore moves under its fasteners: plate on, or off by decision, with gasket, lubricant and "
                     "steps.");
    return {"Torque plate and caps on, as they will run", "", why, cylinder_hone_caution};
}

CallText honing_call(const JobState& state, const planning::HoneBoard& h, const LengthText& l) {
    const std::string bore = h.bore ? feature_words(*intake_of(state).blueprint, *h.bore) : "";
    const auto b = std::ranges::find_if(h.bores, [&h](const auto& x) { return h.bore && x.id == *h.bore; });
    switch (h.step) {
    case HoneStep::bore_first:
        return {"Bore first", "", {}, ""};
    case HoneStep::put_plate_on:
        return plate_call(state, h);
    case HoneStep::measure:
        return {"Measure " + bore, "",
                with_advice(b != h.bores.end() && b->estimate
                                ? "About " + l.with_unit(std::max(0.0, *b->estimate)) +
                                      " should be left, by what the other goes took; that is an estimate."
                                : std::string(),
                            "Top, middle and bottom, both ways: the board shows what is left."),
                ""};
    case HoneStep::check_again:
        return {"Rested: measure " + bore + " again",
                "",
                {"Sizes read before do not count: " + listed(state, h.again) + "."},
                ""};
    case HoneStep::hone: {
        std::vector<std::string> why;
        const auto plan = planning::hone_plan_of(state);
        if (b != h.bores.end() && b->step)
            why.push_back("With " + plan.steps[*b->step].grit + ", until " + l.with_unit(plan.steps[*b->step].leaves) +
                          " is left.");
        if (b != h.bores.end() && b->rate && b->strokes)
            why.push_back("About " + fixed(*b->strokes, 0) + " strokes: it takes " +
                          l.with_unit(100 * b->rate->per_stroke) + " in a hundred" +
                          (b->rate->load > 0 ? " at " + fixed(b->rate->load, 0) + " % load" : std::string()) +
                          ", by what " + listed(state, b->rate->from) + " showed.");
        if (b != h.bores.end() && b->shape != planning::BoreShape::even)
            why.push_back(shape_sentence(*b, l));
        if (b != h.bores.end() && b->shape == planning::BoreShape::barrel && b->load)
            why.push_back("The wall springs under the stones: " + fixed(*b->load, 0) + " % load from here on.");
        if (b != h.bores.end() && b->hatch && b->hatch->off())
            why.push_back(hatch_sentence(*b->hatch));
        return {"Hone " + bore, b != h.bores.end() ? l.with_unit(std::max(0.0, b->most)) : "", why,
                cylinder_hone_caution};
    }
    case HoneStep::rest:
        return {"Let the block rest",
                fixed(h.rest_minutes, 0) + " min",
                {"Aluminium comes back by about two tenths when it has rested. Start the timer on the page Hone; then "
                 "every "
                 "bore is measured again."},
                ""};
    case HoneStep::too_large:
        return {
            "Stop: " + bore + " is too large", "", {"Larger pistons, or a sleeve: decide on it on the page Size."}, ""};
    case HoneStep::dress:
        return {"Dress " + bore, "",
                with_advice(texture_advice_sentence(state, *h.bore),
                            "Still to be ticked, with a reading or a look: " + h.steps_left.front() +
                                (h.steps_left.size() > 1 ? ", …" : "") + "."),
                "Chips and honing grit: wash before it is measured for the last time, and oil the bores."};
    case HoneStep::done:
        break;
    }
    return {"The cylinders are done", "", {"Size, shape and edges stand in the ledger; the passport shows them."}, ""};
}

} // namespace

CallText cylinder_call(const JobState& state, const planning::CylinderWork* w, const LengthText& l) {
    if (!w)
        return {"Measure the cylinders",
                "",
                {"Take in a probe log that holds them, or read top, middle and bottom with a gauge."},
                ""};
    const std::string bore = w->bore ? feature_words(*intake_of(state).blueprint, *w->bore) : "";
    switch (w->step) {
    case CylinderStep::measure:
        break;
    case CylinderStep::plan: {
        std::vector<std::string> why = size_sentences(state, w->study, l);
        why.emplace_back("Keep a plan on the page Size; pistons and clearance on the page Bore.");
        return {"Choose the centre and the size", "", why, ""};
    }
    case CylinderStep::decide_size: {
        if (const planning::CylinderNeed* n = w->study.bore(*w->bore);
            n && planning::trial_undecided(state, n->found)) {
            std::vector<std::string> why{"What was seen in its wall reaches to " + l.with_unit(n->found.pitted_to) +
                                         ", past what it was to become. The others are not bored yet."};
            std::ranges::copy(choice_sentences(state, w->study, *w->bore, l), std::back_inserter(why));
            return {"Decide on the size: " + bore + " is not clean", "", why, ""};
        }
        std::vector<std::string> why{
            bores_of(state).pistons ? "It does not clean up at the size the pistons ask for, or at any in the list."
                                    : "Nothing in the list takes it in."};
        std::ranges::copy(choice_sentences(state, w->study, *w->bore, l), std::back_inserter(why));
        why.emplace_back("Sleeve it, take a larger size into the list, or leave it: on the page Size.");
        return {"No size holds every bore: decide on " + bore, "", why, ""};
    }
    case CylinderStep::decide_wall: {
        std::vector<std::string> why = bore_sentences(state, w->study, *w->bore, l);
        std::erase_if(why, [](const std::string& s) { return !s.starts_with("Wall"); });
        why.emplace_back("Nothing is refused: choose a smaller size or another centre, or decide that it may.");
        return {"A wall of " + bore + " gets thin", "", why, ""};
    }
    case CylinderStep::measure_sleeve:
        return {"Measure the sleeve for " + bore,
                "",
                {"Outside at top, middle and bottom, two ways each, on the page Sleeve."},
                ""};
    case CylinderStep::refuse_sleeve:
        return {"This sleeve will not do",
                "",
                {"Its shape eats its interference, or its sizes are no rings: measure again, or take another."},
                ""};
    case CylinderStep::bore: {
        CallText call = boring_call(state, *w, l);
        call.headline[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(call.headline[0])));
        return call;
    }
    case CylinderStep::press: {
        const auto s = std::ranges::find_if(w->sleeves, [&](const auto& x) { return x.bore == *w->bore; });
        std::vector<std::string> why = sleeve_sentences(*s, l);
        why.emplace_back(
            "Leave the step at the bottom square: it sits on it. The deck is cut afterwards, so that it ends flush.");
        return {"Fit the sleeve into " + bore, "", why, press_caution};
    }
    case CylinderStep::measure_neighbours:
        return {"Measure its neighbours again",
                "",
                {"What is pressed in moves the metal beside it: " + listed(state, w->neighbours) + "."},
                ""};
    case CylinderStep::decide_place:
    case CylinderStep::prove_place:
        return place_call(state, *w, l);
    case CylinderStep::hone:
    case CylinderStep::done:
        return honing_call(state, w->hone, l);
    }
    return cylinder_call(state, nullptr, l);
}

} // namespace pallix::wording
