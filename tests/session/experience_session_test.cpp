// SPDX-License-Identifier: GPL-3.0-or-later
// What a new job begins with of what the shop's other jobs teach; what the shop knows of its instruments.
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/readings/reading_plan.h"
#include "session/instrument_register.h"
#include "session/shop_experience.h"
#include "session/shop_standing.h"
#include "session/study_results.h"
#include "session_fixture.h"

#include <algorithm>

using namespace pallix;
using namespace pallix::block;
using session::InstrumentRegister;

namespace {

class ExperienceTest : public test::SessionFixture {
  protected:
    void learn() {
        session_.learn_from([this](const std::string& engine) {
            return session::experience_of_shop(*book_, preferences_, session::Session::system_clock(), engine);
        });
    }
    /// A job whose cylinder was found worn and whose deck became clean later than foretold.
    void worn_job(double wear) {
        open_small_job();
        Reading r = test::size_reading("bore.C.1", "top", "across", 60 + wear);
        ASSERT_TRUE(session_.take(r));
        for (const MeasuredAt& at :
             planning::usual_places(test::read_small_blueprint(), planning::Measuring::deck_heights, "C")) {
            Reading height;
            height.at = at;
            height.value = 200.03;
            ASSERT_TRUE(session_.take(height));
        }
        ASSERT_TRUE(session_.take(DeckForecastKept{"C", 0.01, 0.02, 199.9, 200, {10, 0}}));
        const auto cut = session_.take(DeckCut{"C", PassKind::pass, 0.05, false, {}});
        ASSERT_TRUE(cut) << cut.error().front().text();
        ASSERT_TRUE(session_.take(DeckCut{"C", PassKind::pass, 0.05, true, {}}));
    }
    [[nodiscard]] std::size_t entries_that_teach() const {
        return static_cast<std::size_t>(std::ranges::count_if(
            session_.entries(), [](const Entry& e) { return std::holds_alternative<Experience>(e.payload); }));
    }
};

} // namespace

TEST_F(ExperienceTest, AJobBeginsWithWhatFiveOthersTeach) {
    learn();
    for (int i = 0; i < 5; ++i) {
        worn_job(0.03 + 0.01 * (i % 2));
        EXPECT_EQ(entries_that_teach(), 0u) << "fewer than five teach nothing";
    }
    open_small_job();
    ASSERT_EQ(entries_that_teach(), 1u);
    const Experience& taught = card_of(session_.state()).experience->payload;
    const auto wear = std::ranges::find(taught.traits, Trait::wear, &UsualTrait::trait);
    ASSERT_NE(wear, taught.traits.end());
    EXPECT_NEAR(wear->mean, 0.034, 1e-6) << "0.03 three times, 0.04 twice";
    EXPECT_EQ(wear->blocks, 5);
    ASSERT_FALSE(taught.forecasts.empty());
    EXPECT_EQ(taught.forecasts[0].made, 5);
    EXPECT_EQ(taught.forecasts[0].held, 0);
    EXPECT_EQ(taught.forecasts[0].widen, ForecastRecord::widest) << "0.05 to 0.1 where 0.01 to 0.02 were foretold";
    const planning::ReadingWish wish{planning::Measuring::cylinder_sizes, "C", false, {}, {}, {}, 0};
    const auto asked = planning::next_reading(session_.state(), wish);
    ASSERT_TRUE(asked && asked->usual);
    EXPECT_NEAR(asked->expected - asked->target(), 0.034, 1e-6);
}

TEST_F(ExperienceTest, WithoutATeacherNothingIsAdded) {
    for (int i = 0; i < 6; ++i)
        worn_job(0.03);
    open_small_job();
    EXPECT_EQ(entries_that_teach(), 0u);
    EXPECT_EQ(session_.entries().size(), 1u);
}

TEST_F(ExperienceTest, WhatCameIsRememberedWithEveryJob) {
    std::vector<planning::ForecastCame> came{{ForecastKind::cap_size, {"bore gauge", "Mar\tit"}, 0.125, true},
                                             {ForecastKind::cap_size, {"bore gauge", "Mar\tit"}, 2.5, false},
                                             {ForecastKind::removal, {"probe", ""}, 0, true},
                                             {ForecastKind::removal, {"probe", ""}, 0, false}};
    const auto back = session::forecasts_in(session::forecasts_text(came));
    ASSERT_EQ(back.size(), 4u);
    EXPECT_EQ(back[0].kind, ForecastKind::removal);
    EXPECT_EQ(std::ranges::count(back, true, &planning::ForecastCame::held), 2);
    EXPECT_EQ(back[2].by, (planning::MeasuredBy{"bore gauge", "Mar it"}));
    EXPECT_NEAR(back[3].miss, 2.5, 1e-12);
    EXPECT_TRUE(session::forecasts_in({}).empty());
    EXPECT_TRUE(session::forecasts_in(QStringLiteral("9\tg\tp\t1\nno line\n-1\t\t\t2")).empty())
        << "of another version";
}

TEST_F(ExperienceTest, AZeroHasItsHour) {
    InstrumentRegister shop(*book_, preferences_, nullptr, [this] { return at_; });
    at_ = "2026-03-02T08:00:00Z";
    preferences_.set_person(QStringLiteral("Marit"));
    Instrument gauge = shop.in_hand(planning::Measuring::main_sizes);
    ASSERT_TRUE(shop.save(gauge));
    EXPECT_TRUE(shop.history(gauge.name).empty()) << "no zero was set";
    ASSERT_TRUE(shop.zero(gauge, 73.99, "ring", 20));
    ASSERT_EQ(shop.history(gauge.name).size(), 1u);
    EXPECT_EQ(shop.history(gauge.name)[0].person, "Marit");
    gauge = *shop.find(gauge.name);
    EXPECT_EQ(gauge.zero_time, "2026-03-02T08:00:00Z");
    open_small_job();
    at_ = "2026-03-02T12:00:00Z";
    EXPECT_FALSE(shop.doubt(gauge, session_.state()));
    at_ = "2026-03-02T18:00:00Z";
    ASSERT_TRUE(shop.doubt(gauge, session_.state()));
    EXPECT_EQ(shop.doubt(gauge, session_.state())->why, planning::ZeroDoubted::old);
    // Another card of it says nothing new of its zero; the same zero set once more does.
    gauge.resolution = 0.001;
    ASSERT_TRUE(shop.save(gauge));
    EXPECT_EQ(shop.history(gauge.name).size(), 1u);
    ASSERT_TRUE(shop.zero(*shop.find(gauge.name), 73.99, "ring", 20));
    EXPECT_EQ(shop.history(gauge.name).size(), 2u);
    EXPECT_FALSE(shop.doubt(*shop.find(gauge.name), session_.state()));
    gauge = *shop.find(gauge.name);
    EXPECT_EQ(gauge.zero_c, 20);
    gauge.zero = 74;
    ASSERT_TRUE(shop.save(gauge));
    EXPECT_EQ(shop.history(gauge.name).size(), 3u) << "a zero of another size was set now";
    EXPECT_FALSE(shop.find(gauge.name)->zero_c) << "and nobody said how warm the gauge was";
    // What a job's ledger says of it belongs to its history as well.
    ASSERT_TRUE(session_.take(RingCheck{gauge.name, 73.99, 74.01}));
    shop.forget_histories();
    at_ = "2026-03-02T18:30:00Z";
    EXPECT_EQ(shop.history(gauge.name).size(), 4u);
    EXPECT_NEAR(*shop.record(*shop.find(gauge.name)).error, 0.02, 1e-9);
    ASSERT_TRUE(shop.remove(gauge.name));
    EXPECT_EQ(shop.history(gauge.name).size(), 4u) << "it goes, what happened to it stays";
}

TEST_F(ExperienceTest, AGaugeStudyIsFoundAgainInItsJob) {
    open_small_job();
    const std::vector<MeasuredAt> places =
        planning::usual_places(test::read_small_blueprint(), planning::Measuring::cylinder_sizes, "C");
    ASSERT_GE(places.size(), 2u);
    ASSERT_TRUE(session_.take(
        GaugeStudyBegun{"bore gauge", "cylinder_sizes C", {places[0].key(), places[1].key()}, {"Marit", "Mira"}, 2}));
    Reading r = test::size_reading("bore.C.1", "top", "across", 60.01);
    r.at = places[0];
    r.instrument.name = "bore gauge";
    ASSERT_TRUE(session_.take(r));
    const auto history = book_->instrument_history("bore gauge");
    ASSERT_TRUE(history);
    ASSERT_EQ(history->size(), 1u);
    auto found = session::study_result(*book_, history->front());
    ASSERT_TRUE(found && found->next);
    EXPECT_EQ(found->next->number, 2u);
    EXPECT_EQ(found->next->of, 8u);
    EXPECT_FALSE(session::study_result(*book_, InstrumentEvent())) << "no study";
}
