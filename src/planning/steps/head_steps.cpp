// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/contributors.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/decks/compression.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/pass_ids.h"

#include <algorithm>
#include <array>
#include <optional>

namespace pallix::planning {
namespace {

using block::Stage;

/// The face of one head, from the first line felt to its chambers measured anew.
class HeadPart {
  public:
    HeadPart(Route& route, const HeadProgress& head)
        : r_(route), head_(head), deck_{block::FeatureKind::deck, head.bank, 0} {}

    void add() {
        add_done_cuts();
        if (head_.level)
            add_level();
        for (const block::MeasuredAt& at : head_.to_read)
            r_.add_reading(at, Stage::decks);
        add_passes();
        if (head_.taken > 0 && head_.done())
            add_chambers();
    }

  private:
    std::string id_of(const std::string& what) const { return deck_.text() + "/head/" + what; }

    void add_done_cuts() {
        for (const block::TakenCut& taken : decks_of(r_.state).face(head_.bank).cuts)
            add_done_cut(r_, Task::cut_head, id_of(""), taken);
    }
    void add_level() {
        Step& step = r_.add(Task::level_head, id_of("level"), Stage::decks, deck_);
        step.number = std::ranges::max(head_.level->correction->moves, {}, &FootMove::raise).raise;
        step.asks = {{"done", AskKind::tick, 1, {}, {}}};
    }
    void add_passes() {
        PassIds ids(id_of(""));
        std::string before;
        for (const Pass& pass : head_.passes) {
            Step& step = r_.add(Task::cut_head, ids.next(pass.kind), Stage::decks, deck_);
            step.number = pass.depth;
            step.asks = pass_asks(pass, head_.clean);
            if (!before.empty())
                r_.hold(step, block::Rule::order, before);
            before = step.id;
        }
    }
    /// They hold less now; by how much a closed chamber as wide as the bore says only about.
    void add_chambers() {
        if (head_state(r_.state, head_.bank).cut_since_chamber <= 0)
            return;
        const bool by_ratio = decks_of(r_.state).target.school == block::TargetSchool::ratio;
        for (const block::MeasuredAt& at : chosen_places(r_.state, Measuring::chamber_volumes, head_.bank)) {
            Step& step = r_.add_reading(at, Stage::decks);
            step.aside = !by_ratio;
        }
    }

    Route& r_;
    const HeadProgress& head_;
    block::FeatureId deck_;
};

/// Entry of what was last read or cut of a deck; 0 for nothing.
std::int64_t deck_touched(const block::JobState& state, const std::string& bank) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    std::int64_t newest = std::max(deck.last_cut(), deck.latest ? deck.latest->sequence : 0);
    for (const block::MeasuredPlace& p : readings_of(state).places)
        if (p.at.feature == block::FeatureId{block::FeatureKind::deck, bank, 0} && !block::is_on_head(p.at.quantity))
            newest = std::max(newest, p.sequences.back());
    return newest;
}

} // namespace

void add_head_steps(Route& route, bool in_hand) {
    for (const HeadProgress& head : route.a.heads)
        if ((head_touched(route.state, head.bank) > deck_touched(route.state, head.bank)) == in_hand)
            HeadPart(route, head).add();
}

} // namespace pallix::planning
