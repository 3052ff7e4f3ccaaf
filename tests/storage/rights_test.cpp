// SPDX-License-Identifier: GPL-3.0-or-later
// What the book refuses to whoever is at the bench, by the role that it has for them, on both engines.
#include "book_fixture.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::storage;
using block::Role;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

namespace {

class RightsTest : public test::BookFixture {
  protected:
    void SetUp() override {
        BookFixture::SetUp();
        if (IsSkipped())
            return;
        book_ = open();
        ASSERT_TRUE(book_);
        gauge_.name = "bore gauge";
        ASSERT_TRUE(book_->save_instrument(gauge_));
        job_ = book_->create_job({test::opened()}).value();
    }
    void TearDown() override {
        book_.reset();
        BookFixture::TearDown();
    }
    /// Marit owns the shop and has a code, Ole is a machinist of it, Mira learns.
    void with_people() {
        ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), Role::owner));
        ASSERT_TRUE(book_->people().set_code(QStringLiteral("Marit"), QStringLiteral("1907")));
        ASSERT_TRUE(book_->people().keep(QStringLiteral("Ole"), Role::machinist));
        ASSERT_TRUE(book_->people().keep(QStringLiteral("Mira"), Role::learner));
    }
    void at_bench(const char* person) {
        book_->works_for([name = QString::fromLatin1(person)] { return name; });
    }
    /// What of all that can be changed beside the jobs was refused.
    std::vector<std::string> refused_of_all() {
        std::vector<std::string> refused;
        const auto note = [&refused](const char* what, const auto& result) {
            if (!result)
                refused.emplace_back(what);
        };
        const QString time = QStringLiteral("2026-03-02T09:41:00Z"), tender = QStringLiteral("tender"),
                      who = QStringLiteral("Marit");
        block::Engine engine;
        engine.recipe.figures = {{"name", "tender"}, {"bore", "80"}};
        block::Instrument bigger = gauge_, zeroed = gauge_;
        bigger.resolution = 0.002 * ++changes_;
        zeroed.zero = 80 + 0.01 * changes_;
        zeroed.resolution = book_->instruments()->front().resolution;
        note("job", book_->create_job({test::opened("another")}));
        note("zero", book_->save_instrument(zeroed));
        block::Instrument checked = zeroed;
        checked.last_check = "2026-03-0" + std::to_string(changes_);
        checked.repeatability = 0.001 * changes_;
        checked.repeatability_readings = 5;
        note("check and test", book_->save_instrument(checked));
        note("list", book_->set_aside(job_, true));
        note("list back", book_->set_aside(job_, false));
        note("engine", book_->engines().keep(engine, time, who));
        note("retired", book_->engines().retire(tender, true));
        note("log form", book_->engines().keep_mapping(QStringLiteral("logs"), "{}"));
        note("instrument", book_->save_instrument(bigger));
        note("no instrument", book_->remove_instrument(QStringLiteral("nothing")));
        note("limits", book_->engines().keep_limits({{}, time, who}));
        note("route", book_->usual().keep_route(tender, std::nullopt));
        note("minutes", book_->usual().keep_minutes("hone", 40));
        note("papers", book_->usual().keep_papers({}));
        note("person", book_->people().keep(QStringLiteral("Jorun"), Role::machinist));
        note("code", book_->people().set_code(QStringLiteral("Jorun"), QStringLiteral("x")));
        note("gone", book_->people().remove(QStringLiteral("Jorun")));
        return refused;
    }

    std::unique_ptr<ShopBook> book_;
    block::Instrument gauge_;
    JobId job_ = 0;
    int changes_ = 0;
};

} // namespace

TEST_F(RightsTest, EachRoleChangesWhatItIsGiven) {
    with_people();
    at_bench("Marit");
    EXPECT_THAT(refused_of_all(), IsEmpty());
    at_bench("Ole");
    EXPECT_THAT(refused_of_all(), ElementsAre("limits", "route", "minutes", "papers", "person", "code", "gone"));
    at_bench("somebody who is on no list");
    EXPECT_THAT(refused_of_all(), ElementsAre("limits", "route", "minutes", "papers", "person", "code", "gone"));
    at_bench("Mira");
    EXPECT_THAT(refused_of_all(),
                ElementsAre("list", "list back", "engine", "retired", "log form", "instrument", "no instrument",
                            "limits", "route", "minutes", "papers", "person", "code", "gone"));
    book_->works_for({});
    EXPECT_THAT(refused_of_all(), IsEmpty()) << "who copies a book is nobody at a bench";
}

TEST_F(RightsTest, ARefusalSaysWhoToFetchAndNothingIsChanged) {
    with_people();
    at_bench("Mira");
    block::Instrument other = gauge_;
    other.resolution = 0.01;
    const auto refused = book_->save_instrument(other);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().what,
              QStringLiteral("A learner does not change the instruments, but for zeros, checks and tests."));
    EXPECT_THAT(refused.error().way_out.toStdString(), HasSubstr("somebody who is none"));
    EXPECT_EQ(book_->instruments()->front(), gauge_);
    at_bench("Ole");
    const auto limits = book_->engines().keep_limits({{}, QStringLiteral("2026-03-02T09:41:00Z"), {}});
    ASSERT_FALSE(limits);
    EXPECT_EQ(limits.error().what, QStringLiteral("Only the owner changes the limits of the shop."));
    EXPECT_THAT(limits.error().way_out.toStdString(), HasSubstr("Bring the owner to the bench"));
    EXPECT_EQ(book_->engines().limits().value(), std::nullopt);
}

TEST_F(RightsTest, AShopThatNamesNobodyRefusesNothing) {
    at_bench("");
    EXPECT_THAT(refused_of_all(), IsEmpty());
}

TEST_F(RightsTest, AnOwnerWithoutACodeGuardsNothing) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), Role::owner));
    at_bench("Ole");
    EXPECT_THAT(refused_of_all(), IsEmpty());
}

TEST_F(RightsTest, WhoeverGivesTheFirstCodeGoesOnWithWhoIsWho) {
    at_bench("");
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), Role::owner));
    ASSERT_TRUE(book_->people().set_code(QStringLiteral("Marit"), QStringLiteral("1907")));
    EXPECT_TRUE(book_->people().keep(QStringLiteral("Ole"), Role::machinist));
    EXPECT_FALSE(book_->usual().keep_minutes("hone", 40)) << "but with nothing else";
    at_bench("");
    EXPECT_FALSE(book_->people().keep(QStringLiteral("Jorun"), Role::machinist)) << "and not the next time";
}

TEST_F(RightsTest, WhereEverybodyLearnsThereIsNobodyToFetch) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Mira"), Role::learner));
    at_bench("Mira");
    EXPECT_THAT(refused_of_all(), ElementsAre("code", "gone")) << "from the machinist on whom she kept";
}

TEST_F(RightsTest, ALearnerTakesInNoOtherBook) {
    with_people();
    const QString other = folder_.filePath(QStringLiteral("other.shopbook"));
    ASSERT_TRUE(ShopBook::open(other));
    at_bench("Mira");
    const auto refused = book_->take_in(other);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().what, QStringLiteral("A learner does not change the engines."));
    at_bench("Ole");
    EXPECT_TRUE(book_->take_in(other));
}
