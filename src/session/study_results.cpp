// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/study_results.h"

#include "block/ledger.h"
#include "block/state/fold.h"

#include <algorithm>

namespace pallix::session {

std::optional<planning::StudyStanding> study_result(const storage::ShopBook& book,
                                                    const block::InstrumentEvent& event) {
    if (event.what != block::InstrumentHappening::studied || event.job == 0)
        return std::nullopt;
    auto entries = book.entries(event.job);
    if (!entries)
        return std::nullopt;
    // A later one of the same job ends it.
    const auto next = std::ranges::find_if(*entries, [&](const block::Entry& entry) {
        return entry.sequence > event.sequence && std::holds_alternative<block::GaugeStudyBegun>(entry.payload);
    });
    entries->erase(next, entries->end());
    const block::Folded state = block::fold(*entries);
    auto standing = planning::study_standing(state, "");
    return standing && standing->begun == event.sequence ? standing : std::nullopt;
}

} // namespace pallix::session
