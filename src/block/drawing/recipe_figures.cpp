// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/number_text.h"

#include <algorithm>
#include <array>

namespace pallix::block {

const std::vector<RecipeFigure>& recipe_figures() {
    using enum RecipeKind;
    static const std::vector<RecipeFigure> all{
        {"name", "name", "what the shop calls it", text},
        {"material",
         "material",
         "grey iron, compacted iron or aluminium",
         choice,
         {"grey_iron", "compacted_iron", "aluminium"}},
        {"layout", "layout", "inline, V or opposed", choice, {"inline", "v", "opposed"}},
        {"banks", "banks", "what the banks are called, the right one first: R L", text},
        {"angle", "bank angle", "angle between the banks, degrees", angle},
        {"cylinders", "cylinders a bank", "cylinders in a bank", count, {}, 16},
        {"bore", "bore", "bore with its limits: 95 +0.02 0", size},
        {"pitch", "bore pitch", "from one bore to the next", length},
        {"first_bore", "first bore", "the front bore of the right bank, along", length},
        {"stagger", "stagger", "how far the left bank stands behind the right", length},
        {"numbering",
         "numbering",
         "odd and even, or one bank after the other",
         choice,
         {"odd_even", "bank_after_bank", "free"}},
        {"number_one",
         "cylinder 1",
         "where cylinder 1 is",
         choice,
         {"front_right", "front_left", "rear_right", "rear_left"}},
        {"deck_height", "deck height", "deck height with its limits: 215 ±0.05", size},
        {"deck_flatness", "deck flatness", "flatness of the deck", length},
        {"mains", "mains", "main bearings", count, {}, 30},
        {"main_size", "main bore", "housing bore of the mains with its limits: 70 H6", size},
        {"first_main", "first main", "the front main, along", length},
        {"main_pitch", "main pitch", "from one main to the next", length},
        {"main_at", "mains at", "the mains along, one after the other", lengths},
        {"clocking",
         "upright by",
         "what sets the block upright: cam, pan rail or decks",
         choice,
         {"cam", "panrail", "decks"}},
        {"cam", "cam distance", "cam to crankshaft", length},
        {"cam_side", "cam to the side", "cam off the middle plane, degrees", angle},
        {"cam_size", "cam bore", "cam bearings with their limits", size},
        {"cam_at", "cam bores at", "the cam bearings along", lengths},
        {"crank_teeth", "crank teeth", "teeth of the crankshaft's wheel, of a chain", count, {}, 1000},
        {"cam_teeth", "cam teeth", "teeth of the cam's wheel", count, {}, 1000},
        {"chain_pitch", "chain pitch", "pitch of the chain", length},
        {"chain_length", "chain length", "length of the chain as it is", length},
        {"pressure_angle", "gears' angle", "pressure angle of the gears, degrees", angle},
        {"shell", "main shell", "thickness of a main's shell", length},
        {"journal", "main journal", "diameter of a main's journal", length},
        {"lifters", "lifters each", "lifters for each cylinder", count, {}, 8},
        {"lifter_size", "lifter bore", "lifter bores with their limits", size},
        {"lifter_angle", "lifter angle", "lifters off upright, degrees", angle},
        {"lifter_first", "first lifter", "the front lifter of the right bank, along", length},
        {"lifter_pitch", "lifter pitch", "from one cylinder's lifters to the next's", length},
        {"lifter_pair", "lifter pair", "from one lifter of a cylinder to the next", length},
        {"lifter_across", "lifters across", "lifters off the crankshaft's plane", length},
        {"dowels", "dowels a deck", "dowels of each deck", count, {}, 8},
        {"dowel_size", "dowel hole", "dowel holes with their limits", size},
        {"dowel_first", "first dowel", "the front dowel of the right bank, along", length},
        {"dowel_apart", "dowels apart", "from one dowel to the next", length},
        {"dowel_across", "dowels across", "the right bank's dowels across", length},
        {"origin", "x from", "the dowel that x begins at", text},
        {"outline_ends", "deck beyond bores", "deck beyond the outer bores' centres", length},
        {"outline_side", "deck's half width", "deck to either side of the bores' plane", length},
        {"outline_corner", "corners cut", "how far its corners are cut", length},
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
    const bool chain = some("crank_teeth") || some("cam_teeth") || !typed("chain_pitch").empty();
    const std::array<std::pair<const char*, bool>, 16> wanted{
        {{"layout", true},
         {"angle", typed("layout") == "v"},
         {"cylinders", true},
         {"bore", true},
         {"pitch", true},
         {"deck_height", true},
         {"main_size", true},
         {"cam", by_cam || (some("lifters") && typed("lifter_across").empty())},
         {"cam_size", by_cam},
         {"crank_teeth", chain},
         {"cam_teeth", chain},
         {"chain_pitch", chain},
         {"shell", !typed("journal").empty()},
         {"journal", !typed("shell").empty()},
         {"lifter_size", some("lifters")},
         {"dowel_size", some("dowels")}}};
    std::vector<std::string> keys;
    for (const auto& [key, is] : wanted)
        if (is && typed(key).empty())
            keys.emplace_back(key);
    return keys;
}

} // namespace pallix::block
