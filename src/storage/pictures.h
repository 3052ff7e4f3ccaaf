// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <QByteArray>
#include <QString>

namespace pallix::storage {

/// Pictures of a shop book, whole, each once, by the SHA-256 of its bytes. Speaks through the book's connection.
class Pictures {
  public:
    explicit Pictures(QString connection) : connection_(std::move(connection)) {}

    /// @return the digest, hexadecimal; refused where it is too large
    [[nodiscard]] BookResult<QString> keep(const QByteArray& bytes);
    /// @return refused where it is not there or not what was written
    [[nodiscard]] BookResult<QByteArray> picture(const QString& sha256) const;
    [[nodiscard]] BookResult<void> take_over(const Pictures& other);

  private:
    QString connection_;
};

} // namespace pallix::storage
