// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/sql.h"

#include <QFile>
#include <QSqlDriver>
#include <sys/stat.h>

namespace pallix::storage {
namespace {

constexpr const char* file_property = "pallix-file";

/// Device and number of a file, "2049:1314"; empty where there is none.
QString file_identity(const QString& name) {
    struct stat status {};
    if (::stat(QFile::encodeName(name).constData(), &status) != 0)
        return {};
    return QStringLiteral("%1:%2").arg(status.st_dev).arg(status.st_ino);
}

} // namespace

void remember_file(const QSqlDatabase& db) {
    db.driver()->setProperty(file_property, file_identity(db.databaseName()));
}

BookResult<void> still_there(const QSqlDatabase& db, const QString& doing) {
    const QString opened = db.driver()->property(file_property).toString();
    if (opened.isEmpty() || file_identity(db.databaseName()) == opened)
        return {};
    return refused(QStringLiteral("%1: %2 is not the file any more that was opened.").arg(doing, db.databaseName()),
                   QStringLiteral("Nothing of this was kept. Was the disk pulled out, or the file moved? Put it back, "
                                  "and start again."));
}

} // namespace pallix::storage
