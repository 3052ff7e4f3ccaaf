// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

#include "block/entry_samples.h"
#include "block/job_file.h"
#include "block/small_block.h"

#include <gtest/gtest.h>
#include <set>

using namespace pallix::block;
using pallix::test::one_of_each;

namespace {

Entry entry(std::int64_t sequence, Payload payload) {
    return {sequence, "2026-03-02T09:41:00Z", "Marit", std::move(payload)};
}

} // namespace

TEST(Ledger, EveryKindSurvivesItsJson) {
    for (const Payload& payload : one_of_each()) {
        const auto again = read_payload(kind_of(payload), version_of(payload), payload_json(payload));
        ASSERT_TRUE(again) << kind_of(payload) << ": " << again.error().front().text();
        EXPECT_EQ(again->index(), payload.index()) << kind_of(payload);
        EXPECT_TRUE(*again == payload) << payload_json(payload) << " became " << payload_json(*again);
    }
}

TEST(Ledger, EmptyOptionsSurviveToo) {
    TextureLimits bare_limits;
    bare_limits.rings = "none";
    BoreCut bare_cut;
    bare_cut.bore = {FeatureKind::bore, "C", 1};
    for (const Payload& payload : std::vector<Payload>{
             ProbeLogTaken{"b.csv", "abd", "t", std::nullopt, false},
             pallix::test::height_reading({10, -20.5}, 199.987), DeckCut{"C", PassKind::spring, 0, false, {}},
             TunnelPolicy{}, EngineFigures{}, bare_limits, bare_cut, LifterPlanChosen{}, ConditionsStated{}}) {
        const auto again = read_payload(kind_of(payload), 1, payload_json(payload));
        ASSERT_TRUE(again) << payload_json(payload) << ": " << again.error().front().text();
        EXPECT_TRUE(*again == payload) << payload_json(payload);
    }
}

TEST(Ledger, EveryKindHasANameOfItsOwn) {
    std::set<std::string> names;
    for (const Payload& payload : one_of_each())
        EXPECT_TRUE(names.insert(kind_of(payload)).second) << kind_of(payload);
}

TEST(Ledger, WhatWasMadeIsHeldAgainstTheSameRanges) {
    for (Payload& payload : one_of_each()) {
        const Payload before = payload;
        EXPECT_TRUE(faults_in(payload).empty()) << kind_of(payload) << ": " << faults_in(payload).front().text();
        EXPECT_TRUE(payload == before) << kind_of(payload) << " was changed by being looked at";
    }
    const auto says = [](Payload payload) {
        const auto faults = faults_in(payload);
        return faults.empty() ? std::string() : faults.front().text();
    };
    EXPECT_EQ(says(TunnelPass{TunnelPassKind::strokes, -3, {}, false}), "strokes is -3, expected 0 to 10000");
    EXPECT_EQ(says(DeckCut{"C", PassKind::pass, 12, false, {}}), "depth_mm is 12, expected 0 to 5");
    EXPECT_EQ(says(DeckCut{"C", PassKind::pass, std::nan(""), false, {}}), "depth_mm is nan, expected 0 to 5");
    EXPECT_EQ(says(PassPlanChosen{0, 0.05, 0, 2'000'000'000}), "spring_passes is 2e+09, expected 0 to 20");
    EXPECT_EQ(says(FlawMarked{"C", FlawKind::crack, {}, FlawNear::bore, {}, ""}),
              "path_mm has 0 items, expected 1 to 1000");
    EXPECT_EQ(says(DeckCut{"C", PassKind::pass, 1, false, {{1, 1}, {1, 2e4}}}),
              "dark_mm[1] is 20000, expected -10000 to 10000");
    EXPECT_EQ(says(Note{"\xe9t\xe9"}), "text is no UTF-8 text from byte 1 on, expected UTF-8");
    LifterPlanChosen keyed;
    keyed.keyed = true;
    EXPECT_EQ(says(keyed), "key_angle_rad is missing, expected the angle of a keyed bush");
    EngineFigures chain;
    chain.overhead_chain = EngineFigures::CamChain{5, 42, 9.5, 300};
    EXPECT_EQ(says(chain), "overhead_chain.teeth_crank is 5, expected 6 to 1000");
    Reading sweep = pallix::test::size_reading("main.1", "", "noon", 0.1);
    sweep.at.quantity = Quantity::sweep;
    EXPECT_EQ(says(sweep), "direction is no place of a sweep, expected 12, 3, 6 or 9");
    Reading height = pallix::test::height_reading({1, 1}, 200);
    height.at.feature = {FeatureKind::main, "", 1};
    EXPECT_EQ(says(height), "feature is main.1, expected a deck");
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

// A cut that could not be read became nothing, depth 0, and said so nowhere.
TEST(Ledger, BrokenPayloadsAreRefusedWithFieldAndReason) {
    const auto says = [](const char* kind, const char* json) {
        const auto read = read_payload(kind, 1, json);
        EXPECT_FALSE(read) << json;
        return read ? std::string() : read.error().front().text();
    };
    EXPECT_EQ(says("note", "{"), "this is not well-formed JSON, expected a value, comma or bracket here");
    EXPECT_EQ(says("note", "{}"), "text is missing, expected a text");
    EXPECT_EQ(says("note", "[]"), "is a list, expected an object");
    EXPECT_EQ(says("note", R"({"text":1e999})"),
              "a number is outside what a computer number holds, expected finite numbers");
    EXPECT_EQ(says("deck_cut", R"({"bank":"C","pass":"sideways","depth_mm":1,"clean":true,"dark_mm":[]})"),
              "pass is \"sideways\", expected one of witness, pass, finish, spring, flush");
    EXPECT_EQ(says("deck_cut", R"({"bank":"C","pass":"pass","depth_mm":"1","clean":true,"dark_mm":[]})"),
              "depth_mm is \"1\", expected a number");
    EXPECT_EQ(says("strike", R"({"reason":"x"})"), "sequence is missing, expected a whole number");
    EXPECT_EQ(says("strike", R"({"sequence":1e30,"reason":"x"})"), "sequence is 1e+30, expected 1 to 1e+15");
    EXPECT_EQ(says("tunnel_pass", R"({"pass":"strokes","strokes":3.5})"), "strokes is 3.5, expected a whole number");
    EXPECT_EQ(says("bore_cut", R"({"bore":"main.1","operation":"rough","note":""})"),
              "bore is main.1, expected a bore or lifter");
    EXPECT_EQ(says("caps_cut", R"({"cuts_mm":{"bore.R.1":0.1}})"),
              "cuts_mm.bore.R.1 is no main, expected a name such as \"main.1\"");
    EXPECT_EQ(
        says(
            "hone_plan",
            R"({"steps":[{"grit":"a","abrasive":"brush","leaves_mm":0},{"grit":"b","abrasive":"brush","leaves_mm":1}],)"
            R"("speed_rev_min":1,"stroke_mm":1,"strokes_per_min":1,"there_and_back":true})"),
        "steps leave more after a later step, expected less and less stock");
    EXPECT_EQ(says("set_up", R"({"bank":"C","surface":"deck","readings":[1,2,3],"feet":[]})"),
              "readings[0] is 1, expected an object");
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

TEST(JobFile, WhatWasStruckNeedNotBeReadable) {
    const UnknownPayload damaged{"deck_cut", 1, R"({"bank":"C"})", {{"pass", "is missing", "a word"}}};
    std::vector<Entry> entries{entry(1, one_of_each().front()), entry(2, damaged)};
    const auto refused = read_job(write_job(entries), "j");
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().front().text().find("entry 2 (deck_cut): pass is missing"), std::string::npos);
    entries.push_back(entry(3, Strike{2, "unreadable"}));
    const auto taken = read_job(write_job(entries), "j");
    ASSERT_TRUE(taken) << taken.error().front().text();
    EXPECT_EQ(write_job(*taken), write_job(entries));
}

TEST(JobFile, WhatIsNotEvenJsonCanBeWritten) {
    const UnknownPayload torn{"deck_cut", 1, "{\"bank\":\"C\",", {{"", "is not well-formed JSON", ""}}};
    const std::string text = write_job({entry(1, one_of_each().front()), entry(2, torn)});
    EXPECT_NE(text.find(R"("unreadable": "{\"bank\":\"C\",")"), std::string::npos);
}

// Each of these hung for minutes or ate all memory.
TEST(JobFile, BombsAreRefusedAtOnce) {
    const auto says = [](const std::string& text) {
        const auto job = read_job(text, "j");
        return job ? std::string() : job.error().front().text();
    };
    const auto many = [](const std::string& what, std::size_t n) {
        std::string text;
        for (std::size_t i = 0; i < n; ++i)
            text += what;
        return text;
    };
    EXPECT_EQ(says(many("[", 100000)),
              "j:1: lists and objects stand more than 64 deep in one another, expected a flatter file");
    std::string keys = "{\"a\":0";
    for (int i = 0; i < 100000; ++i)
        keys += ",\"k" + std::to_string(i) + "\":1";
    EXPECT_EQ(says(keys + "}"), "j:1: an object has more than 2000 keys, expected fewer");
    EXPECT_EQ(says("{\"" + many("k", 300) + "\":1}"), "j:1: a key has 300 bytes, expected at most 200");
    EXPECT_NE(says("{\"format\":\"pallix-job\",\"version\":-1,\"entries\":[]}"), "");
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
    EXPECT_EQ(says("\"text\": \"n\"", "\"words\": 1"), "j.json:26: entry 2 (note): text is missing, expected a text");
    EXPECT_NE(says("\"job_opened\"", "\"job_closed\"").find("first entry is of kind \"job_closed\""),
              std::string::npos);
    EXPECT_NE(says("2026-03-02T09:41:00Z", "yesterday").find("time is \"yesterday\""), std::string::npos);
    EXPECT_FALSE(read_job("{\"format\":\"pallix-job\",\"version\":1,\"entries\":[]}", "j.json"));
}
