// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/frame.h"
#include "block/number_text.h"
#include "planning/common/place.h"
#include "planning/decks/deck_map.h"
#include "workshop/simulated_block.h"

#include <cmath>
#include <numbers>

namespace pallix::workshop {
namespace {

using block::FeatureId;
using metrology::Vec2;
using metrology::Vec3;

constexpr int touches = 8; // of a section

/// The log as it grows: one set-up, in the frame that the block was found in.
class Log {
  public:
    Log(double scatter, metrology::Deviates& draw) : scatter_(scatter), draw_(draw) {
        text_ = "# pallix-probe-log: 1\n# unit: mm\n# kind: surface\n# touch_uncertainty: " +
                block::fixed_number(scatter, 4) + "\nsetup,feature,level,x,y,z\n";
    }
    /// @param out unit vector, away from the metal's inside: how it scatters
    void touch(const std::string& feature, const std::string& level, Vec3 at, Vec3 out) {
        const Vec3 p = at + scatter_ * draw_.normal() * out;
        text_ += "A," + feature + "," + level;
        for (const double c : {p.x, p.y, p.z})
            text_ += "," + block::fixed_number(c, 4);
        text_ += "\n";
    }
    /// @param radius by angle from `first` towards `second`
    template <class Radius>
    void ring(const std::string& feature, const std::string& level, Vec3 centre, Vec3 first, Vec3 second,
              Radius radius) {
        for (int i = 0; i < touches; ++i) {
            const double angle = 2 * std::numbers::pi * (i + 0.25) / touches;
            const Vec3 out = std::cos(angle) * first + std::sin(angle) * second;
            touch(feature, level, centre + radius(angle) * out, out);
        }
    }
    std::string take() { return std::move(text_); }

  private:
    double scatter_;
    metrology::Deviates& draw_;
    std::string text_;
};

} // namespace

std::string SimulatedBlock::probe(double scatter, metrology::Deviates& draw) const {
    Log log(scatter, draw);
    const double dowel_u = blueprint_.origin_dowel ? hole(*blueprint_.origin_dowel).u : 0;
    for (const Housing& main : mains_) {
        const std::size_t each = main.points.size() / 2 / touches;
        for (std::size_t i = 1; i < main.points.size(); i += each) { // not on the parting line
            const Vec3 p = main.points[i];
            const double r = std::hypot(p.y, p.z);
            log.touch(main.id.text(), i < main.points.size() / 2 ? "front" : "rear", {p.x - dowel_u, p.y, p.z},
                      {0, p.y / r, p.z / r});
        }
    }
    const auto probe_hole = [&](const block::HoleBlueprint& meant, const block::BankAxes& axes, const char* level,
                                double w) {
        const BoreTruth& b = bores_.at(meant.id);
        const Vec2 at{meant.u - dowel_u + b.off.x, meant.v + b.off.y};
        log.ring(meant.id.text(), level, at.x * axes.u + at.y * axes.v + w * axes.w, axes.u, axes.v,
                 [&](double angle) { return (b.along(level) + b.oval * std::sin(angle) * std::sin(angle)) / 2; });
    };
    if (blueprint_.cam)
        for (const auto& bearing : blueprint_.cam->bearings)
            log.ring(bearing.id.text(), "", {bearing.x - dowel_u, blueprint_.cam->y, blueprint_.cam->z}, {0, 1, 0},
                     {0, 0, 1}, [&](double) { return bearing.diameter.nominal / 2 + 0.01; });
    for (const double y : {-95.0, 95.0}) // the rails of the invented blocks
        for (const block::MainBlueprint& main : blueprint_.mains)
            if (blueprint_.clocking == block::Clocking::panrail)
                log.touch("panrail", "", {main.x - dowel_u, y, -62}, {0, 0, -1});
    for (const block::BankBlueprint& bank : blueprint_.banks) {
        const block::BankAxes axes(bank.angle);
        const double deck = bank.deck_height.nominal;
        for (const auto& dowel : blueprint_.dowels)
            if (dowel.id.bank == bank.id)
                log.ring(dowel.id.text(), "", (dowel.u - dowel_u) * axes.u + dowel.v * axes.v + (deck - 6) * axes.w,
                         axes.u, axes.v, [&](double) { return dowel.diameter.nominal / 2 + 0.004; });
        const Deck& is = decks_.at(bank.id);
        constexpr int along = 10, across = 5;
        constexpr double margin = 6;
        const planning::DeckExtent e = planning::deck_extent(bank);
        for (int i = 0; i < along; ++i)
            for (int k = 0; k < across; ++k) {
                const Vec2 p{e.low.x + margin + (e.length() - 2 * margin) * i / (along - 1),
                             e.low.y + margin + (e.width() - 2 * margin) * k / (across - 1)};
                if (!planning::on_metal(blueprint_, bank, p))
                    continue;
                const double w = deck + is.left_at(p, is.form.height(bank, p), e);
                log.touch("deck." + bank.id, "", (p.x - dowel_u) * axes.u + p.y * axes.v + w * axes.w, axes.w);
            }
        for (const auto& bore : blueprint_.bores)
            if (bore.id.bank == bank.id)
                for (const auto& [level, below] : {std::pair{"top", 12.0}, {"middle", 60.0}, {"bottom", 115.0}})
                    probe_hole(bore, axes, level, deck - below);
        for (const auto& lifter : blueprint_.lifters)
            if (lifter.id.bank == bank.id) {
                const double w = blueprint_.cam->z * std::cos(*lifter.angle) + 62; // above the cam's lobes
                for (const auto& [level, below] : {std::pair{"top", 0.0}, {"bottom", 30.0}})
                    probe_hole(lifter, block::BankAxes(*lifter.angle), level, w - below);
            }
    }
    return log.take();
}

} // namespace pallix::workshop
