// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation_uncertainty.h"
#include "block/evaluation_values.h"
#include "block/json.h"

namespace pallix::block {
namespace {

/// Turns lengths into the unit asked for; slopes and angles stay as they are.
class EvaluationWriter {
  public:
    EvaluationWriter(Unit unit, const Uncertainties* uncertainties) : unit_(unit), uncertainties_(uncertainties) {}

    Json root(const Evaluation& e) const {
        Json j{{"format", "pallix-evaluation"}, {"version", 1}, {"unit", unit_name(unit_)}};
        if (uncertainties_)
            j["touch_uncertainty"] = {{"value", uncertainties_->touch.value / mm_per(unit_)},
                                      {"source", uncertainties_->touch.stated ? "stated" : "scatter"}};
        j["tunnel"] = object(e.tunnel, {"tunnel"}, Json::object());
        j["mains"] = list("mains", e.mains, [](const MainResult& m) {
            return Json{{"id", m.id.text()}, {"level", m.level}};
        });
        if (e.cam)
            j["cam"] = object(*e.cam, {"cam"}, Json::object());
        j["decks"] = list("decks", e.decks, [](const DeckResult& d) {
            return Json{{"id", d.id.text()}, {"points", d.points.size()}};
        });
        j["dowels"] = list("dowels", e.dowels, [](const DowelResult& d) { return Json{{"id", d.id.text()}}; });
        j["bores"] = holes("bores", e.bores);
        j["lifters"] = holes("lifters", e.lifters);
        return j;
    }

  private:
    double shown(double value, Dimension dimension) const {
        return dimension == Dimension::length ? value / mm_per(unit_) : value;
    }

    /// Adds an object's values, and their uncertainties, to what names it.
    template <class T>
    Json object(const T& item, const ValuePlace& place, Json j) const {
        Json sure = Json::object(), without_noise = Json::object();
        each_field(item, [&](const Field& field) {
            const std::string key(field.key);
            j[key] = shown(field.value, field.dimension);
            if (!uncertainties_)
                return;
            if (const auto u = uncertainties_->of(place.address(field.key)))
                sure[key] = shown(*u, field.dimension);
            if (const auto value = uncertainties_->without_noise(place.address(field.key)))
                without_noise[key] = shown(*value, field.dimension);
        });
        if (!sure.empty())
            j["uncertainty"] = sure;
        if (!without_noise.empty())
            j["without_noise"] = without_noise;
        return j;
    }

    template <class T, class Name>
    Json list(std::string_view name, const std::vector<T>& items, Name named) const {
        Json j = Json::array();
        for (std::size_t i = 0; i < items.size(); ++i)
            j.push_back(object(items[i], {name, i}, named(items[i])));
        return j;
    }

    Json holes(std::string_view name, const std::vector<HoleResult>& items) const {
        Json j = list(name, items, [](const HoleResult& h) {
            Json named{{"id", h.id.text()}};
            if (h.cylinder)
                named["cylinder"] = *h.cylinder;
            return named;
        });
        for (std::size_t i = 0; i < items.size(); ++i) {
            Json levels = Json::array();
            for (std::size_t k = 0; k < items[i].levels.size(); ++k)
                levels.push_back(object(items[i].levels[k], {name, i, static_cast<int>(k)},
                                        Json{{"level", items[i].levels[k].level}}));
            j[i]["levels"] = std::move(levels);
        }
        return j;
    }

    Unit unit_;
    const Uncertainties* uncertainties_;
};

} // namespace

std::string evaluation_json(const Evaluation& evaluation, Unit unit, const Uncertainties* uncertainties) {
    return EvaluationWriter(unit, uncertainties).root(evaluation).dump(2) + "\n";
}

} // namespace pallix::block
