// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: what the touches of a probe set may be without their noise.

#include "block/blueprint.h"
#include "block/frame.h"
#include "block/probe_log.h"
#include "metrology/without_noise.h"

#include <array>
#include <optional>
#include <vector>

namespace pallix::metrology {
class Deviates;
}

namespace pallix::block {

class Uncertainties;
struct Evaluation;

/// Directions that belong to a section: its measuring plane and the axis at right angles to it, machine frame.
struct SectionFrame {
    metrology::Vec3 first, second, axis;
};
[[nodiscard]] SectionFrame frame_of(const Blueprint& blueprint, const BlockFrame& frame, const FeatureId& id);

/// Draws the true places of all touches. Across its surface a touch is drawn without noise, together with all that
/// belong to one surface: a deck; the circles of a cylinder or lifter bore, of the mains, of the cam, and the form that
/// is left beside them. Along the surface, where noise changes next to nothing, and where there are no more touches
/// than a plane or circle needs, the noise is drawn about the place that was found.
class TrueTouches {
  public:
    /// @param touch mm, standard uncertainty of one touch in each direction, > 0
    /// @param threads 0: one for every processor
    TrueTouches(const Blueprint& blueprint, const ProbeSet& probe, const BlockFrame& frame, double touch,
                unsigned threads = 0);
    [[nodiscard]] ProbeSet draw(metrology::Deviates& deviates) const;
    /// How a deck leans in the datum frame, and how far a cylinder lies off its place, hang on the frame's own noise
    /// too: moves their touches of a draw to where they may truly lie.
    /// @param found the evaluation of the touches as they were found; @param flat of the draw
    /// @param spread of what follows smoothly (`propagate`)
    void lay_in_frame(ProbeSet& drawn, const Blueprint& blueprint, const Evaluation& found, const Evaluation& flat,
                      const Uncertainties& spread, metrology::Deviates& deviates) const;

  private:
    struct Place { ///< of a touch on its surface
        std::size_t section = 0, touch = 0;
        metrology::Vec3 across; ///< unit, machine frame
        std::size_t cell = 0;
        double beside = 0; ///< mm, off the mean of its cell
    };
    struct Surface {
        std::vector<Place> places;
        std::vector<double> scale; ///< of each cell: the root of how many touches it holds
        double own = 0;            ///< share of `beside` that is true
        bool round = false;        ///< the circles are drawn apart
        metrology::WithoutNoise form;
    };
    struct Circle {
        std::size_t section = 0;
        metrology::Vec2 centre, centre_spread; ///< mm; standard
        double radius = 0, radius_spread = 0;
        double along = 0;                 ///< mm, of its middle along the axis
        std::vector<metrology::Vec2> out; ///< of each touch: unit, in the measuring plane
    };
    struct Circles {
        std::vector<Circle> of;
        metrology::Vec3 first, second;
        std::array<Eigen::VectorXd, 3> scale; ///< of centre x, y and radius, for each circle
        std::array<metrology::WithoutNoise, 3> drawn;
    };
    struct Gathered;
    [[nodiscard]] Surface surface_of(const Gathered& gathered) const;
    /// What is drawn of the sections that belong together.
    struct Made {
        std::optional<Surface> surface;
        std::optional<Circles> circles;
    };
    [[nodiscard]] Made of_deck(const Blueprint& blueprint, const BlockFrame& frame, std::size_t section) const;
    [[nodiscard]] Made of_round(const Blueprint& blueprint, const BlockFrame& frame,
                                const std::vector<std::size_t>& sections) const;
    void draw_circles(Circles& circles, FeatureKind kind) const;

    const ProbeSet& probe_;
    double touch_;
    std::vector<Surface> surfaces_;
    std::vector<Circles> circles_;
};

} // namespace pallix::block
