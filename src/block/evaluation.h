// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/frame.h"
#include "block/probe_log.h"

#include <initializer_list>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::block {

/// Straightness of the main tunnel over its section centres, mm.
struct TunnelResult {
    double straightness_lsq{};         ///< 2 × the largest distance from datum A
    double straightness_vertical_mz{}; ///< minimum zone in the x–z plane
    double straightness_lateral_mz{};  ///< minimum zone in the x–y plane
};

/// One section of a main. Position in the block frame, mm.
struct MainResult {
    FeatureId id;
    std::string level;
    metrology::Vec3 centre;
    double diameter{}; ///< LSQ
    double roundness_lsq{};
    double roundness_mz{};
    std::size_t points{};
    std::vector<metrology::Vec3> surface; ///< its points on the surface, block frame, mm
};

struct CamResult {
    double y{}, z{};         ///< mean of the section centres, block frame, mm
    double distance{};       ///< from the tunnel axis, mm
    double distance_error{}; ///< less the blueprint's, mm
    double parallelism{};    ///< mm over the span of its bearings
};

/// Points that nobody changes any more: copies share them, so that a scan of a million is kept once.
class SharedPoints {
  public:
    SharedPoints() : points_(std::make_shared<const std::vector<metrology::Vec3>>()) {}
    SharedPoints(std::vector<metrology::Vec3> points)
        : points_(std::make_shared<const std::vector<metrology::Vec3>>(std::move(points))) {}
    SharedPoints(std::initializer_list<metrology::Vec3> points) : SharedPoints(std::vector<metrology::Vec3>(points)) {}
    operator const std::vector<metrology::Vec3>&() const { return *points_; }
    [[nodiscard]] const std::vector<metrology::Vec3>& all() const { return *points_; }
    [[nodiscard]] auto begin() const { return points_->begin(); }
    [[nodiscard]] auto end() const { return points_->end(); }
    [[nodiscard]] std::size_t size() const { return points_->size(); }
    [[nodiscard]] bool empty() const { return points_->empty(); }
    const metrology::Vec3& operator[](std::size_t i) const { return (*points_)[i]; }
    /// The very same points, not only equal ones.
    [[nodiscard]] bool same(const SharedPoints& other) const { return points_ == other.points_; }

  private:
    std::shared_ptr<const std::vector<metrology::Vec3>> points_;
};

struct DeckResult {
    FeatureId id;
    double bank_angle{};                              ///< rad, of the blueprint
    double height_min{}, height_max{}, height_mean{}; ///< w of the points, mm
    double flatness_lsq{}, flatness_mz{};             ///< mm
    double slope_u{}, tilt_v{};                       ///< dimensionless, of the LSQ fit w = H + a·u + b·v
    double nominal{};                                 ///< the blueprint's deck height, mm
    SharedPoints points;                              ///< (u, v, w) in the bank frame, mm
    std::size_t touches = 0;                          ///< that the numbers were made from: of a thinned scan more
    metrology::Vec2 middle; ///< mean place of those, (u, v) mm: the LSQ plane has the mean height there

    double angle_error() const; ///< rad, positive: the deck rises towards +v
    double cut_to_clean() const { return height_max - height_min; }
    double stock_to_nominal() const { return height_min - nominal; }
};

struct DowelResult {
    FeatureId id;
    double u{}, v{};   ///< bank frame, mm
    double diameter{}; ///< mm
    double du{}, dv{}; ///< less the blueprint's, mm
    double w{};        ///< where it was touched, mm
    bool place_known = true;
};

/// One level of a cylinder or lifter bore, in the bank frame (a lifter's is turned to its own angle), mm.
struct HoleLevel {
    std::string level;
    double w{};
    metrology::Vec2 centre; ///< (u, v)
    double diameter{};      ///< LSQ
    double roundness_lsq{};
    double roundness_mz{};
    std::vector<metrology::Vec2> surface; ///< (u, v) of the points
    std::vector<double> heights;          ///< w of the points, in the same order
};

/// A cylinder or lifter bore over all its levels.
struct HoleResult {
    FeatureId id;
    std::optional<int> cylinder;               ///< the maker's number of a cylinder
    metrology::Vec2 centre;                    ///< (u, v) at the top level, mm
    bool place_known = true;                   ///< somebody stated where it should be
    metrology::Vec2 error;                     ///< less the blueprint's, mm; 0 where that is not known
    std::optional<metrology::Vec2> from_dowel; ///< the same, from the bank's first measured dowel (cylinders)
    std::vector<HoleLevel> levels;             ///< from the top down
    metrology::Vec2 lean;                      ///< du/dw, dv/dw of the line through the level centres; 0 for one level
    double clean_free{};                       ///< mm, smallest bore that cleans up, wherever its centre is
    double clean_top{};                        ///< mm, smallest that cleans up about the top level's centre
    double clean_blueprint{};                  ///< mm, smallest that cleans up about the blueprint's centre
    std::optional<double> v_cam;               ///< mm, a lifter's offset from the plane through the cam axis

    double diameter() const { return levels.front().diameter; }
    double taper() const { return levels.front().diameter - levels.back().diameter; }
};

/// Deviations of mains, cylinders and lifters from their circles, pooled.
struct Scatter {
    double squares = 0;      ///< mm²
    std::size_t freedom = 0; ///< points less three for each section
    /// Standard deviation of one touch about its circle, mm: form of the bores included; nothing without freedom.
    [[nodiscard]] std::optional<double> standard_deviation() const;
    /// @param points of the section, at least 3
    void add(double sum_of_squares, std::size_t points);
};

/// How much of an evaluation is worked out.
enum class Detail {
    whole,
    without_zones, ///< minimum zones and enclosing circles stay 0: for repeating it many times
};

/// What the touches say of the block, in its datum frame. An object without measured points is left out.
struct Evaluation {
    BlockFrame frame;
    TunnelResult tunnel;
    std::vector<MainResult> mains; ///< in the blueprint's order, sections of one main from front to rear
    std::optional<CamResult> cam;
    std::vector<DeckResult> decks;
    std::vector<DowelResult> dowels;
    std::vector<HoleResult> bores;
    std::vector<HoleResult> lifters;
    Scatter scatter;

    [[nodiscard]] const DeckResult* deck(std::string_view bank) const;
};

/// Fits every feature and builds the datum frame from them (docs/method.md has each definition).
/// @return faults where the points cannot fix the frame or a fit; each names file and line
[[nodiscard]] Result<Evaluation> evaluate(const Blueprint& blueprint, const ProbeSet& probe,
                                          Detail detail = Detail::whole);

/// A scan of millions as few points that tell the same: of every square cell the touch furthest below and the one
/// furthest above the deck's plane. Heights, flatness and slopes stay those of all touches; what is worked out from the
/// points later (a map, the worst window) loses no peak and no hollow, and is off by a cell's width times the tilt of a
/// window against the plane at most.
/// @param most points to keep, about
[[nodiscard]] DeckResult thinned(DeckResult deck, std::size_t most = 50'000);

/// Deck numbers from points already in the bank frame, however they were measured.
/// @param points (u, v, w) mm, at least 3 not on one line
/// @return nothing when the points cannot carry a plane
[[nodiscard]] std::optional<DeckResult> evaluate_deck(const BankBlueprint& bank, std::vector<metrology::Vec3> points,
                                                      Detail detail = Detail::whole);

} // namespace pallix::block
