// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/gauge_study.h"

#include <algorithm>
#include <boost/math/distributions/fisher_f.hpp>
#include <cmath>
#include <numbers>
#include <utility>

namespace pallix::metrology {
namespace {

double normal_below(double x) {
    return 0.5 * std::erfc(-x / std::numbers::sqrt2);
}

double range_of(const std::vector<double>& values) {
    const auto [low, high] = std::ranges::minmax(values);
    return high - low;
}

/// Means over a balanced study, and what it consists of.
struct Means {
    std::size_t people, trials, parts;
    double all = 0;
    std::vector<double> of_person, of_part;
    std::vector<std::vector<double>> of_cell; ///< by person and part

    explicit Means(const GaugeStudy& study)
        : people(study.people.size()), trials(study.people[0].size()), parts(study.people[0][0].size()),
          of_person(people), of_part(parts), of_cell(people, std::vector<double>(parts)) {
        for (std::size_t i = 0; i < people; ++i)
            for (std::size_t j = 0; j < trials; ++j)
                for (std::size_t k = 0; k < parts; ++k) {
                    const double value = study.people[i][j][k];
                    of_cell[i][k] += value / number(trials);
                    of_person[i] += value / number(trials * parts);
                    of_part[k] += value / number(trials * people);
                    all += value / number(people * trials * parts);
                }
    }
    static double number(std::size_t n) { return static_cast<double>(n); }
};

bool is_balanced(const GaugeStudy& study) {
    constexpr std::size_t least = 2;
    if (study.people.size() < least || study.people[0].size() < least || study.people[0][0].size() < least)
        return false;
    return std::ranges::all_of(study.people, [&](const auto& person) {
        return person.size() == study.people[0].size() && std::ranges::all_of(person, [&](const auto& trial) {
                   return trial.size() == study.people[0][0].size() &&
                          std::ranges::all_of(trial, [](double v) { return std::isfinite(v); });
               });
    });
}

GaugeScatter joined(double repeat, double people, double parts) {
    GaugeScatter s{repeat, people, std::hypot(repeat, people), parts, 0};
    s.all = std::hypot(s.gauge, parts);
    return s;
}

GaugeScatter by_range(const GaugeStudy& study, const Means& m) {
    double mean_range = 0;
    for (std::size_t i = 0; i < m.people; ++i)
        for (std::size_t k = 0; k < m.parts; ++k) {
            std::vector<double> cell;
            cell.reserve(m.trials);
            for (std::size_t j = 0; j < m.trials; ++j)
                cell.push_back(study.people[i][j][k]);
            mean_range += range_of(cell) / Means::number(m.people * m.parts);
        }
    const double repeat = mean_range / range_factors(m.trials).d2;
    const double between = range_of(m.of_person) / range_factors(m.people).d2_star();
    const double of_repeat = repeat * repeat / Means::number(m.parts * m.trials); // in the people's means
    return joined(repeat, std::sqrt(std::max(0.0, between * between - of_repeat)),
                  range_of(m.of_part) / range_factors(m.parts).d2_star());
}

/// Sums of squares over their degrees of freedom.
struct MeanSquares {
    double people = 0, parts = 0, interaction = 0, repeat = 0;
    double interaction_freedom = 0, repeat_freedom = 0;

    MeanSquares(const GaugeStudy& study, const Means& m) {
        const auto n = Means::number;
        for (const double mean : m.of_person)
            people += n(m.parts * m.trials) * (mean - m.all) * (mean - m.all) / n(m.people - 1);
        for (const double mean : m.of_part)
            parts += n(m.people * m.trials) * (mean - m.all) * (mean - m.all) / n(m.parts - 1);
        interaction_freedom = n((m.people - 1) * (m.parts - 1));
        repeat_freedom = n(m.people * m.parts * (m.trials - 1));
        for (std::size_t i = 0; i < m.people; ++i)
            for (std::size_t k = 0; k < m.parts; ++k) {
                const double apart = m.of_cell[i][k] - m.of_person[i] - m.of_part[k] + m.all;
                interaction += n(m.trials) * apart * apart / interaction_freedom;
                for (std::size_t j = 0; j < m.trials; ++j) {
                    const double off = study.people[i][j][k] - m.of_cell[i][k];
                    repeat += off * off / repeat_freedom;
                }
            }
    }
};

} // namespace

int GaugeScatter::sorts() const {
    return gauge > 0 ? static_cast<int>(std::floor(1.41 * parts / gauge)) : 0;
}

double RangeFactors::d2_star() const {
    return std::hypot(d2, d3);
}

namespace {

/// E W and E W² of the range of n standard normal values, as integrals over the distribution of the extremes by the
/// trapezoidal rule. That is as good as exact for the first; the second has an edge along its diagonal, which costs a
/// part of step².
std::pair<double, double> range_moments(std::size_t n, double step) {
    constexpr double end = 8;
    const auto points = static_cast<std::size_t>(std::lround(2 * end / step)) + 1;
    std::vector<double> below(points);
    for (std::size_t i = 0; i < points; ++i)
        below[i] = normal_below(-end + step * static_cast<double>(i));
    const auto power = [n](double x) { return std::pow(x, static_cast<double>(n)); };
    double mean = 0, square = 0;
    for (std::size_t i = 0; i < points; ++i) {
        const double x = below[i];
        mean += step * (1 - power(1 - x) - power(x));
        for (std::size_t j = i; j < points; ++j) { // half of the diagonal belongs to it
            const double y = below[j], half = i == j ? 0.5 : 1;
            square += 2 * half * step * step * (1 - power(y) - power(1 - x) + power(y - x));
        }
    }
    return {mean, square};
}

} // namespace

RangeFactors range_factors(std::size_t n) {
    constexpr double step = 1.0 / 16;
    const auto [mean, coarse] = range_moments(n, step);
    const double fine = range_moments(n, step / 2).second;
    const double square = (4 * fine - coarse) / 3; // the part of step² taken out (Richardson)
    return {mean, std::sqrt(std::max(0.0, square - mean * mean))};
}

std::optional<GaugeStudyResult> study_gauge(const GaugeStudy& study) {
    if (!is_balanced(study))
        return std::nullopt;
    const Means m(study);
    const MeanSquares squares(study, m);
    const auto n = Means::number;
    GaugeStudyResult result;
    result.by_range = by_range(study, m);
    result.f_interaction = squares.repeat > 0 ? squares.interaction / squares.repeat : 0;
    constexpr double by_chance = 0.25;
    const boost::math::fisher_f_distribution<double> f(squares.interaction_freedom, squares.repeat_freedom);
    result.pooled = boost::math::cdf(boost::math::complement(f, result.f_interaction)) > by_chance;
    const double freedom = squares.interaction_freedom + squares.repeat_freedom;
    const double pooled =
        (squares.interaction * squares.interaction_freedom + squares.repeat * squares.repeat_freedom) / freedom;
    const double error = result.pooled ? pooled : squares.repeat,
                 against = result.pooled ? pooled : squares.interaction;
    const auto component = [](double square) { return std::sqrt(std::max(0.0, square)); };
    const double people = (squares.people - against) / n(m.parts * m.trials);
    const double interaction = result.pooled ? 0 : (squares.interaction - squares.repeat) / n(m.trials);
    result.by_variance = joined(component(error), component(std::max(0.0, people) + std::max(0.0, interaction)),
                                component((squares.parts - against) / n(m.people * m.trials)));
    return result;
}

} // namespace pallix::metrology
