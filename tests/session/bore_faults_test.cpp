// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/bore_state.h"

#include "planning/row_block.h"
#include "session_fixture.h"

using namespace pallix;
using namespace pallix::block;
using test::bore_id;
using test::lifter_id;

namespace {

class BoreFaults : public test::SessionFixture {
  protected:
    BoreFaults() {
        const auto done =
            session_.new_job(QStringLiteral("row"), QStringLiteral("nobody"), {"row.json", test::row_blueprint()});
        EXPECT_TRUE(done);
    }
    /// What is said, or nothing where it was taken.
    template <class Payload>
    std::string refused(const Payload& payload) {
        const std::size_t before = session_.entries().size();
        const auto done = session_.take(payload);
        EXPECT_EQ(session_.entries().size(), before + (done ? 1 : 0)) << "nothing is half taken";
        return done ? "" : done.error().front().text();
    }
};

void expect_says(const std::string& said, const char* words) {
    EXPECT_NE(said.find(words), std::string::npos) << said;
}

InsertMeasured sleeve() {
    InsertMeasured i;
    i.bore = bore_id(1);
    i.outside.fill(84);
    i.inside = 79;
    i.length = 140;
    i.interference = 0.03;
    i.parent_outside = 100;
    return i;
}

} // namespace

TEST_F(BoreFaults, WhatCannotBeIsNamed) {
    const FeatureId stranger{FeatureKind::bore, "C", 9};
    expect_says(refused(BoreDecided{stranger, BoreChoice::sleeve, ""}), "bore.C.9 is not in the blueprint");
    expect_says(refused(LifterDecided{{FeatureKind::lifter, "C", 7}, LifterChoice::bush, ""}), "lifter.C.7");
    expect_says(refused(BorePitted{bore_id(1), -0.1, "top", "left", ""}),
                "depth is -0.1, expected greater than 0, at most 10 (mm)");
    CylinderPlanChosen plan;
    expect_says(refused(plan), "oversizes has 0 items, expected 1 to 100 (mm)");
    plan.oversizes = {0, -0.5};
    expect_says(refused(plan), "oversizes[1] is -0.5, expected 0 to 10 (mm)");
    plan.oversizes = {0, 0.5};
    plan.wall = 0.0;
    expect_says(refused(plan), "wall is 0, expected greater than 0");
    PistonsStated pistons;
    pistons.size = 800;
    expect_says(refused(pistons), "do not belong into bore.C.1");
    pistons.size = 80;
    pistons.tolerance = 0;
    expect_says(refused(pistons), "tolerance is 0, expected greater than 0");
    BoreCut cut{bore_id(1), BoreOperation::rough, 8.04, {}, false, 0, "", {}, ""};
    expect_says(refused(cut), "a size near the bore's");
    InsertMeasured insert = sleeve();
    insert.inside = 85;
    expect_says(refused(insert), "inside < outside < the metal round it");
    insert = sleeve();
    insert.outside[4] = 0;
    expect_says(refused(insert), "outside[4] is 0, expected greater than 0");
    expect_says(refused(InsertFitted{bore_id(1), 99, {}, {}, ""}), "proud is 99, expected -50 to 50 (mm)");
    expect_says(refused(BoreStepDone{bore_id(1), "", {}, ""}), "step is empty, expected what was done");
    HonePlanChosen hone{{{"a", Abrasive::vitrified, 0.01}, {"b", Abrasive::vitrified, 0.02}}, 170, 150, 55, true};
    expect_says(refused(hone), "less and less stock");
    expect_says(refused(RestBegun{0, ""}), "minutes is 0, expected greater than 0, at most 1440");
    TextureLimits texture;
    texture.rk = {0.002, 0.001};
    expect_says(refused(texture), "the smaller number first");
    LifterPlanChosen lifters;
    lifters.lifter = 22;
    lifters.bush_outside = 21;
    expect_says(refused(lifters), "an outside greater than the lifter's");
    EXPECT_EQ(session_.entries().size(), 1U);
}

TEST_F(BoreFaults, WhatCanBeIsTakenAndUndone) {
    EXPECT_EQ(refused(sleeve()), "");
    EXPECT_EQ(refused(BoreDecided{bore_id(1), BoreChoice::sleeve, ""}), "");
    EXPECT_TRUE(bores_of(session_.state()).bore(bore_id(1)).decided);
    ASSERT_TRUE(session_.undo());
    EXPECT_FALSE(bores_of(session_.state()).bore(bore_id(1)).decided);
    EXPECT_TRUE(bores_of(session_.state()).bore(bore_id(1)).insert);
    ASSERT_TRUE(session_.redo());
    EXPECT_TRUE(bores_of(session_.state()).bore(bore_id(1)).decided);
    EXPECT_FALSE(session_.take_trace(bore_id(1), {"wall.csv", "nothing"}));
    EXPECT_TRUE(bores_of(session_.state()).bore(bore_id(1)).traces.empty());
    EXPECT_EQ(session_.minutes_left(), 0);
}
