// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

namespace pallix::metrology {

/// Heights along a line over a surface, evenly spaced. Lengths mm; larger is out of the metal.
struct Profile {
    double step = 0;
    std::vector<double> heights;
    [[nodiscard]] double length() const { return heights.empty() ? 0 : step * static_cast<double>(heights.size() - 1); }
};

/// Mean line by the Gaussian profile filter (ISO 16610-21): weights exp(−π(x/αλc)²), α = √(ln 2/π), out to one cutoff
/// either side. Nearer than that to an end the weights that remain are made to sum to one.
/// @param cutoff λc, mm, more than two steps
/// @return one height for each of the profile's. A wave of length λ keeps 2^−(λc/λ)² of its height, to 1e-6.
[[nodiscard]] std::vector<double> gaussian_mean_line(const Profile& profile, double cutoff);

/// Short waves taken out by the same filter: what a stylus' tip makes of a surface, and noise.
/// @param cutoff λs, mm, more than two steps
[[nodiscard]] Profile without_short_waves(const Profile& profile, double cutoff);
/// λs that goes with a λc (ISO 3274, table 1; from memory): 2.5 µm up to 0.8 mm, 8 µm at 2.5 mm, 25 µm at 8 mm.
[[nodiscard]] double short_wave_cutoff(double cutoff);

/// Profile less its mean line. A cutoff is dropped at either end, which is as far as the filter reaches, where four are
/// left then; of a shorter trace half a cutoff, and its ends are only nearly right.
[[nodiscard]] Profile roughness_profile(const Profile& profile, double cutoff);

/// The same for material-ratio parameters: the mean line is drawn twice, the second time with the valleys below the
/// first one filled, so that deep grooves do not pull it down (ISO 13565-1).
[[nodiscard]] Profile roughness_profile_with_valleys(const Profile& profile, double cutoff);

/// Ra, Rq, Rz of a roughness profile, mm. Rz is the mean of the largest heights within each cutoff length.
struct Roughness {
    double ra = 0, rq = 0, rz = 0;
    std::size_t lengths = 0; ///< cutoff lengths in Rz
};
[[nodiscard]] Roughness roughness_of(const Profile& roughness, double cutoff);

/// The Abbott curve and the straight line through its flattest 40 % (ISO 13565-2, now ISO 21920-2). Heights mm, ratios
/// 0 to 1.
struct MaterialRatio {
    double rk = 0, rpk = 0, rvk = 0; ///< core, reduced peaks, reduced valleys
    double mr1 = 0, mr2 = 0;
    double upper = 0, lower = 0; ///< heights of the line at 0 and at 100 %
    std::vector<double> curve;   ///< heights, falling, evenly spaced from 0 to 100 %
};
/// @param heights in any order
/// @return nothing for fewer than 10, or when all are one height
[[nodiscard]] std::optional<MaterialRatio> material_ratio(std::vector<double> heights);

} // namespace pallix::metrology
