// SPDX-License-Identifier: GPL-3.0-or-later
// A second start on a book hands its files to the window that has it.
#include "session/one_window.h"
#include "session_fixture.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>
#include <QLocalSocket>
#include <QSignalSpy>
#include <QStandardPaths>
#include <chrono>
#include <future>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::session;

namespace {

class OneWindowTest : public test::SessionFixture {
  protected:
    QString book_file_ = folder_.filePath(QStringLiteral("one.shopbook"));

    /// From another thread, as from another process.
    static bool hand_over(const QString& book, const QStringList& files) {
        auto other = std::async(std::launch::async, [=] { return OneWindow::hand_over(book, files); });
        while (other.wait_for(std::chrono::seconds(0)) != std::future_status::ready)
            QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
        return other.get();
    }
    static QString address_of(const QString& book) {
        return QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation) + QStringLiteral("/pallix-") +
               QString::fromLatin1(
                   QCryptographicHash::hash(book.toUtf8(), QCryptographicHash::Sha256).toHex().left(16));
    }
};

} // namespace

TEST_F(OneWindowTest, TakesTheFilesOfASecondStart) {
    EXPECT_FALSE(hand_over(book_file_, {})) << "nobody has it";
    OneWindow one(book_file_);
    QSignalSpy wanted(&one, &OneWindow::wanted);
    ASSERT_TRUE(hand_over(book_file_, {QStringLiteral("a b.csv"), QStringLiteral("/tmp/ä.pallix.json")}));
    ASSERT_EQ(wanted.size(), 1);
    EXPECT_EQ(wanted[0][0].toStringList(), (QStringList{QDir::current().absoluteFilePath(QStringLiteral("a b.csv")),
                                                        QStringLiteral("/tmp/ä.pallix.json")}))
        << "whole paths: the window stands in another folder";
    ASSERT_TRUE(hand_over(book_file_, {})) << "and comes to the front without any";
    EXPECT_EQ(wanted.size(), 2);
    EXPECT_FALSE(hand_over(folder_.filePath(QStringLiteral("other.shopbook")), {})) << "another book has its own";
}

TEST_F(OneWindowTest, IsHeardByItsUserAlone) {
    const OneWindow one(book_file_);
    const QFileInfo socket(address_of(book_file_));
    ASSERT_TRUE(socket.exists());
    EXPECT_EQ(socket.permissions() & (QFile::ReadGroup | QFile::WriteGroup | QFile::ReadOther | QFile::WriteOther), 0);
}

TEST_F(OneWindowTest, TakesThePlaceOfOneThatIsGone) {
    QFile left(address_of(book_file_)); // as after a kill: a name that nobody listens on
    ASSERT_TRUE(left.open(QIODevice::WriteOnly));
    left.close();
    EXPECT_FALSE(hand_over(book_file_, {}));
    const OneWindow one(book_file_);
    EXPECT_TRUE(hand_over(book_file_, {}));
}

TEST_F(OneWindowTest, HearsNoNonsense) {
    OneWindow one(book_file_);
    QSignalSpy wanted(&one, &OneWindow::wanted);
    for (const QByteArray& said :
         {QByteArray("GET / HTTP/1.1\r\n\r\n"), QByteArray(4, '\xff'), QByteArray(3 << 20, 'x')}) {
        QLocalSocket socket;
        socket.connectToServer(address_of(book_file_));
        ASSERT_TRUE(socket.waitForConnected(1000));
        socket.write(said);
        for (int i = 0; i < 20; ++i)
            QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
        socket.abort();
    }
    QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    for (const auto& files : wanted)
        EXPECT_TRUE(files[0].toStringList().isEmpty());
    EXPECT_TRUE(hand_over(book_file_, {folder_.filePath(QStringLiteral("x.csv"))})) << "and still listens";
}
