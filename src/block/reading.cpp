// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger_json.h"

#include <array>
#include <cstdio>

namespace pallix::block {
namespace {

const std::array<const char*, quantities> quantity_names{"size",   "height", "saddle", "gap",        "sweep",
                                                         "piston", "slope",  "wall",   "temperature"};

} // namespace

std::string MeasuredAt::key() const {
    std::string k = feature.text() + " " + quantity_names[static_cast<std::size_t>(quantity)];
    for (const std::string* part : {&level, &direction})
        if (!part->empty())
            k += " " + *part;
    if (quantity == Quantity::height) {
        std::array<char, 64> at{};
        std::snprintf(at.data(), at.size(), " %.3f %.3f", place.x + 0.0, place.y + 0.0);
        k += at.data();
    }
    return k;
}

Json conditions_to_json(const Conditions& c) {
    Json j = Json::object();
    set_optional(j, "caps_torqued", c.caps_torqued);
    set_optional(j, "plate_on", c.plate_on);
    set_optional(j, "part_c", c.part_c);
    set_optional(j, "gauge_c", c.gauge_c);
    if (!c.fasteners.empty())
        j["fasteners"] = c.fasteners;
    return j;
}

Conditions conditions_from_json(const Json& j) {
    return {optional_from<bool>(j, "caps_torqued"), optional_from<bool>(j, "plate_on"), optional_from(j, "part_c"),
            optional_from(j, "gauge_c"), j.value("fasteners", "")};
}

Json reading_to_json(const Reading& r) {
    Json j{{"feature", r.at.feature.text()}, {"quantity", quantity_names[static_cast<std::size_t>(r.at.quantity)]}};
    if (!r.at.level.empty())
        j["level"] = r.at.level;
    if (!r.at.direction.empty())
        j["direction"] = r.at.direction;
    if (r.at.quantity == Quantity::height)
        j["place_mm"] = place_json(r.at.place);
    j["words"] = r.words;
    j["value"] = r.value;
    set_optional(j, "upper", r.upper);
    j["typed"] = r.typed;
    if (r.confirmed)
        j["confirmed"] = true;
    j["instrument"] = instrument_to_json(r.instrument);
    j["conditions"] = conditions_to_json(r.conditions);
    return j;
}

Reading reading_from_json(const Json& j) {
    Reading r;
    const std::string feature = j.at("feature");
    const auto id = FeatureId::parse(feature);
    if (!id)
        throw Json::other_error::create(501, "\"" + feature + "\" is no feature", &j);
    r.at.feature = *id;
    r.at.quantity = enum_from<Quantity>(j.at("quantity"), quantity_names);
    r.at.level = j.value("level", "");
    r.at.direction = j.value("direction", "");
    if (j.contains("place_mm"))
        r.at.place = place_from(j.at("place_mm"));
    r.words = j.at("words");
    r.value = j.at("value");
    r.upper = optional_from(j, "upper");
    r.typed = j.at("typed");
    r.confirmed = j.value("confirmed", false);
    r.instrument = instrument_from_json(j.at("instrument"));
    r.conditions = conditions_from_json(j.at("conditions"));
    return r;
}

} // namespace pallix::block
