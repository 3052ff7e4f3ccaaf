// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/files.h"

#include "block/job_file.h"
#include "reporting/save.h"
#include "ui/dialogs/fault_list.h"

#include <QFile>
#include <QFileDialog>

namespace pallix::ui {

QString shipped_text(const QString& file) {
    QFile resource(QStringLiteral(":/") + file);
    return resource.open(QIODevice::ReadOnly) ? QString::fromUtf8(resource.readAll()) : QString();
}

void save_job(const std::vector<block::Entry>& entries, const QString& title, Context context, QWidget* parent) {
    const QString file = QFileDialog::getSaveFileName(parent, QObject::tr("Export the job"),
                                                      file_name_of(title) + QStringLiteral(".pallix.json"),
                                                      QObject::tr("Pallix jobs (*.pallix.json)"));
    if (file.isEmpty())
        return;
    const QByteArray bytes = QByteArray::fromStdString(block::write_job(entries));
    if (const auto saved = reporting::save_bytes(bytes, file); !saved)
        show_faults({{file.toStdString(), 0, saved.error().toStdString(), "a folder that may be written"}}, context,
                    parent);
}

FileKind kind_of_file(const QString& file) {
    if (file.endsWith(QStringLiteral(".pallix-blueprint.json"), Qt::CaseInsensitive) ||
        file.endsWith(QStringLiteral(".pallix-recipe.json"), Qt::CaseInsensitive))
        return FileKind::blueprint;
    if (file.endsWith(QStringLiteral(".xlsx"), Qt::CaseInsensitive) ||
        file.endsWith(QStringLiteral(".ods"), Qt::CaseInsensitive) ||
        file.endsWith(QStringLiteral(".tsv"), Qt::CaseInsensitive))
        return FileKind::spreadsheet;
    if (file.endsWith(QStringLiteral(".dxf"), Qt::CaseInsensitive))
        return FileKind::drawing;
    if (file.endsWith(QStringLiteral(".pallix-engine.json"), Qt::CaseInsensitive))
        return FileKind::engine;
    if (file.endsWith(QStringLiteral(".shopbook"), Qt::CaseInsensitive))
        return FileKind::book;
    if (file.endsWith(QStringLiteral(".pallix-exercise.json"), Qt::CaseInsensitive))
        return FileKind::exercise;
    if (file.endsWith(QStringLiteral(".pallix.json"), Qt::CaseInsensitive))
        return FileKind::job;
    if (file.endsWith(QStringLiteral(".trace.csv"), Qt::CaseInsensitive) ||
        file.endsWith(QStringLiteral(".x3p"), Qt::CaseInsensitive))
        return FileKind::trace;
    return file.endsWith(QStringLiteral(".csv"), Qt::CaseInsensitive) ? FileKind::probe_log : FileKind::other;
}

} // namespace pallix::ui
