// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <QLockFile>
#include <QString>
#include <memory>

namespace pallix::storage {

// What a file is, and who has it, before a database is let near it.

/// What may stand where a shop book is looked for.
enum class FileState { missing, book };

struct BookFile {
    QString name; ///< without links on the way to it
    FileState state = FileState::missing;
};

/// Looks at the file without touching it.
/// @return refused: a link to nothing, more than one name, a folder or device, an empty file, another database, a file
/// or folder that may not be written
[[nodiscard]] BookResult<BookFile> look_at(const QString& file);

/// One process writes at a time.
/// @param take_over also from an owner that cannot be seen from here, or a lock file that names none; never from one
/// that is alive on this machine
[[nodiscard]] BookResult<std::unique_ptr<QLockFile>> lock(const QString& file, bool take_over);

/// Makes a whole new book, or leaves nothing.
[[nodiscard]] BookResult<void> make_new(const QString& file);

/// A journal beside a book that was put in the place of another would undo what was put there.
[[nodiscard]] bool has_journal(const QString& file);
/// @return the book's id as it stands in the file itself, without its journal; empty where it has none yet
[[nodiscard]] QString id_without_journal(const QString& file);
/// Puts a journal that belongs to another book out of the way.
void set_journal_aside(const QString& file);

} // namespace pallix::storage
