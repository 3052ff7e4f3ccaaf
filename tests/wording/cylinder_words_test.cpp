// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fold.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"

#include "planning/common/assessment.h"
#include "planning/row_block.h"
#include "units.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::wording;
using test::bore_id;
using test::lifter_id;
using test::RowJob;
using testing::Contains;
using testing::HasSubstr;

namespace {

using test::mm, test::inch;

CallText call_after(const RowJob& job) {
    const Folded s = job.state();
    const auto work = planning::cylinder_work(s, {});
    return cylinder_call(s, work ? &*work : nullptr, mm);
}

} // namespace

TEST(CylinderWords, TimingOversizeAndTexture) {
    EXPECT_EQ(timing_words(0.927 * radians_per_degree), "0.93° late, 1.85° at the crankshaft");
    EXPECT_EQ(timing_words(-0.5 * radians_per_degree), "0.50° early, 1.00° at the crankshaft");
    EXPECT_EQ(timing_words(0), "0.00°, 0.00° at the crankshaft");
    EXPECT_EQ(oversize_text(0, mm), "nominal");
    EXPECT_EQ(oversize_text(0.508, inch), "+0.0200 in");
    EXPECT_EQ(texture_text(0.00085, false), "0.85 µm");
    EXPECT_EQ(texture_text(0.081, true), "8.1 %");
    EXPECT_EQ(range_text({0.0004, 0.0009}, false), "0.40 to 0.90 µm");
    EXPECT_EQ(range_text({{}, 0.12}, true), "at most 12.0 %");
    EXPECT_EQ(range_text({}, false), "");
}

TEST(CylinderWords, ShapesSayWhatToDo) {
    planning::HoneBore b;
    EXPECT_EQ(shape_sentence(b, mm), "Even.");
    b.shape_by = 0.012;
    b.shape = planning::BoreShape::tight_bottom;
    EXPECT_EQ(shape_sentence(b, mm), "Tapered, tight at the bottom by 0.012 mm: dwell at the bottom.");
    b.shape = planning::BoreShape::barrel;
    EXPECT_THAT(shape_sentence(b, mm), HasSubstr("pushed too hard"));
    b.shape = planning::BoreShape::oval;
    EXPECT_THAT(shape_sentence(b, mm), HasSubstr("torque plate"));
}

TEST(CylinderWords, CallsFollowTheWorkAndCautionStandsWhereItHurts) {
    RowJob job;
    EXPECT_EQ(call_after(job).headline, "Measure the cylinders");
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), 80.02);
    EXPECT_EQ(call_after(job).headline, "Choose the centre and the size");
    PistonsStated p;
    p.size = 80.45;
    p.clearance = 0.05;
    job.add(p);
    CallText call = call_after(job);
    EXPECT_EQ(call.headline, "Bore cylinder 1 (bore 1) to 80.400 mm");
    EXPECT_EQ(call.number, "80.400");
    EXPECT_THAT(call.caution, HasSubstr("no gloves"));
    job.cut(1, BoreOperation::rough, 80.4, 80.4);
    EXPECT_EQ(call_after(job).headline, "Measure cylinder 1 (bore 1) before the next");
    RowJob under = job;
    under.add(test::size_reading("bore.C.1", "top", "across", 80.37));
    EXPECT_EQ(call_after(under).headline, "Cylinder 1 (bore 1) is under: cut it again");
    EXPECT_EQ(call_after(under).number, "80.430") << "set larger by what it cut small";
    job.add(test::size_reading("bore.C.1", "top", "across", 80.45));
    call = call_after(job);
    EXPECT_EQ(call.headline, "Stop: cylinder 1 (bore 1) is over by 0.050 mm");
    EXPECT_EQ(call.caution, "") << "a decision hurts nobody";
}

TEST(CylinderWords, EntriesNameTheirBore) {
    RowJob job;
    job.add(BoreDecided{bore_id(3), BoreChoice::sleeve, "cracked"});
    job.cut(2, BoreOperation::rough, 80.4, 80.41, true);
    job.add(LifterDecided{lifter_id(1), LifterChoice::bush, ""});
    job.add(RestBegun{40, "2026-03-02T10:00:00Z"});
    LifterPlanChosen plan;
    plan.lifter = 21.97;
    job.add(plan);
    const Folded s = job.state();
    const auto said = [&](std::size_t i) { return entry_sentence(job.entries()[i], s, mm); };
    EXPECT_EQ(said(1), "cylinder 3 (bore 3): decided: sleeve it (cracked)");
    EXPECT_EQ(said(2), "cylinder 2 (bore 2): rough bore to 80.400 mm, tool set to 80.410 mm, fresh edge");
    EXPECT_THAT(said(3), HasSubstr("decided: bush"));
    EXPECT_THAT(said(3), HasSubstr("lifter 1"));
    EXPECT_EQ(said(4), "the block rests 40 min, until 2026-03-02T10:00:00Z");
    EXPECT_EQ(said(5), "lifter plan: leave what is in limits, lifters 21.970 mm");
}

TEST(CylinderWords, PistonsAndPlanThatDifferAreNamed) {
    RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), 80.02);
    CylinderPlanChosen plan;
    plan.oversizes = {0, 0.25, 0.5};
    job.add(plan);
    PistonsStated p;
    p.size = 80.45;
    p.clearance = 0.05;
    job.add(p);
    const Folded s = job.state();
    const auto study = planning::study_cylinders(s, {});
    EXPECT_THAT(bore_sentences(s, *study, bore_id(1), mm),
                Contains("These pistons stand for +0.500 mm, the plan for +0.250 mm: choose one."));
    EXPECT_THAT(bore_sentences(s, *study, bore_id(1), mm),
                Contains(HasSubstr("a gauge does not tell. A probe would.")));
    EXPECT_THAT(
        size_sentences(s, *study, mm),
        Contains(HasSubstr("On the unworn top: +0.250 mm for all; cylinder 1 (bore 1) sets it (needs +0.020)")));
}
