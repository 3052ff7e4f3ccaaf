// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/shop_book.h"

#include <QString>
#include <QWidget>
#include <memory>

namespace pallix::ui {

/// Opens the book and asks the person where something stands in the way: a lock that was left, damage, lost entries.
/// @param take_over a lock whose owner cannot be asked, without asking
/// @param copies where this bench keeps copies of books at servers; empty: nowhere
/// @return null where they left it
[[nodiscard]] std::unique_ptr<storage::ShopBook> open_book(const QString& file, bool take_over,
                                                           const QString& copies = {});

/// Which copy of the book is to be put in its place.
/// @return empty where none is
[[nodiscard]] QString ask_for_backup(const QString& book, QWidget* parent);

} // namespace pallix::ui
