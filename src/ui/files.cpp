// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/files.h"

#include <QFile>
#include <QFileInfo>

namespace pallix::ui {

block::Result<block::NamedText> read_text_file(const QString& file) {
    const std::string name = QFileInfo(file).fileName().toStdString();
    if (file.isEmpty())
        return tl::unexpected(block::Faults{{"file", 0, "no file was chosen", "the name of a file"}});
    QFile in(file);
    if (!in.open(QIODevice::ReadOnly))
        return tl::unexpected(
            block::Faults{{name, 0, "the file cannot be read (" + in.errorString().toStdString() + ")",
                           "an existing, readable file"}});
    return block::NamedText{name, in.readAll().toStdString()};
}

FileKind kind_of_file(const QString& file) {
    if (file.endsWith(QStringLiteral(".pallix-blueprint.json"), Qt::CaseInsensitive))
        return FileKind::blueprint;
    if (file.endsWith(QStringLiteral(".pallix.json"), Qt::CaseInsensitive))
        return FileKind::job;
    if (file.endsWith(QStringLiteral(".trace.csv"), Qt::CaseInsensitive))
        return FileKind::trace;
    return file.endsWith(QStringLiteral(".csv"), Qt::CaseInsensitive) ? FileKind::probe_log : FileKind::other;
}

} // namespace pallix::ui
