// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/digest.h"
#include "storage/shop_book.h"
#include "storage/sql_dialect.h"
#include "storage/test_server.h"

#include <QFile>
#include <QTemporaryDir>
#include <QVariant>
#include <gtest/gtest.h>

namespace pallix::test {

inline block::Entry entry(std::int64_t sequence, block::Payload payload) {
    return {sequence, "2026-03-02T09:41:00Z", "Marit", std::move(payload)};
}
inline block::Entry opened(const std::string& title = "a job") {
    return entry(1, block::JobOpened{title, "someone", "b.json", "{}"});
}

/// A shop book of its own: a file in a folder, or a database of the server where the run asks for that
/// (PALLIX_TEST_SERVER), so that what is true of the one is shown of the other.
class BookFixture : public testing::Test {
  protected:
    void SetUp() override {
        if (!qEnvironmentVariableIsSet("PALLIX_TEST_SERVER"))
            return;
        server_ = TestServer::shared();
        if (!server_)
            GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
        database_ = server_->new_database();
    }
    void TearDown() override {
        if (server_)
            server_->drop(database_);
    }
    [[nodiscard]] bool at_server() const { return server_.has_value(); }
    [[nodiscard]] QString file() const {
        return server_ ? server_->address(database_) : folder_.filePath(QStringLiteral("shop.shopbook"));
    }
    [[nodiscard]] std::unique_ptr<storage::ShopBook> open() const {
        auto book = storage::ShopBook::open(file());
        EXPECT_TRUE(book) << (book ? "" : qPrintable(book.error().what + book.error().way_out));
        return book ? std::move(*book) : nullptr;
    }
    /// Runs SQL on the book behind its back.
    bool run_sql(const QString& statement, const QVariantList& values = {}) const {
        return TestServer::run_on_book(file(), statement, values);
    }
    /// Takes off what keeps rows from being changed ("entry_stays") or deleted.
    [[nodiscard]] bool allow(const char* trigger, const char* table) const {
        return run_sql(storage::allowed_again(at_server() ? storage::Dialect::postgres : storage::Dialect::sqlite,
                                              {trigger, "", table, ""}));
    }
    /// What is sound of it, in a file of its own: of a server's book, a backup.
    [[nodiscard]] bool copy_to(const QString& name) const {
        if (!at_server())
            return storage::ShopBook::copy_sound(file(), name).has_value();
        const auto book = open();
        return book && book->back_up(name);
    }
    /// An entry as another version of the program would have written it, sealed to the digest before it.
    std::string insert_sealed(const std::string& before, qint64 job, block::EntryText e) const {
        const std::string digest = block::digest_after(before, e);
        const auto text = [](std::string_view s) {
            return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
        };
        EXPECT_TRUE(run_sql(QStringLiteral("INSERT INTO entry VALUES (?, ?, ?, ?, ?, ?, ?, ?)"),
                            {job, static_cast<qint64>(e.sequence), text(e.time), text(e.person), text(e.kind),
                             static_cast<qint64>(e.version), text(e.payload), text(digest)}));
        return digest;
    }
    [[nodiscard]] QByteArray bytes_of(const QString& name) const {
        QFile in(name);
        EXPECT_TRUE(in.open(QIODevice::ReadOnly)) << qPrintable(name);
        return in.readAll();
    }
    void write(const QString& name, const QByteArray& bytes) const {
        QFile out(name);
        ASSERT_TRUE(out.open(QIODevice::WriteOnly)) << qPrintable(name);
        out.write(bytes);
    }

    QTemporaryDir folder_;
    std::optional<TestServer> server_;
    QString database_;
};

} // namespace pallix::test
