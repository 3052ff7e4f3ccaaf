// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

#include <algorithm>
#include <array>
#include <nlohmann/json.hpp>

namespace pallix::block {
namespace {

using Json = nlohmann::ordered_json;
using metrology::Vec2;

template <class... F>
struct Overloaded : F... {
    using F::operator()...;
};

constexpr std::array<const char*, 4> pass_kinds{"witness", "pass", "finish", "spring"};
constexpr std::array<const char*, 3> schools{"least_cut", "blueprint", "height"};

template <class Enum, std::size_t N>
Enum enum_from(const Json& j, const std::array<const char*, N>& names) {
    const std::string name = j;
    for (std::size_t i = 0; i < N; ++i)
        if (name == names[i])
            return static_cast<Enum>(i);
    throw Json::other_error::create(501, "\"" + name + "\" is not known here", &j);
}

Json place_json(Vec2 p) {
    return Json::array({p.x, p.y});
}
Vec2 place_from(const Json& j) {
    return {j.at(0).get<double>(), j.at(1).get<double>()};
}

void set_optional(Json& j, const char* key, const std::optional<double>& value) {
    if (value)
        j[key] = *value;
}
std::optional<double> optional_from(const Json& j, const char* key) {
    return j.contains(key) ? std::optional(j.at(key).get<double>()) : std::nullopt;
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
                          [](const DeckReading& p) -> Json {
                              Json j{{"bank", p.bank},
                                     {"place_mm", place_json(p.place)},
                                     {"place", p.place_name},
                                     {"height_mm", p.height},
                                     {"typed", p.typed}};
                              set_optional(j, "standard_uncertainty_mm", p.standard_uncertainty);
                              return j;
                          },
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
    if (kind == "deck_reading")
        return DeckReading{j.at("bank"),  place_from(j.at("place_mm")),
                           j.at("place"), j.at("height_mm"),
                           j.at("typed"), optional_from(j, "standard_uncertainty_mm")};
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
    return Strike{j.at("sequence"), j.at("reason")};
}

constexpr std::array<std::string_view, 8> kinds{"job_opened",  "probe_log", "deck_reading", "deck_cut",
                                                "deck_target", "pass_plan", "note",         "strike"};

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
