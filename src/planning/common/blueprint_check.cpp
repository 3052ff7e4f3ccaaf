// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/blueprint_check.h"

#include "planning/common/chain_drive.h"
#include "planning/common/place.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::HoleBlueprint;
using metrology::Vec2;
using Kind = BlueprintDoubtKind;

constexpr double same_size = 1e-3, same_place = 1e-3; // mm
constexpr double uneven_share = 0.02;                 // of a pitch; common practice, no source
constexpr double widest = 0.004;                      // of a hole's size; common practice, no source

double middle_value(std::vector<double> values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::ranges::nth_element(values, middle);
    return *middle;
}

/// How far a point lies inside the outline, mm; negative outside it.
double room_inside(const std::vector<Vec2>& outline, Vec2 p) {
    double least = 1e9;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vec2 a = outline[i], b = outline[(i + 1) % outline.size()], run = b - a;
        const double t = std::clamp(metrology::dot(p - a, run) / metrology::dot(run, run), 0.0, 1.0);
        least = std::min(least, norm(p - (a + t * run)));
    }
    return inside(outline, p) ? least : -least;
}

class Checker {
  public:
    explicit Checker(const block::Blueprint& b) : b_(b) {}

    std::vector<BlueprintDoubt> run() {
        look_at_row(b_.mains);
        if (b_.cam)
            look_at_row(b_.cam->bearings);
        for (const block::BankBlueprint& bank : b_.banks)
            look_at_deck(bank);
        for (const auto* list : {&b_.bores, &b_.dowels, &b_.lifters})
            look_at_sizes(*list);
        look_at_mirror();
        return std::move(doubts_);
    }

  private:
    void doubt(Kind kind, const FeatureId& about, double by, std::optional<FeatureId> other = {}) {
        doubts_.push_back({kind, about, std::move(other), by});
    }

    template <class Item>
    void look_at_sizes(const std::vector<Item>& items) {
        if (items.empty())
            return;
        std::vector<double> sizes;
        sizes.reserve(items.size());
        for (const Item& item : items)
            sizes.push_back(item.diameter.nominal);
        const double usual = middle_value(sizes);
        for (const Item& item : items) {
            if (std::abs(item.diameter.nominal - usual) > same_size)
                doubt(Kind::unlike, item.id, item.diameter.nominal - usual);
            if (item.diameter.whole() && *item.diameter.upper - *item.diameter.lower > widest * item.diameter.nominal)
                doubt(Kind::wide_window, item.id, *item.diameter.upper - *item.diameter.lower);
        }
    }

    void look_at_row(const std::vector<block::MainBlueprint>& row) {
        std::vector<double> at;
        at.reserve(row.size());
        for (const block::MainBlueprint& bearing : row)
            at.push_back(bearing.x);
        look_at_pitch(at, [&](std::size_t i) { return row[i].id; });
        look_at_sizes(row);
    }

    template <class IdOf>
    void look_at_pitch(const std::vector<double>& at, IdOf id_of) {
        if (at.size() < 4) // of two gaps nobody can say which is the odd one
            return;
        std::vector<double> gaps;
        for (std::size_t i = 1; i < at.size(); ++i)
            gaps.push_back(at[i] - at[i - 1]);
        const double usual = middle_value(gaps);
        for (std::size_t i = 0; i < gaps.size(); ++i)
            if (std::abs(gaps[i] - usual) > uneven_share * std::abs(usual))
                doubt(Kind::uneven, id_of(i + 1), gaps[i] - usual, id_of(i));
    }

    void look_at_deck(const block::BankBlueprint& bank) {
        std::vector<const HoleBlueprint*> holes;
        std::vector<double> at;
        for (const auto* list : {&b_.bores, &b_.dowels})
            for (const HoleBlueprint& hole : *list)
                if (hole.id.bank == bank.id)
                    holes.push_back(&hole);
        for (const HoleBlueprint* hole : holes)
            if (hole->id.kind == block::FeatureKind::bore)
                at.push_back(hole->u);
        look_at_pitch(at, [&](std::size_t i) { return holes[i]->id; });
        for (std::size_t i = 0; i < holes.size(); ++i) {
            const Vec2 place{holes[i]->u, holes[i]->v};
            const double radius = holes[i]->diameter.nominal / 2;
            if (!bank.outline_assumed)
                if (const double room = room_inside(bank.deck_outline, place) - radius; room < 0)
                    doubt(Kind::over_edge, holes[i]->id, -room);
            for (std::size_t k = i + 1; k < holes.size(); ++k) {
                const double wall =
                    norm(place - Vec2{holes[k]->u, holes[k]->v}) - radius - holes[k]->diameter.nominal / 2;
                if (wall < 0)
                    doubt(Kind::overlap, holes[i]->id, -wall, holes[k]->id);
                else if (wall < usual_deck_wall)
                    doubt(Kind::thin_wall, holes[i]->id, wall, holes[k]->id);
            }
        }
    }

    /// Two banks at opposite angles: the one as the other seen in a mirror, set back by what its bores are on the
    /// whole.
    void look_at_mirror() {
        if (b_.banks.size() != 2 || std::abs(b_.banks[0].angle + b_.banks[1].angle) > 1e-9)
            return;
        const auto like = [&](const HoleBlueprint& h) {
            return b_.hole({h.id.kind, b_.banks[h.id.bank == b_.banks[0].id ? 1 : 0].id, h.id.number});
        };
        std::vector<double> back;
        for (const HoleBlueprint& bore : b_.bores)
            if (const auto* other = bore.id.bank == b_.banks[1].id ? like(bore) : nullptr)
                back.push_back(bore.u - other->u);
        if (back.empty())
            return;
        const double stagger = middle_value(back);
        for (const auto* list : {&b_.bores, &b_.dowels, &b_.lifters})
            for (const HoleBlueprint& hole : *list)
                if (const auto* other = hole.id.bank == b_.banks[1].id ? like(hole) : nullptr) {
                    const double off = std::hypot(hole.u - other->u - stagger, hole.v + other->v);
                    if (off > same_place)
                        doubt(Kind::not_mirrored, hole.id, off, other->id);
                }
    }

    const block::Blueprint& b_;
    std::vector<BlueprintDoubt> doubts_;
};

} // namespace

std::vector<BlueprintDoubt> doubts_of(const block::Blueprint& blueprint) {
    return Checker(blueprint).run();
}

std::vector<BlueprintDoubt> doubts_of(const block::Blueprint& b, const block::EngineFigures& figures) {
    std::vector<BlueprintDoubt> doubts = doubts_of(b);
    if (figures.stroke && figures.rod && figures.pin_height)
        for (const block::BankBlueprint& bank : b.banks) {
            const double below = bank.deck_height.nominal - (*figures.stroke / 2 + *figures.rod + *figures.pin_height);
            if (below > lowest_crown || below < -highest_crown)
                doubts.push_back({Kind::stack, {block::FeatureKind::deck, bank.id, 0}, {}, below});
        }
    if (b.cam && b.cam_drive && b.cam_drive->pitch > 0 && b.cam_drive->chain_length) {
        const ChainDrive chain{b.cam_drive->teeth_crank, b.cam_drive->teeth_cam, b.cam_drive->pitch};
        const double over = *b.cam_drive->chain_length - chain_length(chain, std::hypot(b.cam->y, b.cam->z));
        if (std::abs(over) > b.cam_drive->pitch) // a link more or less
            doubts.push_back({Kind::chain, {block::FeatureKind::cam, "", 1}, {}, over});
    }
    return doubts;
}

std::string doubt_id(const BlueprintDoubt& doubt) {
    return blueprint_doubt_keys[static_cast<std::size_t>(doubt.kind)] + (" " + doubt.about.text()) +
           (doubt.other ? " " + doubt.other->text() : "");
}

std::vector<FeatureId> without_limits(const block::Blueprint& b) {
    std::vector<FeatureId> bare;
    const auto add = [&](const auto& list) {
        const auto found = std::ranges::find_if(list, [](const auto& item) { return !item.diameter.whole(); });
        if (found != list.end())
            bare.push_back(found->id);
    };
    for (const block::BankBlueprint& bank : b.banks)
        if (!bank.deck_height.whole() && bare.empty())
            bare.push_back({block::FeatureKind::deck, bank.id, 0});
    add(b.mains);
    add(b.bores);
    add(b.lifters);
    return bare;
}

} // namespace pallix::planning
