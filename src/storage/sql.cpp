// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/sql.h"

#include <QFile>
#include <QSqlDriver>
#include <algorithm>
#include <array>
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

/// Primary result codes of SQLite (sqlite.org/rescode.html).
struct Reason {
    int code;
    const char *what, *way_out;
};
constexpr std::array reasons = std::to_array<Reason>({
    {13, "the disk is full",
     "Nothing of this was kept, what was kept before is whole. Make room, then do it once more."},
    {10, "the disk does not take it, or was pulled out",
     "Nothing of this was kept. Put the disk back, start again, and see what the last entry is before anything is "
     "cut."},
    {8, "the file may not be written",
     "Nothing of this was kept, what was kept before is whole. Give yourself the right to write the file, or open a "
     "copy."},
    {5, "another program holds the file", "Nothing of this was kept. Close the other program, then do it once more."},
    {6, "another program holds the file", "Nothing of this was kept. Close the other program, then do it once more."},
    {11, "the file is damaged",
     "Nothing of this was kept. Start again: the sound jobs can be copied out, or the last copy put in its place."},
    {26, "the file is no database", "Nothing was changed. Choose another file, or put the last copy in its place."},
    {14, "a file beside it cannot be made or read",
     "Nothing of this was kept. See that the folder is there and may be written, then do it once more."},
    {19, "it contradicts what is in the book already",
     "Nothing of this was kept. Close the window and open the job again."},
});

} // namespace

BookFault sql_fault(const QString& doing, const QSqlError& error) {
    const int code = error.nativeErrorCode().toInt() & 0xFF; // extended codes keep the primary one in the last byte
    const auto* known = std::ranges::find(reasons, code, &Reason::code);
    if (known != reasons.end())
        return {QStringLiteral("%1: %2.").arg(doing, QLatin1String(known->what)), QLatin1String(known->way_out)};
    return {QStringLiteral("%1 (SQLite %2).").arg(doing, error.nativeErrorCode()),
            QStringLiteral("Nothing of this was kept, what was kept before is whole. Try again; if it stays so, start "
                           "again with a copy of the book.")};
}

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
