// SPDX-License-Identifier: GPL-3.0-or-later
// Probe logs of invented shops, each made from the same touches, against the contract's own log of them.
#include "block/log_dialect.h"

#include "block/evaluation.h"
#include "block/number_text.h"

#include "small_block.h"

#include <cmath>
#include <gmock/gmock.h>
#include <sstream>

using namespace pallix::block;
using pallix::test::read_small_blueprint;
using pallix::test::small_log;
using testing::HasSubstr;

namespace {

struct Touched {
    std::string feature, x, y, z;
};

std::vector<Touched> touches() {
    std::vector<Touched> all;
    std::istringstream lines(small_log(200.03, 0.05, -0.02).text());
    for (std::string line; std::getline(lines, line);) {
        std::vector<std::string> f;
        std::istringstream fields(line);
        for (std::string field; std::getline(fields, field, ',');)
            f.push_back(field);
        if (f.size() == 6 && f[1] != "feature")
            all.push_back({f[1], f[3], f[4], f[5]});
    }
    return all;
}

/// How a shop's machine writes.
struct Dialect {
    const char* name;
    std::string head;              ///< before the touches
    std::string order = "f;x;y;z"; ///< of the columns, with their delimiter
    bool comma = false;            ///< decimal
    const char* names = "";        ///< of features: "", "plain", "short", "own"
    std::string mapping = "";
    std::string end = "\n";
    bool quoted = false;
    const char* turned = ""; ///< axes that run the other way
    double per_mm = 1;
};

std::string called(const std::string& feature, const std::string& how) {
    const auto dot = feature.rfind('.');
    const std::string kind = feature.substr(0, feature.find('.')), n = feature.substr(dot + 1);
    if (how == "plain")
        return kind == "deck"    ? "Deck"
               : kind == "dowel" ? "Dowel " + n
               : kind == "main"  ? "Main bearing " + n
                                 : "CAM_" + n;
    if (how == "short")
        return kind == "deck" ? "deck C" : kind + n;
    if (how == "own")
        return kind == "deck" ? "Dichtfl" : kind == "dowel" ? "Pass" + n : kind == "main" ? "HL" + n + "x" : "NW-" + n;
    return feature;
}

std::string written(const Dialect& d) {
    std::string text = d.head;
    int number = 0;
    for (const Touched& t : touches()) {
        std::string row;
        const auto value = [&](std::string mm, char axis) {
            if (std::string(d.turned).find(axis) != std::string::npos)
                mm = mm.starts_with('-') ? mm.substr(1) : "-" + mm;
            if (d.per_mm != 1)
                mm = short_number(*finite_number(mm) * d.per_mm);
            if (d.comma)
                std::ranges::replace(mm, '.', ',');
            return mm;
        };
        for (const char c : d.order) {
            const std::string field = c == 'f'   ? called(t.feature, d.names)
                                      : c == 'x' ? value(t.x, 'x')
                                      : c == 'y' ? value(t.y, 'y')
                                      : c == 'z' ? value(t.z, 'z')
                                      : c == 'n' ? std::to_string(++number)
                                      : c == 'l' ? "top"
                                                 : "";
            row += field.empty() ? std::string(1, c) : d.quoted ? "\"" + field + "\"" : field;
        }
        text += row + d.end;
    }
    return text;
}

class LogDialect : public testing::TestWithParam<Dialect> {};

const std::string own_names =
    R"("features": {"HL{n}x": "main.{n}", "NW-{n}": "cam.{n}", "Pass{n}": "dowel.C.{n}", "Dichtfl": "deck.C"})";

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

INSTANTIATE_TEST_SUITE_P(
    Twenty, LogDialect,
    testing::Values(
        Dialect{"semicolons", "feature;x;y;z\n"}, Dialect{"decimal_comma", "Feature;X;Y;Z\n", "f;x;y;z", true},
        Dialect{"tabs", "Element\tX\tY\tZ\n", "f\tx\ty\tz"},
        Dialect{"tabs_and_commas", "Element\tX\tY\tZ\n", "f\tx\ty\tz", true, "plain"},
        Dialect{"bars", "name|x pos|y pos|z pos\n", "f|x|y|z", false, "short"},
        Dialect{"commas", "id,x,y,z\n", "f,x,y,z", false, "short"}, Dialect{"blanks", "label x y z\n", "f x y z"},
        Dialect{"units_in_headings", "Name;X [mm];Y [mm];Z [mm]\n", "f;x;y;z", true, "plain"},
        Dialect{"inches", "Name,X (in),Y (in),Z (in)\n", "f,x,y,z", false, "plain", "", "\n", false, "", 1 / 25.4},
        Dialect{"preamble", "Block 12\nOperator;Ola\n\nNo;Name;X;Y;Z\n", "n;f;x;y;z", false, "plain"},
        Dialect{"columns_anyhow", "Z;Name;Y;No;X\n", "z;f;y;n;x", true, "short"},
        Dialect{"quotes", "\"Name\",\"X\",\"Y\",\"Z\"\n", "f,x,y,z", false, "plain", "", "\n", true},
        Dialect{"quoted_decimal_commas", "\"Name\",\"X\",\"Y\",\"Z\"\n", "f,x,y,z", true, "plain", "", "\n", true},
        Dialect{"other_line_ends", "Name;X;Y;Z\r\n", "f;x;y;z", true, "plain", "", "\r\n"},
        Dialect{"byte_order_mark", "\xEF\xBB\xBFName;X;Y;Z\n", "f;x;y;z", false, "short"},
        Dialect{"own_names", "Name;X;Y;Z\n", "f;x;y;z", true, "own", mapping(own_names)},
        Dialect{"own_headings", "Merkmal;Laengs;Quer;Hoch\n", "f;x;y;z", false, "own",
                mapping(R"("columns": {"feature": "Merkmal", "x": "Laengs", "y": "Quer", "z": "Hoch"}, )" + own_names)},
        Dialect{"no_headings", "", "n;f;x;y;z", false, "short",
                mapping(R"("columns": {"feature": "#2", "x": "#3", "y": "#4", "z": "#5"})")},
        Dialect{"axes_turned", "Name;X;Y;Z\n", "f;x;y;z", false, "short",
                mapping(R"("columns": {"x": "-X", "y": "-Y"})"), "\n", false, "xy"},
        Dialect{"stated_throughout", "p q r s\n", "f x y z", true, "own",
                mapping(R"("delimiter": "space", "decimal": ",", "unit": "mm", "kind": "surface",
                           "columns": {"feature": "p", "x": "q", "y": "r", "z": "s"}, )" +
                        own_names)}),
    [](const auto& instance) { return std::string(instance.param.name); });

TEST(LogDialects, SayHowTheyWereUnderstood) {
    const auto c = convert_log("Name;Level;X [inch];Y [inch];Z [inch]\nMain 1;oben;1,5;2;-3\n", "l.csv",
                               *read_mapping(mapping(R"("levels": {"oben": "top"})"), "m.json"));
    ASSERT_TRUE(c) << c.error().front().text();
    EXPECT_THAT(c->understood,
                testing::IsSupersetOf({"columns separated by ;", "decimal comma", "unit in", "x from “X [inch]”"}));
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
