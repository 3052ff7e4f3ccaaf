// SPDX-License-Identifier: GPL-3.0-or-later
#include "book_fixture.h"

#include <thread>

using namespace pallix::storage;
using namespace pallix::block;
using namespace pallix::test;

// True of every book, and run on both engines; what is about the file of a book is not.
using ShopBookTest = BookFixture;
class ShopBookFile : public BookFixture {};

TEST_F(ShopBookTest, KeepsJobsAndEntriesOverAReopening) {
    JobId job = 0;
    {
        auto book = open();
        job = book->create_job({opened("first"), entry(2, Note{"µ and \"quotes\""})}).value();
        ASSERT_TRUE(book->create_job({opened("second")}));
        ASSERT_TRUE(book->append(job, {entry(3, Note{"c"}), entry(4, Strike{3, "wrong"})}));
    }
    auto book = open();
    const auto jobs = book->jobs();
    ASSERT_TRUE(jobs);
    ASSERT_EQ(jobs->size(), 2U);
    EXPECT_EQ(jobs->back().title, QStringLiteral("first"));
    EXPECT_EQ(jobs->back().entries, 4);
    const auto entries = book->entries(job);
    ASSERT_TRUE(entries);
    ASSERT_EQ(entries->size(), 4U);
    EXPECT_EQ(std::get<Note>((*entries)[1].payload).text, "µ and \"quotes\"");
    EXPECT_EQ(std::get<Strike>((*entries)[3].payload).sequence, 3);
    EXPECT_EQ((*entries)[2].person, "Marit");
}

TEST_F(ShopBookTest, ASequenceIsTakenOnceAndABatchWholeOrNot) {
    auto book = open();
    const JobId job = book->create_job({opened()}).value();
    ASSERT_TRUE(book->append(job, {entry(2, Note{"a"})}));
    EXPECT_FALSE(book->append(job, {entry(3, Note{"b"}), entry(2, Note{"again"})}));
    EXPECT_EQ(book->entries(job)->size(), 2U) << "nothing of the batch is left behind";
    EXPECT_TRUE(book->append(job, {entry(3, Note{"b"})}));
    EXPECT_FALSE(book->append(job + 100, {entry(1, Note{"nobody's"})})) << "entries belong to a job";
}

// A hundred megabytes are written and read by another thread.
TEST_F(ShopBookTest, AnotherThreadWritesBesideTheBookAndTheBookAcknowledges) {
    JobId job = 0;
    {
        auto book = open();
        job = book->create_job({opened()}).value();
        const BookBeside beside = book->beside();
        BookResult<Written> written, gap;
        std::thread([&] {
            written = beside.append(job, {entry(2, Note{"beside"})});
            gap = beside.append(job, {entry(4, Note{"a gap"})});
        }).join();
        ASSERT_TRUE(written);
        EXPECT_FALSE(gap);
        book->acknowledge(*written);
        ASSERT_TRUE(book->append(job, {entry(3, Note{"after it"})}));
        std::thread([&] { EXPECT_EQ(book->beside().entries(job)->size(), 3U); }).join();
        ASSERT_TRUE(beside.append(job, {entry(4, Note{"the program ends before it is acknowledged"})}));
    }
    const auto book = open();
    EXPECT_TRUE(book->damage().empty()) << "more than was acknowledged is no damage";
    EXPECT_EQ(book->entries(job)->size(), 4U);
    EXPECT_FALSE(BookBeside().append(job, {entry(5, Note{"nowhere"})}));
}

TEST_F(ShopBookTest, EntriesNeverChangeNorGo) {
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened(), entry(2, Note{"a"})}));
    }
    EXPECT_FALSE(run_sql(QStringLiteral("UPDATE entry SET payload = '{}' WHERE sequence = 2")));
    EXPECT_FALSE(run_sql(QStringLiteral("DELETE FROM entry")));
    EXPECT_EQ(open()->entries(1)->size(), 2U);
}

TEST_F(ShopBookFile, ASecondWindowIsToldPlainly) {
    auto book = open();
    const auto second = ShopBook::open(file());
    ASSERT_FALSE(second);
    EXPECT_TRUE(second.error().what.contains(QStringLiteral("open in another window")));
    EXPECT_FALSE(second.error().way_out.isEmpty());
    book.reset();
    EXPECT_TRUE(ShopBook::open(file()));
}

TEST_F(ShopBookFile, ADamagedFileIsLeftAsItIs) {
    const QByteArray nonsense(8192, 'x');
    QFile f(file());
    ASSERT_TRUE(f.open(QIODevice::WriteOnly));
    f.write(nonsense);
    f.close();
    const auto book = ShopBook::open(file());
    ASSERT_FALSE(book);
    EXPECT_TRUE(book.error().way_out.contains(QStringLiteral("backup")));
    ASSERT_TRUE(f.open(QIODevice::ReadOnly));
    EXPECT_EQ(f.readAll(), nonsense);
}

TEST_F(ShopBookTest, ANewerSchemaIsNotTouched) {
    open().reset();
    ASSERT_TRUE(run_sql(set_schema_version(at_server() ? Dialect::postgres : Dialect::sqlite, 99)));
    const auto book = ShopBook::open(file());
    ASSERT_FALSE(book);
    EXPECT_TRUE(book.error().what.contains(QStringLiteral("newer Pallix")));
}

TEST_F(ShopBookFile, ABookOfTheFirstSchemaIsBroughtForward) {
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened("old"), entry(2, Note{"a"})}));
    }
    for (const char* later : {"standing", "instrument", "stream", "book", "set_aside", "engine", "engine_retired",
                              "log_mapping", "shop_limits", "person", "picture", "usual_route", "usual_minutes",
                              "usual_papers", "instrument_event"}) // as schema 1 was
        ASSERT_TRUE(run_sql(QStringLiteral("DROP TABLE %1").arg(QLatin1String(later))));
    ASSERT_TRUE(run_sql(QStringLiteral("DROP INDEX entry_clock")));
    ASSERT_TRUE(run_sql(QStringLiteral("DROP INDEX entry_instrument")));
    ASSERT_TRUE(run_sql(QStringLiteral("DROP INDEX entry_serial")));
    ASSERT_TRUE(run_sql(QStringLiteral("ALTER TABLE entry DROP COLUMN digest")));
    ASSERT_TRUE(run_sql(QStringLiteral("PRAGMA application_id = 0")));
    ASSERT_TRUE(run_sql(QStringLiteral("PRAGMA user_version = 1")));
    ASSERT_TRUE(QFile::remove(file() + QStringLiteral(".heads")));
    auto book = open();
    EXPECT_EQ(book->jobs()->front().title, QStringLiteral("old"));
    EXPECT_EQ(book->entries(1)->size(), 2U);
    book->remember_standing(1, 2, QStringLiteral("r"), QStringLiteral("s"));
    EXPECT_EQ(book->jobs(QStringLiteral("r"))->front().standing, QStringLiteral("s"));
    // Killed right after: the journal that stands beside it is its own.
    ASSERT_TRUE(book->append(1, {entry(3, Note{"new"})}));
    const QByteArray main = bytes_of(file()), journal = bytes_of(file() + QStringLiteral("-wal")),
                     heads = bytes_of(file() + QStringLiteral(".heads"));
    book.reset();
    write(file(), main);
    write(file() + QStringLiteral("-wal"), journal);
    write(file() + QStringLiteral(".heads"), heads);
    book = open();
    EXPECT_TRUE(book->damage().empty());
    EXPECT_EQ(book->entries(1)->size(), 3U);
}

TEST_F(ShopBookTest, InstrumentsAreKeptByName) {
    auto book = open();
    EXPECT_TRUE(book->instruments()->empty());
    Instrument gauge;
    gauge.name = "bore gauge";
    gauge.standard_uncertainty = 0.001;
    ASSERT_TRUE(book->save_instrument(gauge));
    gauge.zero = 73.99;
    ASSERT_TRUE(book->save_instrument(gauge));
    book.reset();
    book = open();
    ASSERT_EQ(book->instruments()->size(), 1U);
    EXPECT_EQ(book->instruments()->front(), gauge);
    ASSERT_TRUE(book->remove_instrument(QStringLiteral("bore gauge")));
    EXPECT_TRUE(book->instruments()->empty());
}

TEST_F(ShopBookTest, LinesOfAProbeWaitForTheirLog) {
    auto book = open();
    const JobId job = book->create_job({opened()}).value(), other = book->create_job({opened("other")}).value();
    ASSERT_TRUE(book->append_stream(job, {QStringLiteral("# unit: mm"), QStringLiteral("feature,x,y,z")}));
    ASSERT_TRUE(book->append_stream(other, {QStringLiteral("elsewhere")}));
    ASSERT_TRUE(book->append_stream(job, {QStringLiteral("main.1,1,2,3")}));
    book.reset(); // the process is gone
    book = open();
    EXPECT_EQ(*book->stream(job), (QStringList{QStringLiteral("# unit: mm"), QStringLiteral("feature,x,y,z"),
                                               QStringLiteral("main.1,1,2,3")}));
    ASSERT_TRUE(book->clear_stream(job));
    EXPECT_TRUE(book->stream(job)->isEmpty());
    EXPECT_EQ(book->stream(other)->size(), 1);
}

TEST_F(ShopBookTest, AStandingIsRecalledUntilTheNextEntry) {
    auto book = open();
    const JobId job = book->create_job({opened()}).value();
    const QString reader = QStringLiteral("list 1");
    EXPECT_TRUE(book->jobs(reader)->front().standing.isEmpty());
    book->remember_standing(job, 1, reader, QStringLiteral("{}"));
    EXPECT_EQ(book->jobs(reader)->front().standing, QStringLiteral("{}"));
    EXPECT_TRUE(book->jobs(QStringLiteral("list 2"))->front().standing.isEmpty())
        << "another version works it out anew";
    ASSERT_TRUE(book->append(job, {entry(2, Note{"a"})}));
    EXPECT_TRUE(book->jobs(reader)->front().standing.isEmpty());
}

TEST_F(ShopBookFile, AFolderThatCannotBeWrittenIsSaid) {
    const auto book = ShopBook::open(folder_.filePath(QStringLiteral("no/such/folder/shop.shopbook")));
    ASSERT_FALSE(book);
    EXPECT_TRUE(book.error().what.contains(QStringLiteral("cannot be written")));
}

TEST_F(ShopBookTest, ABackupIsAWholeBook) {
    const QString copy = folder_.filePath(QStringLiteral("copy.shopbook"));
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened("kept"), entry(2, Note{"a"})}));
        ASSERT_TRUE(book->back_up(copy));
        EXPECT_FALSE(book->back_up(copy)) << "an old backup is not written over";
    }
    const auto book = ShopBook::open(copy);
    ASSERT_TRUE(book);
    EXPECT_EQ((*book)->jobs()->front().title, QStringLiteral("kept"));
    EXPECT_EQ((*book)->entries(1)->size(), 2U);
}

TEST_F(ShopBookTest, UnknownAndBrokenPayloadsAreKept) {
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened()}));
    }
    const std::string second =
        insert_sealed(digest_of({opened()}), 1, {2, "t", "p", "bore_honed", 1, "{\"grit\":220}"});
    insert_sealed(second, 1, {3, "t", "p", "note", 1, "{\"words\":0}"});
    const auto entries = open()->entries(1);
    ASSERT_TRUE(entries);
    ASSERT_EQ(entries->size(), 3U);
    EXPECT_EQ(kind_of((*entries)[1].payload), "bore_honed");
    EXPECT_EQ(std::get<UnknownPayload>((*entries)[2].payload).json, "{\"words\":0}");
}

// A commit that failed left its transaction open: everything after it seemed to be taken and was not on the disk.
TEST_F(ShopBookFile, AFailedCommitLeavesNothingOpen) {
    auto book = open();
    // Entries hang an orphan on a job that does not exist; deferred, that shows only when it is committed.
    ASSERT_TRUE(run_sql(QStringLiteral("CREATE TRIGGER orphan AFTER INSERT ON entry BEGIN INSERT INTO stream VALUES "
                                       "(999, new.sequence, 'x', ''); END")));
    QString connection;
    for (const QString& name : QSqlDatabase::connectionNames())
        if (name.startsWith(QStringLiteral("shop-book-")))
            connection = name;
    const auto defer = [&] {
        QSqlQuery query(QSqlDatabase::database(connection));
        return query.exec(QStringLiteral("PRAGMA defer_foreign_keys = ON"));
    };
    ASSERT_TRUE(defer());
    const auto refused = book->create_job({opened("refused")});
    ASSERT_FALSE(refused);
    EXPECT_TRUE(refused.error().what.contains(QStringLiteral("contradicts what is in the book")))
        << qPrintable(refused.error().what);
    ASSERT_TRUE(run_sql(QStringLiteral("DROP TRIGGER orphan")));
    const auto job = book->create_job({opened("taken")});
    ASSERT_TRUE(job) << qPrintable(job.error().what);
    ASSERT_TRUE(book->append(*job, {entry(2, Note{"kept"})}));
    book.reset();
    book = open();
    const auto jobs = book->jobs();
    ASSERT_EQ(jobs->size(), 1U) << "the refused one is not there, the other is on the disk";
    EXPECT_EQ(jobs->front().title, QStringLiteral("taken"));
    EXPECT_EQ(book->entries(jobs->front().id)->size(), 2U);
}

TEST_F(ShopBookTest, WhatCannotBeReadIsKeptWithTheReason) {
    auto book = open();
    const JobId job = book->create_job({opened()}).value();
    const std::string second =
        insert_sealed(digest_of({opened()}), job, {2, "t", "p", "deck_cut", 1, "{\"bank\":\"C\"}"});
    insert_sealed(second, job, {3, "t", "p", "note", 4000000000, "{}"});
    const auto entries = book->entries(job);
    ASSERT_TRUE(entries);
    const auto& damaged = std::get<UnknownPayload>((*entries)[1].payload);
    EXPECT_EQ(damaged.json, "{\"bank\":\"C\"}");
    ASSERT_FALSE(damaged.faults.empty());
    EXPECT_EQ(damaged.faults.front().text(), "pass is missing, expected a word");
    const auto& newer = std::get<UnknownPayload>((*entries)[2].payload);
    EXPECT_EQ(newer.version, 4000000000) << "not narrowed";
    EXPECT_TRUE(newer.faults.empty());
}
