// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/practice/exercise.h"

#include <string>
#include <string_view>
#include <vector>

namespace pallix::workshop {

/// An exercise that a shop makes: a sound block with errors of its own, and a story.
struct OwnExercise {
    std::string title, story, wanted;
    std::int64_t number = 1; ///< of what gauges and machines do by chance
    int level = 1;
    std::vector<block::Stage> scope;
    std::string blueprint; ///< its text
    /// What is wrong, a line each, mm: "main.3 up 0.03", "deck.R dip 120 40 0.08 30", "bore.C.2 oversize 0.2",
    /// "gauge knocked 12 0.02" (docs/formats.md).
    std::vector<std::string> errors;
};

/// @return every fault with its line in `errors`, or the exercise
[[nodiscard]] block::Result<Exercise> exercise_of(const OwnExercise& own);

/// A `.pallix-exercise.json`.
[[nodiscard]] std::string own_exercise_json(OwnExercise own);
/// @param file the name used in messages
[[nodiscard]] block::Result<OwnExercise> read_own_exercise(std::string_view json, const std::string& file);

} // namespace pallix::workshop
