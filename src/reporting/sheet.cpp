// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/sheet.h"

#include <QFontMetricsF>
#include <QRegularExpression>
#include <algorithm>
#include <numeric>
#include <vector>

namespace pallix::reporting {
namespace {

/// What the cells of a column hold, in points.
struct Room {
    double word = 1; ///< the longest that is not broken
    double line = 1; ///< the longest cell
};

/// Of a text in the type of papers, points.
double width_of(const QString& words) {
    constexpr int fine = 100; // pixels for the ten points of a table's text
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(fine);
    return QFontMetricsF(font).horizontalAdvance(words) * 10 / fine;
}

using Row = Sheet::Row;

QString words_in(const QString& cell) {
    static const QRegularExpression markup(QStringLiteral("<[^>]*>"));
    return QString(cell)
        .replace(markup, QStringLiteral(" "))
        .replace(QStringLiteral("&nbsp;"), QStringLiteral(" "))
        .trimmed();
}

/// Columns that say nothing in any row, but the first.
std::vector<bool> silent(const std::vector<Row>& rows, qsizetype columns) {
    std::vector<bool> none(static_cast<std::size_t>(columns), true);
    for (const Row& row : rows)
        for (qsizetype i = 0; i < std::min(columns, row.cells.size()); ++i)
            if (i == 0 || !words_in(row.cells[i]).isEmpty() || row.cells[i].contains(QStringLiteral("<img")))
                none[static_cast<std::size_t>(i)] = false;
    return none;
}

void leave_out(std::vector<Row>& rows, const std::vector<bool>& which) {
    for (Row& row : rows)
        for (std::size_t i = which.size(); i-- > 0;)
            if (which[i] && static_cast<qsizetype>(i) < row.cells.size())
                row.cells.removeAt(static_cast<qsizetype>(i));
}

std::vector<Room> rooms_in(const std::vector<Row>& rows) {
    std::vector<Room> rooms;
    for (const Row& row : rows)
        for (qsizetype i = 0; i < row.cells.size(); ++i) {
            if (static_cast<std::size_t>(i) == rooms.size())
                rooms.push_back({});
            Room& room = rooms[static_cast<std::size_t>(i)];
            const QString words = words_in(row.cells[i]);
            room.line = std::max(room.line, width_of(words));
            for (const QString& word : words.split(QLatin1Char(' ')))
                room.word = std::max(room.word, width_of(word));
        }
    return rooms;
}

/// @param shares of the width; the layout goes by those of the first row
QString html_of(const Row& row, const char* tag, const std::vector<double>& shares) {
    QString html = QStringLiteral("<tr>");
    for (qsizetype i = 0; i < row.cells.size(); ++i) {
        const auto at = static_cast<std::size_t>(i);
        html += QStringLiteral("<%1%2%3>%4</%1>")
                    .arg(QString::fromLatin1(tag),
                         at < shares.size() ? QStringLiteral(" width=\"%1%\"").arg(shares[at], 0, 'f', 1) : QString(),
                         i < row.words ? QString() : QStringLiteral(" align=\"right\" class=\"number\""), row.cells[i]);
    }
    return html + QStringLiteral("</tr>");
}

/// Shares of the width, in hundredths: where all lines fit each has its own, else what is left beyond the longest words
/// goes to those that are longer. The names of the rows stay on one line where that leaves the others their words.
/// @param paper points across it
std::vector<double> widths(std::vector<Room> rooms, double paper) {
    constexpr double between = 8; // points, of a cell's padding and a hair
    const auto sum_of = [&rooms](double Room::*part) {
        return std::accumulate(rooms.begin(), rooms.end(), 0.0,
                               [part](double a, const Room& r) { return a + r.*part; });
    };
    const double room = paper - between * static_cast<double>(rooms.size());
    const auto extra_of = [&] { // that each gets of what its lines have beyond its words
        const double words = sum_of(&Room::word), lines = sum_of(&Room::line);
        return lines > words ? (room - words) / (lines - words) : 1;
    };
    if (!rooms.empty()) {
        constexpr double enough = 0.6; // for the others
        const Room before = rooms.front();
        rooms.front().word = before.line;
        if (extra_of() < enough)
            rooms.front() = before;
    }
    const double extra = std::clamp(extra_of(), 0.0, 1.0);
    std::vector<double> all;
    for (const Room& r : rooms)
        all.push_back(r.word + extra * (r.line - r.word) + between);
    const double sum = std::accumulate(all.begin(), all.end(), 0.0);
    for (double& w : all)
        w *= 100 / sum;
    return all;
}

} // namespace

void Sheet::table(const QStringList& heads, const Rows& rows) {
    if (rows.isEmpty())
        return;
    std::vector<Row> all = rows.all();
    if (!heads.isEmpty()) {
        const auto none = silent(all, heads.size());
        all.insert(all.begin(), Row{heads});
        leave_out(all, none);
    }
    const auto shares = widths(rooms_in(all), room_);
    QString head, body;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool is_head = i == 0 && !heads.isEmpty();
        (is_head ? head : body) += html_of(all[i], is_head ? "th" : "td", i == 0 ? shares : std::vector<double>());
    }
    add(QStringLiteral("<table width=\"98%\" cellspacing=\"0\">%1<tbody>%2</tbody></table>")
            .arg(head.isEmpty() ? head : QStringLiteral("<thead>%1</thead>").arg(head), body));
}

} // namespace pallix::reporting
