// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/gauge_protocol.h"

#include <gtest/gtest.h>

using namespace pallix::block;

TEST(GaugeProtocol, EveryLineComesBackAsItWasWritten) {
    const std::vector<GaugeLine> lines{GaugeHello{"bore gauge on bench 2"},
                                       GaugeReading{17, "-0.0123", "mm"},
                                       ProbeLogLine{"# unit: mm"},
                                       ProbeTouch{212, "left,bore.L.1,top,3.1,1.7,9.0"},
                                       ProbeLogEnd{},
                                       GaugeBye{}};
    for (const GaugeLine& line : lines) {
        std::string text = write_gauge_line(line);
        ASSERT_EQ(text.back(), '\n');
        text.pop_back();
        const auto again = read_gauge_line(text);
        ASSERT_TRUE(again) << again.error();
        EXPECT_EQ(again->index(), line.index());
        EXPECT_EQ(write_gauge_line(*again), text + "\n");
    }
}

TEST(GaugeProtocol, RefusalsSayWhatCameAndWhatWasExpected) {
    const auto fault = [](const char* line) {
        const auto read = read_gauge_line(line);
        return read ? std::string("taken") : read.error();
    };
    EXPECT_EQ(fault("pallix-gauge 9 x"), "the gauge sent “pallix-gauge 9 x”, expected gauge protocol version 1");
    EXPECT_EQ(fault("reading 3 1.2 furlong"),
              "the gauge sent “reading 3 1.2 furlong”, expected a unit of mm, in, um, thou or C");
    EXPECT_NE(fault("reading 3 much mm").find("a finite number"), std::string::npos);
    EXPECT_NE(fault("reading 3 inf mm").find("a finite number"), std::string::npos);
    EXPECT_NE(fault("reading x 1 mm").find("reading NUMBER VALUE UNIT"), std::string::npos);
    EXPECT_NE(fault("touch 5").find("a row of the log"), std::string::npos);
    EXPECT_NE(fault("\x01\x02zzz").find("“..zzz”"), std::string::npos) << "what cannot be printed is not printed";
    EXPECT_EQ(fault("bye"), "taken");
}

TEST(GaugeLines, ArePutTogetherFromAnyPieces) {
    GaugeLineReader reader;
    EXPECT_TRUE(reader.feed("read").empty());
    EXPECT_TRUE(reader.feed("ing 1 0.5 m").empty());
    EXPECT_EQ(reader.unfinished(), "reading 1 0.5 m");
    const auto items = reader.feed("m\r\n\nreading 2 +0.25 um\nby");
    ASSERT_EQ(items.size(), 2U);
    EXPECT_EQ(std::get<GaugeReading>(*items[0].line).value, "0.5");
    EXPECT_EQ(std::get<GaugeReading>(*items[1].line).unit, "um");
    EXPECT_EQ(reader.unfinished(), "by");
}

TEST(GaugeLines, ALineWithoutAnEndIsToldOnce) {
    GaugeLineReader reader;
    std::size_t faults = 0;
    for (int i = 0; i < 100; ++i)
        faults += reader.feed(std::string(50, 'x')).size();
    EXPECT_LE(faults, 12U) << "not byte by byte";
    EXPECT_GE(faults, 1U);
    const auto after = reader.feed("\nreading 1 2 mm\n");
    ASSERT_FALSE(after.empty());
    EXPECT_TRUE(after.back().line) << "and what follows is read";
}
