// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/wall_time.h"

#include <QDateTime>
#include <QLocale>
#include <QRegularExpression>

namespace pallix::session {

QString wall_time(const std::string& utc) {
    const QDateTime time = QDateTime::fromString(QString::fromStdString(utc), Qt::ISODate).toLocalTime();
    if (!time.isValid())
        return QString::fromStdString(utc);
    const QString minute = time.toString(QStringLiteral("HH:mm"));
    return time.date() == QDate::currentDate()
               ? minute
               : QStringLiteral("%1, %2").arg(day_words(time.date().toString(Qt::ISODate).toStdString()), minute);
}

QString with_wall_times(QString words) {
    static const QRegularExpression time(QStringLiteral("[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}Z"));
    for (auto found = time.match(words); found.hasMatch(); found = time.match(words, found.capturedStart() + 1))
        words.replace(found.capturedStart(), found.capturedLength(), wall_time(found.captured().toStdString()));
    return words;
}

QString day_words(const std::string& day) {
    const QDate date = QDate::fromString(QString::fromStdString(day), Qt::ISODate);
    return date.isValid() ? QLocale().toString(date, QLocale::ShortFormat) : QString::fromStdString(day);
}

} // namespace pallix::session
