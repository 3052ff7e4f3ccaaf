// SPDX-License-Identifier: GPL-3.0-or-later
// A place that is read again says why, and says nothing of what is cut after it.
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/row_block.h"
#include "planning/story.h"
#include "wording/steps/step_words.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using test::Story;
using testing::HasSubstr;

namespace {

const wording::LengthText metric(Unit::mm);

std::string reasons_of(const wording::CallText& call) {
    std::string text;
    for (const std::string& reason : call.reasons)
        text += reason + "\n";
    return text;
}

} // namespace

TEST(SecondLookWords, SayThatAMainsSizeStandsOut) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"}).caps(true);
    for (int n = 1; n <= 5; ++n)
        for (const char* end : {"front", "rear"})
            for (const char* way : {"upright", "60 left", "60 right"}) {
                const bool slip = n == 3 && std::string(end) == "rear" && std::string(way) == "60 left";
                s.size(n, end, way, slip ? 60.130 : 60.010);
            }
    s.saddles();
    const Folded state = s.state();
    const planning::Assessment a = s.now();
    const wording::CallText call = wording::call_text(state, a, metric);
    EXPECT_EQ(call.headline, "Read main 3, rear, 60° left");
    EXPECT_THAT(reasons_of(call), HasSubstr("It stands far off the other sizes of this main"));
    EXPECT_EQ(call.number, "");
    EXPECT_THAT(reasons_of(call), testing::Not(HasSubstr("what the cut should have made")));
}

TEST(SecondLookWords, SayThatOneReadingSetsTheSize) {
    test::RowJob job;
    for (int n = 1; n <= 4; ++n)
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"}) {
                const bool slip = n == 3 && std::string(level) == "top" && std::string(way) == "along";
                job.add(test::size_reading(test::bore_id(n).text(), level, way, slip ? 80.20 : 80.10, 0.0005));
            }
    CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5};
    job.add(plan);
    job.add(ScopeChosen{{Stage::cylinders}, "the rest is good by its papers"});
    job.add(StepDone{"inspected for cracks, threads, caps and registers"});
    job.add(StepSkipped{"as_found/log", "no probe in this shop"});
    const Folded state = job.state();
    const wording::CallText call =
        wording::call_text(state, planning::assess(state, nullptr, "2026-03-02T12:00:00Z"), metric);
    EXPECT_EQ(call.headline, "Read cylinder 3 (bore 3), top, along the crankshaft");
    EXPECT_EQ(call.number, "") << "80.15 is what the bar is set to, not what is read";
    EXPECT_THAT(reasons_of(call), HasSubstr("By this reading alone every cylinder would go up a size."));
    EXPECT_THAT(reasons_of(call), testing::Not(HasSubstr("Bore cylinder")));
}
