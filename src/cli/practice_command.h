// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

namespace pallix::cli {

/// Practice by script: an exercise, somebody who does it, what came of it.
struct PracticeRequest {
    std::string theme, exercise, copied, job, out;
    std::string method, caps, centre; ///< of a school that is tried; empty: as the job is planned
    std::size_t times = 10;
    std::string title, story, wanted, blueprint; ///< of an exercise that is made
    std::vector<std::string> scope, errors;
    int level = 1;
    std::int64_t number = 1;
    bool careless = false;
    bool open = false; ///< the truth, which ends the exercise
    bool as_text = false;
};
/// The themes, a line each.
[[nodiscard]] int list_exercises();
/// Writes the job of an exercise.
[[nodiscard]] int new_exercise(const PracticeRequest& request);
/// Writes an exercise of the shop's own.
[[nodiscard]] int make_exercise(const PracticeRequest& request);
/// Writes what the player makes of a job's exercise.
[[nodiscard]] int play_practice(const PracticeRequest& request);
/// Prints what comes of a school on copies of a job, beside what comes of it as it is planned.
[[nodiscard]] int try_practice(const PracticeRequest& request);
/// Prints what came of it.
[[nodiscard]] int score_practice(const PracticeRequest& request);

} // namespace pallix::cli
