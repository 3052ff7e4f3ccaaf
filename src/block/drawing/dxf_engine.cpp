// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/dxf_engine.h"

#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "block/shorthand.h"

#include <algorithm>
#include <cmath>

namespace pallix::block {
namespace {

using metrology::Vec2;

constexpr double same_size = 0.004;  // of a diameter
constexpr double same_scale = 0.005; // of a distance

tl::unexpected<Faults> cannot_take(const std::string& file, std::string what, std::string expected) {
    return tl::unexpected(Faults{{file, 0, std::move(what), std::move(expected)}});
}

std::string plural(std::size_t n, const std::string& one) {
    return std::to_string(n) + " " + one + (n == 1 ? "" : "s");
}

class Layer {
  public:
    Layer(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups, const DxfPlacing& placing, const Recipe& base,
          std::string file)
        : d_(drawing), groups_(groups), how_(placing), out_{base, {}}, file_(std::move(file)) {}

    Result<DxfTaken> run() {
        if (!find_row())
            return cannot_take(file_, "no row of equal circles is there for the cylinders",
                               "two cylinders at least, or a word which circles they are");
        if (auto scale = find_scale(); !scale)
            return tl::unexpected(scale.error());
        take_cylinders(*std::ranges::find(groups_, DxfRole::cylinders, &DxfGroup::role));
        take_dowels();
        take_outline();
        for (const auto& [kind, n] : d_.not_understood)
            out_.understood.push_back("passed over: " + std::to_string(n) + " of " + kind);
        if (d_.open_runs > 0)
            out_.understood.push_back("passed over: " + plural(d_.open_runs, "run") + " of lines that do not close");
        out_.recipe.lines.clear();
        return std::move(out_);
    }

    /// @return false where there is none
    bool find_row() {
        const auto found = std::ranges::find(groups_, DxfRole::cylinders, &DxfGroup::role);
        if (found == groups_.end() || found->circles.size() < 2)
            return false;
        for (const std::size_t i : found->circles)
            row_.push_back(d_.circles[i].centre);
        find_axis();
        return true;
    }
    [[nodiscard]] double along(Vec2 p) const { return dot(p - front_, along_); }
    [[nodiscard]] double across(Vec2 p) const { return dot(p - front_, across_); }
    [[nodiscard]] double length() const { return norm(row_.back() - row_.front()); }

  private:
    /// Along the row, from the front cylinder on; across to its left, or to its right where it is seen from below.
    void find_axis() {
        std::size_t a = 0, z = 1;
        for (std::size_t i = 0; i < row_.size(); ++i)
            for (std::size_t k = i + 1; k < row_.size(); ++k)
                if (norm(row_[i] - row_[k]) > norm(row_[a] - row_[z]))
                    std::tie(a, z) = std::pair(i, k);
        const bool forward = row_[a].x != row_[z].x ? row_[a].x < row_[z].x : row_[a].y < row_[z].y;
        if (forward == how_.other_end)
            std::swap(a, z);
        front_ = row_[a];
        along_ = (1 / norm(row_[z] - row_[a])) * (row_[z] - row_[a]);
        across_ = how_.mirrored ? Vec2{along_.y, -along_.x} : Vec2{-along_.y, along_.x};
        std::ranges::sort(row_, {}, [this](Vec2 p) { return dot(p - front_, along_); });
        pitch_ = norm(row_.back() - row_.front()) / static_cast<double>(row_.size() - 1);
    }

    Result<double> find_scale() {
        std::optional<double> stated = how_.unit ? std::optional(mm_per(*how_.unit)) : d_.mm_per_unit;
        if (!how_.distance.empty()) {
            const auto mm = read_length(how_.distance, out_.recipe.unit);
            if (!mm || *mm <= 0)
                return cannot_take(file_, "the distance “" + how_.distance + "” cannot be read",
                                   "the pitch, as 108 mm");
            if (stated && std::abs(pitch_ * *stated - *mm) > same_scale * *mm)
                return cannot_take(file_,
                                   "by its unit the pitch would be " +
                                       short_number(std::round(pitch_ * *stated * 1e4) / 1e4) + " mm, not " +
                                       how_.distance,
                                   "the unit that the drawing is in, or its own pitch");
            if (!stated) {
                for (const Unit unit : {Unit::mm, Unit::inch})
                    if (std::abs(pitch_ * mm_per(unit) - *mm) <= same_scale * *mm)
                        stated = mm_per(unit);
                if (!stated)
                    stated = *mm / pitch_; // drawn to a scale of its own
            }
        }
        if (!stated)
            return cannot_take(file_,
                               "it does not say its unit; the cylinders stand " +
                                   short_number(std::round(pitch_ * 1e4) / 1e4) + " apart in it",
                               "a unit, mm or in, or the true pitch");
        mm_ = *stated;
        out_.understood.push_back("one unit of the drawing is " + short_number(std::round(mm_ * 1e6) / 1e6) + " mm");
        return mm_;
    }

    [[nodiscard]] std::string text(double mm) const {
        const double one = out_.recipe.unit == Unit::mm ? 1e4 : 1e5; // finer no drawing is
        const double v = std::round(mm / mm_per(out_.recipe.unit) * one) / one;
        return short_number(v == 0 ? 0 : v);
    }
    void set(const std::string& key, std::string typed) {
        out_.recipe.figures[key] = std::move(typed);
        out_.recipe.origins[key] = {FigureSource::drawing, 0, {}};
    }
    [[nodiscard]] std::optional<double> stands(const char* key) const {
        const auto found = out_.recipe.figures.find(key);
        if (found == out_.recipe.figures.end())
            return std::nullopt;
        const auto mm = read_length(found->second, out_.recipe.unit);
        return mm ? std::optional(*mm) : std::nullopt;
    }
    [[nodiscard]] std::string bank() const {
        if (!how_.bank.empty())
            return how_.bank;
        const auto layout = out_.recipe.figures.find("layout");
        return layout == out_.recipe.figures.end() || layout->second == "inline" ? "C" : "R";
    }
    /// In the bank's frame, mm.
    [[nodiscard]] Vec2 placed(Vec2 p) const {
        return {first_ + mm_ * dot(p - front_, along_), mm_ * dot(p - front_, across_)};
    }

    void take_cylinders(const DxfGroup& group) {
        const double pitch = pitch_ * mm_, size = group.diameter * mm_;
        if (!out_.recipe.figures.contains("layout"))
            set("layout", "inline");
        set("cylinders", std::to_string(row_.size()));
        set("pitch", text(pitch));
        first_ = stands("first_bore").value_or(stands("first_main").value_or(0) + pitch / 2);
        if (!how_.gasket && !out_.recipe.figures.contains("bore"))
            set("bore", text(size));
        out_.understood.push_back(plural(row_.size(), "cylinder") + " of " + text(size) + ", " + text(pitch) +
                                  " apart" + (how_.gasket ? ", as holes of a gasket" : ""));
        for (std::size_t i = 0; i < row_.size(); ++i) { // an odd one is drawn where it is
            const Vec2 at = placed(row_[i]);
            const std::string id = FeatureId{FeatureKind::bore, bank(), static_cast<int>(i) + 1}.text();
            constexpr double off = 0.05; // mm, more than rounding of a drawing
            if (std::abs(at.x - first_ - static_cast<double>(i) * pitch) > off)
                set(id + "/along", text(at.x));
            if (std::abs(at.y) > off)
                set(id + "/across", text(at.y));
        }
    }

    void take_dowels() {
        std::vector<Vec2> dowels;
        std::optional<Vec2> origin;
        double size = 0;
        for (const DxfGroup& group : groups_)
            if (group.role == DxfRole::dowels)
                for (const std::size_t i : group.circles) {
                    dowels.push_back(placed(d_.circles[i].centre));
                    if (how_.origin == i)
                        origin = dowels.back();
                    size = group.diameter * mm_;
                }
        if (dowels.empty())
            return;
        constexpr std::size_t most = 8;
        if (dowels.size() > most)
            dowels.resize(most);
        std::ranges::sort(dowels, {}, &Vec2::x);
        if (origin)
            set("origin", FeatureId{FeatureKind::dowel, bank(),
                                    static_cast<int>(std::ranges::find(dowels, *origin) - dowels.begin()) + 1}
                              .text());
        set("dowels", std::to_string(dowels.size()));
        if (!out_.recipe.figures.contains("dowel_size"))
            set("dowel_size", text(size));
        set("dowel_first", text(dowels.front().x));
        set("dowel_across", text(dowels.front().y));
        if (dowels.size() > 1)
            set("dowel_apart", text(dowels[1].x - dowels[0].x));
        for (std::size_t i = 1; i < dowels.size(); ++i) {
            const std::string id = FeatureId{FeatureKind::dowel, bank(), static_cast<int>(i) + 1}.text();
            if (std::abs(dowels[i].x - dowels[0].x - static_cast<double>(i) * (dowels[1].x - dowels[0].x)) > 1e-6)
                set(id + "/along", text(dowels[i].x));
            if (std::abs(dowels[i].y - dowels[0].y) > 1e-6)
                set(id + "/across", text(dowels[i].y));
        }
        out_.understood.push_back(plural(dowels.size(), "dowel") + " of " + text(size));
    }

    /// The smallest closed run that all cylinders lie in.
    void take_outline() {
        const std::vector<Vec2>* around = nullptr;
        for (const std::vector<Vec2>& outline : d_.outlines) // the largest first
            if (std::ranges::all_of(row_, [&](Vec2 p) { return holds(outline, p); }))
                around = &outline;
        if (!around) {
            out_.understood.emplace_back("no closed outline round the cylinders");
            return;
        }
        std::vector<Vec2> corners;
        for (const Vec2 p : *around)
            corners.push_back(placed(p));
        constexpr std::size_t most = 120; // corners of an outline that a person still reads
        for (double off = 0.02; corners.size() > 3; off *= 1.5) {
            corners = simpler(corners, off);
            if (corners.size() <= most)
                break;
        }
        std::string typed;
        for (const Vec2 p : corners)
            typed += (typed.empty() ? "" : "; ") + text(p.x) + " " + text(p.y);
        set(FeatureId{FeatureKind::deck, bank(), 0}.text() + "/outline", typed);
        out_.understood.push_back("an outline of " + plural(corners.size(), "corner"));
    }

    static bool holds(const std::vector<Vec2>& outline, Vec2 p) {
        bool in = false;
        for (std::size_t i = 0, k = outline.size() - 1; i < outline.size(); k = i++)
            if ((outline[i].y > p.y) != (outline[k].y > p.y) &&
                p.x <
                    (outline[k].x - outline[i].x) * (p.y - outline[i].y) / (outline[k].y - outline[i].y) + outline[i].x)
                in = !in;
        return in;
    }

    /// Leaves out corners that lie within so much of the line of their neighbours, mm.
    static std::vector<Vec2> simpler(const std::vector<Vec2>& corners, double off) {
        std::vector<Vec2> out{corners.front()};
        std::size_t from = 0;
        for (std::size_t i = 2; i <= corners.size(); ++i) {
            const Vec2 end = corners[i % corners.size()], way = end - corners[from];
            const double length = norm(way);
            const auto near = [&](Vec2 p) {
                return length > 0 && std::abs(cross(way, p - corners[from])) / length <= off;
            };
            if (std::all_of(corners.begin() + static_cast<std::ptrdiff_t>(from) + 1,
                            corners.begin() + static_cast<std::ptrdiff_t>(i), near))
                continue;
            from = i - 1;
            out.push_back(corners[from]);
        }
        return out.size() < 3 ? corners : out;
    }

    const DxfDrawing& d_;
    const std::vector<DxfGroup>& groups_;
    const DxfPlacing& how_;
    DxfTaken out_;
    std::string file_;
    std::vector<Vec2> row_;
    Vec2 front_, along_, across_;
    double pitch_ = 0;          // in the drawing's unit
    double mm_ = 1, first_ = 0; // mm of a unit; of the front cylinder along
};

} // namespace

std::vector<DxfGroup> dxf_groups(const DxfDrawing& drawing) {
    std::vector<std::size_t> order(drawing.circles.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    std::ranges::sort(order, std::ranges::greater{}, [&](std::size_t i) { return drawing.circles[i].radius; });
    std::vector<DxfGroup> groups;
    for (const std::size_t i : order) {
        const double diameter = 2 * drawing.circles[i].radius;
        if (groups.empty() || groups.back().diameter - diameter > same_size * groups.back().diameter)
            groups.push_back({diameter, {}, DxfRole::other});
        // Drawn twice, one on the other, it is one.
        const auto& own = groups.back().circles;
        if (std::ranges::none_of(own, [&](std::size_t k) {
                return norm(drawing.circles[k].centre - drawing.circles[i].centre) < same_size * diameter;
            }))
            groups.back().circles.push_back(i);
    }
    const auto row = std::ranges::find_if(groups, [](const DxfGroup& g) { return g.circles.size() >= 2; });
    if (row != groups.end())
        row->role = DxfRole::cylinders;
    const auto pair = std::ranges::find_if(
        groups, [](const DxfGroup& g) { return g.role == DxfRole::other && g.circles.size() == 2; });
    if (pair != groups.end())
        pair->role = DxfRole::dowels;
    return groups;
}

bool front_at_other_end(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups, std::size_t circle) {
    const DxfPlacing as_drawn;
    const Recipe nothing;
    Layer layer(drawing, groups, as_drawn, nothing, {});
    return layer.find_row() && layer.along(drawing.circles[circle].centre) > layer.length() / 2;
}

bool drawn_from_below(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups, bool other_end, Vec2 right_side) {
    const DxfPlacing from_above{{}, {}, other_end, false, false, {}, {}};
    const Recipe nothing;
    Layer layer(drawing, groups, from_above, nothing, {});
    return layer.find_row() && layer.across(right_side) < 0;
}

Result<DxfTaken> recipe_from_dxf(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups,
                                 const DxfPlacing& placing, const Recipe& base, const std::string& file) {
    return Layer(drawing, groups, placing, base, file).run();
}

} // namespace pallix::block
