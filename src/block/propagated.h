// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/probe_log.h"

#include <memory>
#include <mutex>
#include <optional>
#include <string>

namespace pallix::block {

class Uncertainties;

/// What the values of one evaluation hang on its touches by, datum frame included: worked out when it is first asked
/// for (some 70 ms for a V8), then kept with whoever shares it. It may be asked from several threads.
class Propagated {
  public:
    Propagated(Blueprint blueprint, std::shared_ptr<const ProbeSet> probe);
    explicit Propagated(Uncertainties of_a_micrometre); ///< worked out already, for touches that are sure to that
    ~Propagated();
    Propagated(const Propagated&) = delete;
    Propagated& operator=(const Propagated&) = delete;

    /// @param address of a value, as "lifters[2].v"
    /// @param touch mm, standard uncertainty of one touch
    /// @return mm, standard; nothing where there is no such value
    [[nodiscard]] std::optional<double> of(const std::string& address, double touch) const;

  private:
    Blueprint blueprint_;
    std::shared_ptr<const ProbeSet> probe_;
    mutable std::once_flag once_;
    mutable std::unique_ptr<Uncertainties> unit_; ///< for touches that are sure to a micrometre
};

} // namespace pallix::block
