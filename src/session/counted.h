// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace pallix::session {

/// "1 job", "3 jobs": Qt's own plural needs a translation even for English.
[[nodiscard]] inline QString counted(qsizetype count, const QString& one, const QString& many) {
    return QString::number(count) + QLatin1Char(' ') + (count == 1 ? one : many);
}

} // namespace pallix::session
