// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/shop/memory_words.h"

#include "block/state/intake_state.h"
#include "planning/shop/forecasts.h"
#include "wording/common/phrases.h"
#include "wording/readings/readings.h"

#include <cmath>

namespace pallix::wording {
namespace {

using planning::Trait;

struct TraitWords {
    const char *name, *over, *under; ///< what a positive and a negative length are called
};

TraitWords words_of(Trait trait) {
    switch (trait) {
    case Trait::core_shift_along:
        return {"cylinders, along", "rear", "front"};
    case Trait::core_shift_across:
        return {"cylinders, across", "", ""};
    case Trait::bank_turn:
        return {"turned about the tunnel", "", ""};
    case Trait::saddle_crown:
        return {"inner mains", "back of the line", "proud of the line"};
    case Trait::deck_slope:
        return {"slope to the rear", "high at the rear", "high at the front"};
    case Trait::deck_shape:
        return {"flatness", "", ""};
    case Trait::wear:
        return {"over nominal", "over", "under"};
    case Trait::lifter_growth:
        return {"lifters", "over", "under"};
    case Trait::clean_up:
        return {"clean after", "", ""};
    case Trait::forecast_error:
        return {"took more than expected", "more", "less"};
    }
    return {"", "", ""};
}

} // namespace

std::string trait_name(const block::JobState& state, const planning::TraitOf& what) {
    std::string about;
    const auto id = block::FeatureId::parse(what.about);
    const auto& blueprint = intake_of(state).blueprint;
    if (id && blueprint && id->kind == block::FeatureKind::deck && blueprint->bank(id->bank))
        about = bank_name(*blueprint->bank(id->bank)) + ": ";
    else if (id && blueprint && blueprint->hole(*id))
        about = short_feature_words(state, *id) + ": ";
    else if (!what.about.empty())
        about = what.about + ": ";
    return about + words_of(what.trait).name;
}

std::string trait_length(const block::JobState& state, const planning::TraitOf& what, double value,
                         const LengthText& l) {
    std::string way = value > 0 ? words_of(what.trait).over : value < 0 ? words_of(what.trait).under : "";
    const auto id = block::FeatureId::parse(what.about);
    const block::BankBlueprint* bank =
        id && intake_of(state).blueprint ? intake_of(state).blueprint->bank(id->bank) : nullptr;
    if (bank && value != 0 && (what.trait == Trait::core_shift_across || what.trait == Trait::bank_turn)) {
        const std::string side =
            across_word(value > 0 ? planning::positive_side(*bank) : planning::negative_side(*bank));
        way = what.trait == Trait::bank_turn ? "high " : "";
        way.append(side.substr(0, side.find(' ')));
    }
    std::string length = l.with_unit(std::abs(value));
    if (!way.empty())
        length.append(" ").append(way);
    return length;
}

std::string memory_sentence(const block::JobState& state, const planning::TraitMemory& m, const LengthText& l) {
    std::string here;
    if (m.present)
        here.append("; this block ").append(trait_length(state, m.what, *m.present, l));
    std::string words;
    if (!m.mean || !m.spread) {
        for (const double value : m.others)
            words.append(words.empty() ? ": " : ", ").append(trait_length(state, m.what, value, l));
        return count_words(m.others.size(), "block", "blocks") + " so far" + words + here;
    }
    words = "usually ";
    words.append(trait_length(state, m.what, *m.mean, l)).append(", more or less by ").append(l.with_unit(*m.spread));
    const std::string all = std::to_string(m.others.size());
    if (m.what.trait != Trait::deck_shape && m.what.trait != Trait::clean_up) // whose lengths have a way
        words.append(": ").append(std::to_string(m.same_side)).append(" of ").append(all);
    else
        words.append(", by ").append(all).append(" blocks");
    words.append(here);
    return m.unusual ? words.append(", further out than 19 of 20 such blocks") : words;
}

std::string usual_words(const block::JobState& state, const block::UsualTrait& usual, const LengthText& l) {
    return "usually " + trait_length(state, {usual.trait, usual.about}, usual.mean, l) + ", by " +
           std::to_string(usual.blocks) + " blocks of this kind";
}

std::string forecast_name(block::ForecastKind kind) {
    switch (kind) {
    case block::ForecastKind::removal:
        return "what comes off a deck";
    case block::ForecastKind::cap_size:
        return "sizes after caps were cut";
    case block::ForecastKind::rise:
        return "rise of the line under the hone";
    case block::ForecastKind::strokes:
        return "what a stroke takes at the most";
    }
    return {};
}

std::string widened_words(const std::optional<block::ForecastRecord>& record) {
    if (!record || record->widen <= 1)
        return {};
    const std::string whose = !record->gauge.empty()    ? " with " + record->gauge
                              : !record->person.empty() ? " by " + record->person + "'s readings"
                                                        : "";
    return ", " + fixed(record->widen, 1) + " times as wide as the readings have it: of " +
           std::to_string(record->made) + " such forecasts here" + whose + " " + std::to_string(record->held) + " held";
}

std::string record_words(const block::ForecastRecord& record) {
    const double should = std::ceil(planning::forecast_claim * static_cast<double>(record.made) - 1e-9);
    const std::string held =
        std::to_string(record.held) + " of " + std::to_string(record.made) + " held, " + fixed(should, 0) + " should";
    return record.widen > 1 ? held + "; new jobs have " + fixed(record.widen, 1) + " times the readings' own width"
                            : held;
}

} // namespace pallix::wording
