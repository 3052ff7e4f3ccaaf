// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/block/card_sheet.h"

#include "block/ledger.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "planning/common/assessment.h"
#include "wording/common/sentences.h"
#include "wording/shop/shop_words.h"

#include <QPixmapCache>
#include <algorithm>

namespace pallix::ui {
namespace {

using planning::StageMark;
using session::day_words;

SheetLine heading(const QString& words) {
    SheetLine line;
    line.name = words;
    line.heading = true;
    return line;
}

QString overdue_words(const std::string& due, const std::string& now) {
    if (due.empty())
        return {};
    const QString day = day_words(due);
    return due < now.substr(0, due.size()) ? LineDrawing::tr("overdue: %1").arg(day)
                                           : LineDrawing::tr("due %1").arg(day);
}

void add_waited_for(std::vector<SheetLine>& sheet, const Context& context) {
    const block::CardState& card = card_of(context.session.state());
    const std::string now = context.session.now();
    const auto nothing = sheet.size() + 1;
    sheet.push_back(heading(LineDrawing::tr("Waited for")));
    for (const auto& [sequence, part] : card.parts) {
        block::PartNoted without_day = part; // which stands at the right
        without_day.due.clear();
        const bool late = !part.here && !part.due.empty() && part.due < now.substr(0, part.due.size());
        sheet.push_back({part.here ? QString() : QStringLiteral("received/any/part/%1").arg(sequence),
                         part.here ? LineDrawing::tr("part, here") : LineDrawing::tr("part"),
                         qt(wording::part_words(without_day)),
                         part.here ? StageMark::done
                         : late    ? StageMark::fails
                                   : StageMark::cannot_tell,
                         part.here ? QString() : overdue_words(part.due, now)});
    }
    for (const auto& [sequence, hold] : card.holds)
        sheet.push_back({QStringLiteral("received/any/hold/%1").arg(sequence), LineDrawing::tr("somebody"),
                         qt(wording::hold_words(hold)), StageMark::cannot_tell});
    for (const auto& [sequence, clock] : card.clocks)
        if (const double left = context.session.minutes_left(clock.until); left > 0)
            sheet.push_back({{},
                             LineDrawing::tr("clock"),
                             qt(clock.what),
                             StageMark::current,
                             LineDrawing::tr("until %1").arg(session::wall_time(clock.until))});
    if (sheet.size() == nothing)
        sheet.push_back({{}, {}, LineDrawing::tr("nothing")});
    for (const auto& [id, words] :
         {std::pair("part", LineDrawing::tr("a part or paper …")), std::pair("hold", LineDrawing::tr("somebody …")),
          std::pair("clock", LineDrawing::tr("a clock that rings …"))})
        sheet.push_back({QStringLiteral("received/any/") + QLatin1String(id), LineDrawing::tr("add"), words});
}

void add_looked_over(std::vector<SheetLine>& sheet, const Context& context) {
    const block::JobState& state = context.session.state();
    sheet.push_back(heading(LineDrawing::tr("Looked over")));
    if (const planning::Step* wash = context.session.assessment().steps.find("cleaned/wash")) {
        const bool done = wash->state == planning::StepState::done;
        sheet.push_back({qt(wash->id), LineDrawing::tr("washed"), done ? LineDrawing::tr("yes") : QString(),
                         done ? std::optional(StageMark::done) : std::nullopt});
    }
    for (std::size_t i = 0; i < block::inspection_keys.size(); ++i) {
        const auto what = static_cast<block::Inspection>(i);
        const auto found = card_of(state).inspected.find(what);
        QString words;
        if (found != card_of(state).inspected.end()) {
            const block::Inspected& seen = found->second.payload;
            words = seen.found.empty() ? LineDrawing::tr("nothing that matters") : qt(seen.found);
            if (!seen.method.empty())
                words += LineDrawing::tr(" (%1)").arg(qt(seen.method));
        }
        sheet.push_back({QStringLiteral("cleaned/any/") + QLatin1String(block::inspection_keys[i]),
                         qt(wording::inspection_name(what)), words,
                         words.isEmpty() ? std::nullopt : std::optional(StageMark::done)});
    }
    const auto& tested = decks_of(state).pressure_test;
    const QString tight = tested ? qt(wording::entry_words(tested->payload, context.lengths())) : QString();
    sheet.push_back({QStringLiteral("cleaned/any/pressure"), LineDrawing::tr("pressure test"), tight,
                     tested ? std::optional(StageMark::done) : std::nullopt});
    sheet.push_back({QStringLiteral("cleaned/any/soak"), LineDrawing::tr("soak"), {}});
}

/// A picture as it is shown, made once: it may have 20 MB.
QPixmap shown_small(const Context& context, const QString& sha256) {
    constexpr double height = 240;
    const QString key = QStringLiteral("small %1 %2").arg(scaled(height)).arg(sha256);
    QPixmap small;
    if (QPixmapCache::find(key, &small))
        return small;
    if (const auto bytes = context.session.book().pictures().picture(sha256); bytes && small.loadFromData(*bytes))
        small = small.scaledToHeight(std::min(small.height(), scaled(height)), Qt::SmoothTransformation);
    QPixmapCache::insert(key, small);
    return small;
}

void add_pictures(std::vector<SheetLine>& sheet, const Context& context) {
    const block::CardState& card = card_of(context.session.state());
    if (card.pictures.empty())
        return;
    sheet.push_back(heading(LineDrawing::tr("Pictures")));
    for (const auto& [sequence, picture] : card.pictures) {
        SheetLine line{{},
                       picture.about.empty() ? LineDrawing::tr("of the job") : qt(picture.about),
                       picture.words.empty() ? qt(picture.file) : qt(picture.words)};
        line.picture = shown_small(context, qt(picture.sha256));
        if (line.picture.isNull())
            line.aside = LineDrawing::tr("not in this book");
        sheet.push_back(std::move(line));
    }
}

} // namespace

std::vector<SheetLine> card_sheet(const Context& context) {
    if (!context.session.has_job())
        return {};
    std::vector<SheetLine> sheet{heading(LineDrawing::tr("The job"))};
    for (const wording::CardLine& line : wording::card_lines(context.session.state(), context.lengths()))
        sheet.push_back({qt(line.step), qt(line.name),
                         line.step.ends_with("/promised") && !line.words.empty() ? session::day_words(line.words)
                                                                                 : qt(line.words)});
    add_waited_for(sheet, context);
    add_looked_over(sheet, context);
    add_pictures(sheet, context);
    return sheet;
}

} // namespace pallix::ui
