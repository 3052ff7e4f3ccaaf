// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"

#include <string>
#include <string_view>

namespace pallix::block {

enum class Dimension {
    length, ///< mm
    ratio,  ///< dimensionless
    degrees,
};

/// How a value follows from the touches.
enum class Follows {
    smoothly,  ///< nearly linear in touch errors: its uncertainty is propagated
    by_extreme ///< set by the outermost touches: its uncertainty comes from repeated draws
};

struct Field {
    std::string_view key; ///< as the JSON names it
    double value = 0;
    Dimension dimension = Dimension::length;
    Follows follows = Follows::smoothly;
};

// The values of each result by name: one table for the JSON, the uncertainties and everything else that goes through
// all of them. `take` is called with each Field in the order of the JSON.

template <class Take>
void each_field(const TunnelResult& t, Take&& take) {
    take(Field{"straightness_lsq", t.straightness_lsq, Dimension::length, Follows::by_extreme});
    take(Field{"straightness_vertical_mz", t.straightness_vertical_mz, Dimension::length, Follows::by_extreme});
    take(Field{"straightness_lateral_mz", t.straightness_lateral_mz, Dimension::length, Follows::by_extreme});
}

template <class Take>
void each_field(const MainResult& m, Take&& take) {
    take(Field{"x", m.centre.x});
    take(Field{"y", m.centre.y});
    take(Field{"z", m.centre.z});
    take(Field{"diameter", m.diameter});
    take(Field{"roundness_lsq", m.roundness_lsq, Dimension::length, Follows::by_extreme});
    take(Field{"roundness_mz", m.roundness_mz, Dimension::length, Follows::by_extreme});
}

template <class Take>
void each_field(const CamResult& c, Take&& take) {
    take(Field{"y", c.y});
    take(Field{"z", c.z});
    take(Field{"distance", c.distance});
    take(Field{"distance_error", c.distance_error});
    take(Field{"parallelism", c.parallelism, Dimension::length, Follows::by_extreme});
}

template <class Take>
void each_field(const DeckResult& d, Take&& take) {
    take(Field{"height_min", d.height_min, Dimension::length, Follows::by_extreme});
    take(Field{"height_max", d.height_max, Dimension::length, Follows::by_extreme});
    take(Field{"height_mean", d.height_mean});
    take(Field{"flatness_lsq", d.flatness_lsq, Dimension::length, Follows::by_extreme});
    take(Field{"flatness_mz", d.flatness_mz, Dimension::length, Follows::by_extreme});
    take(Field{"slope_u", d.slope_u, Dimension::ratio});
    take(Field{"tilt_v", d.tilt_v, Dimension::ratio});
    take(Field{"angle_error_deg", d.angle_error() / radians_per_degree, Dimension::degrees});
    take(Field{"cut_to_clean", d.cut_to_clean(), Dimension::length, Follows::by_extreme});
    take(Field{"stock_to_nominal", d.stock_to_nominal(), Dimension::length, Follows::by_extreme});
}

template <class Take>
void each_field(const DowelResult& d, Take&& take) {
    take(Field{"u", d.u});
    take(Field{"v", d.v});
    take(Field{"diameter", d.diameter});
    if (d.place_known) {
        take(Field{"du", d.du});
        take(Field{"dv", d.dv});
    }
}

template <class Take>
void each_field(const HoleLevel& l, Take&& take) {
    take(Field{"w", l.w});
    take(Field{"u", l.centre.x});
    take(Field{"v", l.centre.y});
    take(Field{"diameter", l.diameter});
    take(Field{"roundness_lsq", l.roundness_lsq, Dimension::length, Follows::by_extreme});
    take(Field{"roundness_mz", l.roundness_mz, Dimension::length, Follows::by_extreme});
}

/// Of the whole bore; its levels have fields of their own.
template <class Take>
void each_field(const HoleResult& h, Take&& take) {
    take(Field{"u", h.centre.x});
    take(Field{"v", h.centre.y});
    if (h.place_known) {
        take(Field{"du", h.error.x});
        take(Field{"dv", h.error.y});
    }
    if (h.from_dowel) {
        take(Field{"du_dowel", h.from_dowel->x});
        take(Field{"dv_dowel", h.from_dowel->y});
    }
    take(Field{"diameter", h.diameter()});
    take(Field{"taper", h.taper()});
    take(Field{"lean_u", h.lean.x, Dimension::ratio});
    take(Field{"lean_v", h.lean.y, Dimension::ratio});
    take(Field{"clean_free", h.clean_free, Dimension::length, Follows::by_extreme});
    take(Field{"clean_top", h.clean_top, Dimension::length, Follows::by_extreme});
    if (h.place_known)
        take(Field{"clean_blueprint", h.clean_blueprint, Dimension::length, Follows::by_extreme});
    if (h.v_cam)
        take(Field{"v_cam", *h.v_cam});
}

/// Where a value stands in an evaluation.
struct ValuePlace {
    std::string_view list; ///< "mains", "bores", …
    std::size_t item = 0;
    int level = -1; ///< of a bore; −1 for the bore itself

    /// "bores[2].levels[0].diameter"
    [[nodiscard]] std::string address(std::string_view key) const {
        std::string a(list);
        if (list != "tunnel" && list != "cam")
            a += "[" + std::to_string(item) + "]";
        if (level >= 0)
            a += ".levels[" + std::to_string(level) + "]";
        return a + "." + std::string(key);
    }
};

/// Goes through every value of an evaluation in the order of the JSON: take(ValuePlace, Field).
template <class Take>
void each_value(const Evaluation& e, Take&& take) {
    const auto all = [&take](const auto& object, const ValuePlace& place) {
        each_field(object, [&](const Field& field) { take(place, field); });
    };
    const auto holes = [&all](std::string_view list, const std::vector<HoleResult>& items) {
        for (std::size_t i = 0; i < items.size(); ++i) {
            all(items[i], {list, i});
            for (std::size_t k = 0; k < items[i].levels.size(); ++k)
                all(items[i].levels[k], {list, i, static_cast<int>(k)});
        }
    };
    all(e.tunnel, {"tunnel"});
    for (std::size_t i = 0; i < e.mains.size(); ++i)
        all(e.mains[i], {"mains", i});
    if (e.cam)
        all(*e.cam, {"cam"});
    for (std::size_t i = 0; i < e.decks.size(); ++i)
        all(e.decks[i], {"decks", i});
    for (std::size_t i = 0; i < e.dowels.size(); ++i)
        all(e.dowels[i], {"dowels", i});
    holes("bores", e.bores);
    holes("lifters", e.lifters);
}

} // namespace pallix::block
