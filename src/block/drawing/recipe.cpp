// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"

#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "block/reading_text.h"
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <sstream>

namespace pallix::block {
namespace {

using metrology::Vec2;

/// Draws, and gathers what is wrong with the figures.
class Draughtsman {
  public:
    Draughtsman(const Recipe& recipe, std::string file) : r_(recipe), file_(std::move(file)) {}

    tl::expected<Blueprint, std::vector<FigureFault>> draw() {
        for (const std::string& key : lacking(r_))
            fault(key, key + " is missing", words_of(key));
        b_.source = R"({"drawn_from":)" + write_recipe(r_) + "}";
        b_.unit = r_.unit;
        b_.name = text("name").value_or("engine");
        b_.material = static_cast<Material>(choice("material").value_or(0));
        b_.clocking = static_cast<Clocking>(choice("clocking").value_or(0));
        add_mains();
        add_cam();
        add_drive();
        add_banks();
        add_holes();
        change_single_ones();
        leave_out_what_is_assumed();
        look_for_strangers();
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        auto read = read_blueprint(write_blueprint(b_), file_); // what a file may not hold is not drawn either
        if (read)
            return std::move(*read);
        for (const Fault& f : read.error())
            faults_.push_back({"", f});
        return tl::unexpected(std::move(faults_));
    }

  private:
    // ---- figures ---------------------------------------------------------------------------------------------------

    void fault(const std::string& key, std::string what, std::string expected) {
        const auto line = r_.lines.find(key);
        faults_.push_back(
            {key, {file_, line == r_.lines.end() ? 0 : line->second, std::move(what), std::move(expected)}});
    }
    static std::string words_of(const std::string& key) {
        const auto& all = recipe_figures();
        const auto found = std::ranges::find(all, key, &RecipeFigure::key);
        return found == all.end() ? "a figure" : found->words;
    }
    std::optional<std::string> text(const std::string& key) const {
        const auto found = r_.figures.find(key);
        if (found == r_.figures.end() || trimmed(found->second).empty())
            return std::nullopt;
        return std::string(trimmed(found->second));
    }
    /// Reads one of them; a text that cannot be read is a fault and no figure.
    template <class Value, class Read>
    std::optional<Value> read(const std::string& key, Read how) {
        const auto typed = text(key);
        if (!typed)
            return std::nullopt;
        tl::expected<Value, std::string> value = how(*typed);
        if (value)
            return *value;
        fault(key, key + ": " + value.error(), words_of(key));
        return std::nullopt;
    }
    std::optional<double> length(const std::string& key) {
        return read<double>(key, [this](const std::string& t) { return read_length(t, r_.unit); });
    }
    double length(const std::string& key, double otherwise) { return length(key).value_or(otherwise); }
    std::optional<double> angle(const std::string& key) {
        return read<double>(key, [](const std::string& t) {
            return read_number(t, {"°", "deg"}).map([](double degrees) { return degrees * radians_per_degree; });
        });
    }
    std::optional<Tolerance> size(const std::string& key) {
        return read<Tolerance>(key, [this](const std::string& t) { return read_size(t, r_.unit); });
    }
    std::optional<std::size_t> choice(const std::string& key) {
        const auto& choices = std::ranges::find(recipe_figures(), key, &RecipeFigure::key)->choices;
        return read<std::size_t>(key, [&](const std::string& t) -> tl::expected<std::size_t, std::string> {
            const auto found = std::ranges::find(choices, t);
            std::string all;
            for (const std::string& c : choices)
                all += (all.empty() ? "" : ", ") + c;
            if (found == choices.end())
                return tl::unexpected("“" + t + "” is none of " + all);
            return static_cast<std::size_t>(found - choices.begin());
        });
    }
    std::optional<int> count(const std::string& key) {
        const double most = std::ranges::find(recipe_figures(), key, &RecipeFigure::key)->most;
        return read<int>(key, [&](const std::string& t) -> tl::expected<int, std::string> {
            const auto n = read_number(t);
            if (!n || *n != std::floor(*n) || *n < 0 || *n > most)
                return tl::unexpected("“" + t + "” is no count of at most " + short_number(most));
            return static_cast<int>(*n);
        });
    }
    /// Places along the crankshaft, with spaces between.
    std::optional<std::vector<double>> places(const std::string& key) {
        return read<std::vector<double>>(
            key, [this](const std::string& t) -> tl::expected<std::vector<double>, std::string> {
                std::vector<double> all;
                std::istringstream words(t);
                for (std::string word; words >> word;) {
                    if (word.ends_with(';'))
                        word.pop_back();
                    const auto mm = read_length(word, r_.unit);
                    if (!mm)
                        return tl::unexpected(mm.error());
                    all.push_back(*mm);
                }
                return all;
            });
    }

    // ---- the block -------------------------------------------------------------------------------------------------

    void add_mains() {
        cylinders_ = count("cylinders").value_or(0);
        pitch_ = length("pitch", 0);
        const double first = length("first_main", 0);
        const double apart = length("main_pitch", pitch_);
        std::vector<double> at;
        for (int i = 0; i < count("mains").value_or(cylinders_ + 1); ++i)
            at.push_back(first + i * apart);
        add_row(b_.mains, FeatureKind::main, places("main_at").value_or(at), size("main_size"));
        first_bore_ = length("first_bore", first + apart / 2);
    }

    static void add_row(std::vector<MainBlueprint>& row, FeatureKind kind, const std::vector<double>& at,
                        const std::optional<Tolerance>& size) {
        for (const double x : at)
            row.push_back({{kind, "", static_cast<int>(row.size()) + 1}, x, size.value_or(Tolerance{})});
    }

    void add_cam() {
        const auto distance = length("cam");
        if (!distance)
            return;
        const double side = angle("cam_side").value_or(0);
        b_.cam = CamBlueprint{*distance * std::sin(side), *distance * std::cos(side), {}};
        const auto bearings = size("cam_size");
        if (!bearings)
            return;
        std::vector<double> at;
        for (const MainBlueprint& main : b_.mains)
            at.push_back(main.x);
        add_row(b_.cam->bearings, FeatureKind::cam, places("cam_at").value_or(at), bearings);
    }

    void add_drive() {
        if (const auto gears = angle("pressure_angle"))
            b_.cam_drive = CamDrive{0, 0, 0, {}, *gears};
        else if (const auto pitch = length("chain_pitch"))
            b_.cam_drive = CamDrive{count("crank_teeth").value_or(0), count("cam_teeth").value_or(0), *pitch,
                                    length("chain_length"), 0};
        const auto shell = length("shell"), journal = length("journal");
        if (shell && journal)
            b_.main_bearing = MainBearing{*shell, *journal};
    }

    void add_banks() {
        const std::size_t layout = choice("layout").value_or(0);
        const double between = layout == 2 ? 180 * radians_per_degree : angle("angle").value_or(0);
        const auto height = size("deck_height");
        const auto flatness = length("deck_flatness");
        std::vector<std::string> ids = layout == 0 ? std::vector<std::string>{"C"} : std::vector<std::string>{"R", "L"};
        if (const auto called = text("banks")) {
            std::istringstream words(*called);
            std::vector<std::string> names{std::istream_iterator<std::string>(words), {}};
            if (names.size() != ids.size())
                fault("banks", "banks: “" + *called + "” names " + std::to_string(names.size()),
                      ids.size() == 1 ? "one name: C" : "two names: R L");
            else
                ids = std::move(names);
        }
        for (const std::string& id : ids) {
            BankBlueprint bank;
            bank.id = id;
            mirrored_ = ids.size() > 1 ? ids.back() : std::string();
            bank.angle = layout == 0 ? 0 : side_of(id) * between / 2;
            bank.deck_height = height.value_or(Tolerance{});
            bank.deck_flatness = flatness;
            add_outline(bank);
            b_.banks.push_back(std::move(bank));
        }
    }

    /// A mirrored bank has its across turned round.
    [[nodiscard]] double side_of(const std::string& bank) const { return bank == mirrored_ ? -1 : 1; }
    double behind(const std::string& bank) { return bank == mirrored_ ? length("stagger", 0) : 0; }

    /// An oblong with its corners cut, where how far it reaches beyond the outer bores and to either side is known.
    void add_outline(BankBlueprint& bank) {
        const auto ends = length("outline_ends"), side = length("outline_side");
        bank.outline_assumed = !ends || !side;
        if (bank.outline_assumed)
            return;
        const double cut = length("outline_corner", 0), first = first_bore_ + behind(bank.id);
        const double front = first - *ends, rear = first + (cylinders_ - 1) * pitch_ + *ends, out = *side;
        bank.deck_outline = {{front + cut, -out}, {rear - cut, -out}, {rear, -out + cut}, {rear, out - cut},
                             {rear - cut, out},   {front + cut, out}, {front, out - cut}, {front, -out + cut}};
        if (cut == 0)
            bank.deck_outline = {{front, -out}, {rear, -out}, {rear, out}, {front, out}};
    }

    void add_holes() {
        const auto bore = size("bore"), dowel = size("dowel_size"), lifter = size("lifter_size");
        const int dowels = count("dowels").value_or(0), lifters = count("lifters").value_or(0);
        const double across = length("dowel_across", 0), first = length("dowel_first", 0),
                     apart = length("dowel_apart", 0);
        for (const BankBlueprint& bank : b_.banks) {
            const double back = behind(bank.id), side = side_of(bank.id);
            for (int i = 0; i < cylinders_; ++i)
                b_.bores.push_back({{FeatureKind::bore, bank.id, i + 1},
                                    cylinder(bank.id, i),
                                    {},
                                    first_bore_ + back + i * pitch_,
                                    0,
                                    bore.value_or(Tolerance{})});
            for (int i = 0; dowel && i < dowels; ++i)
                b_.dowels.push_back(
                    {{FeatureKind::dowel, bank.id, i + 1}, {}, {}, first + back + i * apart, side * across, *dowel});
            if (lifter && lifters > 0)
                add_lifters(bank, lifters, *lifter);
        }
        if (const auto origin = text("origin"); origin && *origin != "none") {
            b_.origin_dowel = FeatureId::parse(*origin);
            if (!b_.origin_dowel || !b_.hole(*b_.origin_dowel))
                fault("origin", "origin: “" + *origin + "” is none of the dowels", words_of("origin"));
        } else if (!origin && !b_.dowels.empty()) {
            b_.origin_dowel = b_.dowels.front().id;
        }
    }

    /// In the plane through the cam, unless a sheet says how far off the crankshaft's plane they stand.
    void add_lifters(const BankBlueprint& bank, int each, const Tolerance& size) {
        const double side = side_of(bank.id), own = side * angle("lifter_angle").value_or(std::abs(bank.angle));
        const auto stated = length("lifter_across");
        const double across = stated   ? side * *stated
                              : b_.cam ? b_.cam->y * std::cos(own) - b_.cam->z * std::sin(own)
                                       : 0;
        const double apart = length("lifter_pitch", pitch_), pair = length("lifter_pair", 0),
                     first = length("lifter_first", first_bore_) + behind(bank.id);
        for (int i = 0; i < cylinders_ * each; ++i) {
            const int before = i / each;
            b_.lifters.push_back({{FeatureKind::lifter, bank.id, i + 1},
                                  {},
                                  own,
                                  first + before * apart + i % each * pair,
                                  across,
                                  size});
        }
    }

    /// The maker's number of a cylinder. @param i from the front of its bank, from 0
    std::optional<int> cylinder(const std::string& bank, int i) {
        if (choice("numbering") == 2)
            return std::nullopt;
        const std::size_t one = choice("number_one").value_or(0); // front right, front left, rear right, rear left
        const int k = one >= 2 ? cylinders_ - 1 - i : i;
        if (b_.banks.size() == 1)
            return k + 1;
        const bool leads = (bank != mirrored_) == (one % 2 == 0);
        return choice("numbering").value_or(0) == 0 ? 2 * k + (leads ? 1 : 2) : k + 1 + (leads ? 0 : cylinders_);
    }

    void change_single_ones() {
        for (const auto& [key, typed] : r_.figures) {
            const auto slash = key.find('/');
            if (slash == std::string::npos)
                continue;
            const auto id = FeatureId::parse(key.substr(0, slash));
            if (!id || !change(*id, key.substr(slash + 1), key))
                fault(key, key + " is no figure of this block", "an irregular one such as bore.R.2/along");
        }
    }

    /// @return whether there is such a figure
    bool change(const FeatureId& id, const std::string& what, const std::string& key) {
        const auto set = [&](double& into) {
            if (const auto mm = length(key))
                into = *mm;
            return true;
        };
        const auto set_size = [&](Tolerance& into) {
            if (const auto t = size(key))
                into = *t;
            return true;
        };
        if (id.kind == FeatureKind::deck)
            return change_deck(id.bank, what, key);
        if (id.kind == FeatureKind::main || id.kind == FeatureKind::cam) {
            if (id.kind == FeatureKind::cam && !b_.cam)
                return false;
            auto& row = id.kind == FeatureKind::main ? b_.mains : b_.cam->bearings;
            const auto bearing = std::ranges::find(row, id, &MainBlueprint::id);
            return bearing != row.end() && (what == "along"  ? set(bearing->x)
                                            : what == "size" ? set_size(bearing->diameter)
                                                             : false);
        }
        auto& list = id.kind == FeatureKind::dowel ? b_.dowels : id.kind == FeatureKind::bore ? b_.bores : b_.lifters;
        const auto hole = std::ranges::find(list, id, &HoleBlueprint::id);
        if (hole == list.end())
            return false;
        if (what == "absent") {
            if (text(key) == "yes")
                absent_.push_back(id);
            return true;
        }
        if (what == "angle" && id.kind == FeatureKind::lifter) {
            hole->angle = angle(key);
            return true;
        }
        if (what == "valve" && id.kind == FeatureKind::lifter) {
            const auto known = std::ranges::find(valve_keys, r_.figures.at(key));
            if (known == valve_keys.end())
                fault(key, key + ": “" + r_.figures.at(key) + "” is no valve", "intake or exhaust");
            else
                hole->valve = static_cast<Valve>(known - valve_keys.begin());
            return true;
        }
        if (what == "cylinder" && id.kind != FeatureKind::dowel) {
            const auto number = read_number(r_.figures.at(key));
            if (number && *number >= 1 && *number <= 1000 && *number == std::floor(*number))
                hole->cylinder = static_cast<int>(*number);
            else
                fault(key, key + ": “" + r_.figures.at(key) + "” is no number of a cylinder", "1 to 1000");
            return true;
        }
        return what == "along"    ? set(hole->u)
               : what == "across" ? set(hole->v)
               : what == "size"   ? set_size(hole->diameter)
                                  : false;
    }

    bool change_deck(const std::string& id, const std::string& what, const std::string& key) {
        const auto bank = std::ranges::find(b_.banks, id, &BankBlueprint::id);
        if (bank == b_.banks.end())
            return false;
        if (what == "height") {
            bank->deck_height = size(key).value_or(bank->deck_height);
        } else if (what == "flatness") {
            bank->deck_flatness = length(key);
        } else if (what == "angle") {
            bank->angle = angle(key).value_or(bank->angle);
        } else if (what == "outline") {
            const auto all = places(key);
            if (all && (all->size() < 6 || all->size() % 2 != 0))
                fault(key, key + " holds " + std::to_string(all->size()) + " numbers",
                      "along and across of each corner in order, three corners or more");
            else if (all) {
                bank->deck_outline.clear();
                for (std::size_t i = 0; i + 1 < all->size(); i += 2)
                    bank->deck_outline.push_back({(*all)[i], (*all)[i + 1]});
                bank->outline_assumed = false;
            }
        } else {
            return false;
        }
        return true;
    }

    /// What only the drawing needs is judged by nobody: sizes lose their limits, holes their place.
    void leave_out_what_is_assumed() {
        for (const FeatureId& id : absent_)
            for (auto* list : {&b_.dowels, &b_.bores, &b_.lifters})
                std::erase_if(*list, [&](const HoleBlueprint& h) { return h.id == id; });
        const auto assumed = [&](const std::string& id, const char* what, std::initializer_list<const char*> figures) {
            const std::string own = id + "/" + what;
            return text(own) ? r_.assumed(own)
                             : std::ranges::any_of(figures, [&](const char* key) { return r_.assumed(key); });
        };
        const auto bare = [&](const std::string& id, const char* what, const char* figure, Tolerance& size) {
            if (assumed(id, what, {figure}))
                size.lower = size.upper = std::nullopt;
        };
        for (BankBlueprint& bank : b_.banks) {
            const std::string deck = FeatureId{FeatureKind::deck, bank.id, 0}.text();
            bare(deck, "height", "deck_height", bank.deck_height);
            if (assumed(deck, "flatness", {"deck_flatness"}))
                bank.deck_flatness.reset();
        }
        for (MainBlueprint& main : b_.mains)
            bare(main.id.text(), "size", "main_size", main.diameter);
        if (b_.cam)
            for (MainBlueprint& bearing : b_.cam->bearings)
                bare(bearing.id.text(), "size", "cam_size", bearing.diameter);
        const auto holes = [&](std::vector<HoleBlueprint>& list, const char* size,
                               std::initializer_list<const char*> along, std::initializer_list<const char*> across) {
            for (HoleBlueprint& hole : list) {
                const std::string id = hole.id.text();
                bare(id, "size", size, hole.diameter);
                hole.place_assumed = assumed(id, "along", along) || assumed(id, "across", across);
            }
        };
        holes(b_.bores, "bore", {"pitch", "first_bore", "stagger"}, {});
        holes(b_.dowels, "dowel_size", {"dowel_first", "dowel_apart", "stagger"}, {"dowel_across"});
        holes(b_.lifters, "lifter_size",
              {"lifter_first", "lifter_pitch", "lifter_pair", "pitch", "first_bore", "stagger"},
              {"lifter_across", "lifter_angle", "cam"});
    }

    void look_for_strangers() {
        for (const auto& [key, typed] : r_.figures)
            if (key.find('/') == std::string::npos &&
                std::ranges::find(recipe_figures(), key, &RecipeFigure::key) == recipe_figures().end())
                fault(key, "“" + key + "” is no figure of a recipe", "one of those in docs/formats.md");
    }

    const Recipe& r_;
    std::string file_;
    Blueprint b_;
    int cylinders_ = 0;
    double pitch_ = 0, first_bore_ = 0; // mm
    std::string mirrored_;              // the bank whose across is turned round; empty of one bank
    std::vector<FeatureId> absent_;
    std::vector<FigureFault> faults_;
};

} // namespace

tl::expected<Blueprint, std::vector<FigureFault>> draw_figures(const Recipe& recipe, const std::string& file) {
    return Draughtsman(recipe, file).draw();
}

Result<Blueprint> draw(const Recipe& recipe, const std::string& file) {
    return draw_figures(recipe, file).map_error([](const std::vector<FigureFault>& wrong) {
        Faults faults;
        for (const FigureFault& f : wrong)
            faults.push_back(f.fault);
        return faults;
    });
}

} // namespace pallix::block
