// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/feature.h"

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
