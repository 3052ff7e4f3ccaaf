// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

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
constexpr std::array<const char*, 3> schools{"least_cut", "blueprint", "height"};

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
                              return {{"bank", p.bank},
                                      {"pass", pass_kinds[static_cast<std::size_t>(p.kind)]},
                                      {"depth_mm", p.depth},
                                      {"clean", p.clean},
                                      {"dark_mm", dark}};
                          },
                          [](const DeckTargetChosen& p) -> Json {
                              Json j{{"school", schools[static_cast<std::size_t>(p.school)]}, {"equal", p.equal}};
                              set_optional(j, "height_mm", p.height);
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
                          [](const UnknownPayload& p) -> Json { return Json::parse(p.json); },
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
        DeckCut cut{j.at("bank"), enum_from<PassKind>(j.at("pass"), pass_kinds), j.at("depth_mm"), j.at("clean"), {}};
        for (const Json& d : j.at("dark_mm"))
            cut.dark.push_back(place_from(d));
        return cut;
    }
    if (kind == "deck_target")
        return DeckTargetChosen{enum_from<TargetSchool>(j.at("school"), schools), j.at("equal"),
                                optional_from(j, "height_mm")};
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
    return Strike{j.at("sequence"), j.at("reason")};
}

constexpr std::array<std::string_view, 13> kinds{
    "job_opened", "probe_log",  "reading",    "deck_cut",           "deck_target", "pass_plan",   "note",
    "strike",     "conditions", "ring_check", "repeatability_test", "tunnel_cut",  "reading_plan"};

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
