// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/probe_log.h"

#include <cstddef>
#include <cstdint>
#include <vector>

namespace pallix::block {

/// The mains' sections with the surfaces that they may truly have, without their touches' noise (`TrueTouches`).
/// @param evaluation of that probe
/// @param touch mm, standard uncertainty of one touch in each direction, > 0
/// @return draws, each with the sections of evaluation.mains in their order; surfaces in the evaluation's block frame
[[nodiscard]] std::vector<std::vector<MainResult>> draw_mains(const Blueprint& blueprint, const ProbeSet& probe,
                                                              const Evaluation& evaluation, double touch,
                                                              std::size_t draws, std::uint64_t seed = 1);

} // namespace pallix::block
