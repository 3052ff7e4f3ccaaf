// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/paper.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "wording/practice/practice_words.h"

#include <QAbstractTextDocumentLayout>
#include <QCoreApplication>
#include <QLocale>
#include <QPainter>
#include <QPdfWriter>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextLayout>
#include <QTextTable>
#include <algorithm>
#include <cmath>

namespace pallix::reporting {
namespace {

const char* const style = R"(
body { font-family: 'Lato', sans-serif; color: #1E252B; font-size: 10pt; }
h1 { font-size: 19pt; margin-top: 0px; margin-bottom: 2px; }
.first { page-break-before: always; }
h2 { font-size: 12.5pt; margin-top: 14px; margin-bottom: 4px; color: #2B3F8C; }
p { margin-top: 2px; margin-bottom: 2px; }
th { text-align: left; font-weight: normal; color: #5B646C; }
th, td { padding-right: 9px; padding-bottom: 2px; }
.number { text-align: right; }
.quiet { color: #5B646C; }
.verdict { font-weight: bold; }
.digest { letter-spacing: 1px; }
)";

constexpr double foot_size = 9, foot_room = 22; // pt

double points(const QPagedPaintDevice& device, double pt) {
    return pt / 72 * device.logicalDpiY();
}

int page_of(const QTextDocument& document, const QTextBlock& block) {
    const double top = document.documentLayout()->blockBoundingRect(block).top();
    return static_cast<int>(std::floor(top / document.pageSize().height()));
}

/// The page of the first line after a heading: of a table the one where all of its first rows is, as a cell that does
/// not fit goes to the next page by itself.
int page_after(const QTextDocument& document, const QTextBlock& after) {
    int page = page_of(document, after);
    if (const QTextTable* table = QTextCursor(after).currentTable())
        for (int row = 0; row < std::min(table->rows(), 2); ++row)
            for (int column = 0; column < table->columns(); ++column)
                page = std::max(page, page_of(document, table->cellAt(row, column).firstCursorPosition().block()));
    return page;
}

/// A line that the end of a page would cut through: after a table that goes over pages the layout puts one there.
bool is_cut_through(const QTextDocument& document, const QTextBlock& block) {
    if (block.text().isEmpty() || QTextCursor(block).currentTable())
        return false; // rows go to the next page by themselves
    const double top = document.documentLayout()->blockBoundingRect(block).top(), page = document.pageSize().height();
    for (int i = 0; i < block.layout()->lineCount(); ++i) {
        const QTextLine line = block.layout()->lineAt(i);
        const double from = top + line.y(), to = from + line.height();
        if (line.height() < page && std::floor(from / page) != std::floor((to - 0.5) / page))
            return true;
    }
    return false;
}

/// A heading goes to the page on which what it heads begins, a paragraph that would be cut through to the next.
void keep_together(QTextDocument& document) {
    for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
        const QTextBlock after = block.next();
        const bool alone = block.blockFormat().headingLevel() > 0 && after.isValid() &&
                           page_of(document, block) != page_after(document, after);
        if (!alone && !is_cut_through(document, block))
            continue;
        QTextBlockFormat format = block.blockFormat();
        format.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
        QTextCursor(block).setBlockFormat(format);
        // All of it anew: after a change in its middle the layout loses what it has put down further on.
        document.markContentsDirty(0, document.characterCount());
    }
}

void paint_foot(QPainter& painter, const PaperFoot& foot, const QRectF& box, int page, int pages) {
    QFont font(QStringLiteral("Lato"));
    font.setPointSizeF(foot_size);
    painter.setFont(font);
    painter.setPen(QColor(0x5B, 0x64, 0x6C));
    const QString number = QCoreApplication::translate("paper", "page %1 of %2").arg(page + 1).arg(pages);
    const double room = painter.fontMetrics().horizontalAdvance(number) + box.height();
    const QString whose = foot.serial.isEmpty() ? foot.title : foot.serial + QStringLiteral(" · ") + foot.title;
    painter.drawText(box, Qt::AlignRight | Qt::AlignBottom, number);
    painter.drawText(box.adjusted(0, 0, -room, 0), Qt::AlignLeft | Qt::AlignBottom,
                     painter.fontMetrics().elidedText(whose, Qt::ElideRight, static_cast<int>(box.width() - room)));
}

} // namespace

QString paper_html(const std::string& title, const QString& body, const char* more) {
    return QStringLiteral(
               "<!DOCTYPE html><html><head><meta charset=\"utf-8\"><title>%1</title><style>%2%3</style></head>"
               "<body>%4</body></html>")
        .arg(QString::fromStdString(title).toHtmlEscaped(), QString::fromLatin1(style), QString::fromLatin1(more),
             body);
}

PaperFoot foot_of(const block::JobState& state) {
    const auto& serial = card_of(state).serial;
    const std::string mark = card_of(state).practice ? std::string(" · ") + wording::practice_mark : std::string();
    return {QString::fromStdString(intake_of(state).title + mark),
            QString::fromStdString(serial ? serial->payload.serial : card_of(state).card.identity)};
}

QPageSize paper_of_locale() {
    return QPageSize(QLocale().measurementSystem() == QLocale::ImperialUSSystem ? QPageSize::Letter : QPageSize::A4);
}

QPageSize paper_named(const QString& name) {
    if (name.isEmpty())
        return paper_of_locale();
    return QPageSize(name == QStringLiteral("letter") ? QPageSize::Letter : QPageSize::A4);
}

void print_paper(const QString& html, const PaperFoot& foot, QPagedPaintDevice& device) {
    QTextDocument document;
    document.documentLayout()->setPaintDevice(&device);
    const double room = points(device, foot_room);
    const QRectF body(0, 0, device.width(), std::floor(device.height() - room)); // the layout rounds: whole pixels
    document.setDocumentMargin(0); // what comes after the text would lay it out once more
    document.setPageSize(body.size());
    document.setHtml(html);
    keep_together(document);
    QPainter painter(&device);
    const int pages = document.pageCount();
    for (int page = 0; page < pages; ++page) {
        if (page > 0)
            device.newPage();
        painter.save();
        painter.translate(0, -page * body.height());
        const QRectF part = body.translated(0, page * body.height());
        painter.setClipRect(part);
        document.drawContents(&painter, part.adjusted(0, 0, 0, -1)); // what begins the next page touches this one
        painter.restore();
        paint_foot(painter, foot, {0, body.height(), body.width(), room}, page, pages);
    }
}

Saved save_paper_pdf(const QString& html, const PaperFoot& foot, const QPageSize& paper, const QString& file,
                     bool wide) {
    return save_pdf(file, [&](QPdfWriter& writer) {
        writer.setTitle(foot.title);
        writer.setPageSize(paper);
        if (wide)
            writer.setPageOrientation(QPageLayout::Landscape);
        writer.setPageMargins(paper_margins, QPageLayout::Millimeter);
        print_paper(html, foot, writer);
    });
}

Saved save_paper_html(const QString& html, const QString& file) {
    return save_bytes(html.toUtf8(), file);
}

} // namespace pallix::reporting
