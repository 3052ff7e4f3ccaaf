// SPDX-License-Identifier: GPL-3.0-or-later
// A whole book copied between engines.
#include "block/job_file.h"
#include "book_fixture.h"
#include "reference_data.h"
#include "sanitized.h"

#include <QElapsedTimer>
#include <cstdio>
#include <gmock/gmock.h>

using namespace pallix::storage;
using namespace pallix::block;
using namespace pallix::test;
using testing::HasSubstr;

namespace {

/// The fixture's book is the other engine's where the run asks for that: then copies go from one to the other.
class BookMove : public BookFixture {
  protected:
    QString plain_ = folder_.filePath(QStringLiteral("plain.shopbook"));
    [[nodiscard]] std::unique_ptr<ShopBook> open_plain(const QString& name = {}) const {
        auto book = ShopBook::open(name.isEmpty() ? plain_ : name);
        EXPECT_TRUE(book) << (book ? "" : qPrintable(book.error().what));
        return book ? std::move(*book) : nullptr;
    }
    /// Something in each of its tables.
    static void fill(ShopBook& book, int jobs) {
        const QString time = QStringLiteral("2026-03-02T09:41:00Z"), who = QStringLiteral("Marit");
        for (int i = 0; i < jobs; ++i) {
            std::vector<Entry> entries{opened("job µ " + std::to_string(i))};
            for (int k = 2; k < 2 + i % 7; ++k)
                entries.push_back(entry(k, Note{"“" + std::to_string(k) + "” \\ ' ? $1 \n"}));
            ASSERT_TRUE(book.create_job(entries));
        }
        ASSERT_TRUE(book.set_aside(2, true));
        ASSERT_TRUE(book.append_stream(3, {QStringLiteral("main.1,1,2,3"), QStringLiteral("main.1,1,2,4")}));
        Engine engine;
        engine.recipe.figures = {{"name", "tender"}, {"bore", "80"}};
        ASSERT_TRUE(book.engines().keep(engine, time, who));
        ASSERT_TRUE(book.engines().keep(engine, time, who));
        ASSERT_TRUE(book.engines().retire(QStringLiteral("tender"), true));
        ASSERT_TRUE(book.engines().keep_mapping(QStringLiteral("old probe"), "{}"));
        ASSERT_TRUE(book.engines().keep_limits(
            {{0.04, 0.02, 0.03, 0.025, 0.0125, {}, {}, {}, 2, 8, 2, "by the gasket's sheet"}, time, who}));
        ASSERT_TRUE(book.people().keep(who, Role::owner));
        ASSERT_TRUE(book.people().set_code(who, QStringLiteral("sild 42")));
        ASSERT_TRUE(book.usual().keep_minutes("hone", 0.1 + 0.2));
        ASSERT_TRUE(book.usual().keep_papers({}));
        QByteArray picture(3000, 'p');
        picture[7] = '\0';
        ASSERT_TRUE(book.pictures().keep(picture));
        Instrument gauge;
        gauge.name = "bore gauge";
        gauge.zero = 73.99;
        ASSERT_TRUE(book.save_instrument(gauge));
        InstrumentEvent repair;
        repair.instrument = "bore gauge";
        repair.what = InstrumentHappening::repaired;
        repair.words = "new tips";
        repair.time = "2026-03-01T08:00:00Z";
        repair.person = "Marit";
        ASSERT_TRUE(book.instrument_histories().add(repair));
    }
};

/// A shop's of many years, which only makes sense between two engines.
class LargeBookMove : public BookMove {
  protected:
    void SetUp() override {
        if (!qEnvironmentVariableIsSet("PALLIX_TEST_SERVER"))
            GTEST_SKIP() << "is about a server's book";
        BookMove::SetUp();
    }
    /// Five worked ones over and over.
    static void fill_with_jobs(ShopBook& book, int jobs) {
        std::vector<std::vector<Entry>> kinds;
        for (const char* name : {"ketch", "launch", "smack", "tender", "workboat"}) {
            const std::string file = std::string(PALLIX_TEST_DATA) + "/jobs/" + name + ".pallix.json";
            kinds.push_back(read_job(read_file(file), file).value());
        }
        for (int i = 0; i < jobs; ++i)
            ASSERT_TRUE(book.create_job(kinds[static_cast<std::size_t>(i) % kinds.size()]));
    }
};

} // namespace

TEST_F(BookMove, ThereAndBackItIsTheSame) {
    std::string digest;
    {
        const auto plain = open_plain();
        fill(*plain, 130);
        const auto other = open();
        const auto copied = plain->copy_into(*other);
        ASSERT_TRUE(copied) << qPrintable(copied.error().what);
        EXPECT_EQ(copied->jobs, 130);
        EXPECT_EQ(copied->entries, copied->fresh);
        EXPECT_EQ(copied->digest, plain->digest().value());
        EXPECT_EQ(copied->digest, other->digest().value());
        digest = copied->digest;
        EXPECT_EQ(digest_of(other->entries(7).value()), digest_of(plain->entries(7).value()));
        EXPECT_TRUE(other->people().proves(QStringLiteral("Marit"), QStringLiteral("sild 42")));
        EXPECT_EQ(other->stream(3)->size(), 2);
        EXPECT_EQ(other->usual().minutes().at("hone"), 0.1 + 0.2) << "to the last bit";
    }
    const auto book = open();
    EXPECT_TRUE(book->damage().empty());
    const QString back = folder_.filePath(QStringLiteral("back.shopbook"));
    ASSERT_TRUE(book->back_up(back));
    const auto returned = open_plain(back);
    EXPECT_EQ(returned->digest().value(), digest);
    EXPECT_TRUE(returned->damage().empty());
    ASSERT_TRUE(book->append(1, {entry(static_cast<std::int64_t>(book->entries(1)->size()) + 1, Note{"more"})}));
    EXPECT_NE(book->digest().value(), digest) << "whatever is added shows";
}

TEST_F(BookMove, AnInterruptedCopyGoesOnAndALaterOneTakesWhatIsNew) {
    const auto plain = open_plain();
    fill(*plain, 60);
    const auto other = open();
    ASSERT_TRUE(plain->copy_into(*other));
    // As where it was broken off: a job is there by half, others are not.
    const JobId more = plain->create_job({opened("later"), entry(2, Note{"a"}), entry(3, Note{"b"})}).value();
    ASSERT_TRUE(plain->append(1, {entry(static_cast<std::int64_t>(plain->entries(1)->size()) + 1, Note{"on"})}));
    ASSERT_TRUE(plain->set_aside(2, false));
    ASSERT_TRUE(plain->engines().retire(QStringLiteral("tender"), false));
    const auto again = plain->copy_into(*other);
    ASSERT_TRUE(again) << qPrintable(again.error().what);
    EXPECT_EQ(again->fresh, 4);
    EXPECT_EQ(other->entries(more)->size(), 3U);
    EXPECT_FALSE(other->engines().rows()->front().retired);
    ASSERT_TRUE(other->append(more, {entry(4, Note{"elsewhere"})}));
    ASSERT_TRUE(plain->append(more, {entry(4, Note{"here"})}));
    const auto parted = plain->copy_into(*other);
    ASSERT_FALSE(parted);
    EXPECT_THAT(parted.error().what.toStdString(), HasSubstr("“later” went on differently"));
    const auto foreign = other->create_job({opened("theirs")});
    ASSERT_TRUE(foreign);
    const auto refused = plain->copy_into(*other);
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().what.toStdString(), HasSubstr("has jobs that this one has not, such as “theirs”"));
}

TEST_F(BookMove, WhatIsNotAsItWasWrittenIsNotCopied) {
    {
        const auto book = open();
        ASSERT_TRUE(book->create_job({opened("the job"), entry(2, Note{"0.017"})}));
    }
    ASSERT_TRUE(allow("entry_stays", "entry"));
    ASSERT_TRUE(run_sql(QStringLiteral("UPDATE entry SET payload = replace(payload, '0.017', '0.071') WHERE sequence "
                                       "= 2")));
    const auto book = open();
    const auto plain = open_plain();
    const auto copied = book->copy_into(*plain);
    ASSERT_FALSE(copied);
    EXPECT_EQ(copied.error().what, QStringLiteral("Entry 2 of “the job” is not what was written."));
    EXPECT_TRUE(plain->jobs()->empty());
    EXPECT_FALSE(book->digest());
    EXPECT_FALSE(book->back_up(folder_.filePath(QStringLiteral("copy.shopbook"))));
    EXPECT_FALSE(QFile::exists(folder_.filePath(QStringLiteral("copy.shopbook"))));
}

TEST_F(LargeBookMove, FiveThousandJobsGoThereAndBackAndAreTheSame) {
    constexpr int jobs = sanitized ? 200 : 5000;
    const auto plain = open_plain(), back = open_plain(folder_.filePath(QStringLiteral("back.shopbook")));
    fill_with_jobs(*plain, jobs);
    const auto at_shop = open();
    QElapsedTimer clock;
    clock.start();
    const auto there = plain->copy_into(*at_shop);
    ASSERT_TRUE(there) << qPrintable(there.error().what);
    const qint64 there_ms = clock.restart();
    const auto returned = at_shop->copy_into(*back);
    ASSERT_TRUE(returned) << qPrintable(returned.error().what);
    std::printf("%lld jobs, %lld entries, %lld MB: to the server in %.1f s, back in %.1f s\n",
                static_cast<long long>(there->jobs), static_cast<long long>(there->entries),
                static_cast<long long>(QFile(plain_).size() >> 20), static_cast<double>(there_ms) / 1000,
                static_cast<double>(clock.elapsed()) / 1000);
    EXPECT_EQ(there->jobs, jobs);
    EXPECT_EQ(returned->entries, there->entries);
    const std::string digest = plain->digest().value();
    EXPECT_EQ(at_shop->digest().value(), digest);
    EXPECT_EQ(back->digest().value(), digest);
    EXPECT_EQ(plain->copy_into(*at_shop)->fresh, 0) << "once more there is nothing to do";
}
