// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

#include "block/job_file.h"
#include "small_block.h"

#include <nlohmann/json.hpp>

using namespace pallix::block;

namespace {

Entry entry(std::int64_t sequence, Payload payload) {
    return {sequence, "2026-03-02T09:41:00Z", "Marit", std::move(payload)};
}

/// Every field filled.
Reading full_reading() {
    Reading r = pallix::test::size_reading("bore.C.1", "top", "across", 60.01);
    r.upper = 60.02;
    r.confirmed = true;
    r.instrument.resolution = 0.002;
    r.instrument.turn = 0.2;
    r.instrument.last_check = "2026-01-12";
    r.instrument.zero = 60.0;
    r.instrument.zero_set_on = "ring";
    r.instrument.contact_angle = 0.2;
    r.instrument.repeatability = 0.0007;
    r.instrument.repeatability_readings = 5;
    r.conditions = {true, true, 24.0, 21.0, "oil"};
    return r;
}

std::vector<Payload> one_of_each() {
    return {JobOpened{"title", "customer", "b.json", pallix::test::small_blueprint()},
            ProbeLogTaken{"a.csv", "abc", "text\nwith lines", 0.002, true},
            ProbeLogTaken{"b.csv", "abd", "t", std::nullopt, false},
            pallix::test::height_reading({10, -20.5}, 199.987),
            full_reading(),
            ConditionsStated{{true, false, 21.5, {}, "oil, 3 steps"}},
            RingCheck{"bore gauge", 73.99, 73.9915},
            RepeatabilityTest{"bore gauge", "main 2", {73.991, 73.992, 73.99}},
            TunnelCut{TunnelMethod::bore, "caps cut 3 thou"},
            ReadingPlanChosen{"main_sizes", {"main.1 size front upright"}},
            DeckCut{"C", PassKind::spring, 0, false, {{1, 2}, {3, 4}}},
            DeckTargetChosen{TargetSchool::height, false, 199.5},
            PassPlanChosen{0.02, 0.05, 0.03, 3},
            Note{"quoted \"words\" and µ"},
            Strike{4, "slipped zero"}};
}

const FeatureId bore = *FeatureId::parse("bore.C.1"), lifter = *FeatureId::parse("lifter.C.2");

/// What is said of cylinders and lifters, every field filled.
std::vector<Payload> one_of_each_bore() {
    PistonsStated pistons{
        PistonAlloy::low_silicon_forged, 0.06, 80.4, {{bore, 80.41}}, 0.09, 0.011, 2.2, 0.01, 0.006, false};
    InsertMeasured insert{bore, {1, 2, 3, 4, 5, 6}, 78, 140, 0.03, 100, 1e5, 7e4, 0.25, 0.33, 0.1, 0.04, true, 5.0};
    LifterPlanChosen lifters{LifterSchool::bush_all, 21.9, 0.02, 0.05,  0.1,  24.0, 0.03,
                             Follower::flat,         15.0, 8.5,  false, true, 0.5,  12.0};
    return {CylinderPlanChosen{CentreSchool::limited, {0, 0.5}, 0.02, 0.5, 3.8, 2.5, ThrustSide::left},
            BorePitted{bore, 0.2, "middle", "left", "rust"},
            BoreDecided{bore, BoreChoice::sleeve, "why"},
            pistons,
            BoreCut{bore, BoreOperation::rough, 80.4, 80.41, true, 0, "", {}, "note"},
            BoreCut{bore, BoreOperation::hone, 80.5, {}, false, 40, "220", 45.0, ""},
            insert,
            InsertFitted{lifter, 0.1, 0.5, 12.0, "n"},
            BoreStepDone{bore, "chamfer, top", 0.8, "even"},
            HonePlanChosen{{{"220", Abrasive::diamond, 0.01}, {"brush", Abrasive::brush, 0}}, 170, 150, 55, false},
            RestBegun{40, "2026-03-02T10:45:00Z"},
            TraceTaken{bore, "a.csv", "abc", "x,z"},
            TextureLimits{"moly", {0.1, 0.2}, {{}, 0.3}, {0.4, {}}, {0.5, 0.6}, {0.7, 0.8}, {{}, 0.12}, {0.7, 0.85}},
            lifters,
            LifterDecided{lifter, LifterChoice::hone, "n"}};
}

} // namespace

TEST(Ledger, EveryPayloadSurvivesItsJson) {
    for (const Payload& payload : one_of_each()) {
        const std::string json = payload_json(payload);
        const auto again = read_payload(kind_of(payload), version_of(payload), json);
        ASSERT_TRUE(again) << again.error();
        EXPECT_EQ(again->index(), payload.index());
        EXPECT_EQ(payload_json(*again), json);
    }
}

TEST(Ledger, EveryPayloadOfABoreSurvivesItsJson) {
    for (const Payload& payload : one_of_each_bore()) {
        const std::string json = payload_json(payload);
        const auto again = read_payload(kind_of(payload), version_of(payload), json);
        ASSERT_TRUE(again) << again.error();
        EXPECT_EQ(again->index(), payload.index());
        EXPECT_EQ(payload_json(*again), json);
    }
    const auto mains = read_payload("bore_cut", 1, R"({"bore":"main.1","operation":"rough","note":""})");
    ASSERT_FALSE(mains);
    EXPECT_NE(mains.error().find("no cylinder or lifter bore"), std::string::npos);
}

TEST(Ledger, UnknownKindsAndNewerVersionsAreKept) {
    const auto unknown = read_payload("bore_honed", 1, R"({"bore":"bore.R.1","grit":220})");
    ASSERT_TRUE(unknown);
    EXPECT_EQ(kind_of(*unknown), "bore_honed");
    EXPECT_EQ(payload_json(*unknown), R"({"bore":"bore.R.1","grit":220})");
    const auto newer = read_payload("note", 2, R"({"words":["x"]})");
    ASSERT_TRUE(newer);
    EXPECT_TRUE(std::holds_alternative<UnknownPayload>(*newer));
    EXPECT_EQ(version_of(*newer), 2);
}

TEST(Ledger, BrokenPayloadsAreRefusedWithTheReason) {
    EXPECT_FALSE(read_payload("note", 1, "{"));
    EXPECT_FALSE(read_payload("note", 1, "{}"));
    EXPECT_FALSE(
        read_payload("deck_cut", 1, R"({"bank":"C","pass":"sideways","depth_mm":1,"clean":true,"dark_mm":[]})"));
    EXPECT_NE(read_payload("strike", 1, R"({"reason":"x"})").error().find("strike"), std::string::npos);
}

TEST(Strikes, TakeEntriesOutAndCanBeStruckThemselves) {
    std::vector<Entry> entries{entry(1, Note{"a"}), entry(2, Note{"b"}), entry(3, Strike{2, "wrong"})};
    EXPECT_EQ(struck(entries), (std::vector<bool>{false, true, false}));
    entries.push_back(entry(4, Strike{3, "was right"}));
    EXPECT_EQ(struck(entries), (std::vector<bool>{false, false, true, false}));
    entries.push_back(entry(5, Strike{4, "no, wrong"}));
    EXPECT_EQ(struck(entries), (std::vector<bool>{false, true, false, true, false}));
}

TEST(Strikes, OfEntriesThatAreNotThereDoNothing) {
    EXPECT_EQ(struck({entry(1, Note{"a"}), entry(2, Strike{9, ""}), entry(3, Strike{3, "itself"})}),
              (std::vector<bool>{false, false, false}));
}

TEST(JobFile, SurvivesARoundTrip) {
    std::vector<Entry> entries;
    for (Payload& payload : one_of_each())
        entries.push_back(entry(static_cast<std::int64_t>(entries.size() + 1), std::move(payload)));
    entries.push_back(
        entry(static_cast<std::int64_t>(entries.size() + 1), UnknownPayload{"bore_honed", 3, R"({"grit":220})"}));
    const std::string text = write_job(entries);
    const auto again = read_job(text, "job");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_EQ(write_job(*again), text);
    EXPECT_EQ(again->size(), entries.size());
}

TEST(JobFile, FaultsAreNamed) {
    const std::string good = write_job({entry(1, one_of_each()[0]), entry(2, Note{"n"})});
    const auto says = [&good](const std::string& from, const std::string& to) {
        std::string text = good;
        text.replace(text.find(from), from.size(), to);
        const auto job = read_job(text, "j.json");
        EXPECT_FALSE(job) << to;
        return job ? std::string() : job.error().front().text();
    };
    EXPECT_NE(says("\"pallix-job\"", "\"pallix-jab\"")
                  .find("j.json:2: format is \"pallix-jab\", expected the text \"pallix-job\""),
              std::string::npos);
    EXPECT_NE(says("\"sequence\": 2", "\"sequence\": 5").find("entries[1].sequence is 5, expected 2"),
              std::string::npos);
    EXPECT_NE(says("\"text\": \"n\"", "\"words\": 1").find("note entry cannot be read"), std::string::npos);
    EXPECT_NE(says("\"job_opened\"", "\"job_closed\"").find("first entry is of kind \"job_closed\""),
              std::string::npos);
    EXPECT_NE(says("2026-03-02T09:41:00Z", "yesterday").find("time is \"yesterday\""), std::string::npos);
    EXPECT_FALSE(read_job("{\"format\":\"pallix-job\",\"version\":1,\"entries\":[]}", "j.json"));
}
