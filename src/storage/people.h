// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/shop_entries.h"
#include "storage/book_rights.h"

#include <QString>
#include <optional>
#include <vector>

namespace pallix::storage {

/// Somebody of the shop.
struct ShopPerson {
    QString name;
    block::Role role = block::Role::machinist;
    bool has_code = false;
};

/// The people of a shop book. A code is kept as its Argon2id hash (libsodium, RFC 9106) and nowhere else. Speaks
/// through the book's connection.
class People {
  public:
    explicit People(QString connection, Permit may = anything())
        : connection_(std::move(connection)), may_(std::move(may)) {}

    [[nodiscard]] BookResult<std::vector<ShopPerson>> all() const; ///< by name
    [[nodiscard]] std::optional<ShopPerson> find(const QString& name) const;
    /// Adds somebody, or changes the role of who has that name.
    [[nodiscard]] BookResult<void> keep(const QString& name, block::Role role);
    /// @param code empty: none from here on
    [[nodiscard]] BookResult<void> set_code(const QString& name, const QString& code);
    /// @return whether it is that person's code; who has none needs none
    [[nodiscard]] bool proves(const QString& name, const QString& code) const;
    /// What somebody did stays in the ledgers.
    [[nodiscard]] BookResult<void> remove(const QString& name);
    [[nodiscard]] BookResult<void> take_over(const People& other);

  private:
    QString connection_;
    Permit may_;
};

} // namespace pallix::storage
