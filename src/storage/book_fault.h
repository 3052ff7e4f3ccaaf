// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <tl/expected.hpp>

namespace pallix::storage {

/// A way out that the program can take by itself, once the person says so.
enum class WayOut { none, take_over_lock, copy_sound, give_password };

/// What went wrong with the book, and the way out, both for the person to read.
struct BookFault {
    QString what;
    QString way_out;
    WayOut offer = WayOut::none;
    bool no_answer = false;         ///< the line to a server is gone: it is asked again by itself
    bool written_meanwhile = false; ///< somebody else added to the job: what they did comes first
};

template <class T>
using BookResult = tl::expected<T, BookFault>;

[[nodiscard]] inline tl::unexpected<BookFault> refused(QString what, QString way_out, WayOut offer = WayOut::none) {
    return tl::unexpected(BookFault{std::move(what), std::move(way_out), offer});
}

} // namespace pallix::storage
