// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/step.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// The list while it is made: each part of the block adds its own steps, in the order it does them.
class Route {
  public:
    Route(const block::JobState& job, const Assessment& assessed, std::string time);

    const block::JobState& state;
    const Assessment& a;
    const std::string at; ///< UTC

    /// @return the new step, ready; valid until the next one is added
    Step& add(Task task, std::string id, block::Stage stage, std::optional<block::FeatureId> about = {});
    /// A reading of one place; done where it holds, else to be read.
    Step& add_reading(const block::MeasuredAt& at, block::Stage stage);
    /// Makes a step wait, unless the gate was passed with a reason.
    void hold(Step& step, block::Rule rule, const std::string& first) const;
    void hold(Step& step, Wait wait) const;
    [[nodiscard]] bool passed(block::Rule rule, const std::string& about) const;
    [[nodiscard]] const block::MeasuredPlace* place(const block::MeasuredAt& at) const;

    /// The step that stands in the way of whatever hangs on the tunnel; empty where nothing does.
    std::string tunnel_first;
    std::vector<Step> steps;
};

void add_intake_steps(Route& route);
void add_touch_steps(Route& route);
void add_flaw_steps(Route& route);
void add_tunnel_steps(Route& route);
/// The bar brought into line with the block by an indicator.
/// @return id of what the next pass waits for; empty where the bar stands as it should, or nobody dials it in
std::string add_dial_in_steps(Route& route);
void add_deck_steps(Route& route);
/// Once it is known what could be done now: sleeves go in before the decks are begun.
void hold_decks_for_sleeves(Route& route);
/// Heads that somebody has begun with.
/// @param in_hand those that were worked on after their deck, or the others
void add_head_steps(Route& route, bool in_hand);
void add_cylinder_steps(Route& route);
/// Once it is known what could be done now: heights and pistons are read, cylinders bored and sleeved with the caps as
/// they will run: stated off, they go on first, whether the tunnel is a matter of this job or not.
void hold_for_caps(Route& route);
void add_lifter_steps(Route& route);
void add_mock_up_steps(Route& route);
void add_finish_steps(Route& route);
/// Waits for a time, a part or a person: for nothing that is done at this block.
[[nodiscard]] bool is_held_from_outside(const Step& step);
/// Nothing is cut that hangs on a touch which stands out.
void hold_for_touches(Route& route);

/// What a crack elsewhere than in a deck holds up, until somebody decides on it.
void hold_for_flaws(Route& route);
/// What is asked of a flaw: a sleeve takes in what is beside a cylinder, and nothing else.
[[nodiscard]] std::vector<Ask> flaw_asks(block::FlawWhere where);

/// Id of the first piston of the mock-up that is still to be read; empty where none is.
[[nodiscard]] std::string first_piston_reading(const Route& route);

/// "main.2/measure/front/60_left"
[[nodiscard]] std::string reading_id(const block::MeasuredAt& at);
/// "front/60_left" of a place, for the id of its reading.
[[nodiscard]] std::string place_id(const block::MeasuredAt& at);

} // namespace pallix::planning
