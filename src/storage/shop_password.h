// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <optional>

namespace pallix::storage {

// The password for a server that keeps a shop book, where `.pgpass` has none: in the desktop's secret service
// (freedesktop.org's Secret Service API, spoken to through libsecret's `secret-tool`), or in memory until the program
// ends. Never in a file of ours.

/// What was given or found in this program; nothing where none was.
[[nodiscard]] std::optional<QString> password_at_hand(const QString& address);
void have_password_at_hand(const QString& address, const QString& password);

/// Asks the secret service, which may ask the person to unlock it.
/// @return nothing where it has none, or there is no such service here
[[nodiscard]] std::optional<QString> kept_password(const QString& address);
/// @return refused where there is no such service here, or it did not take it
[[nodiscard]] BookResult<void> keep_password(const QString& address, const QString& password);

} // namespace pallix::storage
