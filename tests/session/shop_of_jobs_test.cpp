// SPDX-License-Identifier: GPL-3.0-or-later
// A simulated shop fills the book: what it then knows of hours, blocks of one kind and its own forecasts. Few jobs in
// every run of the tests; PALLIX_JOBS says how many in the long one (scripts/shop-of-jobs), PALLIX_KEEP_BOOK where the
// book is left.
#include "block/state/fold.h"
#include "block/times.h"
#include "planning/shop/forecasts.h"
#include "session/shop_experience.h"
#include "session/shop_model.h"
#include "session_fixture.h"
#include "workshop/simulated_shop.h"

#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <future>
#include <iostream>
#include <map>

using namespace pallix;

namespace {

/// One gauge is half as good as it is said to be.
constexpr double truly_worse = 2;
bool by_old_gauge(std::size_t number) {
    return number % 3 == 1;
}

workshop::Played play_job(std::size_t number, const block::Experience& taught) {
    workshop::SimulatedBlock block(test::engine(number), 5000 + number);
    test::Workshop works = test::workshop_of(number);
    workshop::PlayerHabits& habits = works.habits;
    if (habits.sleeves)
        block.wear_out(block.blueprint().bores.back().id, 1.2); // over every size on offer
    habits.person = number % 2 == 0 ? "Marit" : "Jorun";
    habits.gauge_name = by_old_gauge(number) ? "old gauge" : "new gauge";
    habits.truly = by_old_gauge(number) ? truly_worse : 1;
    habits.forecasts = habits.takes_its_time = true;
    const auto begins = *block::read_time("2024-01-01T07:00:00Z") + std::chrono::hours(24 * static_cast<int>(number));
    habits.begins = block::time_text(begins);
    auto opening = test::opening(block.blueprint(), number, works);
    block::JobCard card;
    card.identity = "SB-" + std::to_string(1000 + number);
    card.customer = "boat " + std::to_string(number);
    opening.insert(opening.begin() + 1, card);
    if (!taught.traits.empty() || !taught.forecasts.empty())
        opening.insert(opening.begin() + 1, taught);
    workshop::Played played = workshop::play(block, std::move(opening), habits, number);
    if (played.ended)
        played.entries.push_back({static_cast<std::int64_t>(played.entries.size() + 1), played.entries.back().time,
                                  habits.person, block::Delivered{card.customer, ""}});
    return played;
}

/// Jobs one after the other, two at a time.
std::vector<workshop::Played> play_jobs(std::size_t from, std::size_t until,
                                        const std::map<std::string, block::Experience>& taught) {
    std::vector<workshop::Played> all(until - from);
    const auto run = [&](std::size_t first) {
        for (std::size_t i = first; i < until; i += 2) {
            const auto known = taught.find(test::engine(i).name);
            all[i - from] = play_job(i, known == taught.end() ? block::Experience() : known->second);
        }
    };
    auto beside = std::async(std::launch::async, run, from + 1);
    run(from);
    beside.get();
    return all;
}

class ShopOfJobs : public test::SessionFixture {
  protected:
    ShopOfJobs() { at_ = "2026-03-02T08:00:00Z"; }
    void TearDown() override {} // a shop of hundreds takes what it takes
    void keep(const std::vector<workshop::Played>& played) {
        for (const workshop::Played& job : played) {
            const auto kept = book_->create_job(job.entries);
            ASSERT_TRUE(kept) << kept.error().what.toStdString();
            ended_ += job.ended ? 1 : 0;
            if (!job.ended)
                std::cout << "not ended: " << job.stuck << " after " << job.entries.size() << " entries\n";
        }
    }
    static void print(const char* when, const std::vector<planning::ForecastCame>& came) {
        for (const block::ForecastRecord& record : planning::count_forecasts(came))
            std::cout << when << ": " << block::forecast_keys.at(static_cast<std::size_t>(record.kind)) << " "
                      << (record.gauge.empty() ? record.person.empty() ? "all" : record.person : record.gauge) << ": "
                      << record.held << " of " << record.made << " held, widen " << record.widen << "\n";
    }
    std::size_t ended_ = 0;
};

} // namespace

TEST_F(ShopOfJobs, TeachesWhatItHasSeen) {
    const std::size_t all = test::jobs(8), half = all / 2;
    keep(play_jobs(0, half, {}));
    std::map<std::string, block::Experience> taught;
    for (std::size_t kind = 0; kind < 3; ++kind) {
        const std::string engine = test::engine(kind).name;
        taught[engine] = session::experience_of_shop(
            *book_, preferences_, [this] { return at_; }, engine);
    }
    session::ShopModel shop(*book_, preferences_, nullptr, [this] { return at_; });
    shop.reload();
    const auto before = session::forecasts_of_shop(shop);
    print("first half", before);
    const auto later = play_jobs(half, all, taught);
    keep(later);
    shop.reload();
    std::vector<planning::ForecastCame> after;
    for (const workshop::Played& job : later)
        for (planning::ForecastCame& came : planning::forecasts_that_came(block::fold(job.entries)))
            after.push_back(std::move(came));
    print("second half", after);

    ASSERT_EQ(shop.all().size(), all);
    EXPECT_EQ(shop.shop_hours().size(), ended_) << "every one that was delivered tells its hours";
    EXPECT_GE(ended_, all - all / 20);
    shop.search(QStringLiteral("SB-%1").arg(1000 + half));
    ASSERT_EQ(shop.rowCount(), 1);
    EXPECT_TRUE(shop.row(0).title.startsWith(QStringLiteral("job %1").arg(half)));
    shop.search({});
    std::size_t kinds = 0;
    for (const auto& row : shop.all())
        kinds += row.traits.empty() ? 0 : 1;
    EXPECT_EQ(kinds, all) << "every block says how it was found";
    std::map<block::ForecastKind, int> counted;
    for (const planning::ForecastCame& came : before)
        ++counted[came.kind];
    for (const planning::ForecastCame& came : after)
        ++counted[came.kind];
    if (!test::sanitized) { // else there are too few jobs for one of each kind
        EXPECT_GT(counted[block::ForecastKind::removal], 0);
        EXPECT_GT(counted[block::ForecastKind::cap_size], 0);
    }
    if (all >= 100) {
        for (const block::ForecastRecord& record : planning::count_forecasts(after))
            if (record.gauge.empty() && record.person.empty() && record.made >= 50) {
                EXPECT_GT(static_cast<double>(record.held) / static_cast<double>(record.made), 0.92)
                    << block::forecast_keys.at(static_cast<std::size_t>(record.kind));
            }
        for (std::size_t kind = 0; kind < 3; ++kind)
            EXPECT_GE(taught[test::engine(kind).name].traits.size(), 5u);
    }
    if (const char* file = std::getenv("PALLIX_KEEP_BOOK"); file && *file) {
        EXPECT_TRUE(book_->back_up(QString::fromLocal8Bit(file)));
    }
}
