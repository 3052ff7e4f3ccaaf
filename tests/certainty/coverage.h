// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sanitized.h"

#include <cstddef>
#include <map>
#include <mutex>
#include <random>
#include <string>
#include <utility>

namespace pallix::test {

/// How often one statement of the program held, under one kind of truth.
struct Held {
    std::size_t all = 0;
    std::size_t held = 0;
    std::size_t above = 0;   ///< of those that did not: the truth lay above what was said
    double width = 0;        ///< of what was said, summed
    double oracle_width = 0; ///< of what could have been said by somebody who knows the kind; 0 where nobody compared

    void add(double truth, double low, double high, double oracle = 0);
    /// A promise without an interval: it was kept or not, at so much more than was needed.
    void add_promise(bool kept, double more_than_needed);
    [[nodiscard]] double share() const { return all == 0 ? 0 : static_cast<double>(held) / static_cast<double>(all); }
    [[nodiscard]] double below() const {
        return all == 0 ? 0 : static_cast<double>(all - held - above) / static_cast<double>(all);
    }
    /// Width of what is said over the oracle's; nothing compared: 0.
    [[nodiscard]] double sharpness() const { return oracle_width > 0 ? width / oracle_width : 0; }
    Held& operator+=(const Held& other);
};

/// The table of all statements that were tried, by statement and kind. Written to the file that the environment names
/// (PALLIX_CERTAINTY_TABLE) when the tests end.
class CertaintyTable {
  public:
    static CertaintyTable& get();
    ~CertaintyTable();
    void add(const std::string& statement, const std::string& kind, const Held& held);

  private:
    std::mutex mutex_;
    std::map<std::pair<std::string, std::string>, Held> rows_;
};

using Dice = std::mt19937_64;
[[nodiscard]] inline double even(Dice& dice, double low, double high) {
    return std::uniform_real_distribution(low, high)(dice);
}
[[nodiscard]] inline double normal(Dice& dice, double size) {
    return std::normal_distribution(0.0, size)(dice);
}

/// How many blocks a test tries: few in every run of the tests, as many as PALLIX_CERTAINTY says in the long one. Under
/// a sanitizer a tenth of them: what goes wrong in memory goes wrong in a few.
[[nodiscard]] std::size_t tries(std::size_t few);
/// They are then too few to say how often something holds.
inline constexpr bool too_few_to_judge = sanitized;

} // namespace pallix::test
