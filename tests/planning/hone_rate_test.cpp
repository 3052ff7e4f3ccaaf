// SPDX-License-Identifier: GPL-3.0-or-later
// What a grit takes in a stroke, told from this job's own bores, and how many are proposed by it.
#include "planning/cylinders/hone_rate.h"

#include "planning/common/assessment.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/cylinders/honing.h"
#include "row_block.h"

#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::bore_id;

namespace {

void honed(test::RowJob& job, int bore, int strokes, double to, std::optional<double> load = {},
           const std::string& grit = "220 stone") {
    BoreCut cut{bore_id(bore), BoreOperation::hone, {}, {}, false, strokes, grit, load, ""};
    job.add(cut);
    job.sizes(bore_id(bore), to);
}

} // namespace

TEST(HoneRate, IsWhatTheGoesOfTheJobHaveTaken) {
    test::RowJob job;
    job.sizes(bore_id(1), 80.20);
    honed(job, 1, 40, 80.22, 60); // 0.020 in 40
    auto rates = hone_rates(job.state());
    ASSERT_EQ(rates.size(), 1U);
    EXPECT_NEAR(rates.at("220 stone").per_stroke, 0.0005, 1e-12);
    EXPECT_EQ(*strokes_for(rates.at("220 stone"), 0.010), 16) << "four fifths of twenty: one bore alone has shown it";
    job.sizes(bore_id(2), 80.20);
    honed(job, 2, 20, 80.22, 60); // 0.020 in 20
    rates = hone_rates(job.state());
    EXPECT_NEAR(rates.at("220 stone").per_stroke, 0.040 / 60, 1e-12);
    EXPECT_EQ(rates.at("220 stone").from.size(), 2U);
    EXPECT_EQ(*strokes_for(rates.at("220 stone"), 0.010), 16) << "a twentieth more than 15";
    EXPECT_EQ(*strokes_for(rates.at("220 stone"), 0.010, 30), 32) << "at half the load twice as many";
    EXPECT_FALSE(strokes_for(rates.at("220 stone"), 0));
    // 30 strokes more that nobody has measured.
    EXPECT_NEAR(*size_by_rate(job.state(), bore_id(2), rates), 80.20 + 20 * 0.040 / 60, 1e-9);
    job.add(BoreCut{bore_id(2), BoreOperation::hone, {}, {}, false, 30, "220 stone", {}, ""});
    EXPECT_NEAR(*size_by_rate(job.state(), bore_id(2), rates), 80.22 + 30 * 0.040 / 60, 1e-9);
}

TEST(HoneRate, AGoThatCannotBeToldFromItsReadingsSaysNothing) {
    test::RowJob job;
    job.sizes(bore_id(1), 80.20);
    honed(job, 1, 2, 80.2001);
    EXPECT_TRUE(hone_rates(job.state()).empty());
    job.cut(2, BoreOperation::hone, 80.25); // nobody measured it before
    job.sizes(bore_id(2), 80.22);
    EXPECT_TRUE(hone_rates(job.state()).empty());
}
