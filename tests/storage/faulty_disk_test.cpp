// SPDX-License-Identifier: GPL-3.0-or-later
// A disk that becomes full or goes away while the book is written, a file taken away, a size that is limited: what the
// person is told, and that it is true.
#include "storage/shop_book.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <random>

using namespace pallix::storage;
using namespace pallix::block;
using testing::HasSubstr;

namespace {

class FaultyDisk : public testing::Test {
  protected:
    void SetUp() override {
        auto book = ShopBook::open(file_);
        ASSERT_TRUE(book);
        ASSERT_TRUE((*book)->create_job({{1, "2026-03-02T09:41:00Z", "Marit", JobOpened{"job", "", "b.json", "{}"}}}));
    }
    struct Told {
        long long acknowledged = 1;
        QString words;
    };
    /// Writes until the disk does not take it any more.
    Told write_until_it_fails(const char* how, int room) { return write_to(file_, how, room); }
    Told write_to(const QString& file, const char* how, int room) {
        QProcess writer;
        auto around = QProcessEnvironment::systemEnvironment();
        around.insert(QStringLiteral("LD_PRELOAD"), QStringLiteral(PALLIX_FAULTY_DISK));
        around.insert(QStringLiteral("ASAN_OPTIONS"), QStringLiteral("verify_asan_link_order=0"));
        around.insert(QStringLiteral("PALLIX_DISK"), folder_.path());
        around.insert(QStringLiteral("PALLIX_DISK_ROOM"), QString::number(room));
        around.insert(QStringLiteral("PALLIX_DISK_GOES"), QString::fromLatin1(how));
        writer.setProcessEnvironment(around);
        writer.start(QStringLiteral(PALLIX_BOOK_WRITER), {file});
        EXPECT_TRUE(writer.waitForFinished(60000));
        EXPECT_EQ(writer.exitStatus(), QProcess::NormalExit);
        Told told;
        const QString said = QString::fromUtf8(writer.readAllStandardOutput());
        const auto lines = said.split(QLatin1Char('\n'), Qt::SkipEmptyParts);
        for (const QString& line : lines) {
            bool number = false;
            const long long sequence = line.toLongLong(&number);
            if (number)
                told.acknowledged = sequence;
            else
                told.words += line + QLatin1Char('\n');
        }
        return told;
    }
    /// What is in the book, once the disk is well again; the entries follow one another.
    long long entries() {
        auto book = ShopBook::open(file_);
        if (!book) {
            ADD_FAILURE() << qPrintable(book.error().what);
            return 0;
        }
        EXPECT_TRUE((*book)->damage().empty()) << qPrintable((*book)->damage().front().words);
        const auto all = (*book)->entries(1);
        EXPECT_TRUE(all);
        for (std::size_t k = 1; all && k < all->size(); ++k)
            EXPECT_EQ((*all)[k].sequence, static_cast<std::int64_t>(k + 1));
        return all ? static_cast<long long>(all->size()) : 0;
    }

    QTemporaryDir folder_;
    QString file_ = folder_.filePath(QStringLiteral("shop.shopbook"));
};

// "Nothing of this was kept, what was kept before is whole": at whatever byte the disk is full.
TEST_F(FaultyDisk, AFullDiskKeepsWhatWasAcknowledged) {
    std::mt19937 bits(9);
    std::uniform_int_distribution<int> room(60'000, 400'000);
    int told_of_full = 0;
    for (int i = 0; i < 40; ++i) {
        const Told told = write_until_it_fails("full", room(bits));
        ASSERT_THAT(told.words.toStdString(), HasSubstr("the disk is full")) << i;
        EXPECT_THAT(told.words.toStdString(), HasSubstr("what was kept before is whole")) << i;
        ++told_of_full;
        const long long before = std::max(told.acknowledged, entries());
        EXPECT_EQ(entries(), before) << i << ": nothing lost, and nothing kept that was said not to be";
        EXPECT_LE(before - told.acknowledged, 0) << i;
    }
    EXPECT_EQ(told_of_full, 40);
}

// Pulled out: what was acknowledged is on it. The last one may be there or not, and that is what is said.
TEST_F(FaultyDisk, ADiskThatIsPulledOutKeepsWhatWasAcknowledged) {
    std::mt19937 bits(10);
    std::uniform_int_distribution<int> room(60'000, 400'000);
    for (int i = 0; i < 40; ++i) {
        const Told told = write_until_it_fails("gone", room(bits));
        EXPECT_THAT(told.words.toStdString(), HasSubstr("was pulled out")) << i;
        EXPECT_THAT(told.words.toStdString(), HasSubstr("see what the last entry is")) << i;
        const long long there = entries();
        EXPECT_GE(there, told.acknowledged) << i;
        EXPECT_LE(there, told.acknowledged + 1) << i;
    }
}

// A book that begins on a full disk is whole or not there: once there is room it begins anew.
TEST_F(FaultyDisk, ABookThatBeginsOnAFullDiskLeavesNothingBroken) {
    for (const int room : {0, 3'000, 9'000, 30'000, 70'000, 120'000}) {
        const QString file = folder_.filePath(QStringLiteral("new-%1.shopbook").arg(room));
        const Told told = write_to(file, "full", room);
        if (!told.words.isEmpty()) { // it may have been room enough for an empty book
            EXPECT_THAT(told.words.toStdString(), HasSubstr("full")) << room;
        }
        auto book = ShopBook::open(file);
        ASSERT_TRUE(book) << room << ": " << qPrintable(book.error().what);
        EXPECT_TRUE((*book)->damage().empty()) << room;
        EXPECT_TRUE((*book)->create_job({{1, "2026-03-02T09:41:00Z", "Marit", JobOpened{"job", "", "b.json", "{}"}}}));
    }
}

// A limit on the size of files is no reason to end without a word.
TEST_F(FaultyDisk, AFileThatMayNotGrowIsTold) {
    QProcess writer;
    writer.start(QStringLiteral("/bin/bash"),
                 {QStringLiteral("-c"), QStringLiteral("trap '' XFSZ; ulimit -f 400; exec \"$0\" \"$1\""),
                  QStringLiteral(PALLIX_BOOK_WRITER), file_});
    ASSERT_TRUE(writer.waitForFinished(60000));
    EXPECT_EQ(writer.exitStatus(), QProcess::NormalExit);
    const std::string said = writer.readAllStandardOutput().toStdString();
    EXPECT_THAT(said, HasSubstr("Nothing of this was kept"));
    EXPECT_GT(entries(), 1);
}

// A file that is taken away while it is open would go on being written without a name.
TEST_F(FaultyDisk, AFileThatIsTakenAwayIsMissedAtOnce) {
    auto book = ShopBook::open(file_);
    ASSERT_TRUE(book);
    const QString away = folder_.filePath(QStringLiteral("away.shopbook"));
    ASSERT_TRUE(QFile::rename(file_, away));
    const Entry note{2, "2026-03-02T09:42:00Z", "Marit", Note{"entry 2"}};
    const auto missed = (*book)->append(1, {note});
    ASSERT_FALSE(missed);
    EXPECT_THAT(missed.error().what.toStdString(), HasSubstr("is not the file any more that was opened"));
    EXPECT_THAT(missed.error().way_out.toStdString(), HasSubstr("Nothing of this was kept"));
    ASSERT_TRUE(QFile::copy(away, file_));
    EXPECT_FALSE((*book)->append(1, {note})) << "another file in its place is not it";
    ASSERT_TRUE(QFile::remove(file_));
    ASSERT_TRUE(QFile::rename(away, file_));
    EXPECT_TRUE((*book)->append(1, {note})) << "put back, it goes on";
}

} // namespace
