// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_belief.h"

#include "metrology/monte_carlo.h"
#include "metrology/surface_ways.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>

namespace pallix::metrology {
namespace {

using Eigen::Index;
using Eigen::VectorXd;
using Laid = SurfaceWays::Laid;

/// How sharply marks are held against patches, mm, standard: what a surface does within one goes beside it.
constexpr double sharp = 0.002, mark_sharp = 0.002;
/// What no pattern has of a real surface: on its lowest and on its highest place, standard, mm and of the removal.
constexpr double left_out_least = 0.0012, left_out_share = 0.03;
/// A lowest place that paint showed and on which no touch stands may go deeper than any pattern says: in so many draws
/// by this, mm, exponential; in a few by anything up to so many mm. Who knows what it is knows better.
constexpr double deeper_in = 0.5, deeper_by = 0.0012, much_deeper_in = 0.01, much_deeper = 0.03;
constexpr double touched_within = 4; ///< mm
constexpr int moves = 2;             ///< of every draw, at each step
constexpr int last_moves = 8;        ///< once the marks count in full
constexpr double kept_share = 0.5;   ///< of the draws that count after a step towards the marks
constexpr double known_within = 10;  ///< mm: a hollow narrower than this is none between touches

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
        : q_(q), count_(draws), seed_(seed), told_(only.has_value()), ways_(q, seed, only) {}

    SurfaceBelief run() {
        draws_.resize(count_);
        for (std::size_t first = 0; first < count_; first += batch_size)
            own_.emplace_back(seed_, 3 + own_.size()); // the first parts are the patterns' and what is drawn one by one
        for_all([this](Deviates& d, Draw& one) { one = draw_one(d); });
        Deviates deviates(seed_, 2);
        if (!q_.cuts.empty()) {
            gather_bounds();
            find_cuts();
            lead_to_marks(deviates);
        }
        return summed_up(deviates);
    }

  private:
    /// Side by side: the answer does not depend on how many threads there are.
    void for_all(const std::function<void(Deviates&, Draw&)>& each) {
        in_parallel(own_.size(), 0, [&](std::size_t batch) {
            for (std::size_t i = batch * batch_size; i < std::min((batch + 1) * batch_size, count_); ++i)
                each(own_[batch], draws_[i]);
        });
    }
    static VectorXd normals(Deviates& d, Index n) {
        VectorXd z(n);
        for (double& x : z)
            x = d.normal();
        return z;
    }
    Draw draw_one(Deviates& d) const {
        Draw one{ways_.pick(d),
                 normals(d, static_cast<Index>(q_.nodes.size())),
                 normals(d, most_shapes),
                 normals(d, static_cast<Index>(q_.cuts.size())),
                 {},
                 {},
                 0,
                 0};
        one.waved = ways_.waved(one.way, one.wave);
        Laid laid;
        ways_.lay(one.way, one.waved, one.shapes, laid);
        one.nodes = std::move(laid.nodes);
        one.top = laid.top;
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
                bright_.emplace_back(static_cast<Index>(i), static_cast<Index>(*shallowest));
        }
    }

    /// Where the cuts should have run by the heights alone: what they left is held against that.
    void find_cuts() {
        const double count = static_cast<double>(draws_.size());
        cut_heights_.assign(q_.cuts.size(), 0);
        double sum = 0, squares = 0;
        for (const Draw& one : draws_) {
            const VectorXd depth = depths(one.setting);
            for (std::size_t c = 0; c < cut_heights_.size(); ++c)
                cut_heights_[c] += (one.top + ways_.level() - depth[static_cast<Index>(c)]) / count;
            const double last = one.top - depth[depth.size() - 1];
            sum += last;
            squares += last * last;
        }
        cut_height_deviation_ = std::sqrt(std::max(0.0, squares / count - (sum / count) * (sum / count)));
    }

    /// Where the cuts ran below the top: each depth is the sum of settings, each a little off.
    [[nodiscard]] VectorXd depths(const VectorXd& setting) const {
        VectorXd at(setting.size());
        double off = 0, variance = 0;
        for (Index c = 0; c < setting.size(); ++c) {
            const CutSeen& cut = q_.cuts[static_cast<std::size_t>(c)];
            const double all = cut.setting * cut.setting;
            off += std::sqrt(std::max(0.0, all - variance)) * setting[c];
            variance = std::max(variance, all);
            at[c] = cut.depth + off;
        }
        return at;
    }

    /// How badly a surface disagrees with the marks: half the squares of what is on the wrong side, in sharpnesses.
    [[nodiscard]] double disagreement(const VectorXd& x, double top, const VectorXd& setting) const {
        const VectorXd depth = depths(setting);
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
                const double over = std::max(0.0, lowest - top + depth[static_cast<Index>(c)]);
                dark += over * over;
            }
        return 0.5 * (bright / (sharp * sharp) + dark / (mark_sharp * mark_sharp));
    }

    /// The marks count for more from step to step, as much as leaves enough different draws, until they count in full.
    void lead_to_marks(Deviates& d) {
        for (Draw& one : draws_)
            one.off = disagreement(one.nodes, one.top, one.setting);
        for (double counted = 0; counted < 1;) {
            const double next = next_step(counted);
            resample(next - counted, d);
            counted = next;
            for_all([&](Deviates& own, Draw& one) {
                for (int i = 0; i < (counted < 1 ? moves : last_moves); ++i) {
                    turn(one, counted, own);
                    change_way(one, counted, own);
                }
            });
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
        const Index waves = ways_.waves_in(one.way);
        const VectorXd wave = normals(d, waves), shapes = normals(d, most_shapes),
                       setting = normals(d, one.setting.size());
        const VectorXd other = ways_.waved(one.way, wave);
        const double most = one.off - std::log(d.uniform()) / counted;
        double angle = 2 * std::numbers::pi * d.uniform(), low = angle - 2 * std::numbers::pi, high = angle;
        VectorXd new_shapes, new_setting, all;
        Laid laid;
        for (int tries = 0; tries < 40; ++tries) {
            const double c = std::cos(angle), s = std::sin(angle);
            new_shapes.noalias() = c * one.shapes + s * shapes;
            new_setting.noalias() = c * one.setting + s * setting;
            all.noalias() = c * one.waved + s * other;
            ways_.lay(one.way, all, new_shapes, laid);
            if (const double now = disagreement(laid.nodes, laid.top, new_setting); now < most) {
                one.wave.head(waves) = c * one.wave.head(waves) + s * wave;
                one.setting = new_setting;
                return take(one, new_shapes, std::move(all), std::move(laid), now);
            }
            (angle < 0 ? low : high) = angle;
            angle = low + (high - low) * d.uniform();
        }
    }

    /// Another pattern under other waves, as likely by the heights: taken as far as the marks agree (Metropolis).
    void change_way(Draw& one, double counted, Deviates& d) const {
        const std::size_t way = ways_.pick(d);
        const VectorXd shapes = normals(d, most_shapes);
        VectorXd all = ways_.waved(way, one.wave);
        Laid laid;
        ways_.lay(way, all, shapes, laid);
        const double now = disagreement(laid.nodes, laid.top, one.setting);
        if (std::log(d.uniform()) >= counted * (one.off - now))
            return;
        one.way = way;
        take(one, shapes, std::move(all), std::move(laid), now);
    }

    static void take(Draw& one, const VectorXd& shapes, VectorXd waved, Laid laid, double off) {
        one.shapes = shapes;
        one.waved = std::move(waved);
        one.nodes = std::move(laid.nodes);
        one.top = laid.top;
        one.off = off;
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
            const double deeper =
                shown_only_by_paint(q_.nodes[static_cast<std::size_t>(at)]) ? deeper_than_drawn(d) : 0;
            const double low = lowest - deeper + left_out * d.normal(),
                         high = std::max(low, one.top + left_out * d.normal());
            const VectorXd places = ways_.places(one.way, one.waved, one.shapes);
            sum += places;
            squares += places.cwiseAbs2();
            b.lowest_share[static_cast<std::size_t>(at)] += 1 / count;
            b.lowest_draws.push_back(low + ways_.level());
            highs.push_back(high + ways_.level());
            ranges.push_back(high - low);
        }
        for (Index i = 0; i < n; ++i) {
            const double mean = sum[i] / count;
            b.mean.push_back(mean + ways_.level());
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

    static double deeper_than_drawn(Deviates& d) {
        const double way = d.uniform();
        if (way < much_deeper_in)
            return much_deeper * d.uniform();
        return way < much_deeper_in + deeper_in ? -deeper_by * std::log(d.uniform()) : 0;
    }
    [[nodiscard]] bool shown_only_by_paint(Vec2 place) const {
        return !told_ && !q_.cuts.empty() && std::ranges::none_of(q_.seen, [&](const HeightSeen& s) {
            return norm(s.place - place) < touched_within;
        });
    }

    /// Where a cut was looked at, a hollow hides only in what stayed dark; and not where a touch or bright metal is
    /// near.
    [[nodiscard]] std::optional<double> unseen() const {
        std::vector<Vec2> known;
        for (const HeightSeen& s : q_.seen)
            known.push_back(s.place);
        for (const auto& [node, cut] : bright_)
            known.push_back(q_.nodes[static_cast<std::size_t>(node)]);
        double widest = 0;
        for (const Vec2 n : q_.nodes) {
            double nearest = std::numeric_limits<double>::infinity();
            for (const Vec2 k : known)
                nearest = std::min(nearest, norm(k - n));
            widest = std::max(widest, 2 * nearest);
        }
        return widest > known_within ? std::optional(widest) : std::nullopt;
    }

    const SurfaceQuestion& q_;
    std::size_t count_;
    std::uint64_t seed_;
    std::vector<Deviates> own_; ///< random numbers, of each batch of draws
    bool told_ = false;         ///< which feature it has
    SurfaceWays ways_;
    std::vector<Draw> draws_;
    std::vector<std::pair<Index, Index>> bright_; ///< node, cut
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
