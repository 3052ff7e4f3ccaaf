// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation.h"

#include <nlohmann/json.hpp>

namespace pallix::block {
namespace {

using Json = nlohmann::ordered_json;

/// Turns lengths into the unit asked for; slopes and angles stay as they are.
class Writer {
  public:
    explicit Writer(Unit unit) : unit_(unit) {}

    Json root(const Evaluation& e) const {
        Json j{{"format", "pallix-evaluation"}, {"version", 1}, {"unit", unit_name(unit_)}};
        j["tunnel"] = {{"straightness_lsq", length(e.tunnel.straightness_lsq)},
                       {"straightness_vertical_mz", length(e.tunnel.straightness_vertical_mz)},
                       {"straightness_lateral_mz", length(e.tunnel.straightness_lateral_mz)}};
        j["mains"] = list(e.mains, [this](const MainResult& m) { return main(m); });
        if (e.cam)
            j["cam"] = {{"y", length(e.cam->y)},
                        {"z", length(e.cam->z)},
                        {"distance", length(e.cam->distance)},
                        {"distance_error", length(e.cam->distance_error)},
                        {"parallelism", length(e.cam->parallelism)}};
        j["decks"] = list(e.decks, [this](const DeckResult& d) { return deck(d); });
        j["dowels"] = list(e.dowels, [this](const DowelResult& d) { return dowel(d); });
        return j;
    }

  private:
    double length(double mm) const { return mm / mm_per(unit_); }

    template <class T, class Write>
    static Json list(const std::vector<T>& items, Write write) {
        Json j = Json::array();
        for (const T& item : items)
            j.push_back(write(item));
        return j;
    }

    Json main(const MainResult& m) const {
        return {{"id", m.id.text()},
                {"level", m.level},
                {"x", length(m.centre.x)},
                {"y", length(m.centre.y)},
                {"z", length(m.centre.z)},
                {"diameter", length(m.diameter)},
                {"roundness_lsq", length(m.roundness_lsq)},
                {"roundness_mz", length(m.roundness_mz)}};
    }

    Json deck(const DeckResult& d) const {
        return {{"id", d.id.text()},
                {"points", d.points.size()},
                {"height_min", length(d.height_min)},
                {"height_max", length(d.height_max)},
                {"height_mean", length(d.height_mean)},
                {"flatness_lsq", length(d.flatness_lsq)},
                {"flatness_mz", length(d.flatness_mz)},
                {"slope_u", d.slope_u},
                {"tilt_v", d.tilt_v},
                {"angle_error_deg", d.angle_error() / radians_per_degree},
                {"cut_to_clean", length(d.cut_to_clean())},
                {"stock_to_nominal", length(d.stock_to_nominal())}};
    }

    Json dowel(const DowelResult& d) const {
        return {{"id", d.id.text()},  {"u", length(d.u)},  {"v", length(d.v)}, {"diameter", length(d.diameter)},
                {"du", length(d.du)}, {"dv", length(d.dv)}};
    }

    Unit unit_;
};

} // namespace

std::string evaluation_json(const Evaluation& evaluation, Unit unit) {
    return Writer(unit).root(evaluation).dump(2) + "\n";
}

} // namespace pallix::block
