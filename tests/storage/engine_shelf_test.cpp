// SPDX-License-Identifier: GPL-3.0-or-later
// Engines in the shop book: revisions that never change, retired ones, who used which.
#include "book_fixture.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::test;
using testing::HasSubstr;

namespace {

block::Engine four(const std::string& name, const std::string& bore) {
    block::Engine e;
    e.recipe.figures = {{"name", name}, {"bore", bore}};
    e.recipe.origins["bore"] = {block::FigureSource::measured, 3, 0.004};
    e.recipe.accepted["thin_wall bore.C.1 bore.C.2"] = "it is that thin";
    e.usual["engine_figures/stroke_mm"] = "92";
    e.note = "from the “red” sheet";
    return e;
}

const QString today = QStringLiteral("2026-03-02T09:41:00Z"), marit = QStringLiteral("Marit");

} // namespace

class Shelf : public BookFixture {};

TEST_F(Shelf, KeepsEveryRevisionAndGivesTheNewest) {
    {
        const auto book = open();
        ASSERT_TRUE(book->engines().keep(four("tender", "80"), today, marit));
        EXPECT_EQ(book->engines().keep(four("tender", "80.5"), today, marit).value(), 2);
        EXPECT_EQ(book->engines().keep(four("barge", "120"), today, marit).value(), 1);
    }
    const auto book = open();
    const auto rows = book->engines().rows();
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 2U);
    EXPECT_EQ((*rows)[0].name, "barge");
    EXPECT_EQ((*rows)[1].revision, 2);
    EXPECT_EQ((*rows)[1].person, "Marit");
    EXPECT_EQ(*book->engines().engine(QStringLiteral("tender")), four("tender", "80.5"));
    EXPECT_EQ(*book->engines().engine(QStringLiteral("tender"), 1), four("tender", "80"));
    EXPECT_FALSE(book->engines().engine(QStringLiteral("tender"), 3));
    EXPECT_FALSE(book->engines().keep(four("  ", "80"), today, marit)) << "it has no name";
    EXPECT_FALSE(run_sql(QStringLiteral("UPDATE engine SET payload = '{}'")));
    EXPECT_FALSE(run_sql(QStringLiteral("DELETE FROM engine")));
}

TEST_F(Shelf, RetiresAndTakesBack) {
    const auto book = open();
    ASSERT_TRUE(book->engines().keep(four("tender", "80"), today, marit));
    ASSERT_TRUE(book->engines().retire(QStringLiteral("tender"), true));
    EXPECT_TRUE(book->engines().rows()->front().retired);
    ASSERT_TRUE(book->engines().retire(QStringLiteral("tender"), false));
    EXPECT_FALSE(book->engines().rows()->front().retired);
    ASSERT_TRUE(book->engines().retire(QStringLiteral("tender"), true));
    ASSERT_TRUE(book->engines().keep(four("tender", "81"), today, marit));
    EXPECT_FALSE(book->engines().rows()->front().retired) << "a new revision is wanted";
}

TEST_F(Shelf, TellsWhichJobsUsedWhichRevision) {
    const auto book = open();
    ASSERT_TRUE(book->engines().keep(four("tender", "80"), today, marit));
    ASSERT_TRUE(book->create_job({entry(1, block::JobOpened{"first", "", "", "{}", "tender", 1})}));
    ASSERT_TRUE(book->create_job({entry(1, block::JobOpened{"second", "", "", "{}", "tender", 2})}));
    ASSERT_TRUE(book->create_job({entry(1, block::JobOpened{"by file", "", "b.json", "{}"})}));
    const auto uses = book->engines().uses(QStringLiteral("tender"));
    ASSERT_TRUE(uses);
    ASSERT_EQ(uses->size(), 2U);
    EXPECT_EQ(book->engines().rows()->front().jobs, 2);
    EXPECT_TRUE(book->engines().uses(QStringLiteral("barge"))->empty());
}

TEST_F(Shelf, LeavesOutARevisionThatIsNotWhatWasWritten) {
    {
        const auto book = open();
        ASSERT_TRUE(book->engines().keep(four("tender", "80"), today, marit));
        ASSERT_TRUE(book->engines().keep(four("tender", "81"), today, marit));
    }
    ASSERT_TRUE(allow("engine_stays", "engine"));
    ASSERT_TRUE(run_sql(QStringLiteral("UPDATE engine SET payload = replace(payload, '81', '91') WHERE revision = 2")));
    const auto book = open();
    EXPECT_EQ(book->engines().rows()->front().revision, 1);
    EXPECT_EQ(*book->engines().engine(QStringLiteral("tender")), four("tender", "80"));
}

TEST_F(Shelf, GoesAlongInACopyOfWhatIsSound) {
    {
        const auto book = open();
        ASSERT_TRUE(book->create_job({opened()}));
        ASSERT_TRUE(book->engines().keep(four("tender", "80"), today, marit));
        ASSERT_TRUE(book->engines().keep(four("tender", "81"), today, marit));
        ASSERT_TRUE(book->engines().retire(QStringLiteral("tender"), true));
        ASSERT_TRUE(book->engines().keep_mapping(QStringLiteral("old probe"), "{}"));
        block::LimitsChosen limits{0.04, 0.02, 0.03, 0.025, 0.0125, {}, {}, {}, 2, 8, 2, "by the gasket's sheet"};
        ASSERT_TRUE(book->engines().keep_limits({limits, today, marit}));
        limits.flatness = 0.03;
        ASSERT_TRUE(book->engines().keep_limits({limits, today, marit}));
    }
    const QString copy = folder_.filePath(QStringLiteral("copy.shopbook"));
    ASSERT_TRUE(copy_to(copy));
    const auto book = storage::ShopBook::open(copy);
    ASSERT_TRUE(book);
    EXPECT_EQ((*book)->engines().rows()->front().revision, 2);
    EXPECT_TRUE((*book)->engines().rows()->front().retired);
    EXPECT_EQ((*book)->engines().mappings()->front().first, "old probe");
    const auto limits = (*book)->engines().limits();
    ASSERT_TRUE(limits && *limits);
    EXPECT_EQ((*limits)->limits.flatness, 0.03) << "as set last";
    EXPECT_EQ((*limits)->person, marit);
}

TEST_F(Shelf, KeepsHowLogsAreReadByName) {
    const auto book = open();
    ASSERT_TRUE(book->engines().keep_mapping(QStringLiteral("old probe"), "{\"a\": 1}"));
    ASSERT_TRUE(book->engines().keep_mapping(QStringLiteral("old probe"), "{\"a\": 2}"));
    const auto mappings = book->engines().mappings();
    ASSERT_TRUE(mappings);
    ASSERT_EQ(mappings->size(), 1U);
    EXPECT_EQ(mappings->front().second, "{\"a\": 2}");
}
