// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/recipe.h"
#include "block/number_text.h"

#include <algorithm>
#include <array>

namespace pallix::block {

const std::vector<RecipeFigure>& recipe_figures() {
    using enum RecipeKind;
    static const std::vector<RecipeFigure> all{
        {"name", "what the shop calls it", text},
        {"material", "grey iron, compacted iron or aluminium", choice, {"grey_iron", "compacted_iron", "aluminium"}},
        {"layout", "inline, V or opposed", choice, {"inline", "v", "opposed"}},
        {"banks", "what the banks are called, the right one first: R L", text},
        {"angle", "angle between the banks, degrees", angle},
        {"cylinders", "cylinders in a bank", count, {}, 16},
        {"bore", "bore with its limits: 95 +0.02 0", size},
        {"pitch", "from one bore to the next", length},
        {"first_bore", "the front bore of the right bank, along", length},
        {"stagger", "how far the left bank stands behind the right", length},
        {"numbering", "odd and even, or one bank after the other", choice, {"odd_even", "bank_after_bank", "free"}},
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
        {"crank_teeth", "teeth of the crankshaft's wheel, of a chain", count, {}, 1000},
        {"cam_teeth", "teeth of the cam's wheel", count, {}, 1000},
        {"chain_pitch", "pitch of the chain", length},
        {"chain_length", "length of the chain as it is", length},
        {"pressure_angle", "pressure angle of the gears, degrees", angle},
        {"shell", "thickness of a main's shell", length},
        {"journal", "diameter of a main's journal", length},
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
