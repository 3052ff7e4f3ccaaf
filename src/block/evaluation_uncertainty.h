// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"

#include <optional>
#include <string>
#include <unordered_map>

namespace pallix::metrology {
struct MonteCarloRun;
}

namespace pallix::block {

/// How sure one touch is in each direction, and who says so.
struct TouchUncertainty {
    double value = 0;    ///< mm, standard
    bool stated = false; ///< by a person or the log; otherwise estimated from the scatter about the circles
};

/// Standard uncertainties of the values of an evaluation, by the address of each value ("bores[2].levels[0].diameter").
class Uncertainties {
  public:
    void set(std::string address, double standard_uncertainty) { of_[std::move(address)] = standard_uncertainty; }
    /// @return mm (ratios and degrees as they are); nothing where it was not worked out
    [[nodiscard]] std::optional<double> of(const std::string& address) const {
        const auto found = of_.find(address);
        return found == of_.end() ? std::nullopt : std::optional(found->second);
    }
    void set_without_noise(std::string address, double value) { without_noise_[std::move(address)] = value; }
    /// A value set by outermost touches, as it is without the touches' noise, which makes every zone wider: the truth
    /// lies within two standard uncertainties of this.
    /// @return mm; nothing where the value itself stands for it
    [[nodiscard]] std::optional<double> without_noise(const std::string& address) const {
        const auto found = without_noise_.find(address);
        return found == without_noise_.end() ? std::nullopt : std::optional(found->second);
    }
    [[nodiscard]] bool empty() const { return of_.empty(); }

    TouchUncertainty touch;

  private:
    std::unordered_map<std::string, double> of_, without_noise_;
};

/// Values that follow smoothly from the touches: the covariance of each fit (circle: centre, radius and place along the
/// axis; plane: height and both slopes) carried through the whole evaluation by differences, datum frame included
/// (JCGM 100:2008, 5.1.2; touches uncorrelated, equal in all directions).
/// @param touch mm, standard uncertainty of one touch in each direction
/// @param threads 0: one for every processor
[[nodiscard]] Uncertainties propagate(const Blueprint& blueprint, const ProbeSet& probe, double touch,
                                      unsigned threads = 0);

/// All values: propagated where they follow smoothly; where they are set by outermost touches (minimum zones, lowest
/// and highest places, enclosing circles) by drawing what the touches may be without their noise (JCGM 101:2008;
/// `TrueTouches`), their value without noise with them.
/// @return nothing when cancelled
[[nodiscard]] std::optional<Uncertainties> uncertainties_of(const Blueprint& blueprint, const ProbeSet& probe,
                                                            TouchUncertainty touch,
                                                            const metrology::MonteCarloRun& run);

/// @param stated mm, by whoever asks; else what the logs state (the largest); else the scatter about the circles
/// @return nothing where nobody stated it and the scatter has no freedom
[[nodiscard]] std::optional<TouchUncertainty> touch_uncertainty(const ProbeSet& probe, const Evaluation& evaluation,
                                                                std::optional<double> stated);

/// The evaluation as the command line prints it (format `pallix-evaluation`, version 1). With uncertainties each object
/// has one more, "uncertainty", with the standard uncertainties under the names of its values.
/// @param uncertainties may be null
[[nodiscard]] std::string evaluation_json(const Evaluation& evaluation, Unit unit,
                                          const Uncertainties* uncertainties = nullptr);

} // namespace pallix::block
