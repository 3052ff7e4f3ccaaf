// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_plan.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/readings/reading_plan.h"

#include <algorithm>
#include <limits>

namespace pallix::planning {

using block::TargetSchool;
using metrology::Vec2;
using metrology::Vec3;

const BankPlan* DeckPlan::bank(std::string_view id) const {
    const auto found = std::ranges::find(banks, id, [](const BankPlan& b) { return std::string_view(b.bank); });
    return found == banks.end() ? nullptr : &*found;
}

namespace {

/// Some of the places that are to be read in a bank were, and not all of them: the one that stands highest decides.
bool pistons_half_read(const block::JobState& state, const std::string& bank) {
    const auto read = [&state](const block::MeasuredAt& at) {
        return std::ranges::any_of(decks_of(state).crowns, [&at](const block::CrownReading& c) {
            return c.bore == at.feature && c.side == at.direction;
        });
    };
    const auto places = chosen_places(state, Measuring::piston_heights, bank);
    return std::ranges::any_of(places, read) && !std::ranges::all_of(places, read);
}

} // namespace

MockUpHeights mock_up_heights(const block::JobState& state, const std::vector<PistonCrown>& crowns,
                              const block::DeckTargetChosen& target) {
    MockUpHeights heights;
    const bool by_ratio = target.school == TargetSchool::ratio;
    if (by_ratio ? !target.ratio : !target.clearance) {
        heights.lack = TargetLack::height;
        return heights;
    }
    for (const PistonCrown& crown : crowns) {
        double clearance = target.clearance.value_or(0);
        if (by_ratio) {
            const auto volumes = volumes_of(state, crown);
            if (!volumes) {
                heights.lack = TargetLack::figures;
                return heights;
            }
            clearance = volumes->clearance_for(*target.ratio);
        }
        const double height = crown.crown + clearance;
        const auto [bank, first] = heights.by_bank.try_emplace(crown.bore.bank, height);
        bank->second = std::max(bank->second, height);
    }
    for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks)
        if (!heights.by_bank.contains(bank.id) || pistons_half_read(state, bank.id))
            heights.lack = TargetLack::pistons;
    if (target.equal && heights.lack == TargetLack::nothing) {
        double highest = -std::numeric_limits<double>::infinity();
        for (const auto& [bank, height] : heights.by_bank)
            highest = std::max(highest, height);
        for (auto& [bank, height] : heights.by_bank)
            height = highest;
    }
    return heights;
}

DeckPlan plan_decks(const std::vector<DeckToPlan>& decks, const block::DeckTargetChosen& target,
                    const MockUpHeights& mock_up) {
    DeckPlan plan;
    const bool from_mock_up = target.school == TargetSchool::clearance || target.school == TargetSchool::ratio;
    if (target.school == TargetSchool::height && !target.height)
        plan.lack = TargetLack::height;
    else if (from_mock_up)
        plan.lack = mock_up.by_bank.empty() && mock_up.lack == TargetLack::nothing ? TargetLack::pistons : mock_up.lack;
    if (plan.lack != TargetLack::nothing)
        return plan;
    double lowest_of_all = std::numeric_limits<double>::infinity();
    for (const DeckToPlan& deck : decks) {
        if (deck.measured->height_min < lowest_of_all)
            plan.start_with = deck.bank->id;
        lowest_of_all = std::min(lowest_of_all, deck.measured->height_min);
    }
    for (const DeckToPlan& deck : decks) {
        BankPlan b;
        b.bank = deck.bank->id;
        b.low = deck.measured->height_min;
        b.high = deck.measured->height_max;
        switch (target.school) {
        case TargetSchool::least_cut:
            b.target = target.equal ? lowest_of_all : b.low;
            break;
        case TargetSchool::blueprint:
            b.target = deck.bank->deck_height.nominal;
            break;
        case TargetSchool::height:
            b.target = *target.height;
            break;
        case TargetSchool::clearance:
        case TargetSchool::ratio:
            b.target = mock_up.by_bank.at(b.bank);
            break;
        }
        b.held_at = b.target;
        b.cut = b.high - b.target;
        b.cleans = b.target <= b.low;
        b.short_by = std::max(0.0, b.target - b.low);
        if (const auto least = deck.bank->deck_height.smallest())
            b.over_lower_limit = b.target - *least;
        const Vec3 lowest = *std::ranges::min_element(deck.measured->points, {}, &Vec3::z);
        b.lowest_place = {lowest.x, lowest.y};
        b.lowest = place_on_deck(*deck.bank, b.lowest_place);
        plan.banks.push_back(b);
    }
    return plan;
}

std::vector<CornerHeight> corner_heights(const block::BankBlueprint& bank, const std::vector<Vec3>& points) {
    const std::vector<block::DeckPlace> corners = block::deck_places(bank);
    std::vector<std::pair<double, const Vec3*>> nearest(corners.size(),
                                                        {std::numeric_limits<double>::infinity(), nullptr});
    for (const Vec3& p : points) // once over what may be a scan of a million
        for (std::size_t i = 0; i < corners.size(); ++i) {
            const Vec2 off = Vec2{p.x, p.y} - corners[i].place;
            if (const double d = dot(off, off); d < nearest[i].first)
                nearest[i] = {d, &p};
        }
    std::vector<CornerHeight> heights;
    for (std::size_t i = 0; i < corners.size() && !points.empty(); ++i) {
        const Vec3& p = *nearest[i].second;
        heights.push_back({corners[i].rear, corners[i].positive_v, {p.x, p.y}, p.z});
    }
    return heights;
}

DeckLie deck_lie(const block::BankBlueprint& bank, const block::DeckResult& deck) {
    return deck_lie(bank, deck, corner_heights(bank, deck.points));
}

DeckLie deck_lie(const block::BankBlueprint& bank, const block::DeckResult& deck,
                 const std::vector<CornerHeight>& corners) {
    const DeckExtent e = deck_extent(bank);
    DeckLie lie{deck.slope_u * e.length(), deck.tilt_v * e.width(), 0};
    const bool out_is_positive = positive_side(bank) != Across::inboard;
    for (const CornerHeight& c : corners) {
        const double sign = (c.rear ? -1 : 1) * (c.positive_v == out_is_positive ? 1 : -1);
        lie.twist += sign * c.height;
    }
    return lie;
}

} // namespace pallix::planning
