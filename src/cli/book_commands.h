// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/shop_book.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace pallix::cli {

struct BookRequest {
    std::string book;
    std::string out;               ///< of export a folder, of backup a file
    std::string from;              ///< of import and copy, the other book
    std::vector<std::string> jobs; ///< of export; empty: all
    bool as_json = false;          ///< of jobs
};

/// Lists the jobs of a book: number, serial, title, entries, what is damaged. @return exit status
int list_jobs(const BookRequest& request);
/// Writes jobs as .pallix.json into a folder. @return exit status
int export_jobs(const BookRequest& request);
/// Copies the whole book; the copy is read again and compared. @return exit status
int back_up(const BookRequest& request);
/// Takes another book in: the same job twice is one. @return exit status
int import_book(const BookRequest& request);
/// Copies a whole book (`from`) into another, file or server; goes on where an earlier copy stopped. @return exit
/// status
int copy_book(const BookRequest& request);
/// Prints what stands for all that is in a book. @return exit status
int print_digest(const BookRequest& request);
/// Tells whether a book is as it was written. @return exit status
int check_book(const BookRequest& request);

/// Opens a book that is there, a file or a server's; a fault is told on standard error. @return null where it cannot be
/// opened
[[nodiscard]] std::unique_ptr<storage::ShopBook> open_book(const std::string& file);
/// The same, or a new one where there is none.
[[nodiscard]] std::unique_ptr<storage::ShopBook> open_or_begin_book(const std::string& name);
/// A job by its number, its serial or its title. A fault is told. @return nothing where none, or more than one, is
/// called so
[[nodiscard]] std::optional<storage::JobRow> find_job(const storage::ShopBook& book, const std::string& called);
/// The job's name as part of the name of a file.
[[nodiscard]] std::string file_name_of(const std::string& title);

} // namespace pallix::cli
