// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/true_touches.h"

#include "block/evaluation_uncertainty.h"
#include "block/section_fit.h"
#include "block/true_mains.h"
#include "metrology/monte_carlo.h"
#include "metrology/uncertainty.h"

#include <Eigen/Cholesky>
#include <Eigen/QR>
#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>
#include <numeric>

namespace pallix::block {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;
using metrology::Vec2;
using metrology::Vec3;

/// More touches of one surface than this are drawn cell by cell.
constexpr std::size_t most_cells = 500;
/// Lengths that form may have, mm over a deck, radii round a bore, mm along an axis. No table gives them: they span
/// what touches can tell apart, and the values weigh them.
constexpr std::array deck_lengths{25.0, 60.0, 150.0};
constexpr std::array round_lengths{0.7, 1.6};
constexpr std::array axis_lengths{40.0, 200.0};
constexpr double along_a_bore = 0.5; ///< form changes half as fast along an axis as round it
/// A hollow or swelling is looked for about each touch, or about this many of them: as wide as half a gap between
/// touches, as a gap, and twice that.
constexpr std::size_t most_features = 120;
constexpr std::array feature_widths{0.5, 1.0, 2.0};
constexpr double levels_apart = 6; ///< wear at one level says little of the next

MatrixXd distances(const std::vector<Vec3>& at) {
    const auto n = static_cast<Index>(at.size());
    MatrixXd d(n, n);
    for (Index j = 0; j < n; ++j)
        for (Index i = 0; i < n; ++i)
            d(i, j) = norm(at[static_cast<std::size_t>(i)] - at[static_cast<std::size_t>(j)]);
    return d;
}

VectorXd column(const std::vector<double>& x) {
    return Eigen::Map<const VectorXd>(x.data(), static_cast<Index>(x.size()));
}

/// Something that stands about one of the places, as wide as their gaps are.
/// @param apart how far levels are from one another against what they are, for this
MatrixXd bumps(std::vector<Vec3> at, double apart) {
    for (Vec3& p : at)
        p.z *= apart;
    const MatrixXd distance = distances(at);
    const Index n = distance.rows();
    const Index each = 1 + (n - 1) / static_cast<Index>(most_features);
    const double gap = (distance + 1e9 * MatrixXd::Identity(n, n)).rowwise().minCoeff().mean();
    const MatrixXd about = distance(Eigen::all, Eigen::seq(0, n - 1, each));
    const double wider = std::sqrt(static_cast<double>(each)); // few of many touches stand for those about them
    MatrixXd all(n, about.cols() * static_cast<Index>(feature_widths.size()));
    Index column = 0;
    for (const double width : feature_widths) {
        const double w = width * gap * wider;
        all.middleCols(column, about.cols()) = (-about.array().square() / (2 * w * w)).exp();
        column += about.cols();
    }
    return all;
}

/// One side of a deck higher than the other. Of all steps between neighbouring touches, in all directions, those are
/// kept that explain most of what a plane with twist and bow leaves.
struct Steps {
    MatrixXd columns; ///< 1 on the high side
    double of = 0;    ///< how many were looked at
};
Steps steps_across(const std::vector<Vec3>& at, const VectorXd& values) {
    const auto n = static_cast<Index>(at.size());
    const int directions = n > 60 ? 60 : 12;
    constexpr std::size_t most_steps = 240;
    MatrixXd smooth(n, 6);
    for (Index i = 0; i < n; ++i) {
        const double x = at[static_cast<std::size_t>(i)].x / 100, y = at[static_cast<std::size_t>(i)].y / 100;
        smooth.row(i) << 1, x, y, x * y, x * x, y * y;
    }
    const Index patterns = n > 12 ? 6 : 3;
    const MatrixXd q =
        Eigen::HouseholderQR<MatrixXd>(smooth.leftCols(patterns)).householderQ() * MatrixXd::Identity(n, patterns);
    const VectorXd left = values - q * (q.transpose() * values);
    struct Step {
        double explains = 0;
        int direction = 0;
        Index after = 0; ///< so many touches lie on the low side
    };
    std::vector<Step> all;
    std::vector<std::vector<Index>> orders;
    for (int d = 0; d < directions; ++d) {
        const double turn = std::numbers::pi * d / directions;
        VectorXd along(n);
        for (Index i = 0; i < n; ++i)
            along[i] =
                at[static_cast<std::size_t>(i)].x * std::cos(turn) + at[static_cast<std::size_t>(i)].y * std::sin(turn);
        std::vector<Index>& order = orders.emplace_back(n);
        std::iota(order.begin(), order.end(), Index{0});
        std::ranges::sort(order, {}, [&along](Index i) { return along[i]; });
        double seen = 0;
        VectorXd of_patterns = VectorXd::Zero(patterns);
        // The touches up to k are the low side; of the others what is left is the same with the other sign.
        for (Index k = 0; k + 1 < n; ++k) {
            seen -= left[order[static_cast<std::size_t>(k)]];
            of_patterns += q.row(order[static_cast<std::size_t>(k)]).transpose();
            const double apart =
                along[order[static_cast<std::size_t>(k) + 1]] - along[order[static_cast<std::size_t>(k)]];
            const double own = static_cast<double>(k + 1) - of_patterns.squaredNorm();
            if (apart > 1e-6 && own > 1e-6)
                all.push_back({seen * seen / own, d, k + 1});
        }
    }
    const auto kept = static_cast<std::ptrdiff_t>(std::min(most_steps, all.size()));
    std::partial_sort(all.begin(), all.begin() + kept, all.end(),
                      [](const Step& a, const Step& b) { return a.explains > b.explains; });
    Steps steps{MatrixXd::Zero(n, kept), static_cast<double>(all.size())};
    for (std::ptrdiff_t s = 0; s < kept; ++s) {
        const Step& step = all[static_cast<std::size_t>(s)];
        const std::vector<Index>& order = orders[static_cast<std::size_t>(step.direction)];
        for (Index k = step.after; k < n; ++k)
            steps.columns(order[static_cast<std::size_t>(k)], s) = 1;
    }
    return steps;
}

} // namespace

SectionFrame frame_of(const Blueprint& blueprint, const BlockFrame& frame, const FeatureId& id) {
    if (id.kind == FeatureKind::main || id.kind == FeatureKind::cam)
        return {frame.y, frame.z, frame.x};
    const double angle = id.kind == FeatureKind::lifter    ? *blueprint.hole(id)->angle
                         : id.kind == FeatureKind::panrail ? 0
                                                           : blueprint.bank(id.bank)->angle;
    const BankAxes bank(angle);
    const auto machine = [&frame](Vec3 d) { return d.x * frame.x + d.y * frame.y + d.z * frame.z; };
    return {machine(bank.u), machine(bank.v), machine(bank.w)};
}

/// The touches of one surface on their way into cells.
struct TrueTouches::Gathered {
    std::vector<Place> places;
    std::vector<double> values;            ///< mm, of each
    std::vector<std::vector<double>> free; ///< of each: how much of every free pattern a mm of it is there
    std::vector<Vec3> at;                  ///< mm, on the surface: what lies near lies alike
    std::vector<double> lengths;           ///< mm, that form may have
    bool round = false;
};

TrueTouches::Surface TrueTouches::surface_of(const Gathered& g) const {
    const std::size_t n = g.values.size(), patterns = g.free.front().size();
    // Each touch by itself, or all that lie in one cube of a size that leaves few enough.
    std::vector<std::size_t> cell_of(n);
    std::size_t cells = n;
    for (std::size_t i = 0; i < n; ++i)
        cell_of[i] = i;
    for (double side = 2; cells > most_cells; side *= 1.25) {
        std::map<std::array<long, 3>, std::size_t> known;
        const auto part = [side](double x) { return std::lround(x / side); };
        for (std::size_t i = 0; i < n; ++i)
            cell_of[i] =
                known.try_emplace({part(g.at[i].x), part(g.at[i].y), part(g.at[i].z)}, known.size()).first->second;
        cells = known.size();
    }
    Surface surface{g.places, std::vector<double>(cells, 0), 0, g.round, {}};
    MatrixXd all(static_cast<Index>(n), static_cast<Index>(patterns));
    for (std::size_t i = 0; i < n; ++i)
        all.row(static_cast<Index>(i)) = column(g.free[i]);
    const VectorXd values = column(g.values);
    // What the patterns alone explain is the same within a cell; only what they leave is told by the cell's mean.
    const VectorXd left = values - all * (all.transpose() * all).ldlt().solve(all.transpose() * values);
    std::vector<Vec3> at(cells);
    MatrixXd free = MatrixXd::Zero(static_cast<Index>(cells), all.cols());
    VectorXd mean = VectorXd::Zero(static_cast<Index>(cells)), mean_left = mean;
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t c = cell_of[i];
        const auto row = static_cast<Index>(c), touch = static_cast<Index>(i);
        surface.places[i].cell = c;
        ++surface.scale[c];
        at[c] = at[c] + g.at[i];
        mean[row] += values[touch];
        mean_left[row] += left[touch];
        free.row(row) += all.row(touch);
    }
    const VectorXd count = column(surface.scale), scale = count.cwiseSqrt();
    for (std::size_t c = 0; c < cells; ++c) {
        at[c] = (1 / surface.scale[c]) * at[c];
        surface.scale[c] = std::sqrt(surface.scale[c]);
    }
    double squares = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const auto row = static_cast<Index>(cell_of[i]);
        surface.places[i].beside = left[static_cast<Index>(i)] - mean_left[row] / count[row];
        squares += surface.places[i].beside * surface.places[i].beside;
    }
    if (n > cells)
        surface.own = std::max(0.0, 1 - touch_ * touch_ * static_cast<double>(n - cells) / squares);
    const MatrixXd distance = distances(at);
    std::vector<MatrixXd> shapes;
    for (const double length : g.lengths)
        shapes.emplace_back(scale.asDiagonal() * metrology::matern(distance, length) * scale.asDiagonal());
    // A cell's mean is as sure as the root of how many touches it holds: scaled by that all are equally sure.
    const auto scaled = [&](const MatrixXd& x) { return MatrixXd(scale.cwiseQuotient(count).asDiagonal() * x); };
    MatrixXd features = bumps(at, g.round ? levels_apart : 1);
    double features_of = 0;
    if (!g.round) {
        const Steps across = steps_across(at, mean_left.cwiseQuotient(count));
        features_of = static_cast<double>(features.cols()) + across.of;
        features.conservativeResize(Eigen::NoChange, features.cols() + across.columns.cols());
        features.rightCols(across.columns.cols()) = across.columns;
    }
    surface.form = metrology::WithoutNoise(
        {scaled(mean), scaled(free), std::move(shapes), touch_, scale.asDiagonal() * features, features_of});
    return surface;
}

TrueTouches::Made TrueTouches::of_deck(const Blueprint& blueprint, const BlockFrame& frame, std::size_t section) const {
    const Section& s = probe_.sections[section];
    if (s.touches.size() <= 3)
        return {};
    const SectionFrame f = frame_of(blueprint, frame, s.feature);
    const Vec3 middle = mean_of(s.touches);
    Gathered g;
    g.lengths.assign(deck_lengths.begin(), deck_lengths.end());
    for (std::size_t i = 0; i < s.touches.size(); ++i) {
        const Vec3 p = s.touches[i].position - middle;
        const double u = dot(p, f.first), v = dot(p, f.second);
        g.places.push_back({section, i, f.axis});
        g.values.push_back(dot(p, f.axis));
        g.free.push_back({1, u / 100, v / 100});
        g.at.push_back({u, v, 0});
    }
    return {surface_of(g), {}};
}

TrueTouches::Made TrueTouches::of_round(const Blueprint& blueprint, const BlockFrame& frame,
                                        const std::vector<std::size_t>& sections) const {
    const FeatureId& id = probe_.sections[sections.front()].feature;
    const SectionFrame f = frame_of(blueprint, frame, id);
    Circles circles{{}, f.first, f.second, {}, {}};
    Gathered g;
    g.round = true;
    for (std::size_t k = 0; k < sections.size(); ++k) {
        const Section& s = probe_.sections[sections[k]];
        const RoundSection round = fit_round(probe_, s, {f.first, f.second});
        Circle circle{sections[k], round.centre, {}, round.radius, 0, dot(mean_of(s.touches), f.axis), {}};
        std::vector<double> angles;
        for (std::size_t i = 0; i < round.surface.size(); ++i) {
            const Vec2 from_centre = round.surface[i] - round.centre;
            const Vec2 d = (1 / norm(from_centre)) * from_centre;
            circle.out.push_back(d);
            angles.push_back(std::atan2(d.y, d.x));
            g.places.push_back({sections[k], i, d.x * f.first + d.y * f.second});
            g.values.push_back(norm(from_centre) - round.radius);
            g.at.push_back({round.radius * d.x, round.radius * d.y, along_a_bore * circle.along});
            g.free.emplace_back(3 * sections.size(), 0);
            g.free.back()[3 * k] = d.x;
            g.free.back()[3 * k + 1] = d.y;
            g.free.back()[3 * k + 2] = 1;
        }
        const auto covariance = metrology::circle_covariance(angles);
        if (!covariance)
            return {};
        circle.centre_spread = {touch_ * std::sqrt((*covariance)[0]), touch_ * std::sqrt((*covariance)[4])};
        circle.radius_spread = touch_ * std::sqrt((*covariance)[8]);
        circles.of.push_back(std::move(circle));
    }
    for (const double length : round_lengths)
        g.lengths.push_back(length * circles.of.front().radius);
    Made made;
    if (g.values.size() > g.free.front().size())
        made.surface = surface_of(g);
    draw_circles(circles, id.kind);
    made.circles = std::move(circles);
    return made;
}

/// Mains lie along any line, bearings of a cam about any centre, each with a size of its own; the levels of a bore
/// about one circle. What they lie off it they do level by level, or leaning, or bowed.
void TrueTouches::draw_circles(Circles& circles, FeatureKind kind) const {
    const auto n = static_cast<Index>(circles.of.size());
    std::vector<Vec3> at;
    for (const Circle& c : circles.of)
        at.push_back({c.along, 0, 0});
    double low = at.front().x, high = low;
    for (const Vec3& p : at) {
        low = std::min(low, p.x);
        high = std::max(high, p.x);
    }
    MatrixXd line(n, 2);
    for (Index i = 0; i < n; ++i)
        line.row(i) << 1, (2 * at[static_cast<std::size_t>(i)].x - low - high) / std::max(high - low, 1.0);
    std::vector<MatrixXd> shapes{line.col(1) * line.col(1).transpose()};
    for (const double length : axis_lengths)
        shapes.push_back(metrology::matern(distances(at), length));
    if (kind == FeatureKind::main) { // both ends of a main lie alike, whatever the next one does
        MatrixXd same(n, n);
        for (Index j = 0; j < n; ++j)
            for (Index i = 0; i < n; ++i)
                same(i, j) = probe_.sections[circles.of[static_cast<std::size_t>(i)].section].feature ==
                                     probe_.sections[circles.of[static_cast<std::size_t>(j)].section].feature
                                 ? 1
                                 : 0;
        shapes.push_back(std::move(same));
    }
    // One bow over all of them, or one of them by itself.
    MatrixXd features(n, n + 1);
    features << line.col(1).cwiseAbs2(), MatrixXd::Identity(n, n);
    const bool in_line = kind == FeatureKind::main || kind == FeatureKind::cam;
    for (std::size_t k = 0; k < 3; ++k) {
        VectorXd value(n), spread(n);
        for (Index i = 0; i < n; ++i) {
            const Circle& c = circles.of[static_cast<std::size_t>(i)];
            value[i] = k == 0 ? c.centre.x : k == 1 ? c.centre.y : c.radius;
            spread[i] = k == 0 ? c.centre_spread.x : k == 1 ? c.centre_spread.y : c.radius_spread;
        }
        const MatrixXd free = in_line && k == 2                         ? MatrixXd(MatrixXd::Identity(n, n))
                              : kind == FeatureKind::main && high > low ? line
                                                                        : MatrixXd(line.leftCols(1));
        const double noise = spread.mean();
        const VectorXd& scale = circles.scale[k] = noise * spread.cwiseInverse();
        std::vector<MatrixXd> scaled;
        scaled.reserve(shapes.size());
        for (const MatrixXd& shape : shapes)
            scaled.emplace_back(scale.asDiagonal() * shape * scale.asDiagonal());
        circles.drawn[k] = metrology::WithoutNoise({scale.cwiseProduct(value), scale.asDiagonal() * free,
                                                    std::move(scaled), noise, scale.asDiagonal() * features, 0});
    }
}

TrueTouches::TrueTouches(const Blueprint& blueprint, const ProbeSet& probe, const BlockFrame& frame, double touch,
                         unsigned threads)
    : probe_(probe), touch_(touch) {
    std::vector<std::vector<std::size_t>> groups; // of sections that belong together
    std::map<FeatureId, std::vector<std::size_t>> holes;
    std::map<FeatureKind, std::vector<std::size_t>> lines;
    for (std::size_t i = 0; i < probe.sections.size(); ++i)
        switch (const FeatureId& id = probe.sections[i].feature; id.kind) {
        case FeatureKind::deck:
            groups.push_back({i});
            break;
        case FeatureKind::bore:
        case FeatureKind::lifter:
            holes[id].push_back(i);
            break;
        case FeatureKind::main:
        case FeatureKind::cam:
            lines[id.kind].push_back(i);
            break;
        default: // dowels and the pan rail carry no zone
            break;
        }
    for (const auto& [id, sections] : holes)
        groups.push_back(sections);
    for (const auto& [kind, sections] : lines)
        groups.push_back(sections);
    std::vector<Made> made(groups.size());
    metrology::in_parallel(groups.size(), threads, [&](std::size_t i) {
        const std::size_t first = groups[i].front();
        made[i] = probe.sections[first].feature.kind == FeatureKind::deck ? of_deck(blueprint, frame, first)
                                                                          : of_round(blueprint, frame, groups[i]);
    });
    for (Made& m : made) {
        if (m.surface)
            surfaces_.push_back(std::move(*m.surface));
        if (m.circles)
            circles_.push_back(std::move(*m.circles));
    }
}

void TrueTouches::lay_in_frame(ProbeSet& drawn, const Blueprint& blueprint, const Evaluation& found,
                               const Evaluation& flat, const Uncertainties& spread,
                               metrology::Deviates& deviates) const {
    const auto off = [&](const std::string& address, double value, double now) {
        const auto noise = spread.of(address);
        return noise && *noise > 0 ? metrology::draw_without_noise(value, now, *noise, deviates) - now : 0.0;
    };
    std::map<FeatureId, std::function<Vec3(Vec3)>> moves;
    for (std::size_t i = 0; i < found.decks.size() && i < flat.decks.size(); ++i) {
        const std::string at = "decks[" + std::to_string(i) + "].";
        const DeckResult &was = found.decks[i], &now = flat.decks[i];
        const SectionFrame f = frame_of(blueprint, flat.frame, was.id);
        const double along = off(at + "slope_u", was.slope_u, now.slope_u),
                     across = blueprint.clocking == Clocking::decks ? 0 : off(at + "tilt_v", was.tilt_v, now.tilt_v);
        const Vec3 middle = flat.frame.origin + now.middle.x * f.first + now.middle.y * f.second;
        moves[was.id] = [=](Vec3 p) {
            return (along * dot(p - middle, f.first) + across * dot(p - middle, f.second)) * f.axis;
        };
    }
    for (std::size_t i = 0; i < found.bores.size() && i < flat.bores.size(); ++i) {
        const std::string at = "bores[" + std::to_string(i) + "].";
        const HoleResult &was = found.bores[i], &now = flat.bores[i];
        if (!was.place_known)
            continue;
        const SectionFrame f = frame_of(blueprint, flat.frame, was.id);
        const Vec3 move =
            off(at + "du", was.error.x, now.error.x) * f.first + off(at + "dv", was.error.y, now.error.y) * f.second;
        moves[was.id] = [move](Vec3) { return move; };
    }
    for (Section& s : drawn.sections)
        if (const auto move = moves.find(s.feature); move != moves.end())
            for (Touch& t : s.touches)
                t.position = t.position + move->second(t.position);
}

ProbeSet TrueTouches::draw(metrology::Deviates& deviates) const {
    ProbeSet drawn = probe_;
    const auto anywhere = [&] { return touch_ * Vec3{deviates.normal(), deviates.normal(), deviates.normal()}; };
    std::vector<std::vector<bool>> known(drawn.sections.size());
    for (std::size_t s = 0; s < drawn.sections.size(); ++s)
        known[s].assign(drawn.sections[s].touches.size(), false);
    for (const Circles& line : circles_) {
        std::array<VectorXd, 3> off;
        for (std::size_t k = 0; k < 3; ++k)
            off[k] = line.drawn[k].draw(deviates).cwiseQuotient(line.scale[k]);
        for (std::size_t c = 0; c < line.of.size(); ++c) {
            const Circle& circle = line.of[c];
            const auto i = static_cast<Index>(c);
            for (std::size_t t = 0; t < circle.out.size(); ++t) {
                const Vec3 out = circle.out[t].x * line.first + circle.out[t].y * line.second;
                const double by = off[0][i] * circle.out[t].x + off[1][i] * circle.out[t].y + off[2][i];
                Vec3& at = drawn.sections[circle.section].touches[t].position;
                at = at + by * out + metrology::perpendicular(anywhere(), out);
                known[circle.section][t] = true;
            }
        }
    }
    for (const Surface& surface : surfaces_) {
        const VectorXd off = surface.round ? surface.form.draw_beside(deviates) : surface.form.draw(deviates);
        for (const Place& p : surface.places) {
            double by = off[static_cast<Index>(p.cell)] / surface.scale[p.cell];
            if (surface.scale[p.cell] > 1)
                by += (surface.own - 1) * p.beside + touch_ * std::sqrt(surface.own) * deviates.normal();
            Vec3& at = drawn.sections[p.section].touches[p.touch].position;
            at = at + by * p.across;
            if (!surface.round)
                at = at + metrology::perpendicular(anywhere(), p.across);
            known[p.section][p.touch] = true;
        }
    }
    for (std::size_t s = 0; s < known.size(); ++s)
        for (std::size_t i = 0; i < known[s].size(); ++i)
            if (!known[s][i])
                drawn.sections[s].touches[i].position = drawn.sections[s].touches[i].position + anywhere();
    return drawn;
}

std::vector<std::vector<MainResult>> draw_mains(const Blueprint& blueprint, const ProbeSet& probe,
                                                const Evaluation& evaluation, double touch, std::size_t draws,
                                                std::uint64_t seed) {
    ProbeSet mains = probe;
    std::erase_if(mains.sections, [](const Section& s) { return s.feature.kind != FeatureKind::main; });
    const TrueTouches truth(blueprint, mains, evaluation.frame, touch);
    metrology::Deviates deviates(seed, 0);
    std::vector<std::vector<MainResult>> all;
    for (std::size_t k = 0; k < draws; ++k) {
        const ProbeSet drawn = truth.draw(deviates);
        all.push_back(evaluation.mains);
        for (MainResult& m : all.back()) {
            const auto is_it = [&m](const Section& s) { return s.feature == m.id && s.level == m.level; };
            const auto was = std::ranges::find_if(mains.sections, is_it);
            const auto now = drawn.sections.begin() + (was - mains.sections.begin());
            for (std::size_t i = 0; was != mains.sections.end() && i < m.surface.size(); ++i) {
                const Vec3 moved = now->touches[i].position - was->touches[i].position;
                const BlockFrame& f = evaluation.frame;
                m.surface[i] = m.surface[i] + Vec3{dot(moved, f.x), dot(moved, f.y), dot(moved, f.z)};
            }
        }
    }
    return all;
}

} // namespace pallix::block
