// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/tunnel_plan.h"

#include "block/fields.h"
#include "metrology/linear_program.h"
#include "planning/tunnel/hone_line.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace pallix::planning {
namespace {

using metrology::LinearProgram;
using metrology::Vec3;
using Term = LinearProgram::Term;

constexpr double to_um = 1000;    // the programme counts in µm, so that its numbers are near 1
constexpr double along = 1e-3;    // … and along the crankshaft in m
constexpr double kept = 1e-9;     // mm, how sharply an optimum is kept
constexpr double no_slack = 1e-6; // mm

/// A point's place in the constraint: hypot + c·[cap]·dz − dy·y(x) − dz·z(x) + stock ≤ R*.
struct Reach {
    std::size_t main;
    Vec3 p;
    double distance, dy, dz;
    bool cap;
};

class Planner {
  public:
    /// @param followed the line is the one a hone follows; nothing: it is chosen (honing) or given (boring)
    Planner(const std::vector<Housing>& mains, const TunnelPolicy& policy, const CentreLine& given,
            std::optional<HoneLine> followed = std::nullopt)
        : mains_(mains), policy_(policy), given_(followed ? followed->uncut : given), followed_(std::move(followed)) {
        for (std::size_t i = 0; i < mains.size(); ++i)
            for (const Vec3 p : mains[i].points) {
                const double distance = std::hypot(p.y, p.z);
                const Reach r{i, p, distance, p.y / distance, p.z / distance, p.z < 0};
                if (r.cap && std::ranges::find(policy.replaced, mains[i].id) != policy.replaced.end())
                    continue; // the new cap is bored with the saddle
                if (std::abs(std::asin(r.dz)) < policy.parting)
                    ++left_out_;
                else
                    reaches_.push_back(r);
            }
    }

    TunnelPlan plan() {
        TunnelPlan plan;
        plan.method = policy_.method;
        plan.left_out = left_out_;
        const auto solved = policy_.method == block::TunnelMethod::hone ? solve_hone() : solve_bore({});
        if (!solved) {
            explain(plan);
            return plan;
        }
        plan.feasible = true;
        plan.line = solved->line;
        plan.lift = solved->lift;
        for (std::size_t i = 0; i < mains_.size(); ++i) {
            plan.cuts.push_back({mains_[i].id, solved->cuts[i]});
            plan.max_cap_cut = std::max(plan.max_cap_cut, solved->cuts[i]);
        }
        plan.rise = largest([&](double x) { return plan.line.z(x); });
        plan.side = largest([&](double x) { return plan.line.y(x); });
        for (const Reach& r : reaches_) {
            plan.slacks.push_back(slack(r, plan.line, plan.cuts[r.main].cut));
            if (plan.slacks.back() < no_slack)
                plan.binding.push_back({mains_[r.main].id, r.cap, std::atan2(r.dy, r.dz), r.p.x});
        }
        return plan;
    }

    [[nodiscard]] double least_slack(const TunnelPlan& plan) const {
        double least = std::numeric_limits<double>::infinity();
        for (const Reach& r : reaches_)
            least = std::min(least, slack(r, plan.line, plan.cuts[r.main].cut));
        return least;
    }

  private:
    struct Solution {
        CentreLine line;
        double lift = 0;
        std::vector<double> cuts;
    };
    /// Which limits hold, and whether R* may grow.
    struct Freedom {
        bool grows = false;
        std::optional<TunnelLimit> loosened;
        [[nodiscard]] bool holds(TunnelLimit limit) const { return loosened != limit; }
    };

    [[nodiscard]] double radius(std::size_t main) const { return mains_[main].target_diameter / 2; }

    [[nodiscard]] double slack(const Reach& r, const CentreLine& line, double cut) const {
        const Housing& main = mains_[r.main];
        return room_at(main, r.p, cut, line) - stock_at(policy_, r.dz) - main.margin;
    }

    /// The value of the largest size over the mains, with its sign; a tie is positive.
    template <class Along>
    double largest(Along value_at) const {
        double best = 0;
        for (const Housing& m : mains_) {
            const double v = value_at(m.mean_x());
            if (std::abs(v) > std::abs(best) + 1e-12 || (std::abs(std::abs(v) - std::abs(best)) <= 1e-12 && v > best))
                best = v;
        }
        return best;
    }

    // ---- the programme ------------------------------------------------------------------------------------------

    /// Variables of the honing programme: line (µm, and µm per m), cuts (µm), growth of R* (µm).
    struct Programme {
        LinearProgram lp;
        std::size_t y0, yk, z0, zk, growth;
        std::vector<std::size_t> cut; ///< of each main; one and the same where all are equal
    };

    [[nodiscard]] bool boring() const { return policy_.method == block::TunnelMethod::bore; }
    /// The line is not free: a given one and its lift (z0), or one that follows from the cuts.
    [[nodiscard]] bool bound() const { return boring() || followed_; }

    [[nodiscard]] std::vector<Term> line_terms(const Programme& p, double x, double dy, double dz, double sign) const {
        if (followed_)
            return followed_terms(p, x, sign * dz);
        if (boring())
            return {{p.z0, sign * dz}};
        return {{p.y0, sign * dy}, {p.yk, sign * dy * x * along}, {p.z0, sign * dz}, {p.zk, sign * dz * x * along}};
    }
    [[nodiscard]] std::vector<Term> followed_terms(const Programme& p, double x, double factor) const {
        std::vector<Term> terms;
        for (std::size_t i = 0; i < mains_.size(); ++i) {
            const auto& [z0, zk] = followed_->gained[i];
            add(terms, p.cut[i], factor * (z0 + zk * x));
        }
        return terms;
    }
    /// Equal caps share one variable: it stands in a form once.
    static void add(std::vector<Term>& terms, std::size_t variable, double coefficient) {
        const auto there = std::ranges::find(terms, variable, &Term::first);
        if (there != terms.end())
            there->second += coefficient;
        else
            terms.emplace_back(variable, coefficient);
    }
    /// What a line that is not free takes of a reach before any lift or cut, mm.
    [[nodiscard]] double given(double x, double dy, double dz) const {
        return bound() ? dy * given_.y(x) + dz * given_.z(x) : 0;
    }

    [[nodiscard]] Programme programme(const Freedom& freedom) const {
        Programme p;
        const double nothing = bound() ? 0 : LinearProgram::free; // a given line stays as it is
        p.y0 = p.lp.add_variable(-nothing, nothing);
        p.yk = p.lp.add_variable(-nothing, nothing);
        p.z0 = boring() ? p.lp.add_variable(0) : p.lp.add_variable(-nothing, nothing);
        p.zk = p.lp.add_variable(-nothing, nothing);
        p.growth = p.lp.add_variable(0, freedom.grows ? LinearProgram::free : limit_tolerance * to_um);
        const double deepest =
            freedom.holds(TunnelLimit::max_cap_cut) ? limit_in_um(policy_.max_cap_cut) : LinearProgram::free;
        for (std::size_t i = 0; i < mains_.size(); ++i)
            p.cut.push_back(i > 0 && policy_.caps == CapCuts::equal ? p.cut.front() : p.lp.add_variable(0, deepest));
        for (const Reach& r : reaches_) {
            std::vector<Term> terms = line_terms(p, r.p.x, r.dy, r.dz, -1);
            terms.emplace_back(p.growth, -1);
            if (r.cap)
                add(terms, p.cut[r.main], r.dz);
            p.lp.add_row(std::move(terms), to_um * (radius(r.main) - stock_at(policy_, r.dz) - mains_[r.main].margin -
                                                    r.distance + given(r.p.x, r.dy, r.dz)));
        }
        for (const Housing& m : mains_) {
            if (freedom.holds(TunnelLimit::max_rise))
                add_band(p, m.mean_x(), 0, 1, policy_.max_rise);
            if (freedom.holds(TunnelLimit::max_side) && !bound())
                add_band(p, m.mean_x(), 1, 0, policy_.max_side);
        }
        return p;
    }

    /// |s| ≤ limit at one place, across (dy 1) or up (dz 1).
    void add_band(Programme& p, double x, double dy, double dz, double limit) const {
        for (const double sign : {1.0, -1.0})
            p.lp.add_row(line_terms(p, x, dy, dz, sign),
                         limit_in_um(limit + limit_tolerance) - to_um * sign * given(x, dy, dz));
    }
    /// Ten metres and more are no limit.
    [[nodiscard]] static double limit_in_um(double limit) {
        return limit >= block::longest ? LinearProgram::free : limit * to_um;
    }

    /// A given line may break the side limit by itself.
    [[nodiscard]] bool given_line_holds(const Freedom& freedom) const {
        return !bound() || !freedom.holds(TunnelLimit::max_side) ||
               std::ranges::all_of(mains_, [this](const Housing& m) {
                   return std::abs(given_.y(m.mean_x())) <= policy_.max_side + limit_tolerance;
               });
    }

    /// Minimises one form after the other, each kept at its optimum.
    struct Stages {
        LinearProgram& lp;
        bool exactly = false;
        std::optional<std::vector<double>> found{}; ///< of the last stage that could be worked out
        bool complete = true;                       ///< none was given up

        /// @param forms each with what stands beside its variables, µm
        void largest(const std::vector<std::pair<std::vector<Term>, double>>& forms) {
            const std::size_t most = lp.add_variable(0);
            for (auto [form, constant] : forms) {
                form.emplace_back(most, -1);
                lp.add_row(std::move(form), -constant);
            }
            sum({{most, 1}});
        }
        void sum(const std::vector<Term>& form) {
            if (!complete)
                return;
            auto solution = exactly ? lp.minimise_exactly(form) : lp.minimise(form);
            complete = solution.has_value();
            if (!complete)
                return;
            double optimum = 0;
            for (const auto& [variable, coefficient] : form)
                optimum += coefficient * (*solution)[variable];
            lp.add_row(form, optimum + kept * to_um);
            found = std::move(solution);
        }
    };

    /// The least by which R* would have to grow with those limits, mm. There always is such a growth, unless a given
    /// line breaks a limit.
    [[nodiscard]] std::optional<double> least_growth(std::optional<TunnelLimit> loosened) const {
        const Freedom freedom{true, loosened};
        if (!given_line_holds(freedom))
            return std::nullopt;
        const Programme p = programme(freedom);
        const auto v = p.lp.minimise({{p.growth, 1}});
        return v ? std::optional((*v)[p.growth] / to_um) : std::nullopt;
    }

    [[nodiscard]] Stages hone_stages(Programme& p, bool exactly) const {
        const auto bands = [&](double dy, double dz) {
            std::vector<std::pair<std::vector<Term>, double>> forms;
            for (const Housing& m : mains_)
                for (const double sign : {1.0, -1.0})
                    forms.emplace_back(line_terms(p, m.mean_x(), dy, dz, sign),
                                       to_um * sign * given(m.mean_x(), dy, dz));
            return forms;
        };
        std::vector<std::pair<std::vector<Term>, double>> cuts;
        std::vector<Term> sum;
        for (const std::size_t cut : p.cut) {
            cuts.push_back({{{cut, 1}}, 0});
            sum.emplace_back(cut, 1);
        }
        if (policy_.caps == CapCuts::equal)
            sum = {{p.cut.front(), 1}};
        Stages stages{p.lp, exactly};
        stages.largest(cuts);
        stages.largest(bands(0, 1));
        stages.sum(sum);
        if (!bound())
            stages.largest(bands(1, 0));
        return stages;
    }

    std::optional<Solution> solve_hone() const {
        if (!given_line_holds({}))
            return std::nullopt;
        Programme p = programme({});
        Stages stages = hone_stages(p, false);
        if (!stages.complete) {
            // Whether there is a line at all is a question of its own; that a later stage loses its way is rounding.
            if (const auto growth = least_growth({}); !stages.found && (!growth || *growth > limit_tolerance))
                return std::nullopt;
            Programme again = programme({});
            Stages exact = hone_stages(again, true);
            if (exact.found)
                stages.found = std::move(exact.found);
        }
        if (!stages.found)
            return std::nullopt;
        const std::vector<double>& v = *stages.found;
        Solution s;
        s.line = {v[p.y0] / to_um, v[p.yk] * along / to_um, v[p.z0] / to_um, v[p.zk] * along / to_um};
        for (const std::size_t cut : p.cut)
            s.cuts.push_back(std::max(0.0, v[cut] / to_um));
        if (followed_)
            s.line = followed_->with(s.cuts);
        return s;
    }

    // ---- boring: the line is given, so each number follows by itself -----------------------------------------------

    std::optional<Solution> solve_bore(const Freedom& freedom) const {
        if (!given_line_holds(freedom))
            return std::nullopt;
        Solution s;
        for (const Reach& r : reaches_) {
            if (r.cap)
                continue;
            const double missing = -slack(r, given_, 0);
            if (missing <= limit_tolerance)
                continue;
            if (r.dz <= 0)
                return std::nullopt; // level with the parting line: no lift helps
            s.lift = std::max(s.lift, missing / r.dz);
        }
        s.line = given_;
        s.line.z0 += s.lift;
        s.cuts.assign(mains_.size(), 0);
        const double deepest =
            freedom.holds(TunnelLimit::max_cap_cut) ? policy_.max_cap_cut : std::numeric_limits<double>::infinity();
        for (const Reach& r : reaches_)
            if (const double missing = -slack(r, s.line, 0); r.cap && missing > limit_tolerance) {
                if (missing + r.dz * deepest > limit_tolerance)
                    return std::nullopt;
                s.cuts[r.main] = std::max(s.cuts[r.main], std::min(missing / -r.dz, deepest));
            }
        if (policy_.caps == CapCuts::equal)
            s.cuts.assign(mains_.size(), std::ranges::max(s.cuts));
        const bool risen = freedom.holds(TunnelLimit::max_rise) && std::ranges::any_of(mains_, [&](const Housing& m) {
                               return std::abs(s.line.z(m.mean_x())) > policy_.max_rise + limit_tolerance;
                           });
        if (risen)
            return std::nullopt;
        return s;
    }

    // ---- what would have to give
    // -------------------------------------------------------------------------------------

    [[nodiscard]] bool holds_without(TunnelLimit limit) const {
        if (policy_.method == block::TunnelMethod::bore)
            return solve_bore({false, limit}).has_value();
        const auto least = least_growth(limit);
        return least && *least <= limit_tolerance;
    }

    void explain(TunnelPlan& plan) const {
        // A given line that lies below its limit is no question of size: growth helps nothing.
        if (const auto least = least_growth({}); least && *least > limit_tolerance) {
            plan.short_by = *least;
            plan.limits_to_give.push_back(TunnelLimit::target_diameter);
        }
        for (const TunnelLimit limit : {TunnelLimit::max_cap_cut, TunnelLimit::max_rise, TunnelLimit::max_side})
            if (holds_without(limit))
                plan.limits_to_give.push_back(limit);
    }

    const std::vector<Housing>& mains_;
    const TunnelPolicy& policy_;
    CentreLine given_;
    std::optional<HoneLine> followed_;
    std::vector<Reach> reaches_;
    std::size_t left_out_ = 0;
};

} // namespace

double Housing::mean_x() const {
    double sum = 0;
    for (const Vec3 p : points)
        sum += p.x;
    return sum / static_cast<double>(points.size());
}

double stock_at(const TunnelPolicy& policy, double dz) {
    return std::abs(std::asin(dz)) < policy.stock_from.value_or(0) ? 0 : policy.stock;
}

double room_at(const Housing& main, Vec3 p, double cut, const CentreLine& line) {
    const double r = std::hypot(p.y, p.z), dy = p.y / r, dz = p.z / r;
    return main.target_diameter / 2 - r - (p.z < 0 ? cut * dz : 0) + dy * line.y(p.x) + dz * line.z(p.x);
}

TunnelPlan plan_hone(const std::vector<Housing>& mains, const TunnelPolicy& policy, const HoneLine& line) {
    return Planner(mains, policy, {}, line).plan();
}

TunnelPlan plan_tunnel(const std::vector<Housing>& mains, const TunnelPolicy& policy, const CentreLine& given_line) {
    return Planner(mains, policy, given_line).plan();
}

double least_slack(const std::vector<Housing>& mains, const TunnelPolicy& policy, const TunnelPlan& plan) {
    return Planner(mains, policy, {}).least_slack(plan);
}

std::vector<Housing> housings_of(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                 const TunnelPolicy& policy) {
    std::vector<Housing> housings;
    for (const block::MainBlueprint& main : blueprint.mains) {
        Housing h{main.id, {}, policy.target_diameter.value_or(main.diameter.middle())};
        for (const block::MainResult& section : evaluation.mains)
            if (section.id == main.id)
                h.points.insert(h.points.end(), section.surface.begin(), section.surface.end());
        if (!h.points.empty())
            housings.push_back(std::move(h));
    }
    return housings;
}

CentreLine given_line(const block::Evaluation& evaluation, GivenLine line) {
    if (line == GivenLine::datum || evaluation.mains.empty())
        return {};
    const auto mean = [&](const block::FeatureId& id) {
        Vec3 sum;
        double n = 0;
        for (const block::MainResult& m : evaluation.mains)
            if (m.id == id) {
                sum = sum + m.centre;
                ++n;
            }
        return (1 / n) * sum;
    };
    const Vec3 front = mean(evaluation.mains.front().id), rear = mean(evaluation.mains.back().id);
    const double yk = (rear.y - front.y) / (rear.x - front.x), zk = (rear.z - front.z) / (rear.x - front.x);
    return {front.y - yk * front.x, yk, front.z - zk * front.x, zk};
}

double roll_after(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                  const std::vector<Housing>& mains, const CentreLine& line) {
    if (blueprint.clocking != block::Clocking::cam || !evaluation.cam || mains.empty())
        return 0;
    double x = 0;
    for (const Housing& m : mains)
        x += m.mean_x() / static_cast<double>(mains.size());
    const block::CamResult& cam = *evaluation.cam;
    return -(line.y(x) * cam.z - line.z(x) * cam.y) / (cam.distance * cam.distance);
}

} // namespace pallix::planning
