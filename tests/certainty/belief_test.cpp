// SPDX-License-Identifier: GPL-3.0-or-later
// What is believed of a deck, on decks as shops get them: none of these kinds is made by the belief's own prior.
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "certainty/coverage.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_map.h"
#include "planning/decks/straightedge.h"
#include "workshop/harbour.h"

#include <cmath>
#include <functional>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using metrology::Vec2;
using metrology::Vec3;

namespace {

using test::Dice;
using test::even;
using test::normal;
using DeckForm = std::function<double(Vec2)>; ///< mm over nominal

const std::vector<std::string> kinds{"plain",        "low corner", "gasket rings", "sharp dip",
                                     "rolled edges", "step",       "sunk webs",    "worn round bores"};

metrology::SurfaceFeature feature_of(const std::string& kind) {
    using enum metrology::SurfaceFeature;
    const std::map<std::string, metrology::SurfaceFeature> features{
        {"plain", hollows},     {"low corner", corner}, {"gasket rings", rings}, {"sharp dip", hollows},
        {"rolled edges", edge}, {"step", step},         {"sunk webs", webs},     {"worn round bores", wear}};
    return features.at(kind);
}

/// A deck that leans, twists and bows a little, has waves of a few micrometres, and what its kind has.
DeckForm deck_of(const std::string& kind, const block::Blueprint& b, const planning::DeckExtent& e, Dice& dice) {
    const Vec2 middle = 0.5 * (e.low + e.high), half{e.length() / 2, e.width() / 2};
    const double lean = normal(dice, 0.015), tilt = normal(dice, 0.012), twist = normal(dice, 0.005),
                 bow = normal(dice, 0.006), wave = even(dice, 0, 0.002), turn = even(dice, 0, 6.28),
                 long_wave = even(dice, 90, 250);
    const DeckForm base = [=](Vec2 p) {
        const double x = (p.x - middle.x) / half.x, y = (p.y - middle.y) / half.y;
        return lean * x + tilt * y + twist * x * y - bow * x * x +
               wave * std::sin(6.28 * p.x / long_wave + turn) * std::cos(3 * y + turn);
    };
    const double depth = even(dice, 0.01, 0.04);
    std::vector<metrology::Opening> bores;
    for (const auto& bore : b.bores)
        bores.push_back({{bore.u, bore.v}, bore.diameter.nominal / 2});
    if (kind == "low corner") {
        const Vec2 c{even(dice, 0, 1) < 0.5 ? e.low.x : e.high.x, even(dice, 0, 1) < 0.5 ? e.low.y : e.high.y};
        const double reach = even(dice, 25, 110);
        return [=](Vec2 p) { return base(p) - depth * std::max(0.0, 1 - norm(p - c) / reach); };
    }
    if (kind == "gasket rings") {
        const double off = even(dice, 1, 7), width = even(dice, 1.5, 5), shallow = depth / 2;
        return [=](Vec2 p) {
            double deepest = 0;
            for (const auto& o : bores) {
                const double d = std::abs(norm(p - o.centre) - o.radius - off) / width;
                deepest = std::max(deepest, d < 1 ? shallow * (1 - d * d) : 0);
            }
            return base(p) - deepest;
        };
    }
    if (kind == "sharp dip") {
        const Vec2 c{even(dice, e.low.x, e.high.x), even(dice, e.low.y, e.high.y)};
        const double radius = std::exp(even(dice, std::log(5.0), std::log(40.0)));
        return [=](Vec2 p) {
            const double d = norm(p - c) / radius;
            return base(p) - (d < 1 ? depth * (1 - d * d) * (1 - d * d) : 0);
        };
    }
    if (kind == "rolled edges") {
        const double width = even(dice, 3, 20);
        return [=](Vec2 p) {
            const double d = std::min({p.x - e.low.x, e.high.x - p.x, p.y - e.low.y, e.high.y - p.y}) / width;
            return base(p) - (d < 1 ? depth * (1 - d) * (1 - d) : 0);
        };
    }
    if (kind == "step") {
        const double at = even(dice, e.low.x + 30, e.high.x - 30), slant = even(dice, -0.5, 0.5),
                     sign = even(dice, -1, 1) < 0 ? -1 : 1;
        return [=](Vec2 p) { return base(p) + (p.x + slant * (p.y - middle.y) > at ? sign * depth / 2 : 0.0); };
    }
    if (kind == "sunk webs") {
        const double along = even(dice, 5, 18), across = even(dice, 12, 35);
        return [=](Vec2 p) {
            double deepest = 0;
            for (std::size_t i = 0; i + 1 < bores.size(); ++i) {
                const Vec2 m = p - 0.5 * (bores[i].centre + bores[i + 1].centre);
                deepest =
                    std::max(deepest, depth / 2 / (1 + m.x * m.x / (along * along) + m.y * m.y / (across * across)));
            }
            return base(p) - deepest;
        };
    }
    if (kind == "worn round bores") {
        const double reach = even(dice, 4, 20);
        return [=](Vec2 p) {
            double nearest = 1e9;
            for (const auto& o : bores)
                nearest = std::min(nearest, norm(p - o.centre) - o.radius);
            return base(p) - depth / 2 * std::exp(-nearest / reach);
        };
    }
    return base;
}

/// One job on one deck: measured, cut, painted.
class Job {
  public:
    Job(const std::string& kind, const std::string& pattern, std::uint64_t number)
        : blueprint_(workshop::tender_inline_four()), bank_(blueprint_.banks.front()),
          extent_(planning::deck_extent(bank_)), dice_(number), form_(deck_of(kind, blueprint_, extent_, dice_)) {
        const auto along = static_cast<int>(extent_.length() / 2.5), across = static_cast<int>(extent_.width() / 2.5);
        for (int i = 0; i <= along; ++i)
            for (int j = 0; j <= across; ++j) {
                const Vec2 p{extent_.low.x + 0.05 + (extent_.length() - 0.1) * i / along,
                             extent_.low.y + 0.05 + (extent_.width() - 0.1) * j / across};
                if (planning::on_metal(blueprint_, bank_, p))
                    places_.emplace_back(p, height(p));
            }
        std::vector<Vec3> touches;
        const auto [nx, ny, noise] = pattern == "4 corners"  ? std::tuple(2, 2, 0.0025)
                                     : pattern == "8 places" ? std::tuple(4, 2, 0.0025)
                                     : pattern == "10 x 5"   ? std::tuple(10, 5, 0.0012)
                                                             : std::tuple(24, 8, 0.0012);
        for (int i = 0; i < nx; ++i)
            for (int j = 0; j < ny; ++j) {
                const Vec2 p{extent_.low.x + 10 + (extent_.length() - 20) * i / (nx - 1),
                             extent_.low.y + 8 + (extent_.width() - 16) * j / (ny - 1)};
                if (planning::on_metal(blueprint_, bank_, p))
                    touches.push_back({p.x, p.y, height(p) + normal(dice_, noise)});
            }
        intake_of(state_).blueprint = blueprint_;
        block::DeckState& deck = decks_of(state_).decks["C"];
        deck.latest =
            block::DeckMeasurement{block::DeckSource::probe, 2, noise, *block::evaluate_deck(bank_, touches), {}};
        deck.as_found = deck.latest;
    }

    [[nodiscard]] double lowest() const { return std::ranges::min(places_, {}, &Place::second).second; }
    [[nodiscard]] double highest() const { return std::ranges::max(places_, {}, &Place::second).second; }

    /// Cuts to a share of what must come off; what stayed dark is painted with a brush that covers more than the mark.
    void cut_to(double share) {
        block::DeckState& deck = decks_of(state_).decks["C"];
        const double depth = share * (highest() - lowest());
        block::DeckCut cut{"C", block::PassKind::pass, depth - deck.depth_in_all(), false, {}, 8, true};
        const double at = highest() - depth + normal(dice_, 0.001);
        for (const auto& [p, h] : places_)
            if (h < at && std::ranges::none_of(cut.dark, [p = p](Vec2 d) { return norm(d - p) < 5; }))
                cut.dark.push_back(p);
        cut.clean = cut.dark.empty();
        cut.rest_bright = !cut.clean;
        deck.cuts.push_back({static_cast<std::int64_t>(3 + deck.cuts.size()), "", "", cut});
    }
    [[nodiscard]] planning::DeckBelief belief() const { return *planning::believe_deck(state_, "C"); }
    [[nodiscard]] metrology::SurfaceBelief oracle(metrology::SurfaceFeature kind) const {
        return *metrology::believe(planning::ask_about_deck(state_, "C")->surface, 300, 1, kind);
    }

    /// By somebody who knows how flat decks of its kind are over all.
    [[nodiscard]] planning::DeckBelief belief_of_kind(double usual_flatness) const {
        planning::DeckQuestion question = *planning::ask_about_deck(state_, "C");
        question.surface.usual_flatness = usual_flatness;
        return *planning::answer(question);
    }
    /// As a scan of it all would have it.
    [[nodiscard]] double flatness() const {
        std::vector<Vec3> all;
        for (std::size_t i = 0; i < places_.size(); i += 7)
            all.push_back({places_[i].first.x, places_[i].first.y, places_[i].second});
        return block::evaluate_deck(bank_, all)->flatness_mz;
    }

    [[nodiscard]] double height(Vec2 p) const { return bank_.deck_height.nominal + form_(p); }

  private:
    using Place = std::pair<Vec2, double>;
    block::Blueprint blueprint_;
    block::BankBlueprint bank_;
    planning::DeckExtent extent_;
    Dice dice_;
    DeckForm form_;
    std::vector<Place> places_;
    block::Folded state_;
};

} // namespace

// Two decks of each kind in every run, the sharpness of each against one who knows the kind. A hollow between touches,
// or in what stayed dark, is not seen, and what is said has no lower end: it is held against its upper one alone, and
// against both in a row of its own.
TEST(Coverage, OfWhatIsBelievedOfDecks) {
    const std::size_t decks = test::tries(2);
    test::Held all, places;
    std::size_t contradicted = 0, looks = 0;
    for (const std::string pattern : {"4 corners", "8 places", "10 x 5", "24 x 8"})
        for (const std::string& kind : kinds) {
            if (test::too_few_to_judge && (pattern == "24 x 8" || (kind != kinds.front() && kind != kinds.back())))
                continue;
            for (std::size_t i = 0; i < decks; ++i) {
                Job job(kind, pattern, 1000 * i + 17);
                const auto look = [&](const std::string& when) {
                    const planning::DeckBelief b = job.belief();
                    const metrology::SurfaceBelief &said = b.surface, oracle = job.oracle(feature_of(kind));
                    test::Held lowest, removal, both_ends;
                    const double off = job.highest() - job.lowest();
                    lowest.add(said.unseen ? std::max(job.lowest(), said.lowest.low) : job.lowest(), said.lowest.low,
                               said.lowest.high, oracle.lowest.high - oracle.lowest.low);
                    removal.add(said.unseen ? std::min(off, said.removal.high) : off, said.removal.low,
                                said.removal.high, oracle.removal.high - oracle.removal.low);
                    both_ends.add(job.lowest(), said.lowest.low, said.lowest.high);
                    auto& table = test::CertaintyTable::get();
                    table.add("deck, lowest place, " + when + ", its lower end too", kind, both_ends);
                    table.add("deck, lowest place, " + when + ", its lower end too", "all", both_ends);
                    table.add("deck, lowest place, " + when, kind + ", " + pattern, lowest);
                    table.add("deck, removal, " + when, kind + ", " + pattern, removal);
                    table.add("deck, lowest place, " + when, "all", lowest);
                    table.add("deck, removal, " + when, "all", removal);
                    for (std::size_t n = 0; n < b.nodes.size(); n += 5) {
                        const double dev = said.deviation[n];
                        places.add(job.height(b.nodes[n]), said.mean[n] - 2 * dev, said.mean[n] + 2 * dev);
                    }
                    all += lowest;
                    all += removal;
                    contradicted += b.contradictions.empty() ? 0 : 1;
                    ++looks;
                };
                look("before");
                job.cut_to(0.35);
                look("after one pass");
                job.cut_to(0.6);
                job.cut_to(0.85);
                look("after three");
            }
        }
    test::CertaintyTable::get().add("deck, height at a place", "all", places);
    if (test::too_few_to_judge)
        return;
    EXPECT_GE(places.share(), 0.9);
    EXPECT_GE(all.share(), 0.9);
    EXPECT_LE(all.sharpness(), 1.5) << "of one who knows the kind";
    EXPECT_LE(contradicted, 0.03 * static_cast<double>(looks) + 1) << "honest paint";
}

// A shop whose blocks are of one kind has seen how flat their decks are: what is believed of the next, measured at few
// places, is no wider for it, and holds as often.
TEST(Coverage, OfDecksWhoseUsualFlatnessIsKnown) {
    const std::size_t decks = test::tries(6);
    test::Held knowing, without;
    for (const std::string& kind : {kinds[0], kinds[4], kinds[7]}) {
        double usual = 0;
        constexpr int seen = 8;
        for (int i = 0; i < seen; ++i)
            usual += Job(kind, "4 corners", static_cast<std::uint64_t>(900 + i)).flatness() / seen;
        test::Held of_kind;
        for (const std::string pattern : {"4 corners", "8 places"})
            for (std::size_t i = 0; i < decks; ++i) {
                const Job job(kind, pattern, 2000 * i + 31);
                const auto add = [&](test::Held& held, const metrology::SurfaceBelief& said) {
                    const double off = job.highest() - job.lowest();
                    held.add(said.unseen ? std::min(off, said.removal.high) : off, said.removal.low, said.removal.high);
                };
                const planning::DeckBelief known = job.belief_of_kind(usual);
                add(knowing, known.surface);
                add(of_kind, known.surface);
                add(without, job.belief().surface);
            }
        test::CertaintyTable::get().add("deck, removal, usual flatness known", kind, of_kind);
    }
    test::CertaintyTable::get().add("deck, removal, usual flatness known", "all", knowing);
    test::CertaintyTable::get().add("deck, removal, usual flatness known", "the same decks, not known", without);
    if (test::too_few_to_judge)
        return;
    EXPECT_GE(knowing.share(), without.share() - 0.04);
    EXPECT_GE(knowing.share(), 0.86) << "of three dozen, 0.95 less twice their scatter";
    EXPECT_LE(knowing.width, 1.05 * without.width);
}

// Every line of the trade laid on each deck, feelers a hundredth apart: flatness along the lines, exactly, against both
// bounds.
TEST(Coverage, OfFlatnessFromFeelers) {
    const block::Blueprint b = workshop::tender_inline_four();
    const planning::DeckExtent e = planning::deck_extent(b.banks.front());
    Dice dice(6);
    for (const std::string& kind : kinds) {
        test::Held likely;
        for (std::size_t i = 0; i < test::tries(25); ++i) {
            const DeckForm form = deck_of(kind, b, e, dice);
            std::vector<planning::EdgeComparison> lines;
            std::vector<Vec3> along;
            for (const planning::EdgeLine& line : planning::edge_lines(b, b.banks.front().id)) {
                std::vector<Vec2> profile;
                for (int k = 0; k <= 120; ++k) {
                    const Vec2 p = line.from + (k / 120.0) * (line.to - line.from);
                    if (!planning::on_metal(b, b.banks.front(), p))
                        continue;
                    profile.push_back({k / 120.0 * norm(line.to - line.from), form(p)});
                    along.push_back({p.x, p.y, form(p)});
                }
                const double in = std::floor(planning::lay_straightedge(profile).gap() / 0.01) * 0.01;
                lines.push_back({line, in, in + 0.01, {}, {}});
            }
            const double flatness = block::evaluate_deck(b.banks.front(), along)->flatness_mz;
            const planning::FlatnessBounds bounds = planning::flatness_from_feelers(lines);
            ASSERT_TRUE(bounds.at_most && bounds.proven);
            likely.add(flatness, bounds.at_least, *bounds.at_most);
            EXPECT_LE(flatness, *bounds.proven + 1e-9) << kind << " " << i;
        }
        test::CertaintyTable::get().add("flatness from feelers", kind, likely);
        EXPECT_GE(likely.share(), 0.95 - 2 * std::sqrt(0.05 * 0.95 / static_cast<double>(likely.all))) << kind;
    }
}
