// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace pallix::metrology {

/// Why a fit has no result.
enum class FitFault {
    too_few_points, ///< fewer points than the shape has free parameters
    degenerate,     ///< the points do not fix the shape (all on one line, all in one place)
    no_convergence, ///< the iteration gave up; no result is taken
};

} // namespace pallix::metrology
