// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_belief.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "metrology/linear_program.h"
#include "planning/common/experience.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>
#include <set>
#include <utility>

namespace pallix::planning {

using block::DeckCut;
using block::JobState;
using metrology::Touch;
using metrology::Vec2;
using metrology::Vec3;

namespace {

constexpr std::size_t most_nodes = 140, most_heights = 150;
constexpr double least_spacing = 14;  // mm between nodes
constexpr double painting_core = 0.6; // share of a brush's radius that is surely dark: its rim may spill over
constexpr double painting_slack = 8;  // mm round a painted place where nothing is taken from its edge

/// A grid over the metal, and the painted places.
std::vector<Vec2> nodes_of(const block::Blueprint& blueprint, const block::BankBlueprint& bank,
                           const std::vector<DeckCut>& cuts) {
    const DeckExtent e = deck_extent(bank);
    const double spacing = std::max(least_spacing, std::sqrt(e.length() * e.width() / most_nodes));
    const int along = static_cast<int>(std::ceil(e.length() / spacing)),
              across = static_cast<int>(std::ceil(e.width() / spacing));
    std::vector<Vec2> nodes;
    const auto far_from_all = [&nodes](Vec2 p) {
        return std::ranges::none_of(nodes, [p](Vec2 n) { return norm(n - p) < 4; });
    };
    for (const DeckCut& cut : cuts)
        for (const Vec2 dark : cut.dark)
            if (nodes.size() < most_nodes / 2 && far_from_all(dark))
                nodes.push_back(dark);
    for (int i = 0; i <= along; ++i)
        for (int j = 0; j <= across; ++j) {
            const Vec2 p{e.low.x + i * e.length() / along, e.low.y + j * e.width() / across};
            // A hair inside, so that the very edge counts as metal.
            const Vec2 middle = 0.5 * (e.low + e.high);
            if (on_metal(blueprint, bank, middle + 0.999 * (p - middle)) && far_from_all(p))
                nodes.push_back(p);
        }
    return nodes;
}

/// All heights, or of a dense scan the lowest and the highest of every cell of a grid.
std::vector<Vec3> telling_heights(const std::vector<Vec3>& points, const block::BankBlueprint& bank) {
    if (points.size() <= most_heights)
        return points;
    const DeckExtent e = deck_extent(bank);
    const double cell = std::sqrt(e.length() * e.width() / (most_heights / 2.0));
    const auto columns = static_cast<std::size_t>(e.length() / cell) + 2,
               rows = static_cast<std::size_t>(e.width() / cell) + 2;
    std::vector<std::pair<const Vec3*, const Vec3*>> extremes(columns * rows, {nullptr, nullptr});
    for (const Vec3& p : points) {
        const auto column = static_cast<std::size_t>(
                       std::clamp((p.x - e.low.x) / cell, 0.0, static_cast<double>(columns - 1))),
                   row =
                       static_cast<std::size_t>(std::clamp((p.y - e.low.y) / cell, 0.0, static_cast<double>(rows - 1)));
        auto& [low, high] = extremes[row * columns + column];
        if (!low || p.z < low->z)
            low = &p;
        if (!high || p.z > high->z)
            high = &p;
    }
    std::vector<Vec3> kept;
    for (const auto& [low, high] : extremes) {
        if (low)
            kept.push_back(*low);
        if (high && high != low)
            kept.push_back(*high);
    }
    return kept;
}

/// The nodes under each dab of paint: somewhere under the brush it was dark, not all over. Dabs over the same nodes are
/// one.
std::vector<std::vector<std::size_t>> marks_of(const DeckCut& cut, const std::vector<Vec2>& nodes) {
    std::set<std::vector<std::size_t>> marks;
    for (const Vec2 dark : cut.dark) {
        std::vector<std::size_t> under;
        std::size_t nearest = 0;
        for (std::size_t i = 0; i < nodes.size(); ++i) {
            if (norm(nodes[i] - dark) <= cut.brush)
                under.push_back(i);
            if (norm(nodes[i] - dark) < norm(nodes[nearest] - dark))
                nearest = i;
        }
        if (under.empty())
            under.push_back(nearest);
        marks.insert(std::move(under));
    }
    return {marks.begin(), marks.end()};
}

/// The passes since a bank was last measured, with the depth below first touch they ran at.
struct Passes {
    std::vector<DeckCut> cuts;
    std::vector<double> depths;
    std::vector<std::int64_t> sequences;
};
Passes passes_since_measured(const block::DeckState& deck) {
    Passes p;
    double depth = 0;
    for (const block::TakenCut& taken : deck.cuts)
        if (taken.sequence > deck.latest->sequence) {
            depth += taken.cut.depth;
            p.cuts.push_back(taken.cut);
            p.depths.push_back(depth);
            p.sequences.push_back(taken.sequence);
        }
    return p;
}

/// Intervals as wide again about their middles, and the draws with them.
void stretch(metrology::SurfaceBelief& surface, double by) {
    const double low = surface.lowest.middle;
    const auto wider = [by](metrology::Interval& i) {
        i.low = i.middle - by * (i.middle - i.low);
        i.high = i.middle + by * (i.high - i.middle);
    };
    wider(surface.lowest);
    wider(surface.removal);
    surface.removal.low = std::max(0.0, surface.removal.low);
    for (double& draw : surface.lowest_draws)
        draw = low + by * (draw - low);
}

void find_decisive_place(DeckBelief& belief, const block::BankBlueprint& bank) {
    std::array<double, 9> shares{};
    std::array<std::size_t, 9> best{};
    for (std::size_t i = 0; i < belief.nodes.size(); ++i) {
        const PlaceOnDeck at = place_on_deck(bank, belief.nodes[i]);
        const std::size_t across = at.across == Across::middle ? 1 : at.across == positive_side(bank) ? 2 : 0;
        const std::size_t zone = 3 * static_cast<std::size_t>(at.along) + across;
        if (shares[zone] == 0 || belief.surface.lowest_share[i] > belief.surface.lowest_share[best[zone]])
            best[zone] = i;
        shares[zone] += belief.surface.lowest_share[i];
    }
    const auto zone = static_cast<std::size_t>(std::ranges::max_element(shares) - shares.begin());
    belief.decides = belief.nodes[best[zone]];
    belief.where = place_on_deck(bank, belief.decides);
    belief.where_share = shares[zone];
}

} // namespace

Touch touch_at(const DeckCut& cut, Vec2 place) {
    double nearest = std::numeric_limits<double>::infinity();
    for (const Vec2 dark : cut.dark)
        nearest = std::min(nearest, norm(dark - place));
    if (nearest <= painting_core * cut.brush)
        return Touch::dark;
    if (cut.clean || (cut.rest_bright && nearest > cut.brush + painting_slack))
        return Touch::bright;
    return Touch::unknown;
}

double DeckBelief::cleans_at(double height) const {
    const auto& lows = surface.lowest_draws;
    const auto above = lows.end() - std::ranges::lower_bound(lows, height);
    return static_cast<double>(above) / static_cast<double>(lows.size());
}

double DeckBelief::deviation_at(Vec2 place) const {
    const auto nearest = std::ranges::min_element(nodes, {}, [place](Vec2 n) { return norm(n - place); });
    return surface.deviation[static_cast<std::size_t>(nearest - nodes.begin())];
}

metrology::Interval DeckBelief::still_to_cut() const {
    const auto left = [this](double removal) { return std::max(0.0, removal - taken); };
    return {left(surface.removal.low), left(surface.removal.middle), left(surface.removal.high)};
}

std::optional<DeckQuestion> ask_about_deck(const JobState& state, const std::string& bank_id) {
    const block::DeckState& deck = decks_of(state).deck(bank_id);
    if (!deck.latest || deck.from_other_tunnel())
        return std::nullopt;
    const Passes passes = passes_since_measured(deck);
    DeckQuestion q{*intake_of(state).blueprint->bank(bank_id),
                   bank_id + "@" + std::to_string(deck.latest->sequence),
                   deck.latest->sequence,
                   0,
                   {}};
    q.taken = passes.depths.empty() ? 0 : passes.depths.back();
    q.widened = widened_by(state, block::ForecastKind::removal, deck_measured_by(state, bank_id));
    if (deck.as_found && deck.as_found->sequence == deck.latest->sequence) // how blocks come, not how they are left
        q.usual = usual_of(state, block::Trait::deck_shape, "deck." + bank_id);
    if (q.usual && q.usual->mean > 0)
        q.surface.usual_flatness = q.usual->mean;
    q.surface.nodes = nodes_of(*intake_of(state).blueprint, q.bank, passes.cuts);
    for (const block::HoleBlueprint& bore : intake_of(state).blueprint->bores)
        if (bore.id.bank == bank_id && !bore.place_assumed)
            q.surface.openings.push_back({{bore.u, bore.v}, bore.diameter.nominal / 2});
    for (const Vec3 p : telling_heights(deck.latest->result.points, q.bank))
        q.surface.seen.push_back({{p.x, p.y}, p.z, deck.latest->standard_uncertainty});
    for (std::size_t i = 0; i < passes.cuts.size(); ++i) {
        q.key += "," + std::to_string(passes.sequences[i]);
        metrology::CutSeen cut{passes.depths[i], infeed_uncertainty * std::sqrt(static_cast<double>(i + 1)), {}, {}};
        for (const Vec2 node : q.surface.nodes)
            cut.touched.push_back(touch_at(passes.cuts[i], node) == Touch::bright ? Touch::bright : Touch::unknown);
        cut.marks = marks_of(passes.cuts[i], q.surface.nodes);
        q.surface.cuts.push_back(std::move(cut));
    }
    return q;
}

std::optional<DeckBelief> answer(const DeckQuestion& q) {
    auto surface = metrology::believe(q.surface);
    if (!surface)
        return std::nullopt;
    if (q.widened)
        stretch(*surface, q.widened->widen);
    DeckBelief belief;
    belief.bank = q.bank.id;
    belief.key = q.key;
    belief.measured = q.measured;
    belief.nodes = q.surface.nodes;
    belief.taken = q.taken;
    belief.widened = q.widened;
    belief.usual = q.usual;
    belief.surface = std::move(*surface);
    find_decisive_place(belief, q.bank);
    return belief;
}

void find_contradictions(DeckBelief& belief, const JobState& state) {
    const auto& surface = belief.surface;
    belief.contradictions = contradictions_of(state, belief.bank, surface.cut_heights, surface.cut_height_deviation);
    belief.suspicion =
        suspect_for(state, belief.bank, belief.contradictions, surface.cut_heights, surface.cut_height_deviation);
}

std::vector<Vec3> learned_points(const DeckBelief& belief, const std::vector<Vec3>& measured) {
    std::vector<Vec3> points;
    for (std::size_t i = 0; i < belief.nodes.size(); ++i)
        points.push_back({belief.nodes[i].x, belief.nodes[i].y, belief.surface.mean[i]});
    if (measured.size() > most_heights)
        return points;
    for (const Vec3 p : measured)
        if (std::ranges::none_of(belief.nodes, [p](Vec2 n) { return norm(n - Vec2{p.x, p.y}) < 4; }))
            points.push_back(p);
    return points;
}

std::vector<std::string> banks_to_believe(const JobState& state) {
    const block::DecksState& decks = decks_of(state);
    std::vector<std::string> banks;
    if (!intake_of(state).blueprint || decks.target.school != block::TargetSchool::least_cut ||
        decks.target.clean == block::Sureness::as_measured)
        return banks;
    for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks) {
        const block::DeckState& deck = decks.deck(bank.id);
        if (deck.latest && !deck.from_other_tunnel() && !deck.marked_clean())
            banks.push_back(bank.id);
    }
    return banks;
}

CleanDepths clean_depths(const JobState& state) {
    CleanDepths depths;
    for (const std::string& bank : banks_to_believe(state))
        if (const auto question = ask_about_deck(state, bank))
            if (const auto belief = answer(*question))
                depths[bank] = belief->clean_depth();
    return depths;
}

std::optional<DeckBelief> believe_deck(const JobState& state, const std::string& bank) {
    const auto question = ask_about_deck(state, bank);
    auto belief = question ? answer(*question) : std::nullopt;
    if (belief)
        find_contradictions(*belief, state);
    return belief;
}

namespace {

/// Whether a measured place was surely dark: painted all round it, so that no mark beside it explains the paint.
bool painted_round(const DeckCut& cut, Vec2 place) {
    constexpr int around = 8;
    for (int k = 0; k < around; ++k) {
        const double a = 2 * std::numbers::pi * k / around;
        const Vec2 beside = place + cut.brush * Vec2{std::cos(a), std::sin(a)};
        if (std::ranges::none_of(cut.dark, [&](Vec2 d) { return norm(d - beside) <= cut.brush; }))
            return false;
    }
    return true;
}

/// What a pass says of every measured place that it surely left dark or touched.
struct Mark {
    std::int64_t cut = 0;
    Vec2 place;
    double over = 0; ///< mm, measured height less where the cut should have run
    bool dark = false;
};
std::vector<Mark> marks_against(const block::DeckState& deck, const std::vector<double>& cut_heights) {
    std::vector<Mark> marks;
    const Passes passes = passes_since_measured(deck);
    for (std::size_t k = 0; k < passes.cuts.size() && k < cut_heights.size(); ++k)
        for (const Vec3 p : deck.latest->result.points) {
            const Touch touch = touch_at(passes.cuts[k], {p.x, p.y});
            if (touch == Touch::bright || (touch == Touch::dark && painted_round(passes.cuts[k], {p.x, p.y})))
                marks.push_back({passes.sequences[k], {p.x, p.y}, p.z - cut_heights[k], touch == Touch::dark});
        }
    return marks;
}

/// How far one mark may lie on the wrong side of its cut before it is named where the passes are doubted.
double named_from(const block::DeckState& deck, double uncertainty) {
    return 2 * std::hypot(deck.latest->standard_uncertainty.value_or(0.003), uncertainty, infeed_uncertainty);
}

/// Whether marks and heights cannot both be right. Either one mark lies further off than the furthest of so many would
/// by chance in one job of fifty; or one shift of the cut, unlikely as it is, explains the marks so much better that
/// chance alone would have it in one job of a thousand (a drop of χ² by 11).
bool cannot_be(const block::DeckState& deck, const std::vector<Mark>& marks, double uncertainty) {
    const double of_touch = deck.latest->standard_uncertainty.value_or(0.003),
                 of_cut = std::hypot(uncertainty, infeed_uncertainty);
    const double furthest = std::sqrt(2 * std::log(std::max(25.0 * static_cast<double>(marks.size()), 2.0)));
    const auto off = [](const Mark& m, double shift) { return std::max(0.0, (m.dark ? 1 : -1) * (m.over - shift)); };
    if (std::ranges::any_of(marks, [&](const Mark& m) { return off(m, 0) > furthest * of_touch + 2.3 * of_cut; }))
        return true;
    const auto disagreement = [&](double shift) {
        double sum = shift * shift / (of_cut * of_cut);
        for (const Mark& m : marks)
            sum += off(m, shift) * off(m, shift) / (of_touch * of_touch);
        return sum;
    };
    double least = disagreement(0);
    for (double shift = -0.1; shift < 0.1; shift += 0.001)
        least = std::min(least, disagreement(shift));
    return disagreement(0) - least > 11;
}

} // namespace

std::vector<Contradiction> contradictions_of(const JobState& state, const std::string& bank,
                                             const std::vector<double>& cut_heights, double uncertainty) {
    std::vector<Contradiction> found;
    const block::DeckState& deck = decks_of(state).deck(bank);
    if (!deck.latest)
        return found;
    const std::vector<Mark> marks = marks_against(deck, cut_heights);
    if (!cannot_be(deck, marks, uncertainty))
        return found;
    const double allowed = named_from(deck, uncertainty);
    for (const Mark& m : marks)
        if (m.dark ? m.over > allowed : m.over < -allowed)
            found.push_back({m.cut, m.place, m.dark, std::abs(m.over)});
    return found;
}

std::optional<Suspicion> suspect_for(const JobState& state, const std::string& bank,
                                     const std::vector<Contradiction>& contradictions,
                                     const std::vector<double>& cut_heights, double uncertainty) {
    if (contradictions.empty())
        return std::nullopt;
    const block::DeckState& deck = decks_of(state).deck(bank);
    // The true cut at (u, v) ran at its height + shift + along·u + across·v: which of these satisfy every mark?
    const std::vector<Mark> marks = marks_against(deck, cut_heights);
    const double allowed = named_from(deck, uncertainty);
    const DeckExtent e = deck_extent(*intake_of(state).blueprint->bank(bank));
    const Vec2 middle = 0.5 * (e.low + e.high);
    // Least shift (and tilt) that leaves no mark on the wrong side by more than is allowed; µm, to be near 1.
    const auto explain = [&](bool with_tilt, std::optional<Vec2> without) -> std::optional<std::array<double, 3>> {
        metrology::LinearProgram lp;
        using Terms = std::vector<metrology::LinearProgram::Term>;
        const std::size_t shift = lp.add_variable(), along = lp.add_variable(), across = lp.add_variable(),
                          size = lp.add_variable(0);
        for (const std::size_t v : {shift, along, across}) {
            lp.add_row(Terms{{v, 1}, {size, -1}}, 0);
            lp.add_row(Terms{{v, -1}, {size, -1}}, 0);
        }
        if (!with_tilt)
            for (const std::size_t v : {along, across}) {
                lp.add_row(Terms{{v, 1}}, 0);
                lp.add_row(Terms{{v, -1}}, 0);
            }
        for (const Mark& m : marks) {
            if (without && norm(*without - m.place) < 1e-6)
                continue;
            const double u = (m.place.x - middle.x) / (e.length() / 2), v = (m.place.y - middle.y) / (e.width() / 2);
            const double sign = m.dark ? -1 : 1; // dark: the cut ran above it; touched: below
            lp.add_row(Terms{{shift, sign}, {along, sign * u}, {across, sign * v}}, 1000 * (sign * m.over + allowed));
        }
        const auto found = lp.minimise({{size, 1}});
        if (!found)
            return std::nullopt;
        return std::array{(*found)[shift] / 1000, (*found)[along] / 1000, (*found)[across] / 1000};
    };
    Suspicion s;
    // One place alone: it is the likelier culprit, since all others agree.
    const Vec2 first = contradictions.front().place;
    const bool one_place =
        std::ranges::all_of(contradictions, [first](const Contradiction& c) { return norm(c.place - first) < 1e-6; });
    if (one_place && marks.size() > 1 && explain(false, first)) {
        s.suspect = Suspect::bad_touch;
        s.place = first;
        return s;
    }
    if (const auto shift = explain(false, {})) {
        s.suspect = Suspect::wrong_depth;
        s.depth_error = -(*shift)[0];
        return s;
    }
    if (const auto tilt = explain(true, {})) {
        s.suspect = Suspect::moved_block;
        s.along = (*tilt)[1] / (e.length() / 2);
        s.across = (*tilt)[2] / (e.width() / 2);
    }
    return s;
}

std::optional<ForecastOutcome> forecast_outcome(const JobState& state, const std::string& bank) {
    const auto last = std::ranges::find_if(decks_of(state).forecasts.rbegin(), decks_of(state).forecasts.rend(),
                                           [&](const auto& f) { return f.payload.bank == bank; });
    if (last == decks_of(state).forecasts.rend())
        return std::nullopt;
    ForecastOutcome outcome{last->payload, 0, false};
    for (const block::TakenCut& taken : decks_of(state).deck(bank).cuts) {
        if (taken.sequence < last->sequence)
            continue;
        outcome.taken += taken.cut.depth;
        if (taken.cut.clean) {
            outcome.clean = true;
            break;
        }
    }
    return outcome;
}

} // namespace pallix::planning
