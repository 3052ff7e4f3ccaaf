// SPDX-License-Identifier: GPL-3.0-or-later
// What the ledger says of every kind of entry: the facts a person needs to find one again, none of them lost.
#include "block/entry_samples.h"
#include "block/small_block.h"
#include "block/state/fold.h"
#include "wording/common/sentences.h"

#include <gmock/gmock.h>
#include <map>

using namespace pallix;
using testing::HasSubstr;

namespace {

/// What must stand in the sentence of each sample (tests/block/entry_samples.cpp), in mm.
const std::map<std::string, std::vector<std::string>> facts{
    {"job_opened", {"opened", "small block, revision 2"}},
    {"probe_log", {"a.csv", "0.0020 mm"}},
    {"reading", {"60.010 mm goes in", "60.020 mm does not", "ring gauge"}},
    {"deck_cut", {"deck:", "head, finishing cut", "0.100 mm"}},
    {"deck_target", {"ratio", "9.50", "each bank its own"}},
    {"pass_plan", {"0.020", "0.050", "0.030", "three spring passes"}},
    {"note", {"quoted \"words\" and µ"}},
    {"strike", {"entry 4", "slipped zero"}},
    {"conditions", {"caps off", "plate on", "21.5 °C", "20.5 °C", "oil, 3 steps", "before"}},
    {"ring_check", {"bore gauge", "73.992", "73.990", "0.002 too much"}}, // 73.9915 less 73.9900
    {"repeatability_test", {"bore gauge", "3 times", "main 2"}},
    {"gauge_study", {"bore gauge", "two places", "2 times", "Marit, Mira"}},
    {"tunnel_forecast", {"0.014 mm", "main 2"}},
    {"experience", {"one trait", "one record"}},
    {"tunnel_cut", {"bored", "caps cut 3 thou"}},
    {"reading_plan", {"main_sizes", "two places"}},
    {"tunnel_plan", {"line bore", "caps equal", "70.006 mm"}},
    {"caps_cut", {"1 by 0.030", "2 by 0.050 mm"}},
    {"tunnel_pass", {"establishing pass", "1.250 mm", "new cutter"}},
    {"main_mark", {"main 2", "dusted"}},
    {"indicator_sag", {"sags", "at 12"}},
    {"balance_card", {"bobweight 915.0 g", "g·mm"}},
    {"step_done", {"caps deburred"}},
    {"flaw", {"deck:", "mark", "6.325 mm long", "0.400 mm deep", "bolt", "wept"}}, // √(2² + 6²)
    {"flaw_decided", {"entry 7", "scrap"}},
    {"pressure_test", {"tight", "3 bar"}},
    {"deck_forecast", {"deck:", "0.100 to 0.200 mm"}},
    {"cutter", {"250.000 mm", "2 teeth", "new inserts"}},
    {"deck_finish", {"deck:", "chatter", "1.20 µm"}},
    {"gasket", {"soft copper", "2.20 µm"}},
    {"set_up", {"deck:", "bar", "3 places", "0.300 mm"}}, // 0.1 less −0.2
    {"engine_figures", {"stroke 90.000 mm", "52.00 cm³"}},
    {"head_work", {"0.050 mm goes in", "0.060 mm does not", "0.200 mm off", "51.50 cm³"}},
    {"cylinder_plan", {"+0.500 mm", "3.800 mm on the thrust side"}},
    {"bore_pit", {"cylinder 1", "0.200 mm deep", "middle", "left", "rust"}},
    {"bore_decided", {"cylinder 1", "sleeve", "why"}},
    {"pistons", {"low silicon", "80.400 mm", "0.060 mm", "0.090 mm"}},
    {"bore_cut",
     {"cylinder 1", "hone", "80.500 mm", "80.490 mm", "40 strokes", "220", "45 %", "cross-hatch 46°", "fresh edge",
      "note"}},
    {"insert_measured", {"cylinder 1", "3.500 mm", "5.000", "0.030 mm"}}, // mean and spread of 1 to 6
    {"insert_fitted", {"0.100 mm", "28.6°"}},                             // half a radian
    {"bore_step", {"cylinder 1", "chamfer, top", "0.800 mm", "even"}},
    {"hone_plan", {"220", "brush", "170 rev/min", "55 strokes of 150.000 mm"}},
    {"rest", {"40 min", "10:45"}},
    {"profile_trace", {"cylinder 1", "a.csv"}},
    {"texture_limits", {"moly"}},
    {"lifter_plan", {"bush every one", "21.900 mm", "0.030 mm"}},
    {"lifter_decided", {"bush"}},
    {"gate_passed", {"a flaw nobody has decided on", "deck.C", "seen and left"}},
    {"round", {"sweep", "screws turned"}},
    {"scope", {"cylinders, passport", "tunnel good by its papers"}},
    {"route", {"least metal", "decks, tunnel"}},
    {"roughness", {"Ra 0.40 µm", "Mr2 80.0 %"}},
    {"limits", {"decks flat 0.040", "guard band 1.65", "a race engine"}},
    {"step_skipped", {"deck.C/spring", "marker lines gone"}},
    {"blueprint_amended", {"amended.json", "the sheet was misread"}},
    {"job_card",
     {"casting 118 B", "Tern", "0171 55 01", "loses gaskets", "sleeved once", "race", "petrol 98", "1.2 bar",
      "soft copper", "ratio 9.5", "0.762 mm", "2026-12-04"}},
    {"part", {"sleeve kit", "here", "shelf 3"}},
    {"hold", {"the owner", "sleeve or scrap", "decks"}},
    {"hold_lifted", {"entry 7", "sleeve"}},
    {"clock", {"soak", "240 min", "2026-03-02T13:41:00Z", "cleaned waits"}},
    {"inspected", {"cracks", "dye", "none at the bolt holes"}},
    {"picture", {"deck.png", "deck.C", "as it came", "2 kB"}},
    {"at_bench", {"Mira", "learner"}},
    {"serial", {"S26-004", "S26-004 B84.52"}},
    {"practice", {"bowed_tunnel", "number 7", "not there"}},
    {"truth_opened", {"truth", "over", "of 100"}},
    {"signed_off", {"Marit", "owner", "cutting a deck", "by code"}},
    {"delivered", {"Tern", "on a pallet"}},
    {"bore_honed", {"\"bore_honed\"", "does not know"}},
};

block::Folded small_job() {
    return block::fold(
        {{1, "2026-03-02T09:00:00Z", "Marit", block::JobOpened{"t", "c", "b.json", test::small_blueprint()}}});
}

} // namespace

TEST(EntrySentences, SayWhatWasDoneInEveryKind) {
    const block::Folded job = small_job();
    const wording::LengthText mm(block::Unit::mm);
    std::size_t looked = 0;
    for (const block::Payload& payload : test::one_of_each()) {
        const std::string kind = block::kind_of(payload);
        const auto expected = facts.find(kind);
        ASSERT_NE(expected, facts.end()) << "a new kind says something too: " << kind;
        const std::string said = wording::entry_sentence({2, "2026-03-02T09:41:00Z", "Marit", payload}, job, mm);
        for (const std::string& fact : expected->second)
            EXPECT_THAT(said, HasSubstr(fact)) << kind;
        EXPECT_EQ(said.find('\n'), std::string::npos) << kind << " is one line";
        ++looked;
    }
    EXPECT_EQ(looked, facts.size());
}

// Whoever reads in inches finds no millimetre in any of them, and the other way round.
TEST(EntrySentences, KeepToTheUnit) {
    const block::Folded job = small_job();
    const wording::LengthText inch(block::Unit::inch), mm(block::Unit::mm);
    for (const block::Payload& payload : test::one_of_each()) {
        if (std::holds_alternative<block::Note>(payload) || std::holds_alternative<block::TunnelCut>(payload))
            continue; // a person's own words
        const block::Entry entry{2, "2026-03-02T09:41:00Z", "Marit", payload};
        const std::string in_inches = wording::entry_sentence(entry, job, inch),
                          in_mm = wording::entry_sentence(entry, job, mm);
        EXPECT_EQ(in_inches.find(" mm"), std::string::npos) << in_inches;
        EXPECT_EQ(in_mm.find(" in "), in_mm.find(" in under")) << in_mm; // "goes in under the straightedge"
        EXPECT_EQ(in_mm.find("thou"), std::string::npos) << in_mm;
    }
}

TEST(EntrySentences, AJobWithoutABlueprintIsStillRead) {
    const block::Folded nothing;
    const wording::LengthText mm(block::Unit::mm);
    for (const block::Payload& payload : test::one_of_each())
        EXPECT_FALSE(wording::entry_sentence({2, "", "", payload}, nothing, mm).empty()) << block::kind_of(payload);
    EXPECT_THAT(
        wording::entry_sentence({2, "", "", block::FinishNoted{"X", block::CutterState::sharp, {}, ""}}, nothing, mm),
        testing::StartsWith("bank X: "));
}
