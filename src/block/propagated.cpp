// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/propagated.h"

#include "block/evaluation_uncertainty.h"

namespace pallix::block {

Propagated::Propagated(Blueprint blueprint, std::shared_ptr<const ProbeSet> probe)
    : blueprint_(std::move(blueprint)), probe_(std::move(probe)) {}
Propagated::Propagated(Uncertainties of_a_micrometre)
    : unit_(std::make_unique<Uncertainties>(std::move(of_a_micrometre))) {}
Propagated::~Propagated() = default;

std::optional<double> Propagated::of(const std::string& address, double touch) const {
    constexpr double one = 0.001; // mm: small beside any block, so that it stays linear
    std::call_once(once_, [this] {
        if (!unit_)
            unit_ = std::make_unique<Uncertainties>(propagate(blueprint_, *probe_, one));
    });
    const auto u = unit_->of(address);
    return u ? std::optional(*u / one * touch) : std::nullopt;
}

} // namespace pallix::block
