// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <limits>
#include <optional>
#include <utility>
#include <vector>

namespace pallix::metrology {

/// A small dense linear programme: variables with bounds, rows that a linear form may not exceed, one objective after
/// the other. Solved by GLPK: by the dual simplex method, where that finds nothing by the primal one from another basis
/// on a scaled problem; or, where someone knows better than rounding, in exact arithmetic. Scale variables and rows to
/// a size near 1: the tolerance is 1e-9 of that.
class LinearProgram {
  public:
    using Term = std::pair<std::size_t, double>; ///< variable and coefficient
    static constexpr double free = std::numeric_limits<double>::infinity();

    /// @return the variable's index
    std::size_t add_variable(double lower = -free, double upper = free);
    /// Σ coefficient·variable ≤ upper; no row where upper is `free`
    void add_row(std::vector<Term> terms, double upper);

    /// Minimises the linear form under everything added so far.
    /// @return the variables; nothing when no point satisfies all rows (or the form has no minimum). A problem whose
    /// feasible points all lie within the tolerance of a row may go either way: give it that much room.
    [[nodiscard]] std::optional<std::vector<double>> minimise(const std::vector<Term>& form) const;
    /// The same with fractions for numbers, some ten times slower; by the interior point method where even that gives
    /// up.
    [[nodiscard]] std::optional<std::vector<double>> minimise_exactly(const std::vector<Term>& form) const;

    [[nodiscard]] std::size_t variables() const { return bounds_.size(); }

  private:
    template <class Solve>
    [[nodiscard]] std::optional<std::vector<double>> with_problem(const std::vector<Term>& form, Solve solve) const;

    std::vector<std::pair<double, double>> bounds_;
    std::vector<std::vector<Term>> rows_;
    std::vector<double> uppers_;
};

} // namespace pallix::metrology
