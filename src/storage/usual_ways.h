// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/shop_papers.h"
#include "storage/book_rights.h"

#include <QString>
#include <map>
#include <optional>
#include <string>

namespace pallix::storage {

inline constexpr double longest_usual = 7 * 24 * 60; ///< minutes, of one piece of work

/// How a shop usually goes about things: the route its jobs begin with, how long work takes there, what
/// its papers are like. Speaks through the
/// book's connection.
class UsualWays {
  public:
    explicit UsualWays(QString connection, Permit may = anything())
        : connection_(std::move(connection)), may_(std::move(may)) {}

    /// @param engine its own where it has one, else the shop's; empty: the shop's
    [[nodiscard]] std::optional<block::RouteChosen> route(const QString& engine) const;
    /// @param route nothing: none of its own from here on
    [[nodiscard]] BookResult<void> keep_route(const QString& engine, const std::optional<block::RouteChosen>& route);

    /// Minutes by the key of a kind of work, as somebody typed them.
    [[nodiscard]] std::map<std::string, double> minutes() const;
    [[nodiscard]] BookResult<void> keep_minutes(const std::string& work, std::optional<double> minutes);

    /// What the shop's papers and marks are like; nothing where nobody has said so.
    [[nodiscard]] std::optional<block::ShopPapers> papers() const;
    /// @return refused where something of them cannot be used
    [[nodiscard]] BookResult<void> keep_papers(const block::ShopPapers& papers);

    [[nodiscard]] BookResult<void> take_over(const UsualWays& other);

  private:
    QString connection_;
    Permit may_;
};

} // namespace pallix::storage
