// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/forecasts_sheet.h"

#include "session/shop_experience.h"
#include "wording/shop/memory_words.h"

namespace pallix::ui {

std::vector<SheetLine> forecasts_sheet(const session::ShopModel& shop) {
    std::vector<SheetLine> sheet;
    std::optional<block::ForecastKind> kind;
    for (const block::ForecastRecord& record : planning::count_forecasts(session::forecasts_of_shop(shop))) {
        if (kind != record.kind) { // the first of a kind is of all
            SheetLine heading;
            heading.name = qt(wording::forecast_name(record.kind));
            heading.heading = true;
            sheet.push_back(heading);
        }
        kind = record.kind;
        SheetLine line;
        line.name = !record.gauge.empty()    ? qt(record.gauge)
                    : !record.person.empty() ? LineDrawing::tr("read by %1").arg(qt(record.person))
                                             : LineDrawing::tr("all");
        line.words = qt(wording::record_words(record));
        line.mark = record.widen > 1 ? planning::StageMark::current : planning::StageMark::done;
        sheet.push_back(line);
    }
    return sheet;
}

} // namespace pallix::ui
