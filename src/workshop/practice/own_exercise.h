// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/practice/exercise.h"
#include "workshop/practice/shape.h"

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

/// What a line says is wrong, and of what: "main.3 up", "deck.R dip".
struct ErrorLine {
    std::string about; ///< its first two words
    std::string text;  ///< all of it; empty: nothing is wrong there
};
/// The line that puts a place of a shape where somebody pulled it: a main or its size, the ends of a deck, a low place
/// on it, a cylinder, a lifter bore.
/// @param sound the shapes of the block as drawn
/// @param length mm, as the shape has it
[[nodiscard]] ErrorLine pulled(const block::Blueprint& blueprint, const std::vector<Shape>& sound, std::size_t shape,
                               std::size_t part, double length);
/// The lines with another one for what it is about.
[[nodiscard]] std::vector<std::string> with_error(std::vector<std::string> lines, const ErrorLine& line);
/// The stages that have something wrong; all where none has.
[[nodiscard]] std::vector<block::Stage> stages_of(const std::vector<std::string>& errors);

/// A `.pallix-exercise.json`.
[[nodiscard]] std::string own_exercise_json(OwnExercise own);
/// @param file the name used in messages
[[nodiscard]] block::Result<OwnExercise> read_own_exercise(std::string_view json, const std::string& file);

} // namespace pallix::workshop
