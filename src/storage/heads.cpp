// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/heads.h"

#include "block/digest.h"

#include <QDateTime>
#include <QFile>
#include <QSaveFile>
#include <QStringList>
#include <unistd.h>

namespace pallix::storage {
namespace {

constexpr int check_digits = 8;
const QString first_word = QStringLiteral("pallix-heads"), line_word = QStringLiteral("head");

QString checked(const QString& words) {
    const std::string check = block::sha256_hex(words.toStdString()).substr(0, check_digits);
    return words + QLatin1Char(' ') + QString::fromStdString(check) + QLatin1Char('\n');
}

QString line_of(const QString& job, const Head& head) {
    return checked(QStringLiteral("%1 %2 %3 %4")
                       .arg(line_word, job, QString::number(head.sequence), QString::fromStdString(head.digest)));
}

/// @return the words of a line without their check; none where they are not what was written
QStringList words_of(const QString& line) {
    const QString words = line.section(QLatin1Char(' '), 0, -2);
    return checked(words) == line + QLatin1Char('\n') ? words.split(QLatin1Char(' ')) : QStringList();
}

} // namespace

Heads::Known Heads::read() const {
    Known known;
    QFile in(file_);
    if (!in.open(QIODevice::ReadOnly))
        return known;
    QStringList lines = QString::fromUtf8(in.readAll()).split(QLatin1Char('\n'));
    known.untidy = !lines.takeLast().isEmpty(); // after the last line feed: nothing, or what a crash cut short
    for (qsizetype i = 0; i < lines.size(); ++i) {
        const QStringList words = words_of(lines[i]);
        if (i == 0 && words.size() == 3 && words[0] == first_word)
            known.book = words[2];
        else if (i > 0 && words.size() == 4 && words[0] == line_word)
            known.jobs[words[1]] = {words[2].toLongLong(), words[3].toStdString()};
        else if (known.broken_line == 0)
            known.broken_line = static_cast<int>(i + 1);
    }
    known.untidy = known.untidy || lines.size() > 2 * static_cast<qsizetype>(known.jobs.size()) + 100;
    return known;
}

bool Heads::write(const Known& known) const {
    QSaveFile out(file_);
    if (!out.open(QIODevice::WriteOnly))
        return false;
    out.setPermissions(QFile::ReadOwner | QFile::WriteOwner);
    out.write(checked(QStringLiteral("%1 1 %2").arg(first_word, known.book)).toUtf8());
    for (const auto& [job, head] : known.jobs)
        out.write(line_of(job, head).toUtf8());
    return out.commit();
}

bool Heads::add(const QString& job, const Head& head) const {
    QFile out(file_);
    return out.open(QIODevice::WriteOnly | QIODevice::Append | QIODevice::ExistingOnly | QIODevice::Unbuffered) &&
           out.write(line_of(job, head).toUtf8()) > 0 && ::fdatasync(out.handle()) == 0;
}

void Heads::set_aside() const {
    QFile::rename(file_, file_ + QStringLiteral(".of-another-book-") +
                             QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd-hhmmss-zzz")));
}

} // namespace pallix::storage
