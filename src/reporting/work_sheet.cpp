// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/work_sheet.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/work_sheet.h"
#include "reporting/paper.h"
#include "reporting/sheet.h"
#include "wording/steps/ask_words.h"
#include "wording/steps/change_words.h"
#include "wording/steps/step_words.h"

#include <QStringList>

namespace pallix::reporting {
namespace {

using planning::Ask;
using planning::AskKind;
using planning::Step;

const char* const with_room = R"(
td { padding-bottom: 7px; }
.code { font-family: monospace; font-weight: bold; }
)";

/// What is filled in by hand: the name of each ask, and room.
QString blanks(const Step& step, const wording::LengthText& l) {
    QStringList all;
    for (const Ask& ask : step.asks) {
        const bool number = ask.kind == AskKind::length || ask.kind == AskKind::count;
        const bool named = ask.kind == AskKind::choice || (ask.kind == AskKind::tick && &ask != &step.asks.front());
        if (!number && !named)
            continue;
        const std::string proposed = wording::proposed_text(ask, l);
        QString room = QStringLiteral("________");
        if (ask.kind == AskKind::choice) {
            QStringList choices;
            for (const std::string& choice : ask.choices)
                choices << QStringLiteral("☐ ") + q(choice);
            room = choices.join(QLatin1Char(' '));
        } else if (ask.kind == AskKind::tick)
            room = QStringLiteral("☐ (") + q(ask.key) + QLatin1Char(')');
        all << q(wording::ask_name(step, ask)) + QLatin1Char(' ') + room +
                   (proposed.empty() ? QString() : QStringLiteral(" (%1)").arg(q(proposed)));
    }
    return all.join(QStringLiteral(" · "));
}

QString step_row(const block::JobState& state, const planning::Assessment& a, const Step& step,
                 const wording::LengthText& l) {
    const bool waits = step.state == planning::StepState::waits;
    QString more = waits ? q(wording::wait_words(state, a, step.waits_for.front(), l)) : blanks(step, l);
    if (step.place)
        more = QStringLiteral("________");
    return QStringLiteral("<tr><td>%1</td><td class=\"code\">%2</td><td>%3</td><td class=\"quiet\">%4</td></tr>")
        .arg(waits ? QString() : QStringLiteral("☐"), step.place ? QString() : q(planning::sheet_code(step.id)),
             q(wording::step_headline(state, step, l)), more);
}

} // namespace

QString work_sheet_html(const block::JobState& state, const planning::Assessment& a, const wording::LengthText& l,
                        const QString& printed) {
    const block::JobCard& card = card_of(state).card;
    QStringList head;
    for (const std::string& line : {intake_of(state).customer, card.identity,
                                    intake_of(state).blueprint ? intake_of(state).blueprint->name : std::string()})
        if (!line.empty())
            head << q(line);
    if (!card.promised.empty())
        head << QStringLiteral("promised %1").arg(q(card.promised));
    QString body = QStringLiteral("<h1>%1</h1><p class=\"quiet\">%2 · lengths in %3 · printed %4</p>")
                       .arg(q(intake_of(state).title), head.join(QStringLiteral(" · ")), q(l.unit_name()),
                            printed.toHtmlEscaped());
    if (const std::string caution = wording::call_text(state, a, l).caution; !caution.empty())
        body += QStringLiteral("<p><b>%1</b></p>").arg(q(caution));
    for (const planning::Batch& batch : planning::batches_of(a.steps)) {
        const bool waits = batch.steps.front()->state == planning::StepState::waits;
        std::string where = waits ? "waits" : wording::where_words(state, *batch.steps.front());
        where = where.substr(0, where.find(", about")); // of all of them, not of the first
        body += QStringLiteral("<h2>%1</h2><table cellspacing=\"0\">").arg(q(where.empty() ? "desk" : where));
        for (const Step* step : batch.steps)
            body += step_row(state, a, *step, l);
        body += QStringLiteral("</table>");
    }
    body +=
        QStringLiteral("<p class=\"quiet\">Typed in later: the four letters, then what was read or set, one line for "
                       "each; as proposed where nothing is written.</p>");
    return paper_html(intake_of(state).title, body, with_room);
}

QString day_sheet_html(const std::vector<DayLine>& jobs, const QString& printed) {
    QString body = QStringLiteral("<h1>The day's work</h1><p class=\"quiet\">%1</p>").arg(printed.toHtmlEscaped());
    QString group;
    for (const DayLine& job : jobs) {
        if (job.group != group) {
            body += QStringLiteral("%1<h2>%2</h2><table cellspacing=\"0\">")
                        .arg(group.isEmpty() ? QString() : QStringLiteral("</table>"), job.group.toHtmlEscaped());
            group = job.group;
        }
        body += QStringLiteral("<tr><td>☐</td><td><b>%1</b><br><span class=\"quiet\">%2</span></td><td>%3<br><span "
                               "class=\"quiet\">%4</span></td><td>%5</td></tr>")
                    .arg(job.title.toHtmlEscaped(), job.who.toHtmlEscaped(), job.next.toHtmlEscaped(),
                         job.where.toHtmlEscaped(),
                         job.late ? QStringLiteral("<b>%1</b>").arg(job.promised.toHtmlEscaped())
                                  : job.promised.toHtmlEscaped());
    }
    body += group.isEmpty() ? QStringLiteral("<p>No job is in the shop.</p>") : QStringLiteral("</table>");
    return paper_html("The day's work", body, with_room);
}

} // namespace pallix::reporting
