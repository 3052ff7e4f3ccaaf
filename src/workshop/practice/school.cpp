// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/school.h"

#include "block/metal.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/cylinders/cylinder_plan.h"
#include "planning/decks/deck_map.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/tunnel_study.h"
#include "workshop/practice/result.h"

#include <Eigen/QR>
#include <algorithm>
#include <cmath>

namespace pallix::workshop {
namespace {

using block::Entry;
using block::Payload;
using metrology::Deviates;
using planning::Housing;

constexpr double usual_u = 0.002; // mm, of what nobody stated how sure it is

block::Faults refused(std::string what, std::string expected) {
    return {{"job", 0, std::move(what), std::move(expected)}};
}

/// How the job is to be done, not what was seen or done.
bool is_plan(const Payload& p) {
    return std::holds_alternative<block::ScopeChosen>(p) || std::holds_alternative<block::RouteChosen>(p) ||
           std::holds_alternative<block::LimitsChosen>(p) || std::holds_alternative<block::TunnelPolicy>(p) ||
           std::holds_alternative<block::DeckTargetChosen>(p) || std::holds_alternative<block::PassPlanChosen>(p) ||
           std::holds_alternative<block::PistonsStated>(p) || std::holds_alternative<block::CylinderPlanChosen>(p) ||
           std::holds_alternative<block::LifterPlanChosen>(p);
}

/// A main as its old surface has it: size, how oval, where its middle is.
MainTruth main_of(const Housing& h, double middle) {
    Eigen::MatrixXd a(static_cast<Eigen::Index>(h.points.size()), 4);
    Eigen::VectorXd r(a.rows());
    for (Eigen::Index i = 0; i < a.rows(); ++i) {
        const metrology::Vec3 p = h.points[static_cast<std::size_t>(i)];
        const double angle = std::atan2(p.y, p.z);
        a.row(i) << 1, std::cos(2 * angle), std::cos(angle), std::sin(angle);
        r(i) = std::hypot(p.y, p.z);
    }
    const Eigen::Vector4d fit = a.colPivHouseholderQr().solve(r);
    return {2 * fit(0) - middle, 2 * fit(1), fit(2), fit(3)};
}

void draw_mains(BlockTruth& truth, const block::JobState& state, const block::Blueprint& b, Deviates& draw) {
    const auto study = planning::study_tunnel(state);
    if (!study || study->housings.mains.size() != b.mains.size())
        return;
    const auto drawn = planning::draw_housings(state, *study);
    const auto which = static_cast<std::size_t>(draw.uniform() * static_cast<double>(drawn.size()));
    const std::vector<Housing>& mains =
        drawn.empty() ? study->housings.mains : drawn.at(std::min(which, drawn.size() - 1));
    const double u = drawn.empty() ? study->housings.uncertainty.value_or(usual_u) : 0;
    for (std::size_t m = 0; m < mains.size(); ++m) {
        MainTruth& is = truth.mains[m] = main_of(mains[m], b.mains[m].diameter.middle());
        is.over += 2 * u * draw.normal() / std::sqrt(3.0); // three ways of each end
        is.up += u * draw.normal();
        is.side += u * draw.normal();
    }
}

/// The heights as a form that decks have, and what they leave as a dip where the deck stands lowest.
DeckTruth deck_of(const block::BankBlueprint& bank, const std::vector<metrology::Vec3>& points, double u,
                  Deviates& draw) {
    const planning::DeckExtent e = planning::deck_extent(bank);
    const Eigen::Index terms = points.size() >= 9 ? 5 : points.size() >= 4 ? 4 : 1;
    Eigen::MatrixXd a(static_cast<Eigen::Index>(points.size()), terms);
    Eigen::VectorXd h(a.rows());
    const auto row = [&](double s, double t) {
        Eigen::VectorXd all(5);
        all << 1, s, t, 4 * s * t, (0.25 - s * s) * 4;
        return Eigen::VectorXd(all.head(terms));
    };
    const auto at = [&](const metrology::Vec3& p) {
        return std::pair((p.x - e.low.x) / e.length() - 0.5, (p.y - e.low.y) / e.width() - 0.5);
    };
    for (Eigen::Index i = 0; i < a.rows(); ++i) {
        const metrology::Vec3& p = points[static_cast<std::size_t>(i)];
        const auto [s, t] = at(p);
        a.row(i) = row(s, t).transpose();
        h(i) = p.z - bank.deck_height.nominal + u * draw.normal();
    }
    const Eigen::VectorXd fit = a.colPivHouseholderQr().solve(h);
    const Eigen::VectorXd left = h - a * fit;
    DeckTruth deck;
    const auto term = [&](Eigen::Index i) { return i < terms ? fit(i) : 0.0; };
    deck.offset = term(0);
    deck.rear_over_front = term(1);
    deck.positive_over_negative = term(2);
    deck.twist = term(3);
    deck.crown = term(4);
    Eigen::Index lowest = 0;
    deck.dip_depth = std::max(0.0, -left.minCoeff(&lowest));
    deck.dip = {points[static_cast<std::size_t>(lowest)].x, points[static_cast<std::size_t>(lowest)].y};
    // Between what was read it may lie lower by about what readings differ by.
    deck.dip_depth += std::abs(draw.normal()) *
                      std::sqrt(left.squaredNorm() / static_cast<double>(std::max<Eigen::Index>(1, a.rows() - terms)));
    return deck;
}

} // namespace

std::string key_of_copy(const block::JobState& state) {
    return "copy of " + intake_of(state).title;
}

block::Result<Exercise> copy_of(const std::vector<Entry>& entries, std::int64_t number) {
    const block::Folded state = block::fold(entries);
    if (!intake_of(state).blueprint)
        return tl::unexpected(refused("the job has no blueprint", "a block to copy"));
    const auto out = block::struck(entries);
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i] && block::takes_metal(entries[i].payload))
            return tl::unexpected(refused("metal has come off in entry " + std::to_string(entries[i].sequence),
                                          "a block as it was found: what is tried is tried before it is touched"));
    Exercise e;
    e.blueprint = *intake_of(state).blueprint;
    e.key = key_of_copy(state);
    e.number = number;
    e.told = {e.key, "A block that may be the one of " + intake_of(state).title + ", by what was measured of it.",
              "Try what you would do before the metal is touched.", 1};
    e.truth.seed = static_cast<std::uint64_t>(number);
    e.truth.block = as_drawn(e.blueprint);
    Deviates draw(e.truth.seed, 4);
    std::string unknown; // parts that nobody has measured
    const auto not_measured = [&unknown](const std::string& part) { unknown += (unknown.empty() ? "" : ", ") + part; };
    bool known = planning::study_tunnel(state).has_value();
    if (!known)
        not_measured("the tunnel");
    draw_mains(e.truth.block, state, e.blueprint, draw);
    for (const block::BankBlueprint& bank : e.blueprint.banks)
        if (const auto& deck = decks_of(state).deck(bank.id).latest; deck && !deck->result.points.empty()) {
            known = true;
            e.truth.block.decks[bank.id] = deck_of(bank, deck->result.points, usual_u, draw);
        } else {
            not_measured("deck " + bank.id);
        }
    std::size_t bores = 0;
    for (const planning::FoundCylinder& found : planning::found_cylinders(state, {})) {
        known = true;
        ++bores;
        BoreTruth& bore = e.truth.block.bores.at(found.id);
        const double u = found.uncertainty.value_or(usual_u);
        bore.size = found.diameter + u * draw.normal();
        bore.taper = std::max(0.0, found.worn - found.diameter + u * draw.normal());
        if (found.top)
            bore.off = *found.top - found.blueprint;
    }
    if (!known)
        return tl::unexpected(refused("nothing was measured of it", "readings or a log: by them a truth is drawn"));
    if (bores < e.blueprint.bores.size())
        not_measured(bores == 0 ? "the cylinders" : "some cylinders");
    if (!unknown.empty())
        e.told.story += " Not measured, and taken as drawn: " + unknown + ".";
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i] && is_plan(entries[i].payload))
            e.plans.push_back(entries[i].payload);
    return e;
}

std::vector<School> schools_of(const block::JobState& state) {
    std::vector<School> all{{}};
    const auto other = [&all](const auto& planned, auto plan) {
        if (!(plan == planned))
            all.push_back({{Payload(std::move(plan))}});
    };
    if (planning::wanted(state, block::Stage::tunnel))
        if (auto study = planning::study_tunnel(state)) {
            planning::explain(*study);
            for (const planning::TunnelSchool& school : study->schools)
                other(study->policy, school.policy);
        }
    if (planning::wanted(state, block::Stage::decks)) {
        const block::DeckTargetChosen planned = decks_of(state).target;
        for (const auto school : {block::TargetSchool::least_cut, block::TargetSchool::blueprint}) {
            block::DeckTargetChosen target = planned;
            target.school = school;
            other(planned, target);
        }
        if (intake_of(state).blueprint->banks.size() > 1) {
            block::DeckTargetChosen each = planned;
            each.equal = !each.equal;
            other(planned, each);
        }
    }
    if (planning::wanted(state, block::Stage::cylinders)) {
        const block::CylinderPlanChosen planned = planning::cylinder_plan_of(state);
        for (const auto centre :
             {block::CentreSchool::top, block::CentreSchool::blueprint, block::CentreSchool::free}) {
            block::CylinderPlanChosen plan = planned;
            plan.centre = centre;
            other(planned, plan);
        }
    }
    return all;
}

block::Result<TriedOnce> try_once(const std::vector<Entry>& entries, const std::vector<Payload>& plans,
                                  std::int64_t number) {
    auto copy = copy_of(entries, number);
    if (!copy)
        return tl::unexpected(copy.error());
    copy->plans.insert(copy->plans.end(), plans.begin(), plans.end());
    PracticeBench bench(copy->blueprint, copy->truth);
    const Played played = play(bench, opening_of(*copy), careful_player(copy->truth), copy->truth.seed);
    const auto reckoned = reckon(played.entries);
    if (!reckoned)
        return tl::unexpected(reckoned.error());
    TriedOnce once;
    for (const MetalOff& off : reckoned->metal) {
        if (off.about == "tunnel")
            once.cap_cut = off.taken;
        else if (off.about == "cylinders")
            once.size = off.taken;
        else if (off.about.starts_with("deck."))
            once.deck_cut = std::max(once.deck_cut, off.taken);
    }
    once.out = static_cast<std::size_t>(std::ranges::count(reckoned->left, false, &PartLeft::good));
    once.minutes = reckoned->minutes;
    once.finished = played.ended;
    return once;
}

block::Result<std::vector<TriedOnce>> try_school(const std::vector<Entry>& entries, const std::vector<Payload>& plans,
                                                 std::size_t times) {
    std::vector<TriedOnce> all;
    for (std::size_t i = 0; i < times; ++i) {
        const auto once = try_once(entries, plans, static_cast<std::int64_t>(i + 1));
        if (!once)
            return tl::unexpected(once.error());
        all.push_back(*once);
    }
    return all;
}

SchoolSpread spread_of(const std::vector<TriedOnce>& tried, TriedFigure figure) {
    if (tried.empty())
        return {};
    std::vector<double> all(tried.size());
    std::ranges::transform(tried, all.begin(), [figure](const TriedOnce& once) { return once.*figure; });
    std::ranges::sort(all);
    const double middle = (all[(all.size() - 1) / 2] + all[all.size() / 2]) / 2;
    return {all.front(), middle, all.back()};
}

} // namespace pallix::workshop
