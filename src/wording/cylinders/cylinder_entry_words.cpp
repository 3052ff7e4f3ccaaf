// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/cylinders/cylinder_words.h"

#include "wording/common/pick.h"
#include "wording/readings/readings.h"

#include <cmath>

namespace pallix::wording {
namespace {

std::string noted(const std::string& note) {
    return note.empty() ? "" : " (" + note + ")";
}

std::string words(const block::CylinderPlanChosen& p, const LengthText& l) {
    return "cylinder plan: " + centre_name(p.centre) +
           (p.oversize ? ", " + oversize_text(*p.oversize, l) : std::string()) +
           (p.wall_thrust ? ", least wall " + l.with_unit(*p.wall_thrust) + " on the thrust side" : std::string());
}

std::string words(const block::BorePitted& p, const LengthText& l) {
    return "pit, " + l.with_unit(p.depth) + " deep, " + p.level + (p.direction.empty() ? "" : ", " + p.direction) +
           noted(p.note);
}

std::string words(const block::BoreDecided& p, const LengthText&) {
    return "decided: " + bore_choice_name(p.choice) + noted(p.note);
}

std::string words(const block::PistonsStated& p, const LengthText& l) {
    return "pistons: " + alloy_name(p.alloy) + (p.size ? ", " + l.with_unit(*p.size) : std::string()) +
           (p.clearance ? ", clearance " + l.with_unit(*p.clearance) : std::string()) + ", hone stock " +
           l.with_unit(p.hone_stock);
}

std::string words(const block::BoreCut& p, const LengthText& l) {
    std::string s = operation_name(p.operation);
    if (p.target)
        s += " to " + l.with_unit(*p.target);
    if (p.setting)
        s += ", tool set to " + l.with_unit(*p.setting);
    if (p.strokes > 0)
        s += ", " + std::to_string(p.strokes) + " strokes";
    if (!p.step.empty())
        s += ", " + p.step;
    if (p.load)
        s += ", load " + fixed(*p.load, 0) + " %";
    if (p.hatch)
        s += ", cross-hatch " + fixed(*p.hatch / block::radians_per_degree, 0) + "°";
    return s + (p.new_edge ? ", fresh edge" : "") + noted(p.note);
}

std::string words(const block::InsertMeasured& p, const LengthText& l) {
    const planning::InsertShape shape = planning::insert_shape(p.outside, p.interference);
    return "insert measured: outside " + l.with_unit(shape.mean) + ", spread " + l.plain(shape.spread) +
           ", interference " + l.with_unit(p.interference);
}

std::string words(const block::InsertFitted& p, const LengthText& l) {
    return "insert fitted, proud by " + l.with_unit(p.proud) +
           (p.key_angle ? ", key at " + fixed(*p.key_angle / block::radians_per_degree, 1) + "°" : std::string()) +
           noted(p.note);
}

std::string words(const block::BoreStepDone& p, const LengthText& l) {
    return "done: " + p.step + (p.reading ? ", " + l.with_unit(*p.reading) : std::string()) + noted(p.note);
}

std::string words(const block::HonePlanChosen& p, const LengthText& l) {
    std::string s = "hone plan: ";
    for (const auto& step : p.steps)
        s += (&step == &p.steps.front() ? "" : ", ") + step.grit;
    return s + "; " + fixed(p.speed, 0) + " rev/min, " + fixed(p.rate, 0) + " strokes of " + l.with_unit(p.stroke);
}

std::string words(const block::RestBegun& p, const LengthText&) {
    return "the block rests " + fixed(p.minutes, 0) + " min, until " + p.until;
}

std::string words(const block::TraceTaken& p, const LengthText&) {
    return "roughness trace " + p.file + " taken in";
}

std::string words(const block::RoughnessRead& p, const LengthText&) {
    block::BoresState alone;
    alone.bores[p.bore].roughness.push_back({1, p});
    return "roughness by a tester" + typed_texture_words(planning::typed_texture(alone, p.bore));
}

std::string words(const block::TextureLimits& p, const LengthText&) {
    return "texture for " + p.rings;
}

} // namespace

std::string entry_words(block::CylinderKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

} // namespace pallix::wording
