// SPDX-License-Identifier: GPL-3.0-or-later
// Gauges that have to be taught: what of a line is the number, and what a few lines tell of the gauge.
#include "block/gauge_profile.h"

#include "block/key_typing.h"

#include <gtest/gtest.h>
#include <linux/input-event-codes.h>

using namespace pallix::block;

namespace {

/// The reading of a line by a pattern: "-0.0123 mm", or what is wrong.
std::string read_as(const std::string& pattern, const std::string& line, const std::string& unit = "mm") {
    GaugeProfile profile;
    profile.pattern = pattern;
    profile.unit = unit;
    const auto ready = GaugePattern::of(profile);
    if (!ready)
        return ready.error();
    const auto reading = ready->read(line);
    return reading ? reading->value + " " + reading->unit : reading.error();
}

TEST(GaugePattern, TakesNumberUnitAndSignByTheirNames) {
    EXPECT_EQ(read_as("(?P<number>.*)", "12.5"), "12.5 mm");
    EXPECT_EQ(read_as("(?P<number>.*)", "-0,0120", "in"), "-0.0120 in");
    EXPECT_EQ(read_as(R"((?P<number>[\d.]+)(?P<sign>[-+])(?P<unit>\w+))", "007.10-INCH"), "-7.10 in");
    EXPECT_EQ(read_as(R"((?P<number>\d+) (?P<unit>.*))", "000 \xB5m"), "0 um") << "Latin-1";
    EXPECT_EQ(read_as(R"((?P<number>\.\d+))", ".5"), "0.5 mm");
}

TEST(GaugePattern, SaysWhatIsWrong) {
    EXPECT_EQ(read_as("(?P<value>.*)", "1"), "has no group called number");
    EXPECT_NE(read_as("(?P<number>", "1").find("cannot be read"), std::string::npos);
    EXPECT_EQ(read_as(R"((?P<number>\d+))", "1.5\x01"),
              "the gauge sent “1.5\\x01”, expected a line as its pattern has it");
    EXPECT_EQ(read_as("(?P<number>.*)", "1.2.3"), "the gauge sent “1.2.3”, expected a number");
    EXPECT_EQ(read_as("(?P<number>.*)", "inf"), "the gauge sent “inf”, expected a number");
    EXPECT_EQ(read_as(R"((?P<number>\d+) (?P<unit>.*))", "7 furlong"),
              "the gauge sent “7 furlong”, expected a unit of mm, in, um, thou or C");
}

// Whatever a person writes: a pattern that others take exponential time over is answered at once, or refused.
TEST(GaugePattern, NoPatternStopsTheWindow) {
    EXPECT_NE(read_as("(?P<number>(a*)*b)", std::string(400, 'a')).find("expected"), std::string::npos);
    EXPECT_NE(read_as("(?P<number>((((\\d{1,500}){1,500}){1,500}){1,500}))", "1").find("cannot be read"),
              std::string::npos);
}

TEST(GaugeProfile, IsKeptAndReadBack) {
    GaugeProfile profile;
    profile.name = "bridge";
    profile.baud = 19200;
    profile.data_bits = 7;
    profile.parity = Parity::odd;
    profile.flow = Flow::words;
    profile.end = LineEnd::pause;
    profile.pattern = "(?P<number>.*)";
    profile.request = "?\\r";
    profile.pedal = "cts";
    const auto back = read_gauge_profiles(gauge_profiles_text({profile}), "settings");
    ASSERT_TRUE(back) << back.error().front().text();
    EXPECT_EQ(*back, std::vector{profile});
    EXPECT_FALSE(fault_of(profile));
    profile.request = "\\q";
    ASSERT_TRUE(fault_of(profile));
    EXPECT_EQ(fault_of(profile)->file, "request");
    profile.request.clear();
    profile.pedal = "elbow";
    EXPECT_EQ(fault_of(profile)->file, "pedal");
    EXPECT_FALSE(read_gauge_profiles("{\"gauges\":[{\"name\":\"\"}]}", "settings"));
}

TEST(GaugeBytes, AreTypedAndShown) {
    EXPECT_EQ(bytes_typed("P\\r\\n\\x1B\\\\"), std::string("P\r\n\x1B\\"));
    EXPECT_EQ(bytes_typed("\\x1"), tl::unexpected(std::string("has a backslash before \"x1\"")));
    EXPECT_FALSE(bytes_typed("\\"));
    EXPECT_EQ(bytes_shown("1,5\r\n\xB5"), "1,5\\r\\n\\xB5");
}

/// What is proposed of three things sent, read with it: the readings, or why there is no pattern.
std::string learnt(const std::vector<std::string>& sent) {
    const auto found = learn_gauge(sent);
    if (!found)
        return found.error();
    std::string readings = line_end_keys[static_cast<std::size_t>(found->end)];
    for (std::string line : sent) {
        while (line.ends_with('\r') || line.ends_with('\n'))
            line.pop_back();
        readings += " | " + read_as(found->pattern, line);
    }
    return readings;
}

TEST(LearnGauge, FindsTheNumberAmongOthers) {
    EXPECT_EQ(learnt({"1.234\r\n", "1.250\r\n", "-0.002\r\n"}), "newline | 1.234 mm | 1.250 mm | -0.002 mm");
    EXPECT_EQ(learnt({"D1: + 0.0100 in\r", "D1: - 0.0200 in\r", "D1: + 0.0000 in\r"}),
              "carriage_return | 0.0100 in | -0.0200 in | 0.0000 in");
    EXPECT_EQ(learnt({"0,012-\n", "0,013+\n", "0,000+\n"}), "newline | -0.012 mm | 0.013 mm | 0.000 mm");
    EXPECT_EQ(learnt({"#0041;+0000120;UM;K", "#0042;-0000007;UM;R", "#0043;+0000000;UM;Y"}),
              "pause | 120 um | -7 um | 0 um")
        << "what counts is no reading, and a check letter may be any";
    EXPECT_EQ(learnt({"ch 3 val 12.5 bat 80\n", "ch 3 val 12.6 bat 80\n", "ch 3 val 12.4 bat 79\n"}),
              "newline | 12.5 mm | 12.6 mm | 12.4 mm");
    EXPECT_EQ(learnt({"HELLO\r\n1.5 mm\r\n", "1.6 mm\r\n", "1.7 mm\r\n"}).substr(0, 7), "newline")
        << "the last line of what was sent";
}

TEST(LearnGauge, SaysWhyNothingIsProposed) {
    EXPECT_EQ(learnt({"1\n", "2\n"}), "it was heard 2 times, three are needed");
    EXPECT_EQ(learnt({"\x80\x81\n", "\x80\n", "\x82\n"}), "there is no number in it; is the speed right?");
    EXPECT_EQ(learnt({"1\n", "1 2\n", "1\n"}), "its lines are not alike; send the same thing three times");
    EXPECT_EQ(learnt({"\n", "1\n", "1\n"}), "a line of it is empty");
}

TEST(KeyTyping, TypesAsAKeyboardOfTheStatesDoes) {
    KeyTyping typing;
    std::string text;
    const auto press = [&](int code) {
        if (const auto letter = typing.feed(code, 1))
            text += *letter;
        EXPECT_FALSE(typing.feed(code, 0)) << "let go";
    };
    press(KEY_MINUS);
    press(KEY_0);
    press(KEY_DOT);
    press(KEY_KP5);
    EXPECT_FALSE(typing.feed(KEY_LEFTSHIFT, 1));
    press(KEY_EQUAL);
    EXPECT_FALSE(typing.feed(KEY_LEFTSHIFT, 0));
    press(KEY_M);
    press(KEY_F5);
    press(KEY_ENTER);
    EXPECT_EQ(text, "-0.5+m\n");
    EXPECT_FALSE(typing.feed(KEY_1, 2)) << "held down is no second one";
}

} // namespace
