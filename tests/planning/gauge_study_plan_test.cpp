// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/gauge_study_plan.h"

#include "block/state/readings_state.h"
#include "planning/readings/reading_plan.h"
#include "story.h"

#include <algorithm>
#include <map>
#include <set>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

/// A story whose readings are by whoever is at the bench.
class Study {
  public:
    Study() {
        std::int64_t n = 0;
        for (const Payload& p : {Payload(JobOpened{"study", "", "b.json", test::story_blueprint()})})
            entries_.push_back({++n, "2026-03-02T09:00:00Z", "Marit", p});
    }
    void add(const std::string& person, Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T09:00:00Z", person, std::move(payload)});
    }
    void begin(std::vector<std::string> people = {"Marit", "Mira"}, std::int64_t trials = 2) {
        GaugeStudyBegun begun{"bore gauge", "cylinder_sizes C", {}, std::move(people), trials};
        for (int n = 1; n <= 4; ++n)
            begun.places.push_back("bore.C." + std::to_string(n) + " size top across");
        add("Marit", begun);
    }
    void read(const StudyReading& asked, double value, const std::string& gauge = "bore gauge") {
        Reading r;
        r.at = asked.at;
        r.words = "as asked";
        r.value = value;
        r.instrument.name = gauge;
        add(asked.person, r);
    }
    [[nodiscard]] std::optional<StudyStanding> standing(const std::string& at_bench = "Marit") const {
        return study_standing(fold(entries_), at_bench);
    }

  private:
    std::vector<Entry> entries_;
};

} // namespace

TEST(GaugeStudyPlan, EverybodyReadsEveryPartInEveryRound) {
    Study study;
    EXPECT_FALSE(study.standing());
    study.begin();
    std::map<std::string, std::vector<std::string>> order; // by person and trial
    std::size_t asked = 0;
    std::string at_bench = "Marit";
    for (auto s = study.standing(at_bench); s && s->next; s = study.standing(at_bench)) {
        EXPECT_EQ(s->next->number, ++asked);
        EXPECT_EQ(s->next->of, 16u);
        at_bench = s->next->person;
        order[at_bench + std::to_string(s->next->trial)].push_back(s->next->at.key());
        study.read(*s->next, 80 + s->next->at.feature.number / 100.0);
        ASSERT_LE(asked, 16u);
    }
    EXPECT_EQ(asked, 16u);
    ASSERT_EQ(order.size(), 4u);
    std::set<std::vector<std::string>> ways;
    for (const auto& [round, places] : order) {
        EXPECT_EQ(std::set(places.begin(), places.end()).size(), 4u) << round << ": each part once";
        ways.insert(places);
    }
    EXPECT_GT(ways.size(), 1u) << "not the same way every time";
    const auto done = study.standing();
    ASSERT_TRUE(done && done->complete());
    ASSERT_EQ(done->read.people.size(), 2u);
    ASSERT_EQ(done->read.people[0].size(), 2u);
    EXPECT_EQ(done->read.people[1][1], (std::vector<double>{80.01, 80.02, 80.03, 80.04})) << "by part, not as read";
    const auto result = metrology::study_gauge(done->read);
    ASSERT_TRUE(result);
    EXPECT_NEAR(result->by_variance.gauge, 0, 1e-12) << "everybody read the same";
    EXPECT_NEAR(result->by_variance.parts, 0.01 * std::sqrt(5.0 / 3), 1e-9) << "1, 2, 3, 4: s = √(5/3)";
}

TEST(GaugeStudyPlan, WhoeverIsAtTheBenchGoesFirst) {
    Study study;
    study.begin();
    EXPECT_EQ(study.standing("Marit")->next->person, "Marit");
    EXPECT_EQ(study.standing("Mira")->next->person, "Mira");
    EXPECT_EQ(study.standing("a visitor")->next->person, "Marit") << "who is in it";
    for (int i = 0; i < 4; ++i)
        study.read(*study.standing("Mira")->next, 80.01);
    EXPECT_EQ(study.standing("Mira")->next->person, "Marit") << "her round is done, the other's is not";
    EXPECT_EQ(study.standing("Mira")->next->trial, 1u);
}

TEST(GaugeStudyPlan, OnlyReadingsWithItsGaugeCount) {
    Study study;
    study.begin();
    const auto asked = *study.standing()->next;
    study.read(asked, 80.01, "another gauge");
    EXPECT_EQ(study.standing()->next->number, 1u);
    study.read(asked, 80.01);
    EXPECT_EQ(study.standing()->next->number, 2u);
}

TEST(GaugeStudyPlan, APartThatWasCutSinceSpoilsIt) {
    Study study;
    study.begin();
    study.read(*study.standing()->next, 80.01);
    for (int n = 1; n <= 4; ++n) {
        BoreCut cut;
        cut.bore = {FeatureKind::bore, "C", n};
        cut.target = 80.25;
        study.add("Marit", cut);
    }
    const auto spoilt = study.standing();
    ASSERT_TRUE(spoilt);
    EXPECT_TRUE(spoilt->spoilt);
    EXPECT_FALSE(spoilt->next);
    EXPECT_FALSE(spoilt->complete());
    study.begin();
    EXPECT_EQ(study.standing()->next->number, 1u) << "it is begun anew";
}

TEST(GaugeStudyPlan, PartsAreLengthsOfThePlan) {
    const Folded state = test::Story().state();
    EXPECT_EQ(study_places(state, Measuring::cylinder_sizes, "C").size(), 24u);
    EXPECT_TRUE(study_places(state, Measuring::feelers, "C").empty()) << "brackets";
    EXPECT_TRUE(study_places(state, Measuring::temperatures, "C").empty());
}

// What blocks of the kind usually are is what the line expects, until the place is cut; a zero at the target is not.
TEST(UsualReading, IsExpectedOfWhatIsAsItCame) {
    test::Story story;
    story.add(Experience{{{Trait::wear, "bore.C.1", 0.05, 0.01, 9},
                          {Trait::saddle_crown, "", 0.006, 0.002, 7},
                          {Trait::deck_slope, "deck.C", 0.1, 0.02, 7},
                          {Trait::wear, "bore.C.2", 3, 0.01, 9}},
                         {}});
    const auto asked = [&](Measuring what, const std::string& key) {
        ReadingWish wish{what, "C", false, {}, key, {}, 0};
        return *next_reading(story.state(), wish);
    };
    const AskedReading worn = asked(Measuring::cylinder_sizes, "bore.C.1 size top across");
    EXPECT_NEAR(worn.expected, 80.06, 1e-12) << "the middle of 80.00 to 80.02, and 0.05 of wear";
    EXPECT_NEAR(worn.target(), 80.01, 1e-12);
    ASSERT_TRUE(worn.usual);
    EXPECT_EQ(worn.usual->blocks, 9);
    EXPECT_NEAR(asked(Measuring::cylinder_sizes, "bore.C.2 size top across").expected, 80.01, 1e-12)
        << "beyond belief: something else was counted there";
    EXPECT_FALSE(asked(Measuring::cylinder_sizes, "bore.C.3 size top across").usual);
    EXPECT_NEAR(asked(Measuring::saddle_heights, "main.3 saddle").expected, 0.006, 1e-12);
    EXPECT_NEAR(asked(Measuring::saddle_heights, "main.5 saddle").expected, 0, 1e-12)
        << "the line goes through the ends";
    const auto corners = chosen_places(story.state(), Measuring::deck_heights, "C");
    double low = 1e9, high = 0;
    for (const MeasuredAt& corner : corners) {
        const double expected = asked(Measuring::deck_heights, corner.key()).expected;
        low = std::min(low, expected);
        high = std::max(high, expected);
    }
    EXPECT_NEAR(low + high, 2 * 200.0, 1e-9);
    EXPECT_GT(high - low, 0.05) << "0.1 from end to end";
    BoreCut cut;
    cut.bore = {FeatureKind::bore, "C", 1};
    cut.target = 80.25;
    story.add(cut);
    EXPECT_NEAR(asked(Measuring::cylinder_sizes, "bore.C.1 size top across").expected, 80.25, 1e-12);
}
