// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// A real PostgreSQL server for tests: the one that a whole run shares, or one that a test may kill.

#include "storage/book_server.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QProcess>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QUrl>
#include <QUuid>
#include <gtest/gtest.h>

namespace pallix::test {

/// For a server of a test's own: PostgreSQL's user is let through to it.
class ServerFolder : public QTemporaryDir {
  public:
    ServerFolder() : QTemporaryDir(QDir::tempPath() + QStringLiteral("/pallix-server-XXXXXX")) {
        QFile::setPermissions(path(), QFile::Permissions(0x7011));
    }
};

class TestServer {
  public:
    explicit TestServer(QString folder) : folder_(std::move(folder)) {}

    /// The one that is named for this run; without one, nothing of a server can be tested.
    static std::optional<TestServer> shared() {
        QFile note(qEnvironmentVariable("PALLIX_TEST_SERVER"));
        if (!note.open(QIODevice::ReadOnly))
            return std::nullopt;
        TestServer server(QString::fromUtf8(note.readAll()).trimmed());
        server.become_known();
        return server;
    }
    static bool installed() { return QFileInfo::exists(QStringLiteral("/usr/lib/postgresql")); }

    [[nodiscard]] QString folder() const { return folder_; }
    /// @param wish start, stop or kill
    bool ask(const char* wish) const {
        return QProcess::execute(QStringLiteral(PALLIX_SCRIPTS "/postgres"), {QLatin1String(wish), folder_}) == 0;
    }
    /// Its password is found from here on.
    void become_known() const { qputenv("PGPASSFILE", QFile::encodeName(folder_ + QStringLiteral("/pgpass"))); }

    [[nodiscard]] QString address(const QString& database,
                                  const QString& user = QStringLiteral("pallix_keeper")) const {
        QFile port(folder_ + QStringLiteral("/port"));
        EXPECT_TRUE(port.open(QIODevice::ReadOnly));
        return QStringLiteral("postgresql://%1@127.0.0.1:%2/%3")
            .arg(user, QString::fromUtf8(port.readAll()).trimmed(), database);
    }
    /// An empty database, of a name that no other test has.
    [[nodiscard]] QString new_database() const {
        const QString name = QStringLiteral("t") + QUuid::createUuid().toString(QUuid::Id128);
        EXPECT_TRUE(run(QStringLiteral("postgres"), QStringLiteral("CREATE DATABASE ") + name));
        return name;
    }
    void drop(const QString& database) const {
        run(QStringLiteral("postgres"), QStringLiteral("DROP DATABASE IF EXISTS %1 WITH (FORCE)").arg(database));
    }
    /// SQL behind everybody's back, as who keeps the server.
    bool run(const QString& database, const QString& statement, const QVariantList& values = {}) const {
        return run_on_book(address(database), statement, values);
    }
    /// @param answer the first value of the first row; may be null
    static bool run_on_book(const QString& book, const QString& statement, const QVariantList& values = {},
                            QVariant* answer = nullptr) {
        bool done = false;
        const QString name = QStringLiteral("behind-") + QUuid::createUuid().toString(QUuid::Id128);
        {
            QSqlDatabase db = storage::connection_to(book, name);
            EXPECT_TRUE(storage::open_connection(db, book, QStringLiteral("behind")));
            QSqlQuery query(db);
            if (values.isEmpty()) {
                done = query.exec(statement);
            } else {
                query.prepare(statement);
                for (const QVariant& value : values)
                    query.addBindValue(value);
                done = query.exec();
            }
            if (answer && done && query.next())
                *answer = query.value(0);
        }
        QSqlDatabase::removeDatabase(name);
        return done;
    }

  private:
    QString folder_;
};

/// An empty database at the run's server, for one test.
class OwnDatabase {
  public:
    OwnDatabase() : server_(TestServer::shared()), name_(server_ ? server_->new_database() : QString()) {}
    ~OwnDatabase() {
        if (server_)
            server_->drop(name_);
    }
    OwnDatabase(const OwnDatabase&) = delete;
    OwnDatabase& operator=(const OwnDatabase&) = delete;

    /// Without a server there is none, and nothing of a server's book can be tested.
    [[nodiscard]] bool is_there() const { return server_.has_value(); }
    [[nodiscard]] QString address() const { return server_->address(name_); }
    /// SQL behind everybody's back, as who keeps the server.
    bool run(const QString& statement) const { return server_->run(name_, statement); }

  private:
    std::optional<TestServer> server_;
    QString name_;
};

} // namespace pallix::test
