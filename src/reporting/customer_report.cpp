// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/customer_report.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/coordinates.h"
#include "planning/common/outcomes.h"
#include "reporting/block_pictures.h"
#include "reporting/code_picture.h"
#include "reporting/paper.h"
#include "reporting/paper_picture.h"
#include "reporting/sheet.h"
#include "wording/common/sentences.h"
#include "wording/practice/practice_words.h"
#include "wording/report/customer_words.h"
#include "wording/report/estimate_words.h"
#include "wording/report/outcome_words.h"

namespace pallix::reporting {
namespace {

const char* const roomy = R"(
body { font-size: 11pt; }
p, li { margin-top: 4px; margin-bottom: 4px; }
)";

QStringList lines_of(const std::vector<std::string>& sentences) {
    QStringList lines;
    for (const std::string& sentence : sentences)
        lines << q(sentence);
    return lines;
}

/// Nothing where there is nothing to say.
void part(Sheet& sheet, const QString& title, const std::vector<std::string>& sentences) {
    if (sentences.empty())
        return;
    sheet.heading(title);
    sheet.list(lines_of(sentences));
}

void owner_head(Sheet& sheet, const PaperSource& s, const QString& what) {
    const auto& intake = intake_of(s.state);
    const auto& serial = card_of(s.state).serial;
    sheet.add(QStringLiteral("<h1>%1</h1>").arg(q(intake.title)));
    QStringList lines{what};
    if (card_of(s.state).practice)
        lines << q(wording::practice_mark);
    if (!intake.customer.empty())
        lines << QStringLiteral("for %1").arg(q(intake.customer));
    if (intake.blueprint)
        lines << q(intake.blueprint->name);
    if (serial)
        lines << QStringLiteral("serial %1").arg(q(serial->payload.serial));
    if (!s.shop().shop.empty())
        lines << q(s.shop().shop);
    lines << s.printed.toHtmlEscaped();
    sheet.quiet(lines.join(QStringLiteral(" · ")));
}

void tunnel_before_and_after(Sheet& sheet, const PaperSource& s) {
    const block::TunnelState& t = tunnel_of(s.state);
    if (!t.latest || t.last_work_on_mains() == 0 || !t.mains_as_probed() || t.latest->sequence == t.as_found->sequence)
        return;
    const auto& found = t.as_found->evaluation;
    sheet.pictures(
        {Sheet::picture(picture_address(tunnel_picture(&found, t.latest->evaluation, s.picture_scale)), 660)},
        {QStringLiteral("The line of the crankshaft's bearings, much enlarged: dashed as it came, solid as "
                        "it leaves")});
}

void places_before_and_after(Sheet& sheet, const PaperSource& s) {
    for (const planning::CoordinateSheet& places : planning::coordinate_sheets(s.state, s.assessment)) {
        if (places.lifters ||
            std::ranges::none_of(places.holes, [](const auto& hole) { return hole.as_left.has_value(); }))
            continue;
        const auto& blueprint = *intake_of(s.state).blueprint;
        sheet.pictures({Sheet::picture(picture_address(places_picture(blueprint, places, s.picture_scale)), 660)},
                       {QStringLiteral("Where the cylinders stand, %1, errors much enlarged: hollow as they came, full "
                                       "as they leave")
                            .arg(q(wording::bank_name(*blueprint.bank(places.bank))))});
    }
}

} // namespace

QString customer_report_html(const PaperSource& s) {
    Sheet sheet;
    owner_head(sheet, s, QStringLiteral("What was done to your engine block"));
    if (!intake_of(s.state).blueprint) {
        sheet.paragraph(QStringLiteral("Nothing is known of it yet."));
        return paper_html(intake_of(s.state).title, sheet.body(), roomy);
    }
    const auto all = planning::outcomes(s.state, s.assessment);
    sheet.paragraph(QStringLiteral("<span class=\"verdict\">%1</span>").arg(q(wording::owner_sentence(all))));
    if (const std::string open = wording::still_open_sentence(s.assessment); !open.empty())
        sheet.paragraph(q(open));
    const wording::CustomerReport report = wording::customer_report(s.state, s.assessment, s.lengths);
    part(sheet, QStringLiteral("What we found"), report.found);
    part(sheet, QStringLiteral("What we did"), report.done);
    part(sheet, QStringLiteral("Why it was worth it"), report.otherwise);
    part(sheet, QStringLiteral("How good it is now"), report.now);
    tunnel_before_and_after(sheet, s);
    decks_before_and_after(sheet, s);
    places_before_and_after(sheet, s);
    part(sheet, QStringLiteral("What to watch"), report.watch);
    sheet.quiet(
        QStringLiteral("Every number here was measured or decided in this job and stands in the block's passport. "
                       "Follow the engine maker's instructions when the engine is put together and run in."));
    return paper_html(intake_of(s.state).title, sheet.body(), roomy);
}

QString estimate_html(const PaperSource& s) {
    Sheet sheet;
    owner_head(sheet, s, QStringLiteral("Estimate of the work on your engine block"));
    const wording::EstimateWords words = wording::estimate_words(
        s.state, planning::estimate(s.state, s.assessment, s.entries, s.of_book.hours), s.lengths);
    part(sheet, QStringLiteral("What is to be done"), words.scope);
    part(sheet, QStringLiteral("How long it takes"), words.hours);
    part(sheet, QStringLiteral("Which cylinder sizes may be needed"), words.sizes);
    part(sheet, QStringLiteral("What could turn up"), words.may_turn_up);
    sheet.quiet(
        QStringLiteral("As far as the block was measured by %1. It says what is likely, and is no promise: metal "
                       "that is off does not come back, so each cut is decided on what is measured then.")
            .arg(s.printed.toHtmlEscaped()));
    return paper_html(intake_of(s.state).title, sheet.body(), roomy);
}

} // namespace pallix::reporting
