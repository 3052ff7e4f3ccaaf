// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/machines.h"

#include "block/number_text.h"
#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>
#include <vector>

namespace pallix::workshop {
namespace {

// Standard distributions differ between libraries; these do not.
double uniform(std::mt19937_64& random) {
    return static_cast<double>(random() >> 11) * 0x1.0p-53;
}
double normal(std::mt19937_64& random) {
    const double u = 1 - uniform(random), v = uniform(random);
    return std::sqrt(-2 * std::log(u)) * std::cos(2 * std::numbers::pi * v);
}

} // namespace

double BoringBar::bore(double setting) {
    ++bored;
    const double chipped = chips_at && bored >= *chips_at ? chip : 0;
    return setting + error - chipped - growth_per_hole * (bored - 1);
}

std::string trace(const TraceJob& job) {
    std::mt19937_64 random(job.seed);
    const auto n = static_cast<std::size_t>(std::lround(job.length / job.step)) + 1;
    std::vector<double> heights(n);
    double smooth = 0; // a surface is no white noise: neighbours hang together over a few steps
    for (std::size_t i = 0; i < n; ++i) {
        smooth = 0.8 * smooth + 0.6 * normal(random);
        heights[i] = job.plateau * smooth +
                     job.waviness * std::sin(2 * std::numbers::pi * static_cast<double>(i) * job.step / 2.6);
    }
    for (double at = job.spacing * uniform(random); at < job.length;
         at += job.spacing * (0.4 + 1.2 * uniform(random))) {
        const double depth = job.groove * (0.4 + 0.9 * uniform(random)), half = 0.008 + 0.014 * uniform(random);
        const auto first = static_cast<std::size_t>(std::max(0.0, (at - half) / job.step));
        for (std::size_t i = first; i < n && static_cast<double>(i) * job.step <= at + half; ++i) {
            const double off = std::abs(static_cast<double>(i) * job.step - at) / half;
            heights[i] -= depth * std::max(0.0, 1 - off);
        }
    }
    std::string text = "# pallix-trace: 1\n# cutoff_mm: 0.8\nx,z\n";
    for (std::size_t i = 0; i < n; ++i)
        text += block::fixed_number(static_cast<double>(i) * job.step, 4) + "," +
                block::fixed_number(heights[i] * 1000, 4) + "\n";
    return text;
}

} // namespace pallix::workshop
