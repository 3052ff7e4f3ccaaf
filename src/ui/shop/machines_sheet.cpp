// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/machines_sheet.h"

#include "session/wall_time.h"
#include "wording/shop/shop_words.h"
#include "wording/steps/change_words.h"

namespace pallix::ui {

using planning::StageMark;

std::vector<SheetLine> machines_sheet(const session::ShopModel& shop, block::Unit unit) {
    std::vector<planning::JobStanding> jobs;
    std::vector<const session::ShopModel::Row*> rows;
    for (const auto& row : shop.all())
        if (row.readable && !row.set_aside) {
            jobs.push_back(row.standing);
            rows.push_back(&row);
        }
    const auto job_line = [&](std::size_t i, const QString& name, std::optional<StageMark> mark) {
        const auto& row = *rows[i];
        const QString promised = row.standing.promised.empty()
                                     ? QString()
                                     : LineDrawing::tr("promised %1").arg(session::day_words(row.standing.promised));
        return SheetLine{QString::number(row.id), name,
                         LineDrawing::tr("%1: %2").arg(row.title, row.waits[unit == block::Unit::mm ? 0 : 1]), mark,
                         promised};
    };
    std::vector<SheetLine> sheet;
    for (const planning::MachineRow& machine : planning::machine_rows(jobs)) {
        SheetLine heading;
        heading.name = qt(wording::machine_name(machine.machine));
        heading.heading = true;
        sheet.push_back(heading);
        if (machine.on)
            sheet.push_back(job_line(*machine.on, LineDrawing::tr("on it"), StageMark::current));
        for (const std::size_t i : machine.next)
            sheet.push_back(
                job_line(i, i == machine.next.front() ? LineDrawing::tr("could go next") : QString(), StageMark::open));
        for (const auto& shared : machine.shared) {
            QStringList names;
            for (const std::size_t i : shared)
                names << rows[i]->title;
            sheet.push_back(
                {{},
                 LineDrawing::tr("one set-up"),
                 LineDrawing::tr("%1: %2").arg(qt(wording::shared_words(jobs[shared.front()].fixture, shared.size())),
                                               names.join(QStringLiteral(", ")))});
        }
    }
    return sheet;
}

} // namespace pallix::ui
