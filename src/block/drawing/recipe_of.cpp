// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "block/schema.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace pallix::block {
namespace {

constexpr double same = 1e-9; // mm

bool alike(double a, double b) {
    return std::abs(a - b) <= same;
}
bool alike(const std::optional<double>& a, const std::optional<double>& b) {
    return a.has_value() == b.has_value() && (!a || alike(*a, *b));
}
bool alike(const Tolerance& a, const Tolerance& b) {
    return alike(a.nominal, b.nominal) && alike(a.lower, b.lower) && alike(a.upper, b.upper);
}
bool alike(const std::vector<metrology::Vec2>& a, const std::vector<metrology::Vec2>& b) {
    return std::ranges::equal(a, b, [](auto p, auto q) { return alike(p.x, q.x) && alike(p.y, q.y); });
}

/// Takes a blueprint's regular figures down, draws them, and names hole by hole what is otherwise.
class Surveyor {
  public:
    explicit Surveyor(const Blueprint& b) : b_(b), mm_(mm_per(b.unit)) { r_.unit = b.unit; }

    Result<Recipe> run() {
        if (b_.banks.size() > 2)
            return refused("the blueprint has " + std::to_string(b_.banks.size()) + " banks", "one or two");
        for (std::size_t i = 0; i < b_.mains.size(); ++i)
            if (b_.mains[i].id.number != static_cast<int>(i) + 1)
                return refused(b_.mains[i].id.text() + " is main " + std::to_string(i + 1) + " from the front",
                               "mains numbered from 1 without a gap");
        take_down();
        number_cylinders();
        for (int round = 0; round < 2; ++round) { // one hole may be drawn from another's figures
            const auto drawn = draw(r_, "recipe");
            if (!drawn)
                return tl::unexpected(drawn.error());
            if (!differ(*drawn))
                return r_;
        }
        const auto drawn = draw(r_, "recipe");
        if (!drawn || differ(*drawn))
            return refused("not every hole of the blueprint can be drawn",
                           "holes numbered from the front of each bank without a gap");
        return r_;
    }

  private:
    static Result<Recipe> refused(std::string what, std::string expected) {
        return tl::unexpected(Faults{{"blueprint", 0, std::move(what), std::move(expected)}});
    }
    /// Of what was written in inches the digits of inches.
    [[nodiscard]] std::string text(double mm) const {
        const double value = mm / mm_, rounded = std::round(value * 1e12) / 1e12;
        return short_number(rounded == 0 ? 0 : rounded);
    }
    static std::string degrees(double rad) {
        const double value = rad / radians_per_degree, rounded = std::round(value * 1e9) / 1e9;
        return short_number(std::abs(value - rounded) < 1e-12 * std::max(1.0, std::abs(value)) ? rounded : value);
    }
    [[nodiscard]] std::string text(const Tolerance& t) const { return size_text(t, b_.unit, 12); }
    void set(const std::string& key, std::string typed) { r_.figures[key] = std::move(typed); }
    void set_length(const std::string& key, double mm) {
        if (!alike(mm, 0))
            set(key, text(mm));
    }

    /// The size that most of them have.
    template <class Items>
    void set_size(const std::string& key, const Items& items) {
        std::map<std::string, int> seen;
        for (const auto& item : items)
            ++seen[text(item.diameter)];
        if (!seen.empty())
            set(key, std::ranges::max_element(seen, {}, [](const auto& s) { return s.second; })->first);
    }

    [[nodiscard]] std::vector<const HoleBlueprint*> of_bank(const std::vector<HoleBlueprint>& list,
                                                            std::size_t bank) const {
        std::vector<const HoleBlueprint*> found;
        for (const HoleBlueprint& h : list)
            if (bank < b_.banks.size() && h.id.bank == b_.banks[bank].id)
                found.push_back(&h);
        std::ranges::sort(found, {}, [](const HoleBlueprint* h) { return h->id.number; });
        return found;
    }
    [[nodiscard]] int most(const std::vector<HoleBlueprint>& list) const {
        int n = 0;
        for (const HoleBlueprint& h : list)
            n = std::max(n, h.id.number);
        return n;
    }
    static double middle_of(std::vector<double> values, double otherwise) {
        if (values.empty())
            return otherwise;
        const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
        std::ranges::nth_element(values, middle);
        return *middle;
    }
    /// From one to so many further on along, as most of them have it, so that an odd one stays the odd one.
    static double gap(const std::vector<const HoleBlueprint*>& row, std::size_t step, double otherwise = 0) {
        std::vector<double> gaps;
        for (std::size_t i = 0; i + step < row.size(); ++i)
            gaps.push_back(row[i + step]->u - row[i]->u);
        return middle_of(std::move(gaps), otherwise);
    }
    /// Where the first would be by most of them. @param each that stand together, `pair` apart
    static double first_of(const std::vector<const HoleBlueprint*>& row, double pitch, std::size_t each = 1,
                           double pair = 0) {
        std::vector<double> firsts;
        for (const HoleBlueprint* h : row) {
            const auto before = static_cast<std::size_t>(h->id.number - 1), groups = before / each;
            firsts.push_back(h->u - static_cast<double>(groups) * pitch - static_cast<double>(before % each) * pair);
        }
        return middle_of(std::move(firsts), 0);
    }

    void take_down() {
        static constexpr std::array materials{"grey_iron", "compacted_iron", "aluminium"};
        static constexpr std::array clockings{"cam", "panrail", "decks"};
        set("name", b_.name.empty() ? "engine" : b_.name);
        set("material", materials[static_cast<std::size_t>(b_.material)]);
        set("clocking", clockings[static_cast<std::size_t>(b_.clocking)]);
        const BankBlueprint& first = b_.banks.front();
        const double between = b_.banks.size() == 2 ? first.angle - b_.banks[1].angle : 0;
        const bool opposed = b_.banks.size() == 2 && alike(between, 180 * radians_per_degree);
        set("layout", b_.banks.size() == 1 ? "inline" : opposed ? "opposed" : "v");
        std::string names = first.id;
        if (b_.banks.size() == 2) {
            names += " " + b_.banks[1].id;
            if (!opposed)
                set("angle", degrees(between));
        }
        if (names != (b_.banks.size() == 1 ? "C" : "R L"))
            set("banks", names);
        set("deck_height", text(first.deck_height));
        if (first.deck_flatness)
            set("deck_flatness", text(*first.deck_flatness));
        const auto row = of_bank(b_.bores, 0), other = of_bank(b_.bores, 1);
        set("cylinders", std::to_string(most(b_.bores)));
        const double pitch = gap(row, 1, gap(other, 1, 100));
        set("pitch", text(pitch));
        set_size("bore", b_.bores);
        if (b_.bores.empty())
            set("bore", "100");
        if (!row.empty()) {
            set("first_bore", text(first_of(row, pitch)));
            if (!other.empty())
                set_length("stagger", first_of(other, pitch) - first_of(row, pitch));
        }
        take_mains();
        take_drive();
        take_lifters();
        take_dowels();
        take_outline(row);
    }

    void take_mains() {
        set("mains", std::to_string(b_.mains.size()));
        set_size("main_size", b_.mains);
        set("first_main", text(b_.mains.front().x));
        if (b_.mains.size() > 1)
            set("main_pitch", text(b_.mains[1].x - b_.mains[0].x));
        if (!b_.cam)
            return;
        set("cam", text(std::hypot(b_.cam->y, b_.cam->z)));
        if (b_.cam->y != 0)
            set("cam_side", short_number(std::atan2(b_.cam->y, b_.cam->z) / radians_per_degree));
        if (b_.cam->bearings.empty())
            return;
        set_size("cam_size", b_.cam->bearings);
        if (!std::ranges::equal(b_.mains, b_.cam->bearings,
                                [](const auto& m, const auto& c) { return alike(m.x, c.x); })) {
            std::string at;
            for (const MainBlueprint& bearing : b_.cam->bearings)
                at += (at.empty() ? "" : " ") + text(bearing.x);
            set("cam_at", at);
        }
    }

    void take_drive() {
        if (b_.cam_drive && b_.cam_drive->pitch > 0) {
            set("crank_teeth", std::to_string(b_.cam_drive->teeth_crank));
            set("cam_teeth", std::to_string(b_.cam_drive->teeth_cam));
            set("chain_pitch", text(b_.cam_drive->pitch));
            if (b_.cam_drive->chain_length)
                set("chain_length", text(*b_.cam_drive->chain_length));
        } else if (b_.cam_drive) {
            set("pressure_angle", degrees(b_.cam_drive->pressure_angle));
        }
        if (b_.main_bearing) {
            set("shell", text(b_.main_bearing->shell));
            set("journal", text(b_.main_bearing->journal));
        }
    }

    void take_lifters() {
        const int each_bank = most(b_.lifters), cylinders = std::max(1, most(b_.bores));
        if (each_bank == 0)
            return;
        const auto each = static_cast<std::size_t>((each_bank + cylinders - 1) / cylinders);
        set("lifters", std::to_string(each));
        set_size("lifter_size", b_.lifters);
        const auto row = of_bank(b_.lifters, 0);
        if (row.empty())
            return;
        set("lifter_angle", degrees(row.front()->angle.value_or(0)));
        std::vector<double> pairs;
        for (std::size_t i = 0; each > 1 && i + 1 < row.size(); i += each)
            pairs.push_back(row[i + 1]->u - row[i]->u);
        const double pitch = gap(row, each), pair = middle_of(pairs, 0);
        set("lifter_first", text(first_of(row, pitch, each, pair)));
        set("lifter_across", text(row.front()->v));
        set_length("lifter_pair", pair);
        if (each < row.size())
            set("lifter_pitch", text(pitch));
    }

    void take_dowels() {
        const int n = most(b_.dowels);
        if (n == 0)
            return;
        set("dowels", std::to_string(n));
        set_size("dowel_size", b_.dowels);
        const auto row = of_bank(b_.dowels, 0);
        if (!row.empty()) {
            set_length("dowel_first", row.front()->u);
            set_length("dowel_across", row.front()->v);
            set_length("dowel_apart", gap(row, 1));
        }
        if (!b_.origin_dowel)
            set("origin", "none");
        else if (*b_.origin_dowel != b_.dowels.front().id || row.empty() || b_.dowels.front().id != row.front()->id)
            set("origin", b_.origin_dowel->text());
    }

    /// As an oblong with cut corners where it is one; else it is drawn corner by corner.
    void take_outline(const std::vector<const HoleBlueprint*>& row) {
        const auto& outline = b_.banks.front().deck_outline;
        if (b_.banks.front().outline_assumed || row.empty() || (outline.size() != 8 && outline.size() != 4))
            return;
        const auto [low, high] = std::ranges::minmax(outline, {}, &metrology::Vec2::x);
        const auto side = std::ranges::max(outline, {}, &metrology::Vec2::y).y;
        set("outline_ends", text(row.front()->u - low.x));
        set("outline_side", text(side));
        if (outline.size() == 8)
            set("outline_corner", text(std::abs(outline[0].x - low.x)));
    }

    /// The school that most of the numbers follow.
    void number_cylinders() {
        int best = -1;
        const auto all = static_cast<int>(b_.bores.size());
        Recipe chosen = r_;
        for (const char* school : {"odd_even", "bank_after_bank"})
            for (const char* one : {"front_right", "front_left", "rear_right", "rear_left"}) {
                if (best == all)
                    break;
                set("numbering", school);
                set("number_one", one);
                const auto drawn = draw(r_, "recipe");
                if (!drawn)
                    continue;
                const auto fits = static_cast<int>(std::ranges::count_if(b_.bores, [&](const HoleBlueprint& bore) {
                    const auto* is = drawn->hole(bore.id);
                    return is && is->cylinder == bore.cylinder;
                }));
                if (fits > best) {
                    best = fits;
                    chosen = r_;
                }
            }
        r_ = std::move(chosen);
        if (best <= 0 && !b_.bores.empty()) {
            set("numbering", "free");
            r_.figures.erase("number_one");
        } else if (b_.banks.size() == 1) {
            r_.figures.erase("numbering"); // of one bank there is one school
        }
    }

    /// Names what is drawn otherwise than it is. @return whether anything is
    bool differ(const Blueprint& drawn) {
        bool any = false;
        const auto otherwise = [&](const std::string& key, std::string typed) {
            set(key, std::move(typed));
            any = true;
        };
        for (const BankBlueprint& bank : b_.banks) {
            const BankBlueprint* is = drawn.bank(bank.id);
            const std::string deck = FeatureId{FeatureKind::deck, bank.id, 0}.text();
            if (!is)
                return true;
            if (!alike(is->angle, bank.angle))
                otherwise(deck + "/angle", short_number(bank.angle / radians_per_degree));
            if (!alike(is->deck_height, bank.deck_height))
                otherwise(deck + "/height", text(bank.deck_height));
            if (!alike(is->deck_flatness, bank.deck_flatness))
                otherwise(deck + "/flatness", bank.deck_flatness ? text(*bank.deck_flatness) : "");
            if (!bank.outline_assumed && !alike(is->deck_outline, bank.deck_outline)) {
                std::string corners;
                for (const metrology::Vec2 corner : bank.deck_outline)
                    corners += (corners.empty() ? "" : "; ") + text(corner.x) + " " + text(corner.y);
                otherwise(deck + "/outline", corners);
            }
        }
        const auto bearings = [&](const std::vector<MainBlueprint>& meant, const std::vector<MainBlueprint>& is) {
            for (std::size_t i = 0; i < std::min(meant.size(), is.size()); ++i) {
                if (!alike(meant[i].x, is[i].x))
                    otherwise(meant[i].id.text() + "/along", text(meant[i].x));
                if (!alike(meant[i].diameter, is[i].diameter))
                    otherwise(meant[i].id.text() + "/size", text(meant[i].diameter));
            }
            any = any || meant.size() != is.size();
        };
        bearings(b_.mains, drawn.mains);
        if (b_.cam && drawn.cam)
            bearings(b_.cam->bearings, drawn.cam->bearings);
        for (const auto list : {&Blueprint::dowels, &Blueprint::bores, &Blueprint::lifters})
            any = holes_differ(b_.*list, drawn.*list) || any;
        return any;
    }

    bool holes_differ(const std::vector<HoleBlueprint>& meant, const std::vector<HoleBlueprint>& drawn) {
        bool any = false;
        const auto otherwise = [&](const FeatureId& id, const char* what, std::string typed) {
            set(id.text() + "/" + what, std::move(typed));
            any = true;
        };
        for (const HoleBlueprint& h : meant) {
            const auto is = std::ranges::find(drawn, h.id, &HoleBlueprint::id);
            if (is == drawn.end())
                return true;
            if (!alike(is->u, h.u))
                otherwise(h.id, "along", text(h.u));
            if (!alike(is->v, h.v))
                otherwise(h.id, "across", text(h.v));
            if (!alike(is->diameter, h.diameter))
                otherwise(h.id, "size", text(h.diameter));
            if (h.angle && !alike(is->angle, h.angle))
                otherwise(h.id, "angle", short_number(*h.angle / radians_per_degree));
            if (h.cylinder && is->cylinder != h.cylinder)
                otherwise(h.id, "cylinder", std::to_string(*h.cylinder));
            if (h.valve && is->valve != h.valve)
                otherwise(h.id, "valve", valve_keys.at(static_cast<std::size_t>(*h.valve)));
            if (h.place_assumed)
                for (const char* what : {"along", "across"})
                    if (const std::string key = h.id.text() + "/" + what; !r_.assumed(key)) {
                        otherwise(h.id, what, text(what[1] == 'l' ? h.u : h.v));
                        r_.origins[key].source = FigureSource::assumed;
                    }
        }
        for (const HoleBlueprint& h : drawn)
            if (std::ranges::find(meant, h.id, &HoleBlueprint::id) == meant.end())
                otherwise(h.id, "absent", "yes");
        return any;
    }

    const Blueprint& b_;
    double mm_;
    Recipe r_;
};

bool same_block(const Blueprint& a, const Blueprint& b) {
    const auto bare = [](Blueprint blueprint) {
        blueprint.source.clear();
        return Json::parse(write_blueprint(blueprint));
    };
    return bare(a) == bare(b);
}

} // namespace

Result<Recipe> recipe_of(const Blueprint& blueprint) {
    const Json root = Json::parse(blueprint.source, nullptr, false);
    if (root.is_object() && root.contains("drawn_from") && root["drawn_from"].is_object())
        if (auto recipe = read_recipe(root["drawn_from"].dump(), "recipe"))
            if (const auto drawn = draw(*recipe, "recipe"); drawn && same_block(*drawn, blueprint)) {
                recipe->lines.clear();
                return recipe;
            }
    return Surveyor(blueprint).run();
}

} // namespace pallix::block
