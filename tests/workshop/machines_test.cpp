// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fold.h"
#include "workshop/machines.h"

#include "block/profile_trace.h"
#include "planning/cylinders/boring.h"
#include "planning/cylinders/texture.h"
#include "planning/row_block.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::bore_id;

namespace {

/// Bores a whole block as the board asks for it, reading each hole when it asks. Ends when it does not ask for a cut.
BoringBoard bore_by_the_board(test::RowJob& job, workshop::BoringBar& bar) {
    std::map<FeatureId, double> holes;
    for (int go = 0; go < 40; ++go) {
        const Folded s = job.state();
        const BoringBoard b = boring_board(s, *study_cylinders(s, {}));
        const bool cuts = b.step == BoringStep::bore || b.step == BoringStep::cut_again;
        if (cuts) {
            BoreCut c{*b.hole, BoreOperation::rough, b.to, b.set, false, 0, "", {}, ""};
            job.add(c);
            holes[*b.hole] = std::max(holes[*b.hole], bar.bore(*b.set));
        } else if (b.step == BoringStep::measure || b.step == BoringStep::measure_first) {
            job.add(test::size_reading(b.hole->text(), "middle", "across", holes[*b.hole], 0.0005));
        } else if (b.step == BoringStep::judge_trial) {
            job.add(BoreStepDone{*b.hole, trial_judged, {}, "clean"});
        } else {
            return b;
        }
    }
    ADD_FAILURE() << "it goes on for ever";
    return {};
}

test::RowJob block_to_bore() {
    test::RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), 80);
    PistonsStated p;
    p.clearance = 0.05;
    p.size = 80.45;
    job.add(p);
    return job;
}

} // namespace

TEST(BoringBar, ASoundToolThatCutsSmallIsSetOnceAndGoesThrough) {
    test::RowJob job = block_to_bore();
    workshop::BoringBar bar;
    bar.error = -0.03;
    EXPECT_EQ(bore_by_the_board(job, bar).step, BoringStep::done);
    EXPECT_EQ(bar.bored, 5) << "the first hole twice, then each at once";
}

TEST(BoringBar, AChippedEdgeStopsThePersonBeforeTheNextHole) {
    test::RowJob job = block_to_bore();
    workshop::BoringBar bar;
    bar.chips_at = 3; // holes 1 and 2 were bored at the first go
    bar.chip = 0.04;
    const BoringBoard b = bore_by_the_board(job, bar);
    EXPECT_EQ(b.step, BoringStep::look_at_edge);
    EXPECT_EQ(b.hole, bore_id(3));
    EXPECT_EQ(b.before, bore_id(2));
    EXPECT_NEAR(b.by, -0.04, 1e-9);
    EXPECT_EQ(bar.bored, 3) << "the fourth hole is untouched";
    // A fresh edge, and the hole is brought to size with it.
    bar.fit_new_edge();
    BoreCut again{bore_id(3), BoreOperation::rough, 80.40, 80.40, true, 0, "", {}, "fresh edge"};
    job.add(again);
    job.add(test::size_reading("bore.C.3", "middle", "across", bar.bore(80.40), 0.0005));
    EXPECT_EQ(bore_by_the_board(job, bar).step, BoringStep::done);
}

TEST(BoringBar, ABlockThatGrowsWarmIsFoundAtTheEnd) {
    test::RowJob job = block_to_bore();
    workshop::BoringBar bar;
    bar.growth_per_hole = 0.02;
    const BoringBoard b = bore_by_the_board(job, bar);
    EXPECT_EQ(b.step, BoringStep::look_at_edge) << "0.02 from one hole to the next is more than the tolerance";
    EXPECT_LT(bar.bored, 4);
}

TEST(TraceStandIn, SaysTheSameToTheByteAndLooksLikeAPlateau) {
    const std::string text = workshop::trace({});
    EXPECT_EQ(text, workshop::trace({}));
    const auto read = read_trace({"wall.csv", text});
    ASSERT_TRUE(read) << read.error().front().text();
    const auto f = judge_texture({*read}, {});
    ASSERT_TRUE(f);
    EXPECT_LT(f->ratio.rpk, f->ratio.rvk / 2) << "few peaks, deep valleys: plateaued";
    EXPECT_GT(f->ratio.mr2, 0.6);
    EXPECT_LT(f->ratio.mr2, 0.95);
    EXPECT_EQ(f->roughness.lengths, 5U) << "5.6 less a cutoff at either end";
}
