// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/report.h"

#include "block/state/intake_state.h"
#include "reporting/bench_papers.h"
#include "reporting/code_picture.h"
#include "reporting/coordinates.h"
#include "reporting/customer_report.h"
#include "reporting/data_out.h"
#include "reporting/label.h"
#include "reporting/paper.h"
#include "reporting/passport.h"
#include "reporting/reckoning.h"
#include "reporting/sheet.h"
#include "reporting/work_sheet.h"

#include <QFileInfo>
#include <QFontDatabase>

static void load_paper_resources() { // outside of any namespace: Q_INIT_RESOURCE wants it so
    Q_INIT_RESOURCE(paper_fonts);
}

namespace pallix::reporting {
namespace {

const block::MachineAxes* axes_of(const PaperSource& s, const PaperWish& wish) {
    return s.shop().machine(wish.machine);
}

QString data_html(const PaperSource& s) {
    Sheet sheet;
    sheet.add(QStringLiteral("<h1>%1</h1>").arg(q(intake_of(s.state).title)));
    sheet.quiet(QStringLiteral("Everything of the job as tables for other programs; lengths in mm."));
    Sheet::Rows rows;
    for (const CellTable& table : data_tables(s))
        rows += Sheet::row({q(table.name), QString::number(table.rows.size())});
    sheet.table({QStringLiteral("table"), QStringLiteral("rows")}, rows);
    return paper_html(intake_of(s.state).title, sheet.body());
}

QString label_html(const PaperSource& s) {
    Sheet sheet;
    sheet.add(QStringLiteral("<h1>Label, %1 mm</h1>").arg(q(block::label_text(s.shop().label))));
    const int width = static_cast<int>(s.shop().label.width * 7);
    sheet.add(QStringLiteral("<table border=\"1\" cellspacing=\"0\" cellpadding=\"0\"><tr><td>%1</td></tr></table>")
                  .arg(Sheet::picture(picture_address(label_picture(s)), width)));
    return paper_html(intake_of(s.state).title, sheet.body());
}

/// "job.csv" becomes "job-readings.csv", one for each table.
tl::expected<QStringList, QString> write_csv(const std::vector<CellTable>& tables, const QString& file) {
    const QFileInfo info(file);
    QStringList written;
    for (const CellTable& table : tables) {
        const QString name = info.path() + QLatin1Char('/') + info.completeBaseName() + QLatin1Char('-') +
                             QString::fromStdString(table.name).replace(QLatin1Char(' '), QLatin1Char('-')) +
                             QStringLiteral(".csv");
        if (const auto saved = save_bytes(csv_of(table), name); !saved)
            return tl::unexpected(saved.error());
        written << name;
    }
    return written;
}

} // namespace

QStringList formats_of(PaperKind kind) {
    switch (kind) {
    case PaperKind::coordinates:
        return {QStringLiteral("pdf"), QStringLiteral("html"), QStringLiteral("csv"), QStringLiteral("xlsx"),
                QStringLiteral("dxf")};
    case PaperKind::label:
        return {QStringLiteral("pdf"), QStringLiteral("png")};
    case PaperKind::data:
        return {QStringLiteral("xlsx"), QStringLiteral("csv")};
    default:
        return {QStringLiteral("pdf"), QStringLiteral("html")};
    }
}

QString html_of(const PaperSource& s, const PaperWish& wish) {
    switch (wish.kind) {
    case PaperKind::passport:
        return passport_html(s);
    case PaperKind::customer:
        return customer_report_html(s);
    case PaperKind::estimate:
        return estimate_html(s);
    case PaperKind::work_sheet:
        return work_sheet_html(s.state, s.assessment, s.lengths, s.printed);
    case PaperKind::caps:
        return cap_sheet_html(s);
    case PaperKind::boring:
        return boring_sheet_html(s);
    case PaperKind::readings:
        return reading_sheet_html(s);
    case PaperKind::coordinates:
        return coordinates_html(s, axes_of(s, wish));
    case PaperKind::label:
        return label_html(s);
    case PaperKind::reckoning:
        return reckoning_html(s);
    case PaperKind::data:
        break;
    }
    return data_html(s);
}

tl::expected<QStringList, QString> write_paper(const PaperSource& s, const PaperWish& wish, const QString& file) {
    const QString suffix = QFileInfo(file).suffix().toLower();
    if (!formats_of(wish.kind).contains(suffix))
        return tl::unexpected(QStringLiteral("%1 cannot be written: a %2 is written as .%3")
                                  .arg(file, QString::fromLatin1(paper_keys[static_cast<std::size_t>(wish.kind)]),
                                       formats_of(wish.kind).join(QStringLiteral(", ."))));
    Saved saved;
    if (wish.kind == PaperKind::data)
        return suffix == QStringLiteral("csv")
                   ? write_csv(data_tables(s), file)
                   : save_xlsx(data_tables(s), file).map([&file] { return QStringList{file}; });
    if (wish.kind == PaperKind::coordinates && suffix != QStringLiteral("pdf") && suffix != QStringLiteral("html"))
        saved = save_coordinates(s, axes_of(s, wish), file);
    else if (suffix == QStringLiteral("png"))
        saved = save_bytes(png_of(label_picture(s)), file);
    else if (wish.kind == PaperKind::label)
        saved = save_label_pdf(s, file);
    else if (suffix == QStringLiteral("html"))
        saved = save_paper_html(html_of(s, wish), file);
    else
        saved = save_paper_pdf(html_of(s, wish), foot_of(s.state), wish.paper, file, is_wide(wish.kind));
    return saved.map([&file] { return QStringList{file}; });
}

void print(const PaperSource& s, const PaperWish& wish, QPagedPaintDevice& device) {
    if (wish.kind == PaperKind::label)
        print_label(s, device);
    else
        print_paper(html_of(s, wish), foot_of(s.state), device);
}

QString file_name_of(const QString& title) {
    constexpr qsizetype longest_name = 80;
    QString name;
    for (const QChar c : title.simplified().left(longest_name))
        name += c.isLetterOrNumber() || QStringLiteral(" ,()+-_").contains(c) ? c : QLatin1Char('-');
    return name.isEmpty() ? QStringLiteral("job") : name;
}

void load_paper_fonts() {
    load_paper_resources();
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Regular.ttf"));
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Bold.ttf"));
}

} // namespace pallix::reporting
