// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/reading_plan.h"

#include "wording/sentences.h"

#include <algorithm>

namespace pallix::session {

std::optional<ReadingAsked> next_reading(const block::JobState& state, const planning::Assessment& assessment,
                                         const std::string& bank_id, const std::vector<std::size_t>& skipped) {
    const block::BankBlueprint* bank = state.blueprint ? state.blueprint->bank(bank_id) : nullptr;
    if (!bank)
        return std::nullopt;
    const auto places = block::deck_places(*bank);
    const auto& pending = state.deck(bank_id).pending;
    const planning::BankProgress* progress = assessment.bank(bank_id);
    for (std::size_t i = 0; i < places.size(); ++i) {
        const bool read = std::ranges::any_of(
            pending, [&](const block::DeckReading& r) { return norm(r.place - places[i].place) < 1e-3; });
        if (read || std::ranges::find(skipped, i) != skipped.end())
            continue;
        const double expected = progress ? progress->plan.target : bank->deck_height.nominal;
        const auto& deck = state.deck(bank_id);
        const bool needed = !deck.latest || !pending.empty() || (deck.stale() && progress && progress->passes.empty());
        return ReadingAsked{bank_id,  places[i], wording::corner_words(*bank, places[i].rear, places[i].positive_v),
                            expected, i + 1,     places.size(),
                            needed};
    }
    return std::nullopt;
}

} // namespace pallix::session
