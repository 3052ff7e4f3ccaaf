// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/set_up.h"

#include "block/reading_text.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/place.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <regex>

namespace pallix::planning {

using metrology::Vec2;

namespace {

struct Tilt {
    double along = 0, across = 0, height = 0;
    [[nodiscard]] double at(Vec2 p) const { return height + along * p.x + across * p.y; }
};

/// Least squares of height over place (moments about the mean place); nothing for places on one line.
std::optional<Tilt> plane_through(const std::vector<block::SetUpRead::Reading>& readings) {
    const auto n = static_cast<double>(readings.size());
    Vec2 mean;
    double height = 0;
    for (const auto& r : readings) {
        mean = mean + (1 / n) * r.place;
        height += r.height / n;
    }
    double xx = 0, xy = 0, yy = 0, xh = 0, yh = 0;
    for (const auto& r : readings) {
        const Vec2 d = r.place - mean;
        xx += d.x * d.x, xy += d.x * d.y, yy += d.y * d.y;
        xh += d.x * (r.height - height), yh += d.y * (r.height - height);
    }
    const double det = xx * yy - xy * xy;
    if (det <= 1e-6 * (xx + yy) * (xx + yy))
        return std::nullopt;
    Tilt t{(xh * yy - yh * xy) / det, (yh * xx - xh * xy) / det, 0};
    t.height = height - t.along * mean.x - t.across * mean.y;
    return t;
}

} // namespace

std::optional<SetUpCorrection> correct_set_up(const block::SetUpRead& set_up) {
    const auto tilt = set_up.readings.size() >= 3 ? plane_through(set_up.readings) : std::nullopt;
    const auto& feet = set_up.feet;
    if (!tilt || feet.size() < 2 || norm(feet[1].place - feet[0].place) < 1)
        return std::nullopt;
    SetUpCorrection c{tilt->along, tilt->across, 0, 0, {}, 0};
    const auto [lowest, highest] = std::ranges::minmax(set_up.readings, {}, &block::SetUpRead::Reading::height);
    c.spread = highest.height - lowest.height;
    for (const auto& r : set_up.readings)
        c.misfit = std::max(c.misfit, std::abs(r.height - tilt->at(r.place)));
    Tilt taken = *tilt; // what the feet take out
    if (feet.size() == 2) {
        const Vec2 d = (1 / norm(feet[1].place - feet[0].place)) * (feet[1].place - feet[0].place);
        const double slope = dot(d, {tilt->along, tilt->across});
        taken.along = slope * d.x;
        taken.across = slope * d.y;
    }
    double top = -std::numeric_limits<double>::infinity();
    for (const auto& foot : feet)
        top = std::max(top, taken.at(foot.place));
    for (const auto& foot : feet)
        c.moves.push_back({foot.name, foot.place, top - taken.at(foot.place)});
    const Tilt rest{tilt->along - taken.along, tilt->across - taken.across, 0};
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (const auto& r : set_up.readings) {
        low = std::min(low, rest.at(r.place));
        high = std::max(high, rest.at(r.place));
    }
    c.left = high - low;
    return c;
}

block::SetUpRead set_up_of(const block::JobState& state, const std::string& bank_id) {
    const block::BankBlueprint& bank = *intake_of(state).blueprint->bank(bank_id);
    const DeckExtent e = deck_extent(bank);
    constexpr double in = 30; // mm from the ends
    block::SetUpRead set_up{bank_id,
                            "deck",
                            {},
                            {{"front left", {e.low.x + in, e.low.y}},
                             {"front right", {e.low.x + in, e.high.y}},
                             {"rear", {e.high.x - in, 0}}}};
    if (const auto kept = decks_of(state).set_ups.find(bank_id); kept != decks_of(state).set_ups.end())
        set_up = kept->second.payload;
    std::vector<block::SetUpRead::Reading> read;
    bool by_line = false;
    for (const block::DeckPlace& corner : block::deck_places(bank)) {
        const block::MeasuredAt at{{block::FeatureKind::deck, bank_id, 0},
                                   block::Quantity::indicator,
                                   corner.rear ? "rear" : "front",
                                   corner.positive_v ? "+v" : "-v",
                                   {}};
        const auto* place = readings_of(state).place(at);
        by_line = by_line || place;
        if (place && !place->stale())
            read.push_back({corner.place, place->value});
    }
    if (by_line) // what was kept beside the feet is older
        set_up.readings = std::move(read);
    return set_up;
}

Stack stack_for(double wanted, const std::vector<double>& on_hand) {
    constexpr int per_mm = 1000;
    const int most = static_cast<int>(std::lround(wanted * per_mm)) + 20 * per_mm;
    constexpr int unreachable = std::numeric_limits<int>::max();
    std::vector<double> pieces = on_hand;
    std::ranges::sort(pieces, std::greater{});
    // fewest[p][h]: pieces needed for height h with the first p of them; kept per piece to walk back.
    std::vector<int> fewest(static_cast<std::size_t>(most) + 1, unreachable);
    fewest[0] = 0;
    std::vector<std::vector<bool>> used;
    for (const double piece : pieces) {
        const auto size = static_cast<std::size_t>(std::max(0L, std::lround(piece * per_mm)));
        used.emplace_back(fewest.size(), false);
        for (std::size_t h = fewest.size(); size > 0 && h-- > size;)
            if (fewest[h - size] != unreachable && fewest[h - size] + 1 < fewest[h]) {
                fewest[h] = fewest[h - size] + 1;
                used.back()[h] = true;
            }
    }
    const auto aim = static_cast<std::size_t>(std::max(0L, std::lround(wanted * per_mm)));
    std::size_t best = 0;
    for (std::size_t h = 0; h < fewest.size(); ++h) {
        const auto off = [aim](std::size_t x) { return x > aim ? x - aim : aim - x; };
        if (fewest[h] != unreachable && (off(h) < off(best) || (off(h) == off(best) && fewest[h] < fewest[best])))
            best = h;
    }
    Stack stack{{}, static_cast<double>(best) / per_mm};
    for (std::size_t p = pieces.size(), h = best; p-- > 0;)
        if (used[p][h]) {
            stack.pieces.push_back(pieces[p]);
            h -= static_cast<std::size_t>(std::lround(pieces[p] * per_mm));
        }
    std::ranges::sort(stack.pieces, std::greater{});
    return stack;
}

std::vector<double> pieces_on_hand(const std::string& typed, block::Unit bench) {
    static const std::regex piece("([0-9.]+)\\s*(mm|in|thou|\"|t|µm)?");
    std::vector<double> pieces;
    for (auto found = std::sregex_iterator(typed.begin(), typed.end(), piece); found != std::sregex_iterator(); ++found)
        if (const auto mm = block::read_length((*found)[1].str() + " " + (*found)[2].str(), bench); mm && *mm > 0)
            pieces.push_back(*mm);
    return pieces;
}

} // namespace pallix::planning
