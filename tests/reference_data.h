// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <algorithm>
#include <charconv>
#include <fstream>
#include <gtest/gtest.h>
#include <iterator>
#include <sstream>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::test {

inline std::string read_file(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    EXPECT_TRUE(in.good()) << path;
    return {std::istreambuf_iterator<char>(in), {}};
}

inline std::string example(const std::string& name) {
    return std::string(PALLIX_TEST_DATA) + "/examples/" + name;
}

/// A number as reference files have it, whatever the locale.
inline double reference_number(std::string_view text) {
    const std::size_t start = std::min(text.find_first_not_of(" +"), text.size());
    double value = 0;
    const auto [end, error] = std::from_chars(text.data() + start, text.data() + text.size(), value);
    EXPECT_EQ(error, std::errc{}) << text;
    return value;
}

/// Rows of numbers of a reference file, its header left out.
inline std::vector<std::vector<double>> reference_rows(const std::string& name) {
    std::istringstream in(read_file(std::string(PALLIX_TEST_DATA) + "/reference/" + name));
    std::vector<std::vector<double>> rows;
    std::string line;
    std::getline(in, line);
    while (std::getline(in, line)) {
        std::vector<double> row;
        std::istringstream cells(line);
        for (std::string cell; std::getline(cells, cell, ',');)
            row.push_back(reference_number(cell));
        if (!row.empty())
            rows.push_back(row);
    }
    EXPECT_FALSE(rows.empty()) << name;
    return rows;
}

inline std::vector<metrology::Vec2> reference_points2(const std::string& name) {
    std::vector<metrology::Vec2> points;
    for (const auto& row : reference_rows(name))
        points.push_back({row.at(0), row.at(1)});
    return points;
}

inline std::vector<metrology::Vec3> reference_points3(const std::string& name) {
    std::vector<metrology::Vec3> points;
    for (const auto& row : reference_rows(name))
        points.push_back({row.at(0), row.at(1), row.at(2)});
    return points;
}

} // namespace pallix::test
