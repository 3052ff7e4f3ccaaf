// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/cylinder_entries_json.h"

#include <array>

namespace pallix::block {
namespace {

constexpr std::array<const char*, 4> centres{"free", "top", "blueprint", "limited"};
constexpr std::array<const char*, 3> thrust_sides{"both", "left", "right"};
constexpr std::array<const char*, 4> bore_choices{"with_the_rest", "sleeve", "leave", "scrap"};
constexpr std::array<const char*, 3> lifter_choices{"leave", "hone", "bush"};
constexpr std::array<const char*, 3> alloys{"cast", "high_silicon_forged", "low_silicon_forged"};
constexpr std::array<const char*, 3> operations{"rough", "finish", "hone"};
constexpr std::array<const char*, 3> abrasives{"vitrified", "diamond", "brush"};
constexpr std::array<const char*, 2> lifter_schools{"bush_all", "in_limits"};
constexpr std::array<const char*, 2> followers{"roller", "flat"};

template <class Enum, std::size_t N>
const char* name_of(Enum value, const std::array<const char*, N>& names) {
    return names[static_cast<std::size_t>(value)];
}

FeatureId bore_from(const Json& j, const char* key = "bore") {
    const std::string name = j.at(key);
    const auto id = FeatureId::parse(name);
    if (!id || (id->kind != FeatureKind::bore && id->kind != FeatureKind::lifter))
        throw Json::other_error::create(501, "\"" + name + "\" is no cylinder or lifter bore", &j);
    return *id;
}

/// Each optional length of a payload under its key, so that reading and writing cannot differ.
template <class P>
using OptionalField = std::pair<const char*, std::optional<double> P::*>;

template <class P, std::size_t N>
void write_optionals(Json& j, const P& p, const std::array<OptionalField<P>, N>& fields) {
    for (const auto& [key, member] : fields)
        set_optional(j, key, p.*member);
}
template <class P, std::size_t N>
void read_optionals(const Json& j, P& p, const std::array<OptionalField<P>, N>& fields) {
    for (const auto& [key, member] : fields)
        p.*member = optional_from(j, key);
}

constexpr std::array<OptionalField<CylinderPlanChosen>, 3> cylinder_plan_fields{
    {{"oversize_mm", &CylinderPlanChosen::oversize},
     {"wall_thrust_mm", &CylinderPlanChosen::wall_thrust},
     {"wall_mm", &CylinderPlanChosen::wall}}};
constexpr std::array<OptionalField<LifterPlanChosen>, 10> lifter_plan_fields{
    {{"lifter_mm", &LifterPlanChosen::lifter},
     {"clearance_least_mm", &LifterPlanChosen::clearance_least},
     {"clearance_most_mm", &LifterPlanChosen::clearance_most},
     {"position_mm", &LifterPlanChosen::position},
     {"bush_outside_mm", &LifterPlanChosen::bush_outside},
     {"interference_mm", &LifterPlanChosen::interference},
     {"base_radius_mm", &LifterPlanChosen::base_radius},
     {"roller_radius_mm", &LifterPlanChosen::roller_radius},
     {"key_angle_rad", &LifterPlanChosen::key_angle},
     {"height_mm", &LifterPlanChosen::height}}};
constexpr std::array<std::pair<const char*, TextureLimits::Range TextureLimits::*>, 7> texture_fields{
    {{"ra", &TextureLimits::ra},
     {"rz", &TextureLimits::rz},
     {"rk", &TextureLimits::rk},
     {"rpk", &TextureLimits::rpk},
     {"rvk", &TextureLimits::rvk},
     {"mr1", &TextureLimits::mr1},
     {"mr2", &TextureLimits::mr2}}};

} // namespace

Json to_json(const CylinderPlanChosen& p) {
    Json j{{"centre", name_of(p.centre, centres)},
           {"oversizes_mm", p.oversizes},
           {"margin_mm", p.margin},
           {"thrust", name_of(p.thrust, thrust_sides)}};
    write_optionals(j, p, cylinder_plan_fields);
    return j;
}
CylinderPlanChosen cylinder_plan_from(const Json& j) {
    CylinderPlanChosen p;
    p.centre = enum_from<CentreSchool>(j.at("centre"), centres);
    p.oversizes = j.at("oversizes_mm").get<std::vector<double>>();
    p.margin = j.at("margin_mm");
    p.thrust = enum_from<ThrustSide>(j.at("thrust"), thrust_sides);
    read_optionals(j, p, cylinder_plan_fields);
    return p;
}

Json to_json(const BorePitted& p) {
    return {{"bore", p.bore.text()},
            {"depth_mm", p.depth},
            {"level", p.level},
            {"direction", p.direction},
            {"note", p.note}};
}
BorePitted pit_from(const Json& j) {
    return {bore_from(j), j.at("depth_mm"), j.at("level"), j.at("direction"), j.at("note")};
}

Json to_json(const BoreDecided& p) {
    return {{"bore", p.bore.text()}, {"choice", name_of(p.choice, bore_choices)}, {"note", p.note}};
}
BoreDecided bore_decision_from(const Json& j) {
    return {bore_from(j), enum_from<BoreChoice>(j.at("choice"), bore_choices), j.at("note")};
}

Json to_json(const PistonsStated& p) {
    Json sizes = Json::object();
    for (const auto& [bore, size] : p.sizes)
        sizes[bore.text()] = size;
    Json j{{"alloy", name_of(p.alloy, alloys)},
           {"sizes_mm", sizes},
           {"hone_stock_mm", p.hone_stock},
           {"tolerance_mm", p.tolerance},
           {"largest_cut_mm", p.largest_cut},
           {"finish_tolerance_mm", p.finish_tolerance},
           {"shape_mm", p.shape},
           {"measure_each", p.measure_each}};
    set_optional(j, "clearance_mm", p.clearance);
    set_optional(j, "size_mm", p.size);
    return j;
}
PistonsStated pistons_from(const Json& j) {
    PistonsStated p;
    p.alloy = enum_from<PistonAlloy>(j.at("alloy"), alloys);
    p.clearance = optional_from(j, "clearance_mm");
    p.size = optional_from(j, "size_mm");
    for (const auto& [name, size] : j.at("sizes_mm").items())
        p.sizes[bore_from(Json{{"bore", name}})] = size.get<double>();
    p.hone_stock = j.at("hone_stock_mm");
    p.tolerance = j.at("tolerance_mm");
    p.largest_cut = j.at("largest_cut_mm");
    p.finish_tolerance = j.at("finish_tolerance_mm");
    p.shape = j.at("shape_mm");
    p.measure_each = j.at("measure_each");
    return p;
}

Json to_json(const BoreCut& p) {
    Json j{{"bore", p.bore.text()}, {"operation", name_of(p.operation, operations)}};
    set_optional(j, "target_mm", p.target);
    set_optional(j, "setting_mm", p.setting);
    if (p.new_edge)
        j["new_edge"] = true;
    if (p.operation == BoreOperation::hone) {
        j["strokes"] = p.strokes;
        j["step"] = p.step;
        set_optional(j, "load_percent", p.load);
    }
    j["note"] = p.note;
    return j;
}
BoreCut bore_cut_from(const Json& j) {
    return {bore_from(j),
            enum_from<BoreOperation>(j.at("operation"), operations),
            optional_from(j, "target_mm"),
            optional_from(j, "setting_mm"),
            j.value("new_edge", false),
            j.value("strokes", 0),
            j.value("step", std::string()),
            optional_from(j, "load_percent"),
            j.at("note")};
}

Json to_json(const InsertMeasured& p) {
    Json j{{"bore", p.bore.text()},
           {"outside_mm", p.outside},
           {"inside_mm", p.inside},
           {"length_mm", p.length},
           {"interference_mm", p.interference},
           {"parent_outside_mm", p.parent_outside},
           {"insert_modulus", p.insert_modulus},
           {"parent_modulus", p.parent_modulus},
           {"insert_poisson", p.insert_poisson},
           {"parent_poisson", p.parent_poisson},
           {"friction", p.friction},
           {"slide_mm", p.slide},
           {"heated", p.heated}};
    set_optional(j, "ledge_mm", p.ledge);
    return j;
}
InsertMeasured insert_from(const Json& j) {
    InsertMeasured p;
    p.bore = bore_from(j);
    p.outside = j.at("outside_mm").get<std::array<double, 6>>();
    p.inside = j.at("inside_mm");
    p.length = j.at("length_mm");
    p.interference = j.at("interference_mm");
    p.parent_outside = j.at("parent_outside_mm");
    p.insert_modulus = j.at("insert_modulus");
    p.parent_modulus = j.at("parent_modulus");
    p.insert_poisson = j.at("insert_poisson");
    p.parent_poisson = j.at("parent_poisson");
    p.friction = j.at("friction");
    p.slide = j.at("slide_mm");
    p.heated = j.at("heated");
    p.ledge = optional_from(j, "ledge_mm");
    return p;
}

Json to_json(const InsertFitted& p) {
    Json j{{"bore", p.bore.text()}, {"proud_mm", p.proud}, {"note", p.note}};
    set_optional(j, "key_angle_rad", p.key_angle);
    set_optional(j, "height_mm", p.height);
    return j;
}
InsertFitted fitted_from(const Json& j) {
    return {bore_from(j), j.at("proud_mm"), optional_from(j, "key_angle_rad"), optional_from(j, "height_mm"),
            j.at("note")};
}

Json to_json(const BoreStepDone& p) {
    Json j{{"bore", p.bore.text()}, {"step", p.step}, {"note", p.note}};
    set_optional(j, "reading_mm", p.reading);
    return j;
}
BoreStepDone bore_step_from(const Json& j) {
    return {bore_from(j), j.at("step"), optional_from(j, "reading_mm"), j.at("note")};
}

Json to_json(const HonePlanChosen& p) {
    Json steps = Json::array();
    for (const HonePlanChosen::Step& s : p.steps)
        steps.push_back({{"grit", s.grit}, {"abrasive", name_of(s.abrasive, abrasives)}, {"leaves_mm", s.leaves}});
    return {{"steps", steps},
            {"speed_rev_min", p.speed},
            {"stroke_mm", p.stroke},
            {"strokes_per_min", p.rate},
            {"there_and_back", p.there_and_back}};
}
HonePlanChosen hone_plan_from(const Json& j) {
    HonePlanChosen p{{}, j.at("speed_rev_min"), j.at("stroke_mm"), j.at("strokes_per_min"), j.at("there_and_back")};
    for (const Json& s : j.at("steps"))
        p.steps.push_back({s.at("grit"), enum_from<Abrasive>(s.at("abrasive"), abrasives), s.at("leaves_mm")});
    return p;
}

Json to_json(const RestBegun& p) {
    return {{"minutes", p.minutes}, {"until", p.until}};
}
RestBegun rest_from(const Json& j) {
    return {j.at("minutes"), j.at("until")};
}

Json to_json(const TraceTaken& p) {
    return {{"bore", p.bore.text()}, {"file", p.file}, {"sha256", p.sha256}, {"text", p.text}};
}
TraceTaken trace_from(const Json& j) {
    return {bore_from(j), j.at("file"), j.at("sha256"), j.at("text")};
}

Json to_json(const TextureLimits& p) {
    Json j{{"rings", p.rings}};
    for (const auto& [key, member] : texture_fields) {
        const TextureLimits::Range& range = p.*member;
        if (!range.least && !range.most)
            continue;
        j[key] = Json::object();
        set_optional(j[key], "least", range.least);
        set_optional(j[key], "most", range.most);
    }
    return j;
}
TextureLimits texture_limits_from(const Json& j) {
    TextureLimits p;
    p.rings = j.at("rings");
    for (const auto& [key, member] : texture_fields)
        if (j.contains(key))
            p.*member = {optional_from(j.at(key), "least"), optional_from(j.at(key), "most")};
    return p;
}

Json to_json(const LifterPlanChosen& p) {
    Json j{{"school", name_of(p.school, lifter_schools)},
           {"follower", name_of(p.follower, followers)},
           {"cam_turns_left", p.cam_turns_left},
           {"keyed", p.keyed}};
    write_optionals(j, p, lifter_plan_fields);
    return j;
}
LifterPlanChosen lifter_plan_from(const Json& j) {
    LifterPlanChosen p;
    p.school = enum_from<LifterSchool>(j.at("school"), lifter_schools);
    p.follower = enum_from<Follower>(j.at("follower"), followers);
    p.cam_turns_left = j.at("cam_turns_left");
    p.keyed = j.at("keyed");
    read_optionals(j, p, lifter_plan_fields);
    return p;
}

Json to_json(const LifterDecided& p) {
    return {{"lifter", p.lifter.text()}, {"choice", name_of(p.choice, lifter_choices)}, {"note", p.note}};
}
LifterDecided lifter_decision_from(const Json& j) {
    return {bore_from(j, "lifter"), enum_from<LifterChoice>(j.at("choice"), lifter_choices), j.at("note")};
}

} // namespace pallix::block
