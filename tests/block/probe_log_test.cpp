// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/probe_log.h"

#include "small_block.h"

using namespace pallix::block;
using pallix::test::LogWriter;
using pallix::test::small_log;

namespace {

Result<ProbeSet> read(const std::string& text, ProbeScope scope = ProbeScope::whole) {
    const std::vector<NamedText> logs{{"log.csv", text}};
    return read_probe_logs(logs, pallix::test::read_small_blueprint(), scope);
}

struct BadRow {
    const char* name;
    const char* row;
    const char* says;
    const char* expected;
};

void PrintTo(const BadRow& c, std::ostream* out) {
    *out << c.name;
}

const Section& section(const ProbeSet& set, const std::string& feature) {
    for (const Section& s : set.sections)
        if (s.feature.text() == feature)
            return s;
    throw std::out_of_range(feature);
}

} // namespace

TEST(ProbeLog, TakesHeadSectionsAndLines) {
    const auto set =
        read("# pallix-probe-log: 1\r\n# unit: in\r\n# kind: tip\r\n# tip_diameter: 0.1\r\n# temperature_c: 20.5\r\n"
             "feature,x,y,z\r\nmain.1,1,0,1\r\nmain.1,1,1,0\r\nmain.1,1,-1,0\r\n"
             "main.2,2,0,1\r\nmain.2,2,1,0\r\nmain.2,2,-1,0\r\n");
    ASSERT_TRUE(set) << set.error().front().text();
    const LogHeader& head = set->logs.front();
    EXPECT_NEAR(head.tip_radius, 1.27, 1e-12);
    EXPECT_EQ(head.temperature_c, 20.5);
    EXPECT_EQ(head.header_line, 6);
    EXPECT_EQ(head.touches, 6U);
    EXPECT_EQ(section(*set, "main.2").line, 10);
    EXPECT_NEAR(section(*set, "main.1").touches[0].position.x, 25.4, 1e-12);
    EXPECT_NEAR(section(*set, "main.1").touches[0].tip_radius, 1.27, 1e-12);
}

TEST(ProbeLog, TurnsSetUpsBackAboutTheRotaryAxis) {
    // Turned by +90° about (y 10, z 0): what stood straight above the axis by 5 lies at y 10 − 5. By hand.
    const std::string head = "# setup.r.rotation_deg: 90\n# setup.r.axis_y: 10\n# setup.r.axis_z: 0\n";
    const auto set = read(head + "setup,feature,x,y,z\nr,main.1,1,5,0\nr,main.1,1,10,5\nr,main.1,1,15,0\n"
                                 "free,main.2,1,5,0\nfree,main.2,1,10,5\nfree,main.2,1,15,0\n");
    ASSERT_TRUE(set);
    const auto p = section(*set, "main.1").touches[0].position;
    EXPECT_NEAR(p.y, 10, 1e-12);
    EXPECT_NEAR(p.z, 5, 1e-12);
    EXPECT_NEAR(section(*set, "main.2").touches[0].position.y, 5, 1e-12) << "a set-up without a head lies as it is";
}

TEST(ProbeLog, UnknownColumnsAndKeysAreLeftOutWithAWarning) {
    const auto set = read("# operator: someone\nfeature,x,y,z,force\nmain.1,1,0,1,5\nmain.1,1,1,0,5\nmain.1,1,-1,0,5\n"
                          "main.2,2,0,1,5\nmain.2,2,1,0,5\nmain.2,2,-1,0,5\n");
    ASSERT_TRUE(set);
    ASSERT_EQ(set->warnings.size(), 2U);
    EXPECT_NE(set->warnings[0].text().find("log.csv:1: the key \"operator\""), std::string::npos);
    EXPECT_NE(set->warnings[1].text().find("log.csv:2: the column \"force\""), std::string::npos);
}

TEST(ProbeLog, QuotedFieldsBlankLinesAndByteOrderMarkAreFine) {
    const auto set = read("\xEF\xBB\xBF\"feature\",x,y,z\n\n\"main.1\", 1 "
                          ",0,+1\nmain.1,1,1,0\nmain.1,1,-1,0\n\nmain.2,2,0,1\nmain.2,2,1,0\nmain.2,2,-1,0");
    ASSERT_TRUE(set) << set.error().front().text();
    EXPECT_EQ(section(*set, "main.1").line, 3);
    EXPECT_EQ(section(*set, "main.1").touches[0].position.z, 1);
}

class BadTouch : public testing::TestWithParam<BadRow> {};

TEST_P(BadTouch, IsNamedWithItsLine) {
    const BadRow& bad = GetParam();
    const std::string text = small_log().row(bad.row).text();
    const auto set = read(text);
    ASSERT_FALSE(set);
    ASSERT_EQ(set.error().size(), 1U) << set.error()[1].text();
    const Fault& fault = set.error().front();
    EXPECT_EQ(fault.line, std::count(text.begin(), text.end(), '\n'));
    EXPECT_NE(fault.what.find(bad.says), std::string::npos) << fault.text();
    EXPECT_NE(fault.expected.find(bad.expected), std::string::npos) << fault.text();
}

INSTANTIATE_TEST_SUITE_P(
    Each, BadTouch,
    testing::Values(BadRow{"unknown_feature", "a,crank.1,,1,2,3", "\"crank.1\" is not known", "main.N"},
                    BadRow{"unlisted", "a,main.9,,1,2,3", "main.9 is not in the blueprint", "blueprint lists"},
                    BadRow{"missing", "a,deck.C,,1,,3", "y is missing", "finite number"},
                    BadRow{"not_a_number", "a,deck.C,,1,2,3x", "z is \"3x\"", "finite number"},
                    BadRow{"infinite", "a,deck.C,,inf,2,3", "x is \"inf\"", "finite number"},
                    BadRow{"nan", "a,deck.C,,1,nan,3", "y is \"nan\"", "finite number"},
                    BadRow{"too_few", "a,deck.C,,1,2", "5 fields", "6 as in the header"},
                    BadRow{"too_many", "a,deck.C,,1,2,3,4", "7 fields", "6 as in the header"},
                    BadRow{"short_section", "a,bore.C.1,top,1,2,3", "bore.C.1 top has 1 points", "3 in a circle"}),
    [](const auto& instance) { return std::string(instance.param.name); });

TEST(BadLog, EveryFaultIsListedInOrder) {
    LogWriter log("# unit: furlong\n# kind: sonar\n");
    log.row("a,main.1,,1,2,x").row("a,nothing.1,,1,2,3").row("a,deck.C,,1,2,3");
    const auto set = read(log.text());
    ASSERT_FALSE(set);
    std::string all;
    for (const Fault& f : set.error())
        all += f.text() + "\n";
    for (const char* part :
         {"log.csv:1: unit \"furlong\", expected mm or in", "log.csv:2: kind \"sonar\", expected surface or tip",
          "log.csv:4: z is \"x\"", "log.csv:5: feature \"nothing.1\"",
          "log.csv:6: deck.C has 1 points, expected at least 3 in a plane",
          "log.csv:3: 1 mains were probed, expected at least two"})
        EXPECT_NE(all.find(part), std::string::npos) << part << "\nin\n" << all;
    EXPECT_TRUE(std::is_sorted(set.error().begin(), set.error().end(),
                               [](const Fault& a, const Fault& b) { return a.line < b.line; }));
}

TEST(BadLog, HeadFaults) {
    const std::string rows = small_log().text().substr(small_log().text().find("setup,"));
    const auto first = [&](const std::string& head) {
        const auto set = read(head + rows);
        EXPECT_FALSE(set) << head;
        return set ? std::string() : set.error().front().text();
    };
    EXPECT_NE(first("# pallix-probe-log: 7\n").find("version \"7\", expected version 1"), std::string::npos);
    EXPECT_NE(first("# kind: tip\n").find("no tip_diameter"), std::string::npos);
    EXPECT_NE(first("# kind: tip\n# tip_diameter: 0\n").find("greater than 0"), std::string::npos);
    EXPECT_NE(first("# temperature_c: warm\n").find("temperature_c is \"warm\""), std::string::npos);
    EXPECT_NE(first("# setup.a.turn: 3\n").find("setup.NAME.rotation_deg"), std::string::npos);
    EXPECT_NE(first("# setup.a.axis_y: wide\n").find("finite number"), std::string::npos);
}

TEST(BadLog, WithoutAHeaderRow) {
    EXPECT_NE(read("").error().front().text().find("no header row"), std::string::npos);
    EXPECT_NE(read("# unit: mm\n").error().front().text().find("no header row"), std::string::npos);
    EXPECT_NE(read("feature,x,y\nmain.1,1,2\n").error().front().text().find("no column \"z\""), std::string::npos);
    EXPECT_NE(read("feature,x,x,y,z\n").error().front().text().find("stands twice"), std::string::npos);
}

TEST(BadLog, BrokenQuoting) {
    const std::string good = small_log().text();
    EXPECT_NE(read(good + "a,\"main.1,,1,2,3\n").error().front().text().find("not closed"), std::string::npos);
    EXPECT_NE(read(good + "a,\"main.1\"x,,1,2,3\n").error().front().text().find("quotation mark"), std::string::npos);
}

TEST(SeveralLogs, EachHasItsOwnUnitAndTip) {
    const std::string whole = small_log().text();
    const std::string second =
        "# unit: in\nfeature,level,x,y,z\nbore.C.1,top,1,0,7\nbore.C.1,top,2,1,7\nbore.C.1,top,1,2,7\n";
    const std::vector<NamedText> logs{{"a.csv", whole}, {"b.csv", second}};
    const auto set = read_probe_logs(logs, pallix::test::read_small_blueprint());
    ASSERT_TRUE(set);
    EXPECT_NEAR(section(*set, "bore.C.1").touches[0].position.z, 177.8, 1e-9);
    EXPECT_EQ(section(*set, "bore.C.1").log, 1U);
}

TEST(SeveralLogs, OneFeatureAndLevelComesFromOneKind) {
    const std::vector<NamedText> logs{
        {"a.csv", small_log().text()},
        {"b.csv", "# kind: tip\n# tip_diameter: 2\nfeature,x,y,z\ndeck.C,1,2,200\ndeck.C,5,2,200\ndeck.C,1,9,200\n"}};
    const auto set = read_probe_logs(logs, pallix::test::read_small_blueprint());
    ASSERT_FALSE(set);
    ASSERT_EQ(set.error().size(), 1U);
    EXPECT_NE(set.error().front().text().find("b.csv:4: deck.C is given as tip centres here"), std::string::npos);
}

TEST(LaidOver, NewerFeaturesReplaceOlderOnes) {
    const auto earlier = read(small_log(200.05).text());
    const auto newest = read(LogWriter().deck(200.01).text(), ProbeScope::part);
    ASSERT_TRUE(earlier && newest);
    const ProbeSet both = laid_over(*earlier, *newest);
    EXPECT_EQ(both.of(FeatureKind::main).size(), 2U);
    ASSERT_EQ(both.of(FeatureKind::deck).size(), 1U);
    EXPECT_NEAR(both.of(FeatureKind::deck)[0]->touches[0].position.z, 200.01, 1e-9);
    EXPECT_EQ(both.logs[both.of(FeatureKind::main)[0]->log].file, "log.csv");
}
