// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_belief.h"

#include "metrology/monte_carlo.h"
#include "metrology/surface_prior.h"
#include "metrology/without_noise.h"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <numeric>

namespace pallix::metrology {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

constexpr double least_weight = 1e-4; ///< weight of a way beside the best
constexpr std::size_t most_ways = 1200;
constexpr double none_at_all = 0.2; ///< share of surfaces that have no feature, beforehand
/// How sharply marks are held against patches, mm, standard: what a surface does within one goes beside it.
constexpr double sharp = 0.002, mark_sharp = 0.002;
/// What no pattern has of a real surface: on its lowest and on its highest place, standard, mm and of the removal.
constexpr double left_out_least = 0.0012, left_out_share = 0.03;
constexpr int moves = 2;            ///< of every draw, at each step
constexpr int last_moves = 8;       ///< once the marks count in full
constexpr double kept_share = 0.6;  ///< of the draws that count after a step towards the marks
constexpr double known_within = 10; ///< mm: a hollow narrower than this is none between touches

/// One choice of size, length and noise of the waves, and the nodes given the heights by it.
struct Waves {
    double size = 0, length = 0, noise = 0;
    double log_weight = 0;
    Eigen::LLT<MatrixXd> root_seen; ///< of the heights' covariance
    VectorXd told;                  ///< L⁻¹ of the heights
    MatrixXd across;                ///< nodes × seen: covariance, then what each height says of each node
    VectorXd mean;
    MatrixXd root; ///< of the nodes' covariance given the heights
};

/// Waves and a pattern, with the heights of its shapes given the heights that were seen.
struct Way {
    std::size_t waves = 0, pattern = 0;
    double log_weight = 0, upto = 0;
    VectorXd height;                       ///< of the shapes, mm
    MatrixXd spread;                       ///< a root of their covariance
    MatrixXd at_nodes, at_tops, at_places; ///< what a mm of each adds to the nodes, the heights being as they are
};

/// A whole surface in independent standard normal numbers.
struct Draw {
    std::size_t way = 0;
    VectorXd wave, shapes, setting;
    VectorXd waved, nodes; ///< mm: what the waves add; all together
    double top = 0;        ///< mm, its highest place
    double off = 0;        ///< how badly it disagrees with the marks
};

class Believer {
  public:
    Believer(const SurfaceQuestion& q, std::size_t draws, std::uint64_t seed, std::optional<SurfaceFeature> only)
        : q_(q), count_(draws), seed_(seed), only_(only) {
        Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
        const auto stretch = [&](Vec2 p) {
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        };
        for (const Vec2 n : q.nodes)
            stretch(n);
        for (const HeightSeen& s : q.seen) {
            stretch(s.place);
            places_.push_back(s.place);
            level_ += s.height / static_cast<double>(q.seen.size());
        }
        middle_ = 0.5 * (low + high);
        half_ = {std::max(1.0, (high.x - low.x) / 2), std::max(1.0, (high.y - low.y) / 2)};
        heights_.resize(static_cast<Index>(q.seen.size()));
        for (std::size_t i = 0; i < q.seen.size(); ++i)
            heights_[static_cast<Index>(i)] = q.seen[i].height - level_;
        seen_seen_ = pairs_of(places_, places_);
        nodes_seen_ = pairs_of(q.nodes, places_);
        nodes_nodes_ = pairs_of(q.nodes, q.nodes);
        // Each node stands for the patch that is nearer to it than to the others.
        const double area = 4 * half_.x * half_.y / static_cast<double>(q.nodes.size());
        patch_ = q.nodes.size() > 1 ? 0.5 * std::sqrt(area) : 0;
    }

    SurfaceBelief run() {
        Deviates pattern_draws(seed_, 1);
        patterns_ = draw_patterns(q_, patch_, pattern_draws, only_);
        weigh_ways();
        Deviates deviates(seed_, 2);
        for (std::size_t i = 0; i < count_; ++i)
            draws_.push_back(draw_one(deviates));
        if (!q_.cuts.empty()) {
            gather_bounds();
            find_cuts();
            lead_to_marks(deviates);
        }
        return summed_up(deviates);
    }

  private:
    [[nodiscard]] Eigen::Matrix<double, 6, 1> trend(Vec2 p) const {
        const double x = (p.x - middle_.x) / half_.x, y = (p.y - middle_.y) / half_.y;
        Eigen::Matrix<double, 6, 1> t;
        t << 1, x, y, x * y, x * x, y * y;
        for (Index i = 0; i < 6; ++i)
            t[i] *= trend_deviation[static_cast<std::size_t>(i)];
        return t;
    }

    /// What every choice of waves needs of two sets of places: the trend's part of their covariance, and distances.
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
    static MatrixXd covariance(const Pairs& p, const Waves& w) {
        return p.trend + w.size * w.size * matern(p.distance, w.length);
    }

    // ---- given the heights --------------------------------------------------------------------------------------

    void weigh_ways() {
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
                for (const double noise : noises) {
                    Waves w{size, length, noise, std::log(size_weight(size)), {}, {}, {}, {}, {}};
                    MatrixXd k = covariance(seen_seen_, w);
                    for (std::size_t i = 0; i < q_.seen.size(); ++i) {
                        const double u = q_.seen[i].uncertainty.value_or(noise);
                        k(static_cast<Index>(i), static_cast<Index>(i)) += u * u + grain * grain;
                    }
                    w.root_seen.compute(k);
                    w.told = w.root_seen.matrixL().solve(heights_);
                    w.log_weight -=
                        0.5 * w.told.squaredNorm() + MatrixXd(w.root_seen.matrixL()).diagonal().array().log().sum();
                    add_ways(w, w.root_seen.matrixL().solve(all), of_kind, kinds);
                    waves_.push_back(std::move(w));
                }
        keep_likely_ways();
        for (const Way& way : ways_)
            if (waves_[way.waves].mean.size() == 0)
                find_nodes(waves_[way.waves]);
        for (Way& way : ways_) {
            const Waves& w = waves_[way.waves];
            const SurfacePattern& p = patterns_[way.pattern];
            if (way.height.size() == 0)
                continue;
            const MatrixXd told = w.across * p.at_seen;
            way.at_nodes = p.at_nodes - told;
            way.at_tops = p.at_tops - told;
            way.at_places = p.at_places - told;
        }
    }

    /// @param shapes L⁻¹ of all patterns' shapes
    void add_ways(const Waves& w, const MatrixXd& shapes, const std::array<double, surface_features>& of_kind,
                  double kinds) {
        Index column = 0;
        for (std::size_t p = 0; p < patterns_.size(); ++p) {
            const auto k = static_cast<Index>(patterns_[p].spread.size());
            Way way{waves_.size(), p, w.log_weight, 0, VectorXd(k), MatrixXd(k, k), {}, {}, {}};
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
            best_ = std::max(best_, way.log_weight);
            if (way.log_weight > best_ + std::log(least_weight))
                ways_.push_back(std::move(way));
        }
    }

    void keep_likely_ways() {
        std::erase_if(ways_, [this](const Way& w) { return w.log_weight < best_ + std::log(least_weight); });
        std::ranges::sort(ways_, std::ranges::greater{}, &Way::log_weight);
        double sum = 0;
        for (Way& w : ways_)
            w.upto = sum += std::exp(w.log_weight - best_);
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

    void find_nodes(Waves& w) const {
        const MatrixXd across = covariance(nodes_seen_, w);
        const MatrixXd half = w.root_seen.matrixL().solve(across.transpose());
        w.across = w.root_seen.matrixU().solve(half).transpose();
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

    static VectorXd normals(Deviates& d, Index n) {
        VectorXd z(n);
        for (double& x : z)
            x = d.normal();
        return z;
    }
    [[nodiscard]] std::size_t pick_way(Deviates& d) const {
        const auto picked = std::ranges::lower_bound(ways_, d.uniform(), {}, &Way::upto);
        return std::min<std::size_t>(static_cast<std::size_t>(picked - ways_.begin()), ways_.size() - 1);
    }
    /// The lowest place of every patch, and the highest of all.
    struct Laid {
        VectorXd nodes;
        double top = 0;
    };
    [[nodiscard]] Laid lay(std::size_t at, const VectorXd& waved, const VectorXd& shapes) const {
        const Way& way = ways_[at];
        Laid laid{waves_[way.waves].mean + waved, 0};
        if (const Index k = way.height.size(); k > 0) {
            const VectorXd height = way.height + way.spread * shapes.head(k);
            laid.top = (laid.nodes + way.at_tops * height).maxCoeff();
            laid.nodes += way.at_nodes * height;
        } else {
            laid.top = laid.nodes.maxCoeff();
        }
        laid.top = std::max(laid.top, laid.nodes.maxCoeff());
        return laid;
    }
    [[nodiscard]] VectorXd waved(std::size_t at, const VectorXd& wave) const {
        const MatrixXd& root = waves_[ways_[at].waves].root;
        return root * wave.head(root.cols());
    }
    Draw draw_one(Deviates& d) const {
        Draw one{pick_way(d),
                 normals(d, static_cast<Index>(q_.nodes.size())),
                 normals(d, most_shapes),
                 normals(d, static_cast<Index>(q_.cuts.size())),
                 {},
                 {},
                 0,
                 0};
        one.waved = waved(one.way, one.wave);
        auto [nodes, top] = lay(one.way, one.waved, one.shapes);
        one.nodes = std::move(nodes);
        one.top = top;
        return one;
    }

    // ---- given the marks ----------------------------------------------------------------------------------------

    /// Of several cuts only the shallowest that touched a node says something of it.
    void gather_bounds() {
        for (std::size_t i = 0; i < q_.nodes.size(); ++i) {
            std::optional<std::size_t> shallowest;
            for (std::size_t c = 0; c < q_.cuts.size(); ++c)
                if (q_.cuts[c].touched[i] == Touch::bright &&
                    (!shallowest || q_.cuts[c].depth < q_.cuts[*shallowest].depth))
                    shallowest = c;
            if (shallowest)
                bright_.emplace_back(static_cast<Index>(i), *shallowest);
        }
    }

    /// Where the cuts should have run by the heights alone: what they left is held against that.
    void find_cuts() {
        const double count = static_cast<double>(draws_.size());
        cut_heights_.assign(q_.cuts.size(), 0);
        double sum = 0, squares = 0;
        for (const Draw& one : draws_) {
            const std::vector<double> depth = depths(one.setting);
            for (std::size_t c = 0; c < depth.size(); ++c)
                cut_heights_[c] += (one.top + level_ - depth[c]) / count;
            sum += one.top - depth.back();
            squares += (one.top - depth.back()) * (one.top - depth.back());
        }
        cut_height_deviation_ = std::sqrt(std::max(0.0, squares / count - (sum / count) * (sum / count)));
    }

    /// Where the cuts ran below the top: each depth is the sum of settings, each a little off.
    [[nodiscard]] std::vector<double> depths(const VectorXd& setting) const {
        std::vector<double> at;
        double off = 0, variance = 0;
        for (std::size_t c = 0; c < q_.cuts.size(); ++c) {
            const double all = q_.cuts[c].setting * q_.cuts[c].setting;
            off += std::sqrt(std::max(0.0, all - variance)) * setting[static_cast<Index>(c)];
            variance = std::max(variance, all);
            at.push_back(q_.cuts[c].depth + off);
        }
        return at;
    }

    /// How badly a surface disagrees with the marks: half the squares of what is on the wrong side, in sharpnesses.
    [[nodiscard]] double disagreement(const Laid& laid, const VectorXd& setting) const {
        const auto& [x, top] = laid;
        const std::vector<double> depth = depths(setting);
        double bright = 0, dark = 0;
        for (const auto& [node, cut] : bright_) {
            const double under = std::max(0.0, top - depth[cut] - x[node]);
            bright += under * under;
        }
        for (std::size_t c = 0; c < q_.cuts.size(); ++c)
            for (const std::vector<std::size_t>& mark : q_.cuts[c].marks) {
                double lowest = std::numeric_limits<double>::infinity();
                for (const std::size_t n : mark)
                    lowest = std::min(lowest, x[static_cast<Index>(n)]);
                const double over = std::max(0.0, lowest - top + depth[c]);
                dark += over * over;
            }
        return 0.5 * (bright / (sharp * sharp) + dark / (mark_sharp * mark_sharp));
    }

    /// The marks count for more from step to step, as much as leaves enough different draws, until they count in full.
    void lead_to_marks(Deviates& d) {
        for (Draw& one : draws_)
            one.off = disagreement({one.nodes, one.top}, one.setting);
        for (double counted = 0; counted < 1;) {
            const double next = next_step(counted);
            resample(next - counted, d);
            counted = next;
            for (Draw& one : draws_)
                for (int i = 0; i < (counted < 1 ? moves : last_moves); ++i) {
                    turn(one, counted, d);
                    change_way(one, counted, d);
                }
        }
    }

    [[nodiscard]] double next_step(double counted) const {
        const double least = std::ranges::min(draws_, {}, &Draw::off).off;
        const auto share_kept = [&](double more) {
            double sum = 0, squares = 0;
            for (const Draw& one : draws_) {
                const double w = std::exp(-more * (one.off - least));
                sum += w;
                squares += w * w;
            }
            return sum * sum / squares / static_cast<double>(draws_.size());
        };
        double low = 0, high = 1 - counted;
        if (share_kept(high) >= kept_share)
            return 1;
        for (int i = 0; i < 30; ++i) {
            const double middle = i < 12 ? std::sqrt(std::max(low, 1e-9) * high) : (low + high) / 2;
            (share_kept(middle) >= kept_share ? low : high) = middle;
        }
        return std::min(1.0, counted + std::max(low, 1e-9));
    }

    void resample(double more, Deviates& d) {
        const double least = std::ranges::min(draws_, {}, &Draw::off).off;
        std::vector<double> upto;
        double sum = 0;
        for (const Draw& one : draws_)
            upto.push_back(sum += std::exp(-more * (one.off - least)));
        std::vector<Draw> kept;
        kept.reserve(draws_.size());
        const double start = d.uniform();
        std::size_t at = 0;
        for (std::size_t i = 0; i < draws_.size(); ++i) {
            const double share = (static_cast<double>(i) + start) / static_cast<double>(draws_.size()) * sum;
            while (at + 1 < upto.size() && upto[at] < share)
                ++at;
            kept.push_back(draws_[at]);
        }
        draws_ = std::move(kept);
    }

    /// Elliptical slice sampling of waves, shapes and settings together.
    void turn(Draw& one, double counted, Deviates& d) const {
        const VectorXd wave = normals(d, one.wave.size()), shapes = normals(d, most_shapes),
                       setting = normals(d, one.setting.size());
        const VectorXd other = waved(one.way, wave);
        const double most = one.off - std::log(d.uniform()) / counted;
        double angle = 2 * std::numbers::pi * d.uniform(), low = angle - 2 * std::numbers::pi, high = angle;
        for (int tries = 0; tries < 40; ++tries) {
            const double c = std::cos(angle), s = std::sin(angle);
            const VectorXd new_shapes = c * one.shapes + s * shapes, new_setting = c * one.setting + s * setting;
            VectorXd all = c * one.waved + s * other;
            Laid laid = lay(one.way, all, new_shapes);
            if (const double now = disagreement(laid, new_setting); now < most) {
                one.wave = c * one.wave + s * wave;
                one.shapes = new_shapes;
                one.setting = new_setting;
                one.waved = std::move(all);
                one.nodes = std::move(laid.nodes);
                one.top = laid.top;
                one.off = now;
                return;
            }
            (angle < 0 ? low : high) = angle;
            angle = low + (high - low) * d.uniform();
        }
    }

    /// Another pattern under other waves, as likely by the heights: taken as far as the marks agree (Metropolis).
    void change_way(Draw& one, double counted, Deviates& d) const {
        const std::size_t way = pick_way(d);
        const VectorXd shapes = normals(d, most_shapes);
        VectorXd all = waved(way, one.wave);
        Laid laid = lay(way, all, shapes);
        const double now = disagreement(laid, one.setting);
        if (std::log(d.uniform()) >= counted * (one.off - now))
            return;
        one.way = way;
        one.shapes = shapes;
        one.waved = std::move(all);
        one.nodes = std::move(laid.nodes);
        one.top = laid.top;
        one.off = now;
    }

    // ---- what it comes to ---------------------------------------------------------------------------------------

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

    [[nodiscard]] SurfaceBelief summed_up(Deviates& d) const {
        const auto n = static_cast<Index>(q_.nodes.size());
        SurfaceBelief b;
        VectorXd sum = VectorXd::Zero(n), squares = sum;
        b.lowest_share.assign(q_.nodes.size(), 0);
        std::vector<double> highs, ranges;
        const double count = static_cast<double>(draws_.size());
        for (const Draw& one : draws_) {
            Index at = 0;
            const double lowest = one.nodes.minCoeff(&at);
            const double left_out = std::hypot(left_out_least, left_out_share * (one.top - lowest));
            const double low = lowest + left_out * d.normal(), high = std::max(low, one.top + left_out * d.normal());
            const Way& way = ways_[one.way];
            VectorXd places = waves_[way.waves].mean + one.waved;
            if (const Index k = way.height.size(); k > 0)
                places += way.at_places * (way.height + way.spread * one.shapes.head(k));
            sum += places;
            squares += places.cwiseAbs2();
            b.lowest_share[static_cast<std::size_t>(at)] += 1 / count;
            b.lowest_draws.push_back(low + level_);
            highs.push_back(high + level_);
            ranges.push_back(high - low);
        }
        for (Index i = 0; i < n; ++i) {
            const double mean = sum[i] / count;
            b.mean.push_back(mean + level_);
            const double variance = std::max(0.0, squares[i] / count - mean * mean);
            b.deviation.push_back(std::hypot(std::sqrt(variance), left_out_least));
        }
        b.lowest = interval(b.lowest_draws);
        std::ranges::sort(b.lowest_draws);
        b.highest = interval(highs);
        b.removal = interval(ranges);
        b.cut_heights = cut_heights_;
        b.cut_height_deviation = cut_height_deviation_;
        b.unseen = unseen();
        return b;
    }

    /// Who said what a cut touched has looked at every place.
    [[nodiscard]] std::optional<double> unseen() const {
        if (!bright_.empty())
            return std::nullopt;
        double widest = 0;
        for (const Vec2 n : q_.nodes) {
            double nearest = std::numeric_limits<double>::infinity();
            for (const Vec2 p : places_)
                nearest = std::min(nearest, norm(p - n));
            widest = std::max(widest, 2 * nearest);
        }
        return widest > known_within ? std::optional(widest) : std::nullopt;
    }

    const SurfaceQuestion& q_;
    std::size_t count_;
    std::uint64_t seed_;
    std::optional<SurfaceFeature> only_;
    Vec2 middle_, half_;
    double level_ = 0; ///< mean of the measured heights: all inner heights are less it
    double patch_ = 0; ///< mm, radius of what a node stands for
    std::vector<Vec2> places_;
    VectorXd heights_;
    Pairs seen_seen_, nodes_seen_, nodes_nodes_;
    std::vector<SurfacePattern> patterns_;
    std::vector<Waves> waves_;
    std::vector<Way> ways_;
    double best_ = -std::numeric_limits<double>::infinity();
    std::vector<Draw> draws_;
    std::vector<std::pair<Index, std::size_t>> bright_; ///< node, cut
    std::vector<double> cut_heights_;
    double cut_height_deviation_ = 0;
};

} // namespace

std::optional<SurfaceBelief> believe(const SurfaceQuestion& question, std::size_t draws, std::uint64_t seed,
                                     std::optional<SurfaceFeature> only) {
    if (question.seen.empty() || question.nodes.empty() || draws == 0)
        return std::nullopt;
    return Believer(question, draws, seed, only).run();
}

} // namespace pallix::metrology
