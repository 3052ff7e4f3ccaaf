// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QByteArray>
#include <QString>
#include <functional>
#include <tl/expected.hpp>

class QPdfWriter;

namespace pallix::reporting {

/// Nothing, or the reason in words where the file cannot be written. A file is whole or not there.
using Saved = tl::expected<void, QString>;

[[nodiscard]] Saved save_bytes(const QByteArray& bytes, const QString& file);
/// For libraries that write in place: they make a draft in a folder of its own, which becomes the file.
[[nodiscard]] Saved save_made(const QString& file, const std::function<Saved(const QString& draft)>& make);
/// @param print sets up its page and paints
[[nodiscard]] Saved save_pdf(const QString& file, const std::function<void(QPdfWriter&)>& print);

} // namespace pallix::reporting
