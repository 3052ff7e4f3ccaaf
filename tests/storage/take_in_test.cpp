// SPDX-License-Identifier: GPL-3.0-or-later
// Another book taken in: the same job twice is one.
#include "book_fixture.h"
#include "storage/backups.h"

#include <gmock/gmock.h>

using namespace pallix::storage;
using namespace pallix::block;
using namespace pallix::test;

namespace {

class TakeInTest : public BookFixture {
  protected:
    QString other_ = folder_.filePath(QStringLiteral("other.shopbook"));
    [[nodiscard]] std::unique_ptr<ShopBook> open_other() const {
        auto book = ShopBook::open(other_);
        EXPECT_TRUE(book) << (book ? "" : qPrintable(book.error().what));
        return book ? std::move(*book) : nullptr;
    }
    static std::vector<std::string> notes(const ShopBook& book, JobId job) {
        std::vector<std::string> all;
        const auto entries = book.entries(job);
        for (const Entry& e : *entries)
            if (const auto* note = std::get_if<Note>(&e.payload))
                all.push_back(note->text);
        return all;
    }
};

} // namespace

// A copy goes to another machine; both work on, some jobs here, some there.
TEST_F(TakeInTest, JobsThatWentOnElsewhereGoOnHere) {
    auto book = open();
    const JobId here = book->create_job({opened("worked on here")}).value(),
                there = book->create_job({opened("worked on there")}).value(),
                both = book->create_job({opened("worked on twice")}).value();
    ASSERT_TRUE(book->back_up(other_));
    ASSERT_TRUE(book->append(here, {entry(2, Note{"here"})}));
    ASSERT_TRUE(book->append(both, {entry(2, Note{"mine"})}));
    Instrument gauge;
    gauge.name = "their gauge";
    {
        auto other = open_other();
        ASSERT_TRUE(other->append(there, {entry(2, Note{"there"}), entry(3, Note{"and on"})}));
        ASSERT_TRUE(other->append(both, {entry(2, Note{"theirs"})}));
        ASSERT_TRUE(other->create_job({opened("begun there"), entry(2, Note{"new"})}));
        ASSERT_TRUE(other->save_instrument(gauge));
    }
    const auto taken = book->take_in(other_);
    ASSERT_TRUE(taken) << taken.error().what.toStdString();
    EXPECT_EQ(taken->known, 1) << "what was done here alone";
    EXPECT_EQ(taken->longer, 1);
    EXPECT_EQ(taken->fresh, 2);
    EXPECT_EQ(taken->parted, QStringList{QStringLiteral("worked on twice")});
    EXPECT_EQ(taken->instruments, 1);
    EXPECT_EQ(notes(*book, here), (std::vector<std::string>{"here"}));
    EXPECT_EQ(notes(*book, there), (std::vector<std::string>{"there", "and on"}));
    EXPECT_EQ(notes(*book, both), (std::vector<std::string>{"mine"})) << "nothing of ours is lost";
    EXPECT_EQ(book->jobs()->size(), 5U);

    const auto again = book->take_in(other_);
    ASSERT_TRUE(again);
    EXPECT_EQ(again->known, 4) << "the same once more is nothing new, parted ones too";
    EXPECT_EQ(again->fresh + again->longer + again->instruments, 0);
    {
        auto other = open_other();
        ASSERT_TRUE(other->append(both, {entry(3, Note{"theirs, later"})}));
    }
    const auto later = book->take_in(other_);
    ASSERT_TRUE(later);
    EXPECT_EQ(later->longer, 1) << "the parted one goes on";
    EXPECT_EQ(book->jobs()->size(), 5U);
    book.reset();
    EXPECT_TRUE(open()->damage().empty());
}

TEST_F(TakeInTest, AWholeShopComesIntoAnEmptyBook) {
    {
        auto other = open_other();
        for (const char* title : {"a", "b", "c"})
            ASSERT_TRUE(other->create_job({opened(title), entry(2, Note{title})}));
    }
    auto book = open();
    const auto taken = book->take_in(other_);
    ASSERT_TRUE(taken);
    EXPECT_EQ(taken->fresh, 3);
    EXPECT_EQ(words_of(*taken), QStringLiteral("New: 3 jobs. Gone on: 0 jobs. Held nothing new: 0 jobs."));
    EXPECT_EQ(book->jobs()->back().title, QStringLiteral("a")) << "in the order they were begun";
}

TEST_F(TakeInTest, WhatCannotBeTrustedIsRefusedWhole) {
    auto book = open();
    EXPECT_FALSE(book->take_in(file())) << "itself";
    EXPECT_FALSE(book->take_in(other_)) << "nothing there";
    write(other_, "no book");
    EXPECT_FALSE(book->take_in(other_));
    ASSERT_TRUE(QFile::remove(other_));
    {
        auto other = open_other();
        ASSERT_TRUE(other->create_job({opened("x"), entry(2, Note{"as written"})}));
        EXPECT_FALSE(book->take_in(other_)) << "open in another window";
    }
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("forger"));
        db.setDatabaseName(other_);
        ASSERT_TRUE(db.open());
        QSqlQuery query(db);
        QStringList triggers;
        ASSERT_TRUE(query.exec(QStringLiteral("SELECT name FROM sqlite_master WHERE type = 'trigger'")));
        while (query.next())
            triggers << query.value(0).toString();
        for (const QString& trigger : triggers)
            ASSERT_TRUE(query.exec(QStringLiteral("DROP TRIGGER \"%1\"").arg(trigger)));
        ASSERT_TRUE(query.exec(QStringLiteral("UPDATE entry SET person = 'nobody' WHERE sequence = 2")));
    }
    QSqlDatabase::removeDatabase(QStringLiteral("forger"));
    const auto taken = book->take_in(other_);
    ASSERT_FALSE(taken);
    EXPECT_TRUE(taken.error().way_out.contains(QStringLiteral("copy-sound")));
    EXPECT_TRUE(book->jobs()->empty()) << "nothing of it";
}
