// SPDX-License-Identifier: GPL-3.0-or-later
// The real window is killed at random moments of its work: nothing that it had shown is lost.
#include "block/small_block.h"
#include "session/session.h"
#include "storage/shop_book.h"

#include <QProcess>
#include <QTemporaryDir>
#include <gtest/gtest.h>
#include <random>

using namespace pallix;

namespace {

TEST(WindowKill, LosesNothingThatWasShown) {
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("shop.shopbook"));
    storage::JobId job = 0;
    {
        const auto book = storage::ShopBook::open(file);
        ASSERT_TRUE(book);
        session::Session session(**book, [] { return std::string("Marit"); });
        ASSERT_TRUE(session.new_job(QStringLiteral("small"), QStringLiteral("nobody"),
                                    {"small.json", test::small_blueprint()}));
        job = *session.job();
    }
    std::mt19937 bits(5);
    std::uniform_int_distribution<int> wait(1, 400);
    long long shown = 1;
    constexpr int kills = 50;
    for (int i = 0; i < kills; ++i) {
        QProcess window;
        window.start(QStringLiteral(PALLIX_BENCH_WRITER), {file, folder.filePath(QStringLiteral("bench.ini"))});
        ASSERT_TRUE(window.waitForReadyRead(60000)) << window.readAllStandardError().toStdString();
        window.waitForFinished(wait(bits));
        window.kill(); // SIGKILL
        window.waitForFinished();
        const QList<QByteArray> lines = window.readAllStandardOutput().trimmed().split('\n');
        const long long said = (lines.size() > 1 ? lines[lines.size() - 2] : lines.back()).toLongLong();
        ASSERT_GE(said, 1) << lines.back().toStdString();
        shown = std::max(shown, said);

        auto book = storage::ShopBook::open(file);
        ASSERT_TRUE(book) << qPrintable(book.error().what);
        ASSERT_TRUE((*book)->damage().empty()) << qPrintable((*book)->damage().front().words);
        const auto entries = (*book)->entries(job);
        ASSERT_TRUE(entries) << qPrintable(entries.error().what);
        ASSERT_GE(static_cast<long long>(entries->size()), shown) << "kill " << i;
        for (std::size_t k = 0; k < entries->size(); ++k)
            ASSERT_EQ((*entries)[k].sequence, static_cast<std::int64_t>(k + 1));
        shown = static_cast<long long>(entries->size());
    }
    EXPECT_GT(shown, kills);
}

} // namespace
