// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation_uncertainty.h"

#include "block/evaluation_values.h"
#include "block/section_fit.h"
#include "block/true_touches.h"
#include "metrology/monte_carlo.h"
#include "metrology/plane_fit.h"
#include "metrology/uncertainty.h"

#include <Eigen/Cholesky>
#include <Eigen/LU>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>

namespace pallix::block {
namespace {

using metrology::Vec2;
using metrology::Vec3;

/// On the spread of a zone: the sizes and lengths of form are themselves told from the touches.
constexpr double caution = 1.1;

/// One independent way a section's fit can be off: where each of its touches goes for one standard deviation of it.
using Mode = std::vector<Vec3>;

/// Touches of one section that are drawn and moved together.
struct Modes {
    std::size_t section = 0; ///< index into ProbeSet::sections
    std::vector<Mode> modes;
};

/// A circle's centre and radius move as the covariance of the fit says; the section's place along its axis is the mean
/// of its touches.
std::vector<Mode> circle_modes(const Section& s, const SectionFrame& f, double touch) {
    const Vec3 middle = mean_of(s.touches);
    std::vector<double> angles;
    std::vector<Vec2> out;
    // The mean of the touches is the centre only for a full ring: the direction from the fitted centre counts.
    std::vector<Vec2> plane;
    for (const Touch& t : s.touches)
        plane.push_back({dot(t.position - middle, f.first), dot(t.position - middle, f.second)});
    ProbeSet alone;
    alone.logs.push_back({});
    const RoundSection round = fit_round(alone, s, {f.first, f.second});
    const Vec2 centre = round.centre - Vec2{dot(middle, f.first), dot(middle, f.second)};
    for (const Vec2 p : plane) {
        const Vec2 d = p - centre;
        out.push_back((1 / norm(d)) * d);
        angles.push_back(std::atan2(d.y, d.x));
    }
    std::vector<Mode> modes;
    if (const auto covariance = metrology::circle_covariance(angles)) {
        const Eigen::Matrix3d c = Eigen::Map<const Eigen::Matrix3d>(covariance->data());
        const Eigen::Matrix3d root = c.llt().matrixL();
        for (int k = 0; k < 3; ++k) {
            Mode mode;
            for (const Vec2 o : out)
                mode.push_back(
                    touch * ((root(0, k) + root(2, k) * o.x) * f.first + (root(1, k) + root(2, k) * o.y) * f.second));
            modes.push_back(std::move(mode));
        }
    }
    modes.emplace_back(s.touches.size(), touch / std::sqrt(static_cast<double>(s.touches.size())) * f.axis);
    return modes;
}

/// A plane's height and two slopes.
std::vector<Mode> plane_modes(const Section& s, const SectionFrame& f, double touch) {
    const Vec3 middle = mean_of(s.touches);
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    std::vector<Eigen::Vector3d> rows;
    for (const Touch& t : s.touches) {
        rows.emplace_back(1, dot(t.position - middle, f.first), dot(t.position - middle, f.second));
        normal += rows.back() * rows.back().transpose();
    }
    const Eigen::FullPivLU<Eigen::Matrix3d> factor(normal);
    if (!factor.isInvertible())
        return {};
    const Eigen::Matrix3d root = factor.inverse().llt().matrixL();
    std::vector<Mode> modes;
    for (int k = 0; k < 3; ++k) {
        Mode mode;
        for (const Eigen::Vector3d& row : rows)
            mode.push_back(touch * row.dot(root.col(k)) * f.axis);
        modes.push_back(std::move(mode));
    }
    return modes;
}

void move(ProbeSet& set, std::size_t section, const Mode& mode, double by) {
    std::vector<Touch>& touches = set.sections[section].touches;
    for (std::size_t i = 0; i < touches.size(); ++i)
        touches[i].position = touches[i].position + by * mode[i];
}

/// Whether a section bears on the values of its own feature alone, so that sections of different features can be moved
/// in one go.
bool is_private(const Blueprint& blueprint, const FeatureId& id) {
    return id.kind == FeatureKind::bore || id.kind == FeatureKind::lifter ||
           (id.kind == FeatureKind::deck && blueprint.clocking != Clocking::decks);
}

/// Moves that go together: shared sections one by one, private ones of different features at once.
std::vector<std::vector<std::pair<std::size_t, Mode>>> moves_of(const Blueprint& blueprint, const ProbeSet& probe,
                                                                const BlockFrame& frame, double touch) {
    std::vector<std::vector<std::pair<std::size_t, Mode>>> moves;
    std::map<std::pair<std::size_t, std::size_t>, std::vector<std::pair<std::size_t, Mode>>> together;
    std::map<FeatureId, std::size_t> sections_so_far;
    for (std::size_t i = 0; i < probe.sections.size(); ++i) {
        const Section& s = probe.sections[i];
        const SectionFrame f = frame_of(blueprint, frame, s.feature);
        std::vector<Mode> modes = is_round(s.feature.kind) ? circle_modes(s, f, touch) : plane_modes(s, f, touch);
        const std::size_t ordinal = sections_so_far[s.feature]++;
        for (std::size_t k = 0; k < modes.size(); ++k) {
            if (is_private(blueprint, s.feature))
                together[{ordinal, k}].emplace_back(i, std::move(modes[k]));
            else
                moves.push_back({{i, std::move(modes[k])}});
        }
    }
    for (auto& [key, move] : together)
        moves.push_back(std::move(move));
    return moves;
}

std::vector<double> numbers_of(const Evaluation& e) {
    std::vector<double> numbers;
    each_value(e, [&](const ValuePlace&, const Field& field) { numbers.push_back(field.value); });
    return numbers;
}

} // namespace

Uncertainties propagate(const Blueprint& blueprint, const ProbeSet& probe, double touch, unsigned threads) {
    Uncertainties result;
    result.touch = {touch, true};
    const auto middle = evaluate(blueprint, probe, Detail::without_zones);
    if (!middle)
        return result;
    const auto moves = moves_of(blueprint, probe, middle->frame, touch);
    std::vector<std::array<std::vector<double>, 2>> sides(moves.size());
    metrology::in_parallel(moves.size(), threads, [&](std::size_t i) {
        for (const int side : {0, 1}) {
            ProbeSet moved = probe;
            for (const auto& [section, mode] : moves[i])
                move(moved, section, mode, side == 0 ? -1 : 1);
            if (const auto e = evaluate(blueprint, moved, Detail::without_zones))
                sides[i][static_cast<std::size_t>(side)] = numbers_of(*e);
        }
    });
    std::vector<double> variance(numbers_of(*middle).size(), 0);
    for (const auto& [below, above] : sides) {
        if (below.size() != variance.size() || above.size() != variance.size())
            continue; // a fit that a move of one standard deviation breaks says nothing
        for (std::size_t k = 0; k < variance.size(); ++k) {
            const double half = (above[k] - below[k]) / 2;
            variance[k] += half * half;
        }
    }
    std::size_t k = 0;
    each_value(*middle, [&](const ValuePlace& place, const Field& field) {
        if (field.follows == Follows::smoothly)
            result.set(place.address(field.key), std::sqrt(variance[k]));
        ++k;
    });
    return result;
}

std::optional<Uncertainties> uncertainties_of(const Blueprint& blueprint, const ProbeSet& probe, TouchUncertainty touch,
                                              const metrology::MonteCarloRun& run) {
    Uncertainties result = propagate(blueprint, probe, touch.value, run.threads);
    result.touch = touch;
    const auto middle = evaluate(blueprint, probe);
    if (!middle || !(touch.value > 0))
        return result;
    const Uncertainties smooth = result;
    const std::size_t count = numbers_of(*middle).size();
    const TrueTouches truth(blueprint, probe, middle->frame, touch.value, run.threads);
    const metrology::Trial trial = [&](metrology::Deviates& draw, std::span<double> outputs) {
        ProbeSet drawn = truth.draw(draw);
        const auto flat = evaluate(blueprint, drawn, Detail::without_zones);
        if (!flat)
            return false;
        truth.lay_in_frame(drawn, blueprint, *middle, *flat, smooth, draw);
        const auto e = evaluate(blueprint, drawn);
        if (!e)
            return false;
        const std::vector<double> numbers = numbers_of(*e);
        std::ranges::copy(numbers, outputs.begin());
        return numbers.size() == count;
    };
    const auto drawn = metrology::monte_carlo(count, trial, run);
    if (!drawn)
        return run.cancelled && *run.cancelled ? std::nullopt : std::optional(result);
    std::size_t k = 0;
    each_value(*middle, [&](const ValuePlace& place, const Field& field) {
        const metrology::Distribution& of_value = (*drawn)[k++];
        if (field.follows != Follows::by_extreme)
            return;
        const std::string address = place.address(field.key);
        result.set(address, caution * of_value.standard_deviation);
        result.set_without_noise(address, of_value.mean);
    });
    return result;
}

std::optional<TouchUncertainty> touch_uncertainty(const ProbeSet& probe, const Evaluation& evaluation,
                                                  std::optional<double> stated) {
    if (!stated)
        for (const LogHeader& log : probe.logs)
            if (log.touch_uncertainty)
                stated = std::max(stated.value_or(0), *log.touch_uncertainty);
    if (stated)
        return TouchUncertainty{*stated, true};
    if (const auto scatter = evaluation.scatter.standard_deviation())
        return TouchUncertainty{*scatter, false};
    return std::nullopt;
}

} // namespace pallix::block
