// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/engine.h"
#include "block/entries/route_entries.h"
#include "storage/book_rights.h"

#include <QString>
#include <optional>
#include <vector>

namespace pallix::storage {

/// A revision of an engine as it stands in the book.
struct ShelfRow {
    QString name;
    int revision = 0; ///< from 1; the newest of that name
    QString time;     ///< UTC, ISO 8601
    QString person;
    bool retired = false;
    int jobs = 0; ///< that were opened from any revision of it
};

/// A job that was opened from an engine.
struct EngineUse {
    QString job; ///< its title
    int revision = 0;
};

/// Limits as the shop has set them.
struct ShopLimits {
    block::LimitsChosen limits;
    QString time;   ///< UTC, ISO 8601
    QString person; ///< who set them
};

/// The engines of a shop book, its limits, and how logs of other forms are read there. A revision never changes and is
/// never deleted; an engine that is no longer wanted is retired. Speaks through the book's connection.
class EngineShelf {
  public:
    explicit EngineShelf(QString connection, Permit may = anything())
        : connection_(std::move(connection)), may_(std::move(may)) {}

    /// The newest revision of each, by name; a revision that is not what was written is left out.
    [[nodiscard]] BookResult<std::vector<ShelfRow>> rows() const;
    /// @param revision 0 for the newest; refused where it is not what was written
    [[nodiscard]] BookResult<block::Engine> engine(const QString& name, int revision = 0) const;
    [[nodiscard]] BookResult<std::vector<EngineUse>> uses(const QString& name) const;
    /// Keeps it as the next revision of its name. @return that revision's number
    [[nodiscard]] BookResult<int> keep(const block::Engine& engine, const QString& time, const QString& person);
    [[nodiscard]] BookResult<void> retire(const QString& name, bool retired);
    /// Takes over every revision of some engines of another book that is as it was written; none of them is here.
    [[nodiscard]] BookResult<void> take_over_engines(const EngineShelf& other, const QStringList& names);
    /// All that stands on another book's shelf, into an empty one.
    [[nodiscard]] BookResult<void> take_over(const EngineShelf& other);

    /// How logs are read, by name: the text of a `.pallix-mapping.json`.
    [[nodiscard]] BookResult<std::vector<std::pair<QString, std::string>>> mappings() const;
    [[nodiscard]] BookResult<void> keep_mapping(const QString& name, const std::string& text);

    /// The limits that were set last. @return nothing where none were, or they are not what was written
    [[nodiscard]] BookResult<std::optional<ShopLimits>> limits() const;
    [[nodiscard]] BookResult<void> keep_limits(const ShopLimits& limits);

  private:
    QString connection_;
    Permit may_;
};

} // namespace pallix::storage
