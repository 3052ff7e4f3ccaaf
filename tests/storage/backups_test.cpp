// SPDX-License-Identifier: GPL-3.0-or-later
// Copies of a book that are made by themselves: named, thinned out, put back.
#include "book_fixture.h"
#include "storage/backups.h"

#include <QDir>
#include <gmock/gmock.h>
#include <thread>

using namespace pallix::storage;
using namespace pallix::block;
using namespace pallix::test;

namespace {

class BackupsTest : public BookFixture {
  protected:
    QDateTime at(const char* time) { return QDateTime::fromString(QString::fromLatin1(time), Qt::ISODate); }
    QString make(ShopBook& book, const char* time) {
        const auto to = Backups(file()).next(at(time));
        EXPECT_TRUE(to);
        EXPECT_TRUE(book.back_up(*to));
        return *to;
    }
    static QStringList names(const std::vector<Backups::Kept>& kept) {
        QStringList all;
        for (const auto& one : kept)
            all << one.when.toString(Qt::ISODate);
        return all;
    }
};

} // namespace

TEST_F(BackupsTest, StandBesideTheBookForItsOwnerAlone) {
    auto book = open();
    ASSERT_TRUE(book->create_job({opened("first")}));
    const QString copy = make(*book, "2026-03-01T10:00:00Z");
    EXPECT_TRUE(copy.endsWith(QStringLiteral("/backups/") + QFileInfo(file()).completeBaseName() +
                              QStringLiteral(" 2026-03-01 10-00-00.shopbook")))
        << copy.toStdString();
    const auto for_others = QFile::ReadGroup | QFile::WriteGroup | QFile::ReadOther | QFile::WriteOther;
    EXPECT_EQ(QFileInfo(copy).permissions() & for_others, 0);
    EXPECT_EQ(QFileInfo(QFileInfo(copy).path()).permissions() & for_others, 0);
    write(QFileInfo(copy).path() + QStringLiteral("/") + QFileInfo(file()).completeBaseName() +
              QStringLiteral(" my own.shopbook"),
          "somebody's");
    const auto kept = Backups(file()).kept();
    ASSERT_EQ(kept.size(), 1U) << "what is not named by a time is somebody's own";
    EXPECT_EQ(kept[0].when, at("2026-03-01T10:00:00Z"));
    EXPECT_EQ(kept[0].file, copy);
}

// Hourly over a day, daily over a month, monthly over two years: by hand, what stays.
TEST_F(BackupsTest, AreThinnedOut) {
    std::vector<Backups::Kept> kept;
    const auto add = [&](const QDateTime& when, const QString& why = {}) { kept.push_back({{}, when, why, 1}); };
    const QDateTime now = at("2026-06-30T23:00:00Z");
    for (int hour = 0; hour < 20; ++hour)
        add(now.addSecs(-3600 * hour)); // all on the 30th but none before 04:00
    for (int day = 1; day <= 40; ++day)
        add(now.addDays(-day));
    for (int month = 2; month <= 24; ++month)
        add(now.addMonths(-month));
    add(now.addYears(-5), QStringLiteral("before schema 3"));
    const auto off = Backups::too_many(kept);
    const auto is_off = [&](const QDateTime& when) {
        return std::ranges::any_of(off, [&](const auto& one) { return one.when == when; });
    };
    for (int hour = 0; hour < 20; ++hour)
        EXPECT_EQ(is_off(now.addSecs(-3600 * hour)), hour >= 8) << hour << " h: the last eight stay";
    for (int day = 1; day <= 40; ++day) {
        const QDateTime when = now.addDays(-day);
        // The last of May is its month's; the 30th of June is the first of the fourteen days.
        const bool of_a_month = when.toString(u"MM-dd") == QStringLiteral("05-31");
        EXPECT_EQ(is_off(when), day >= 14 && !of_a_month) << day << " days";
    }
    for (int month = 2; month <= 24; ++month) // June and May stand already
        EXPECT_EQ(is_off(now.addMonths(-month)), month >= 12) << month << " months";
    EXPECT_FALSE(is_off(now.addYears(-5))) << "it was made for a reason";
}

TEST_F(BackupsTest, APutBackCopyIsTheBookAndTheBookOfBeforeIsKept) {
    JobId job = 0;
    QString copy;
    {
        auto book = open();
        job = book->create_job({opened("first")}).value();
        copy = make(*book, "2026-03-01T10:00:00Z");
        ASSERT_TRUE(book->append(job, {entry(2, Note{"after the copy"})}));
        const auto refused = Backups(file()).restore(copy, at("2026-03-01T11:00:00Z"));
        ASSERT_FALSE(refused) << "the book is open";
    }
    const auto before = Backups(file()).restore(copy, at("2026-03-01T11:00:00Z"));
    ASSERT_TRUE(before) << before.error().what.toStdString();
    {
        auto book = open();
        EXPECT_TRUE(book->damage().empty()) << "it is a book of its own: nothing is missed in it";
        EXPECT_EQ(book->entries(job)->size(), 1U);
    }
    const auto of_before = ShopBook::open(*before);
    ASSERT_TRUE(of_before) << of_before.error().what.toStdString();
    EXPECT_EQ((*of_before)->entries(job)->size(), 2U);
    EXPECT_TRUE(QFileInfo::exists(copy)) << "the copy itself stays where it was";
}

TEST_F(BackupsTest, WhatIsNoBookIsNotPutInItsPlace) {
    open().reset();
    const QString nothing = folder_.filePath(QStringLiteral("nothing.shopbook")),
                  text = folder_.filePath(QStringLiteral("text.shopbook"));
    write(text, "not a book");
    for (const QString& copy : {nothing, text}) {
        EXPECT_FALSE(Backups(file()).restore(copy, at("2026-03-01T11:00:00Z"))) << copy.toStdString();
        EXPECT_TRUE(open()->damage().empty()) << "the book is as it was";
    }
}

TEST_F(BackupsTest, AMissedBookIsPutBack) {
    QString copy;
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened("first")}));
        copy = make(*book, "2026-03-01T10:00:00Z");
    }
    ASSERT_TRUE(QFile::remove(file()));
    ASSERT_TRUE(Backups(file()).restore(copy, at("2026-03-01T11:00:00Z")));
    EXPECT_EQ(open()->jobs()->size(), 1U);
}

// Another thread copies while the window writes.
TEST_F(BackupsTest, AreMadeWhileTheBookIsWritten) {
    auto book = open();
    const JobId job = book->create_job({opened("first")}).value();
    const auto to = Backups(file()).next(at("2026-03-01T10:00:00Z"));
    const BookBeside beside = book->beside();
    BookResult<void> copied;
    std::thread other([&] { copied = beside.back_up(*to); });
    for (int i = 2; i < 60; ++i)
        ASSERT_TRUE(book->append(job, {entry(i, Note{"meanwhile"})}));
    other.join();
    ASSERT_TRUE(copied) << copied.error().what.toStdString();
    const auto copy = ShopBook::open(*to);
    ASSERT_TRUE(copy);
    EXPECT_TRUE((*copy)->damage().empty());
    EXPECT_GE((*copy)->entries(job)->size(), 1U);
}

TEST_F(BackupsTest, AnOlderBookIsCopiedBeforeItIsBroughtForward) {
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({opened("old")}));
    }
    ASSERT_TRUE(run_sql(QStringLiteral("DROP TABLE usual_papers")));
    ASSERT_TRUE(run_sql(QStringLiteral("DROP INDEX entry_serial")));
    ASSERT_TRUE(run_sql(QStringLiteral("PRAGMA user_version = 8")));
    EXPECT_EQ(open()->jobs()->size(), 1U);
    const auto kept = Backups(file()).kept();
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(kept[0].why, QStringLiteral("before schema 9"));
    EXPECT_EQ(open()->jobs()->size(), 1U);
    EXPECT_EQ(Backups(file()).kept().size(), 1U) << "once";
}
