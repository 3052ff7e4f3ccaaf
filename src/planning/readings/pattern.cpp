// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/pattern.h"

#include <algorithm>
#include <boost/math/distributions/fisher_f.hpp>
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

/// One hole is off, the others are where they belong.
Fit fit_one_off(const std::vector<PositionError>& errors) {
    Fit fit;
    const auto odd = std::ranges::max_element(errors, {}, [](const PositionError& e) { return square(e.error); });
    fit.pattern.kind = PatternKind::outlier;
    fit.pattern.odd = odd->id;
    fit.pattern.odd_by = odd->error;
    fit.parameters = 2;
    for (const PositionError& e : errors)
        if (&e != &*odd)
            fit.left += square(e.error);
    return fit;
}

/// One hole is off, the others have a shift in common.
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

namespace {

/// How rarely mere scatter would leave so much less with these further numbers.
/// @param freedom of what is left
double chance(double gained, double further, double left, double freedom, double floor) {
    if (freedom < 1 || further < 1)
        return 1;
    const double ratio = (gained / further) / std::max(left / freedom, floor);
    if (!(ratio > 0))
        return 1;
    const boost::math::fisher_f f(further, freedom);
    return boost::math::cdf(boost::math::complement(f, ratio));
}

} // namespace

Pattern read_pattern(const std::vector<PositionError>& errors, double scatter) {
    double squares = 0;
    for (const PositionError& e : errors)
        squares += square(e.error);
    const double values = 2 * static_cast<double>(errors.size());
    Pattern none;
    if (errors.empty() || std::sqrt(squares / values) < scatter / 2)
        return none;
    if (errors.size() < 3) {
        none.kind = PatternKind::too_few;
        return none;
    }
    const Fit shift = fit_shift(errors);
    const std::vector<Fit> models{shift,
                                  fit_lever(errors, PatternKind::rotation,
                                            [](Vec2 p) {
                                                return Vec2{-p.y, p.x};
                                            }),
                                  fit_lever(errors, PatternKind::drift,
                                            [](Vec2 p) {
                                                return Vec2{p.x, 0};
                                            }),
                                  fit_one_off(errors), fit_outlier(errors)};
    const double floor = scatter * scatter / 16; // below the scatter of measuring there is nothing left to explain
    constexpr double false_alarm = 0.05, plainly = 0.02;
    const Fit* best = nullptr;
    double most = 0; // share that an ordered pattern would account for
    for (const Fit& model : models) {
        const bool odd = model.pattern.kind == PatternKind::outlier;
        const double chosen = odd ? static_cast<double>(errors.size()) : 1; // of so many the odd one was picked
        const double freedom = values - model.parameters;
        const bool stands = chance(squares - model.left, model.parameters, model.left, freedom, floor) * chosen *
                                static_cast<double>(models.size()) <
                            false_alarm;
        constexpr double markedly = 0.25; // of what the shift leaves, by as many numbers
        const double further = model.parameters - shift.parameters;
        const bool better =
            &model == &models.front() || !best ||
            (further > 0 ? chance(shift.left - model.left, further, model.left, freedom, floor) * chosen < plainly
                         : model.left < markedly * shift.left);
        if (!odd)
            most = std::max(most, 1 - model.left / squares);
        if (stands && better && (!best || best->pattern.kind == PatternKind::shift || model.left < best->left))
            best = &model;
    }
    if (!best) {
        constexpr double half = 0.5;
        none.kind = most > half ? PatternKind::too_few : PatternKind::none;
        return none;
    }
    Pattern pattern = best->pattern;
    if (pattern.kind == PatternKind::drift)
        pattern.drift *= 1000;
    pattern.explained = 1 - best->left / squares;
    if (pattern.kind == PatternKind::outlier) {
        double others = 0; // what the odd one alone accounts for
        for (const PositionError& e : errors)
            if (e.id != pattern.odd)
                others += square(e.error);
        pattern.explained = 1 - others / squares;
    }
    return pattern;
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
    if (!(along > 0 && across > 0))
        return d;
    d = {1000 * with / along, with * with / (along * across), false};
    double low = sizes.front().x, high = low;
    for (const Vec2 s : sizes) {
        low = std::min(low, s.x);
        high = std::max(high, s.x);
    }
    constexpr double worth_a_word = 0.008; // mm from end to end; common practice, no source
    constexpr double false_alarm = 0.05;
    const double left = across - with * with / along;
    d.told = std::abs(with / along) * (high - low) >= worth_a_word &&
             chance(with * with / along, 1, left, n - 2, 1e-12) < false_alarm;
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
