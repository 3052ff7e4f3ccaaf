// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/feature.h"

#include "block/log_dialect.h"

#include <gtest/gtest.h>

using pallix::block::FeatureId;
using pallix::block::FeatureKind;

TEST(Feature, NamesSurviveReadingAndWriting) {
    for (const char* name :
         {"main.1", "cam.12", "dowel.R.2", "deck.L", "bore.C.4", "lifter.L.16", "panrail", "deck.left"}) {
        const auto id = FeatureId::parse(name);
        ASSERT_TRUE(id) << name;
        EXPECT_EQ(id->text(), name);
    }
    EXPECT_EQ(FeatureId::parse("bore.R.3"), (FeatureId{FeatureKind::bore, "R", 3}));
}

TEST(Feature, RefusesWhatIsNotSpelledRight) {
    for (const char* name :
         {"", "main", "main.", "main.0", "main.01", "main.-1", "main.1.2", "main.1x", "Main.1", "dowel.1", "dowel..1",
          "deck", "deck.", "deck.R.1", "bore.R", "panrail.1", "crank.1", "main.99999999999"})
        EXPECT_FALSE(FeatureId::parse(name)) << name;
}

// They are counted from 1: "bore L 0" has no name of ours, and what stands for it in a log is said to be unknown.
TEST(Feature, AUsualNameIsOneOfOurs) {
    using pallix::block::feature_by_usual_name;
    for (const char* name : {"bore L 0", "main 0", "main 000", "lifter 0", "main", "deck 1", "bore 1234"})
        EXPECT_FALSE(feature_by_usual_name(name)) << name;
    for (const char* name : {"bore L 2", "Main bearing 3", "CYL 007", "deck right", "panrail", "dowel 1 rh"}) {
        const auto id = feature_by_usual_name(name);
        ASSERT_TRUE(id) << name;
        EXPECT_EQ(FeatureId::parse(id->text()), *id) << name;
    }
    const auto look = pallix::block::look_at_log("Name,X,Y,Z\nbore L 0,1.5,2,3\n", "log");
    ASSERT_FALSE(look.converted);
    EXPECT_NE(look.converted.error().front().text().find("“bore L 0” is no feature that is known"), std::string::npos);
}
