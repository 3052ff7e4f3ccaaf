// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/pattern.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace pallix::planning {
namespace {

using metrology::Vec2;

double square(Vec2 a) {
    return dot(a, a);
}

/// A model's fit: what it leaves, and how many numbers it has.
struct Fit {
    Pattern pattern;
    double left = 0; ///< mm², sum of squares
    double parameters = 0;
};

Vec2 mean_error(const std::vector<PositionError>& errors, std::size_t without) {
    Vec2 sum;
    double n = 0;
    for (std::size_t i = 0; i < errors.size(); ++i)
        if (i != without) {
            sum = sum + errors[i].error;
            ++n;
        }
    return n > 0 ? (1 / n) * sum : sum;
}

constexpr std::size_t none_left_out = static_cast<std::size_t>(-1);

Fit fit_shift(const std::vector<PositionError>& errors, std::size_t without = none_left_out) {
    Fit fit;
    fit.pattern.kind = PatternKind::shift;
    fit.pattern.shift = mean_error(errors, without);
    fit.parameters = 2;
    for (std::size_t i = 0; i < errors.size(); ++i)
        if (i != without)
            fit.left += square(errors[i].error - fit.pattern.shift);
    return fit;
}

/// The slope of the errors along a direction that depends on the place: rotation turns a place a quarter, drift keeps
/// it along the bank.
template <class Lever>
Fit fit_lever(const std::vector<PositionError>& errors, PatternKind kind, Lever lever) {
    Fit fit = fit_shift(errors);
    fit.pattern.kind = kind;
    fit.parameters = 3;
    Vec2 middle;
    for (const PositionError& e : errors)
        middle = middle + (1.0 / static_cast<double>(errors.size())) * e.meant;
    double with = 0, levers = 0;
    for (const PositionError& e : errors) {
        const Vec2 l = lever(e.meant - middle);
        with += dot(l, e.error - fit.pattern.shift);
        levers += square(l);
    }
    if (!(levers > 0))
        return fit;
    const double slope = with / levers;
    fit.left -= slope * with;
    (kind == PatternKind::rotation ? fit.pattern.rotation : fit.pattern.drift) = slope;
    return fit;
}

Fit fit_outlier(const std::vector<PositionError>& errors) {
    Fit best;
    best.left = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < errors.size(); ++i) {
        Fit fit = fit_shift(errors, i);
        if (fit.left >= best.left)
            continue;
        fit.pattern.kind = PatternKind::outlier;
        fit.pattern.odd = errors[i].id;
        fit.pattern.odd_by = errors[i].error - fit.pattern.shift;
        fit.parameters = 4;
        best = fit;
    }
    return best;
}

} // namespace

Pattern read_pattern(const std::vector<PositionError>& errors, double scatter) {
    double squares = 0;
    for (const PositionError& e : errors)
        squares += square(e.error);
    const double values = 2 * static_cast<double>(errors.size());
    Fit best;
    best.left = squares;
    if (errors.size() < 3 || std::sqrt(squares / values) < scatter / 2)
        return best.pattern;
    const auto per_freedom = [values, scatter](const Fit& f) {
        // Below the scatter of measuring there is nothing left to explain.
        return std::max(f.left / std::max(values - f.parameters, 1.0), scatter * scatter / 16);
    };
    std::vector<Fit> models{fit_shift(errors),
                            fit_lever(errors, PatternKind::rotation,
                                      [](Vec2 p) {
                                          return Vec2{-p.y, p.x};
                                      }),
                            fit_lever(errors, PatternKind::drift, [](Vec2 p) {
                                return Vec2{p.x, 0};
                            })};
    if (errors.size() >= 3)
        models.push_back(fit_outlier(errors));
    for (const Fit& model : models)
        if (per_freedom(model) < (model.parameters > best.parameters ? 0.5 : 1.0) * per_freedom(best))
            best = model;
    if (best.pattern.kind == PatternKind::drift)
        best.pattern.drift *= 1000;
    best.pattern.explained = 1 - best.left / squares;
    if (best.pattern.kind == PatternKind::outlier) {
        double others = 0; // what the odd one alone accounts for
        for (const PositionError& e : errors)
            if (e.id != best.pattern.odd)
                others += square(e.error);
        best.pattern.explained = 1 - others / squares;
    }
    return best.pattern;
}

SizeDrift read_size_drift(const std::vector<Vec2>& sizes) {
    SizeDrift d;
    if (sizes.size() < 3)
        return d;
    const double n = static_cast<double>(sizes.size());
    Vec2 mean;
    for (const Vec2 s : sizes)
        mean = mean + (1 / n) * s;
    double along = 0, with = 0, across = 0;
    for (const Vec2 s : sizes) {
        along += (s.x - mean.x) * (s.x - mean.x);
        with += (s.x - mean.x) * (s.y - mean.y);
        across += (s.y - mean.y) * (s.y - mean.y);
    }
    if (along > 0 && across > 0)
        d = {1000 * with / along, with * with / (along * across)};
    return d;
}

std::vector<PositionError> position_errors(const block::Blueprint& blueprint,
                                           const std::vector<block::HoleResult>& holes, const std::string& bank) {
    std::vector<PositionError> errors;
    for (const block::HoleResult& h : holes)
        if (h.id.bank == bank && h.place_known) {
            const block::HoleBlueprint& meant = *blueprint.hole(h.id);
            errors.push_back({h.id, {meant.u, meant.v}, h.error});
        }
    return errors;
}

std::optional<DowelPair> dowel_pair(const block::Blueprint& blueprint, const std::vector<block::DowelResult>& dowels,
                                    const std::string& bank) {
    std::vector<const block::DowelResult*> row;
    for (const block::DowelResult& d : dowels)
        if (d.id.bank == bank && d.place_known)
            row.push_back(&d);
    if (row.size() < 2)
        return std::nullopt;
    std::ranges::sort(row, {}, [](const block::DowelResult* d) { return d->id.number; });
    const block::DowelResult &first = *row.front(), &last = *row.back();
    const auto meant = [&](const block::DowelResult& d) {
        const auto* hole = blueprint.hole(d.id);
        return Vec2{hole->u, hole->v};
    };
    const Vec2 is = Vec2{last.u, last.v} - Vec2{first.u, first.v}, should = meant(last) - meant(first);
    double turn = std::atan2(is.y, is.x) - std::atan2(should.y, should.x);
    turn = std::remainder(turn, 2 * std::numbers::pi);
    return DowelPair{turn, norm(is) - norm(should), first.id, last.id};
}

} // namespace pallix::planning
