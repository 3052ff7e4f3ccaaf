// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_belief.h"

#include "metrology/monte_carlo.h"
#include "metrology/surface_prior.h"

#include <Eigen/Cholesky>
#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace pallix::metrology {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

double normal_density(double z) {
    return std::exp(-z * z / 2) / std::sqrt(2 * std::numbers::pi);
}
double normal_share(double z) {
    return 0.5 * std::erfc(-z / std::numbers::sqrt2);
}

/// A Gaussian over all nodes.
struct Field {
    VectorXd mean;
    MatrixXd covariance;
    double log_evidence = 0; ///< of the bounds that were taken in
};

/// Patterns of hollows, drawn once: what they take off every measured place and every node.
struct Hollows {
    MatrixXd at_seen, at_nodes; ///< one column a pattern
};

class Believer {
  public:
    Believer(const SurfaceQuestion& q, std::size_t draws, std::uint64_t seed) : q_(q), draws_(draws), seed_(seed) {
        Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
        const auto stretch = [&](Vec2 p) {
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        };
        for (const Vec2 n : q.nodes)
            stretch(n);
        for (const HeightSeen& s : q.seen) {
            stretch(s.place);
            level_ += s.height / static_cast<double>(q.seen.size());
        }
        middle_ = 0.5 * (low + high);
        half_ = {std::max(1.0, (high.x - low.x) / 2), std::max(1.0, (high.y - low.y) / 2)};
        heights_.resize(static_cast<Index>(q.seen.size()));
        for (std::size_t i = 0; i < q.seen.size(); ++i)
            heights_[static_cast<Index>(i)] = q.seen[i].height - level_;
        std::vector<Vec2> places;
        for (const HeightSeen& s : q.seen)
            places.push_back(s.place);
        seen_seen_ = pairs_of(places, places);
        nodes_seen_ = pairs_of(q.nodes, places);
        nodes_nodes_ = pairs_of(q.nodes, q.nodes);
    }

    SurfaceBelief run() {
        weigh_components();
        SurfaceBelief belief;
        std::vector<Field> fields;
        for (const Component& c : components_)
            fields.push_back(field_of(c));
        if (!q_.cuts.empty()) {
            find_top(fields);
            take_in_bounds(fields);
        }
        const Hollows hollows = draw_hollows();
        const std::size_t n = q_.nodes.size();
        VectorXd sum = VectorXd::Zero(static_cast<Index>(n)), squares = sum;
        std::vector<double> lowest(n, 0.0);
        std::size_t done = 0;
        for (std::size_t c = 0; c < components_.size(); ++c) {
            const std::size_t upto =
                c + 1 == components_.size()
                    ? draws_
                    : std::min(draws_, done + static_cast<std::size_t>(
                                                  std::lround(components_[c].weight * static_cast<double>(draws_))));
            if (upto == done)
                continue;
            const Field& field = fields[c];
            const Eigen::LLT<MatrixXd> root = root_of(field.covariance);
            Deviates deviates(seed_, c);
            const WeighedHollows weighed = weigh(hollows, components_[c]);
            // Where bounds have pinned a node, no hollow moves it.
            VectorXd loose = VectorXd::Ones(static_cast<Index>(n));
            if (!q_.cuts.empty())
                loose = (field.covariance.diagonal().array() / before_bounds_[c].array()).min(1.0);
            for (; done < upto; ++done) {
                const VectorXd wave = root.matrixL() * standard_normal(deviates, static_cast<Index>(n));
                VectorXd x = field.mean + caution * wave, calm = field.mean + calming * wave;
                const auto pick = static_cast<Index>(std::ranges::lower_bound(weighed.upto, deviates.uniform()) -
                                                     weighed.upto.begin());
                const Index k = std::min<Index>(pick, hollow_patterns - 1);
                const VectorXd shift = hollows.at_nodes.col(k) - weighed.carried * hollows.at_seen.col(k);
                x += shift.cwiseProduct(loose);
                calm += shift.cwiseProduct(loose);
                if (!q_.cuts.empty()) {
                    keep_bounds(x);
                    keep_bounds(calm);
                }
                sum += x;
                squares += x.cwiseAbs2();
                // The extreme of many doubtful places is not as far out as the most doubtful of them: where it lies is
                // told from a calmer surface, how far from the whole draw.
                Index at = 0, top = 0;
                calm.minCoeff(&at);
                calm.maxCoeff(&top);
                const double low = x[at], high = x[top];
                lowest[static_cast<std::size_t>(at)] += 1;
                lows_.push_back(low + level_);
                highs_.push_back(high + level_);
                ranges_.push_back(high - low);
            }
        }
        const double count = static_cast<double>(draws_);
        for (Index i = 0; i < static_cast<Index>(n); ++i) {
            const double mean = sum[i] / count;
            belief.mean.push_back(mean + level_);
            belief.deviation.push_back(std::sqrt(std::max(0.0, squares[i] / count - mean * mean)));
            belief.lowest_share.push_back(lowest[static_cast<std::size_t>(i)] / count);
        }
        belief.lowest = interval(lows_);
        belief.lowest_draws = lows_;
        std::ranges::sort(belief.lowest_draws);
        belief.highest = interval(highs_);
        belief.removal = interval(ranges_);
        for (const CutSeen& cut : q_.cuts)
            belief.cut_heights.push_back(top_mean_ + level_ - cut.depth);
        belief.cut_height_deviation = top_deviation_;
        return belief;
    }

  private:
    static VectorXd standard_normal(Deviates& d, Index n) {
        VectorXd z(n);
        for (Index i = 0; i < n; ++i)
            z[i] = d.normal();
        return z;
    }

    static Interval interval(std::vector<double> values) {
        std::ranges::sort(values);
        const auto at = [&](double share) {
            const double x = share * static_cast<double>(values.size() - 1);
            const auto i = static_cast<std::size_t>(x);
            const double f = x - static_cast<double>(i);
            return i + 1 < values.size() ? (1 - f) * values[i] + f * values[i + 1] : values[i];
        };
        return {at(0.025), at(0.5), at(0.975)};
    }

    /// Rounding may leave a covariance a hair short of positive: a growing grain on its diagonal mends that.
    static Eigen::LLT<MatrixXd> root_of(const MatrixXd& covariance) {
        for (double add = 1e-12;; add *= 10) {
            Eigen::LLT<MatrixXd> root(covariance + add * MatrixXd::Identity(covariance.rows(), covariance.cols()));
            if (root.info() == Eigen::Success || add > 1e-4)
                return root;
        }
    }

    [[nodiscard]] Eigen::Matrix<double, 6, 1> trend(Vec2 p) const {
        const double x = (p.x - middle_.x) / half_.x, y = (p.y - middle_.y) / half_.y;
        Eigen::Matrix<double, 6, 1> t;
        t << 1, x, y, x * y, x * x, y * y;
        for (Index i = 0; i < 6; ++i)
            t[i] *= trend_deviation[static_cast<std::size_t>(i)];
        return t;
    }

    /// What every component needs of two sets of places: the trend's part of their covariance, and their distances.
    struct Pairs {
        MatrixXd trend, distance;
    };
    [[nodiscard]] Pairs pairs_of(const std::vector<Vec2>& a, const std::vector<Vec2>& b) const {
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

    static MatrixXd matern(const MatrixXd& distance, double size, double length) {
        const Eigen::ArrayXXd r = distance.array() * (std::sqrt(5.0) / length);
        return size * size * (1 + r + r.square() / 3) * (-r).exp();
    }
    static MatrixXd covariance(const Pairs& p, const Component& c) {
        MatrixXd k = p.trend + matern(p.distance, c.size, c.length);
        if (c.local > 0)
            k += matern(p.distance, c.local, local_length);
        return k;
    }

    [[nodiscard]] MatrixXd seen_covariance(const Component& c) const {
        MatrixXd k = covariance(seen_seen_, c);
        for (std::size_t i = 0; i < q_.seen.size(); ++i) {
            const double u = q_.seen[i].uncertainty.value_or(c.noise);
            k(static_cast<Index>(i), static_cast<Index>(i)) += u * u + grain * grain;
        }
        return k;
    }

    [[nodiscard]] Hollows draw_hollows() const {
        const Index seen = heights_.size(), nodes = static_cast<Index>(q_.nodes.size());
        Hollows h{MatrixXd::Zero(seen, hollow_patterns), MatrixXd::Zero(nodes, hollow_patterns)};
        Deviates draw(seed_, 2000);
        const double limit = std::exp(-hollows_expected);
        for (Index k = 0; k < hollow_patterns; ++k)
            for (double product = draw.uniform(); product > limit; product *= draw.uniform()) { // Poisson (Knuth)
                const auto at = static_cast<std::size_t>(draw.uniform() * static_cast<double>(q_.nodes.size()));
                const Vec2 middle = q_.nodes[std::min(at, q_.nodes.size() - 1)];
                const double depth =
                    (draw.uniform() < swelling_share ? 1 : -1) * hollow_depth * -std::log(draw.uniform());
                const double radius = hollow_radius_least + (hollow_radius_most - hollow_radius_least) * draw.uniform();
                const auto height = [&](Vec2 p) {
                    const double r = norm(p - middle) / radius;
                    return r < 4 ? depth * std::exp(-r * r) : 0.0;
                };
                for (Index i = 0; i < seen; ++i)
                    h.at_seen(i, k) += height(q_.seen[static_cast<std::size_t>(i)].place);
                for (Index i = 0; i < nodes; ++i)
                    h.at_nodes(i, k) += height(q_.nodes[static_cast<std::size_t>(i)]);
            }
        return h;
    }

    /// How the measured heights weigh the patterns under one component.
    struct WeighedHollows {
        std::vector<double> upto; ///< cumulated weights, the last is 1
        MatrixXd carried;         ///< what heights at the measured places do to the nodes
    };
    [[nodiscard]] WeighedHollows weigh(const Hollows& hollows, const Component& c) const {
        const Eigen::LLT<MatrixXd> root(seen_covariance(c));
        WeighedHollows w;
        w.carried = root.solve(covariance(nodes_seen_, c).transpose()).transpose();
        MatrixXd off = -hollows.at_seen;
        off.colwise() += heights_;
        const VectorXd misfit = root.matrixL().solve(off).colwise().squaredNorm().transpose();
        const double least = misfit.minCoeff();
        double total = 0;
        for (Index k = 0; k < misfit.size(); ++k)
            w.upto.push_back(total += std::exp((least - misfit[k]) / 2));
        for (double& u : w.upto)
            u /= total;
        return w;
    }

    /// Each component with the bounds in it, weighed anew by how well it foresaw them.
    void take_in_bounds(std::vector<Field>& fields) {
        double best = -std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i < fields.size(); ++i) {
            before_bounds_.push_back(fields[i].covariance.diagonal());
            fields[i] = bounded(std::move(fields[i]));
            best = std::max(best, std::log(components_[i].weight) + fields[i].log_evidence);
        }
        double total = 0;
        for (std::size_t i = 0; i < fields.size(); ++i)
            total += components_[i].weight = std::exp(std::log(components_[i].weight) + fields[i].log_evidence - best);
        for (Component& c : components_)
            c.weight /= total;
    }

    void weigh_components() {
        const bool stated = std::ranges::all_of(q_.seen, [](const HeightSeen& s) { return s.uncertainty.has_value(); });
        for (const double noise : unstated_noise) {
            for (const double size : rest_sizes)
                for (const double length : rest_lengths)
                    for (const LocalRest& local : local_rests)
                        components_.push_back(
                            {size, length, local.size, noise, size_weight(size) * local.weight, 0, 0});
            if (stated)
                break;
        }
        double best = -std::numeric_limits<double>::infinity();
        for (Component& c : components_) {
            const Eigen::LLT<MatrixXd> root(seen_covariance(c));
            const VectorXd whitened = root.matrixL().solve(heights_);
            c.log_evidence =
                std::log(c.prior) - 0.5 * whitened.squaredNorm() - root.matrixLLT().diagonal().array().log().sum();
            best = std::max(best, c.log_evidence);
        }
        double total = 0;
        for (Component& c : components_)
            total += c.weight = std::exp(c.log_evidence - best);
        for (Component& c : components_)
            c.weight /= total;
        std::ranges::sort(components_, std::greater{}, &Component::weight);
        // The likeliest few; with cuts to come also the likeliest of each kind of small waviness, which they may call
        // for.
        std::vector<Component> kept;
        for (const Component& c : components_) {
            const bool likely = kept.size() < most_components && c.weight > negligible_weight;
            const bool first_of_kind =
                !q_.cuts.empty() && std::ranges::none_of(kept, [&](const Component& k) { return k.local == c.local; });
            if (kept.empty() || likely || first_of_kind)
                kept.push_back(c);
        }
        components_ = std::move(kept);
        double sum = 0;
        for (const Component& c : components_)
            sum += c.weight;
        for (Component& c : components_)
            c.weight = std::max(c.weight / sum, 1e-300);
    }

    /// The nodes, given the measured heights.
    [[nodiscard]] Field field_of(const Component& c) const {
        const MatrixXd across = covariance(nodes_seen_, c);
        const Eigen::LLT<MatrixXd> root(seen_covariance(c));
        Field f;
        f.mean = across * root.solve(heights_);
        const MatrixXd half = root.matrixL().solve(across.transpose());
        f.covariance = covariance(nodes_nodes_, c) - half.transpose() * half;
        f.covariance.diagonal().array() += grain * grain;
        return f;
    }

    /// Where the highest place lies: cuts count from it. Said as a weighted mean of nodes, so that it moves with them.
    void find_top(const std::vector<Field>& fields) {
        const Index n = static_cast<Index>(q_.nodes.size());
        top_weights_ = VectorXd::Zero(n);
        VectorXd node_mean = VectorXd::Zero(n);
        double sum = 0, count = 0;
        std::vector<std::pair<double, VectorXd>> kept;
        for (std::size_t c = 0; c < components_.size(); ++c) {
            const Field& field = fields[c];
            const Eigen::LLT<MatrixXd> root = root_of(field.covariance);
            Deviates deviates(seed_, 1000 + c);
            const auto wanted = std::max<std::size_t>(1, static_cast<std::size_t>(components_[c].weight * 120));
            for (std::size_t d = 0; d < wanted; ++d) {
                const VectorXd wave = root.matrixL() * standard_normal(deviates, n);
                VectorXd x = field.mean + wave;
                Index at = 0;
                (field.mean + calming * wave).maxCoeff(&at);
                const double top = x[at];
                top_weights_[at] += 1;
                node_mean += x;
                sum += top;
                count += 1;
                kept.emplace_back(top, std::move(x));
            }
        }
        top_weights_ /= count;
        for (Index i = 0; i < n; ++i)
            if (top_weights_[i] > 0)
                top_nodes_.push_back(i);
        top_mean_ = sum / count;
        top_offset_ = top_mean_ - top_weights_.dot(node_mean / count);
        double squares = 0, all = 0;
        for (const auto& [top, x] : kept) {
            const double off = top - (top_weights_.dot(x) + top_offset_);
            squares += off * off;
            all += (top - top_mean_) * (top - top_mean_);
        }
        top_slack_ = std::sqrt(squares / count);
        top_deviation_ = std::sqrt(all / count);
        gather_bounds();
    }

    /// A bound on one node: below (dark) or above (bright) the top less a depth.
    struct Bound {
        Index node = 0;
        double depth = 0;
        double sign = 1; ///< +1: dark, the node lies lower; −1: bright
        double slack = 0;
    };

    /// Of several cuts only the deepest that left a node dark and the shallowest that touched it say anything.
    void gather_bounds() {
        for (std::size_t i = 0; i < q_.nodes.size(); ++i) {
            std::optional<Bound> dark, bright;
            for (const CutSeen& cut : q_.cuts) {
                const double slack = std::hypot(top_slack_, cut.setting);
                if (cut.touched[i] == Touch::dark && (!dark || cut.depth > dark->depth))
                    dark = {static_cast<Index>(i), cut.depth, 1, slack};
                if (cut.touched[i] == Touch::bright && (!bright || cut.depth < bright->depth))
                    bright = {static_cast<Index>(i), cut.depth, -1, slack};
            }
            // A place that was touched and is dark later cannot be: nothing is learned from it here.
            if (dark && bright && bright->depth <= dark->depth)
                continue;
            if (dark)
                bounds_.push_back(*dark);
            if (bright)
                bounds_.push_back(*bright);
        }
    }

    /// Expectation propagation over the bounds.
    [[nodiscard]] Field bounded(Field f) const {
        const std::size_t count = bounds_.size();
        VectorXd precision = VectorXd::Zero(static_cast<Index>(count)), shift = precision;
        for (int sweep = 0; sweep < 6; ++sweep) {
            double moved = 0;
            for (std::size_t b = 0; b < count; ++b) {
                const Bound& bound = bounds_[b];
                const Index s = static_cast<Index>(b);
                // g = node − top: the bound is g < −depth (dark) or g > −depth (bright).
                VectorXd across = f.covariance.col(bound.node);
                double mean = f.mean[bound.node] - top_offset_;
                for (const Index t : top_nodes_) {
                    across -= top_weights_[t] * f.covariance.col(t);
                    mean -= top_weights_[t] * f.mean[t];
                }
                double variance = across[bound.node];
                for (const Index t : top_nodes_)
                    variance -= top_weights_[t] * across[t];
                if (!(variance > 1e-14))
                    continue;
                const double cavity_precision = 1 / variance - precision[s];
                if (!(cavity_precision > 1e-9 / variance))
                    continue;
                const double cv = 1 / cavity_precision, cm = cv * (mean / variance - shift[s]);
                const double spread = std::sqrt(cv + bound.slack * bound.slack);
                const double z = bound.sign * (-bound.depth - cm) / spread;
                if (z > 5 && precision[s] == 0)
                    continue; // so sure already that the bound says nothing
                const double share = normal_share(z);
                if (sweep == 0)
                    f.log_evidence += std::log(std::max(share, 1e-300));
                const double ratio = share > 1e-12 ? normal_density(z) / share : -z + 1 / std::max(1.0, -z);
                const double new_mean = cm - bound.sign * cv * ratio / spread;
                const double new_variance = cv - cv * cv * ratio * (z + ratio) / (spread * spread);
                if (!(new_variance > 1e-4 * cv))
                    continue;
                const double wanted = std::max(0.0, 1 / new_variance - cavity_precision);
                const double delta = wanted - precision[s];
                const double wanted_shift = new_mean / new_variance - cm * cavity_precision;
                const double delta_shift = wanted_shift - shift[s];
                moved = std::max(moved, std::abs(new_mean - mean));
                if (sweep > 0 && std::abs(delta) * variance < 0.02 && std::abs(new_mean - mean) < 2e-5)
                    continue; // it has settled
                // Rank one: the covariance and the mean follow the new site.
                const double gain = delta / (1 + delta * variance);
                f.mean += across * (delta_shift * (1 - gain * variance) - gain * mean);
                f.covariance.noalias() -= gain * across * across.transpose();
                precision[s] = wanted;
                shift[s] = wanted_shift;
            }
            if (moved < 2e-5)
                break;
        }
        return f;
    }

    /// The propagated Gaussian reaches a little past its bounds; a draw does not.
    void keep_bounds(VectorXd& x) const {
        const double top = top_weights_.dot(x) + top_offset_;
        for (const Bound& b : bounds_) {
            const double edge = top - b.depth;
            double& at = x[b.node];
            at = b.sign > 0 ? std::min(at, edge) : std::max(at, edge);
        }
    }

    const SurfaceQuestion& q_;
    std::size_t draws_;
    std::uint64_t seed_;
    Vec2 middle_, half_;
    double level_ = 0; ///< mean of the measured heights: all inner heights are less it
    VectorXd heights_;
    Pairs seen_seen_, nodes_seen_, nodes_nodes_;
    std::vector<Component> components_;
    std::vector<double> lows_, highs_, ranges_;
    VectorXd top_weights_;         ///< share of the draws in which a node is the highest
    std::vector<Index> top_nodes_; ///< where that is not nothing
    double top_mean_ = 0, top_offset_ = 0, top_slack_ = 0, top_deviation_ = 0;
    std::vector<Bound> bounds_;
    std::vector<VectorXd> before_bounds_; ///< variances of the nodes, component by component
};

} // namespace

std::optional<SurfaceBelief> believe(const SurfaceQuestion& question, std::size_t draws, std::uint64_t seed) {
    if (question.seen.empty() || question.nodes.empty() || draws == 0)
        return std::nullopt;
    return Believer(question, draws, seed).run();
}

} // namespace pallix::metrology
