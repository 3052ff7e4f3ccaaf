// SPDX-License-Identifier: GPL-3.0-or-later
// Files on their way into the bench: by menu, drop or command line.
#include "block/state/intake_state.h"
#include "reporting/save.h"
#include "storage/book_server.h"
#include "ui/bench_window.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/import_log_dialog.h"
#include "ui/dialogs/new_job_dialog.h"
#include "ui/engines/engines_view.h"
#include "ui/files.h"
#include "ui/frame/drawing.h"

#include <QBuffer>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QMimeData>
#include <QPainter>
#include <QProcess>
#include <QSvgGenerator>

namespace pallix::ui {

void BenchWindow::new_job(const QString& blueprint_file, const QString& engine) {
    NewJobDialog dialog(context_, blueprint_file, engine, this);
    if (dialog.exec() == QDialog::Accepted)
        go_to(Place::block);
}

void BenchWindow::import_logs(const QStringList& files) {
    if (!context_.session.has_job())
        return report({{"probe log", 0, "no job is open", "an open job to take it in"}});
    ImportLogDialog dialog(context_, files, this);
    if (dialog.exec() == QDialog::Accepted && place_ == Place::shop)
        go_to(Place::block);
}

/// Into the cylinder that is marked on the cylinders' page.
void BenchWindow::take_trace(const QString& file) {
    if (!context_.session.has_job())
        return report({{"roughness trace", 0, "no job is open", "an open job to take it in"}});
    go_to(Place::cylinders);
    cylinders_->take_trace(file);
}

void BenchWindow::import_job_file(const QString& file) {
    if (!done(read_text_file(file).and_then(
            [this](const block::NamedText& text) { return context_.session.import_job(text); })))
        return;
    context_.preferences.add_recent_file(file);
    go_to(Place::block);
}

/// Another shop book has a window of its own.
void BenchWindow::open_book_beside(const QStringList& arguments) {
    if (!QProcess::startDetached(QCoreApplication::applicationFilePath(), arguments))
        tell(this, tr("The shop book"), tr("Another window cannot be started from here: start Pallix with the book."));
}

void BenchWindow::choose_files() {
    take_files(
        QFileDialog::getOpenFileNames(this, tr("Open files"), {}, tr("Blueprints, probe logs, jobs (*.json *.csv)")));
}

void BenchWindow::choose_book() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Open another shop book"), {}, tr("Shop books (*.shopbook)"));
    if (!file.isEmpty())
        open_book_beside({QStringLiteral("--book"), file});
}

/// A book that several benches share.
void BenchWindow::choose_server() {
    const auto address =
        ask_for_text(this, tr("Open a book at a server"), tr("Its address, as whoever keeps the server has given it:"),
                     QStringLiteral("postgresql://"));
    if (address && !storage::is_at_server(address->trimmed()))
        return tell(this, tr("The shop book"),
                    tr("“%1” is no address of a server. Expected postgresql://host/database.").arg(*address));
    if (address)
        open_book_beside({QStringLiteral("--book"), address->trimmed()});
}

/// Somebody has started the program again.
void BenchWindow::come_forward(const QStringList& files) {
    if (isMinimized())
        showNormal();
    raise();
    activateWindow();
    if (!files.isEmpty())
        take_files(files);
}

void BenchWindow::take_files(const QStringList& files) {
    QStringList logs;
    for (const QString& file : files) {
        switch (kind_of_file(file)) {
        case FileKind::blueprint:
            if (place_ == Place::engines)
                engines_->take_file(file);
            else
                new_job(file);
            break;
        case FileKind::drawing:
            go_to(Place::engines);
            engines_->take_dxf(file);
            break;
        case FileKind::spreadsheet:
            go_to(Place::engines);
            engines_->take_table(file);
            break;
        case FileKind::engine:
            go_to(Place::engines);
            engines_->take_file(file);
            break;
        case FileKind::exercise:
            begin_own_exercise(file);
            break;
        case FileKind::book:
            open_book_beside({QStringLiteral("--book"), file});
            break;
        case FileKind::job:
            import_job_file(file);
            break;
        case FileKind::probe_log:
            if (place_ == Place::engines) // dropped on the board it is a table
                engines_->take_table(file);
            else
                logs << file;
            break;
        case FileKind::trace:
            take_trace(file);
            break;
        case FileKind::other:
            report({{file.toStdString(), 0, "this kind of file is not known here",
                     "a .csv probe log, a .trace.csv or .x3p, a .pallix.json, a .shopbook, or a blueprint, recipe, "
                     "engine, "
                     "exercise, .dxf, "
                     ".xlsx or "
                     ".ods"}});
            break;
        }
    }
    if (!logs.isEmpty())
        import_logs(logs);
}

void BenchWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void BenchWindow::dropEvent(QDropEvent* event) {
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files << url.toLocalFile();
    event->acceptProposedAction();
    take_files(files);
}

/// The largest drawing of the page: the others are beside it.
void BenchWindow::save_drawing() {
    Drawing* drawing = nullptr;
    for (Drawing* one : findChildren<Drawing*>())
        if (one->isVisible() && (!drawing || one->width() * one->height() > drawing->width() * drawing->height()))
            drawing = one;
    if (!drawing)
        return tell(this, tr("Nothing is drawn here"), tr("Go to a page that draws: the block, its tunnel, a deck."));
    const QString file = QFileDialog::getSaveFileName(this, tr("Save the drawing"),
                                                      file_name_of(drawing->accessibleName()) + QStringLiteral(".svg"),
                                                      tr("SVG (*.svg)"));
    if (file.isEmpty())
        return;
    QByteArray bytes;
    QBuffer buffer(&bytes);
    QSvgGenerator svg;
    svg.setOutputDevice(&buffer);
    svg.setSize(drawing->size());
    svg.setViewBox(drawing->rect());
    svg.setTitle(drawing->accessibleName());
    svg.setResolution(drawing->logicalDpiX());
    QPainter painter(&svg);
    drawing->render(&painter, {}, {}, QWidget::DrawChildren);
    painter.end();
    if (const auto saved = reporting::save_bytes(bytes, file); !saved)
        tell(this, tr("The drawing was not saved"), saved.error());
}

} // namespace pallix::ui
