// SPDX-License-Identifier: GPL-3.0-or-later
#include "log_dialects.h"

#include "block/number_text.h"
#include "small_block.h"

#include <algorithm>
#include <sstream>

namespace pallix::test {

using block::finite_number;
using block::short_number;

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

namespace {

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

const std::string own_names =
    R"("features": {"HL{n}x": "main.{n}", "NW-{n}": "cam.{n}", "Pass{n}": "dowel.C.{n}", "Dichtfl": "deck.C"})";

std::string mapping(const std::string& body) {
    return R"({"format": "pallix-log-mapping", "version": 1, )" + body + "}";
}

} // namespace

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

const std::vector<Dialect>& twenty_dialects() {
    static const std::vector<Dialect> all{
        Dialect{"semicolons", "feature;x;y;z\n"},
        Dialect{"decimal_comma", "Feature;X;Y;Z\n", "f;x;y;z", true},
        Dialect{"tabs", "Element\tX\tY\tZ\n", "f\tx\ty\tz"},
        Dialect{"tabs_and_commas", "Element\tX\tY\tZ\n", "f\tx\ty\tz", true, "plain"},
        Dialect{"bars", "name|x pos|y pos|z pos\n", "f|x|y|z", false, "short"},
        Dialect{"commas", "id,x,y,z\n", "f,x,y,z", false, "short"},
        Dialect{"blanks", "label x y z\n", "f x y z"},
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
                        own_names)}};
    return all;
}

} // namespace pallix::test
