// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entry_samples.h"
#include "block/digest.h"
#include "block/sealed_text.h"

#include "block/small_block.h"

namespace pallix::test {

using namespace block;

namespace {

const FeatureId bore{FeatureKind::bore, "C", 1}, lifter{FeatureKind::lifter, "C", 2}, second{FeatureKind::main, "", 2};

/// No body: a kind without a sample stays undefined and does not link, one without a declaration does not compile.
template <class Entry>
Entry sample() = delete;

template <>
JobOpened sample() {
    return {"title", "customer", "b.json", small_blueprint(), "small block", 2};
}
template <>
BlueprintAmended sample() {
    return {"amended.json", small_blueprint("decks"), "the sheet was misread"};
}
template <>
ProbeLogTaken sample() {
    return {"a.csv", sha256_hex("text\nwith lines"), "text\nwith lines", 0.002, true};
}
template <>
Reading sample() {
    Reading r = size_reading("bore.C.1", "top", "across", 60.01);
    r.at.place = {};
    r.upper = 60.02;
    r.confirmed = true;
    r.instrument = {"ring gauge",     InstrumentKind::precision_level, 0.002, 0.001, 0.2, "2026-01-12", 60.0,
                    "ring",           "2026-03-02T08:00:00Z",          20.5,  180,   0.2, 0.0007,       5,
                    DialSense::larger};
    r.conditions = {true, false, 24.0, 21.0, "oil"};
    return r;
}
template <>
DeckCut sample() {
    return {"C", PassKind::finish, 0.1, true, {{1, 2}, {3, -4}}, 12, true, MarkerLines::fewer, true};
}
template <>
DeckTargetChosen sample() {
    return {TargetSchool::ratio, false, 199.5, -0.2, 9.5};
}
template <>
PassPlanChosen sample() {
    return {0.02, 0.05, 0.03, 3};
}
template <>
Note sample() {
    return {"quoted \"words\" and µ"};
}
template <>
Strike sample() {
    return {4, "slipped zero"};
}
template <>
ConditionsStated sample() {
    return {{false, true, 21.5, 20.5, "oil, 3 steps"}, true};
}
template <>
RingCheck sample() {
    return {"bore gauge", 73.99, 73.9915};
}
template <>
RepeatabilityTest sample() {
    return {"bore gauge", "main 2", {73.991, 73.992, 73.99}};
}
template <>
GaugeStudyBegun sample() {
    return {"bore gauge",
            "cylinder_sizes C",
            {"bore.C.1 size top across", "bore.C.1 size top along"},
            {"Marit", "Mira"},
            2};
}
template <>
TunnelForecastKept sample() {
    return {{{{FeatureKind::main, "", 1}, 0.012, 0.003}, {second, 0.014, {}}}};
}
template <>
Experience sample() {
    return {{{Trait::wear, "bore.C.1", 0.031, 0.004, 9}}, {{ForecastKind::cap_size, "bore gauge", "", 14, 9, 1.6}}};
}
template <>
TunnelCut sample() {
    return {TunnelMethod::bore, "caps cut 3 thou"};
}
template <>
ReadingPlanChosen sample() {
    return {"main_sizes", {"main.1 size front upright", "main.2 size rear 60 left"}};
}
template <>
TunnelPolicy sample() {
    return {TunnelMethod::bore, 70.006,   0.01, 0.2, 0.5, CapCuts::equal, 0.4, 0.1, 0.03,
            GivenLine::ends,    {second}, 50.0};
}
template <>
CapsCut sample() {
    return {{{{FeatureKind::main, "", 1}, 0.03}, {second, 0.05}}};
}
template <>
TunnelPass sample() {
    return {TunnelPassKind::establishing, 12, 1.25, true};
}
template <>
MainMarked sample() {
    return {second, BarMark::dusting};
}
template <>
IndicatorSag sample() {
    return {-0.004, 0.006};
}
template <>
BalanceCard sample() {
    return {520.5, 42, 4, 410, 118, 36, 160, 2, 0.48, 1, 21.5, 5200.0, 2.5};
}
template <>
StepDone sample() {
    return {"caps deburred"};
}
template <>
FlawMarked sample() {
    return {"C", FlawKind::mark, {{1, 2}, {3, -4}}, FlawNear::bolt, 0.4, "wept"};
}
template <>
FlawDecided sample() {
    return {7, FlawChoice::scrap, "n"};
}
template <>
PressureTested sample() {
    return {true, "3 bar"};
}
template <>
DeckForecastKept sample() {
    return {"C", 0.1, 0.2, 199.1, 199.3, {10, -20}};
}
template <>
CutterFitted sample() {
    return {250, 2, 1.2, 240, 0.12, 320, 0.06, true};
}
template <>
FinishNoted sample() {
    return {"C", CutterState::chatter, 0.0012, "n"};
}
template <>
GasketChosen sample() {
    return {GasketKind::soft_copper, 0.0022};
}
template <>
SetUpRead sample() {
    return {"C", "bar", {{{1, 2}, 0.1}, {{3, 4}, -0.2}, {{5, -6}, 0}}, {{"front", {7, 8}}, {"rear", {9, -10}}}};
}
template <>
EngineFigures sample() {
    EngineFigures f{90.0, 150.0, 40.0, 52000.0, {{1, 51000}, {12, 53000}}, 88.0, 1.2, -3000, 400, false,
                    2.5,  2.75,  0.3,  {}};
    f.overhead_chain = EngineFigures::CamChain{21, 42, 9.525, 310};
    return f;
}
template <>
HeadWork sample() {
    return {"C", 0.05, 0.06, 0.2, 51500.0};
}
template <>
CylinderPlanChosen sample() {
    return {CentreSchool::limited, {0, 0.5}, 0.02, 0.5, 3.8, 2.5, ThrustSide::left};
}
template <>
BorePitted sample() {
    return {bore, 0.2, "middle", "left", "rust"};
}
template <>
BoreDecided sample() {
    return {bore, BoreChoice::sleeve, "why"};
}
template <>
PistonsStated sample() {
    return {PistonAlloy::low_silicon_forged, 0.06, 80.4, {{bore, 80.41}}, 0.09, 0.011, 2.2, 0.01, 0.006, false};
}
template <>
BoreCut sample() {
    return {bore, BoreOperation::hone, 80.5, 80.49, true, 40, "220", 45.0, "note", 0.8};
}
template <>
InsertMeasured sample() {
    return {bore, {1, 2, 3, 4, 5, 6}, 78, 140, 0.03, 100, 1e5, 7e4, 0.25, 0.33, 0.1, 0.04, true, 5.0};
}
template <>
InsertFitted sample() {
    return {lifter, 0.1, 0.5, 12.0, "n"};
}
template <>
BoreStepDone sample() {
    return {bore, "chamfer, top", 0.8, "even"};
}
template <>
HonePlanChosen sample() {
    return {{{"220", Abrasive::diamond, 0.01}, {"brush", Abrasive::brush, 0}}, 170, 150, 55, false};
}
template <>
RestBegun sample() {
    return {40, "2026-03-02T10:45:00Z"};
}
template <>
TraceTaken sample() {
    return {bore, "a.csv", sha256_hex("x,z"), "x,z"};
}
template <>
RoughnessRead sample() {
    return {bore, 0.0004, 0.004, 0.001, 0.0003, 0.0015, 0.1, 0.8};
}
template <>
TextureLimits sample() {
    return {"moly", {0.1, 0.2}, {{}, 0.3}, {0.4, {}}, {0.5, 0.6}, {0.7, 0.8}, {{}, 0.12}, {0.7, 0.85}};
}
template <>
LifterPlanChosen sample() {
    return {LifterSchool::bush_all, 21.9, 0.02, 0.05,  0.1,  24.0, 0.03,
            Follower::flat,         15.0, 8.5,  false, true, 0.5,  12.0};
}
template <>
LifterDecided sample() {
    return {lifter, LifterChoice::bush, "n"};
}
template <>
GatePassed sample() {
    return {Rule::flaw_decided, "deck.C", "seen and left"};
}
template <>
RoundOpened sample() {
    return {"sweep", "screws turned"};
}
template <>
ScopeChosen sample() {
    return {{Stage::cylinders, Stage::passport}, "tunnel good by its papers"};
}
template <>
RouteChosen sample() {
    return {RoutePreset::least_metal, {Stage::decks, Stage::tunnel}};
}
template <>
LimitsChosen sample() {
    return {0.04, 0.02, 0.03, 0.025, 0.0125, 0.004, 0.1, 0.2, 1.65, 12, 3, "a race engine"};
}
template <>
StepSkipped sample() {
    return {"deck.C/spring", "marker lines gone"};
}
template <>
JobCard sample() {
    return {"casting 118 B", "Tern",    "0171 55 01",  "loses gaskets", "sleeved once", Use::race,
            "petrol 98",     "1.2 bar", "soft copper", "ratio 9.5",     0.762,          "2026-12-04"};
}
template <>
PartNoted sample() {
    return {"sleeve kit", true, "shelf 3", "2026-12-01", Stage::cylinders};
}
template <>
HoldPlaced sample() {
    return {"the owner", "sleeve or scrap", Stage::decks};
}
template <>
HoldLifted sample() {
    return {7, "sleeve"};
}
template <>
ClockSet sample() {
    return {"soak", 240, "2026-03-02T13:41:00Z", Stage::cleaned};
}
template <>
Inspected sample() {
    return {Inspection::cracks, "dye", "none at the bolt holes"};
}
template <>
PictureKept sample() {
    return {"deck.png", std::string(64, 'a'), 2048, "deck.C", "as it came"};
}
template <>
AtBench sample() {
    return {"Mira", Role::learner};
}
template <>
SignedOff sample() {
    return {"cut_deck", "Marit", Role::owner, true};
}
template <>
Delivered sample() {
    return {"Tern", "on a pallet"};
}
template <>
SerialGiven sample() {
    return {"S26-004", "S26-004 B84.52"};
}
template <>
PracticeBegun sample() {
    return {"bowed_tunnel", 7, 2, "The ferry's block", "Bring the mains in line.", sealed_text("{}"), sha256_hex("{}")};
}
template <>
TruthOpened sample() {
    return {82.5};
}
template <>
UnknownPayload sample() {
    return {"bore_honed", 3, R"({"grit":220})", {}};
}

template <std::size_t... I>
std::vector<Payload> samples(std::index_sequence<I...>) {
    return {sample<std::variant_alternative_t<I, PayloadKinds>>()...};
}

} // namespace

std::vector<Payload> one_of_each() {
    return samples(std::make_index_sequence<std::variant_size_v<PayloadKinds>>());
}

} // namespace pallix::test
