// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_experience.h"

#include "session/shop_standing.h"

namespace pallix::session {

std::vector<planning::ForecastCame> forecasts_of_shop(const ShopModel& shop) {
    std::vector<planning::ForecastCame> all;
    for (const ShopModel::Row& row : shop.all())
        if (row.readable)
            for (planning::ForecastCame& came : forecasts_in(row.forecasts))
                all.push_back(std::move(came));
    return all;
}

block::Experience experience_of_shop(storage::ShopBook& book, const Preferences& preferences,
                                     const Session::Clock& clock, const std::string& engine) {
    ShopModel shop(book, preferences, nullptr, clock);
    shop.reload();
    std::vector<planning::BlockTraits> of_kind;
    for (const ShopModel::Row& row : shop.all())
        if (row.readable && row.engine.toStdString() == engine && !row.traits.empty())
            of_kind.push_back(row.traits);
    return planning::experience_from(of_kind, forecasts_of_shop(shop));
}

} // namespace pallix::session
