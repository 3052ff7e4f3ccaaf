// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "read_back.h"
#include "reporting/paper_source.h"
#include "workshop/harbour.h"

#include <QTextDocument>

namespace pallix::test {

inline const wording::LengthText mm(block::Unit::mm), inches(block::Unit::inch);

inline reporting::PaperSource source_of(const Told& job, const wording::LengthText& l = mm) {
    reporting::PaperSource source{job.state, job.assessment, job.entries, l, 2, QStringLiteral("2026-03-06")};
    source.of_book.shop = workshop::harbour_papers();
    return source;
}

inline std::vector<block::Entry> ledger_of(const char* title) {
    std::vector<workshop::DemoJob> jobs = workshop::harbour_jobs();
    workshop::add_cards(jobs);
    for (const workshop::DemoJob& job : jobs)
        if (std::get<block::JobOpened>(job.entries.front().payload).title.starts_with(title))
            return job.entries;
    ADD_FAILURE() << "no job " << title;
    return {};
}

/// Rows of a page's tables as plain words.
inline std::vector<QStringList> rows_in(const QString& html) {
    static const QRegularExpression row(QStringLiteral("<tr>(.*?)</tr>"),
                                        QRegularExpression::DotMatchesEverythingOption),
        cell(QStringLiteral("<td[^>]*>(.*?)</td>"), QRegularExpression::DotMatchesEverythingOption);
    std::vector<QStringList> rows;
    for (auto r = row.globalMatch(html); r.hasNext();) {
        const QString inside = r.next().captured(1);
        QStringList cells;
        for (auto c = cell.globalMatch(inside); c.hasNext();) {
            QTextDocument words;
            words.setHtml(c.next().captured(1));
            cells << words.toPlainText().replace(QChar::Nbsp, QLatin1Char(' ')).trimmed();
        }
        if (!cells.isEmpty())
            rows.push_back(cells);
    }
    return rows;
}

inline const QStringList* row_of(const std::vector<QStringList>& rows, const std::string& name) {
    const auto found =
        std::ranges::find(rows, QString::fromStdString(name), [](const auto& row) { return row.front(); });
    return found == rows.end() ? nullptr : &*found;
}

} // namespace pallix::test
