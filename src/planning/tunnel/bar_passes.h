// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/tunnel/tunnel_work.h"

#include <vector>

namespace pallix::planning {

/// How the next pass of a bar is set, and whether it is the establishing one. Its size is told by mains that were cut
/// all round; without any by the bar's own diameter.
void set_bar(TunnelWork& work, const block::JobState& state, const block::TunnelPolicy& policy);
/// What that pass is to touch, where bar, housings and line are known.
void foresee_contacts(TunnelWork& work, const block::JobState& state, const block::TunnelPolicy& policy);

/// @param diameter mm, that the tool cuts; @param line it turns about; @param parting rad of relief beside the parting
/// line
[[nodiscard]] std::vector<BarContact> bar_contacts(const std::vector<Housing>& mains, const CentreLine& line,
                                                   double diameter, double parting);
/// Protrusion of the cutter from a bar for a wanted bore, mm: (wanted − bar)/2.
[[nodiscard]] double cutter_protrusion(double wanted, double bar);
/// What an establishing pass leaves for the final one, mm on diameter: two thou (common practice, no source).
inline constexpr double left_by_establishing = 2 * block::mm_per_thou;

} // namespace pallix::planning
