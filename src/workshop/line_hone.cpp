// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/line_hone.h"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>

namespace pallix::workshop {
namespace {

using Eigen::Matrix4d;
using Eigen::Vector4d;
using planning::CentreLine;
using planning::Housing;

constexpr double lever = 100;          // mm: the slope counts by what it moves at that distance
constexpr int to_balance = 400;        // steps of Newton's method, damped and short: few places are pressed at first
constexpr double longest_step = 0.002; // mm
constexpr int sparking_out = 80;       // goes at the finished size, no more feed

class Mandrel {
  public:
    Mandrel(const LineHone& hone, const std::vector<Housing>& mains) {
        for (std::size_t m = 0; m < mains.size(); ++m) {
            const Housing& h = mains[m];
            for (std::size_t i = 0; i < h.points.size(); ++i) {
                const metrology::Vec3 p = h.points[i];
                const double r = std::hypot(p.y, p.z), y = p.y / r, z = p.z / r;
                const std::size_t end = 2 * m + (i < h.points.size() / 2 ? 0 : 1);
                places_.push_back({{y, y * p.x / lever, z, z * p.x / lever},
                                   r,
                                   r,
                                   h.target_diameter / 2,
                                   end < hone.sharpness.size() ? hone.sharpness[end] : 1});
            }
        }
    }

    void cut(const LineHone& hone) {
        double left = 0;
        for (const Place& p : places_)
            left = std::max(left, p.target - p.surface);
        for (; left > 0; left -= hone.feed)
            go(hone.bite, left);
        for (int i = 0; i < sparking_out; ++i)
            go(hone.bite, 0);
    }

    [[nodiscard]] CentreLine line() const { return {at_[0], at_[1] / lever, at_[2], at_[3] / lever}; }
    [[nodiscard]] double took(std::size_t i) const { return places_[i].surface - places_[i].found; }

  private:
    struct Place {
        Vector4d d; ///< how much of the line's place counts towards it
        double surface, found, target, sharp;
    };

    /// By how much a place stands into the stones, mm.
    [[nodiscard]] double pressed(const Place& p, double left) const {
        return std::max(0.0, p.target - left + p.d.dot(at_) - p.surface);
    }
    void go(double bite, double left) {
        for (int i = 0; i < to_balance; ++i) {
            Matrix4d stiffness = 1e-6 * Matrix4d::Identity();
            Vector4d force = Vector4d::Zero();
            for (const Place& p : places_)
                if (const double in = pressed(p, left); in > 0) {
                    force -= in * p.d;
                    stiffness += p.d * p.d.transpose();
                }
            Vector4d move = 0.7 * stiffness.ldlt().solve(force);
            move *= std::min(1.0, longest_step / std::max(move.cwiseAbs().maxCoeff(), longest_step));
            at_ += move;
            if (move.cwiseAbs().maxCoeff() < 1e-8)
                break;
        }
        for (Place& p : places_)
            p.surface += bite * p.sharp * pressed(p, left);
    }

    std::vector<Place> places_;
    Vector4d at_ = Vector4d::Zero();
};

} // namespace

HonedTunnel hone(const LineHone& hone, std::vector<Housing> mains) {
    Mandrel mandrel(hone, mains);
    mandrel.cut(hone);
    HonedTunnel honed{mandrel.line(), std::move(mains), {}};
    std::size_t i = 0;
    for (Housing& h : honed.mains) {
        std::vector<double>& took = honed.took.emplace_back();
        for (metrology::Vec3& p : h.points) {
            const double r = std::hypot(p.y, p.z);
            took.push_back(mandrel.took(i++));
            p.y += took.back() * p.y / r;
            p.z += took.back() * p.z / r;
        }
    }
    return honed;
}

} // namespace pallix::workshop
