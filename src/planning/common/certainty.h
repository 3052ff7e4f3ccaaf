// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation_uncertainty.h"

#include <cstdint>
#include <optional>
#include <string>

namespace pallix::planning {

/// A value set by outermost touches, without the touches' noise.
struct Drawn {
    double value = 0;       ///< mm
    double uncertainty = 0; ///< mm, standard
};

/// Standard uncertainties that were drawn for one evaluation, where they are better known than by rule.
struct Certainty {
    std::int64_t sequence = 0; ///< of the entry the evaluation came from: they hold for no other
    block::Uncertainties values;

    /// @param address of a value, as "tunnel.straightness_lsq"
    /// @return nothing where it was not drawn
    [[nodiscard]] std::optional<Drawn> drawn(const std::string& address) const {
        const auto value = values.without_noise(address), uncertainty = values.of(address);
        return value && uncertainty ? std::optional(Drawn{*value, *uncertainty}) : std::nullopt;
    }
};

} // namespace pallix::planning
