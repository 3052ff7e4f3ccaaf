// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "block/state/read_logs.h"

#include <memory>
#include <vector>

namespace pallix::block {

/// The state of a job as a value, for whoever need not know all that is in it: its parts are had from `tunnel_of` and
/// the like.
class Folded {
  public:
    Folded(); ///< of a job that nothing was said of
    ~Folded();
    Folded(const Folded&);
    Folded(Folded&&) noexcept; ///< what it is moved from is a job that nothing was said of
    Folded& operator=(const Folded&);
    Folded& operator=(Folded&&) noexcept;

    operator const JobState&() const { return *state_; }
    operator JobState&() { return *state_; }

  private:
    std::unique_ptr<JobState> state_;
};

/// @param entries in the order of their sequence
/// @param logs what earlier folds have read; what this one reads is added; may be null
[[nodiscard]] Folded fold(const std::vector<Entry>& entries, ReadLogs* logs = nullptr);

/// The state of a job with one more reading, as folding all its entries anew would make it: in a long job a reading
/// must not cost what all those before it have cost.
/// @param entry a Reading, the one after the last that `state` was made from
void fold_reading(JobState& state, const Entry& entry);

/// The state as it would be after something more was done: cuts, passes, bolts, ticks, decisions.
/// @param done neither readings nor logs nor strikes
[[nodiscard]] Folded after(const JobState& state, const std::vector<Payload>& done);

} // namespace pallix::block
