// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/cell_table.h"

#include "block/number_text.h"
#include "block/points_for_numbers.h"

#include <QFile>
#include <csv.h>
#include <xlsxwriter.h>

namespace pallix::reporting {
namespace {

QByteArray quoted(const std::string& words) {
    std::string harmless = words;
    if (!harmless.empty() && std::string_view("=+-@\t\r").find(harmless.front()) != std::string_view::npos)
        harmless.insert(harmless.begin(), '\'');
    QByteArray out(static_cast<qsizetype>(2 * harmless.size() + 2), Qt::Uninitialized);
    out.resize(static_cast<qsizetype>(
        csv_write(out.data(), static_cast<size_t>(out.size()), harmless.data(), harmless.size())));
    return out;
}

QByteArray field(const Cell& cell) {
    if (cell.number)
        return QByteArray::fromStdString(block::short_number(*cell.number));
    return cell.words ? quoted(*cell.words) : QByteArray();
}

void fill(lxw_worksheet* sheet, lxw_format* head, const CellTable& table) {
    constexpr qsizetype longest = 32767; // letters, what a cell of a workbook holds
    const auto text = [longest](const std::string& words) {
        return QString::fromStdString(words).left(longest).toStdString();
    };
    for (std::size_t i = 0; i < table.heads.size(); ++i) {
        worksheet_write_string(sheet, 0, static_cast<lxw_col_t>(i), text(table.heads[i]).c_str(), head);
        worksheet_set_column(sheet, static_cast<lxw_col_t>(i), static_cast<lxw_col_t>(i),
                             static_cast<double>(std::clamp<std::size_t>(table.heads[i].size() + 2, 10, 40)), nullptr);
    }
    worksheet_freeze_panes(sheet, 1, 0);
    for (std::size_t row = 0; row < table.rows.size() && row + 1 < LXW_ROW_MAX; ++row)
        for (std::size_t i = 0; i < table.rows[row].size(); ++i) {
            const auto at = static_cast<lxw_row_t>(row + 1);
            const auto column = static_cast<lxw_col_t>(i);
            if (const Cell& cell = table.rows[row][i]; cell.number)
                worksheet_write_number(sheet, at, column, *cell.number, nullptr);
            else if (cell.words)
                worksheet_write_string(sheet, at, column, text(*cell.words).c_str(), nullptr);
        }
}

} // namespace

QByteArray csv_of(const CellTable& table) {
    QByteArray out;
    const auto line = [&out](const auto& cells, const auto& as_field) {
        for (std::size_t i = 0; i < cells.size(); ++i)
            out += (i == 0 ? QByteArray() : QByteArray(",")) + as_field(cells[i]);
        out += "\r\n";
    };
    line(table.heads, quoted);
    for (const auto& row : table.rows)
        line(row, field);
    return out;
}

Saved save_xlsx(const std::vector<CellTable>& tables, const QString& file) {
    return save_made(file, [&tables](const QString& draft) -> Saved {
        const block::PointsForNumbers points;
        lxw_workbook* book = workbook_new(QFile::encodeName(draft).constData());
        if (!book)
            return tl::unexpected(QStringLiteral("no room"));
        lxw_format* head = workbook_add_format(book);
        format_set_bold(head);
        for (const CellTable& table : tables)
            if (lxw_worksheet* sheet = workbook_add_worksheet(book, table.name.c_str()))
                fill(sheet, head, table);
        if (const lxw_error error = workbook_close(book); error != LXW_NO_ERROR)
            return tl::unexpected(QString::fromUtf8(lxw_strerror(error)));
        return {};
    });
}

} // namespace pallix::reporting
