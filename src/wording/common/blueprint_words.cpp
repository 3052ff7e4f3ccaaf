// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/blueprint_words.h"

#include "wording/common/phrases.h"
#include "wording/readings/readings.h"

namespace pallix::wording {

std::string doubt_words(const block::Blueprint& b, const planning::BlueprintDoubt& d, const LengthText& l) {
    using enum planning::BlueprintDoubtKind;
    const std::string about = capitalised(feature_words(b, d.about)), other = d.other ? feature_words(b, *d.other) : "";
    switch (d.kind) {
    case overlap:
        return about + " and " + other + " overlap by " + l.with_unit(d.by) + ".";
    case thin_wall:
        return "Between " + feature_words(b, d.about) + " and " + other + " only " + l.with_unit(d.by) +
               " of deck are left.";
    case over_edge:
        return about + " reaches " + l.with_unit(d.by) + " beyond the deck's outline.";
    case unlike:
        return about + " is " + l.signed_with_unit(d.by) + " from the size of its like.";
    case uneven:
        return "From " + other + " to " + feature_words(b, d.about) + " it is " + l.signed_with_unit(d.by) +
               " from what it is between the others.";
    case not_mirrored:
        return about + " lies " + l.with_unit(d.by) + " from where " + other + " would be in a mirror.";
    case wide_window:
        break;
    }
    return "The limits of " + feature_words(b, d.about) + " lie " + l.with_unit(d.by) +
           " apart: is a point in its place?";
}

std::vector<std::string> blueprint_sentences(const block::Blueprint& b, const LengthText& l) {
    std::vector<std::string> out;
    const auto counted = [](std::size_t n, const std::string& one) {
        return std::to_string(n) + " " + one + (n == 1 ? "" : "s");
    };
    std::string has = (b.name.empty() ? std::string("A block") : b.name) + ": " + counted(b.mains.size(), "main") +
                      ", " + counted(b.banks.size(), "deck") + ", " + counted(b.bores.size(), "cylinder") + ", " +
                      counted(b.lifters.size(), "lifter bore") + ", " + counted(b.dowels.size(), "dowel") +
                      (b.cam ? ", a cam" : ", no cam");
    out.push_back(has + ".");
    if (!b.origin_dowel)
        out.emplace_back("No origin dowel: the first main measured says where x begins.");
    for (const block::BankBlueprint& bank : b.banks)
        if (bank.outline_assumed)
            out.push_back("No outline of the " + feature_words(b, {block::FeatureKind::deck, bank.id, 0}) +
                          ": a box round its bores is drawn.");
    for (const block::FeatureId& bare : planning::without_limits(b))
        out.push_back(capitalised(feature_words(b, bare)) +
                      " has no limits: it is measured, and not judged by its size.");
    for (const planning::BlueprintDoubt& doubt : planning::doubts_of(b))
        out.push_back(doubt_words(b, doubt, l));
    return out;
}

} // namespace pallix::wording
