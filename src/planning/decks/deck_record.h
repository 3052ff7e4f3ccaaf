// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "metrology/decision.h"

#include <optional>
#include <string>

namespace pallix::planning {

/// The depth the ledger adds up to, against what the heights before and after say came off. The ledger counts from
/// first touch, which is where the deck really was highest: higher than the highest measured place by what was believed
/// when the forecast was kept. A difference is named, never spread over the map.
struct DepthHeld {
    double ledger = 0;           ///< mm of infeed between the two measurements
    double measured = 0;         ///< mm, highest measured place before less the surface after
    std::optional<double> above; ///< mm, the highest place before over the highest measured one; nothing: not known
    double allowed = 0;          ///< mm, what they may differ by: twice their combined uncertainty
    [[nodiscard]] double difference() const { return measured + above.value_or(0) - ledger; }
    [[nodiscard]] bool disagrees() const;
};
/// @return nothing while the bank was not measured both before and after its passes, from one tunnel
[[nodiscard]] std::optional<DepthHeld> depth_held(const block::JobState& state, const std::string& bank);

/// The last roughness measured on a bank's finished deck against what its gasket takes.
struct FinishHeld {
    double ra = 0, at_most = 0; ///< mm
    metrology::Verdict verdict{};
};
/// A roughness tester is taken as good to 5 % (common practice, no source).
/// @return nothing while no gasket was chosen or no Ra was measured since the last pass
[[nodiscard]] std::optional<FinishHeld> finish_held(const block::JobState& state, const std::string& bank);

} // namespace pallix::planning
