// SPDX-License-Identifier: GPL-3.0-or-later
// People and pictures of a shop book, and the clocks of its jobs.
#include "book_fixture.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::storage;

class PeopleTest : public test::BookFixture {
  protected:
    /// What stands of them in the file, or in the server's table.
    [[nodiscard]] QByteArray written_people() const {
        QVariant answer;
        if (at_server()) {
            EXPECT_TRUE(test::TestServer::run_on_book(
                file(), QStringLiteral("SELECT string_agg(person::text, ' ') FROM person"), {}, &answer));
            return answer.toByteArray();
        }
        return bytes_of(file()) + bytes_of(file() + QStringLiteral("-wal"));
    }
};

TEST_F(PeopleTest, ACodeIsProvedAndNowhereToBeRead) {
    const auto book = open();
    auto people = book->people();
    ASSERT_TRUE(people.keep(QStringLiteral(" Marit "), block::Role::owner));
    ASSERT_TRUE(people.keep(QStringLiteral("Mira"), block::Role::learner));
    EXPECT_FALSE(people.keep(QStringLiteral("  "), block::Role::learner));
    EXPECT_TRUE(people.proves(QStringLiteral("Marit"), {})) << "who has no code needs none";
    ASSERT_TRUE(people.set_code(QStringLiteral("Marit"), QStringLiteral("sild 42")));
    EXPECT_TRUE(people.proves(QStringLiteral("Marit"), QStringLiteral("sild 42")));
    EXPECT_FALSE(people.proves(QStringLiteral("Marit"), QStringLiteral("sild 43")));
    EXPECT_FALSE(people.proves(QStringLiteral("Marit"), {}));
    EXPECT_FALSE(people.proves(QStringLiteral("nobody"), {}));
    EXPECT_FALSE(people.set_code(QStringLiteral("nobody"), QStringLiteral("x")));
    const auto all = people.all();
    ASSERT_TRUE(all);
    ASSERT_EQ(all->size(), 2u);
    EXPECT_EQ((*all)[0].name, QStringLiteral("Marit"));
    EXPECT_TRUE((*all)[0].has_code);
    EXPECT_EQ((*all)[1].role, block::Role::learner);
    ASSERT_TRUE(people.keep(QStringLiteral("Marit"), block::Role::machinist)) << "another role";
    EXPECT_TRUE(people.find(QStringLiteral("Marit"))->has_code) << "and the same code";
    const QByteArray bytes = written_people();
    EXPECT_FALSE(bytes.contains("sild 42"));
    EXPECT_TRUE(bytes.contains("$argon2id$"));
    ASSERT_TRUE(people.remove(QStringLiteral("Mira")));
    EXPECT_FALSE(people.find(QStringLiteral("Mira")));
}

TEST_F(PeopleTest, APictureIsKeptWholeAndOnce) {
    const auto book = open();
    const QByteArray bytes(100000, 'p');
    const auto first = book->pictures().keep(bytes), again = book->pictures().keep(bytes);
    ASSERT_TRUE(first && again);
    EXPECT_EQ(*first, *again);
    EXPECT_EQ(book->pictures().picture(*first).value(), bytes);
    EXPECT_FALSE(book->pictures().picture(QStringLiteral("00")));
    EXPECT_FALSE(book->pictures().keep({}));
    EXPECT_FALSE(book->pictures().keep(QByteArray((20 << 20) + 1, 'x')));
    EXPECT_FALSE(run_sql(QStringLiteral("UPDATE picture SET bytes = 'x'"))) << "a picture never changes";
}

TEST_F(PeopleTest, ClocksOfAllJobsAreFound) {
    const auto book = open();
    const auto one = book->create_job(
        {test::opened("one"), test::entry(2, block::ClockSet{"soak", 60, "2026-03-02T11:00:00Z", {}})});
    const auto two =
        book->create_job({test::opened("two"), test::entry(2, block::RestBegun{30, "2026-03-02T10:00:00Z"}),
                          test::entry(3, block::ClockSet{"glue", 90, "2026-03-02T12:00:00Z", {}}),
                          test::entry(4, block::Strike{3, "wrong job"})});
    ASSERT_TRUE(one && two);
    const auto all = book->clocks("2026-03-02T09:00:00Z");
    ASSERT_TRUE(all);
    ASSERT_EQ(all->size(), 2u) << "what was struck does not ring";
    const auto later = book->clocks("2026-03-02T10:00:00Z");
    ASSERT_EQ(later->size(), 1u);
    EXPECT_EQ((*later)[0].what, "soak");
    EXPECT_EQ((*later)[0].title, QStringLiteral("one"));
    ASSERT_TRUE(book->set_aside(*one, true));
    EXPECT_TRUE(book->clocks("2026-03-02T10:00:00Z")->empty());
}
