// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/blueprint.h"
#include "block/fields.h"
#include "block/schema.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace pallix::block {
namespace {

/// Takes a document that the schema has passed; gathers what only the whole can tell.
class BlueprintReader {
  public:
    explicit BlueprintReader(const JsonDocument& document) : document_(document), root_(document.root) {}

    Result<Blueprint> read(std::string_view text) {
        Blueprint b;
        b.source = text;
        b.unit = *unit_from_name(root_.value("unit", "mm"));
        mm_ = mm_per(b.unit);
        b.name = root_.value("name", "");
        b.material = material();
        if (root_["datum"].contains("origin_dowel"))
            b.origin_dowel = *FeatureId::parse(root_["datum"]["origin_dowel"].get<std::string>());
        const std::string clocking = root_["datum"]["clocking"];
        b.clocking = clocking == "cam" ? Clocking::cam : clocking == "panrail" ? Clocking::panrail : Clocking::decks;
        read_list("banks", b.banks, [this](const Json& j, const std::string& at) { return bank(j, at); });
        read_list("mains", b.mains,
                  [this](const Json& j, const std::string& at) { return bearing(j, at, FeatureKind::main); });
        if (root_.contains("cam"))
            b.cam = cam(root_["cam"]);
        if (root_.contains("cam_drive"))
            b.cam_drive = cam_drive(root_["cam_drive"]);
        if (root_.contains("main_bearing"))
            b.main_bearing = MainBearing{length(root_["main_bearing"], "main_bearing", "shell"),
                                         length(root_["main_bearing"], "main_bearing", "journal")};
        read_list("dowels", b.dowels,
                  [this](const Json& j, const std::string& at) { return hole(j, at, FeatureKind::dowel); });
        read_list("bores", b.bores,
                  [this](const Json& j, const std::string& at) { return hole(j, at, FeatureKind::bore); });
        read_list("lifters", b.lifters,
                  [this](const Json& j, const std::string& at) { return hole(j, at, FeatureKind::lifter); });
        check_whole(b);
        for (auto* list : {&b.dowels, &b.bores, &b.lifters})
            assume_places(b, *list);
        assume_outlines(b);
        if (!faults_.empty()) {
            std::ranges::stable_sort(faults_, {}, &Fault::line);
            return tl::unexpected(std::move(faults_));
        }
        return b;
    }

  private:
    void fault(const std::string& at, std::string what, std::string expected) {
        faults_.push_back(document_.fault(at, std::move(what), std::move(expected)));
    }

    template <class T, class Read>
    void read_list(const char* key, std::vector<T>& into, Read read) {
        if (!root_.contains(key))
            return;
        for (std::size_t i = 0; i < root_[key].size(); ++i)
            into.push_back(read(root_[key][i], item_address(key, i)));
    }

    Material material() const {
        const std::string name = root_.value("material", "grey_iron");
        return name == "aluminium"        ? Material::aluminium
               : name == "compacted_iron" ? Material::compacted_iron
                                          : Material::grey_iron;
    }

    double length(const Json& j, const std::string& at) {
        const double mm = j.get<double>() * mm_;
        if (!any_length.holds(mm)) {
            fault(at, at + " is " + j.dump(), "a length within " + any_length.text() + " mm");
            return 0;
        }
        return mm;
    }
    /// @param at of the object that holds it
    double length(const Json& object, const std::string& at, const char* key) {
        return length(object[key], member_address(at, key));
    }

    Tolerance size(const Json& j, const std::string& at) {
        Tolerance t{length(j, at, "nominal")};
        if (j.contains("lower"))
            t.lower = length(j, at, "lower");
        if (j.contains("upper"))
            t.upper = length(j, at, "upper");
        if (t.whole() && *t.lower > *t.upper)
            fault(at, at + ".lower is " + j["lower"].dump() + " and greater than upper " + j["upper"].dump(),
                  "lower no greater than upper");
        return t;
    }

    FeatureId id(const Json& j, const std::string& at, FeatureKind kind) {
        const std::string text = j["id"];
        const auto id = FeatureId::parse(text);
        if (!id || id->kind != kind) {
            const std::string word = FeatureId{kind, "R", 1}.text();
            fault(member_address(at, "id"), at + ".id is \"" + text + "\"", "an id such as \"" + word + "\"");
            return {kind, {}, 0};
        }
        if (!ids_.insert(text).second)
            fault(member_address(at, "id"), at + ".id \"" + text + "\" stands twice", "each id once");
        return *id;
    }

    BankBlueprint bank(const Json& j, const std::string& at) {
        BankBlueprint b;
        b.id = j["id"];
        b.angle = j["angle_deg"].get<double>() * radians_per_degree;
        b.deck_height = size(j["deck_height"], member_address(at, "deck_height"));
        if (j.contains("deck_flatness"))
            b.deck_flatness = length(j, at, "deck_flatness");
        const Json outline = j.value("deck_outline", Json::array());
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const Json& corner = outline[i];
            const std::string here = item_address(member_address(at, "deck_outline"), i);
            b.deck_outline.push_back({length(corner[0], here), length(corner[1], here)});
        }
        if (!banks_.insert(b.id).second)
            fault(member_address(at, "id"), at + ".id \"" + b.id + "\" stands twice", "each bank once");
        b.outline_assumed = outline.empty();
        if (!b.outline_assumed && std::abs(area(b.deck_outline)) < 1.0)
            fault(member_address(at, "deck_outline"), at + ".deck_outline encloses no area",
                  "corners in order round the deck");
        return b;
    }

    static double area(const std::vector<metrology::Vec2>& outline) {
        double twice = 0;
        for (std::size_t i = 0; i < outline.size(); ++i)
            twice += metrology::cross(outline[i], outline[(i + 1) % outline.size()]);
        return twice / 2;
    }

    MainBlueprint bearing(const Json& j, const std::string& at, FeatureKind kind) {
        return {id(j, at, kind), length(j, at, "x"), size(j["diameter"], member_address(at, "diameter"))};
    }

    CamBlueprint cam(const Json& j) {
        CamBlueprint c{length(j, "cam", "y"), length(j, "cam", "z"), {}};
        if (j.contains("bearings"))
            for (std::size_t i = 0; i < j["bearings"].size(); ++i)
                c.bearings.push_back(bearing(j["bearings"][i], item_address("cam.bearings", i), FeatureKind::cam));
        if (std::hypot(c.y, c.z) == 0)
            fault("cam", "cam stands on the crankshaft axis (y and z are 0)", "a cam away from it");
        return c;
    }

    CamDrive cam_drive(const Json& j) {
        CamDrive d;
        if (j.contains("pressure_angle_deg")) {
            d.pressure_angle = j["pressure_angle_deg"].get<double>() * radians_per_degree;
        } else {
            d.teeth_crank = j["teeth_crank"].get<int>();
            d.teeth_cam = j["teeth_cam"].get<int>();
            d.pitch = length(j, "cam_drive", "pitch");
            if (j.contains("chain_length"))
                d.chain_length = length(j, "cam_drive", "chain_length");
        }
        return d;
    }

    HoleBlueprint hole(const Json& j, const std::string& at, FeatureKind kind) {
        HoleBlueprint h;
        h.id = id(j, at, kind);
        if (j.contains("cylinder"))
            h.cylinder = j["cylinder"].get<int>();
        if (j.contains("valve"))
            h.valve = j["valve"] == valve_keys[0] ? Valve::intake : Valve::exhaust;
        if (j.contains("angle_deg"))
            h.angle = j["angle_deg"].get<double>() * radians_per_degree;
        h.place_assumed = !j.contains("u") || j.value("place", "stated") == "assumed";
        if (j.contains("u")) {
            h.u = length(j, at, "u");
            h.v = length(j, at, "v");
        } else {
            unplaced_.insert(h.id);
        }
        h.diameter = size(j["diameter"], member_address(at, "diameter"));
        const std::string bank = j["bank"];
        if (!banks_.contains(bank))
            fault(member_address(at, "bank"), at + ".bank is \"" + bank + "\"", "one of the file's banks");
        else if (h.id.number > 0 && h.id.bank != bank)
            fault(member_address(at, "bank"), at + ".bank is \"" + bank + "\" and its id says \"" + h.id.bank + "\"",
                  "the same bank in both");
        return h;
    }

    void check_whole(const Blueprint& b) {
        if (b.origin_dowel && !b.hole(*b.origin_dowel))
            fault("datum.origin_dowel", "datum.origin_dowel \"" + b.origin_dowel->text() + "\" is not among the dowels",
                  "the id of a listed dowel");
        if (b.clocking == Clocking::cam && (!b.cam || b.cam->bearings.empty()))
            fault("datum.clocking", "datum.clocking is \"cam\" and the file lists no cam bearings",
                  "\"cam\" with its bearings, or another clocking");
        for (std::size_t i = 1; i < b.mains.size(); ++i)
            if (b.mains[i].x <= b.mains[i - 1].x || b.mains[i].id.number <= b.mains[i - 1].id.number)
                fault(item_address("mains", i),
                      b.mains[i].id.text() + " does not lie behind " + b.mains[i - 1].id.text(),
                      "mains in order from front to rear, x growing");
        for (std::size_t i = 0; i < b.lifters.size(); ++i)
            if (!b.lifters[i].angle)
                fault(item_address("lifters", i), b.lifters[i].id.text() + " has no \"angle_deg\"",
                      "the lifter's own angle");
    }

    /// Where nobody stated a place: evenly along the mains, each bank for itself.
    void assume_places(const Blueprint& b, std::vector<HoleBlueprint>& holes) const {
        const double front = b.mains.front().x, length = b.mains.back().x - front;
        for (const BankBlueprint& bank : b.banks) {
            const auto of_bank = [&](const HoleBlueprint& h) { return h.id.bank == bank.id; };
            const auto n = std::ranges::count_if(holes, of_bank);
            double before = 0.5;
            for (HoleBlueprint& hole : holes) {
                if (!of_bank(hole))
                    continue;
                if (unplaced_.contains(hole.id))
                    hole.u = front + length * before / static_cast<double>(n);
                before += 1;
            }
        }
    }

    /// Where nobody stated an outline: a box half a bore's radius round the bores, or as long as the mains lie apart.
    static void assume_outlines(Blueprint& b) {
        for (BankBlueprint& bank : b.banks) {
            if (!bank.outline_assumed)
                continue;
            metrology::Vec2 low{b.mains.front().x, -40}, high{b.mains.back().x, 40};
            bool first = true;
            for (const HoleBlueprint& bore : b.bores) {
                if (bore.id.bank != bank.id)
                    continue;
                const double reach = 0.75 * bore.diameter.nominal;
                const metrology::Vec2 l{bore.u - reach, bore.v - reach}, h{bore.u + reach, bore.v + reach};
                low = first ? l : metrology::Vec2{std::min(low.x, l.x), std::min(low.y, l.y)};
                high = first ? h : metrology::Vec2{std::max(high.x, h.x), std::max(high.y, h.y)};
                first = false;
            }
            bank.deck_outline = {low, {high.x, low.y}, high, {low.x, high.y}};
        }
    }

    const JsonDocument& document_;
    const Json& root_;
    double mm_ = 1;
    std::set<std::string> ids_;
    std::set<std::string> banks_;
    std::set<FeatureId> unplaced_; ///< holes that nobody stated a place of
    Faults faults_;
};

bool has(const std::vector<MainBlueprint>& bearings, const FeatureId& id) {
    return std::ranges::find(bearings, id, &MainBlueprint::id) != bearings.end();
}

} // namespace

const BankBlueprint* Blueprint::bank(std::string_view wanted) const {
    const auto found = std::ranges::find(banks, wanted, &BankBlueprint::id);
    return found == banks.end() ? nullptr : &*found;
}

const HoleBlueprint* Blueprint::hole(const FeatureId& id) const {
    const auto& list = id.kind == FeatureKind::dowel ? dowels : id.kind == FeatureKind::bore ? bores : lifters;
    const auto found = std::ranges::find(list, id, &HoleBlueprint::id);
    return found == list.end() ? nullptr : &*found;
}

bool Blueprint::lists(const FeatureId& id) const {
    switch (id.kind) {
    case FeatureKind::main:
        return has(mains, id);
    case FeatureKind::cam:
        return cam && has(cam->bearings, id);
    case FeatureKind::deck:
        return bank(id.bank) != nullptr;
    case FeatureKind::panrail:
        return true;
    default:
        return hole(id) != nullptr;
    }
}

Result<Blueprint> read_blueprint(std::string_view text, const std::string& file) {
    return read_document(text, file, blueprint_schema_text).and_then([&](const JsonDocument& document) {
        return BlueprintReader(document).read(text);
    });
}

} // namespace pallix::block
