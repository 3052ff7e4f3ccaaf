// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

namespace pallix::metrology {

/// Parts measured by several people, each several times, all in one unit: `people[i][j][k]` is the k-th part in the
/// j-th trial of the i-th person.
struct GaugeStudy {
    std::vector<std::vector<std::vector<double>>> people;
};

/// Where the scatter of a study comes from, as standard deviations in its unit.
struct GaugeScatter {
    double repeat = 0; ///< of the gauge in one hand: equipment variation
    double people = 0; ///< between the people: appraiser variation
    double gauge = 0;  ///< both together
    double parts = 0;  ///< of the parts
    double all = 0;
    [[nodiscard]] double share(double of) const { return all > 0 ? 100 * of / all : 0; } ///< % of all
    /// How many sorts of parts the gauge tells apart: 1.41 parts / gauge, whole.
    [[nodiscard]] int sorts() const;
};

struct GaugeStudyResult {
    GaugeScatter by_range;    ///< average-and-range method
    GaugeScatter by_variance; ///< components of variance
    double f_interaction = 0; ///< of people and parts, over the repeats
    bool pooled = false;      ///< it was no larger than chance has it (25 %): joined with the repeats
};

/// Average-and-range and analysis of variance of a crossed study (AIAG, Measurement Systems Analysis, 4th edition, III
/// B; the same formulas in ISO 5725-3 for balanced nested repeats). K factors are 1/d2 and 1/d2*, worked out.
/// @return nothing where it is not balanced: at least two people, two trials and two parts, all as many
[[nodiscard]] std::optional<GaugeStudyResult> study_gauge(const GaugeStudy& study);

/// Mean and standard deviation of the range of n standard normal values. @param n at least 2
struct RangeFactors {
    double d2 = 0, d3 = 0;
    [[nodiscard]] double d2_star() const; ///< of a single range: √(d2² + d3²)
};
[[nodiscard]] RangeFactors range_factors(std::size_t n);

} // namespace pallix::metrology
