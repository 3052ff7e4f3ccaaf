// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/shop_entries.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/reading.h"
#include "planning/shop/work_times.h"
#include "planning/steps/step.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

// What is said of a job besides its metal.

[[nodiscard]] std::string entry_words(block::ShopKinds kinds, const block::Payload& entry, const LengthText& l);
[[nodiscard]] std::string entry_words(block::PracticeKinds kinds, const block::Payload& entry, const LengthText& l);

[[nodiscard]] std::string role_name(block::Role role);
[[nodiscard]] std::string inspection_name(block::Inspection what);
/// "line hone": a kind of work.
[[nodiscard]] std::string work_name(planning::Work work);
/// What a kind of step is called that is signed for: "the first pass on a deck"; of a decision, the step's id.
[[nodiscard]] std::string signed_words(const std::string& what);

/// A question about a reading, as it is put to who is at the bench: a learner stops and fetches somebody.
[[nodiscard]] std::string for_learner(const block::JobState& state, const std::string& question);
/// To a learner who has read a place three times alike: that more changes nothing; else empty.
[[nodiscard]] std::string enough_words(const block::JobState& state, const block::MeasuredAt& at, const LengthText& l);

/// The headline of a step of the shop's; empty where it is none.
[[nodiscard]] std::string shop_headline(const block::JobState& state, const planning::Step& step);
/// What stands behind it.
[[nodiscard]] std::vector<std::string> shop_reasons(const block::JobState& state, const planning::Step& step);

/// A line of the job card: what it is called, and what stands there.
struct CardLine {
    std::string step; ///< that fills it
    std::string name;
    std::string words; ///< empty: nothing is known
};
[[nodiscard]] std::vector<CardLine> card_lines(const block::JobState& state, const LengthText& l);
/// "valve guides, from the customer, due 2026-12-04"
[[nodiscard]] std::string part_words(const block::PartNoted& part);
[[nodiscard]] std::string hold_words(const block::HoldPlaced& hold);
/// "two 60° decks wait for the same set-up"
/// @param fixture as `planning::JobStanding` has it
[[nodiscard]] std::string shared_words(const std::string& fixture, std::size_t jobs);
} // namespace pallix::wording
