// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/monte_carlo.h"

#include <algorithm>
#include <boost/random/normal_distribution.hpp>
#include <cmath>
#include <mutex>
#include <thread>

namespace pallix::metrology {
namespace {

std::mt19937_64 bits_for(std::uint64_t seed, std::uint64_t part) {
    const auto low = [](std::uint64_t x) { return static_cast<std::uint32_t>(x); };
    const auto high = [](std::uint64_t x) { return static_cast<std::uint32_t>(x >> 32U); };
    std::seed_seq words{low(seed), high(seed), low(part), high(part)};
    return std::mt19937_64(words);
}

/// The value below which a share of the sorted sample lies.
double quantile(const std::vector<double>& sorted, double share) {
    const double at = share * static_cast<double>(sorted.size() - 1);
    const auto below = static_cast<std::size_t>(at);
    const std::size_t above = std::min(below + 1, sorted.size() - 1);
    return sorted[below] + (at - static_cast<double>(below)) * (sorted[above] - sorted[below]);
}

Distribution distribution_of(std::vector<double>& sample) {
    std::ranges::sort(sample);
    const double n = static_cast<double>(sample.size());
    Distribution d;
    for (const double x : sample)
        d.mean += x;
    d.mean /= n;
    double squares = 0;
    for (const double x : sample)
        squares += (x - d.mean) * (x - d.mean);
    d.standard_deviation = sample.size() > 1 ? std::sqrt(squares / (n - 1)) : 0;
    d.low = quantile(sample, 0.025);
    d.high = quantile(sample, 0.975);
    return d;
}

} // namespace

Deviates::Deviates(std::uint64_t seed, std::uint64_t part) : bits_(bits_for(seed, part)) {}

double Deviates::uniform() {
    constexpr double scale = 1.0 / 18446744073709551616.0; // 2^-64
    return (static_cast<double>(bits_() >> 11U) * 2048.0 + 1024.0) * scale;
}

double Deviates::normal() {
    return boost::random::normal_distribution<double>()(bits_); // the same on every machine, unlike the standard's
}

void in_parallel(std::size_t count, unsigned threads, const std::function<void(std::size_t item)>& each) {
    std::atomic<std::size_t> next = 0;
    const auto work = [&] {
        for (std::size_t i = next++; i < count; i = next++)
            each(i);
    };
    const unsigned most = threads > 0 ? threads : std::max(1U, std::thread::hardware_concurrency());
    std::vector<std::jthread> crew;
    for (std::size_t t = 1; t < std::min<std::size_t>(most, count); ++t)
        crew.emplace_back(work);
    work();
}

void in_batches(std::size_t count, std::uint64_t seed, std::uint64_t first, unsigned threads,
                const std::function<bool(Deviates& draw, std::size_t item)>& each) {
    std::atomic<bool> enough = false;
    in_parallel((count + batch_size - 1) / batch_size, threads, [&](std::size_t batch) {
        if (enough)
            return;
        Deviates draw(seed, first + batch);
        for (std::size_t i = batch * batch_size; i < std::min((batch + 1) * batch_size, count); ++i)
            if (!each(draw, i)) {
                enough = true;
                return;
            }
    });
}

std::optional<std::vector<Distribution>> monte_carlo(std::size_t outputs, const Trial& trial,
                                                     const MonteCarloRun& run) {
    std::vector<double> results(run.trials * outputs);
    std::vector<char> sound(run.trials, 0);
    std::mutex telling;
    in_batches(run.trials, run.seed, 0, run.threads, [&](Deviates& draw, std::size_t i) {
        if (run.cancelled && *run.cancelled)
            return false;
        sound[i] = trial(draw, std::span(results).subspan(i * outputs, outputs)) ? 1 : 0;
        if (run.progress && i % batch_size == 0) {
            const std::lock_guard lock(telling);
            run.progress(static_cast<double>(i) / static_cast<double>(run.trials));
        }
        return true;
    });
    if (run.cancelled && *run.cancelled)
        return std::nullopt;
    std::vector<Distribution> distributions;
    std::vector<double> sample;
    for (std::size_t k = 0; k < outputs; ++k) {
        sample.clear();
        for (std::size_t i = 0; i < run.trials; ++i)
            if (sound[i])
                sample.push_back(results[i * outputs + k]);
        if (2 * sample.size() < run.trials || sample.empty())
            return std::nullopt;
        distributions.push_back(distribution_of(sample));
    }
    return distributions;
}

} // namespace pallix::metrology
