// SPDX-License-Identifier: GPL-3.0-or-later
// Papers, tables, drawings and codes as other programs read them back: poppler, zbar, openpyxl, Python's csv, ezdxf.
#include "reporting/report.h"

#include "block/digest.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "large_job.h"
#include "paper_tables.h"
#include "planning/common/coordinates.h"
#include "planning/common/outcomes.h"
#include "read_back.h"
#include "reporting/bench_papers.h"
#include "reporting/code_picture.h"
#include "reporting/coordinates.h"
#include "reporting/customer_report.h"
#include "reporting/data_out.h"
#include "reporting/label.h"
#include "wording/report/coordinate_words.h"
#include "wording/report/outcome_words.h"
#include "workshop/harbour.h"

#include <QBuffer>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTextDocument>
#include <map>

using namespace pallix;
using namespace pallix::reporting;
using test::expect_legible;
using test::inches;
using test::ledger_of;
using test::mm;
using test::Page;
using test::row_of;
using test::rows_in;
using test::said_by;
using test::source_of;

namespace {

constexpr std::array printed{PaperKind::passport, PaperKind::customer, PaperKind::estimate, PaperKind::work_sheet,
                             PaperKind::caps,     PaperKind::boring,   PaperKind::readings, PaperKind::coordinates};

std::string name_of(PaperKind kind) {
    return paper_keys[static_cast<std::size_t>(kind)];
}

/// How often each letter stands there; what a type joins to one sign is taken apart again.
std::map<QChar, int> letters_of(QString text) {
    for (const auto& [joined, apart] : {std::pair("ﬁ", "fi"), {"ﬂ", "fl"}, {"ﬀ", "ff"}, {"ﬃ", "ffi"}, {"ﬄ", "ffl"}})
        text.replace(QString::fromUtf8(joined), QString::fromUtf8(apart));
    text.replace(QStringLiteral("&amp;"), QStringLiteral("&")).replace(QStringLiteral("&lt;"), QStringLiteral("<"));
    text.replace(QStringLiteral("&gt;"), QStringLiteral(">")).replace(QStringLiteral("&quot;"), QStringLiteral("\""));
    std::map<QChar, int> letters;
    for (const QChar c : text)
        if (c.isLetterOrNumber())
            ++letters[c];
    return letters;
}

QJsonDocument json_by(const char* tool, const QString& file) {
    return QJsonDocument::fromJson(said_by(QStringLiteral("/usr/bin/python3"),
                                           {QStringLiteral(PALLIX_TOOLS "/") + QString::fromLatin1(tool), file}));
}

/// "circle LAYER x y radius", line by line, by ezdxf.
std::vector<QStringList> drawn_by_ezdxf(const QString& file) {
    const QString said = QString::fromUtf8(
        said_by(QStringLiteral("/usr/bin/python3"), {QStringLiteral(PALLIX_TOOLS "/read_dxf.py"), file}));
    std::vector<QStringList> lines;
    for (const QString& line : said.split(QLatin1Char('\n'), Qt::SkipEmptyParts))
        lines.push_back(line.split(QLatin1Char(' ')));
    return lines;
}

} // namespace

TEST(Report, EveryPaperOfTheHarbourIsLegibleAndWholeOnBothPapersInBothUnits) {
    std::vector<workshop::DemoJob> jobs = workshop::harbour_jobs();
    workshop::add_cards(jobs);
    for (const workshop::DemoJob& told : jobs) {
        const test::Told job(told.entries);
        for (const PaperKind kind : printed)
            for (const auto& [paper, l] : {std::pair(QPageSize::A4, mm), std::pair(QPageSize::Letter, inches)}) {
                const std::string what = intake_of(job.state).title + ", " + name_of(kind);
                const QString html = html_of(source_of(job, l), {kind, QPageSize(paper), "boring mill"});
                const auto pages = test::read_back(html, foot_of(job.state), paper, is_wide(kind));
                expect_legible(pages, what);
                QTextDocument meant;
                meant.setHtml(html);
                QString read;
                for (const Page& page : pages)
                    read += page.all();
                const auto is = letters_of(read);
                for (const auto& [letter, times] : letters_of(meant.toPlainText()))
                    EXPECT_GE(is.contains(letter) ? is.at(letter) : 0, times)
                        << what << ": of \"" << QString(letter).toStdString() << "\" something is lost";
            }
    }
}

TEST(Report, ALargeJobIsLegible) {
    const test::Told job(test::large_job());
    ASSERT_TRUE(intake_of(job.state).troubles.empty()) << intake_of(job.state).troubles.front().words;
    for (const PaperKind kind : printed) {
        const auto pages = test::read_back(html_of(source_of(job), {kind, QPageSize(QPageSize::A4), ""}),
                                           foot_of(job.state), QPageSize::A4, is_wide(kind));
        expect_legible(pages, name_of(kind));
        EXPECT_TRUE(pages.back().has(QStringLiteral("S26-100"))) << "whose page it is";
    }
}

TEST(Report, ThePassportsFirstPageIsTheOutcomes) {
    for (const char* title : {"Samphire", "Puffling, port", "Gannet", "Tystie"})
        for (const wording::LengthText& l : {mm, inches}) {
            const test::Told job(ledger_of(title));
            const auto rows = rows_in(passport_html(source_of(job, l)));
            const auto all = planning::outcomes(job.state, job.assessment);
            ASSERT_FALSE(all.empty()) << title;
            bool any_left = false;
            for (const planning::Outcome& o : all)
                any_left |= o.left.has_value();
            for (const planning::Outcome& o : all) {
                const QStringList* row = row_of(rows, wording::told_name(job.state, o));
                ASSERT_TRUE(row) << wording::told_name(job.state, o);
                EXPECT_EQ(row->at(1).toStdString(), wording::span_text(o, o.found, l));
                if (any_left) {
                    EXPECT_EQ(row->at(2).toStdString(), wording::span_text(o, o.left, l));
                }
                EXPECT_EQ(row->back().toStdString(), wording::standing_words(o));
            }
        }
}

TEST(Report, ThePassportsMainsAreTheEvaluations) {
    const test::Told job(ledger_of("Puffling, port"));
    const auto rows = rows_in(passport_html(source_of(job)));
    const auto& mains = tunnel_of(job.state).latest->evaluation.mains;
    ASSERT_EQ(mains.size(), 8u);
    for (const block::MainResult& main : mains) {
        const QStringList* row = row_of(rows, "main " + std::to_string(main.id.number) + ", " + main.level);
        ASSERT_TRUE(row) << main.id.text();
        EXPECT_EQ(row->at(1).toStdString(), mm.plain(main.diameter));
        EXPECT_NEAR(row->at(1).toDouble(), main.diameter, 0.0005);
        EXPECT_TRUE(row->contains(QString::fromStdString(mm.with_sign(main.centre.z))));
    }
}

TEST(Report, ThePassportIsWhole) {
    const test::Told job(ledger_of("Puffling, port"));
    const QString html = passport_html(source_of(job));
    for (const char* part :
         {"Main tunnel", "Camshaft and dowels", "Decks, as found", "Places, right bank, cylinders",
          "Places, left bank, lifters", "Limits", "Instruments", "Digest of the ledger", "Serial S26-"})
        EXPECT_TRUE(html.contains(QString::fromLatin1(part))) << part;
    EXPECT_TRUE(html.contains(QStringLiteral("the line to engrave: S26-")));
}

TEST(Report, PhotographsStandInThePassportWhereTheyAreAtHand) {
    std::vector<block::Entry> entries = ledger_of("Gannet");
    QImage photograph(400, 300, QImage::Format_RGB32);
    photograph.fill(Qt::darkGray);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    photograph.save(&buffer, "PNG");
    const std::string digest = block::sha256_hex(bytes.toStdString());
    for (const auto& [sha, words] : {std::pair(digest, "the left deck, <before>"), {std::string(64, '0'), "gone"}})
        entries.push_back({entries.back().sequence + 1, entries.back().time, "Marit",
                           block::PictureKept{"deck.png", sha, bytes.size(), "", words}});
    const test::Told job(entries);
    PaperSource source = source_of(job);
    EXPECT_FALSE(passport_html(source).contains(QStringLiteral("Photographs"))) << "made from the job's file alone";
    source.of_book.picture = [&](const std::string& sha) { return sha == digest ? bytes : QByteArray("no picture"); };
    const QString html = passport_html(source);
    EXPECT_TRUE(html.contains(QStringLiteral("Photographs")));
    EXPECT_TRUE(html.contains(QStringLiteral("the left deck, &lt;before&gt;")));
    EXPECT_FALSE(html.contains(QStringLiteral("gone")));
}

TEST(Report, ForecastsStandBesideWhatCame) {
    const test::Told decked(workshop::harbour_past().front().entries); // both decks, until they were clean
    const auto rows = rows_in(passport_html(source_of(decked)));
    const QStringList* row = row_of(rows, "what comes off a deck");
    ASSERT_TRUE(row);
    EXPECT_TRUE(row->at(1).endsWith(QStringLiteral("of 2"))) << row->at(1).toStdString();
    const test::Told untouched(ledger_of("Lantern"));
    EXPECT_FALSE(passport_html(source_of(untouched)).contains(QStringLiteral("Forecasts against what came")));
}

TEST(Report, CoordinatesAreThePlansInEveryForm) {
    const test::Told job(ledger_of("Gannet"));
    const PaperSource source = source_of(job);
    const block::MachineAxes* surfacer = source.shop().machine("surfacer"); // Y -X Z
    ASSERT_TRUE(surfacer);
    const auto sheets = planning::coordinate_sheets(job.state, job.assessment);
    const auto tables = coordinate_tables(source, surfacer);
    ASSERT_EQ(tables.size(), sheets.size());
    const QTemporaryDir folder;
    const auto file = [&folder](const char* suffix) {
        return folder.filePath(QStringLiteral("holes.") + QString::fromLatin1(suffix));
    };
    for (const char* suffix : {"csv", "xlsx", "dxf", "pdf"})
        ASSERT_TRUE(write_paper(source, {PaperKind::coordinates, QPageSize(QPageSize::A4), "surfacer"}, file(suffix)))
            << suffix;

    const QJsonArray csv = json_by("read_csv.py", file("csv")).array();
    const QJsonObject book = json_by("read_xlsx.py", file("xlsx")).object();
    const QJsonArray heads = csv.at(0).toArray();
    const auto column = [&heads](const char* head) {
        for (qsizetype i = 0; i < heads.size(); ++i)
            if (heads[i].toString() == QLatin1String(head))
                return i;
        ADD_FAILURE() << "no column " << head;
        return qsizetype{};
    };
    qsizetype line = 1;
    std::size_t targets = 0;
    for (std::size_t i = 0; i < sheets.size(); ++i) {
        const QJsonArray sheet = book[QString::fromStdString(tables[i].name)].toArray();
        ASSERT_EQ(sheet.size(), static_cast<qsizetype>(sheets[i].holes.size() + 1)) << tables[i].name;
        for (std::size_t k = 0; k < sheets[i].holes.size(); ++k, ++line) {
            const planning::HoleCoordinates& hole = sheets[i].holes[k];
            const QJsonArray row = csv.at(line).toArray();
            EXPECT_EQ(row[column("hole")].toString().toStdString(), hole.id.text());
            EXPECT_NEAR(row[column("blueprint along mm")].toString().toDouble(), hole.blueprint.x, 1e-4);
            EXPECT_NEAR(row[column("found across mm")].toString().toDouble(), hole.found->y, 1e-4);
            if (hole.target) {
                ++targets;
                EXPECT_NEAR(row[column("target along mm")].toString().toDouble(), hole.target->x, 1e-4);
                // Y -X Z: along the crankshaft is the machine's Y, across its −X.
                EXPECT_NEAR(row[column("target Y mm")].toString().toDouble(), hole.target->x, 1e-4);
                EXPECT_NEAR(row[column("target X mm")].toString().toDouble(), -hole.target->y, 1e-4);
            }
            const QJsonArray in_book = sheet.at(static_cast<qsizetype>(k + 1)).toArray();
            EXPECT_EQ(in_book[0].toString().toStdString(), hole.id.text());
            EXPECT_NEAR(in_book[3].toDouble(), hole.found->x, 1e-4) << "found along";
        }
    }
    EXPECT_EQ(line, csv.size());
    EXPECT_GT(targets, 8u);

    std::size_t circles = 0;
    for (const QStringList& drawn : drawn_by_ezdxf(file("dxf"))) {
        if (drawn[0] == QStringLiteral("unit")) {
            EXPECT_EQ(drawn[1], QStringLiteral("4")) << "millimetres";
        }
        if (drawn[0] == QStringLiteral("errors")) {
            EXPECT_EQ(drawn[1], QStringLiteral("0"));
        }
        if (drawn[0] != QStringLiteral("circle") || drawn[1] != QStringLiteral("R_CYLINDERS_TARGET"))
            continue;
        ++circles;
        EXPECT_TRUE(std::ranges::any_of(sheets.front().holes, [&](const auto& hole) {
            return std::abs(drawn[2].toDouble() + hole.target->y) < 2e-6 &&
                   std::abs(drawn[3].toDouble() - hole.target->x) < 2e-6;
        })) << drawn.join(QLatin1Char(' ')).toStdString();
    }
    EXPECT_EQ(circles, sheets.front().holes.size());

    const auto pages = test::words_of_pdf(file("pdf"));
    for (const planning::HoleCoordinates& hole : sheets.front().holes)
        EXPECT_TRUE(pages.front().has(QString::fromStdString(mm.plain(hole.target->x)))) << hole.id.text();
    EXPECT_TRUE(pages.front().all().contains(QStringLiteral("touch one hole by hand before the spindle turns")));
}

TEST(Report, InchesAreStatedAndMeant) {
    const test::Told job(ledger_of("Gannet"));
    const auto in_mm = coordinate_tables(source_of(job), nullptr).front(),
               in_inch = coordinate_tables(source_of(job, inches), nullptr).front();
    ASSERT_EQ(in_mm.heads.size(), in_inch.heads.size());
    for (std::size_t i = 3; i < in_mm.heads.size(); ++i) {
        EXPECT_TRUE(in_inch.heads[i].ends_with(" in")) << in_inch.heads[i];
        if (in_mm.rows.front()[i].number) {
            EXPECT_NEAR(*in_inch.rows.front()[i].number * 25.4, *in_mm.rows.front()[i].number, 3e-4);
        }
    }
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("holes.dxf"));
    ASSERT_TRUE(write_paper(source_of(job, inches), {PaperKind::coordinates, {}, ""}, file));
    EXPECT_EQ(drawn_by_ezdxf(file).front(), (QStringList{QStringLiteral("unit"), QStringLiteral("1")})) << "inches";
}

TEST(Report, AnIndependentReaderDecodesTheCode) {
    const test::Told job(ledger_of("Samphire"));
    const PaperSource source = source_of(job);
    const std::string meant = code_text(job.state, job.assessment, job.entries, mm);
    EXPECT_TRUE(meant.starts_with("serial S26-")) << meant;
    EXPECT_NE(meant.find("digest " + block::digest_of(job.entries).substr(0, 16)), std::string::npos) << meant;
    const QTemporaryDir folder;
    const auto decoded = [](const QString& picture) {
        return said_by(QStringLiteral("zbarimg"), {QStringLiteral("--raw"), QStringLiteral("-q"), picture})
            .trimmed()
            .toStdString();
    };
    const QString png = folder.filePath(QStringLiteral("label.png"));
    ASSERT_TRUE(write_paper(source, {PaperKind::label, {}, ""}, png));
    EXPECT_EQ(decoded(png), meant);
    for (const PaperKind kind : {PaperKind::label, PaperKind::passport}) {
        const QString pdf = folder.filePath(QStringLiteral("paper.pdf"));
        ASSERT_TRUE(write_paper(source, {kind, QPageSize(QPageSize::A4), ""}, pdf));
        said_by(QStringLiteral("pdftoppm"),
                {QStringLiteral("-r"), QStringLiteral("200"), QStringLiteral("-png"), QStringLiteral("-singlefile"),
                 pdf, folder.filePath(QStringLiteral("page"))});
        EXPECT_EQ(decoded(folder.filePath(QStringLiteral("page.png"))), meant) << name_of(kind);
    }
}

TEST(Report, ALabelIsLegibleOnEveryCommonSize) {
    const test::Told job(ledger_of("Samphire"));
    PaperSource source = source_of(job);
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("label.pdf"));
    for (const block::LabelSize& size : block::common_labels()) {
        source.of_book.shop.label = size;
        ASSERT_TRUE(write_paper(source, {PaperKind::label, {}, ""}, file));
        const auto pages = test::words_of_pdf(file);
        ASSERT_EQ(pages.size(), 1u) << block::label_text(size);
        EXPECT_NEAR(pages[0].width, size.width * 72 / 25.4, 1) << block::label_text(size);
        for (const test::Word& word : pages[0].words) {
            EXPECT_GE(word.bottom - word.top, 9) << block::label_text(size) << ": " << word.text.toStdString();
            EXPECT_TRUE(word.left >= 0 && word.right <= pages[0].width && word.bottom <= pages[0].height + 0.5)
                << block::label_text(size) << ": " << word.text.toStdString();
        }
        EXPECT_TRUE(pages[0].all().contains(QStringLiteral("S26"))) << block::label_text(size);
        static const QRegularExpression cut(QStringLiteral("[0-9.]…"));
        EXPECT_FALSE(cut.match(pages[0].all().remove(QStringLiteral("S26-006"))).hasMatch())
            << block::label_text(size)
            << ": a number that is cut short is another one: " << pages[0].all().toStdString();
    }
}

TEST(Report, WithoutASerialThereIsNoCodeAndTheLabelSaysSo) {
    const test::Told job(workshop::harbour_jobs().front().entries);
    EXPECT_EQ(code_text(job.state, job.assessment, job.entries, mm), "");
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("label.pdf"));
    ASSERT_TRUE(write_paper(source_of(job), {PaperKind::label, {}, ""}, file));
    EXPECT_TRUE(test::words_of_pdf(file).front().all().contains(QStringLiteral("no serial")));
}

TEST(Report, DataReadBackIsWhatTheJobHolds) {
    const test::Told job(ledger_of("Gannet"));
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("all.xlsx"));
    ASSERT_TRUE(write_paper(source_of(job), {PaperKind::data, {}, ""}, file));
    const QJsonObject book = json_by("read_xlsx.py", file).object();
    const auto csv_files =
        write_paper(source_of(job), {PaperKind::data, {}, ""}, folder.filePath(QStringLiteral("all.csv")));
    ASSERT_TRUE(csv_files);
    const auto tables = data_tables(source_of(job));
    ASSERT_EQ(static_cast<std::size_t>(csv_files->size()), tables.size());
    for (std::size_t t = 0; t < tables.size(); ++t) {
        const CellTable& table = tables[t];
        const QJsonArray sheet = book[QString::fromStdString(table.name)].toArray(),
                         csv = json_by("read_csv.py", csv_files->at(static_cast<qsizetype>(t))).array();
        ASSERT_EQ(sheet.size(), static_cast<qsizetype>(table.rows.size() + 1)) << table.name;
        ASSERT_EQ(csv.size(), sheet.size()) << table.name;
        for (std::size_t r = 0; r < table.rows.size(); ++r) {
            const auto line = static_cast<qsizetype>(r + 1);
            for (std::size_t c = 0; c < table.rows[r].size(); ++c) {
                const QJsonValue cell = sheet[line].toArray()[static_cast<qsizetype>(c)];
                const QString typed = csv[line].toArray()[static_cast<qsizetype>(c)].toString();
                if (const auto& number = table.rows[r][c].number) {
                    EXPECT_DOUBLE_EQ(cell.toDouble(), *number) << table.name << " " << r;
                    EXPECT_EQ(typed.toDouble(), *number) << table.name << " " << r << ": every digit that it needs";
                } else if (const auto& words = table.rows[r][c].words; words && words->size() < 32000) {
                    EXPECT_EQ(cell.toString().toStdString(), *words) << table.name << " " << r;
                }
            }
        }
    }
    const QJsonArray ledger = book[QStringLiteral("ledger")].toArray();
    EXPECT_EQ(ledger.size(), static_cast<qsizetype>(job.entries.size() + 1));
    EXPECT_GT(book[QStringLiteral("touches")].toArray().size(), 500);
}

TEST(Report, WhatComesFromElsewhereIsInertInEveryForm) {
    const std::string evil =
        "=HYPERLINK(\"http://nowhere\")<script>alert(1)</script><img src=\"http://nowhere/x.png\">&";
    std::vector<block::Entry> entries = ledger_of("Gannet");
    std::get<block::JobOpened>(entries.front().payload).title = evil;
    std::get<block::JobOpened>(entries.front().payload).customer = evil;
    entries.push_back({entries.back().sequence + 1, entries.back().time, evil, block::Note{"+cmd|' /C calc'!A0"}});
    entries.push_back({entries.back().sequence + 1, entries.back().time, "%4 %1",
                       block::GatePassed{block::Rule::order, "deck.R", evil}});
    entries.push_back({entries.back().sequence + 1, entries.back().time, "Marit", block::SerialGiven{"S26-666", evil}});
    const test::Told job(entries);
    PaperSource source = source_of(job);
    source.of_book.shop.shop = evil;
    for (std::size_t kind = 0; kind < paper_keys.size(); ++kind) {
        const QString html = html_of(source, {static_cast<PaperKind>(kind), {}, ""});
        EXPECT_FALSE(html.contains(QStringLiteral("<script"))) << paper_keys[kind];
        EXPECT_FALSE(html.contains(QStringLiteral("src=\"http"))) << paper_keys[kind];
    }
    const QTemporaryDir folder;
    const QString xlsx = folder.filePath(QStringLiteral("all.xlsx"));
    ASSERT_TRUE(write_paper(source, {PaperKind::data, {}, ""}, xlsx));
    const QJsonObject book = json_by("read_xlsx.py", xlsx).object();
    for (const QString& sheet : book.keys())
        for (const auto& row : book[sheet].toArray())
            for (const auto& cell : row.toArray())
                EXPECT_FALSE(cell.isArray()) << "a formula in " << sheet.toStdString();
    const auto files = write_paper(source, {PaperKind::data, {}, ""}, folder.filePath(QStringLiteral("all.csv")));
    ASSERT_TRUE(files);
    for (const QString& file : *files)
        for (const auto& row : json_by("read_csv.py", file).array())
            for (const auto& value : row.toArray()) {
                const QString cell = value.toString();
                bool number = false;
                cell.toDouble(&number);
                EXPECT_TRUE(number || cell.isEmpty() || !QStringLiteral("=+-@").contains(cell[0]))
                    << file.toStdString() << ": " << cell.toStdString();
            }
}

TEST(Report, WhatCannotBeWrittenIsSaid) {
    const test::Told job(ledger_of("Gannet"));
    const auto why = [&](PaperKind kind, const char* file) {
        const auto written =
            write_paper(source_of(job), {kind, QPageSize(QPageSize::A4), ""}, QString::fromLatin1(file));
        return written ? std::string() : written.error().toStdString();
    };
    EXPECT_EQ(why(PaperKind::passport, "x.docx"), "x.docx cannot be written: a passport is written as .pdf, .html");
    EXPECT_EQ(why(PaperKind::data, "x"), "x cannot be written: a data is written as .xlsx, .csv");
    for (const auto& [kind, file] : {std::pair(PaperKind::passport, "/nowhere/x.pdf"),
                                     {PaperKind::passport, "/nowhere/x.html"},
                                     {PaperKind::coordinates, "/nowhere/x.csv"},
                                     {PaperKind::coordinates, "/nowhere/x.xlsx"},
                                     {PaperKind::coordinates, "/nowhere/x.dxf"},
                                     {PaperKind::label, "/nowhere/x.png"},
                                     {PaperKind::label, "/nowhere/x.pdf"},
                                     {PaperKind::data, "/nowhere/x.csv"},
                                     {PaperKind::data, "/nowhere/x.xlsx"}})
        EXPECT_NE(why(kind, file), "") << file;
}

TEST(Report, AJobWithoutAnythingHasItsPapersToo) {
    const test::Told job(std::vector<block::Entry>(1, ledger_of("Gannet").front()));
    for (std::size_t kind = 0; kind < paper_keys.size(); ++kind)
        EXPECT_FALSE(html_of(source_of(job), {static_cast<PaperKind>(kind), {}, ""}).isEmpty()) << paper_keys[kind];
}

TEST(Report, ReadingSheetsNameThePlacesInTheOrderTheyAreAskedFor) {
    const test::Told job(std::vector<block::Entry>(1, ledger_of("Gannet").front()));
    const QString html = reading_sheet_html(source_of(job));
    const auto first = html.indexOf(QStringLiteral("main 1, front, upright")),
               next = html.indexOf(QStringLiteral("main 1, front, 60"));
    EXPECT_GT(first, 0);
    EXPECT_GT(next, first);
    EXPECT_TRUE(html.contains(QStringLiteral("Typed in later")));
}
