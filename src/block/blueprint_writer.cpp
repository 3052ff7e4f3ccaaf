// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/blueprint.h"
#include "block/schema.h"

#include <algorithm>
#include <cmath>

namespace pallix::block {
namespace {

/// Lays today's values over the document the blueprint came from.
class BlueprintWriter {
  public:
    explicit BlueprintWriter(const Blueprint& b) : b_(b), mm_(mm_per(b.unit)) {}

    std::string text() {
        Json root = b_.source.empty() ? Json::object() : Json::parse(b_.source);
        root["format"] = "pallix-blueprint";
        root["version"] = 1;
        set_text(root, "unit", std::string(unit_name(b_.unit)), "mm");
        set_text(root, "name", b_.name, "");
        set_text(root, "material", material(), "grey_iron");
        if (b_.origin_dowel)
            root["datum"]["origin_dowel"] = b_.origin_dowel->text();
        else if (root.contains("datum"))
            root["datum"].erase("origin_dowel");
        root["datum"]["clocking"] = clocking();
        set_list(root, "banks", b_.banks, [this](Json& j, const BankBlueprint& bank) { set_bank(j, bank); });
        set_list(root, "mains", b_.mains, [this](Json& j, const MainBlueprint& main) { set_bearing(j, main); });
        if (b_.cam) {
            set_length(root["cam"], "y", b_.cam->y);
            set_length(root["cam"], "z", b_.cam->z);
            set_list(root["cam"], "bearings", b_.cam->bearings,
                     [this](Json& j, const MainBlueprint& m) { set_bearing(j, m); });
        } else {
            root.erase("cam");
        }
        set_drive(root);
        const auto hole = [this](Json& j, const HoleBlueprint& h) { set_hole(j, h); };
        set_list(root, "dowels", b_.dowels, hole);
        set_list(root, "bores", b_.bores, hole);
        set_list(root, "lifters", b_.lifters, hole);
        return root.dump(1) + "\n";
    }

  private:
    static void set_text(Json& j, const char* key, const std::string& value, const std::string& absent) {
        if (value != j.value(key, absent))
            j[key] = value;
    }

    /// A number that has not moved keeps the digits it was written with.
    static void set_number(Json& j, const char* key, double value) {
        if (j.contains(key) && std::abs(j[key].get<double>() - value) <= 1e-12 * (1 + std::abs(value)))
            return;
        j[key] = value;
    }

    void set_length(Json& j, const char* key, double mm) const { set_number(j, key, mm / mm_); }

    static std::string id_text(const std::string& id) { return id; }
    static std::string id_text(const FeatureId& id) { return id.text(); }

    /// Items are matched with the document's by id, so that their unknown keys stay with them.
    template <class T, class Set>
    static void set_list(Json& j, const char* key, const std::vector<T>& items, Set set) {
        if (items.empty() && !j.contains(key))
            return;
        const Json before = j.value(key, Json::array());
        Json after = Json::array();
        for (const T& item : items) {
            const std::string id = id_text(item.id);
            const auto old = std::ranges::find_if(before, [&](const Json& o) { return o.value("id", "") == id; });
            Json entry = old == before.end() ? Json{{"id", id}} : *old;
            set(entry, item);
            after.push_back(std::move(entry));
        }
        j[key] = std::move(after);
    }

    void set_size(Json& j, const char* key, const Tolerance& t) const {
        set_length(j[key], "nominal", t.nominal);
        const auto set = [&](const char* side, const std::optional<double>& mm) {
            if (mm)
                set_length(j[key], side, *mm);
            else
                j[key].erase(side);
        };
        set("lower", t.lower);
        set("upper", t.upper);
    }

    void set_bank(Json& j, const BankBlueprint& bank) const {
        set_number(j, "angle_deg", bank.angle / radians_per_degree);
        set_size(j, "deck_height", bank.deck_height);
        if (bank.deck_flatness)
            set_length(j, "deck_flatness", *bank.deck_flatness);
        else
            j.erase("deck_flatness");
        if (bank.outline_assumed) {
            j.erase("deck_outline");
            return;
        }
        Json outline = Json::array();
        for (std::size_t i = 0; i < bank.deck_outline.size(); ++i) {
            const bool had = j.contains("deck_outline") && i < j["deck_outline"].size();
            Json corner = had ? Json{{"u", j["deck_outline"][i][0]}, {"v", j["deck_outline"][i][1]}} : Json::object();
            set_length(corner, "u", bank.deck_outline[i].x);
            set_length(corner, "v", bank.deck_outline[i].y);
            outline.push_back(Json::array({corner["u"], corner["v"]}));
        }
        j["deck_outline"] = std::move(outline);
    }

    void set_bearing(Json& j, const MainBlueprint& main) const {
        set_length(j, "x", main.x);
        set_size(j, "diameter", main.diameter);
    }

    void set_hole(Json& j, const HoleBlueprint& h) const {
        j["bank"] = h.id.bank;
        if (h.cylinder)
            j["cylinder"] = *h.cylinder;
        if (h.valve)
            j["valve"] = valve_keys.at(static_cast<std::size_t>(*h.valve));
        if (h.angle)
            set_number(j, "angle_deg", *h.angle / radians_per_degree);
        set_length(j, "u", h.u);
        set_length(j, "v", h.v);
        set_text(j, "place", h.place_assumed ? "assumed" : "stated", "stated");
        set_size(j, "diameter", h.diameter);
    }

    void set_drive(Json& root) const {
        if (!b_.cam_drive) {
            root.erase("cam_drive");
        } else if (const CamDrive& d = *b_.cam_drive; d.pitch > 0) {
            Json& j = root["cam_drive"];
            j["teeth_crank"] = d.teeth_crank;
            j["teeth_cam"] = d.teeth_cam;
            set_length(j, "pitch", d.pitch);
            if (d.chain_length)
                set_length(j, "chain_length", *d.chain_length);
        } else {
            set_number(root["cam_drive"], "pressure_angle_deg", d.pressure_angle / radians_per_degree);
        }
        if (!b_.main_bearing)
            root.erase("main_bearing");
        else {
            set_length(root["main_bearing"], "shell", b_.main_bearing->shell);
            set_length(root["main_bearing"], "journal", b_.main_bearing->journal);
        }
    }

    const char* material() const {
        switch (b_.material) {
        case Material::aluminium:
            return "aluminium";
        case Material::compacted_iron:
            return "compacted_iron";
        case Material::grey_iron:
            break;
        }
        return "grey_iron";
    }

    const char* clocking() const {
        switch (b_.clocking) {
        case Clocking::panrail:
            return "panrail";
        case Clocking::decks:
            return "decks";
        case Clocking::cam:
            break;
        }
        return "cam";
    }

    const Blueprint& b_;
    double mm_;
};

} // namespace

std::string write_blueprint(const Blueprint& blueprint) {
    return BlueprintWriter(blueprint).text();
}

} // namespace pallix::block
