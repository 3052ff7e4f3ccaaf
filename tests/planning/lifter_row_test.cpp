// SPDX-License-Identifier: GPL-3.0-or-later
// A row of lifters that are all bushed: what is measured of it, and when.
#include "block/state/bore_state.h"
#include "block/state/fold.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/lifters/lifter_plan.h"

#include "row_block.h"

#include <array>
#include <cmath>
#include <gmock/gmock.h>
#include <map>
#include <nlohmann/json.hpp>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::lifter_id;

namespace {

constexpr int row = 5;

/// Intake and exhaust in turn, one pair for each cylinder.
std::string five_lifters() {
    auto json = nlohmann::json::parse(test::row_blueprint());
    const auto one = json["lifters"][0];
    json["lifters"].clear();
    for (int n = 1; n <= row; ++n) {
        auto lifter = one;
        lifter["id"] = "lifter.C." + std::to_string(n);
        lifter["u"] = 50 * n;
        lifter["cylinder"] = (n + 1) / 2;
        lifter["valve"] = n % 2 == 1 ? "intake" : "exhaust";
        json["lifters"].push_back(lifter);
    }
    return json.dump();
}

/// Somebody who does what is called, and notes what that was: "c3" cut, "m3" measured, "p3" pressed.
class LifterRowTest : public testing::Test {
  protected:
    LifterRowTest() {
        add(JobOpened{"row", "", "b.json", five_lifters()});
        LifterPlanChosen p;
        p.school = LifterSchool::bush_all;
        p.lifter = 21.975;
        p.clearance_least = 0.02;
        p.clearance_most = 0.05;
        p.bush_outside = 24;
        p.interference = 0.03;
        add(p);
        for (int n = 1; n <= row; ++n)
            add(test::size_reading("lifter.C." + std::to_string(n), "top", "across", 22.01));
    }
    void add(Payload payload) {
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), "", "", std::move(payload)});
    }
    LifterBoard now() const {
        const Folded s = fold(entries_);
        return lifter_board(s, *study_lifters(s));
    }
    /// @param wear mm, by how much the second single-point tool's last bore comes out smaller
    void work_until(LifterStep end, double wear = 0) {
        for (int go = 0; go < 100 && now().step != end; ++go) {
            const LifterBoard b = now();
            const std::string n = std::to_string(b.lifter->number);
            const auto p = std::ranges::find(b.each, *b.lifter, &LifterProgress::id);
            drift_ = b.drift ? b.drift : drift_;
            if (b.step == LifterStep::cut) {
                done_.push_back("c" + n);
                set_[b.lifter->number] = p->next->to - (p->tool == 1 && b.lifter->number == row ? wear : 0);
                add(BoreCut{*b.lifter, p->next->operation, p->next->to, {}, false, 0, "", {}, ""});
            } else {
                ASSERT_EQ(b.step, LifterStep::measure_cut);
                done_.push_back("m" + n);
                add(test::size_reading(b.lifter->text(), "top", "across", set_[b.lifter->number]));
            }
        }
    }

    std::vector<Entry> entries_;
    std::map<int, double> set_;
    std::vector<std::string> done_;
    std::optional<ToolDrift> drift_;
};

} // namespace

// Roughing is not measured; of each single-point tool the first bore and the last; the hone everywhere.
TEST_F(LifterRowTest, TheFirstBoreOfAToolIsMeasuredAndTheLast) {
    work_until(LifterStep::press);
    EXPECT_THAT(done_, testing::ElementsAre("c1", "c2", "c3", "c4", "c5",             //
                                            "c1", "m1", "c2", "c3", "c4", "c5", "m5", //
                                            "c1", "m1", "c2", "c3", "c4", "c5", "m5", //
                                            "c1", "m1", "c2", "m2", "c3", "m3", "c4", "m4", "c5", "m5"));
    EXPECT_FALSE(drift_);
}

// The last is 0.02 smaller than the first: whatever lies between is not known until it is measured.
TEST_F(LifterRowTest, WhereFirstAndLastDifferAllBetweenAreMeasured) {
    work_until(LifterStep::press, 0.02);
    ASSERT_TRUE(drift_);
    EXPECT_EQ(drift_->first, lifter_id(1));
    EXPECT_EQ(drift_->last, lifter_id(5));
    EXPECT_NEAR(drift_->by, -0.02, 1e-9);
    const std::vector<std::string> second(done_.begin() + 5, done_.begin() + 16);
    EXPECT_THAT(second, testing::ElementsAre("c1", "m1", "c2", "c3", "c4", "c5", "m5", "m2", "m3", "m4", "c5"))
        << "and the small one goes through that tool again";
}

// 0.2, 0.0, 0.1 of the intakes, 0.4 and 0.0 of the exhausts: compared among themselves.
TEST_F(LifterRowTest, ValvesOfOneKindAreComparedWithOneAnother) {
    Folded s = fold(entries_);
    EvaluationState e;
    e.sequence = 1;
    e.evaluation.cam = CamResult{0, 100, 100, 0, 0};
    const std::array<double, row> across{0.2, 0.4, 0.0, 0.0, 0.1};
    for (int n = 1; n <= row; ++n) {
        const metrology::Vec2 at{50.0 * n, across.at(static_cast<std::size_t>(n - 1))};
        HoleResult h = test::probed_bore(lifter_id(n), at, 22.01, at, 22.01);
        h.v_cam = at.y;
        e.evaluation.lifters.push_back(h);
    }
    tunnel_of(s).as_found = tunnel_of(s).latest = e;
    bores_of(s).lifter_plan->payload.base_radius = 15;
    bores_of(s).lifter_plan->payload.roller_radius = 8.5;
    const auto study = study_lifters(s);
    ASSERT_EQ(study->by_valve.size(), 2U);
    EXPECT_EQ(study->by_valve[0].valve, Valve::intake);
    EXPECT_NEAR(study->by_valve[0].before.spread(), std::asin(0.2 / 23.5), 1e-12);
    EXPECT_EQ(study->by_valve[1].valve, Valve::exhaust);
    EXPECT_NEAR(study->by_valve[1].before.spread(), std::asin(0.4 / 23.5), 1e-12);
    EXPECT_NEAR(study->by_valve[1].planned->spread(), 0, 1e-12) << "bushed at their place";
}

// No probe ever said where they lie: their size after the last cut is all the proof there can be, and no log is asked
// for.
TEST_F(LifterRowTest, WithoutAProbeTheirSizeIsTheProof) {
    work_until(LifterStep::press);
    for (int n = 1; n <= row; ++n)
        add(InsertFitted{lifter_id(n), 0, {}, {}, ""});
    work_until(LifterStep::done);
    const LifterBoard b = now();
    EXPECT_EQ(b.step, LifterStep::done);
    for (const LifterProgress& p : b.each) {
        EXPECT_EQ(p.state, LifterState::proven);
        EXPECT_FALSE(p.position) << "nobody claims to know where it lies";
        EXPECT_NEAR(*p.size, 22.01, 1e-9) << "21.975 and 0.035, the middle of its clearances";
    }
}

// A seat that came out too large is decided on once: left so, it is called for no more, and is not called good either.
TEST_F(LifterRowTest, WhatIsTooLargeIsDecidedOnOnce) {
    work_until(LifterStep::press);
    const FeatureId third = lifter_id(3);
    add(BoreCut{third, BoreOperation::hone, set_[3], {}, false, 0, "", {}, ""});
    add(test::size_reading("lifter.C.3", "top", "across", 24.2));
    ASSERT_EQ(now().step, LifterStep::too_large);
    EXPECT_EQ(now().lifter, third);
    const Folded before = fold(entries_);
    const Assessment a = assess(before);
    const Step* step = a.steps.find("lifter.C.3/decide");
    ASSERT_NE(step, nullptr);
    EXPECT_THAT(step->asks.front().choices, testing::ElementsAre("leave", "bush"))
        << "metal that is off is not honed back";
    add(LifterDecided{third, LifterChoice::leave, "a larger bush is on its way"});
    const LifterBoard after = now();
    EXPECT_NE(after.step, LifterStep::too_large);
    EXPECT_EQ(after.each[2].state, LifterState::answered);
    // Cut again, it is looked at again.
    add(BoreCut{third, BoreOperation::hone, 24.3, {}, false, 0, "", {}, ""});
    add(test::size_reading("lifter.C.3", "top", "across", 24.3));
    EXPECT_EQ(now().step, LifterStep::too_large);
}
