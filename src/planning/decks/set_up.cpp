// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/set_up.h"

#include "block/reading_text.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/place.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <regex>

namespace pallix::planning {

using block::MeasuredAt;
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
    SetUpCorrection c{tilt->along, tilt->across, 0, 0, 0, {}, 0};
    const auto [lowest, highest] = std::ranges::minmax(set_up.readings, {}, &block::SetUpRead::Reading::height);
    c.spread = highest.height - lowest.height;
    double lowest_tilt = std::numeric_limits<double>::infinity(), highest_tilt = -lowest_tilt;
    for (const auto& r : set_up.readings) {
        c.misfit = std::max(c.misfit, std::abs(r.height - tilt->at(r.place)));
        lowest_tilt = std::min(lowest_tilt, tilt->at(r.place));
        highest_tilt = std::max(highest_tilt, tilt->at(r.place));
    }
    c.tilt = highest_tilt - lowest_tilt;
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

namespace {

/// mm, by which + across is up where the level shows + : outwards, of an inline block to the right.
double outwards(const block::BankBlueprint& bank) {
    return bank.angle < 0 ? -1 : 1;
}

MeasuredAt slope_reading(const std::string& bank, const char* way) {
    return {{block::FeatureKind::deck, bank, 0}, block::Quantity::slope, "", way, {}};
}

const block::MeasuredPlace* fresh_at(const block::JobState& state, const MeasuredAt& at) {
    const block::MeasuredPlace* place = readings_of(state).place(at);
    return place && !place->stale() ? place : nullptr;
}

std::int64_t newest_at(const block::JobState& state, const MeasuredAt& at) {
    const block::MeasuredPlace* place = readings_of(state).place(at);
    return place ? place->sequences.back() : 0;
}

using Readings = std::vector<block::SetUpRead::Reading>;

/// What an indicator would read at the corners of a plane that lies as the level shows; nothing before it was laid both
/// ways.
Readings corners_by_level(const block::JobState& state, const block::BankBlueprint& bank) {
    constexpr double per_m = 1e-3;
    const auto* along = fresh_at(state, slope_reading(bank.id, "along"));
    const auto* across = fresh_at(state, slope_reading(bank.id, "across"));
    if (!along || !across)
        return {};
    const DeckExtent e = deck_extent(bank);
    const Vec2 middle = 0.5 * (e.low + e.high);
    Readings read;
    for (const block::DeckPlace& corner : block::deck_places(bank)) {
        const Vec2 from = corner.place - middle;
        read.push_back({corner.place, per_m * (along->value * from.x + outwards(bank) * across->value * from.y)});
    }
    return read;
}

/// Entries of what was read of a bank's lie last, by either; 0 for nothing.
struct LastRead {
    std::int64_t indicator = 0, level = 0;
};
LastRead last_read(const block::JobState& state, const std::string& bank) {
    LastRead last;
    for (const block::DeckPlace& corner : block::deck_places(*intake_of(state).blueprint->bank(bank)))
        last.indicator = std::max(last.indicator, newest_at(state, corner_reading(bank, corner, false)));
    for (const char* way : {"along", "across"})
        last.level = std::max(last.level, newest_at(state, slope_reading(bank, way)));
    return last;
}

/// Entry up to which a bank's lie is known: what was read of it last, or kept before there was a line to read in.
std::int64_t known_until(const block::JobState& state, const std::string& bank) {
    const LastRead last = last_read(state, bank);
    const std::int64_t newest = std::max(last.indicator, last.level);
    const auto kept = decks_of(state).set_ups.find(bank);
    return newest == 0 && kept != decks_of(state).set_ups.end() ? kept->second.sequence : newest;
}

/// Height of a deck at a corner, mm: its plane there, and what the place measured next to it is off the plane; no
/// higher than the cuts up to then have left it.
/// @return nothing where it was not measured, or from a tunnel that was cut since
std::optional<double> own_height(const block::DeckState& deck, Vec2 place, std::int64_t until) {
    if (!deck.latest || deck.from_other_tunnel() || deck.latest->result.points.empty())
        return std::nullopt;
    const block::DeckResult& d = deck.latest->result;
    const auto plane = [&d](Vec2 at) {
        return d.height_mean + d.slope_u * (at.x - d.middle.x) + d.tilt_v * (at.y - d.middle.y);
    };
    const auto next = std::ranges::min_element(d.points, {}, [place](const metrology::Vec3& p) {
        return norm(Vec2{p.x, p.y} - place);
    });
    const double height = plane(place) + next->z - plane({next->x, next->y});
    const double depth = deck.depth_since(deck.latest->sequence) - deck.depth_since(until);
    return depth > 0 ? std::min(height, d.height_max - depth) : height;
}

/// Less what the deck itself rose by there, from the tunnel, when that was read.
/// @return nothing where its heights are not known
std::optional<Readings> less_its_own(const block::JobState& state, const std::string& bank, Readings read) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    const std::int64_t until = known_until(state, bank);
    if (read.empty())
        return std::nullopt;
    std::vector<double> own;
    own.reserve(read.size());
    for (const auto& r : read) {
        const auto height = own_height(deck, r.place, until);
        if (!height)
            return std::nullopt;
        own.push_back(*height);
    }
    const double middle = std::accumulate(own.begin(), own.end(), 0.0) / static_cast<double>(own.size());
    for (std::size_t i = 0; i < read.size(); ++i)
        read[i].height -= own[i] - middle;
    return read;
}

/// One side of a station against the other; nothing where either was not read.
std::optional<double> across_station(const block::BankBlueprint& bank, const Readings& read, bool rear) {
    std::optional<double> plus, minus;
    for (const block::DeckPlace& corner : block::deck_places(bank))
        for (const auto& r : read)
            if (corner.rear == rear && norm(r.place - corner.place) < 1e-3)
                (corner.positive_v ? plus : minus) = r.height;
    return plus && minus ? std::optional(*plus - *minus) : std::nullopt;
}

/// Of two stations that no plane takes in, the one that is further out is pulled; of one alone, its low side.
std::optional<ClampEase> clamp_to_ease(const block::BankBlueprint& bank, const Readings& read) {
    const auto front = across_station(bank, read, false), rear = across_station(bank, read, true);
    if (front && rear) {
        const double twist = *front - *rear;
        if (std::abs(twist) / 2 <= level_enough) // what a plane leaves of it
            return std::nullopt;
        const bool at_rear = std::abs(*rear) > std::abs(*front);
        return ClampEase{at_rear, (at_rear ? *rear : *front) < 0, std::abs(twist)};
    }
    const auto& one = front ? front : rear;
    if (!one || read.size() > 2 || std::abs(*one) <= level_enough)
        return std::nullopt;
    return ClampEase{rear.has_value(), *one < 0, std::abs(*one)};
}

/// Eased so often since the last cut that what is left is the deck's own, or misread (common practice, no source).
bool eased_enough(const block::JobState& state, const std::string& bank) {
    constexpr std::ptrdiff_t enough = 2;
    return std::ranges::count_if(tunnel_of(state).steps, [&](const auto& step) {
               return step.first > decks_of(state).deck(bank).last_cut() && step.second == clamp_eased + bank;
           }) >= enough;
}

} // namespace

MeasuredAt corner_reading(const std::string& bank, const block::DeckPlace& corner, bool head) {
    const block::FeatureId deck{block::FeatureKind::deck, bank, 0};
    if (head)
        return {deck, block::Quantity::head_height, "", "", corner.place};
    return {deck, block::Quantity::indicator, corner.rear ? "rear" : "front", corner.positive_v ? "+v" : "-v", {}};
}

bool by_level(const block::JobState& state, const std::string& bank) {
    const LastRead last = last_read(state, bank);
    return last.level > last.indicator;
}

block::SetUpRead set_up_of(const block::JobState& state, const std::string& bank_id, bool head) {
    const block::BankBlueprint& bank = *intake_of(state).blueprint->bank(bank_id);
    const DeckExtent e = deck_extent(bank);
    constexpr double in = 30; // mm from the ends
    block::SetUpRead set_up{bank_id,
                            head ? std::string(block::on_head) : "deck",
                            {},
                            {{"front left", {e.low.x + in, e.low.y}},
                             {"front right", {e.low.x + in, e.high.y}},
                             {"rear", {e.high.x - in, 0}}}};
    const auto& kept_all = decks_of(state).set_ups;
    if (const auto kept = kept_all.find(block::set_up_key(bank_id, head)); kept != kept_all.end())
        set_up = kept->second.payload;
    if (!head && by_level(state, bank_id)) {
        set_up.readings = corners_by_level(state, bank);
        return set_up;
    }
    Readings read;
    bool by_line = false;
    for (const block::DeckPlace& corner : block::deck_places(bank)) {
        const MeasuredAt at = corner_reading(bank_id, corner, head);
        by_line = by_line || readings_of(state).place(at);
        if (const auto* place = fresh_at(state, at))
            read.push_back({corner.place, place->value});
    }
    if (by_line) // what was kept beside the feet is older
        set_up.readings = std::move(read);
    return set_up;
}

SetUpLie set_up_lie(const block::JobState& state, block::SetUpRead set_up) {
    SetUpLie lie;
    const std::string bank = set_up.bank;
    const bool head = set_up.surface == block::on_head;
    lie.by_level = !head && by_level(state, bank);
    block::SetUpRead judged = set_up;
    if (auto own = set_up.surface == "deck" ? less_its_own(state, bank, set_up.readings) : std::nullopt) {
        lie.less_its_own = true;
        judged.readings = std::move(*own);
    }
    lie.read = std::move(set_up);
    lie.correction = correct_set_up(judged);
    // A deck whose heights nobody knows may be twisted itself; a level shows none.
    const bool tells_clamps = !head && !lie.by_level && (lie.less_its_own || lie.read.surface != "deck");
    if (tells_clamps && !eased_enough(state, bank))
        lie.ease = clamp_to_ease(*intake_of(state).blueprint->bank(bank), judged.readings);
    return lie;
}

bool SetUpLie::to_mend() const {
    if (ease)
        return true;
    if (!correction || correction->spread <= level_enough || correction->tilt <= level_enough)
        return false; // what differs beside the tilt is the surface
    // Two feet cannot take out every tilt.
    return std::ranges::any_of(correction->moves, [](const FootMove& m) { return m.raise >= level_enough / 2; });
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
