// SPDX-License-Identifier: GPL-3.0-or-later
// Where people write a decimal comma, papers have one; what other programs read keeps its point.
#include "reporting/report.h"

#include "paper_tables.h"
#include "reporting/data_out.h"
#include "wording/common/lengths.h"

#include <QFile>
#include <QFileInfo>
#include <QTemporaryDir>

using namespace pallix;
using reporting::PaperKind;
using test::ledger_of;
using test::source_of;

namespace {

class DecimalComma : public testing::Test {
  protected:
    void TearDown() override { wording::show_decimal_comma(false); }
};

TEST_F(DecimalComma, StandsInPapers) {
    const test::Told job(ledger_of("Gannet"));
    const QString points = reporting::html_of(source_of(job), {PaperKind::passport, {}, ""});
    wording::show_decimal_comma(true);
    const QString commas = reporting::html_of(source_of(job), {PaperKind::passport, {}, ""});
    static const QRegularExpression point(QStringLiteral("\\d\\.\\d{3}\\b")), comma(QStringLiteral("\\d,\\d{3}\\b"));
    const auto count = [](const QString& html, const QRegularExpression& sign) {
        auto found = sign.globalMatch(html);
        int n = 0;
        for (; found.hasNext(); found.next())
            ++n;
        return n;
    };
    ASSERT_GT(count(points, point), 50);
    EXPECT_GE(count(commas, comma), count(points, point)) << "every length";
    EXPECT_EQ(count(commas, point), 0);
}

TEST_F(DecimalComma, StaysAPointInFilesForPrograms) {
    const test::Told job(ledger_of("Gannet"));
    const QTemporaryDir folder;
    const auto written = [&](PaperKind kind, const QString& name) {
        QMap<QString, QByteArray> texts;
        const auto files = reporting::write_paper(source_of(job), {kind, {}, ""}, folder.filePath(name));
        EXPECT_TRUE(files);
        for (const QString& path : files.value_or(QStringList())) {
            QFile file(path);
            EXPECT_TRUE(file.open(QIODevice::ReadOnly));
            if (!path.contains(QStringLiteral("ledger"))) // its column of sentences is for people
                texts[QFileInfo(path).fileName()] = file.readAll();
        }
        return texts;
    };
    const auto data = written(PaperKind::data, QStringLiteral("all.csv"));
    const auto places = written(PaperKind::coordinates, QStringLiteral("places.csv"));
    const auto ledger = block::payload_json(job.entries.back().payload);
    wording::show_decimal_comma(true);
    EXPECT_GT(data.size(), 3);
    EXPECT_EQ(written(PaperKind::data, QStringLiteral("all.csv")), data);
    EXPECT_EQ(written(PaperKind::coordinates, QStringLiteral("places.csv")), places);
    EXPECT_EQ(block::payload_json(job.entries.back().payload), ledger);
}

} // namespace
