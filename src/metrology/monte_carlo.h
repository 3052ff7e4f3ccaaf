// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <cstdint>
#include <functional>
#include <optional>
#include <random>
#include <span>
#include <vector>

namespace pallix::metrology {

/// Random numbers of one part of a run. They depend on the seed and the part alone, so that a run gives the same answer
/// on any number of threads.
class Deviates {
  public:
    Deviates(std::uint64_t seed, std::uint64_t part);
    double uniform(); ///< in (0, 1)
    double normal();  ///< mean 0, standard deviation 1

  private:
    std::mt19937_64 bits_;
};

/// The same work for every item from 0 on, on several threads, in no order.
/// @param threads 0: one for every processor
void in_parallel(std::size_t count, unsigned threads, const std::function<void(std::size_t item)>& each);

/// Likewise in batches of a few items; a batch has one generator, by its number.
/// @param first number of the first batch's part
/// @param threads 0: one for every processor
/// @param each false: enough, nothing more is begun
void in_batches(std::size_t count, std::uint64_t seed, std::uint64_t first, unsigned threads,
                const std::function<bool(Deviates& draw, std::size_t item)>& each);
/// So many items are one batch.
inline constexpr std::size_t batch_size = 16;

/// What the trials say of one output.
struct Distribution {
    double mean = 0;
    double standard_deviation = 0;
    double low = 0; ///< 95 % coverage interval, probabilistically symmetric (JCGM 101:2008, 7.7)
    double high = 0;
};

struct MonteCarloRun {
    std::size_t trials = 300;
    std::uint64_t seed = 1;
    unsigned threads = 0;                         ///< 0: one for every processor
    std::function<void(double share)> progress;   ///< 0 to 1; called from any thread, one call at a time
    const std::atomic<bool>* cancelled = nullptr; ///< may be set by anyone
};

/// One draw of the inputs and the outputs that follow; false where the draw has no result (it is left out).
using Trial = std::function<bool(Deviates& draw, std::span<double> outputs)>;

/// Propagation of distributions (JCGM 101:2008).
/// @return one distribution for each output; nothing when cancelled or when fewer than half the draws have a result
[[nodiscard]] std::optional<std::vector<Distribution>> monte_carlo(std::size_t outputs, const Trial& trial,
                                                                   const MonteCarloRun& run);

} // namespace pallix::metrology
