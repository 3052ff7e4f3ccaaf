// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument_event.h"
#include "storage/book_fault.h"

#include <QString>
#include <string>

namespace pallix::storage {

/// What happened to the shop's instruments, in no job's ledger. Only ever added to: the book refuses to change or
/// delete a line, and an instrument that was removed keeps its history. Speaks through the book's connection.
class InstrumentHistories {
  public:
    explicit InstrumentHistories(QString connection) : connection_(std::move(connection)) {}

    /// @param event with its time and person
    [[nodiscard]] BookResult<void> add(const block::InstrumentEvent& event);
    /// In the order they were written; a line that is not what was written is left out.
    [[nodiscard]] block::InstrumentHistory of(const std::string& instrument) const;

    [[nodiscard]] BookResult<void> take_over(const InstrumentHistories& other);

  private:
    [[nodiscard]] block::InstrumentHistory read(const QString& where, const std::string& instrument) const;
    QString connection_;
};

} // namespace pallix::storage
