// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/shop_book.h"

#include <QSqlQuery>
#include <QVariant>

namespace pallix::storage {

/// Goes through every entry of the jobs that a query names in its first column. A job that is not what was written is
/// left out: the shop list says so.
/// @param query already executed, and not forward only: a server sends one answer at a time; its other columns are
/// those of the entry's job
/// @param each takes the job, the entry and whether it was struck
template <class Each>
void for_each_entry(const ShopBook& book, QSqlQuery& query, const Each& each) {
    while (query.next()) {
        const JobId job = query.value(0).toLongLong();
        const auto all = book.entries(job);
        if (!all)
            continue;
        const auto struck = block::struck(*all);
        for (std::size_t i = 0; i < all->size(); ++i)
            each(job, (*all)[i], struck[i]);
    }
}

} // namespace pallix::storage
