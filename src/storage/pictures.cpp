// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/pictures.h"

#include "block/digest.h"
#include "block/entries/shop_entries.h"
#include "storage/sql.h"

#include <QVariant>

namespace pallix::storage {
namespace {

const QString picture_doing = QStringLiteral("The picture cannot be kept");

QSqlDatabase picture_db(const QString& connection) {
    return QSqlDatabase::database(connection, false);
}

QString digest_of_bytes(const QByteArray& bytes) {
    return text(block::sha256_hex(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size()))));
}

} // namespace

BookResult<QString> Pictures::keep(const QByteArray& bytes) {
    if (bytes.isEmpty() || bytes.size() > block::largest_picture)
        return refused(
            QStringLiteral("The picture has %1 MB.").arg(static_cast<double>(bytes.size()) / (1 << 20), 0, 'f', 1),
            QStringLiteral("A PNG or JPEG of up to 20 MB."));
    const QString digest = digest_of_bytes(bytes);
    QSqlQuery query(picture_db(connection_));
    query.prepare(QStringLiteral("INSERT INTO picture (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING"));
    query.addBindValue(digest);
    query.addBindValue(bytes);
    if (!query.exec())
        return failed(picture_doing, query);
    return digest;
}

BookResult<QByteArray> Pictures::picture(const QString& sha256) const {
    QSqlQuery query(picture_db(connection_));
    query.prepare(QStringLiteral("SELECT bytes FROM picture WHERE sha256 = ?"));
    query.addBindValue(sha256);
    if (!query.exec())
        return failed(QStringLiteral("The picture cannot be read"), query);
    if (!query.next())
        return refused(QStringLiteral("The picture is not in this book."),
                       QStringLiteral("It stayed in the book that the job came from; put it to the job again."));
    QByteArray bytes = query.value(0).toByteArray();
    if (digest_of_bytes(bytes) != sha256)
        return refused(QStringLiteral("The picture is not what was written."),
                       QStringLiteral("Put your last backup in the book's place."));
    return bytes;
}

BookResult<void> Pictures::take_over(const Pictures& other) {
    QSqlQuery from(picture_db(other.connection_));
    from.setForwardOnly(true);
    if (!from.exec(QStringLiteral("SELECT bytes FROM picture")))
        return {}; // a book of before there were pictures
    while (from.next())
        if (const auto kept = keep(from.value(0).toByteArray()); !kept)
            return tl::unexpected(kept.error());
    return {};
}

} // namespace pallix::storage
