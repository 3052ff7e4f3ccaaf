// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/passport.h"

#include "block/digest.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/outcomes.h"
#include "planning/common/shop_limits.h"
#include "planning/shop/forecasts.h"
#include "planning/shop/instrument_care.h"
#include "reporting/code_picture.h"
#include "reporting/paper.h"
#include "reporting/paper_picture.h"
#include "reporting/passport_sheet.h"
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"
#include "wording/practice/practice_words.h"
#include "wording/readings/care_words.h"
#include "wording/readings/readings.h"
#include "wording/report/outcome_words.h"
#include "wording/shop/memory_words.h"

#include <algorithm>
#include <map>

namespace pallix::reporting {

namespace {

/// The digest of a ledger in groups that one can read out.
QString digest_in_groups(const std::vector<block::Entry>& entries) {
    constexpr std::size_t group = 8;
    const std::string whole = block::digest_of(entries);
    QString digest;
    for (std::size_t at = 0; at < whole.size(); at += group)
        digest += q(whole.substr(at, group)) + QLatin1Char(' ');
    return digest.trimmed();
}

} // namespace

void PassportSheet::front() {
    const auto& intake = intake_of(s_.state);
    const auto& card = card_of(s_.state);
    QStringList lines;
    const auto line = [&lines](const QString& words) {
        if (!words.isEmpty())
            lines << words;
    };
    line(q(intake.customer) + (intake.blueprint ? QStringLiteral(" · ") + q(intake.blueprint->name) : QString()));
    line(q(card.card.identity));
    if (card.serial) {
        line(QStringLiteral("<b>Serial %1</b>").arg(q(card.serial->payload.serial)));
        line(card.serial->payload.engraved.empty()
                 ? QStringLiteral("Not marked on the block yet; the line to engrave: %1")
                       .arg(q(wording::engraving_line(s_.shop().engraving, s_.state, s_.assessment, l_)))
                 : QStringLiteral("Marked on the block: %1").arg(q(card.serial->payload.engraved)));
    }
    line(QStringLiteral("<span class=\"quiet\">%1 to %2 · lengths in %3%4</span>")
             .arg(q(s_.entries.front().time.substr(0, 10)), q(s_.entries.back().time.substr(0, 10)), q(l_.unit_name()),
                  s_.shop().shop.empty() ? QString() : QStringLiteral(" · ") + q(s_.shop().shop)));
    const QImage code = code_picture(code_text(s_.state, s_.assessment, s_.entries, l_), 3);
    const QString title = QStringLiteral("<h1>%1</h1>").arg(q(intake.title));
    const QString words = title + QStringLiteral("<p>%1</p>").arg(lines.join(QStringLiteral("<br>")));
    if (code.isNull())
        add(words);
    else
        add(QStringLiteral("<table width=\"98%\"><tr><td>%1</td><td align=\"right\">%2</td></tr></table>")
                .arg(words, picture(picture_address(code), 116)));

    const auto all = planning::outcomes(s_.state, s_.assessment);
    if (card.practice)
        paragraph(QStringLiteral("<b>%1</b>")
                      .arg(q(wording::capitalised(wording::practice_mark)) + QStringLiteral(": it was simulated.")));
    paragraph(QStringLiteral("<span class=\"verdict\">%1</span>").arg(q(wording::overall_sentence(s_.state, all))));
    if (const std::string open = wording::still_open_sentence(s_.assessment); !open.empty())
        paragraph(q(open));
    Rows rows;
    for (const planning::Outcome& o : all)
        rows += row({q(wording::told_name(s_.state, o)), q(wording::span_text(o, o.found, l_)),
                     q(wording::span_text(o, o.left, l_)), q(wording::limits_text(o.limits, l_)),
                     o.uncertainty ? q(l_.fine(*o.uncertainty)) : QString(), q(wording::standing_words(o))});
    if (!rows.isEmpty())
        table({QString(), QStringLiteral("as found"), QStringLiteral("as left"), QStringLiteral("limit"),
               QStringLiteral("std. uncertainty"), QStringLiteral("verdict")},
              rows);
    const std::size_t gates = intake.gates.size() + intake.skipped.size();
    if (gates > 0)
        paragraph(q(std::to_string(gates) +
                    (gates == 1 ? " rule was passed or step left out with a reason"
                                : " rules were passed or steps left out with reasons") +
                    ": see Answered for."));
    if (!intake.blueprint)
        return;
    decks_before_and_after(*this, s_);
    QString datum = QStringLiteral("Datum: main tunnel, clocked by %1").arg(q(wording::datum_name(*intake.blueprint)));
    const auto& found = tunnel_of(s_.state).as_found;
    if (found && !found->logs.empty() && found->logs.front().temperature_c)
        datum += QStringLiteral(" · as found at %1 °C").arg(*found->logs.front().temperature_c, 0, 'f', 1);
    quiet(datum);
    for (const block::Amendment& a : intake.amendments)
        paragraph(QStringLiteral("Blueprint amended in entry %1: %2").arg(QString::number(a.sequence), q(a.reason)));
}

void PassportSheet::limits() {
    heading(QStringLiteral("Limits"));
    const auto& chosen = intake_of(s_.state).limits;
    block::LimitsChosen holding = planning::limits_of(s_.state);
    if (!chosen)
        holding.reason = "usual ones, common practice: nobody has set others";
    paragraph(q(wording::capitalised(wording::entry_words(block::Payload(holding), l_)) + "."));
    if (!chosen)
        return;
    const auto entry = std::ranges::find(s_.entries, chosen->sequence, &block::Entry::sequence);
    if (entry != s_.entries.end())
        quiet(QStringLiteral("Set by %1.").arg(who_and_when(*entry)));
}

void PassportSheet::answered_for() {
    section(QStringLiteral("Answered for"), {},
            rows_of<block::GatePassed, block::ScopeChosen, block::StepSkipped, block::SignedOff, block::AtBench,
                    block::SerialGiven, block::Delivered>());
}

void PassportSheet::forecasts() {
    std::map<block::ForecastKind, std::pair<int, int>> counted; // held, made
    for (const planning::ForecastCame& came : planning::forecasts_that_came(s_.state)) {
        auto& [held, made] = counted[came.kind];
        held += came.held ? 1 : 0;
        ++made;
    }
    Rows rows;
    for (const auto& [kind, count] : counted)
        rows += row({q(wording::forecast_name(kind)), QStringLiteral("%1 of %2").arg(count.first).arg(count.second)});
    section(QStringLiteral("Forecasts against what came"), {QString(), QStringLiteral("within what was foretold")},
            rows);
}

/// Every gauge that a reading rests on, with how sure it is said to be and when it was held against something known.
void PassportSheet::instruments() {
    std::vector<const block::Instrument*> used;
    for (auto it = readings_of(s_.state).readings.rbegin(); it != readings_of(s_.state).readings.rend(); ++it) {
        const block::Instrument& instrument = it->reading.instrument;
        if (std::ranges::none_of(used, [&](const auto* known) { return known->name == instrument.name; }))
            used.push_back(&instrument);
    }
    Rows rows;
    for (const block::Instrument* instrument : used) {
        QStringList checks;
        const auto history = s_.of_book.histories.find(instrument->name);
        const auto record = planning::record_of(
            *instrument, history == s_.of_book.histories.end() ? block::InstrumentHistory() : history->second,
            s_.entries.back().time);
        if (!record.last_check.empty())
            checks << QStringLiteral("last checked %1").arg(q(record.last_check));
        const auto& here = readings_of(s_.state).checks;
        const auto last = std::find_if(here.rbegin(), here.rend(),
                                       [&](const auto& check) { return check.instrument == instrument->name; });
        if (last != here.rend())
            checks << QStringLiteral("in this job, entry %1: %2")
                          .arg(QString::number(last->sequence), q(l_.signed_with_unit(last->error)));
        if (checks.isEmpty())
            checks << QStringLiteral("no check is known");
        rows += row({q(instrument->name), q(wording::instrument_kind_name(instrument->kind)),
                     checks.join(QStringLiteral("; ")),
                     instrument->standard_uncertainty ? q(wording::fixed(*instrument->standard_uncertainty, 4))
                                                      : QStringLiteral("not stated")},
                    3);
    }
    section(QStringLiteral("Instruments"),
            {QString(), QStringLiteral("kind"), QStringLiteral("checked"), QStringLiteral("std. uncertainty, mm")},
            rows);
    if (const std::string words = wording::conditions_words(readings_of(s_.state).conditions);
        !rows.isEmpty() && !words.empty())
        quiet(QStringLiteral("Conditions, as last stated: %1").arg(q(words)));
}

/// What was photographed on the way, before and after, as far as the pictures are at hand.
void PassportSheet::photographs() {
    if (!s_.of_book.picture)
        return;
    constexpr int wide = 330, tall = 240;
    QStringList images, words;
    for (const auto& taken : card_of(s_.state).pictures) {
        const QImage image = QImage::fromData(s_.of_book.picture(taken.payload.sha256));
        if (image.isNull())
            continue;
        const QImage small = image.scaled(wide * s_.picture_scale, tall * s_.picture_scale, Qt::KeepAspectRatio,
                                          Qt::SmoothTransformation);
        images << picture(picture_address(small), small.width() / s_.picture_scale);
        const auto entry = std::ranges::find(s_.entries, taken.sequence, &block::Entry::sequence);
        words << q(taken.payload.words.empty() ? taken.payload.file : taken.payload.words) +
                     (entry == s_.entries.end() ? QString() : QStringLiteral(" · ") + who_and_when(*entry));
    }
    if (images.isEmpty())
        return;
    heading(QStringLiteral("Photographs"));
    for (qsizetype at = 0; at < images.size(); at += 2)
        pictures(images.mid(at, 2), words.mid(at, 2));
}

void PassportSheet::foot() {
    QStringList people;
    for (const block::Entry& entry : s_.entries)
        if (const QString person = q(entry.person); !person.isEmpty() && !people.contains(person))
            people << person;
    QString text = QStringLiteral("Worked on by %1, %2 to %3; %4 ledger entries.")
                       .arg(people.join(QStringLiteral(", ")), q(s_.entries.front().time.substr(0, 10)),
                            q(s_.entries.back().time.substr(0, 10)), QString::number(s_.entries.size()));
    const auto struck = block::struck(s_.entries);
    for (std::size_t i = 0; i < s_.entries.size(); ++i)
        if (const auto* log = std::get_if<block::ProbeLogTaken>(&s_.entries[i].payload); log && !struck[i])
            text += QStringLiteral(" %1 sha256 %2….").arg(q(log->file), q(log->sha256.substr(0, 12)));
    paragraph(QStringLiteral("<span class=\"quiet\">Digest of the ledger up to entry %1: </span><span "
                             "class=\"quiet digest\">%2</span>")
                  .arg(QString::number(s_.entries.back().sequence), digest_in_groups(s_.entries)));
    paragraph(
        QStringLiteral("<br><span class=\"quiet\">%1 Printed %2. Limits come from the engine maker and local codes; "
                       "whoever signs decides. Signed:</span> ______________________")
            .arg(text, s_.printed.toHtmlEscaped()));
}

QString passport_html(const PaperSource& source) {
    PassportSheet sheet(source);
    sheet.front();
    sheet.tunnel();
    sheet.by_gauge();
    sheet.tunnel_work();
    sheet.datum();
    sheet.decks_found();
    sheet.cuts();
    sheet.deck_work();
    sheet.mock_up();
    sheet.balance();
    sheet.cylinders();
    sheet.positions();
    sheet.lifters();
    sheet.decks_left();
    sheet.verdicts();
    sheet.photographs();
    sheet.forecasts();
    sheet.limits();
    sheet.instruments();
    sheet.answered_for();
    sheet.foot();
    return paper_html(intake_of(source.state).title, sheet.body());
}

} // namespace pallix::reporting
