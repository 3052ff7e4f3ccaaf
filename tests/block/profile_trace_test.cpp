// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/profile_trace.h"

#include "block/number_text.h"

#include <gtest/gtest.h>

using namespace pallix::block;

namespace {

std::string trace(const std::string& head, int points, double step = 0.01) {
    std::string text = head + "x,z\n";
    for (int i = 0; i < points; ++i)
        text += fixed_number(i * step, 6) + "," + std::to_string(i % 5) + "\n";
    return text;
}

std::string first_fault(const std::string& text) {
    const auto read = read_trace({"wall.csv", text});
    return read ? "" : read.error().front().text();
}

} // namespace

TEST(ProfileTrace, IsReadInMillimetres) {
    const auto read = read_trace({"wall.csv", trace("# pallix-trace: 1\n# a remark\n# cutoff_mm: 0.25\n", 101)});
    ASSERT_TRUE(read) << read.error().front().text();
    EXPECT_EQ(read->cutoff, 0.25);
    EXPECT_NEAR(read->profile.step, 0.01, 1e-9);
    ASSERT_EQ(read->profile.heights.size(), 101U);
    EXPECT_NEAR(read->profile.heights[4], 0.004, 1e-12) << "4 µm";
    const auto usual = read_trace({"wall.csv", trace("# pallix-trace: 1\r\n", 301)});
    ASSERT_TRUE(usual);
    EXPECT_EQ(usual->cutoff, 0.8);
}

TEST(ProfileTrace, FaultsNameTheirLine) {
    EXPECT_EQ(first_fault(trace("", 301)),
              "wall.csv:1: this is no roughness trace, expected a first line # pallix-trace: 1");
    EXPECT_NE(first_fault(trace("# pallix-trace: 2\n", 301)).find("wall.csv:1: this trace is of a version"),
              std::string::npos);
    EXPECT_NE(first_fault("# pallix-trace: 1\na,b\n0,1\n").find("wall.csv:2: the header row is not x,z"),
              std::string::npos);
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n", 301) + "nan,2\n").find("wall.csv:304: x is \"nan\""),
              std::string::npos);
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n", 301) + "3.01\n").find("this row has 1 fields"),
              std::string::npos);
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n", 301) + "3.05,1\n").find("wall.csv:304: the step to this point"),
              std::string::npos);
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n", 101)).find("too short"), std::string::npos)
        << "1 mm, cutoff 0.8";
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n# cutoff_mm: -1\n", 301)).find("wall.csv:2: the cutoff"),
              std::string::npos);
    EXPECT_NE(first_fault(""), "");
    EXPECT_NE(first_fault(trace("# pallix-trace: 1\n", 301) + "3.01,\"2\n"), "");
}
