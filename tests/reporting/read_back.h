// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "reporting/paper.h"
#include "reporting/passport.h"

#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <algorithm>
#include <gmock/gmock.h>
#include <vector>

namespace pallix::test {

/// A word of a page, in points from its top left corner.
struct Word {
    QString text;
    double left = 0, top = 0, right = 0, bottom = 0;
};
struct Page {
    double width = 0, height = 0;
    std::vector<Word> words;
    [[nodiscard]] bool has(const QString& text) const {
        return std::ranges::find(words, text, &Word::text) != words.end();
    }
    [[nodiscard]] QString all() const {
        QStringList text;
        for (const Word& word : words)
            text << word.text;
        return text.join(QLatin1Char(' '));
    }
};

/// The words of a PDF page by page, as poppler finds them.
inline std::vector<Page> words_of_pdf(const QString& file);

inline std::vector<Page> read_back(const QString& html, const reporting::PaperFoot& foot, QPageSize::PageSizeId paper,
                                   bool wide = false) {
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("p.pdf"));
    EXPECT_TRUE(reporting::save_paper_pdf(html, foot, QPageSize(paper), file, wide));
    if (const QString kept = qEnvironmentVariable("PALLIX_KEEP_PAPERS"); !kept.isEmpty()) { // to be looked at
        static int number = 0;
        QFile::copy(file, QStringLiteral("%1/paper-%2.pdf").arg(kept).arg(++number));
    }
    return words_of_pdf(file);
}

inline std::vector<Page> words_of_pdf(const QString& file) {
    QProcess reader;
    reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-bbox"), file, QStringLiteral("-")});
    EXPECT_TRUE(reader.waitForFinished()) << "poppler-utils are missing";
    const QString out = QString::fromUtf8(reader.readAllStandardOutput());
    static const QRegularExpression what(
        QStringLiteral("<page width=\"([0-9.]+)\" height=\"([0-9.]+)\"|<word xMin=\"([-0-9.]+)\" yMin=\"([-0-9.]+)\" "
                       "xMax=\"([-0-9.]+)\" yMax=\"([-0-9.]+)\">([^<]*)<"));
    std::vector<Page> pages;
    for (auto it = what.globalMatch(out); it.hasNext();) {
        const auto m = it.next();
        if (!m.captured(1).isEmpty())
            pages.push_back({m.captured(1).toDouble(), m.captured(2).toDouble(), {}});
        else
            pages.back().words.push_back({m.captured(7), m.captured(3).toDouble(), m.captured(4).toDouble(),
                                          m.captured(5).toDouble(), m.captured(6).toDouble()});
    }
    return pages;
}

/// A job as it was told, with what follows from it.
struct Told {
    std::vector<block::Entry> entries;
    block::Folded state;
    planning::Assessment assessment;
    explicit Told(std::vector<block::Entry> told)
        : entries(std::move(told)), state(block::fold(entries)), assessment(planning::assess(state)) {}
    [[nodiscard]] QString html(block::Unit unit) const {
        return reporting::passport_html(
            {state, assessment, entries, wording::LengthText(unit), 1, QStringLiteral("2026-03-05")});
    }
};

/// Nothing is smaller than 9 points, leaves its page, or stands over anything else.
inline void expect_legible(const std::vector<Page>& pages, const std::string& what) {
    constexpr double least = 9, hair = 0.5; // pt; a word is as high as its type or higher
    ASSERT_FALSE(pages.empty()) << what;
    for (std::size_t p = 0; p < pages.size(); ++p) {
        const Page& page = pages[p];
        EXPECT_TRUE(page.all().contains(QStringLiteral("page %1 of %2").arg(p + 1).arg(pages.size()))) << what;
        for (std::size_t i = 0; i < page.words.size(); ++i) {
            const Word& w = page.words[i];
            EXPECT_GE(w.bottom - w.top, least) << what << ", page " << p + 1 << ": " << w.text.toStdString();
            EXPECT_TRUE(w.left >= -hair && w.top >= -hair && w.right <= page.width + hair &&
                        w.bottom <= page.height + hair)
                << what << ", page " << p + 1 << ": " << w.text.toStdString();
            const bool of_foot = w.top > page.height - 50; // margin and the foot's line
            EXPECT_TRUE(of_foot || w.bottom < page.height - 55)
                << what << ", page " << p + 1 << ": cut through by the foot: " << w.text.toStdString() << " at "
                << w.top << " to " << w.bottom << " of " << page.height;
            for (std::size_t k = i + 1; k < page.words.size(); ++k) {
                const Word& v = page.words[k];
                const double across = std::min(w.right, v.right) - std::max(w.left, v.left),
                             down = std::min(w.bottom, v.bottom) - std::max(w.top, v.top);
                EXPECT_FALSE(across > hair && down > 3) // boxes of lines touch, their letters do not
                    << what << ", page " << p + 1 << ": " << w.text.toStdString() << " over " << v.text.toStdString();
            }
        }
    }
}

/// What another program says of files: its standard output. A program that is missing or fails is a failure.
inline QByteArray said_by(const QString& program, const QStringList& arguments) {
    QProcess process;
    process.start(program, arguments);
    EXPECT_TRUE(process.waitForFinished(60000) && process.exitCode() == 0)
        << program.toStdString() << ": " << process.readAllStandardError().toStdString();
    return process.readAllStandardOutput();
}

} // namespace pallix::test
