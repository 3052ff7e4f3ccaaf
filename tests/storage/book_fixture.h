// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/digest.h"
#include "storage/shop_book.h"

#include <QFile>
#include <QSqlDatabase>
#include <QSqlQuery>
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

/// A shop book in a folder of its own.
class BookFixture : public testing::Test {
  protected:
    [[nodiscard]] QString file() const { return folder_.filePath(QStringLiteral("shop.shopbook")); }
    [[nodiscard]] std::unique_ptr<storage::ShopBook> open() const {
        auto book = storage::ShopBook::open(file());
        EXPECT_TRUE(book) << (book ? "" : qPrintable(book.error().what));
        return book ? std::move(*book) : nullptr;
    }
    /// Runs SQL on the book behind its back.
    bool run_sql(const QString& statement, const QVariantList& values = {}) const {
        bool done = false;
        {
            QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("behind"));
            db.setDatabaseName(file());
            EXPECT_TRUE(db.open());
            QSqlQuery query(db);
            query.prepare(statement);
            for (const QVariant& value : values)
                query.addBindValue(value);
            done = query.exec();
        }
        QSqlDatabase::removeDatabase(QStringLiteral("behind"));
        return done;
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
};

} // namespace pallix::test
