// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/state/read_logs.h"
#include "planning/readings/measuring.h"
#include "planning/steps/answer.h"
#include "workshop/simulated_block.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::workshop {

/// How the gauges of a bench are. Lengths mm; shares 0 to 1.
struct GaugeHabits {
    double scatter = 0.001;   ///< standard, of a reading
    double stated = 0.001;    ///< standard, what their last check says of it
    double slips = 0;         ///< share of readings that are off by a turn of the dial, or a tenth of one
    double mishaps = 0;       ///< share that are read at the wrong end, or with dirt under the foot
    double drift = 0;         ///< that the zero creeps by in a hundred readings
    int zero_slips_after = 0; ///< readings, until the zero is knocked; 0: never
    double zero_slip = 0;     ///< by so much, until the gauge is held against its ring
    double part_c = 20, gauge_c = 20;
    bool probe = true;  ///< there is a machine that probes
    bool bridge = true; ///< there is something to read the heights of decks with
};

/// All that is hidden of a block that is practised on.
struct HiddenTruth {
    std::uint64_t seed = 1; ///< of what gauges and machines do by chance
    BlockTruth block;
    GaugeHabits gauges;
    MachineHabits machines;
};
[[nodiscard]] std::string hidden_json(HiddenTruth truth);
/// @return the faults where it is none, or does not belong to this block
[[nodiscard]] block::Result<HiddenTruth> read_hidden(std::string_view json, const block::Blueprint& blueprint);

/// What a gauge sends.
struct Sent {
    double value = 0;            ///< mm (°C, mm per m), as its dial shows it
    std::optional<double> upper; ///< of feelers, the thinnest that does not go in
    double is = 0;               ///< what a perfect one would have shown
    bool slipped = false;
};

/// The bench about a block that is not there: gauges that read it, machines that cut it. What it does by chance hangs
/// on the seed, and on how much was read and cut before, so that a ledger can be gone through again.
class PracticeBench {
  public:
    PracticeBench(SimulatedBlock block, const GaugeHabits& gauges, std::uint64_t seed);
    /// As a ledger leaves it: everything that was cut is cut, struck since or not.
    PracticeBench(const block::Blueprint& blueprint, const HiddenTruth& truth,
                  const std::vector<block::Entry>& entries = {});

    [[nodiscard]] const SimulatedBlock& block() const { return block_; }
    [[nodiscard]] SimulatedBlock& block() { return block_; }
    [[nodiscard]] const GaugeHabits& gauges() const { return gauges_; }

    /// @return nothing where this bench has no gauge for it
    [[nodiscard]] std::optional<Sent> read(const block::MeasuredAt& at);
    /// The gauge it is read with, as the shop's register would have it.
    [[nodiscard]] block::Instrument instrument(const block::MeasuredAt& at) const;
    [[nodiscard]] block::Instrument instrument(block::InstrumentKind kind) const;
    /// The gauge held against a ring of that size: then its zero is right again.
    [[nodiscard]] block::RingCheck check(const std::string& instrument, double size);
    [[nodiscard]] block::ProbeLogTaken probe();

    /// A person's answer with what only the machine can say of it: what stayed dark, how proud a sleeve stands.
    [[nodiscard]] planning::Answers completed(const planning::Step& step, planning::Answers answers) const;
    /// What the machines make of the entry at `i`, by what the ledger said before it.
    void work(const std::vector<block::Entry>& ledger, std::size_t i);
    /// Of one that no plan stands behind.
    void work(const block::Payload& entry);

  private:
    [[nodiscard]] metrology::Deviates chance() const;
    [[nodiscard]] std::optional<double> perfect(const block::MeasuredAt& at) const;
    [[nodiscard]] std::optional<double> mishap(const block::MeasuredAt& at, double is, metrology::Deviates& draw) const;

    SimulatedBlock block_;
    GaugeHabits gauges_;
    std::uint64_t seed_;
    std::shared_ptr<block::ReadLogs> logs_; ///< what was read of the ledger's logs
    std::uint64_t taken_ = 0;               ///< readings and logs in the ledger
    std::uint64_t tries_ = 0;               ///< readings that came to nothing since
    int since_check_ = 0;                   ///< readings, since a gauge was held against its ring
    bool knocked_ = false;                  ///< its zero was, and nobody has set it since
    bool was_knocked_ = false;
};

} // namespace pallix::workshop
