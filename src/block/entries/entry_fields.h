// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fields.h"
#include "block/ledger.h"

namespace pallix::block {

// The one description of every kind of entry: its name in files and its fields. Writing, reading and checking go
// through it; a kind without one does not compile. docs/formats.md says what the fields mean.

template <class Entry>
inline constexpr std::string_view entry_kind = {}; // every kind has its own below

template <>
inline constexpr std::string_view entry_kind<JobOpened> = "job_opened";
template <>
inline constexpr std::string_view entry_kind<ProbeLogTaken> = "probe_log";
template <>
inline constexpr std::string_view entry_kind<Reading> = "reading";
template <>
inline constexpr std::string_view entry_kind<DeckCut> = "deck_cut";
template <>
inline constexpr std::string_view entry_kind<DeckTargetChosen> = "deck_target";
template <>
inline constexpr std::string_view entry_kind<PassPlanChosen> = "pass_plan";
template <>
inline constexpr std::string_view entry_kind<Note> = "note";
template <>
inline constexpr std::string_view entry_kind<Strike> = "strike";
template <>
inline constexpr std::string_view entry_kind<ConditionsStated> = "conditions";
template <>
inline constexpr std::string_view entry_kind<RingCheck> = "ring_check";
template <>
inline constexpr std::string_view entry_kind<RepeatabilityTest> = "repeatability_test";
template <>
inline constexpr std::string_view entry_kind<TunnelCut> = "tunnel_cut";
template <>
inline constexpr std::string_view entry_kind<ReadingPlanChosen> = "reading_plan";
template <>
inline constexpr std::string_view entry_kind<TunnelPolicy> = "tunnel_plan";
template <>
inline constexpr std::string_view entry_kind<CapsCut> = "caps_cut";
template <>
inline constexpr std::string_view entry_kind<TunnelPass> = "tunnel_pass";
template <>
inline constexpr std::string_view entry_kind<StepDone> = "step_done";
template <>
inline constexpr std::string_view entry_kind<FlawMarked> = "flaw";
template <>
inline constexpr std::string_view entry_kind<FlawDecided> = "flaw_decided";
template <>
inline constexpr std::string_view entry_kind<PressureTested> = "pressure_test";
template <>
inline constexpr std::string_view entry_kind<DeckForecastKept> = "deck_forecast";
template <>
inline constexpr std::string_view entry_kind<CutterFitted> = "cutter";
template <>
inline constexpr std::string_view entry_kind<FinishNoted> = "deck_finish";
template <>
inline constexpr std::string_view entry_kind<GasketChosen> = "gasket";
template <>
inline constexpr std::string_view entry_kind<SetUpRead> = "set_up";
template <>
inline constexpr std::string_view entry_kind<EngineFigures> = "engine_figures";
template <>
inline constexpr std::string_view entry_kind<HeadWork> = "head_work";
template <>
inline constexpr std::string_view entry_kind<CylinderPlanChosen> = "cylinder_plan";
template <>
inline constexpr std::string_view entry_kind<BorePitted> = "bore_pit";
template <>
inline constexpr std::string_view entry_kind<BoreDecided> = "bore_decided";
template <>
inline constexpr std::string_view entry_kind<PistonsStated> = "pistons";
template <>
inline constexpr std::string_view entry_kind<BoreCut> = "bore_cut";
template <>
inline constexpr std::string_view entry_kind<InsertMeasured> = "insert_measured";
template <>
inline constexpr std::string_view entry_kind<InsertFitted> = "insert_fitted";
template <>
inline constexpr std::string_view entry_kind<BoreStepDone> = "bore_step";
template <>
inline constexpr std::string_view entry_kind<HonePlanChosen> = "hone_plan";
template <>
inline constexpr std::string_view entry_kind<RestBegun> = "rest";
template <>
inline constexpr std::string_view entry_kind<TraceTaken> = "profile_trace";
template <>
inline constexpr std::string_view entry_kind<TextureLimits> = "texture_limits";
template <>
inline constexpr std::string_view entry_kind<LifterPlanChosen> = "lifter_plan";
template <>
inline constexpr std::string_view entry_kind<LifterDecided> = "lifter_decided";
template <>
inline constexpr std::string_view entry_kind<GatePassed> = "gate_passed";
template <>
inline constexpr std::string_view entry_kind<RoundOpened> = "round";
template <>
inline constexpr std::string_view entry_kind<ScopeChosen> = "scope";
template <>
inline constexpr std::string_view entry_kind<RouteChosen> = "route";
template <>
inline constexpr std::string_view entry_kind<StepSkipped> = "step_skipped";

void fields(Fields& f, JobOpened& p);
void fields(Fields& f, ProbeLogTaken& p);
void fields(Fields& f, Reading& p);
void fields(Fields& f, DeckCut& p);
void fields(Fields& f, DeckTargetChosen& p);
void fields(Fields& f, PassPlanChosen& p);
void fields(Fields& f, Note& p);
void fields(Fields& f, Strike& p);
void fields(Fields& f, ConditionsStated& p);
void fields(Fields& f, RingCheck& p);
void fields(Fields& f, RepeatabilityTest& p);
void fields(Fields& f, TunnelCut& p);
void fields(Fields& f, ReadingPlanChosen& p);
void fields(Fields& f, TunnelPolicy& p);
void fields(Fields& f, CapsCut& p);
void fields(Fields& f, TunnelPass& p);
void fields(Fields& f, StepDone& p);
void fields(Fields& f, FlawMarked& p);
void fields(Fields& f, FlawDecided& p);
void fields(Fields& f, PressureTested& p);
void fields(Fields& f, DeckForecastKept& p);
void fields(Fields& f, CutterFitted& p);
void fields(Fields& f, FinishNoted& p);
void fields(Fields& f, GasketChosen& p);
void fields(Fields& f, SetUpRead& p);
void fields(Fields& f, EngineFigures& p);
void fields(Fields& f, HeadWork& p);
void fields(Fields& f, CylinderPlanChosen& p);
void fields(Fields& f, BorePitted& p);
void fields(Fields& f, BoreDecided& p);
void fields(Fields& f, PistonsStated& p);
void fields(Fields& f, BoreCut& p);
void fields(Fields& f, InsertMeasured& p);
void fields(Fields& f, InsertFitted& p);
void fields(Fields& f, BoreStepDone& p);
void fields(Fields& f, HonePlanChosen& p);
void fields(Fields& f, RestBegun& p);
void fields(Fields& f, TraceTaken& p);
void fields(Fields& f, TextureLimits& p);
void fields(Fields& f, LifterPlanChosen& p);
void fields(Fields& f, LifterDecided& p);
void fields(Fields& f, GatePassed& p);
void fields(Fields& f, RoundOpened& p);
void fields(Fields& f, ScopeChosen& p);
void fields(Fields& f, RouteChosen& p);
void fields(Fields& f, StepSkipped& p);

void fields(Fields& f, Instrument& i); ///< of the register, and within a reading
void fields(Fields& f, Conditions& c);

/// Numbers by feature: {"main.2": 0.05}.
template <class Map>
void by_feature(Fields& f, Fields::Key key, Map& map, FeatureKind kind, Range range) {
    std::vector<std::string> keys;
    keys.reserve(map.size());
    for (const auto& [id, value] : map)
        keys.push_back(id.text());
    const Map before = std::move(map);
    map = Map();
    auto known = before.begin();
    for (const std::string& name : f.begin_map(key, std::move(keys), {0, 200})) {
        const auto id = FeatureId::parse(name);
        double value = known == before.end() ? 0 : (known++)->second;
        f.demand(id && id->kind == kind, name, "is no " + std::string(kind_name(kind)),
                 "a name such as \"" + FeatureId{kind, "R", 1}.text() + "\"");
        f.number(name, value, range);
        if (id)
            map.insert(map.end(), {*id, value});
    }
    f.end();
}

} // namespace pallix::block
