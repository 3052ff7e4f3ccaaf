// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/field_at.h"

#include <gmock/gmock.h>

using namespace pallix::block;

TEST(FieldAt, FindsWhatStandsInAFieldAndWhatItMayBe) {
    PistonsStated pistons;
    pistons.clearance = 0.05;
    pistons.sizes[*FeatureId::parse("bore.R.2")] = 79.9;
    const Payload entry(pistons);
    EXPECT_EQ(field_at(entry, "clearance_mm")->number, 0.05);
    EXPECT_EQ(field_at(entry, "clearance_mm")->range.most, 100);
    EXPECT_FALSE(field_at(entry, "size_mm")->number) << "not stated";
    EXPECT_EQ(field_at(entry, "sizes_mm.bore.R.2")->number, 79.9);
    EXPECT_FALSE(field_at(entry, "sizes_mm.bore.R.3")->number);
    EXPECT_EQ(field_at(entry, "alloy")->names.size(), 3U);
    EXPECT_EQ(field_at(entry, "measure_each")->number, 1);
    EXPECT_FALSE(field_at(entry, "colour"));
    TextureLimits limits;
    limits.rk.most = 0.002;
    EXPECT_EQ(field_at(Payload(limits), "rk.most")->number, 0.002);
    EXPECT_FALSE(field_at(Payload(limits), "rz.least")->number);
}

TEST(FieldAt, PutsOneValueAndLeavesTheRest) {
    PistonsStated pistons;
    pistons.sizes[*FeatureId::parse("bore.R.2")] = 79.9;
    pistons.size = 79.95;
    const Payload entry(pistons);
    const auto put = [&](const char* address, const FieldValue& value) {
        return std::get<PistonsStated>(with_field(entry, address, value));
    };
    const auto before = put("sizes_mm.bore.R.1", {.number = 79.8});
    EXPECT_EQ(before.sizes.at(*FeatureId::parse("bore.R.1")), 79.8) << "a new key stands in its order";
    EXPECT_EQ(before.sizes.at(*FeatureId::parse("bore.R.2")), 79.9) << "and moves nobody's number";
    EXPECT_TRUE(put("sizes_mm.bore.R.2", {}).sizes.empty());
    EXPECT_FALSE(put("size_mm", {}).size);
    EXPECT_EQ(put("alloy", {.kind = FieldKind::choice, .number = 2}).alloy, PistonAlloy::low_silicon_forged);
    EXPECT_EQ(put("alloy", {.kind = FieldKind::choice, .number = 2}).size, 79.95);
    EXPECT_EQ(put("colour", {.number = 1}), pistons);
    const CylinderPlanChosen plan;
    const auto sizes = std::get<CylinderPlanChosen>(
        with_field(Payload(plan), "oversizes_mm", {.kind = FieldKind::numbers, .numbers = {0.25, 0.5}}));
    EXPECT_THAT(sizes.oversizes, testing::ElementsAre(0.25, 0.5));
    InsertMeasured insert;
    const auto third = std::get<InsertMeasured>(with_field(Payload(insert), "outside_mm[2]", {.number = 84.03}));
    EXPECT_EQ(third.outside[2], 84.03);
    EXPECT_EQ(third.outside[1], 0);
}
