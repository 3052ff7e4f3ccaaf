// SPDX-License-Identifier: GPL-3.0-or-later
// What comes onto the drawing board from elsewhere, and what goes out from it.
#include "ui/engines/engines_view.h"

#include "block/drawing/dxf_writer.h"
#include "block/drawing/table.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/dxf_dialog.h"
#include "ui/dialogs/fault_list.h"
#include "ui/dialogs/history_dialog.h"
#include "ui/dialogs/log_assistant.h"
#include "ui/engines/board_page.h"
#include "ui/files.h"

#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QPageLayout>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QSvgGenerator>
#include <algorithm>

namespace pallix::ui {

void EnginesView::take_file(const QString& file) {
    const auto read = read_text_file(file).and_then(
        [](const block::NamedText& text) { return block::engine_from(text.text, text.file); });
    if (!read)
        return show_faults(read.error(), context_, this);
    if (put_on_board(*read, tr("From %1. Ctrl+S keeps it on the shelf.").arg(file)))
        kept_.clear();
}

void EnginesView::take_dxf(const QString& wanted) {
    if (page_ == Page::shelf)
        show_page(Page::block);
    const QString file = wanted.isEmpty()
                             ? QFileDialog::getOpenFileName(this, tr("From a drawing"), {}, tr("Drawings (*.dxf)"))
                             : wanted;
    if (file.isEmpty())
        return;
    DxfDialog dialog(context_, file, board_->board().engine().recipe, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    block::Engine engine = board_->board().engine();
    engine.recipe = dialog.taken()->recipe;
    board_->replace(std::move(engine), tr("From the drawing. Ctrl+Z takes it back."));
}

void EnginesView::take_table(const QString& wanted) {
    const QString file = wanted.isEmpty() ? QFileDialog::getOpenFileName(this, tr("From a table"), {},
                                                                         tr("Tables (*.xlsx *.ods *.csv *.tsv *.txt)"))
                                          : wanted;
    if (file.isEmpty())
        return;
    const auto read = read_text_file(file);
    if (!read)
        return show_faults(read.error(), context_, this);
    lay_table(read->text, QFileInfo(file).fileName());
}

void EnginesView::paste_table() {
    lay_table(QGuiApplication::clipboard()->text().toStdString(), tr("what was pasted"));
}

/// What was understood is shown before it is taken.
void EnginesView::lay_table(const std::string& bytes, const QString& name) {
    if (page_ == Page::shelf)
        show_page(Page::block);
    const auto taken = block::read_table(bytes, name.toStdString()).and_then([&](const block::Table& table) {
        return block::recipe_from_table(table, board_->board().engine().recipe, name.toStdString());
    });
    if (!taken)
        return show_faults(taken.error(), context_, this);
    QStringList lines, rows;
    for (const std::string& line : taken->understood)
        lines << qt(line);
    for (const std::string& row : taken->passed_over)
        rows << tr("passed over, %1").arg(qt(row));
    offer(taken->recipe, lines, rows, name);
}

/// What other figures there would be, before they are on the board.
void EnginesView::offer(const block::Recipe& recipe, QStringList lines, const QStringList& after, const QString& name) {
    constexpr qsizetype most = 20;
    for (const auto& [key, typed] : recipe.figures)
        if (board_->board().typed(key) != typed) {
            const auto origin = recipe.origins.find(key);
            const bool spread = origin != recipe.origins.end() && origin->second.spread;
            lines << tr("%1: %2%3")
                         .arg(qt(planning::Board::brief_of(key)), qt(typed),
                              spread ? tr(" (±%1)").arg(qt(context_.lengths().fine(*origin->second.spread)))
                                     : QString());
        }
    lines << after;
    if (lines.size() > most)
        lines = lines.mid(0, most) << tr("… and %1 more").arg(lines.size() - most);
    if (ask_which(this, tr("From %1").arg(name), lines.join(QLatin1Char('\n')),
                  {tr("Onto the board"), tr("Leave it")}) != 0)
        return;
    block::Engine engine = board_->board().engine();
    engine.recipe = recipe;
    board_->replace(std::move(engine), tr("From %1. Ctrl+Z takes it back.").arg(name));
}

void EnginesView::take_blocks(QStringList files) {
    if (page_ == Page::shelf)
        show_page(Page::block);
    if (files.isEmpty())
        files = QFileDialog::getOpenFileNames(this, tr("Probe logs of good blocks, one for each"), {},
                                              tr("Probe logs (*.csv *.txt *.tsv *.log *.dat);;All files (*)"));
    if (files.isEmpty())
        return;
    std::vector<planning::GoodBlock> blocks;
    block::LogMapping mapping; // of the block before: they are probed by one program
    for (const QString& file : files) {
        auto text = read_text_file(file);
        if (!text)
            return show_faults(text.error(), context_, this);
        if (!block::is_probe_log(text->text)) {
            const auto as_before = block::look_at_log(text->text, text->file, mapping);
            if (as_before.converted && !blocks.empty()) {
                text->text = as_before.converted->log;
            } else {
                LogAssistant assistant(context_, *text, std::nullopt, this);
                if (assistant.exec() != QDialog::Accepted)
                    return;
                mapping = assistant.mapping();
                text->text = assistant.converted();
            }
        }
        blocks.push_back({text->file, {std::move(*text)}});
    }
    learn_from(blocks);
}

/// Blocks of this shop's own jobs, as they were found.
void EnginesView::take_history() {
    if (page_ == Page::shelf)
        show_page(Page::block);
    HistoryDialog dialog(context_, qt(board_->board().engine().name()), this);
    if (dialog.exec() == QDialog::Accepted)
        learn_from(dialog.chosen());
}

void EnginesView::learn_from(const std::vector<planning::GoodBlock>& blocks) {
    const auto taught = planning::taught_by(blocks, board_->board().engine().recipe);
    if (!taught)
        return show_faults(taught.error(), context_, this);
    QStringList lines;
    for (const std::string& line : taught->understood)
        lines << qt(line);
    offer(taught->recipe, lines, {},
          blocks.size() == 1 ? tr("one good block") : tr("%1 good blocks").arg(blocks.size()));
}

void EnginesView::save_file() {
    const block::Engine& engine = board_->board().engine();
    const QString name = file_name_of(qt(engine.name()));
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the engine"), name + QStringLiteral(".pallix-engine.json"),
        tr("Engine (*.pallix-engine.json);;Recipe (*.pallix-recipe.json);;Blueprint (*.pallix-blueprint.json);;"
           "Drawing (*.pdf *.svg *.dxf)"));
    if (file.isEmpty())
        return;
    save_as(file);
}

void EnginesView::save_as(const QString& file) {
    const block::Engine& engine = board_->board().engine();
    if (file.endsWith(QStringLiteral(".pdf")) || file.endsWith(QStringLiteral(".svg")) ||
        file.endsWith(QStringLiteral(".dxf")))
        return save_drawing(file);
    std::string text = block::write_engine(engine);
    if (file.endsWith(QStringLiteral(".pallix-recipe.json"))) {
        text = block::write_recipe(engine.recipe);
    } else if (file.endsWith(QStringLiteral(".pallix-blueprint.json"))) {
        const auto drawn = block::draw(engine.recipe, engine.name());
        if (!drawn)
            return show_faults(drawn.error(), context_, this);
        text = block::write_blueprint(*drawn);
    }
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly) || out.write(QByteArray::fromStdString(text)) < 0 || !out.commit())
        return report(tr("%1 cannot be written: %2").arg(file, out.errorString()), tr("a folder that may be written"));
    board_->say(tr("Saved as %1.").arg(file));
}

/// The sheet as it stands on the board, on a page that lies on its side; as DXF the whole block in true size.
void EnginesView::save_drawing(const QString& file) {
    if (!board_->board().whole())
        return report(tr("the drawing is not whole"), tr("every figure that there must be"));
    if (file.endsWith(QStringLiteral(".dxf"))) {
        if (const auto done = block::write_dxf(board_->board().sketch().blueprint, file.toStdString()); !done)
            return show_faults(done.error(), context_, this);
        return board_->say(tr("Saved as %1.").arg(file));
    }
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return report(tr("%1 cannot be written: %2").arg(file, out.errorString()), tr("a folder that may be written"));
    if (file.endsWith(QStringLiteral(".svg"))) {
        QSvgGenerator svg;
        svg.setOutputDevice(&out);
        svg.setSize(board_->drawing().size());
        svg.setViewBox(board_->drawing().rect());
        svg.setTitle(qt(board_->board().engine().name()));
        QPainter painter(&svg);
        board_->drawing().paint_sheet(painter);
    } else {
        QPdfWriter pdf(&out);
        pdf.setPageLayout(QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Landscape, QMarginsF(10, 10, 10, 10),
                                      QPageLayout::Millimeter));
        pdf.setTitle(qt(board_->board().engine().name()));
        QPainter painter(&pdf);
        const QSizeF sheet = board_->drawing().size();
        const double scale = std::min(pdf.width() / sheet.width(), pdf.height() / sheet.height());
        painter.scale(scale, scale);
        board_->drawing().paint_sheet(painter);
    }
    if (!out.commit())
        return report(tr("%1 cannot be written: %2").arg(file, out.errorString()), tr("a folder that may be written"));
    board_->say(tr("Saved as %1.").arg(file));
}

} // namespace pallix::ui
