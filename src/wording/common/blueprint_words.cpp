// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/blueprint_words.h"

#include "block/drawing/size_text.h"
#include "block/state/tunnel_state.h"
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"
#include "wording/steps/step_words.h"

#include <algorithm>
#include <cmath>

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
        return about + " is " + l.side_with_unit(d.by, "larger", "smaller") + " than its like.";
    case uneven:
        return "From " + other + " to " + feature_words(b, d.about) + " it is " +
               l.side_with_unit(d.by, "more", "less") + " than between the others.";
    case not_mirrored:
        return about + " lies " + l.with_unit(d.by) + " from where " + other + " would be in a mirror.";
    case stack:
        return "Half the stroke, rod and pin height end " + l.with_unit(std::abs(d.by)) +
               (d.by < 0 ? " above the " : " below the ") + feature_words(b, d.about) + ".";
    case chain:
        return "The chain is " + l.with_unit(std::abs(d.by)) + (d.by < 0 ? " too short" : " too long") +
               " for the cam's distance.";
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
    for (const auto& [list, words] :
         {std::pair(&b.dowels, "dowels"), std::pair(&b.bores, "cylinders"), std::pair(&b.lifters, "lifters")})
        if (std::ranges::any_of(*list, &block::HoleBlueprint::place_assumed))
            out.push_back(std::string("Nobody stated where all ") + words +
                          " stand: they are drawn somewhere, and their places are not judged.");
    for (const block::FeatureId& bare : planning::without_limits(b))
        out.push_back(capitalised(feature_words(b, bare)) +
                      " has no limits: it is measured, and not judged by its size.");
    for (const planning::BlueprintDoubt& doubt : planning::doubts_of(b))
        out.push_back(doubt_words(b, doubt, l));
    return out;
}

namespace {

/// Gathers what differs, a line each.
class Differences {
  public:
    Differences(const block::Blueprint& before, const block::Blueprint& after, const LengthText& l)
        : before_(before), after_(after), l_(l) {}

    std::vector<std::string> run() {
        if (before_.material != after_.material)
            lines_.emplace_back("Another material.");
        if (before_.clocking != after_.clocking || before_.origin_dowel != after_.origin_dowel)
            lines_.push_back("Datum: " + datum_name(before_) + " becomes " + datum_name(after_) + ".");
        for (const block::BankBlueprint& bank : after_.banks)
            if (const auto* was = before_.bank(bank.id)) {
                const std::string name = feature_words(after_, {block::FeatureKind::deck, bank.id, 0});
                size(name, was->deck_height, bank.deck_height);
                if (std::abs(was->angle - bank.angle) > 1e-12)
                    lines_.push_back(capitalised(name) + " lies at another angle.");
                if (was->deck_flatness != bank.deck_flatness)
                    lines_.push_back(capitalised(name) + ": another flatness.");
            } else {
                lines_.push_back("New: bank " + bank.id + ".");
            }
        rows(before_.mains, after_.mains,
             [&](const auto& was, const auto& is, const std::string& name) { number(name + " along", was.x, is.x); });
        if (before_.cam.has_value() != after_.cam.has_value() ||
            (after_.cam && (before_.cam->y != after_.cam->y || before_.cam->z != after_.cam->z)))
            lines_.emplace_back("The cam lies elsewhere.");
        const auto hole = [&](const auto& was, const auto& is, const std::string& name) {
            number(name + " along", was.u, is.u);
            number(name + " across", was.v, is.v);
        };
        rows(before_.dowels, after_.dowels, hole);
        rows(before_.bores, after_.bores, hole);
        rows(before_.lifters, after_.lifters, hole);
        return std::move(lines_);
    }

  private:
    template <class Items, class More>
    void rows(const Items& before, const Items& after, More more) {
        for (const auto& is : after) {
            const std::string name = feature_words(after_, is.id);
            const auto was = std::ranges::find(before, is.id, &Items::value_type::id);
            if (was == before.end()) {
                lines_.push_back("New: " + name + ".");
                continue;
            }
            size(name, was->diameter, is.diameter);
            more(*was, is, name);
        }
        for (const auto& was : before)
            if (std::ranges::find(after, was.id, &Items::value_type::id) == after.end())
                lines_.push_back("Gone: " + feature_words(before_, was.id) + ".");
    }
    void number(const std::string& name, double was, double is) {
        if (std::abs(was - is) > 1e-9)
            lines_.push_back(capitalised(name) + ": " + l_.plain(was) + " becomes " + l_.with_unit(is) + ".");
    }
    void size(const std::string& name, const block::Tolerance& was, const block::Tolerance& is) {
        const block::Unit unit = after_.unit; // as a sheet has them, whatever the bench reads in
        const std::string before = block::size_text(was, unit), after = block::size_text(is, unit);
        if (before != after)
            lines_.push_back(capitalised(name) + ": " + before + " becomes " + after + " " +
                             std::string(block::unit_name(unit)) + ".");
    }

    const block::Blueprint &before_, &after_;
    LengthText l_;
    std::vector<std::string> lines_;
};

/// How far the places of holes move against their blueprint, at the most, mm.
double largest_move(const std::vector<block::HoleResult>& before, const std::vector<block::HoleResult>& after) {
    double most = 0;
    for (const block::HoleResult& is : after)
        if (const auto was = std::ranges::find(before, is.id, &block::HoleResult::id); was != before.end())
            most = std::max(most, norm(is.error - was->error));
    return most;
}

} // namespace

std::vector<std::string> blueprint_changes(const block::Blueprint& before, const block::Blueprint& after,
                                           const LengthText& l) {
    return Differences(before, after, l).run();
}

std::vector<std::string> amendment_changes(const block::JobState& before, const planning::Assessment& was,
                                           const block::JobState& after, const planning::Assessment& is,
                                           const LengthText& l) {
    std::vector<std::string> out;
    for (std::size_t i = 0; i < is.stages.size() && i < was.stages.size(); ++i)
        if (is.stages[i].mark != was.stages[i].mark)
            out.push_back(capitalised(stage_name(is.stages[i].stage)) + ": " + stage_word(was.stages[i].mark) +
                          " becomes " + stage_word(is.stages[i].mark) + ".");
    const auto &old = tunnel_of(before).latest, &now = tunnel_of(after).latest;
    if (old && now) {
        const auto moves = [&](const char* what, double mm) {
            if (mm > 1e-9)
                out.push_back(std::string(what) + " lie by up to " + l.with_unit(mm) + " otherwise off their places.");
        };
        moves("Cylinders", largest_move(old->evaluation.bores, now->evaluation.bores));
        moves("Lifters", largest_move(old->evaluation.lifters, now->evaluation.lifters));
    }
    const auto called = [&](const block::JobState& state, const planning::Assessment& a) {
        const planning::Step* step = a.steps.now();
        const std::string number = step && step->number && *step->number != 0 ? ", " + l.with_unit(*step->number) : "";
        return step ? step_headline(state, *step, l) + number : std::string("nothing");
    };
    if (const std::string then = called(after, is); then != called(before, was))
        out.push_back("Next: " + called(before, was) + " becomes " + then + ".");
    if (out.empty())
        out.emplace_back("No verdict, no position and no call changes.");
    return out;
}

} // namespace pallix::wording
