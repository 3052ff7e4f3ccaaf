// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_ways.h"

#include "metrology/monte_carlo.h"
#include "metrology/without_noise.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <numeric>

namespace pallix::metrology {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

namespace {
constexpr double least_weight = 1e-4; ///< of a way beside the best
constexpr std::size_t most_ways = 1200;
constexpr double none_at_all = 0.2; ///< share of surfaces that have no feature, beforehand
} // namespace

SurfaceWays::SurfaceWays(const SurfaceQuestion& q, std::uint64_t seed, std::optional<SurfaceFeature> only)
    : q_(q), only_(only) {
    std::vector<Vec2> places;
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    const auto stretch = [&](Vec2 p) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    };
    for (const Vec2 n : q.nodes)
        stretch(n);
    for (const HeightSeen& s : q.seen) {
        stretch(s.place);
        places.push_back(s.place);
        level_ += s.height / static_cast<double>(q.seen.size());
    }
    middle_ = 0.5 * (low + high);
    half_ = {std::max(1.0, (high.x - low.x) / 2), std::max(1.0, (high.y - low.y) / 2)};
    heights_.resize(static_cast<Index>(q.seen.size()));
    for (std::size_t i = 0; i < q.seen.size(); ++i)
        heights_[static_cast<Index>(i)] = q.seen[i].height - level_;
    seen_seen_ = pairs_of(places, places);
    nodes_seen_ = pairs_of(q.nodes, places);
    nodes_nodes_ = pairs_of(q.nodes, q.nodes);
    // Each node stands for the patch that is nearer to it than to the others.
    const double area = 4 * half_.x * half_.y / static_cast<double>(q.nodes.size());
    patch_ = q.nodes.size() > 1 ? 0.5 * std::sqrt(area) : 0;
    Deviates draws(seed, 1);
    patterns_ = draw_patterns(q, patch_, draws, only);
    weigh_ways();
}

Eigen::Matrix<double, 6, 1> SurfaceWays::trend(Vec2 p) const {
    const double x = (p.x - middle_.x) / half_.x, y = (p.y - middle_.y) / half_.y;
    Eigen::Matrix<double, 6, 1> t;
    t << 1, x, y, x * y, x * x, y * y;
    for (Index i = 0; i < 6; ++i)
        t[i] *= trend_deviation[static_cast<std::size_t>(i)];
    return t;
}

SurfaceWays::Pairs SurfaceWays::pairs_of(const std::vector<Vec2>& a, const std::vector<Vec2>& b) const {
    const Index rows = static_cast<Index>(a.size()), columns = static_cast<Index>(b.size());
    MatrixXd ta(6, rows), tb(6, columns);
    for (Index i = 0; i < rows; ++i)
        ta.col(i) = trend(a[static_cast<std::size_t>(i)]);
    for (Index j = 0; j < columns; ++j)
        tb.col(j) = trend(b[static_cast<std::size_t>(j)]);
    Pairs p{ta.transpose() * tb, MatrixXd(rows, columns)};
    for (Index j = 0; j < columns; ++j)
        for (Index i = 0; i < rows; ++i)
            p.distance(i, j) = norm(a[static_cast<std::size_t>(i)] - b[static_cast<std::size_t>(j)]);
    return p;
}

MatrixXd SurfaceWays::covariance(const Pairs& p, const Waves& w) {
    return p.trend + w.size * w.size * matern(p.distance, w.length);
}

void SurfaceWays::weigh_ways() {
    const bool stated = std::ranges::all_of(q_.seen, [](const HeightSeen& s) { return s.uncertainty.has_value(); });
    const std::vector<double> noises =
        stated ? std::vector{0.0} : std::vector(unstated_noise.begin(), unstated_noise.end());
    const auto shapes = std::accumulate(patterns_.begin(), patterns_.end(), Index{0},
                                        [](Index sum, const SurfacePattern& p) { return sum + p.at_seen.cols(); });
    MatrixXd all(heights_.size(), shapes);
    Index column = 0;
    for (const SurfacePattern& p : patterns_) {
        if (p.at_seen.cols() > 0)
            all.middleCols(column, p.at_seen.cols()) = p.at_seen;
        column += p.at_seen.cols();
    }
    std::array<double, surface_features> of_kind{};
    for (const SurfacePattern& p : patterns_)
        of_kind[static_cast<std::size_t>(p.kind)] += p.spread.empty() ? 0 : 1;
    // Hollows, which nothing else tells of, are as likely as two others.
    double kinds = 0;
    for (std::size_t k = 0; k < of_kind.size(); ++k)
        kinds += of_kind[k] > 0 ? 1 : 0;
    if (double& hollows = of_kind[static_cast<std::size_t>(SurfaceFeature::hollows)]; hollows > 0) {
        kinds += 1;
        hollows /= 2;
    }
    for (const double size : rest_sizes)
        for (const double length : rest_lengths)
            for (const double noise : noises)
                waves_.push_back(
                    {size, length, noise, std::log(size_weight(size, q_.usual_flatness)), {}, {}, {}, {}, {}});
    std::vector<std::vector<Way>> of_waves(waves_.size());
    in_parallel(waves_.size(), 0, [&](std::size_t i) {
        Waves& w = waves_[i];
        MatrixXd k = covariance(seen_seen_, w);
        for (Index s = 0; s < heights_.size(); ++s) {
            const double u = q_.seen[static_cast<std::size_t>(s)].uncertainty.value_or(w.noise);
            k(s, s) += u * u + grain * grain;
        }
        w.root_seen = Eigen::LLT<MatrixXd>(k).matrixL();
        const auto root = w.root_seen.triangularView<Eigen::Lower>();
        w.told = root.solve(heights_);
        w.log_weight -= 0.5 * w.told.squaredNorm() + w.root_seen.diagonal().array().log().sum();
        of_waves[i] = ways_with(i, root.solve(all), of_kind, kinds);
    });
    for (std::vector<Way>& ways : of_waves)
        std::ranges::move(ways, std::back_inserter(ways_));
    keep_likely_ways();
    std::vector<char> needed(waves_.size(), 0);
    for (const Way& way : ways_)
        needed[way.waves] = 1;
    in_parallel(waves_.size(), 0, [&](std::size_t i) {
        if (needed[i] != 0)
            find_nodes(waves_[i]);
    });
    in_parallel(ways_.size(), 0, [&](std::size_t i) {
        Way& way = ways_[i];
        if (way.height.size() == 0)
            return;
        const SurfacePattern& p = patterns_[way.pattern];
        const MatrixXd told = waves_[way.waves].across * p.at_seen;
        way.at_nodes = p.at_nodes - told;
        way.at_tops = p.at_tops - told;
        way.at_places = p.at_places - told;
    });
}

/// @param shapes L⁻¹ of all patterns' shapes
std::vector<SurfaceWays::Way> SurfaceWays::ways_with(std::size_t waves, const MatrixXd& shapes,
                                                     const std::array<double, surface_features>& of_kind,
                                                     double kinds) const {
    const Waves& w = waves_[waves];
    std::vector<Way> ways;
    double best = -std::numeric_limits<double>::infinity();
    Index column = 0;
    for (std::size_t p = 0; p < patterns_.size(); ++p) {
        const auto k = static_cast<Index>(patterns_[p].spread.size());
        Way way{waves, p, w.log_weight, 0, VectorXd(k), MatrixXd(k, k), {}, {}, {}};
        if (k == 0) {
            way.log_weight += std::log(kinds == 0 ? 1 : only_ ? 1e-9 : none_at_all);
        } else {
            const auto mine = shapes.middleCols(column, k);
            MatrixXd precision = mine.transpose() * mine;
            double log_prior = 0;
            for (Index i = 0; i < k; ++i) {
                const double spread = patterns_[p].spread[static_cast<std::size_t>(i)];
                precision(i, i) += 1 / (spread * spread);
                log_prior -= std::log(spread);
            }
            const VectorXd told = mine.transpose() * w.told;
            const Eigen::LLT<MatrixXd> root(precision);
            way.height = root.solve(told);
            // Covariance (L·Lᵀ)⁻¹: its root is L⁻ᵀ.
            way.spread = root.matrixU().solve(MatrixXd::Identity(k, k));
            way.log_weight +=
                log_prior - MatrixXd(root.matrixL()).diagonal().array().log().sum() + 0.5 * told.dot(way.height) +
                std::log((1 - none_at_all) / kinds / of_kind[static_cast<std::size_t>(patterns_[p].kind)]);
        }
        column += k;
        best = std::max(best, way.log_weight);
        if (way.log_weight > best + std::log(least_weight))
            ways.push_back(std::move(way));
    }
    return ways;
}

void SurfaceWays::keep_likely_ways() {
    const double best = std::ranges::max(ways_, {}, &Way::log_weight).log_weight;
    std::erase_if(ways_, [best](const Way& w) { return w.log_weight < best + std::log(least_weight); });
    std::ranges::sort(ways_, std::ranges::greater{}, &Way::log_weight);
    double sum = 0;
    for (Way& w : ways_)
        w.upto = sum += std::exp(w.log_weight - best);
    for (Way& w : ways_)
        w.upto /= sum;
    if (ways_.size() <= most_ways)
        return;
    // Of many that are about as likely a fair sample, each then as likely as the next.
    std::vector<Way> kept;
    kept.reserve(most_ways);
    std::size_t at = 0;
    for (std::size_t i = 0; i < most_ways; ++i) {
        const double share = (static_cast<double>(i) + 0.5) / static_cast<double>(most_ways);
        while (at + 1 < ways_.size() && ways_[at].upto < share)
            ++at;
        kept.push_back(ways_[at]);
        kept.back().upto = static_cast<double>(i + 1) / static_cast<double>(most_ways);
    }
    ways_ = std::move(kept);
}

void SurfaceWays::find_nodes(Waves& w) const {
    const MatrixXd across = covariance(nodes_seen_, w);
    const MatrixXd half = w.root_seen.triangularView<Eigen::Lower>().solve(across.transpose());
    w.across = w.root_seen.transpose().triangularView<Eigen::Upper>().solve(half).transpose();
    w.mean = w.across * heights_;
    // Pivots fall off quickly: what is left of them is less than the grain of a surface.
    const Eigen::LDLT<MatrixXd> pivoted(covariance(nodes_nodes_, w) - half.transpose() * half);
    const VectorXd pivots = pivoted.vectorD();
    Index rank = 0;
    while (rank < pivots.size() && pivots[rank] > grain * grain / 4)
        ++rank;
    const MatrixXd lower = pivoted.matrixL();
    w.root = pivoted.transpositionsP().transpose() *
             MatrixXd(lower.leftCols(rank) * pivots.head(rank).cwiseSqrt().asDiagonal());
}

std::size_t SurfaceWays::pick(Deviates& d) const {
    const auto picked = std::ranges::lower_bound(ways_, d.uniform(), {}, &Way::upto);
    return std::min<std::size_t>(static_cast<std::size_t>(picked - ways_.begin()), ways_.size() - 1);
}

VectorXd SurfaceWays::waved(std::size_t at, const VectorXd& wave) const {
    const MatrixXd& root = waves_[ways_[at].waves].root;
    return root * wave.head(root.cols());
}

void SurfaceWays::lay(std::size_t at, const VectorXd& waved, const VectorXd& shapes, Laid& laid) const {
    const Way& way = ways_[at];
    laid.nodes.noalias() = waves_[way.waves].mean + waved;
    laid.top = -std::numeric_limits<double>::infinity();
    if (const Index k = way.height.size(); k > 0) {
        Eigen::Matrix<double, Eigen::Dynamic, 1, 0, most_shapes, 1> height = way.height;
        height.noalias() += way.spread.triangularView<Eigen::Upper>() * shapes.head(k);
        laid.tops = laid.nodes;
        for (Index f = 0; f < k; ++f) {
            laid.nodes.noalias() += height[f] * way.at_nodes.col(f);
            laid.tops.noalias() += height[f] * way.at_tops.col(f);
        }
        laid.top = laid.tops.maxCoeff();
    }
    laid.top = std::max(laid.top, laid.nodes.maxCoeff());
}

VectorXd SurfaceWays::places(std::size_t at, const VectorXd& waved, const VectorXd& shapes) const {
    const Way& way = ways_[at];
    VectorXd places = waves_[way.waves].mean + waved;
    if (const Index k = way.height.size(); k > 0)
        places += way.at_places * (way.height + way.spread * shapes.head(k));
    return places;
}

} // namespace pallix::metrology
