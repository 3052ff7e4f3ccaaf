// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"

#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "block/reading_text.h"
#include "block/schema.h"
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>

namespace pallix::block {
namespace {

using metrology::Vec2;

/// Draws, and gathers what is wrong with the figures.
class Draughtsman {
  public:
    Draughtsman(const Recipe& recipe, std::string file) : r_(recipe), file_(std::move(file)) {}

    Result<Blueprint> draw() {
        for (const std::string& key : lacking(r_))
            fault(key, key + " is missing", words_of(key));
        b_.unit = r_.unit;
        b_.name = text("name").value_or("engine");
        b_.material = static_cast<Material>(choice("material").value_or(0));
        b_.clocking = static_cast<Clocking>(choice("clocking").value_or(0));
        add_mains();
        add_cam();
        add_banks();
        add_holes();
        change_single_ones();
        look_for_strangers();
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        return read_blueprint(write_blueprint(b_), file_); // what a file may not hold is not drawn either
    }

  private:
    // ---- figures ---------------------------------------------------------------------------------------------------

    void fault(const std::string& key, std::string what, std::string expected) {
        const auto line = r_.lines.find(key);
        faults_.push_back({file_, line == r_.lines.end() ? 0 : line->second, std::move(what), std::move(expected)});
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

    void add_banks() {
        const std::size_t layout = choice("layout").value_or(0);
        const double between = layout == 2 ? 180 * radians_per_degree : angle("angle").value_or(0);
        const auto height = size("deck_height");
        const auto flatness = length("deck_flatness");
        const std::vector<std::string> ids =
            layout == 0 ? std::vector<std::string>{"C"} : std::vector<std::string>{"R", "L"};
        for (const std::string& id : ids) {
            BankBlueprint bank;
            bank.id = id;
            bank.angle = layout == 0 ? 0 : side_of(id) * between / 2;
            bank.deck_height = height.value_or(Tolerance{});
            bank.deck_flatness = flatness;
            add_outline(bank);
            b_.banks.push_back(std::move(bank));
        }
    }

    /// A mirrored bank has its across turned round.
    static double side_of(const std::string& bank) { return bank == "L" ? -1 : 1; }
    double behind(const std::string& bank) { return bank == "L" ? length("stagger", 0) : 0; }

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
        if (const auto origin = text("origin")) {
            b_.origin_dowel = FeatureId::parse(*origin);
            if (!b_.origin_dowel || !b_.hole(*b_.origin_dowel))
                fault("origin", "origin: “" + *origin + "” is none of the dowels", words_of("origin"));
        } else if (!b_.dowels.empty()) {
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
    int cylinder(const std::string& bank, int i) {
        const std::size_t one = choice("number_one").value_or(0); // front right, front left, rear right, rear left
        const int k = one >= 2 ? cylinders_ - 1 - i : i;
        if (b_.banks.size() == 1)
            return k + 1;
        const bool leads = (bank == "R") == (one % 2 == 0);
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
        if (id.kind == FeatureKind::deck) {
            const auto bank = std::ranges::find(b_.banks, id.bank, &BankBlueprint::id);
            return bank != b_.banks.end() && what == "height" && set_size(bank->deck_height);
        }
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
        if (what == "cylinder" && id.kind == FeatureKind::bore) {
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
    Faults faults_;
};

} // namespace

const std::vector<RecipeFigure>& recipe_figures() {
    using enum RecipeKind;
    static const std::vector<RecipeFigure> all{
        {"name", "what the shop calls it", text},
        {"material", "grey iron, compacted iron or aluminium", choice, {"grey_iron", "compacted_iron", "aluminium"}},
        {"layout", "inline, V or opposed", choice, {"inline", "v", "opposed"}},
        {"angle", "angle between the banks, degrees", angle},
        {"cylinders", "cylinders in a bank", count, {}, 16},
        {"bore", "bore with its limits: 95 +0.02 0", size},
        {"pitch", "from one bore to the next", length},
        {"first_bore", "the front bore of the right bank, along", length},
        {"stagger", "how far the left bank stands behind the right", length},
        {"numbering", "odd and even, or one bank after the other", choice, {"odd_even", "bank_after_bank"}},
        {"number_one", "where cylinder 1 is", choice, {"front_right", "front_left", "rear_right", "rear_left"}},
        {"deck_height", "deck height with its limits: 215 ±0.05", size},
        {"deck_flatness", "flatness of the deck", length},
        {"mains", "main bearings", count, {}, 30},
        {"main_size", "housing bore of the mains with its limits: 70 H6", size},
        {"first_main", "the front main, along", length},
        {"main_pitch", "from one main to the next", length},
        {"main_at", "the mains along, one after the other", lengths},
        {"clocking", "what sets the block upright: cam, pan rail or decks", choice, {"cam", "panrail", "decks"}},
        {"cam", "cam to crankshaft", length},
        {"cam_side", "cam off the middle plane, degrees", angle},
        {"cam_size", "cam bearings with their limits", size},
        {"cam_at", "the cam bearings along", lengths},
        {"lifters", "lifters for each cylinder", count, {}, 8},
        {"lifter_size", "lifter bores with their limits", size},
        {"lifter_angle", "lifters off upright, degrees", angle},
        {"lifter_first", "the front lifter of the right bank, along", length},
        {"lifter_pitch", "from one cylinder's lifters to the next's", length},
        {"lifter_pair", "from one lifter of a cylinder to the next", length},
        {"lifter_across", "lifters off the crankshaft's plane", length},
        {"dowels", "dowels of each deck", count, {}, 8},
        {"dowel_size", "dowel holes with their limits", size},
        {"dowel_first", "the front dowel of the right bank, along", length},
        {"dowel_apart", "from one dowel to the next", length},
        {"dowel_across", "the right bank's dowels across", length},
        {"origin", "the dowel that x begins at", text},
        {"outline_ends", "deck beyond the outer bores' centres", length},
        {"outline_side", "deck to either side of the bores' plane", length},
        {"outline_corner", "how far its corners are cut", length},
    };
    return all;
}

std::vector<std::string> lacking(const Recipe& recipe) {
    const auto typed = [&](const char* key) {
        const auto found = recipe.figures.find(key);
        return found == recipe.figures.end() ? std::string() : std::string(trimmed(found->second));
    };
    const auto some = [&](const char* count) { return !typed(count).empty() && typed(count) != "0"; };
    const bool by_cam = typed("clocking").empty() || typed("clocking") == "cam";
    const std::array<std::pair<const char*, bool>, 11> wanted{
        {{"layout", true},
         {"angle", typed("layout") == "v"},
         {"cylinders", true},
         {"bore", true},
         {"pitch", true},
         {"deck_height", true},
         {"main_size", true},
         {"cam", by_cam || (some("lifters") && typed("lifter_across").empty())},
         {"cam_size", by_cam},
         {"lifter_size", some("lifters")},
         {"dowel_size", some("dowels")}}};
    std::vector<std::string> keys;
    for (const auto& [key, is] : wanted)
        if (is && typed(key).empty())
            keys.emplace_back(key);
    return keys;
}

Result<Blueprint> draw(const Recipe& recipe, const std::string& file) {
    return Draughtsman(recipe, file).draw();
}

Result<Blueprint> blueprint_from(std::string_view text, const std::string& file) {
    if (text.find("\"pallix-recipe\"") == std::string_view::npos)
        return read_blueprint(text, file);
    return read_recipe(text, file).and_then([&](const Recipe& recipe) { return draw(recipe, file); });
}

Result<Recipe> read_recipe(std::string_view text, const std::string& file) {
    return read_document(text, file, recipe_schema_text).and_then([&](const JsonDocument& document) -> Result<Recipe> {
        Recipe r;
        r.unit = *unit_from_name(document.root.value("unit", "mm"));
        for (const auto& [key, value] : document.root["figures"].items()) {
            r.figures[key] = value.is_string() ? value.get<std::string>() : short_number(value.get<double>());
            const auto at = text.find('"' + key + '"'); // keys hold points, which addresses do not
            r.lines[key] = at == std::string_view::npos ? document.lines.line("figures") : line_of_byte(text, at);
        }
        return r;
    });
}

std::string write_recipe(const Recipe& recipe) {
    Json root{{"format", "pallix-recipe"}, {"version", 1}, {"unit", std::string(unit_name(recipe.unit))}};
    root["figures"] = Json::object();
    const auto put = [&](const std::string& key) {
        if (const auto found = recipe.figures.find(key); found != recipe.figures.end())
            root["figures"][key] = found->second;
    };
    for (const RecipeFigure& figure : recipe_figures())
        put(figure.key);
    for (const auto& [key, typed] : recipe.figures)
        root["figures"][key] = typed;
    return root.dump(1) + "\n";
}

} // namespace pallix::block
