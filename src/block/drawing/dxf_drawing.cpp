// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/dxf_drawing.h"

#include "block/number_text.h"
#include "block/probe_log.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <istream>
#include <numbers>
#include <set>
#include <streambuf>

namespace pallix::block {
namespace {

using metrology::Vec2;
constexpr double pi = std::numbers::pi;

/// A piece of a drawing: an open or closed run of points, or a circle.
struct Piece {
    std::vector<Vec2> run; ///< empty for a circle
    bool closed = false;
    DxfDrawing::Circle circle{};
    std::string layer{};
};

/// What an insertion does to what stands in its block.
struct Placing {
    double a = 1, b = 0, c = 0, d = 1, x = 0, y = 0; // (x, y) → (a x + b y + x0, c x + d y + y0)
    [[nodiscard]] Vec2 of(Vec2 p) const { return {a * p.x + b * p.y + x, c * p.x + d * p.y + y}; }
    [[nodiscard]] Placing after(const Placing& inner) const {
        return {a * inner.a + b * inner.c, a * inner.b + b * inner.d, c * inner.a + d * inner.c,
                c * inner.b + d * inner.d, of({inner.x, inner.y}).x,  of({inner.x, inner.y}).y};
    }
    /// Circles stay circles.
    [[nodiscard]] std::optional<double> even_scale() const {
        const double one = std::hypot(a, c), other = std::hypot(b, d);
        return std::abs(one - other) < 1e-9 * (one + other) && std::abs(a * b + c * d) < 1e-9 * one * other
                   ? std::optional(one)
                   : std::nullopt;
    }
};

struct Inserted {
    std::string block;
    Placing placing;
    std::string layer;
};

struct Block {
    Vec2 base;
    std::vector<Piece> pieces;
    std::vector<Inserted> inserts;
};

std::vector<Vec2> arc(Vec2 centre, Vec2 major, Vec2 minor, double from, double to) {
    // Chords within a thousandth of the radius: 1 − cos(step/2) < 0.001.
    const int n = std::max(2, static_cast<int>(std::ceil(std::abs(to - from) / 0.085)));
    std::vector<Vec2> run;
    run.reserve(static_cast<std::size_t>(n) + 1);
    for (int i = 0; i <= n; ++i) {
        const double t = from + (to - from) * i / n;
        run.push_back(centre + std::cos(t) * major + std::sin(t) * minor);
    }
    return run;
}

/// Takes what dxflib finds.
class Taker : public DL_CreationAdapter {
  public:
    Block& model() { return model_; }
    std::map<std::string, Block>& blocks() { return blocks_; }
    DxfDrawing& out() { return out_; }

    void setVariableInt(const std::string& key, int value, int /*code*/) override {
        if (key != "$INSUNITS")
            return;
        static const std::map<int, double> units{{1, 25.4}, {2, 304.8}, {4, 1}, {5, 10}, {6, 1000}, {13, 0.001}};
        if (const auto found = units.find(value); found != units.end())
            out_.mm_per_unit = found->second;
    }

    void addBlock(const DL_BlockData& data) override {
        end_polyline();
        block_ = &blocks_[data.name];
        *block_ = {};
        block_->base = {data.bpx, data.bpy};
    }
    void endBlock() override {
        end_polyline();
        block_ = nullptr;
    }
    void addLine(const DL_LineData& l) override { take({{{l.x1, l.y1}, {l.x2, l.y2}}}); }
    void addArc(const DL_ArcData& a) override {
        const double from = a.angle1 * pi / 180;
        double to = a.angle2 * pi / 180;
        while (to <= from)
            to += 2 * pi;
        take({arc({a.cx, a.cy}, {a.radius, 0}, {0, a.radius}, from, to)});
    }
    void addCircle(const DL_CircleData& c) override {
        take({{}, true, {{c.cx, c.cy}, c.radius, getAttributes().getLayer()}});
    }
    void addEllipse(const DL_EllipseData& e) override {
        double to = e.angle2;
        while (to <= e.angle1)
            to += 2 * pi;
        const Vec2 major{e.mx, e.my}, minor{-e.my * e.ratio, e.mx * e.ratio};
        take({arc({e.cx, e.cy}, major, minor, e.angle1, to), to - e.angle1 > 2 * pi - 1e-9});
    }
    void addPolyline(const DL_PolylineData& data) override {
        end_polyline();
        in_polyline_ = true;
        polyline_layer_ = getAttributes().getLayer();
        closed_ = (data.flags & 1) != 0;
        extrusion_ = mirrored();
    }
    void addVertex(const DL_VertexData& v) override {
        if (in_polyline_)
            vertices_.push_back({{v.x, v.y}, v.bulge});
    }
    void endEntity() override { end_polyline(); }
    void addInsert(const DL_InsertData& i) override {
        end_polyline();
        const double turn = i.angle * pi / 180, c = std::cos(turn), s = std::sin(turn);
        const double flip = mirrored() ? -1 : 1;
        constexpr int most = 1000; // of a row: nobody drills more
        for (int row = 0; row < std::clamp(i.rows, 1, most); ++row)
            for (int column = 0; column < std::clamp(i.cols, 1, most); ++column) {
                const double dx = column * i.colSp, dy = row * i.rowSp;
                into().inserts.push_back({i.name,
                                          {flip * c * i.sx, -flip * s * i.sy, s * i.sx, c * i.sy,
                                           flip * (i.ipx + c * dx - s * dy), i.ipy + s * dx + c * dy},
                                          getAttributes().getLayer()});
            }
        ++out_.entities;
    }
    void end_polyline() {
        if (!in_polyline_)
            return;
        in_polyline_ = false;
        Piece piece;
        piece.closed = closed_;
        piece.layer = polyline_layer_;
        const std::size_t n = vertices_.size();
        for (std::size_t i = 0; i < n; ++i) {
            piece.run.push_back(vertices_[i].first);
            if (vertices_[i].second != 0 && (i + 1 < n || closed_))
                add_bulge(piece.run, vertices_[(i + 1) % n].first, vertices_[i].second);
        }
        vertices_.clear();
        if (extrusion_)
            for (Vec2& p : piece.run)
                p.x = -p.x;
        if (piece.run.size() > 1) {
            into().pieces.push_back(std::move(piece));
            ++out_.entities;
        }
    }

  private:
    Block& into() { return block_ ? *block_ : model_; }
    [[nodiscard]] bool mirrored() {
        std::array<double, 3> direction{};
        getExtrusion()->getDirection(direction.data());
        return direction[2] < 0;
    }
    void take(Piece piece) {
        end_polyline();
        piece.layer = getAttributes().getLayer();
        if (mirrored()) {
            piece.circle.centre.x = -piece.circle.centre.x;
            for (Vec2& p : piece.run)
                p.x = -p.x;
        }
        into().pieces.push_back(std::move(piece));
        ++out_.entities;
    }
    /// The points between two vertices: a bulge is the tangent of a quarter of the arc's angle.
    static void add_bulge(std::vector<Vec2>& run, Vec2 to, double bulge) {
        const Vec2 from = run.back(), way = to - from;
        const double angle = 4 * std::atan(bulge), half = norm(way) / 2;
        if (half == 0)
            return;
        const double away = half / std::tan(angle / 2); // of the centre from the chord
        const Vec2 middle = 0.5 * (from + to), left{-way.y / (2 * half), way.x / (2 * half)};
        const Vec2 centre = middle + away * left, spoke = from - centre;
        const auto points = arc(centre, spoke, {-spoke.y, spoke.x}, 0, angle);
        run.insert(run.end(), points.begin() + 1, points.end() - 1);
    }

    Block model_;
    std::map<std::string, Block> blocks_;
    Block* block_ = nullptr;
    DxfDrawing out_;
    std::vector<std::pair<Vec2, double>> vertices_;
    std::string polyline_layer_;
    bool in_polyline_ = false, closed_ = false, extrusion_ = false;
};

/// Which kinds of entities the file holds, by a walk through its pairs of code and value: dxflib passes over what it
/// does not know without a word.
struct Survey {
    bool entities = false; ///< there is a section of them
    std::map<std::string, std::size_t> unknown;
};

Survey survey(std::string_view text) {
    static const std::set<std::string_view> known{"LINE",       "ARC",     "CIRCLE", "ELLIPSE", "POLYLINE",
                                                  "LWPOLYLINE", "VERTEX",  "SEQEND", "INSERT",  "BLOCK",
                                                  "ENDBLK",     "SECTION", "ENDSEC", "EOF",     "ATTRIB"};
    Survey found;
    std::size_t at = 0;
    const auto line = [&] {
        const auto end = std::min(text.find('\n', at), text.size());
        const auto one = trimmed(text.substr(at, end - at));
        at = end + 1;
        return one;
    };
    bool names_section = false, counts = false;
    while (at < text.size()) {
        const std::string_view code = line(), value = at < text.size() ? line() : std::string_view();
        if (code == "2" && names_section) {
            found.entities = found.entities || value == "ENTITIES";
            counts = value == "ENTITIES" || value == "BLOCKS";
        }
        names_section = code == "0" && value == "SECTION";
        if (code == "0" && counts && !known.contains(value))
            ++found.unknown[std::string(value.substr(0, 100))];
    }
    return found;
}

/// A text as a stream that tells how far it is and ends where somebody no longer wants it.
class Watched : public std::streambuf {
  public:
    Watched(std::string_view text, const ReadWatch* watch) : text_(text), watch_(watch) {}

  protected:
    int_type underflow() override {
        if (at_ >= text_.size() || (watch_ && watch_->cancelled && *watch_->cancelled))
            return traits_type::eof();
        constexpr std::size_t piece = 1 << 16;
        const std::size_t n = std::min(piece, text_.size() - at_);
        chunk_.assign(text_.substr(at_, n));
        at_ += n;
        if (watch_ && watch_->progress)
            watch_->progress(static_cast<double>(at_) / static_cast<double>(text_.size()));
        setg(chunk_.data(), chunk_.data(), chunk_.data() + chunk_.size());
        return traits_type::to_int_type(*gptr());
    }

  private:
    std::string_view text_;
    const ReadWatch* watch_;
    std::string chunk_;
    std::size_t at_ = 0;
};

/// Puts every piece where it is inserted.
class Assembler {
  public:
    Assembler(const std::map<std::string, Block>& blocks, const ReadWatch* watch) : blocks_(blocks), watch_(watch) {}

    /// @return false where blocks stand in one another without end, or there are too many
    /// @param layer of the insertion: what stands on layer 0 of a block is on it
    bool add(const Block& block, const Placing& placing, int depth, const std::string& layer = "0") {
        constexpr int deepest = 16;
        constexpr std::size_t most = 4'000'000;
        if (depth > deepest || pieces.size() > most || (watch_ && watch_->cancelled && *watch_->cancelled))
            return false;
        for (const Piece& piece : block.pieces) {
            pieces.push_back(placed(piece, placing));
            if (piece.layer == "0")
                pieces.back().layer = layer;
        }
        for (const Inserted& insert : block.inserts) {
            const auto found = blocks_.find(insert.block);
            if (found == blocks_.end()) {
                ++lost;
                continue;
            }
            const Placing from_base{1, 0, 0, 1, -found->second.base.x, -found->second.base.y};
            const std::string& on = insert.layer == "0" ? layer : insert.layer;
            if (!add(found->second, placing.after(insert.placing.after(from_base)), depth + 1, on))
                return false;
        }
        return true;
    }

    std::vector<Piece> pieces;
    std::size_t lost = 0; ///< insertions of blocks that are not there

  private:
    static Piece placed(const Piece& piece, const Placing& placing) {
        Piece p = piece;
        if (p.run.empty()) {
            if (const auto scale = placing.even_scale()) {
                p.circle.centre = placing.of(p.circle.centre);
                p.circle.radius *= *scale;
                return p;
            }
            const double r = p.circle.radius; // squeezed: no circle any more
            p.run = arc(p.circle.centre, {r, 0}, {0, r}, 0, 2 * pi);
        }
        for (Vec2& point : p.run)
            point = placing.of(point);
        return p;
    }

    const std::map<std::string, Block>& blocks_;
    const ReadWatch* watch_;
};

/// Joins runs whose ends meet into closed ones.
class Joiner {
  public:
    Joiner(std::vector<std::vector<Vec2>> runs, double reach) : runs_(std::move(runs)), reach_(reach) {
        for (std::size_t i = 0; i < runs_.size(); ++i)
            for (const bool end : {false, true})
                cells_[cell(end_of(i, end))].push_back({i, end});
        used_.assign(runs_.size(), false);
    }

    void join(std::vector<std::vector<Vec2>>& closed, std::size_t& open) {
        for (std::size_t i = 0; i < runs_.size(); ++i) {
            if (used_[i])
                continue;
            std::vector<Vec2> chain = runs_[i];
            used_[i] = true;
            while (norm(chain.front() - chain.back()) > reach_) {
                const auto next = meeting(chain.back());
                if (!next)
                    break;
                std::vector<Vec2> more = runs_[next->first];
                used_[next->first] = true;
                if (next->second)
                    std::ranges::reverse(more);
                chain.insert(chain.end(), more.begin() + 1, more.end());
            }
            if (chain.size() > 3 && norm(chain.front() - chain.back()) <= reach_) {
                chain.pop_back();
                closed.push_back(std::move(chain));
            } else {
                ++open;
            }
        }
    }

  private:
    using Cell = std::pair<long long, long long>;
    [[nodiscard]] Cell cell(Vec2 p) const {
        const double size = 4 * reach_;
        return {std::llround(std::floor(p.x / size)), std::llround(std::floor(p.y / size))};
    }
    [[nodiscard]] Vec2 end_of(std::size_t run, bool end) const { return end ? runs_[run].back() : runs_[run].front(); }
    /// An unused run that begins or ends here. @return which, and whether by its end
    [[nodiscard]] std::optional<std::pair<std::size_t, bool>> meeting(Vec2 p) const {
        const auto [x, y] = cell(p);
        for (long long dx = -1; dx <= 1; ++dx)
            for (long long dy = -1; dy <= 1; ++dy)
                if (const auto found = cells_.find({x + dx, y + dy}); found != cells_.end())
                    for (const auto& [run, end] : found->second)
                        if (!used_[run] && norm(end_of(run, end) - p) <= reach_)
                            return std::pair(run, end);
        return std::nullopt;
    }

    std::vector<std::vector<Vec2>> runs_;
    double reach_;
    std::map<Cell, std::vector<std::pair<std::size_t, bool>>> cells_;
    std::vector<bool> used_;
};

double area(const std::vector<Vec2>& outline) {
    double twice = 0;
    for (std::size_t i = 0; i < outline.size(); ++i)
        twice += cross(outline[i], outline[(i + 1) % outline.size()]);
    return std::abs(twice / 2);
}

/// Two half circles drawn as a polyline are a circle.
std::optional<DxfDrawing::Circle> as_circle(const std::vector<Vec2>& run) {
    constexpr std::size_t fewest = 24; // corners of what was drawn as arcs
    if (run.size() < fewest)
        return std::nullopt;
    Vec2 low = run.front(), high = run.front();
    for (const Vec2 p : run) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    Vec2 centre = 0.5 * (low + high);
    double radius = 0;
    for (const Vec2 p : run)
        radius += norm(p - centre) / static_cast<double>(run.size());
    for (const Vec2 p : run)
        if (std::abs(norm(p - centre) - radius) > 2e-3 * radius)
            return std::nullopt;
    return DxfDrawing::Circle{centre, radius, {}};
}

tl::unexpected<Faults> refused(const std::string& file, std::string what, std::string expected) {
    return tl::unexpected(Faults{{file, 0, std::move(what), std::move(expected)}});
}

} // namespace

Result<DxfDrawing> read_dxf(std::string_view text, const std::string& file, const ReadWatch* watch,
                            const std::set<std::string>& without) {
    constexpr std::size_t largest = 256u << 20;
    if (text.size() > largest)
        return refused(file, "the drawing is larger than 256 MB", "a drawing of one deck or gasket");
    if (text.starts_with("AutoCAD Binary DXF") || text.find('\0') != std::string_view::npos)
        return refused(file, "it is a binary drawing", "an ASCII DXF");
    Survey kinds = survey(text);
    if (!kinds.entities)
        return refused(file, "it has no section of entities", "an ASCII DXF");
    Taker taker;
    taker.out().not_understood = std::move(kinds.unknown);
    Watched buffer(text, watch);
    std::istream stream(&buffer);
    DL_Dxf().in(stream, &taker);
    taker.end_polyline();
    if (watch && watch->cancelled && *watch->cancelled)
        return refused(file, "the read was ended", "a drawing that is read to its end");
    Assembler assembler(taker.blocks(), watch);
    if (!assembler.add(taker.model(), {}, 0))
        return refused(file, "its blocks stand in one another without end, or hold too much",
                       "a drawing of one deck or gasket");
    DxfDrawing out = std::move(taker.out());
    if (assembler.lost > 0)
        out.not_understood["INSERT of a block that is not there"] += assembler.lost;
    double extent = 0;
    std::vector<std::vector<Vec2>> runs;
    for (Piece& piece : assembler.pieces) {
        ++out.layers[piece.layer];
        if (without.contains(piece.layer))
            continue;
        const auto sound = [&](Vec2 p) { return std::isfinite(p.x) && std::isfinite(p.y); };
        if (piece.run.empty() ? !sound(piece.circle.centre) || !(piece.circle.radius > 0)
                              : !std::ranges::all_of(piece.run, sound)) {
            ++out.not_understood["without a place"];
            continue;
        }
        if (piece.run.empty()) {
            out.circles.push_back(std::move(piece.circle));
            continue;
        }
        for (const Vec2 p : piece.run)
            extent = std::max({extent, std::abs(p.x), std::abs(p.y)});
        if (piece.closed)
            piece.run.push_back(piece.run.front());
        runs.push_back(std::move(piece.run));
    }
    constexpr double gap = 1e-5; // of the drawing's size, within which ends meet
    std::vector<std::vector<Vec2>> closed;
    Joiner(std::move(runs), std::max(1e-9, gap * extent)).join(closed, out.open_runs);
    for (std::vector<Vec2>& run : closed)
        if (auto circle = as_circle(run))
            out.circles.push_back(std::move(*circle));
        else
            out.outlines.push_back(std::move(run));
    std::ranges::sort(out.outlines, std::ranges::greater{}, area);
    return out;
}

} // namespace pallix::block
