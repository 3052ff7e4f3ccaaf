// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <array>
#include <string>

class QSqlDatabase;

namespace pallix::storage {

/// Stands in every shop book's header ("Pllx"), so that nothing else is taken for one.
inline constexpr qint64 application_id = 0x506c6c78;

/// @return the version of a book that is to be brought forward; 0 where it need not be
[[nodiscard]] int older_schema(QSqlDatabase& db);
/// Brings a new or older book forward to the schema of this version; each step whole or not at all.
[[nodiscard]] BookResult<void> bring_forward(QSqlDatabase& db, const QString& file);

/// What seals a line that waits for its log.
[[nodiscard]] std::string digest_of_line(qint64 number, const QString& line);

/// A table of the book, but for jobs and their entries.
struct BookTable {
    const char *name, *columns;
    const char* key; ///< what its rows are told apart and sorted by
    enum class Kind {
        job,    ///< jobs and entries themselves
        of_job, ///< a row's job is its first column
        kept,   ///< rows never change and never go
        loose,  ///< rows may change and go
        cache,  ///< can be worked out again, or belongs to this copy of the book
    } kind;
};
inline constexpr std::array book_tables = std::to_array<BookTable>({
    {"job", "id, uuid, title, opened", "id", BookTable::Kind::job},
    {"entry", "job, sequence, time, person, kind, version, payload, digest", "job, sequence", BookTable::Kind::job},
    {"set_aside", "job", "job", BookTable::Kind::of_job},
    {"stream", "job, number, line, digest", "job, number", BookTable::Kind::of_job},
    {"engine", "name, revision, time, person, payload, digest", "name, revision", BookTable::Kind::kept},
    {"shop_limits", "number, time, person, payload, digest", "number", BookTable::Kind::kept},
    {"instrument_event", "number, instrument, time, person, payload, digest", "number", BookTable::Kind::kept},
    {"picture", "sha256, bytes", "sha256", BookTable::Kind::kept},
    {"instrument", "name, payload, digest", "name", BookTable::Kind::loose},
    {"engine_retired", "name", "name", BookTable::Kind::loose},
    {"log_mapping", "name, payload, digest", "name", BookTable::Kind::loose},
    {"person", "name, role, code", "name", BookTable::Kind::loose},
    {"usual_route", "engine, payload", "engine", BookTable::Kind::loose},
    {"usual_minutes", "work, minutes", "work", BookTable::Kind::loose},
    {"usual_papers", "id, payload", "id", BookTable::Kind::loose},
    {"standing", "job, entries, reader, standing, digest", "job", BookTable::Kind::cache},
    {"book", "id", "id", BookTable::Kind::cache},
});

/// Every table has the columns that are read: a bit that is wrong in the description of one would show as an empty
/// shop.
[[nodiscard]] BookResult<void> look_at_tables(QSqlDatabase& db, const QString& doing);

} // namespace pallix::storage
