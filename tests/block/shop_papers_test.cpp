// SPDX-License-Identifier: GPL-3.0-or-later
// Axes of machines, serials, labels and what an engraver can do, each worked out by hand.
#include "block/shop_papers.h"

#include <gmock/gmock.h>
#include <numbers>

using namespace pallix::block;
using pallix::metrology::Vec3;
using testing::HasSubstr;

namespace {

MachineAxes axes(const char* text) {
    const auto read = read_axes("mill", text);
    EXPECT_TRUE(read) << text;
    return read.value_or(MachineAxes());
}

void expect_at(const Vec3& is, double x, double y, double z) {
    EXPECT_NEAR(is.x, x, 1e-12);
    EXPECT_NEAR(is.y, y, 1e-12);
    EXPECT_NEAR(is.z, z, 1e-12);
}

std::string why_not(const char* text) {
    const auto read = read_axes("mill", text);
    return read ? "" : read.error().front().text();
}

} // namespace

TEST(MachineAxes, PutEachWayOfTheBlockOnItsAxis) {
    const Vec3 place{100, 50, 7};
    expect_at(in_machine(axes("X Y Z"), place), 100, 50, 7);
    expect_at(in_machine(axes("Y -X Z"), place), -50, 100, 7);
    expect_at(in_machine(axes("x -y -z"), place), 100, -50, -7);
    expect_at(in_machine(axes("Z X Y"), place), 50, 7, 100);
}

TEST(MachineAxes, TurnRightHandedAboutTheAxisThatUpLiesAlong) {
    expect_at(in_machine(axes("X Y Z turn 90"), {100, 50, 7}), -50, 100, 7); // X goes to Y
    expect_at(in_machine(axes("X -Y -Z turn 90"), {100, 50, 7}), 50, 100, -7);
    expect_at(in_machine(axes("Y Z X turn 90"), {100, 50, 7}), 7, -50, 100); // Y goes to Z
    const double turned = std::sqrt(0.5);
    expect_at(in_machine(axes("X Y Z turn 45"), {1, 0, 0}), turned, turned, 0);
    EXPECT_NEAR(axes("X Y Z turn -12.5").turn, -12.5 * std::numbers::pi / 180, 1e-15);
}

TEST(MachineAxes, ReadBackAsTheyAreWritten) {
    for (const char* text : {"X Y Z", "Y -X Z", "X -Y -Z turn 12.5", "Z X Y turn -90"})
        EXPECT_EQ(axes_text(axes(text)), text);
}

TEST(MachineAxes, AMirrorIsRefused) {
    EXPECT_THAT(why_not("X Y -Z"), HasSubstr("would mirror the block"));
    EXPECT_THAT(why_not("Y X Z"), HasSubstr("would mirror the block"));
    EXPECT_THAT(why_not("-X -Y -Z"), HasSubstr("would mirror the block"));
}

TEST(MachineAxes, WhatIsNoAxisIsNamed) {
    EXPECT_THAT(why_not("X X Z"), HasSubstr("\"X\" is no axis that is left"));
    EXPECT_THAT(why_not("X Y W"), HasSubstr("\"W\" is no axis that is left"));
    EXPECT_THAT(why_not("X Y"), HasSubstr("says no three axes"));
    EXPECT_THAT(why_not("X Y Z turn"), HasSubstr("says no three axes"));
    EXPECT_THAT(why_not("X Y Z turn much"), HasSubstr("is no turn"));
    EXPECT_THAT(why_not("X Y Z turn 400"), HasSubstr("is no turn"));
    EXPECT_THAT(why_not("X Y Z turn nan"), HasSubstr("is no turn"));
    EXPECT_THAT(why_not(""), HasSubstr("says no three axes"));
}

TEST(Serial, TheNextOfItsYear) {
    const std::string pattern = "S{yy}-{nnn}";
    EXPECT_EQ(next_serial(pattern, "2026-03-05", {}), "S26-001");
    EXPECT_EQ(next_serial(pattern, "2026-03-05", {"S26-001", "S26-041", "S25-300"}), "S26-042");
    EXPECT_EQ(next_serial(pattern, "2027-01-01", {"S26-041"}), "S27-001") << "a new year begins anew";
    EXPECT_EQ(next_serial(pattern, "2026-03-05", {"S26-999"}), "S26-1000");
    EXPECT_EQ(next_serial(pattern, "2026-03-05", {"another", "S26-12x", "T26-500", ""}), "S26-001");
    EXPECT_EQ(next_serial("{n}", "2026-03-05", {"7", "12"}), "13") << "without a year it goes on";
    EXPECT_EQ(next_serial("{yyyy}/{nnnn}/B", "2026-03-05", {"2026/0009/B"}), "2026/0010/B");
    EXPECT_EQ(next_serial("{x}{nn}", "2026-03-05", {}), "{x}01") << "what is no year and no number stays";
}

TEST(Serial, IsFoundInWhatAScannerTypes) {
    EXPECT_EQ(serial_in("S26-004"), "S26-004");
    EXPECT_EQ(serial_in("  S26-004\r\n"), "S26-004");
    EXPECT_EQ(serial_in("serial S26-004; workboat V6; mm; entry 57; digest 0123456789abcdef"), "S26-004");
    EXPECT_EQ(serial_in(""), "");
    EXPECT_EQ(serial_in("   "), "");
}

TEST(Engraver, WritesInTheLettersItHas) {
    Engraver capitals;
    capitals.most = 12;
    EXPECT_EQ(engraved(capitals, "s26-004 b84"), "S26-004 B84");
    EXPECT_THAT(engraved(capitals, "S26-004 +0.5").error().front().text(), HasSubstr("has \"+\""));
    EXPECT_THAT(engraved(capitals, "S26-004 B84.5").error().front().text(), HasSubstr("has 13 letters"));
    EXPECT_FALSE(engraved(capitals, ""));
    capitals.letters += "abc+";
    EXPECT_EQ(engraved(capitals, "abd +"), "abD +");
}

TEST(Labels, AreReadInMillimetresAndInches) {
    EXPECT_EQ(read_label("62 x 29"), (LabelSize{62, 29}));
    EXPECT_EQ(read_label("4 x 2 in"), (LabelSize{101.6, 50.8}));
    for (const char* text : {"", "62", "62 29", "62 x", "5 x 29", "62 x 400", "a x b", "62 x 29 cm", "nan x 29"})
        EXPECT_FALSE(read_label(text)) << text;
    for (const LabelSize& size : common_labels())
        EXPECT_EQ(read_label(label_text(size)), size);
}

TEST(ShopPapers, ComeBackFromTheirFile) {
    ShopPapers papers;
    papers.shop = "Harbour workshop <b>";
    papers.serial_pattern = "H{yyyy}-{nn}";
    papers.engraving = "{serial} {bore}";
    papers.engraver = {10, "0123456789H-"};
    papers.label = {57, 32};
    papers.machines = {axes("Y -X Z turn 0.25")};
    const auto read = read_shop_papers(shop_papers_text(papers), "s.pallix-shop.json");
    ASSERT_TRUE(read) << read.error().front().text();
    EXPECT_EQ(read->machines.front().axis, papers.machines.front().axis);
    EXPECT_NEAR(read->machines.front().turn, papers.machines.front().turn, 1e-12);
    papers.machines = read->machines;
    EXPECT_EQ(*read, papers);
    EXPECT_NE(papers.machine("mill"), nullptr);
    EXPECT_EQ(papers.machine("lathe"), nullptr);
}

TEST(ShopPapers, WhatCannotBeUsedIsNamed) {
    const auto why = [](const std::string& text) {
        const auto read = read_shop_papers(text, "s.json");
        return read ? std::string() : read.error().front().text();
    };
    ShopPapers papers;
    const auto with = [&](auto change) {
        ShopPapers changed = papers;
        change(changed);
        const auto fault = fault_of(changed);
        return fault ? fault->text() : std::string();
    };
    EXPECT_THAT(why("{"), HasSubstr("s.json: it is no JSON"));
    EXPECT_THAT(why("{}"), HasSubstr("serial_pattern"));
    EXPECT_THAT(with([](ShopPapers& p) { p.serial_pattern = "S{yy}"; }), HasSubstr("has no one number"));
    EXPECT_THAT(with([](ShopPapers& p) { p.serial_pattern = "{n}{n}"; }), HasSubstr("has no one number"));
    EXPECT_THAT(with([](ShopPapers& p) { p.serial_pattern = "S {n}"; }), HasSubstr("more than letters"));
    EXPECT_THAT(with([](ShopPapers& p) { p.label.width = 4; }), HasSubstr("width_mm"));
    EXPECT_THAT(with([](ShopPapers& p) {
                    p.machines = {{"mill", {0, 1, 2}, {1, 1, 1}, 0}, {"mill", {0, 1, 2}, {1, 1, 1}, 0}};
                }),
                HasSubstr("twice"));
    std::string mirrored = shop_papers_text([&] {
        papers.machines = {axes("X Y Z")};
        return papers;
    }());
    mirrored.replace(mirrored.find("X Y Z"), 5, "Y X Z");
    EXPECT_THAT(why(mirrored), HasSubstr("a turn and no mirror"));
}
