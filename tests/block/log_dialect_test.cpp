// SPDX-License-Identifier: GPL-3.0-or-later
// Probe logs of invented shops, each made from the same touches, against the contract's own log of them.
#include "block/log_dialect.h"

#include "block/evaluation.h"
#include "block/number_text.h"

#include "log_dialects.h"
#include "small_block.h"

#include <cmath>
#include <gmock/gmock.h>

using namespace pallix::block;
using pallix::test::Dialect;
using pallix::test::read_small_blueprint;
using pallix::test::touches;
using pallix::test::twenty_dialects;
using pallix::test::written;
using testing::HasSubstr;

namespace {

class LogDialect : public testing::TestWithParam<Dialect> {};

std::string mapping(const std::string& body) {
    return R"({"format": "pallix-log-mapping", "version": 1, )" + body + "}";
}

} // namespace

TEST_P(LogDialect, IsTakenWithTheNumbersOfTheContractsLog) {
    const Dialect& d = GetParam();
    LogMapping m;
    if (!d.mapping.empty()) {
        const auto read = read_mapping(d.mapping, "m.json");
        ASSERT_TRUE(read) << read.error().front().text();
        m = *read;
    }
    const auto converted = convert_log(written(d), "log.csv", m);
    ASSERT_TRUE(converted) << converted.error().front().text();
    const auto wanted = touches();
    EXPECT_EQ(converted->touches, wanted.size());
    const Blueprint blueprint = read_small_blueprint();
    const auto taken = read_probe_logs(std::vector<NamedText>{{"log.csv", converted->log}}, blueprint);
    ASSERT_TRUE(taken) << taken.error().front().text() << "\n" << converted->log.substr(0, 300);
    EXPECT_TRUE(taken->warnings.empty());
    std::size_t i = 0;
    for (const Section& s : taken->sections)
        for (const Touch& t : s.touches) {
            ASSERT_LT(i, wanted.size());
            EXPECT_EQ(s.feature.text(), wanted[i].feature);
            EXPECT_NEAR(t.position.x, *finite_number(wanted[i].x), 1e-9);
            EXPECT_NEAR(t.position.y, *finite_number(wanted[i].y), 1e-9);
            EXPECT_NEAR(t.position.z, *finite_number(wanted[i].z), 1e-9);
            ++i;
        }
    EXPECT_EQ(i, wanted.size());
}

INSTANTIATE_TEST_SUITE_P(Twenty, LogDialect, testing::ValuesIn(twenty_dialects()),
                         [](const auto& instance) { return std::string(instance.param.name); });

TEST(LogDialects, SayHowTheyWereUnderstood) {
    const auto c = convert_log("Name;Level;X [inch];Y [inch];Z [inch]\nMain 1;oben;1,5;2;-3\n", "l.csv",
                               *read_mapping(mapping(R"("levels": {"oben": "top"})"), "m.json"));
    ASSERT_TRUE(c) << c.error().front().text();
    EXPECT_THAT(c->understood,
                testing::IsSupersetOf({"columns separated by “;”", "decimal comma", "unit in", "x from “X [inch]”"}));
    EXPECT_THAT(c->log, HasSubstr("feature,level,x,y,z\nmain.1,top,1.5,2,-3\n"));
}

TEST(LogDialects, RefuseByLineWhatTheyDoNotKnow) {
    const auto said = [](const std::string& text, const LogMapping& m = {}) {
        const auto c = convert_log(text, "l.csv", m);
        std::string all;
        if (!c)
            for (const Fault& f : c.error())
                all += f.text() + "\n";
        return all;
    };
    EXPECT_THAT(said(""), HasSubstr("empty"));
    EXPECT_THAT(said("just;some;words;here\n"), HasSubstr("no line has three numbers"));
    EXPECT_THAT(said("a;b;c;d\nmain.1;1;2;3\n"), HasSubstr("l.csv:1: no column is known as feature"));
    const std::string odd = said("Name;X;Y;Z\nmain 1;1;2;3\nHole 7;1;2;3\nmain 2;1;two;3\nmain 3;1\n");
    EXPECT_THAT(odd, HasSubstr("l.csv:3: “Hole 7” is no feature"));
    EXPECT_THAT(odd, HasSubstr("l.csv:4: y is “two”"));
    EXPECT_THAT(odd, HasSubstr("l.csv:5: the row has 2 fields"));
    LogMapping m;
    m.columns["x"] = "Laengs";
    EXPECT_THAT(said("Name;X;Y;Z\nmain 1;1;2;3\n", m), HasSubstr("there is no column Laengs"));
    EXPECT_FALSE(read_mapping(mapping(R"("columns": {"w": "W"})"), "m.json"));
    EXPECT_FALSE(read_mapping(mapping(R"("decimal": ";")"), "m.json"));
}
