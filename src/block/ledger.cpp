// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

#include "block/cylinder_entries_json.h"
#include "block/deck_entries_json.h"
#include "block/ledger_json.h"

#include <algorithm>
#include <array>

namespace pallix::block {
namespace {

using metrology::Vec2;

template <class... F>
struct Overloaded : F... {
    using F::operator()...;
};

constexpr std::array<const char*, 4> pass_kinds{"witness", "pass", "finish", "spring"};
constexpr std::array<const char*, 2> tunnel_methods{"hone", "bore"};
constexpr std::array<const char*, 4> tunnel_passes{"strokes", "caps_only", "establishing", "final"};
constexpr std::array<const char*, 2> cap_cuts{"each", "equal"};
constexpr std::array<const char*, 2> given_lines{"datum", "ends"};
constexpr std::array<const char*, 5> schools{"least_cut", "blueprint", "height", "clearance", "ratio"};

FeatureId feature_from(const std::string& name, const Json& j) {
    const auto id = FeatureId::parse(name);
    if (!id)
        throw Json::other_error::create(501, "\"" + name + "\" is no feature", &j);
    return *id;
}

Json policy_json(const TunnelPolicy& p) {
    Json j{{"method", tunnel_methods[static_cast<std::size_t>(p.method)]},
           {"stock_mm", p.stock},
           {"parting_rad", p.parting},
           {"caps", cap_cuts[static_cast<std::size_t>(p.caps)]},
           {"max_cap_cut_mm", p.max_cap_cut},
           {"max_rise_mm", p.max_rise},
           {"max_side_mm", p.max_side},
           {"line", given_lines[static_cast<std::size_t>(p.line)]}};
    set_optional(j, "target_diameter_mm", p.target_diameter);
    Json replaced = Json::array();
    for (const FeatureId& id : p.replaced)
        replaced.push_back(id.text());
    j["replaced"] = replaced;
    return j;
}

TunnelPolicy policy_from(const Json& j) {
    TunnelPolicy p;
    p.method = enum_from<TunnelMethod>(j.at("method"), tunnel_methods);
    p.target_diameter = optional_from(j, "target_diameter_mm");
    p.stock = j.at("stock_mm");
    p.parting = j.at("parting_rad");
    p.caps = enum_from<CapCuts>(j.at("caps"), cap_cuts);
    p.max_cap_cut = j.at("max_cap_cut_mm");
    p.max_rise = j.at("max_rise_mm");
    p.max_side = j.at("max_side_mm");
    p.line = enum_from<GivenLine>(j.at("line"), given_lines);
    for (const Json& name : j.at("replaced"))
        p.replaced.push_back(feature_from(name.get<std::string>(), j));
    return p;
}

Json to_json(const Payload& payload) {
    return std::visit(Overloaded{
                          [](const JobOpened& p) -> Json {
                              return {{"title", p.title},
                                      {"customer", p.customer},
                                      {"blueprint_file", p.blueprint_file},
                                      {"blueprint", p.blueprint}};
                          },
                          [](const ProbeLogTaken& p) -> Json {
                              Json j{{"file", p.file}, {"sha256", p.sha256}, {"text", p.text}};
                              set_optional(j, "standard_uncertainty_mm", p.standard_uncertainty);
                              if (p.continues)
                                  j["continues"] = true;
                              return j;
                          },
                          [](const Reading& p) -> Json { return reading_to_json(p); },
                          [](const DeckCut& p) -> Json {
                              Json dark = Json::array();
                              for (const Vec2 d : p.dark)
                                  dark.push_back(place_json(d));
                              Json j{{"bank", p.bank},
                                     {"pass", pass_kinds[static_cast<std::size_t>(p.kind)]},
                                     {"depth_mm", p.depth},
                                     {"clean", p.clean},
                                     {"dark_mm", dark}};
                              if (!p.dark.empty())
                                  j["brush_mm"] = p.brush;
                              if (p.rest_bright)
                                  j["rest_bright"] = true;
                              return j;
                          },
                          [](const DeckTargetChosen& p) -> Json {
                              Json j{{"school", schools[static_cast<std::size_t>(p.school)]}, {"equal", p.equal}};
                              set_optional(j, "height_mm", p.height);
                              set_optional(j, "clearance_mm", p.clearance);
                              set_optional(j, "ratio", p.ratio);
                              return j;
                          },
                          [](const PassPlanChosen& p) -> Json {
                              return {{"witness_mm", p.witness},
                                      {"pass_mm", p.pass},
                                      {"finish_mm", p.finish},
                                      {"spring_passes", p.spring_passes}};
                          },
                          [](const Note& p) -> Json {
                              return {{"text", p.text}};
                          },
                          [](const Strike& p) -> Json {
                              return {{"sequence", p.sequence}, {"reason", p.reason}};
                          },
                          [](const ConditionsStated& p) -> Json { return conditions_to_json(p.conditions); },
                          [](const RingCheck& p) -> Json {
                              return {{"instrument", p.instrument}, {"size_mm", p.size}, {"reading_mm", p.reading}};
                          },
                          [](const RepeatabilityTest& p) -> Json {
                              return {{"instrument", p.instrument}, {"words", p.words}, {"readings_mm", p.readings}};
                          },
                          [](const TunnelCut& p) -> Json {
                              return {{"method", tunnel_methods[static_cast<std::size_t>(p.method)]}, {"note", p.note}};
                          },
                          [](const ReadingPlanChosen& p) -> Json {
                              return {{"plan", p.plan}, {"places", p.places}};
                          },
                          [](const TunnelPolicy& p) -> Json { return policy_json(p); },
                          [](const CapsCut& p) -> Json {
                              Json cuts = Json::object();
                              for (const auto& [id, cut] : p.cuts)
                                  cuts[id.text()] = cut;
                              return {{"cuts_mm", cuts}};
                          },
                          [](const TunnelPass& p) -> Json {
                              Json j{{"pass", tunnel_passes[static_cast<std::size_t>(p.kind)]}, {"strokes", p.strokes}};
                              set_optional(j, "protrusion_mm", p.protrusion);
                              if (p.new_cutter)
                                  j["new_cutter"] = true;
                              return j;
                          },
                          [](const StepDone& p) -> Json {
                              return {{"step", p.step}};
                          },
                          [](const UnknownPayload& p) -> Json { return Json::parse(p.json); },
                          [](const auto& p) -> Json { return block::to_json(p); },
                      },
                      payload);
}

Payload from_json(std::string_view kind, const Json& j) {
    if (kind == "job_opened")
        return JobOpened{j.at("title"), j.at("customer"), j.at("blueprint_file"), j.at("blueprint")};
    if (kind == "probe_log")
        return ProbeLogTaken{j.at("file"), j.at("sha256"), j.at("text"), optional_from(j, "standard_uncertainty_mm"),
                             j.value("continues", false)};
    if (kind == "reading")
        return reading_from_json(j);
    if (kind == "deck_cut") {
        DeckCut cut{j.at("bank"),
                    enum_from<PassKind>(j.at("pass"), pass_kinds),
                    j.at("depth_mm"),
                    j.at("clean"),
                    {},
                    j.value("brush_mm", DeckCut::default_brush),
                    j.value("rest_bright", false)};
        for (const Json& d : j.at("dark_mm"))
            cut.dark.push_back(place_from(d));
        return cut;
    }
    if (kind == "deck_target")
        return DeckTargetChosen{enum_from<TargetSchool>(j.at("school"), schools), j.at("equal"),
                                optional_from(j, "height_mm"), optional_from(j, "clearance_mm"),
                                optional_from(j, "ratio")};
    if (kind == "pass_plan")
        return PassPlanChosen{j.at("witness_mm"), j.at("pass_mm"), j.at("finish_mm"), j.at("spring_passes")};
    if (kind == "note")
        return Note{j.at("text")};
    if (kind == "conditions")
        return ConditionsStated{conditions_from_json(j)};
    if (kind == "ring_check")
        return RingCheck{j.at("instrument"), j.at("size_mm"), j.at("reading_mm")};
    if (kind == "repeatability_test")
        return RepeatabilityTest{j.at("instrument"), j.at("words"), j.at("readings_mm").get<std::vector<double>>()};
    if (kind == "tunnel_cut")
        return TunnelCut{enum_from<TunnelMethod>(j.at("method"), tunnel_methods), j.at("note")};
    if (kind == "reading_plan")
        return ReadingPlanChosen{j.at("plan"), j.at("places").get<std::vector<std::string>>()};
    if (kind == "tunnel_plan")
        return policy_from(j);
    if (kind == "caps_cut") {
        CapsCut cut;
        for (const auto& [name, depth] : j.at("cuts_mm").items())
            cut.cuts.emplace_back(feature_from(name, j), depth.get<double>());
        return cut;
    }
    if (kind == "tunnel_pass")
        return TunnelPass{enum_from<TunnelPassKind>(j.at("pass"), tunnel_passes), j.at("strokes"),
                          optional_from(j, "protrusion_mm"), j.value("new_cutter", false)};
    if (kind == "step_done")
        return StepDone{j.at("step")};
    if (kind == "flaw")
        return flaw_from(j);
    if (kind == "flaw_decided")
        return flaw_decision_from(j);
    if (kind == "pressure_test")
        return pressure_test_from(j);
    if (kind == "deck_forecast")
        return forecast_from(j);
    if (kind == "cutter")
        return cutter_from(j);
    if (kind == "deck_finish")
        return finish_from(j);
    if (kind == "gasket")
        return gasket_from(j);
    if (kind == "set_up")
        return set_up_from(j);
    if (kind == "engine_figures")
        return figures_from(j);
    if (kind == "head_work")
        return head_from(j);
    if (kind == "cylinder_plan")
        return cylinder_plan_from(j);
    if (kind == "bore_pit")
        return pit_from(j);
    if (kind == "bore_decided")
        return bore_decision_from(j);
    if (kind == "pistons")
        return pistons_from(j);
    if (kind == "bore_cut")
        return bore_cut_from(j);
    if (kind == "insert_measured")
        return insert_from(j);
    if (kind == "insert_fitted")
        return fitted_from(j);
    if (kind == "bore_step")
        return bore_step_from(j);
    if (kind == "hone_plan")
        return hone_plan_from(j);
    if (kind == "rest")
        return rest_from(j);
    if (kind == "profile_trace")
        return trace_from(j);
    if (kind == "texture_limits")
        return texture_limits_from(j);
    if (kind == "lifter_plan")
        return lifter_plan_from(j);
    if (kind == "lifter_decided")
        return lifter_decision_from(j);
    return Strike{j.at("sequence"), j.at("reason")};
}

constexpr std::array<std::string_view, 41> kinds{
    "job_opened",   "probe_log",      "reading",         "deck_cut",      "deck_target",        "pass_plan",
    "note",         "strike",         "conditions",      "ring_check",    "repeatability_test", "tunnel_cut",
    "reading_plan", "tunnel_plan",    "caps_cut",        "tunnel_pass",   "step_done",          "flaw",
    "flaw_decided", "pressure_test",  "deck_forecast",   "cutter",        "deck_finish",        "gasket",
    "set_up",       "engine_figures", "head_work",       "cylinder_plan", "bore_pit",           "bore_decided",
    "pistons",      "bore_cut",       "insert_measured", "insert_fitted", "bore_step",          "hone_plan",
    "rest",         "profile_trace",  "texture_limits",  "lifter_plan",   "lifter_decided"};

} // namespace

std::string kind_of(const Payload& payload) {
    if (const auto* unknown = std::get_if<UnknownPayload>(&payload))
        return unknown->kind;
    return std::string(kinds[payload.index()]);
}

int version_of(const Payload& payload) {
    const auto* unknown = std::get_if<UnknownPayload>(&payload);
    return unknown ? unknown->version : 1;
}

std::string payload_json(const Payload& payload) {
    return to_json(payload).dump();
}

tl::expected<Payload, std::string> read_payload(std::string_view kind, int version, std::string_view json) {
    try {
        const Json j = Json::parse(json);
        const bool known = std::ranges::find(kinds, kind) != kinds.end();
        if (!known || version > 1)
            return UnknownPayload{std::string(kind), version, j.dump()};
        return from_json(kind, j);
    } catch (const Json::exception& error) {
        return tl::unexpected("a " + std::string(kind) + " entry cannot be read: " + error.what());
    }
}

std::vector<bool> struck(const std::vector<Entry>& entries) {
    std::vector<bool> out(entries.size(), false);
    // From the last to the first: a strike counts only when no later strike has taken it out.
    for (std::size_t i = entries.size(); i-- > 0;) {
        const auto* strike = std::get_if<Strike>(&entries[i].payload);
        if (!strike || out[i])
            continue;
        for (std::size_t k = 0; k < i; ++k)
            if (entries[k].sequence == strike->sequence)
                out[k] = true;
    }
    return out;
}

} // namespace pallix::block
