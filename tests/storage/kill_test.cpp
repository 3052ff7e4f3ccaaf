// SPDX-License-Identifier: GPL-3.0-or-later
#include "book_fixture.h"
#include "sanitized.h"

#include <QProcess>
#include <random>

using namespace pallix::storage;
using namespace pallix::block;
using Kill = pallix::test::BookFixture;

// A process that writes is killed without warning, again and again: what it acknowledged is there, once, in order.
TEST_F(Kill, LosesNothingThatWasAcknowledged) {
    {
        auto book = open();
        ASSERT_TRUE(book);
        ASSERT_TRUE(book->create_job({{1, "2026-03-02T09:41:00Z", "Marit", JobOpened{"job", "", "b.json", "{}"}}}));
    }
    std::mt19937 bits(4);
    std::uniform_int_distribution<int> wait(1, 40);
    long long acknowledged = 1;
    const int kills =
        (at_server() ? 100 : 400) / (pallix::test::sanitized ? 5 : 1); // a server takes a while to let somebody in
    for (int i = 0; i < kills; ++i) {
        QProcess writer;
        writer.start(QStringLiteral(PALLIX_BOOK_WRITER), {file()});
        ASSERT_TRUE(writer.waitForReadyRead(10000)) << writer.exitCode();
        writer.waitForFinished(wait(bits));
        writer.kill(); // SIGKILL
        writer.waitForFinished();
        const QList<QByteArray> lines = writer.readAllStandardOutput().trimmed().split('\n');
        // The last line may be cut short by the kill; every line before it is whole.
        const long long said = (lines.size() > 1 ? lines[lines.size() - 2] : lines.back()).toLongLong();
        ASSERT_GE(said, 1);
        acknowledged = std::max(acknowledged, said);

        auto book = ShopBook::open(file());
        ASSERT_TRUE(book) << qPrintable(book.error().what);
        const auto entries = (*book)->entries(1);
        ASSERT_TRUE(entries) << qPrintable(entries.error().what);
        ASSERT_TRUE((*book)->damage().empty()) << qPrintable((*book)->damage().front().words);
        ASSERT_GE(static_cast<long long>(entries->size()), acknowledged) << "kill " << i;
        for (std::size_t k = 1; k < entries->size(); ++k) {
            ASSERT_EQ((*entries)[k].sequence, static_cast<std::int64_t>(k + 1));
            ASSERT_EQ(std::get<Note>((*entries)[k].payload).text, "entry " + std::to_string(k + 1));
        }
        acknowledged = static_cast<long long>(entries->size());
    }
    EXPECT_GT(acknowledged, kills);
}
