// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice_block.h"

#include "block/frame.h"
#include "block/number_text.h"
#include "planning/common/place.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace pallix::workshop {
namespace {

using block::BankBlueprint;
using block::Blueprint;
using metrology::Vec2;
using metrology::Vec3;

/// Normal deviates that are the same on every machine: Box and Muller on the raw bits.
class Noise {
  public:
    Noise(std::uint64_t seed, double sigma) : bits_(seed), sigma_(sigma) {}
    double operator()() {
        constexpr double scale = 1.0 / 18446744073709551616.0; // 2^-64
        const double a = (static_cast<double>(bits_()) + 0.5) * scale;
        const double b = static_cast<double>(bits_()) * scale;
        return sigma_ * std::sqrt(-2 * std::log(a)) * std::cos(2 * std::numbers::pi * b);
    }

  private:
    std::mt19937_64 bits_;
    double sigma_;
};

/// How the block lies on the machine: a small skew and an offset, as no one clamps it dead true.
constexpr Vec3 clamp_offset{-31.4, 12.7, -8.3};
constexpr double clamp_skew = 0.0009; // rad, about machine z
constexpr double axis_y = 12.0, axis_z = -9.5;

class Prober {
  public:
    Prober(const PracticeBlock& block, const ProbeJob& job)
        : block_(block), b_(block.blueprint), job_(job), noise_(job.seed, job.noise) {}

    std::string text() {
        head();
        const std::string first = b_.banks.front().id;
        const double front = b_.mains.front().x, rear = b_.mains.back().x;
        const double dowel_u = b_.origin_dowel ? b_.hole(*b_.origin_dowel)->u : 0;
        for (const auto& main : b_.mains) {
            const double bow = 4 * (main.x - front) * (rear - main.x) / ((rear - front) * (rear - front));
            const double radius = (main.diameter.middle() + block_.main_oversize) / 2;
            for (const double at : {-7.0, 7.0})
                ring(first, main.id.text(), at < 0 ? "front" : "rear", 8,
                     {main.x + at - dowel_u, block_.tunnel_side * bow, block_.tunnel_sag * bow}, radius, {0, 1, 0},
                     {0, 0, 1});
        }
        if (b_.cam)
            for (const auto& bearing : b_.cam->bearings)
                ring(first, bearing.id.text(), "", 6, {bearing.x - dowel_u, b_.cam->y, b_.cam->z},
                     bearing.diameter.nominal / 2 + 0.01, {0, 1, 0}, {0, 0, 1});
        if (b_.clocking == block::Clocking::panrail)
            probe_pan_rail(first, front - dowel_u, rear - dowel_u);
        for (const BankBlueprint& bank : b_.banks)
            probe_bank(bank, dowel_u);
        return std::move(out_);
    }

  private:
    void head() {
        line("# pallix-probe-log: 1");
        line("# unit: " + std::string(block::unit_name(job_.unit)));
        line(std::string("# kind: ") + (job_.tip_radius > 0 ? "tip" : "surface"));
        if (job_.tip_radius > 0)
            line("# tip_diameter: " + number(2 * job_.tip_radius));
        if (job_.stated_uncertainty > 0)
            line("# touch_uncertainty: " + number(job_.stated_uncertainty));
        line("# temperature_c: " + block::fixed_number(job_.temperature_c, 1));
        if (job_.rolled)
            for (const BankBlueprint& bank : b_.banks) {
                line("# setup." + bank.id +
                     ".rotation_deg: " + block::fixed_number(rotation(bank.id) / block::radians_per_degree, 4));
                line("# setup." + bank.id + ".axis_y: " + number(axis_y));
                line("# setup." + bank.id + ".axis_z: " + number(axis_z));
            }
        line("setup,feature,level,x,y,z");
    }

    void probe_pan_rail(const std::string& setup, double front, double rear) {
        constexpr double below = -62, half_width = 95; // mm, where the rails of the practice blocks lie
        for (const double y : {-half_width, half_width})
            for (int i = 0; i < 5; ++i)
                touch(setup, "panrail", "", {front + (rear - front) * i / 4, y, below + noise_() - job_.tip_radius});
    }

    void probe_bank(const BankBlueprint& bank, double dowel_u) {
        const block::BankAxes axes(bank.angle);
        const DeckTruth& truth = block_.decks.at(bank.id);
        const auto in_block = [&](Vec2 place, double w) {
            return (place.x - dowel_u) * axes.u + place.y * axes.v + w * axes.w;
        };
        for (const auto& dowel : b_.dowels)
            if (dowel.id.bank == bank.id)
                ring(bank.id, dowel.id.text(), "", 6, in_block({dowel.u, dowel.v}, bank.deck_height.nominal - 6),
                     dowel.diameter.nominal / 2 + 0.004, axes.u, axes.v);
        const std::string feature = "deck." + bank.id;
        for (const Vec2 place : deck_pattern(bank)) {
            const double w = bank.deck_height.nominal + truth.height(bank, place) + noise_();
            touch(bank.id, feature, "", in_block(place, w + job_.tip_radius));
        }
        if (!job_.holes)
            return;
        const double deck = bank.deck_height.nominal;
        for (const auto& bore : b_.bores)
            if (bore.id.bank == bank.id)
                probe_hole(bore, bank.id, axes, dowel_u,
                           {{"top", deck - 12}, {"middle", deck - 60}, {"bottom", deck - 115}});
        for (const auto& lifter : b_.lifters)
            if (lifter.id.bank == bank.id) {
                const double w = b_.cam->z * std::cos(*lifter.angle) + 62; // above the cam's lobes
                probe_hole(lifter, bank.id, block::BankAxes(*lifter.angle), dowel_u, {{"top", w}, {"bottom", w - 30}});
            }
    }

    using Levels = std::initializer_list<std::pair<const char*, double>>; ///< name and w, from the top down

    void probe_hole(const block::HoleBlueprint& hole, const std::string& setup, const block::BankAxes& axes,
                    double dowel_u, Levels levels) {
        const auto known = block_.holes.find(hole.id);
        const HoleTruth truth = known == block_.holes.end() ? HoleTruth{} : known->second;
        const double top = levels.begin()->second, depth = top - (levels.end() - 1)->second;
        for (const auto& [name, w] : levels) {
            const double s = depth > 0 ? (top - w) / depth : 0;
            const double diameter = hole.diameter.nominal + truth.oversize + truth.wear * 4 * s * (1 - s);
            const Vec2 at{hole.u - dowel_u + truth.offset.x + truth.lean.x * (w - top),
                          hole.v + truth.offset.y + truth.lean.y * (w - top)};
            oval_ring(setup, hole.id.text(), name, at.x * axes.u + at.y * axes.v + w * axes.w, diameter / 2,
                      truth.oval / 4, axes.u, axes.v);
        }
    }

    /// @param oval mm, on radius: more along `second`, less along `first`
    void oval_ring(const std::string& setup, const std::string& feature, const std::string& level, Vec3 centre,
                   double radius, double oval, Vec3 first, Vec3 second) {
        constexpr int count = 8;
        for (int i = 0; i < count; ++i) {
            const double angle = 2 * std::numbers::pi * (i + 0.25) / count;
            const double r = radius - oval * std::cos(2 * angle) + noise_() - job_.tip_radius;
            touch(setup, feature, level, centre + r * (std::cos(angle) * first + std::sin(angle) * second));
        }
    }

    /// A grid over the deck, less what falls into a bore or dowel hole.
    std::vector<Vec2> deck_pattern(const BankBlueprint& bank) const {
        const planning::DeckExtent e = planning::deck_extent(bank);
        constexpr double margin = 6;
        std::vector<Vec2> places;
        for (int i = 0; i < job_.points_along; ++i)
            for (int k = 0; k < job_.points_across; ++k) {
                const Vec2 p{e.low.x + margin + (e.length() - 2 * margin) * i / (job_.points_along - 1),
                             e.low.y + margin + (e.width() - 2 * margin) * k / (job_.points_across - 1)};
                if (!in_hole(bank, p, margin))
                    places.push_back(p);
            }
        return places;
    }

    bool in_hole(const BankBlueprint& bank, Vec2 p, double margin) const {
        const auto covers = [&](const block::HoleBlueprint& h) {
            return h.id.bank == bank.id && norm(p - Vec2{h.u, h.v}) < h.diameter.nominal / 2 + margin;
        };
        return std::ranges::any_of(b_.bores, covers) || std::ranges::any_of(b_.dowels, covers);
    }

    void ring(const std::string& setup, const std::string& feature, const std::string& level, int count, Vec3 centre,
              double radius, Vec3 first, Vec3 second) {
        for (int i = 0; i < count; ++i) {
            const double angle = 2 * std::numbers::pi * (i + 0.25) / count;
            const Vec3 out = std::cos(angle) * first + std::sin(angle) * second;
            touch(setup, feature, level, centre + (radius + noise_() - job_.tip_radius) * out);
        }
    }

    double rotation(const std::string& bank) const { return job_.rolled ? b_.bank(bank)->angle : 0; }

    void touch(const std::string& setup, const std::string& feature, const std::string& level, Vec3 p) {
        const double c = std::cos(clamp_skew), s = std::sin(clamp_skew);
        const Vec3 clamped = Vec3{c * p.x - s * p.y, s * p.x + c * p.y, p.z} + clamp_offset;
        const double turn = rotation(setup), y = clamped.y - axis_y, z = clamped.z - axis_z;
        const Vec3 seen = turn == 0 ? clamped
                                    : Vec3{clamped.x, axis_y + std::cos(turn) * y - std::sin(turn) * z,
                                           axis_z + std::sin(turn) * y + std::cos(turn) * z};
        line(setup + "," + feature + "," + level + "," + number(seen.x) + "," + number(seen.y) + "," + number(seen.z));
    }

    std::string number(double mm) const {
        return block::fixed_number(mm / block::mm_per(job_.unit), job_.unit == block::Unit::inch ? 6 : 4);
    }

    void line(const std::string& text) { out_ += text + "\n"; }

    const PracticeBlock& block_;
    const Blueprint& b_;
    const ProbeJob& job_;
    Noise noise_;
    std::string out_;
};

} // namespace

double DeckTruth::height(const BankBlueprint& bank, Vec2 place) const {
    const planning::DeckExtent e = planning::deck_extent(bank);
    const double s = (place.x - e.low.x) / e.length() - 0.5, t = (place.y - e.low.y) / e.width() - 0.5;
    double h =
        offset + rear_over_front * s + positive_over_negative * t + twist * 4 * s * t + crown * (0.25 - s * s) * 4;
    const double r = norm(place - dip) / dip_radius;
    h -= dip_depth * std::exp(-r * r);
    return cut_to ? std::min(h, *cut_to) : h;
}

std::string probe(const PracticeBlock& block, const ProbeJob& job) {
    return Prober(block, job).text();
}

} // namespace pallix::workshop
