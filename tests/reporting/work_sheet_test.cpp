// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/work_sheet.h"

#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/steps/work_sheet.h"
#include "reporting/paper.h"
#include "workshop/harbour.h"

#include <QBuffer>
#include <QPdfWriter>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::reporting;

TEST(WorkSheetPaper, NamesEveryOpenStepWithItsLetters) {
    constexpr std::size_t ferry = 5;
    const auto entries = workshop::harbour_jobs().at(ferry).entries;
    const block::Folded state = block::fold(entries);
    const planning::Assessment a = planning::assess(state);
    const QString html = work_sheet_html(state, a, wording::LengthText(block::Unit::mm), QStringLiteral("2026-03-06"));
    int named = 0;
    for (const planning::Step& step : a.steps.steps)
        if ((step.state == planning::StepState::now || step.state == planning::StepState::ready) && !step.aside &&
            !step.place) {
            EXPECT_TRUE(html.contains(QString::fromStdString(planning::sheet_code(step.id)))) << step.id;
            ++named;
        }
    EXPECT_GE(named, 1);
    EXPECT_TRUE(html.contains(QStringLiteral("cylinder hone")));
    EXPECT_TRUE(html.contains(QStringLiteral("Gannet, island ferry")));
}

TEST(WorkSheetPaper, WordsFromElsewhereStandAsTheyAre) {
    const QString html =
        day_sheet_html({{QStringLiteral("<b>bold</b>"), {}, QStringLiteral("ready"), {}, {}, {}, false}},
                       QStringLiteral("2026-03-06"));
    EXPECT_TRUE(html.contains(QStringLiteral("&lt;b&gt;bold")));
    EXPECT_TRUE(day_sheet_html({}, {}).contains(QStringLiteral("No job")));
}

TEST(WorkSheetPaper, TakesAsManyPagesAsItNeeds) {
    std::vector<DayLine> jobs(
        120, {QStringLiteral("a job"), {}, QStringLiteral("ready"), QStringLiteral("cut"), {}, {}, true});
    const auto pages = [](const std::vector<DayLine>& lines) {
        QBuffer file;
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        {
            QPdfWriter writer(&file);
            print_paper(day_sheet_html(lines, QStringLiteral("today")), {}, writer);
        }
        return file.data().count("/Type /Page\n");
    };
    EXPECT_EQ(pages({jobs.front()}), 1);
    EXPECT_GT(pages(jobs), 2);
}
