// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/compression.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/cylinders/boring.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace pallix::planning {

using block::FeatureId;
using block::JobState;

namespace {

double disc(double diameter) {
    return std::numbers::pi / 4 * diameter * diameter;
}

/// What a cylinder holds once the engine runs: as honed, else as it is to be, else as the blueprint has it.
double diameter_of(const JobState& state, const FeatureId& id, const std::optional<double>& oversize) {
    if (bores_of(state).honed_last(id))
        if (const auto now = size_now(state, id))
            return now->size;
    const auto& plan = bores_of(state).cylinder_plan;
    const auto sizes = plan || bores_of(state).pistons
                           ? bore_sizes(state, id, oversize || !plan ? oversize : plan->payload.oversize)
                           : std::nullopt;
    return sizes ? sizes->finish : intake_of(state).blueprint->hole(id)->diameter.middle();
}

/// What was read at one cylinder, side by side.
struct CrownSides {
    std::map<std::string, std::pair<double, int>> sides; ///< sum and count
    std::optional<double> uncertainty = 0.0;

    void add(const std::string& side, double value) {
        auto& [sum, count] = sides[side];
        sum += value;
        ++count;
    }
    /// Of the sides, however often each was read.
    [[nodiscard]] double mean() const {
        double all = 0;
        for (const auto& [side, sum] : sides)
            all += sum.first / sum.second / static_cast<double>(sides.size());
        return all;
    }
    [[nodiscard]] PistonCrown crown(const block::HoleBlueprint& bore) const {
        PistonCrown c{bore.id, bore.cylinder.value_or(bore.id.number), CrownSource::one_side, 0, 0, uncertainty, 0};
        c.crown = mean();
        double low = 1e300, high = -1e300;
        for (const auto& [side, sum] : sides) {
            low = std::min(low, sum.first / sum.second);
            high = std::max(high, sum.first / sum.second);
        }
        if (sides.size() > 1) {
            c.source = CrownSource::read;
            c.rock = high - low;
        }
        return c;
    }
};

/// Straight between the read cylinders before and after; beyond the last, on at the same height.
PistonCrown between(const block::HoleBlueprint& bore, const std::vector<std::pair<double, PistonCrown>>& read) {
    PistonCrown c{bore.id, bore.cylinder.value_or(bore.id.number), CrownSource::between, 0, 0, {}, 0};
    const auto after = std::ranges::lower_bound(read, bore.u, {}, [](const auto& r) { return r.first; });
    if (after == read.begin() || after == read.end()) {
        c.crown = (after == read.begin() ? read.front() : read.back()).second.crown;
        return c;
    }
    const auto before = after - 1;
    const double share = (bore.u - before->first) / (after->first - before->first);
    c.crown = (1 - share) * before->second.crown + share * after->second.crown;
    return c;
}

} // namespace

double CylinderVolumes::swept() const {
    return disc(bore) * stroke;
}

double CylinderVolumes::clearance_volume(double clearance) const {
    return chamber + disc(gasket_bore) * gasket_thickness + disc(bore) * clearance + dish + crevice;
}

double CylinderVolumes::ratio(double clearance) const {
    const double v = clearance_volume(clearance);
    return (swept() + v) / v;
}

double CylinderVolumes::clearance_for(double wanted) const {
    return (swept() / (wanted - 1) - clearance_volume(0)) / disc(bore);
}

std::vector<PistonCrown> piston_crowns(const JobState& state, const std::optional<double>& oversize) {
    std::vector<PistonCrown> crowns;
    std::map<FeatureId, CrownSides> readings;
    for (const block::CrownReading& r : decks_of(state).crowns) {
        CrownSides& sides = readings[r.bore];
        sides.add(r.side, r.crown);
        sides.uncertainty = sides.uncertainty && r.uncertainty
                                ? std::optional(std::max(*sides.uncertainty, *r.uncertainty))
                                : std::nullopt;
    }
    const block::EngineFigures& f = decks_of(state).figures;
    for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks) {
        std::vector<std::pair<double, PistonCrown>> read;
        for (const block::HoleBlueprint& bore : intake_of(state).blueprint->bores)
            if (const auto found = readings.find(bore.id); bore.id.bank == bank.id && found != readings.end())
                read.emplace_back(bore.u, found->second.crown(bore));
        std::ranges::sort(read, {}, [](const auto& r) { return r.first; });
        for (const block::HoleBlueprint& bore : intake_of(state).blueprint->bores) {
            if (bore.id.bank != bank.id)
                continue;
            const auto own = std::ranges::find(read, bore.id, [](const auto& r) { return r.second.bore; });
            if (own != read.end())
                crowns.push_back(own->second);
            else if (!read.empty())
                crowns.push_back(between(bore, read));
            else if (f.stroke && f.rod && f.pin_height)
                crowns.push_back({bore.id,
                                  bore.cylinder.value_or(bore.id.number),
                                  CrownSource::from_figures,
                                  *f.stroke / 2 + *f.rod + *f.pin_height,
                                  0,
                                  {},
                                  0});
        }
    }
    for (PistonCrown& c : crowns)
        c.diameter = diameter_of(state, c.bore, oversize);
    return crowns;
}

std::optional<double> least_clearance(const JobState& state, const std::string& bank) {
    std::map<FeatureId, CrownSides> readings;
    for (const block::CrownReading& c : decks_of(state).waiting_crowns)
        if (c.bore.bank == bank)
            readings[c.bore].add(c.side, c.clearance - decks_of(state).deck(bank).depth_since(c.sequence));
    std::optional<double> least;
    for (const auto& [bore, sides] : readings)
        least = std::min(least.value_or(sides.mean()), sides.mean());
    return least;
}

std::vector<std::string> missing_figures(const JobState& state) {
    const block::EngineFigures& f = decks_of(state).figures;
    const auto& bores = intake_of(state).blueprint->bores;
    std::vector<std::string> missing;
    if (!f.stroke)
        missing.emplace_back("stroke");
    if (std::ranges::none_of(bores, [&](const auto& bore) { return chamber_now(state, bore.id, 0).has_value(); }))
        missing.emplace_back("chamber volume");
    if (!f.gasket_thickness)
        missing.emplace_back("gasket thickness");
    return missing;
}

double chamber_loss(double bore, double cut) {
    return disc(bore) * cut;
}

HeadState head_state(const JobState& state, const std::string& bank) {
    HeadState head;
    for (const auto& [sequence, work] : decks_of(state).heads) {
        if (work.bank != bank)
            continue;
        head.cut += work.cut;
        head.cut_since_chamber += work.cut;
        if (work.cut > 0)
            head.gap_low = head.gap_high = std::nullopt; // the face is another one now
        if (work.gap_low) {
            head.gap_low = work.gap_low;
            head.gap_high = work.gap_high;
        }
        if (work.chamber) {
            head.chamber = work.chamber;
            head.chamber_told = sequence;
            head.cut_since_chamber = 0;
        }
    }
    std::optional<double> low, high; // line by line: the worst
    for (const block::MeasuredPlace& p : readings_of(state).places)
        if (p.at.quantity == block::Quantity::head_gap && p.at.feature.bank == bank && !p.stale() && p.upper) {
            low = std::max(low.value_or(0), p.value);
            high = std::max(high.value_or(0), *p.upper);
        }
    if (low) {
        head.gap_low = low;
        head.gap_high = high;
    }
    return head;
}

std::optional<double> chamber_now(const JobState& state, const FeatureId& bore, double diameter) {
    const block::EngineFigures& f = decks_of(state).figures;
    const block::HoleBlueprint* meant = intake_of(state).blueprint->hole(bore);
    if (!meant)
        return std::nullopt;
    const HeadState head = head_state(state, bore.bank);
    const block::MeasuredPlace* read =
        readings_of(state).place(block::MeasuredAt{bore, block::Quantity::volume, "", "", {}});
    if (read && read->sequences.back() > head.chamber_told) {
        double cut = 0;
        for (const auto& [sequence, work] : decks_of(state).heads)
            if (work.bank == bore.bank && sequence > read->sequences.back())
                cut += work.cut;
        constexpr double mm3 = 1000; // in a cm³
        return read->value * mm3 - chamber_loss(diameter, cut);
    }
    const auto own = f.chambers.find(meant->cylinder.value_or(bore.number));
    const auto told = head.chamber ? head.chamber : own != f.chambers.end() ? std::optional(own->second) : f.chamber;
    return told ? std::optional(*told - chamber_loss(diameter, head.cut_since_chamber)) : std::nullopt;
}

std::optional<double> valve_clearance(const JobState& state, const std::string& bank, const std::string& valve) {
    const block::EngineFigures& f = decks_of(state).figures;
    std::optional<double> closest;
    for (const block::HoleBlueprint& bore : intake_of(state).blueprint->bores) {
        const block::MeasuredPlace* read =
            readings_of(state).place(block::MeasuredAt{bore.id, block::Quantity::valve, valve, "", {}});
        if (bore.id.bank != bank || !read || tunnel_of(state).tunnel_cut > read->sequences.back())
            continue;
        // A drop belongs to the height it was read at: what was off by then had come off it already.
        const std::int64_t at = read->sequences.back();
        double before =
            read->value + decks_of(state).deck(bank).depth_in_all() - decks_of(state).deck(bank).depth_since(at);
        for (const auto& [sequence, work] : decks_of(state).heads)
            before += work.bank == bank && sequence < at ? work.cut : 0;
        closest = std::min(closest.value_or(before), before);
    }
    if (closest)
        return closest;
    return valve == "intake" ? f.valve_intake : f.valve_exhaust;
}

std::optional<CylinderVolumes> volumes_of(const JobState& state, const PistonCrown& crown) {
    const block::EngineFigures& f = decks_of(state).figures;
    const auto chamber = chamber_now(state, crown.bore, crown.diameter);
    if (!chamber || !f.stroke || !f.gasket_thickness)
        return std::nullopt;
    CylinderVolumes v;
    v.bore = crown.diameter;
    v.stroke = *f.stroke;
    v.chamber = *chamber;
    v.gasket_thickness = *f.gasket_thickness;
    v.gasket_bore = f.gasket_bore.value_or(v.bore);
    v.dish = f.dish;
    v.crevice = f.crevice;
    return v;
}

} // namespace pallix::planning
