// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entry_samples.h"
#include "block/fields.h"
#include "block/guarded_json.h"
#include "block/json_lines.h"

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

using namespace pallix::block;
using pallix::test::one_of_each;
using Json = nlohmann::ordered_json;
using testing::HasSubstr;
using testing::StartsWith;

namespace {

/// What is said of an entry of which one value was exchanged; empty where it is taken.
std::string said_of(const Payload& payload, const Json& changed) {
    const auto read = read_payload(kind_of(payload), 1, changed.dump());
    return read ? std::string() : read.error().front().text();
}

/// Every value within an entry that is no object and no list, by its pointer and by the address messages use.
struct Leaf {
    Json::json_pointer at;
    std::string address;
};
void find_leaves(const Json& j, const Json::json_pointer& at, const std::string& address, std::vector<Leaf>& leaves) {
    if (j.is_object())
        for (const auto& [key, value] : j.items())
            find_leaves(value, at / key, member_address(address, key), leaves);
    else if (j.is_array())
        for (std::size_t i = 0; i < j.size(); ++i)
            find_leaves(j[i], at / i, item_address(address, i), leaves);
    else
        leaves.push_back({at, address});
}
std::vector<Leaf> leaves_of(const Json& j) {
    std::vector<Leaf> leaves;
    find_leaves(j, Json::json_pointer(), "", leaves);
    return leaves;
}

bool is_known(const Payload& payload) {
    return !std::holds_alternative<UnknownPayload>(payload);
}

/// The address that faults of a value use: a place [u, v] is one field.
std::string field_of(const std::string& address) {
    const std::string place = address.substr(0, address.rfind('['));
    const bool coordinate = address.ends_with(']') && (place.ends_with("at_mm") || place.ends_with("decides_mm") ||
                                                       place.ends_with("place_mm") || place.ends_with(']'));
    return coordinate ? address.substr(0, address.rfind('[')) : address;
}

} // namespace

// One fault each, in every field of every kind: nothing of it is taken, and the field is named.
TEST(EntryFields, AValueOfAnotherKindIsAFaultOfItsField) {
    std::size_t tried = 0;
    for (const Payload& payload : one_of_each()) {
        if (!is_known(payload))
            continue;
        const Json good = Json::parse(payload_json(payload));
        for (const Leaf& leaf : leaves_of(good)) {
            Json wrong = good;
            wrong[leaf.at] = Json::array({nullptr});
            EXPECT_THAT(said_of(payload, wrong), StartsWith(field_of(leaf.address)))
                << kind_of(payload) << " " << leaf.address;
            ++tried;
        }
    }
    EXPECT_GT(tried, 200U);
}

TEST(EntryFields, ANumberOutsideAnyBlockIsAFaultOfItsField) {
    for (const Payload& payload : one_of_each()) {
        if (!is_known(payload))
            continue;
        const Json good = Json::parse(payload_json(payload));
        for (const Leaf& leaf : leaves_of(good))
            if (good[leaf.at].is_number())
                for (const double absurd : {1e30, -1e30}) {
                    Json wrong = good;
                    wrong[leaf.at] = absurd;
                    EXPECT_THAT(said_of(payload, wrong), StartsWith(field_of(leaf.address)))
                        << kind_of(payload) << " " << leaf.address << " " << absurd;
                }
    }
}

TEST(EntryFields, AFieldThatIsMissingIsNamedOrHasAUsualValue) {
    std::size_t needed = 0;
    for (const Payload& payload : one_of_each()) {
        if (!is_known(payload))
            continue;
        const Json good = Json::parse(payload_json(payload));
        for (const auto& [key, value] : good.items()) {
            Json wrong = good;
            wrong.erase(key);
            const std::string said = said_of(payload, wrong);
            if (said.empty())
                continue; // may be left out
            EXPECT_THAT(said, HasSubstr(key)) << kind_of(payload);
            ++needed;
        }
    }
    EXPECT_GT(needed, 80U);
}

TEST(EntryFields, AWordThatIsNoneOfTheChoicesIsAnsweredWithThem) {
    const Payload cut = DeckCut{"C", PassKind::pass, 0.1, false, {}};
    Json wrong = Json::parse(payload_json(cut));
    wrong["pass"] = "Pass";
    EXPECT_EQ(said_of(cut, wrong), "pass is \"Pass\", expected one of witness, pass, finish, spring, flush");
}

TEST(FieldFault, IsSaidInWordsToWhoeverTyped) {
    EXPECT_EQ((FieldFault{"depth_mm", "is 12", "0 to 5"}).said(), "depth is 12, expected 0 to 5 (mm)");
    EXPECT_EQ((FieldFault{"overhead_chain.teeth_cam", "is 0", "6 to 1000"}).said(),
              "overhead chain.teeth cam is 0, expected 6 to 1000");
    EXPECT_EQ((FieldFault{"chamber_mm3", "is 0", "more"}).said(), "chamber is 0, expected more (mm³)");
    EXPECT_EQ((FieldFault{"", "is a list", "an object"}).said(), "is a list, expected an object");
}

TEST(Range, SaysWhatBelongsToIt) {
    EXPECT_EQ((Range{0, 5}).text(), "0 to 5");
    EXPECT_EQ((Range{0, 5, true}).text(), "greater than 0, at most 5");
    EXPECT_TRUE((Range{0, 5}).holds(0));
    EXPECT_FALSE((Range{0, 5, true}).holds(0));
    EXPECT_TRUE((Range{0, 5, true}).holds(5));
    EXPECT_FALSE((Range{0, 5}).holds(std::nan("")));
}

// ---- where values stand ---------------------------------------------------------------------------------------------

TEST(JsonLines, FindsTheLineOfAnyValue) {
    const std::string text = "{\n"
                             " \"a\": [1,\n"
                             "  {\"b\": \"x, } ] \\\" y\",\n"
                             "   \"c\": {\"d\": [\n"
                             "     -1.5e3,\n"
                             "     true]}}],\n"
                             " \"e\": null\n"
                             "}\n";
    const JsonLines lines(text);
    EXPECT_EQ(lines.line(""), 1);
    EXPECT_EQ(lines.line("a"), 2);
    EXPECT_EQ(lines.line("a[0]"), 2);
    EXPECT_EQ(lines.line("a[1]"), 3);
    EXPECT_EQ(lines.line("a[1].b"), 3);
    EXPECT_EQ(lines.line("a[1].c.d"), 4);
    EXPECT_EQ(lines.line("a[1].c.d[0]"), 5);
    EXPECT_EQ(lines.line("a[1].c.d[1]"), 6);
    EXPECT_EQ(lines.line("e"), 7);
    EXPECT_EQ(lines.line("a[1].c.missing"), 4) << "what holds it";
    EXPECT_EQ(lines.line("a[7].b"), 2);
    EXPECT_EQ(lines.line("nothing.of[3].this"), 1);
    EXPECT_EQ(JsonLines("\xEF\xBB\xBF{\n\"a\":1}").line("a"), 2) << "behind a byte order mark";
    EXPECT_EQ(JsonLines("").line("a[0"), 1);
}

// It stored an address for each value: 105 kB of nesting took 8 GB.
TEST(JsonLines, CostsNothingUntilItIsAsked) {
    std::string deep = "1";
    for (int i = 0; i < 60; ++i)
        deep = "{\"" + std::string(150, 'k') + "\":[" + deep + "," + deep.substr(0, 1) + "]}";
    EXPECT_TRUE(trouble_with_json(deep)) << "sixty of each are more than 64 deep";
    std::string wide = "{\"list\":[0";
    for (int i = 1; i < 200000; ++i)
        wide += ",\n" + std::to_string(i);
    wide += "]}";
    EXPECT_EQ(JsonLines(wide).line("list[199999]"), 200000);
    EXPECT_FALSE(trouble_with_json(wide));
}

TEST(GuardedJson, NamesWhatIsTooMuchAndWhereItIsBroken) {
    const auto says = [](const std::string& text) {
        const auto trouble = trouble_with_json(text);
        return trouble ? trouble->what : std::string();
    };
    EXPECT_EQ(says("{\"a\":[1,2.5,-3e2,true,null,\"x\"]}"), "");
    EXPECT_EQ(says(std::string(64, '[') + std::string(64, ']')), "");
    EXPECT_THAT(says(std::string(65, '[') + std::string(65, ']')), HasSubstr("more than 64 deep"));
    EXPECT_THAT(says("{\"" + std::string(201, 'k') + "\":1}"), HasSubstr("a key has 201 bytes"));
    EXPECT_THAT(says("{\"a\":1e400}"), HasSubstr("outside what a computer number holds"));
    EXPECT_THAT(says("{\"a\":\"\xff\"}"), HasSubstr("not well-formed"));
    EXPECT_THAT(says(""), HasSubstr("not well-formed"));
    EXPECT_EQ(trouble_with_json("{\"a\":1,\n!}")->byte, 8U);
}
