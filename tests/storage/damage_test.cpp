// SPDX-License-Identifier: GPL-3.0-or-later
// What happens to a book from outside: flipped bits, lost journals, files that are no book, links, locks, backups.
#include "book_fixture.h"

#include <QDir>
#include <QFileInfo>
#include <QLockFile>
#include <QProcess>
#include <gmock/gmock.h>
#include <random>
#include <sys/stat.h>
#include <unistd.h>

using namespace pallix::storage;
using namespace pallix::block;
using namespace pallix::test;
using testing::HasSubstr;

namespace {

class Altered : public BookFixture {
  protected:
    static constexpr qint64 notes = 12;
    static std::string words(qint64 sequence) {
        std::string all = "depth 0.0" + std::to_string(10 + sequence) + " of the left deck";
        for (int i = 0; i < 40; ++i) // so that a good part of the book's pages is written
            all += ", and once more";
        return all;
    }
    /// One job of thirteen entries, and an instrument.
    void fill() const {
        auto book = open();
        const JobId job = book->create_job({opened("the job")}).value();
        for (qint64 s = 2; s <= notes + 1; ++s)
            ASSERT_TRUE(book->append(job, {entry(s, Note{words(s)})}));
        Instrument gauge;
        gauge.name = "bore gauge";
        gauge.zero = 73.99;
        ASSERT_TRUE(book->save_instrument(gauge));
    }
    static std::string said(const BookFault& fault) { return (fault.what + u' ' + fault.way_out).toStdString(); }
};

class DamageTest : public Altered {
  protected:
    [[nodiscard]] QString beside(const char* ending) const { return file() + QLatin1String(ending); }
    [[nodiscard]] std::string refusal(const QString& name) const {
        const auto book = ShopBook::open(name);
        EXPECT_FALSE(book) << "taken: " << qPrintable(name);
        return book ? "" : said(book.error());
    }
};

} // namespace

// Of a hundred flipped bits half changed numbers without a word: now each is refused, told, or changes nothing.
TEST_F(DamageTest, NoFlippedBitChangesANumberInSilence) {
    fill();
    const QByteArray sound = bytes_of(file()), heads = bytes_of(beside(".heads"));
    std::mt19937 bits(21);
    int noticed = 0;
    constexpr int flips = 300;
    for (int i = 0; i < flips; ++i) {
        QByteArray bent = sound;
        const auto at = static_cast<qsizetype>(bits() % static_cast<unsigned>(bent.size()));
        bent[at] = static_cast<char>(bent[at] ^ (1 << (bits() % 8)));
        QFile::remove(beside("-wal"));
        QFile::remove(beside("-shm"));
        write(file(), bent);
        write(beside(".heads"), heads);
        const auto book = ShopBook::open(file());
        if (!book) {
            EXPECT_FALSE(book.error().way_out.isEmpty());
            ++noticed;
            continue;
        }
        const auto jobs = (*book)->jobs();
        const auto entries = (*book)->entries(1);
        if (!entries || !(*book)->damage().empty()) {
            ++noticed;
            continue;
        }
        ASSERT_EQ(entries->size(), static_cast<std::size_t>(notes + 1)) << "byte " << at;
        for (qint64 s = 2; s <= notes + 1; ++s) {
            const Entry& e = (*entries)[static_cast<std::size_t>(s - 1)];
            ASSERT_EQ(std::get<Note>(e.payload).text, words(s)) << "byte " << at;
            ASSERT_EQ(e.person, "Marit");
            ASSERT_EQ(e.time, "2026-03-02T09:41:00Z");
        }
        ASSERT_TRUE(jobs) << "byte " << at << ": " << qPrintable(jobs.error().what);
        EXPECT_EQ(jobs->front().title, QStringLiteral("the job")) << "byte " << at;
        if (const auto instruments = (*book)->instruments(); instruments && !instruments->empty()) {
            ASSERT_EQ(instruments->front().zero, 73.99) << "byte " << at;
        }
    }
    EXPECT_GT(noticed, flips / 40) << "some of them hit what is written; most of a small book is empty pages";
}

TEST_F(Altered, AChangedEntryIsNamedAndWhatIsBeforeItIsSound) {
    fill();
    ASSERT_TRUE(allow("entry_stays", "entry"));
    ASSERT_TRUE(
        run_sql(QStringLiteral("UPDATE entry SET payload = replace(payload, '0.017', '0.071') WHERE sequence = 7")));
    auto book = open();
    const auto entries = book->entries(1);
    ASSERT_FALSE(entries);
    EXPECT_EQ(entries.error().what, QStringLiteral("Entry 7 (note) of “the job” is not what was written."));
    EXPECT_EQ(entries.error().offer, WayOut::copy_sound);
    EXPECT_EQ(book->sound_entries(1)->size(), 6U);
    book.reset();
    const QString copy = folder_.filePath(QStringLiteral("sound.shopbook"));
    const auto told = ShopBook::copy_sound(file(), copy);
    if (at_server()) {
        ASSERT_FALSE(told);
        EXPECT_THAT(said(told.error()), HasSubstr("is kept by a server"));
        return;
    }
    ASSERT_TRUE(told) << qPrintable(told.error().what);
    ASSERT_EQ(told->size(), 1);
    EXPECT_THAT(told->front().toStdString(), HasSubstr("6 of its entries were copied"));
    auto sound = ShopBook::open(copy);
    ASSERT_TRUE(sound);
    EXPECT_EQ((*sound)->entries(1)->size(), 6U);
    EXPECT_EQ((*sound)->instruments()->size(), 1U);
    EXPECT_FALSE(ShopBook::copy_sound(file(), copy)) << "nothing is written over";
}

TEST_F(Altered, AHoleIsToldAndNothingIsAddedBehindIt) {
    fill();
    ASSERT_TRUE(allow("entry_is_kept", "entry"));
    ASSERT_TRUE(run_sql(QStringLiteral("DELETE FROM entry WHERE sequence = 5")));
    auto book = open();
    ASSERT_EQ(book->damage().size(), 1U);
    EXPECT_THAT(book->damage().front().words.toStdString(),
                HasSubstr("the job: there is a hole among its entries (12 of 13"));
    EXPECT_FALSE(book->damage().front().accepted_by_going_on);
    EXPECT_FALSE(book->jobs()->front().damage.isEmpty());
    const auto entries = book->entries(1);
    ASSERT_FALSE(entries);
    EXPECT_EQ(entries.error().what, QStringLiteral("Entry 6 of “the job” follows entry 4."));
    EXPECT_FALSE(book->append(1, {entry(13, Note{"in the middle of history"})}));
}

// A flipped bit in the journal makes the database leave out everything after it, without a word.
TEST_F(DamageTest, EntriesLostWithTheJournalAreMissed) {
    auto book = open();
    const JobId job = book->create_job({opened("the job")}).value();
    book->tidy();
    for (qint64 s = 2; s <= 9; ++s)
        ASSERT_TRUE(book->append(job, {entry(s, Note{words(s)})}));
    // As a crash leaves it: the journal stands beside the book.
    const QByteArray main = bytes_of(file()), heads = bytes_of(beside(".heads"));
    QByteArray journal = bytes_of(beside("-wal"));
    book.reset();
    journal[journal.size() / 2] = static_cast<char>(journal[journal.size() / 2] ^ 4);
    write(file(), main);
    write(beside("-wal"), journal);
    write(beside(".heads"), heads);
    QFile::remove(beside("-shm"));
    book = open();
    ASSERT_EQ(book->damage().size(), 1U);
    EXPECT_THAT(book->damage().front().words.toStdString(),
                HasSubstr(" to 9 had been written and are not there any more"));
    EXPECT_TRUE(book->damage().front().accepted_by_going_on);
    EXPECT_FALSE(book->entries(job)) << "not without the person knowing";
    const auto left = static_cast<std::int64_t>(book->sound_entries(job)->size());
    EXPECT_LT(left, 9);
    ASSERT_TRUE(book->accept_loss());
    EXPECT_TRUE(book->damage().empty());
    ASSERT_TRUE(book->entries(job));
    EXPECT_TRUE(book->append(job, {entry(left + 1, Note{"gone on"})}));
    book.reset();
    EXPECT_TRUE(open()->damage().empty());
}

TEST_F(DamageTest, ADamagedLineOfTheHeadsIsTold) {
    fill();
    QByteArray heads = bytes_of(beside(".heads"));
    heads.replace(" 1 ", " 7 ");
    write(beside(".heads"), heads);
    auto book = open();
    ASSERT_FALSE(book->damage().empty());
    EXPECT_THAT(book->damage().front().words.toStdString(), HasSubstr("is damaged: whether the newest entries"));
    ASSERT_TRUE(book->accept_loss());
    book.reset();
    EXPECT_TRUE(open()->damage().empty());
}

TEST_F(DamageTest, ALineCutShortByACrashIsNoDamage) {
    fill();
    write(beside(".heads"), bytes_of(beside(".heads")) + "head 12");
    auto book = open();
    EXPECT_TRUE(book->damage().empty());
    ASSERT_TRUE(book->append(1, {entry(notes + 2, Note{"next"})}));
    book.reset();
    EXPECT_TRUE(open()->damage().empty()) << "the next line does not hang on the torn one";
}

// ---- files that are no shop book ------------------------------------------------------------------------------------

TEST_F(DamageTest, WhatIsNoBookIsLeftAlone) {
    write(file(), {});
    EXPECT_THAT(refusal(file()), HasSubstr("is empty: it is no shop book"));
    write(file(), "x");
    EXPECT_THAT(refusal(file()), HasSubstr("is damaged or is no shop book"));
    QFile::remove(file());
    ASSERT_TRUE(run_sql(QStringLiteral("CREATE TABLE recipe (name TEXT)")));
    const QByteArray foreign = bytes_of(file());
    EXPECT_THAT(refusal(file()), HasSubstr("is a database, but not a shop book"));
    EXPECT_EQ(bytes_of(file()), foreign);
    EXPECT_THAT(refusal(folder_.path()), HasSubstr("is no file"));
    EXPECT_FALSE(QFileInfo::exists(beside(".lock"))) << "nothing is put beside what is not ours";
}

TEST_F(DamageTest, AHardLinkIsRefusedAndASymbolicOneFollowed) {
    fill();
    const QString second = folder_.filePath(QStringLiteral("second.shopbook"));
    ASSERT_EQ(::link(qPrintable(file()), qPrintable(second)), 0);
    EXPECT_THAT(refusal(second), HasSubstr("has 2 names (hard links)"));
    EXPECT_THAT(refusal(file()), HasSubstr("has 2 names"));
    ASSERT_TRUE(QFile::remove(second));
    ASSERT_TRUE(QFile::link(file(), second));
    auto book = ShopBook::open(second);
    ASSERT_TRUE(book) << qPrintable(book.error().what);
    EXPECT_TRUE((*book)->append(1, {entry(notes + 2, Note{"through the link"})}));
    EXPECT_THAT(refusal(file()), HasSubstr("open in another window")) << "one lock, by whatever name";
    book->reset();
    QFile::remove(second);
    ASSERT_TRUE(QFile::link(folder_.filePath(QStringLiteral("gone.shopbook")), second));
    EXPECT_THAT(refusal(second), HasSubstr("which is not there"));
}

TEST_F(DamageTest, ABookThatMayOnlyBeReadIsSaidSo) {
    fill();
    QFile::setPermissions(file(), QFile::ReadOwner | QFile::ReadGroup | QFile::ReadOther);
    QFile::setPermissions(folder_.path(), QFile::Permissions(0x7755));
    QProcess writer; // root may write anything: somebody else tries
    writer.setChildProcessModifier([] {
        if (::getuid() == 0 && (::setgid(65534) != 0 || ::setuid(65534) != 0))
            ::_exit(9);
    });
    writer.setProcessChannelMode(QProcess::MergedChannels);
    const QString program = folder_.filePath(QStringLiteral("writer")); // the build may lie where nobody else may look
    ASSERT_TRUE(QFile::copy(QStringLiteral(PALLIX_BOOK_WRITER), program));
    QFile::setPermissions(program, QFile::Permissions(0x7755));
    writer.start(program, {file()});
    ASSERT_TRUE(writer.waitForFinished(10000)) << writer.errorString().toStdString();
    EXPECT_EQ(writer.exitCode(), 1);
    EXPECT_THAT(writer.readAll().toStdString(), HasSubstr("may only be read, not written"));
}

// ---- locks ----------------------------------------------------------------------------------------------------------

TEST_F(DamageTest, ALockThatNamesNobodyCanBeTakenOver) {
    fill();
    for (const QByteArray& odd :
         {QByteArray(), QByteArray("what\n"), QByteArray("4194303\nsomeone\nelsewhere.harbour\n\n\n")}) {
        write(beside(".lock"), odd);
        const auto refused = ShopBook::open(file());
        ASSERT_FALSE(refused) << odd.constData();
        EXPECT_EQ(refused.error().offer, WayOut::take_over_lock);
        EXPECT_THAT(said(refused.error()), HasSubstr(beside(".lock").toStdString()));
        if (odd.contains("elsewhere")) {
            EXPECT_THAT(said(refused.error()),
                        HasSubstr("by someone, process 4194303, on the machine elsewhere.harbour"));
        }
        const auto taken = ShopBook::open(file(), true);
        EXPECT_TRUE(taken) << qPrintable(taken.error().what);
    }
}

TEST_F(DamageTest, ALivingOwnerIsNeverRobbed) {
    auto book = open();
    const auto second = ShopBook::open(file(), true);
    ASSERT_FALSE(second);
    EXPECT_EQ(second.error().offer, WayOut::none);
    EXPECT_THAT(said(second.error()), HasSubstr("process " + std::to_string(::getpid())));
}

// ---- journal, backup, who may read it -------------------------------------------------------------------------------

TEST_F(DamageTest, APlainCopyIsWholeOnceThereWasNothingToDo) {
    auto book = open();
    const JobId job = book->create_job({opened()}).value();
    for (qint64 s = 2; s <= 306; ++s)
        ASSERT_TRUE(book->append(job, {entry(s, Note{"n"})}));
    book->tidy();
    const QString copy = folder_.filePath(QStringLiteral("copy.shopbook"));
    ASSERT_TRUE(QFile::copy(file(), copy));
    EXPECT_EQ((*ShopBook::open(copy))->entries(job)->size(), 306U);
}

TEST_F(DamageTest, AnOldJournalDoesNotUndoABackup) {
    fill();
    const QString backup = folder_.filePath(QStringLiteral("backup.shopbook"));
    auto book = open();
    ASSERT_TRUE(book->back_up(backup));
    ASSERT_TRUE(book->append(1, {entry(notes + 2, Note{"after the backup"})}));
    const QByteArray journal = bytes_of(beside("-wal"));
    const QByteArray heads = bytes_of(beside(".heads"));
    book.reset();
    // The program was killed, and the backup put in the book's place.
    write(file(), bytes_of(backup));
    write(beside("-wal"), journal);
    write(beside(".heads"), heads);
    book = open();
    EXPECT_TRUE(book->damage().empty());
    EXPECT_EQ(book->entries(1)->size(), static_cast<std::size_t>(notes + 1));
    EXPECT_EQ(QDir(folder_.path()).entryList({QStringLiteral("*of-another-book*")}).size(), 2)
        << "journal and heads were put aside, not thrown away";
}

TEST_F(DamageTest, ABookThatIsGoneIsMissedNotReplaced) {
    fill();
    ASSERT_TRUE(QFile::remove(file()));
    EXPECT_THAT(refusal(file()), HasSubstr("tells of one job in it"));
    EXPECT_FALSE(QFileInfo::exists(file()));
    ASSERT_TRUE(QFile::remove(beside(".heads")));
    write(beside("-wal"), "left behind");
    EXPECT_TRUE(open()->jobs()->empty());
}

TEST_F(DamageTest, ABackupThatCannotBeWrittenLeavesNothing) {
    fill();
    const auto book = open();
    const QString nowhere = folder_.filePath(QStringLiteral("no/such/backup.shopbook"));
    EXPECT_FALSE(book->back_up(nowhere));
    EXPECT_TRUE(QDir(folder_.path()).entryList({QStringLiteral("*.part")}).isEmpty());
}

TEST_F(DamageTest, OnlyTheOwnerMayReadIt) {
    auto book = open();
    ASSERT_TRUE(book->create_job({opened()}));
    ASSERT_TRUE(book->back_up(folder_.filePath(QStringLiteral("b.shopbook"))));
    for (const QString& name :
         {file(), beside("-wal"), beside("-shm"), beside(".heads"), folder_.filePath(QStringLiteral("b.shopbook"))}) {
        struct stat status {};
        ASSERT_EQ(::stat(qPrintable(name), &status), 0) << qPrintable(name);
        EXPECT_EQ(status.st_mode & 0777, 0600U) << qPrintable(name);
    }
}

TEST_F(Altered, AJobIsSetAsideAndComesBackAsItWas) {
    fill();
    auto book = open();
    ASSERT_TRUE(book->set_aside(1, true));
    book.reset();
    book = open();
    EXPECT_TRUE(book->jobs()->front().set_aside);
    EXPECT_EQ(book->entries(1)->size(), static_cast<std::size_t>(notes + 1));
    ASSERT_TRUE(book->set_aside(1, false));
    EXPECT_FALSE(book->jobs()->front().set_aside);
}
