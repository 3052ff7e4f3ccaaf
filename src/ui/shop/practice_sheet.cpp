// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/practice_sheet.h"

#include "session/counted.h"
#include "session/wall_time.h"

#include <algorithm>

namespace pallix::ui {
namespace {

using planning::StageMark;

constexpr double went_well = 80; // of 100: the next level is worth trying

QString rounded(double score) {
    return QString::number(score, 'f', 0);
}

/// What somebody made of a theme, the highest level first.
struct Been {
    int times = 0;
    double best = -1;
    std::int64_t level = 0; ///< the highest that went well
};
Been been_at(const session::ShopModel& shop, const std::string& person, const std::string& key) {
    Been been;
    for (const auto& row : shop.all())
        if (const auto& p = row.standing.practised; p && p->score && p->exercise == key && p->person == person) {
            ++been.times;
            been.best = std::max(been.best, *p->score);
            if (*p->score >= went_well)
                been.level = std::max(been.level, p->level);
        }
    return been;
}

} // namespace

int level_for(const session::ShopModel& shop, const std::string& person, workshop::Theme theme) {
    const auto been = been_at(shop, person, workshop::theme_keys.at(static_cast<std::size_t>(theme)));
    return std::clamp(static_cast<int>(been.level) + 1, workshop::told_of(theme).easiest, workshop::levels);
}

std::vector<SheetLine> practice_sheet(const session::ShopModel& shop, const std::string& person) {
    std::vector<SheetLine> sheet;
    const auto heading = [&sheet](const QString& words) {
        SheetLine line;
        line.name = words;
        line.heading = true;
        sheet.push_back(line);
    };
    heading(LineDrawing::tr("Blocks that are not there: Enter begins one"));
    for (std::size_t i = 0; i < workshop::theme_keys.size(); ++i) {
        const auto theme = static_cast<workshop::Theme>(i);
        const Been been = been_at(shop, person, workshop::theme_keys[i]);
        SheetLine line;
        line.id = QLatin1String(workshop::theme_keys[i]);
        line.name = qt(workshop::told_of(theme).title);
        line.words = qt(workshop::told_of(theme).wanted);
        line.mark = been.best >= went_well ? StageMark::done : been.times > 0 ? StageMark::current : StageMark::open;
        line.aside =
            been.times > 0
                ? LineDrawing::tr("level %1 next, best %2").arg(level_for(shop, person, theme)).arg(rounded(been.best))
                : LineDrawing::tr("level %1").arg(level_for(shop, person, theme));
        sheet.push_back(line);
    }
    bool any = false;
    for (const auto& row : shop.all()) {
        const auto& p = row.standing.practised;
        if (!p || row.set_aside)
            continue;
        if (!std::exchange(any, true))
            heading(LineDrawing::tr("What was practised, the newest first"));
        SheetLine line;
        line.id = QString::number(row.id);
        line.name = row.title.section(QStringLiteral(": "), 1);
        line.words = p->score ? LineDrawing::tr("%1 of 100, %2").arg(rounded(*p->score), qt(p->person))
                              : LineDrawing::tr("begun, its truth is sealed");
        line.mark = !p->score ? StageMark::current : *p->score >= went_well ? StageMark::done : StageMark::open;
        line.aside = p->score ? session::day_words(p->day) : QString();
        sheet.push_back(line);
    }
    return sheet;
}

} // namespace pallix::ui
