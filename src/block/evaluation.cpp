// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation.h"

#include "block/hole_evaluation.h"
#include "block/section_fit.h"
#include "metrology/line_fit.h"
#include "metrology/minimum_zone.h"
#include "metrology/plane_fit.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::block {
namespace {

using metrology::PlaneBasis;
using metrology::Vec2;
using metrology::Vec3;

class Evaluator {
  public:
    Evaluator(const Blueprint& blueprint, const ProbeSet& probe, Detail detail)
        : blueprint_(blueprint), probe_(probe), detail_(detail) {}

    Evaluation run() {
        sort_sections();
        find_tunnel_axis();
        find_cam_centres();
        find_clocking();
        find_origin();
        Evaluation e;
        e.frame = frame_;
        fill_mains(e);
        fill_cam(e);
        fill_decks(e);
        fill_dowels(e);
        fill_holes(e);
        return e;
    }

  private:
    bool whole() const { return detail_ == Detail::whole; }

    [[noreturn]] void refuse_missing(std::string what, std::string expected) const {
        const LogHeader& log = probe_.logs.front();
        throw Refused{{log.file, log.header_line, std::move(what), std::move(expected)}};
    }

    /// Sections in the blueprint's order; those of one main in order of their place along the crankshaft.
    template <class Items>
    std::vector<const Section*> in_order(FeatureKind kind, const Items& items) const {
        std::vector<const Section*> ordered;
        for (const auto& item : items) {
            const std::size_t first = ordered.size();
            for (const Section* s : probe_.of(kind))
                if (s->feature == item.id)
                    ordered.push_back(s);
            std::ranges::stable_sort(ordered.begin() + static_cast<std::ptrdiff_t>(first), ordered.end(), {},
                                     [](const Section* s) { return mean_of(s->touches).x; });
        }
        return ordered;
    }

    void sort_sections() {
        mains_ = in_order(FeatureKind::main, blueprint_.mains);
        if (blueprint_.cam)
            cams_ = in_order(FeatureKind::cam, blueprint_.cam->bearings);
        dowels_ = in_order(FeatureKind::dowel, blueprint_.dowels);
        for (const BankBlueprint& bank : blueprint_.banks)
            for (const Section* s : probe_.of(FeatureKind::deck))
                if (s->feature.bank == bank.id)
                    decks_.push_back(s);
    }

    Vec3 mean_of_main(const FeatureId& id) const {
        Vec3 sum;
        std::size_t n = 0;
        for (const Section* s : mains_)
            if (s->feature == id) {
                sum = sum + static_cast<double>(s->touches.size()) * mean_of(s->touches);
                n += s->touches.size();
            }
        return (1.0 / static_cast<double>(n)) * sum;
    }

    /// Datum A: fit every section at right angles to the axis, the axis through the centres, until it stands still.
    void find_tunnel_axis() {
        const Vec3 along = mean_of_main(mains_.back()->feature) - mean_of_main(mains_.front()->feature);
        if (!(norm(along) > 0))
            throw Refused{probe_.fault(*mains_.back(), "the first and the last main lie in one place",
                                       "mains apart along the crankshaft")};
        frame_.x = unit(along);
        constexpr int limit = 100;
        for (int i = 0; i < limit; ++i) {
            fit_mains();
            const auto line = metrology::fit_line(main_centres_);
            if (!line)
                throw Refused{probe_.fault(*mains_.front(), "the mains' centres do not fix a line",
                                           "mains apart along the crankshaft")};
            const double moved = norm(cross(frame_.x, line->direction));
            frame_.x = line->direction;
            on_axis_ = line->point;
            if (moved < 1e-12)
                break;
        }
        fit_mains();
    }

    void fit_mains() {
        basis_ = metrology::plane_basis(frame_.x);
        main_rounds_.clear();
        main_centres_.clear();
        for (const Section* s : mains_) {
            main_rounds_.push_back(fit_round(probe_, *s, basis_));
            main_centres_.push_back(centre_in_space(main_rounds_.back(), *s, basis_, frame_.x));
        }
    }

    void find_cam_centres() {
        for (const Section* s : cams_)
            cam_centres_.push_back(centre_in_space(fit_round(probe_, *s, basis_), *s, basis_, frame_.x));
    }

    /// Datum B.
    void find_clocking() {
        switch (blueprint_.clocking) {
        case Clocking::cam:
            clock_by_cam();
            break;
        case Clocking::panrail:
            clock_by_panrail();
            break;
        case Clocking::decks:
            clock_by_decks();
            break;
        }
        frame_.y = cross(frame_.z, frame_.x);
    }

    void clock_by_cam() {
        if (cam_centres_.empty())
            refuse_missing("no cam bearing was probed and the clocking is \"cam\"",
                           "points of at least one cam bearing");
        Vec3 sum;
        for (const Vec3 c : cam_centres_)
            sum = sum + c;
        const Vec3 mean = (1.0 / static_cast<double>(cam_centres_.size())) * sum;
        const Vec3 n = unit(perpendicular(mean - on_axis_, frame_.x));
        frame_.z = z_from_direction(n, std::atan2(blueprint_.cam->y, blueprint_.cam->z), frame_.x);
    }

    void clock_by_panrail() {
        std::vector<Vec3> rail;
        const Section* section = nullptr;
        for (const Section* s : probe_.of(FeatureKind::panrail)) {
            section = s;
            for (const Touch& t : s->touches)
                rail.push_back(t.position);
        }
        if (!section)
            refuse_missing("the pan rail was not probed and the clocking is \"panrail\"",
                           "at least 3 points of panrail");
        const auto plane = metrology::fit_plane(rail);
        if (!plane)
            throw Refused{probe_.fault(*section, "the points of panrail do not fix a plane", "points spread over it")};
        const Vec3 up = mean_above() - on_axis_;
        frame_.z = unit(metrology::facing(perpendicular(plane->normal, frame_.x), up));
    }

    /// Mean of the deck points; where no deck was probed, of the dowels that stand on one.
    Vec3 mean_above() const {
        Vec3 sum;
        double n = 0;
        for (const Section* s : decks_.empty() ? dowels_ : decks_) {
            sum = sum + static_cast<double>(s->touches.size()) * mean_of(s->touches);
            n += static_cast<double>(s->touches.size());
        }
        if (n == 0)
            refuse_missing("no deck was probed, so the pan rail does not say which way is up", "points of a deck");
        return (1.0 / n) * sum;
    }

    void clock_by_decks() {
        if (decks_.empty())
            refuse_missing("no deck was probed and the clocking is \"decks\"", "points of at least one deck");
        Vec3 sum;
        for (const Section* s : decks_) {
            const Vec3 w = unit(perpendicular(deck_normal(*s), frame_.x));
            sum = sum + z_from_direction(w, blueprint_.bank(s->feature.bank)->angle, frame_.x);
        }
        frame_.z = unit(sum);
    }

    /// Out of the metal, machine frame.
    Vec3 deck_normal(const Section& s) const {
        std::vector<Vec3> points;
        points.reserve(s.touches.size());
        for (const Touch& t : s.touches)
            points.push_back(t.position);
        const auto plane = metrology::fit_plane(points);
        if (!plane)
            throw Refused{probe_.fault(s, "the points of " + s.feature.text() + " do not fix a plane",
                                       "points spread over the deck")};
        return metrology::facing(plane->normal, plane->point - on_axis_);
    }

    /// Datum C: the origin dowel's centre, carried to the axis; without one, the first main lies where it is meant to.
    void find_origin() {
        if (!blueprint_.origin_dowel) {
            const FeatureId& first = mains_.front()->feature;
            double along = 0, sections = 0;
            for (std::size_t i = 0; i < mains_.size() && mains_[i]->feature == first; ++i, ++sections)
                along += dot(main_centres_[i] - on_axis_, frame_.x);
            const auto meant = std::ranges::find(blueprint_.mains, first, &MainBlueprint::id);
            frame_.origin = on_axis_ + (along / sections - meant->x) * frame_.x;
            return;
        }
        const auto origin = std::ranges::find(dowels_, *blueprint_.origin_dowel, &Section::feature);
        if (origin == dowels_.end())
            refuse_missing("the origin dowel " + blueprint_.origin_dowel->text() + " was not probed",
                           "at least 3 points of it");
        const double along = dot(dowel_centre(**origin).centre - on_axis_, frame_.x);
        frame_.origin = on_axis_ + along * frame_.x;
    }

    struct DowelFit {
        Vec3 centre; ///< machine frame; its height along w is that of the points
        double radius;
    };

    DowelFit dowel_centre(const Section& s) const {
        const BankAxes bank(blueprint_.bank(s.feature.bank)->angle);
        const auto to_machine = [this](Vec3 d) { return d.x * frame_.x + d.y * frame_.y + d.z * frame_.z; };
        const PlaneBasis basis{to_machine(bank.u), to_machine(bank.v)};
        const RoundSection round = fit_round(probe_, s, basis);
        return {centre_in_space(round, s, basis, to_machine(bank.w)), round.radius};
    }

    void fill_mains(Evaluation& e) const {
        std::vector<Vec2> side, top;
        double largest = 0;
        for (std::size_t i = 0; i < mains_.size(); ++i) {
            const RoundSection& r = main_rounds_[i];
            const Vec3 c = frame_.to_block(main_centres_[i]);
            const double zone = whole() ? metrology::roundness_zone(r.surface, r.centre).width : 0;
            std::vector<Vec3> surface;
            for (std::size_t k = 0; k < r.surface.size(); ++k)
                surface.push_back(frame_.to_block(r.surface[k].x * basis_.first + r.surface[k].y * basis_.second +
                                                  dot(mains_[i]->touches[k].position, frame_.x) * frame_.x));
            e.mains.push_back({mains_[i]->feature, mains_[i]->level, c, 2 * r.radius, r.range, zone, r.surface.size(),
                               std::move(surface)});
            e.scatter.add(r.squares, r.surface.size());
            side.push_back({c.x, c.z});
            top.push_back({c.x, c.y});
            largest = std::max(largest, std::hypot(c.y, c.z));
        }
        e.tunnel = {2 * largest, metrology::strip_width(side), metrology::strip_width(top)};
    }

    void fill_cam(Evaluation& e) const {
        if (cam_centres_.empty())
            return;
        std::vector<Vec3> centres;
        CamResult cam;
        double front = std::numeric_limits<double>::infinity(), rear = -front;
        for (const Vec3 c : cam_centres_) {
            centres.push_back(frame_.to_block(c));
            cam.y += centres.back().y / static_cast<double>(cam_centres_.size());
            cam.z += centres.back().z / static_cast<double>(cam_centres_.size());
            front = std::min(front, centres.back().x);
            rear = std::max(rear, centres.back().x);
        }
        cam.distance = std::hypot(cam.y, cam.z);
        cam.distance_error = cam.distance - std::hypot(blueprint_.cam->y, blueprint_.cam->z);
        if (const auto line = metrology::fit_line(centres); line && line->direction.x != 0)
            cam.parallelism = std::hypot(line->direction.y / line->direction.x, line->direction.z / line->direction.x) *
                              (rear - front);
        e.cam = cam;
    }

    void fill_decks(Evaluation& e) const {
        for (const Section* s : decks_) {
            const BankBlueprint& bank = *blueprint_.bank(s->feature.bank);
            const BankAxes axes(bank.angle);
            const Vec3 out = deck_normal(*s);
            std::vector<Vec3> points;
            points.reserve(s->touches.size());
            for (const Touch& t : s->touches)
                points.push_back(axes.of(frame_.to_block(t.position - t.tip_radius * out)));
            auto deck = evaluate_deck(bank, std::move(points), detail_);
            if (!deck)
                throw Refused{probe_.fault(*s, "the points of " + s->feature.text() + " do not lie over the deck",
                                           "points spread along and across it")};
            e.decks.push_back(std::move(*deck));
        }
    }

    void fill_dowels(Evaluation& e) const {
        for (const Section* s : dowels_) {
            const HoleBlueprint& meant = *blueprint_.hole(s->feature);
            const DowelFit fit = dowel_centre(*s);
            const Vec3 c = BankAxes(blueprint_.bank(s->feature.bank)->angle).of(frame_.to_block(fit.centre));
            e.dowels.push_back(
                {s->feature, c.x, c.y, 2 * fit.radius, c.x - meant.u, c.y - meant.v, c.z, !meant.place_assumed});
        }
    }

    void fill_holes(Evaluation& e) const {
        for (const HoleBlueprint& meant : blueprint_.bores)
            if (auto bore = hole(e, meant, blueprint_.bank(meant.id.bank)->angle)) {
                bore->cylinder = meant.cylinder;
                take_dowel_away(*bore, e.dowels);
                e.bores.push_back(std::move(*bore));
            }
        for (const HoleBlueprint& meant : blueprint_.lifters)
            if (auto lifter = hole(e, meant, *meant.angle)) {
                if (e.cam)
                    lifter->v_cam =
                        lifter->centre.y - (e.cam->y * std::cos(*meant.angle) - e.cam->z * std::sin(*meant.angle));
                e.lifters.push_back(std::move(*lifter));
            }
    }

    std::optional<HoleResult> hole(Evaluation& e, const HoleBlueprint& meant, double angle) const {
        return evaluate_hole({probe_, frame_, detail_}, meant, angle, e.scatter);
    }

    /// Position errors from the bank's lowest-numbered measured dowel instead of the datum frame.
    static void take_dowel_away(HoleResult& bore, const std::vector<DowelResult>& dowels) {
        const DowelResult* lowest = nullptr;
        for (const DowelResult& d : dowels)
            if (d.id.bank == bore.id.bank && (!lowest || d.id.number < lowest->id.number))
                lowest = &d;
        if (lowest && lowest->place_known && bore.place_known)
            bore.from_dowel = bore.error - Vec2{lowest->du, lowest->dv};
    }

    const Blueprint& blueprint_;
    const ProbeSet& probe_;
    Detail detail_;
    std::vector<const Section*> mains_, cams_, dowels_, decks_;
    PlaneBasis basis_{};
    Vec3 on_axis_;
    BlockFrame frame_;
    std::vector<RoundSection> main_rounds_;
    std::vector<Vec3> main_centres_; ///< machine frame
    std::vector<Vec3> cam_centres_;
};

} // namespace

double DeckResult::angle_error() const {
    return std::atan(tilt_v);
}

void Scatter::add(double sum_of_squares, std::size_t points) {
    squares += sum_of_squares;
    freedom += points - 3;
}

std::optional<double> Scatter::standard_deviation() const {
    return freedom > 0 ? std::optional(std::sqrt(squares / static_cast<double>(freedom))) : std::nullopt;
}

const DeckResult* Evaluation::deck(std::string_view bank) const {
    const auto found = std::ranges::find(decks, bank, [](const DeckResult& d) { return std::string_view(d.id.bank); });
    return found == decks.end() ? nullptr : &*found;
}

DeckResult thinned(DeckResult deck, std::size_t most) {
    if (deck.points.size() <= most)
        return deck;
    const auto [left, right] = std::ranges::minmax(deck.points, {}, &Vec3::x);
    const auto [low, high] = std::ranges::minmax(deck.points, {}, &Vec3::y);
    const double cell =
        std::sqrt(2 * std::max((right.x - left.x) * (high.y - low.y), 1e-6) / static_cast<double>(most));
    const auto columns = static_cast<std::size_t>((right.x - left.x) / cell) + 1;
    const auto rows = static_cast<std::size_t>((high.y - low.y) / cell) + 1;
    struct Ends {
        const Vec3 *lowest = nullptr, *highest = nullptr;
    };
    std::vector<Ends> cells(columns * rows);
    const auto off = [&deck](const Vec3& p) { return p.z - deck.slope_u * p.x - deck.tilt_v * p.y; };
    for (const Vec3& p : deck.points) {
        const auto column = static_cast<std::size_t>((p.x - left.x) / cell);
        Ends& ends = cells[static_cast<std::size_t>((p.y - low.y) / cell) * columns + column];
        if (!ends.lowest || off(p) < off(*ends.lowest))
            ends.lowest = &p;
        if (!ends.highest || off(p) > off(*ends.highest))
            ends.highest = &p;
    }
    std::vector<Vec3> kept;
    kept.reserve(2 * cells.size());
    for (const Ends& ends : cells) {
        if (ends.lowest)
            kept.push_back(*ends.lowest);
        if (ends.highest && ends.highest != ends.lowest)
            kept.push_back(*ends.highest);
    }
    deck.points = std::move(kept);
    return deck;
}

std::optional<DeckResult> evaluate_deck(const BankBlueprint& bank, std::vector<Vec3> points, Detail detail) {
    const auto plane = metrology::fit_plane(points);
    const auto heights = metrology::fit_heights(points);
    if (!plane || !heights)
        return std::nullopt;
    DeckResult d;
    d.id = {FeatureKind::deck, bank.id, 0};
    d.bank_angle = bank.angle;
    d.nominal = bank.deck_height.nominal;
    d.touches = points.size();
    d.height_min = std::numeric_limits<double>::infinity();
    d.height_max = -d.height_min;
    double sum = 0; // of deviations from nominal: keeps the digits of a large scan
    for (const Vec3 p : points) {
        d.height_min = std::min(d.height_min, p.z);
        d.height_max = std::max(d.height_max, p.z);
        sum += p.z - d.nominal;
        d.middle = d.middle + Vec2{p.x, p.y};
    }
    d.middle = (1.0 / static_cast<double>(points.size())) * d.middle;
    d.height_mean = d.nominal + sum / static_cast<double>(points.size());
    d.flatness_lsq = plane->range;
    if (detail == Detail::whole)
        d.flatness_mz = metrology::flatness_zone(points).width;
    d.slope_u = heights->slope_u;
    d.tilt_v = heights->slope_v;
    d.points = std::move(points);
    return d;
}

Result<Evaluation> evaluate(const Blueprint& blueprint, const ProbeSet& probe, Detail detail) {
    try {
        return Evaluator(blueprint, probe, detail).run();
    } catch (Refused& refused) {
        return tl::unexpected(Faults{std::move(refused.fault)});
    }
}

} // namespace pallix::block
