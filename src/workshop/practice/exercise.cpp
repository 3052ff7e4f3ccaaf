// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/exercise.h"

#include "block/digest.h"
#include "block/entries/cylinder_entries.h"
#include "block/entries/lifter_entries.h"
#include "block/entries/practice_entries.h"
#include "block/sealed_text.h"
#include "planning/common/place.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/contributors.h"
#include "workshop/harbour.h"

#include <algorithm>
#include <cmath>

namespace pallix::workshop {
namespace {

using block::Stage;
using enum Theme;

const std::array<ThemeTold, theme_keys.size()> all_told{{
    {"The straightedge first",
     "The tender has lost two gaskets in a year. Nobody has a probe or a deck bridge on the pier today: there is a "
     "straightedge, a pack of feelers and the surfacer.",
     "Find out how flat the deck is, and cut it clean with as little metal as that takes.", 1},
    {"A bowed tunnel",
     "The skiff ran without oil for a minute. The crank turns heavily with the caps on, and freely with the middle one "
     "off.",
     "Bring the mains into line and size, with as little off the caps as that takes.", 1},
    {"Caps that pinch",
     "Somebody has knocked other caps into the registers of the pilot cutter's engine. They went in with a hammer.",
     "Read the mains all round, not only upright, and bring them to size.", 2},
    {"The low corner",
     "Water stands in the rear corner of the port engine's deck: the gasket was eaten away there, and nowhere else.",
     "Find the lowest place before the cutter does, and bring both decks down together.", 2},
    {"The cylinder that sets the size",
     "One piston of the smack seized, the others look well. The owner asks for the smallest size that cleans them all.",
     "Find the cylinder that decides, choose the size by it, and bore and hone the row.", 1},
    {"A core that shifted",
     "The block is a cheap casting: its cylinders lie beside where they were drawn, all to one side.",
     "Bore on the blueprint's centres where the wall allows it, and bring the row to size.", 3},
    {"The zero that slipped",
     "The bore gauge fell off the bench last week, and was put back into its box. It reads, and says nothing of it.",
     "Read the mains with it. Hold it against a ring whenever you doubt it, and before you cut.", 2},
    {"The chipped edge", "The boring bar has done four blocks since somebody last looked at its tool.",
     "Bore the row. Measure each hole before the next, and look at the edge when one comes out small.", 2},
    {"Hot from the washer",
     "The launch's aluminium block stands on the pier, fresh from the washer, and somebody is in a hurry.",
     "Take the temperatures first: what is measured now is not what the block will be tomorrow.", 2},
    {"Lifters that grew",
     "The ferry's lifter bores were reamed twice by feel. Some are large, some are worn bell-mouthed.",
     "Bring every lifter bore back into its clearance, with bushes where it has grown too large.", 3},
    {"The whole block",
     "The trawler's engine comes in pieces, on two pallets. Everything is to be done, and nobody knows its history.",
     "Mains, decks, cylinders: leave a block that you would sign for.", 3},
}};

std::size_t index(Theme theme) {
    return static_cast<std::size_t>(theme);
}

block::Blueprint engine_of(Theme theme, std::int64_t number) {
    block::Blueprint b = [&] {
        switch (theme) {
        case tight_caps:
        case low_corner:
            return workboat_v6();
        case growing_lifters:
            return ferry_v8();
        case whole_block:
            return number % 3 == 0 ? ferry_v8() : number % 3 == 1 ? workboat_v6() : tender_inline_four();
        default:
            return tender_inline_four();
        }
    }();
    if (theme == hot_block)
        b.material = block::Material::aluminium;
    return b;
}

/// A seed that belongs to an exercise and to no other.
std::uint64_t seed_of(Theme theme, int level, std::int64_t number) {
    constexpr std::uint64_t themes = 64, all_levels = 4;
    return (static_cast<std::uint64_t>(number) * all_levels + static_cast<std::uint64_t>(level)) * themes +
           index(theme);
}

/// Makes the truth of one exercise.
class Maker {
  public:
    Maker(Exercise& e, Theme theme, std::uint64_t seed) : e_(e), b_(e.blueprint), theme_(theme), draw_(seed, 3) {}

    void make() {
        constexpr std::array larger{1.5, 1.0, 0.75}, scatter{0.0007, 0.001, 0.0014};
        constexpr std::array slips{0.0, 0.01, 0.03}, mishaps{0.0, 0.0, 0.004};
        const auto level = static_cast<std::size_t>(e_.level - 1);
        much_ = larger.at(level);
        GaugeHabits& g = e_.truth.gauges;
        g.scatter = g.stated = scatter.at(level);
        g.slips = slips.at(level);
        g.mishaps = mishaps.at(level);
        make_theme();
    }

  private:
    using Truth = BlockTruth;
    double even(double low, double high) { return low + (high - low) * draw_.uniform(); }
    double sign() { return draw_.uniform() < 0.5 ? -1 : 1; }
    std::size_t one_of(std::size_t count) {
        return std::min(count - 1, static_cast<std::size_t>(draw_.uniform() * static_cast<double>(count)));
    }
    Truth& truth() { return e_.truth.block; }

    void make_theme() {
        switch (theme_) {
        case straightedge:
            e_.truth.gauges.bridge = false;
            return dip(even(0.08, 0.12) * much_, 0.25, 0.75);
        case bowed_tunnel:
            return bow(sign() * even(0.018, 0.035) * much_);
        case tight_caps:
            for (MainTruth& main : truth().mains)
                main.oval = even(0.015, 0.03) * much_;
            return;
        case low_corner:
            return dip(even(0.08, 0.11) * much_, 0.9, 0.97);
        case sets_size: {
            BoreTruth& worst = truth().bores.at(b_.bores[one_of(b_.bores.size())].id);
            worst.size += even(0.12, 0.2);
            worst.taper = even(0.06, 0.12);
            return;
        }
        case core_shift: {
            const metrology::Vec2 shift{sign() * even(0.05, 0.1) * much_, sign() * even(0.1, 0.2) * much_};
            for (const auto& bore : b_.bores)
                truth().bores.at(bore.id).off = truth().bores.at(bore.id).off + shift;
            return;
        }
        case slipped_zero:
            e_.truth.gauges.zero_slips_after = 6 + static_cast<int>(one_of(12));
            e_.truth.gauges.zero_slip = sign() * even(0.012, 0.03) * much_;
            return;
        case chipped_edge:
            e_.truth.machines.boring_bar.chips_at = 2 + static_cast<int>(one_of(b_.bores.size() - 1));
            e_.truth.machines.boring_bar.chip = even(0.02, 0.04) * much_;
            return;
        case hot_block:
            e_.truth.gauges.part_c = std::round(even(34, 52));
            e_.truth.gauges.gauge_c = std::round(even(17, 23));
            return;
        case growing_lifters:
            for (const auto& lifter : b_.lifters)
                truth().bores.at(lifter.id).size += even(0.01, 0.05) * much_;
            return;
        case whole_block:
            bow(sign() * even(0.005, 0.02) * much_);
            dip(even(0.02, 0.06) * much_, 0.1, 0.9);
            if (e_.level > 1)
                e_.truth.machines.backlash = even(0, 0.01);
            return;
        }
    }
    /// A low place on one deck, so far along it and across.
    void dip(double depth, double from, double to) {
        const block::BankBlueprint& bank = b_.banks[one_of(b_.banks.size())];
        const planning::DeckExtent e = planning::deck_extent(bank);
        DeckTruth& deck = truth().decks.at(bank.id);
        const double along = even(from, to), across = draw_.uniform() < 0.5 ? even(0.03, 0.12) : even(0.88, 0.97);
        deck.dip = {e.low.x + along * e.length(), e.low.y + across * e.width()};
        deck.dip_depth = depth;
        deck.dip_radius = even(25, 45);
    }
    void bow(double by) {
        const double x0 = b_.mains.front().x, span = b_.mains.back().x - x0;
        for (std::size_t m = 0; m < b_.mains.size(); ++m) {
            const double far = 2 * (b_.mains[m].x - x0) / span - 1;
            truth().mains[m].up += by * (1 - far * far);
        }
    }

    Exercise& e_;
    const block::Blueprint& b_;
    Theme theme_;
    metrology::Deviates draw_;
    double much_ = 1;
};

std::vector<Stage> scope_of(Theme theme) {
    switch (theme) {
    case straightedge:
    case low_corner:
        return {Stage::decks};
    case bowed_tunnel:
    case tight_caps:
    case slipped_zero:
    case hot_block:
        return {Stage::tunnel};
    case sets_size:
    case core_shift:
    case chipped_edge:
        return {Stage::cylinders};
    case growing_lifters:
        return {Stage::lifters};
    case whole_block:
        break;
    }
    return {Stage::tunnel, Stage::decks, Stage::cylinders};
}

/// Where a bore lies only a probe tells.
bool has_probe(Theme theme) {
    return theme == core_shift || theme == growing_lifters;
}

std::vector<block::Payload> plans_of(Theme theme, const block::Blueprint& b) {
    const std::vector<Stage> scope = scope_of(theme);
    const bool all = theme == whole_block;
    std::vector<block::Payload> plans{
        block::ScopeChosen{scope, all ? "" : "the rest is good by its papers, and no part of the exercise"}};
    if (!has_probe(theme))
        plans.emplace_back(block::StepSkipped{"as_found/log", "there is no probe on this bench"});
    if (theme == straightedge) // nor a bridge
        for (const block::BankBlueprint& bank : b.banks)
            for (const block::MeasuredAt& at : planning::usual_places(b, planning::Measuring::deck_heights, bank.id))
                plans.emplace_back(
                    block::StepSkipped{planning::reading_id(at), "there is no deck bridge on this bench"});
    if (std::ranges::find(scope, Stage::cylinders) != scope.end()) {
        block::PistonsStated pistons;
        pistons.clearance = 0.05;
        block::CylinderPlanChosen sizes;
        sizes.oversizes = {0.25, 0.5, 0.75};
        plans.emplace_back(pistons);
        plans.emplace_back(sizes);
    }
    if (theme == growing_lifters) {
        block::LifterPlanChosen lifters;
        lifters.lifter = b.lifters.front().diameter.nominal - 0.02;
        lifters.clearance_least = 0.025;
        lifters.clearance_most = 0.05;
        lifters.bush_outside = *lifters.lifter + 3.5;
        lifters.interference = 0.038;
        plans.emplace_back(lifters);
    }
    return plans;
}

} // namespace

const ThemeTold& told_of(Theme theme) {
    return all_told.at(index(theme));
}

std::optional<Theme> theme_of(std::string_view key) {
    const auto* found = std::ranges::find(theme_keys, key);
    return found == theme_keys.end() ? std::nullopt : std::optional(static_cast<Theme>(found - theme_keys.begin()));
}

Exercise exercise_of(Theme theme, int level, std::int64_t number) {
    Exercise e;
    e.key = theme_keys.at(index(theme));
    e.number = number;
    e.level = std::clamp(level, 1, levels);
    e.told = told_of(theme);
    e.blueprint = engine_of(theme, number);
    e.truth.seed = seed_of(theme, e.level, number);
    e.truth.block = worn(e.blueprint, e.truth.seed);
    Maker(e, theme, e.truth.seed).make();
    e.truth.gauges.probe = has_probe(theme);
    e.plans = plans_of(theme, e.blueprint);
    return e;
}

std::vector<block::Payload> opening_of(const Exercise& e) {
    const std::string truth = hidden_json(e.truth);
    std::vector<block::Payload> all{
        block::JobOpened{"Practice: " + e.told.title + ", " + std::to_string(e.level) + "-" + std::to_string(e.number),
                         "", "practice.pallix-blueprint.json", write_blueprint(e.blueprint)}};
    all.insert(all.end(), e.plans.begin(), e.plans.end());
    all.emplace_back(block::PracticeBegun{e.key, e.number, e.level, e.told.story, e.told.wanted,
                                          block::sealed_text(truth), block::sha256_hex(truth)});
    return all;
}

} // namespace pallix::workshop
