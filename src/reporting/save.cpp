// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/save.h"

#include <QFile>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTemporaryDir>

namespace pallix::reporting {
namespace {

tl::unexpected<QString> cannot_write(const QString& file, const QString& why) {
    return tl::unexpected(QStringLiteral("%1 cannot be written: %2").arg(file, why));
}

} // namespace

Saved save_bytes(const QByteArray& bytes, const QString& file) {
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly) || out.write(bytes) != bytes.size() || !out.commit())
        return cannot_write(file, out.errorString());
    return {};
}

Saved save_made(const QString& file, const std::function<Saved(const QString& draft)>& make) {
    const QTemporaryDir folder;
    const QString draft = folder.filePath(QStringLiteral("draft"));
    if (const Saved made = make(draft); !made)
        return cannot_write(file, made.error());
    QFile in(draft);
    if (!in.open(QIODevice::ReadOnly))
        return cannot_write(file, in.errorString());
    return save_bytes(in.readAll(), file);
}

Saved save_pdf(const QString& file, const std::function<void(QPdfWriter&)>& print) {
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return cannot_write(file, out.errorString());
    {
        QPdfWriter writer(&out);
        writer.setCreator(QStringLiteral("Pallix"));
        writer.setResolution(300);
        print(writer);
    }
    if (!out.commit())
        return cannot_write(file, out.errorString());
    return {};
}

} // namespace pallix::reporting
