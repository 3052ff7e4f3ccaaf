// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QString>
#include <tl/expected.hpp>

namespace pallix::ui {

class BenchWindow;

/// Goes through the main views with the demo's jobs and writes a picture of each into a folder.
/// @param size of the window, px
/// @return the reason in words where one cannot be written
[[nodiscard]] tl::expected<void, QString> write_screenshots(BenchWindow& window, Context context, const QString& folder,
                                                            const QSize& size = {1280, 800});

} // namespace pallix::ui
