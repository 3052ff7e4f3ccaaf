// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/dxf_writer.h"

#include "block/drawing/size_text.h"
#include "block/number_text.h"

#include <algorithm>
#include <cmath>
#include <dxflib/dl_dxf.h>
#include <memory>
#include <vector>

namespace pallix::block {
namespace {

using metrology::Vec2;

/// A drawing file on its way: its head, then lines, circles and words in its unit.
class Page {
  public:
    Page(const std::string& file, Unit unit, std::vector<std::string> layers)
        : unit_(unit), layers_(std::move(layers)), out_(dxf_.out(file.c_str(), DL_Codes::AC1015)) {
        if (opened())
            head();
    }
    [[nodiscard]] bool opened() const { return out_ && !out_->openFailed(); }

    void line(Vec2 a, Vec2 z, const std::string& layer) {
        dxf_.writeLine(*out_, DL_LineData(u(a.x), u(a.y), 0, u(z.x), u(z.y), 0), on(layer));
    }
    void circle(Vec2 middle, double diameter, const std::string& layer) {
        dxf_.writeCircle(*out_, DL_CircleData(u(middle.x), u(middle.y), 0, u(diameter / 2)), on(layer));
    }
    void text(Vec2 at, const std::string& words, const std::string& layer) {
        constexpr double high = 5; // mm
        dxf_.writeText(*out_,
                       DL_TextData(u(at.x), u(at.y), 0, u(at.x), u(at.y), 0, u(high), 1, 0, 0, 0, words, "standard", 0),
                       on(layer));
    }
    [[nodiscard]] double u(double mm) const { return mm / mm_per(unit_); }
    void end() {
        out_->sectionEnd();
        dxf_.writeObjects(*out_);
        dxf_.writeObjectsEnd(*out_);
        out_->dxfEOF();
        out_->close();
    }

  private:
    void head() {
        DL_WriterA& out = *out_;
        dxf_.writeHeader(out);
        out.dxfString(9, "$INSUNITS");
        out.dxfInt(70, unit_ == Unit::mm ? 4 : 1);
        out.sectionEnd();
        out.sectionTables();
        dxf_.writeVPort(out);
        out.tableLinetypes(3);
        for (const char* type : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
            dxf_.writeLinetype(out, DL_LinetypeData(type, "", 0, 0, 0.0));
        out.tableEnd();
        out.tableLayers(static_cast<int>(layers_.size()) + 1);
        dxf_.writeLayer(out, DL_LayerData("0", 0), DL_Attributes("", 7, 25, "CONTINUOUS", 1.0));
        for (const std::string& layer : layers_)
            dxf_.writeLayer(out, DL_LayerData(layer, 0), DL_Attributes("", 7, 25, "CONTINUOUS", 1.0));
        out.tableEnd();
        out.tableStyle(1);
        dxf_.writeStyle(out, DL_StyleData("standard", 0, 0.0, 1.0, 0.0, 0, 2.5, "txt", ""));
        out.tableEnd();
        dxf_.writeView(out);
        dxf_.writeUcs(out);
        out.tableAppid(1);
        dxf_.writeAppid(out, "ACAD");
        out.tableEnd();
        dxf_.writeDimStyle(out, 2.5, 1, 0.6, 0.6, 2.5);
        dxf_.writeBlockRecord(out);
        out.tableEnd();
        out.sectionEnd();
        out.sectionBlocks();
        for (const char* block : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
            dxf_.writeBlock(out, DL_BlockData(block, 0, 0.0, 0.0, 0.0));
            dxf_.writeEndBlock(out, block);
        }
        out.sectionEnd();
        out.sectionEntities();
    }
    static DL_Attributes on(const std::string& layer) { return {layer, 256, -1, "BYLAYER", 1.0}; }

    Unit unit_;
    std::vector<std::string> layers_;
    DL_Dxf dxf_;
    std::unique_ptr<DL_WriterA> out_;
};

const std::vector<std::string> layers{"OUTLINE", "CYLINDERS", "DOWELS", "MAINS", "AXES", "DIMENSIONS"};

class Sheet {
  public:
    Sheet(const Blueprint& b, Page& page) : b_(b), page_(page) {}

    void write() {
        double below = 0; // mm, how far down the next view begins
        for (const BankBlueprint& bank : b_.banks)
            below += deck(bank, below);
        side(below);
    }

  private:
    [[nodiscard]] std::string number(double mm) const { return short_number(std::round(page_.u(mm) * 1e4) / 1e4); }
    void line(Vec2 a, Vec2 z, const char* layer) { page_.line(a, z, layer); }
    void circle(Vec2 middle, double diameter, const char* layer) { page_.circle(middle, diameter, layer); }
    void text(Vec2 at, const std::string& words) { page_.text(at, words, "DIMENSIONS"); }
    /// A line along with ticks, and its number over it.
    void dimension(double from, double to, double y) {
        constexpr double tick = 2; // mm
        line({from, y}, {to, y}, "DIMENSIONS");
        for (const double x : {from, to})
            line({x - tick, y - tick}, {x + tick, y + tick}, "DIMENSIONS");
        text({(from + to) / 2, y + tick}, number(to - from));
    }

    /// @return how high the view is, mm
    double deck(const BankBlueprint& bank, double below) {
        const auto [low, high] = std::ranges::minmax(bank.deck_outline, {}, &Vec2::y);
        const double tall = high.y - low.y, shift = -below - high.y;
        const auto at = [&](double x, double y) { return Vec2{x, y + shift}; };
        for (std::size_t i = 0; i < bank.deck_outline.size(); ++i) {
            const Vec2 a = bank.deck_outline[i], z = bank.deck_outline[(i + 1) % bank.deck_outline.size()];
            line(at(a.x, a.y), at(z.x, z.y), "OUTLINE");
        }
        constexpr double room = 14; // mm between dimensions
        const HoleBlueprint* before = nullptr;
        for (const HoleBlueprint& bore : b_.bores)
            if (bore.id.bank == bank.id) {
                circle(at(bore.u, bore.v), bore.diameter.nominal, "CYLINDERS");
                text(at(bore.u - bore.diameter.nominal / 4, bore.v), size_text(bore.diameter, b_.unit));
                dimension(before ? before->u : 0, bore.u, shift + low.y - room);
                before = &bore;
            }
        for (const HoleBlueprint& dowel : b_.dowels)
            if (dowel.id.bank == bank.id) {
                circle(at(dowel.u, dowel.v), dowel.diameter.nominal, "DOWELS");
                text(at(dowel.u + dowel.diameter.nominal, dowel.v - 2 * room / 3),
                     number(dowel.u) + " / " + number(dowel.v));
            }
        text(at(bank.deck_outline.front().x, low.y - 2 * room),
             "bank " + bank.id + ": deck height " + size_text(bank.deck_height, b_.unit));
        return tall + 4 * room;
    }

    void side(double below) {
        const double radius = b_.mains.front().diameter.nominal / 2, axis = -below - 2 * radius;
        line({b_.mains.front().x - radius, axis}, {b_.mains.back().x + radius, axis}, "AXES");
        double before = 0;
        for (const MainBlueprint& main : b_.mains) {
            for (const double y : {axis - radius, axis + radius})
                line({main.x - 8, y}, {main.x + 8, y}, "MAINS");
            text({main.x - 8, axis + radius + 2}, size_text(main.diameter, b_.unit));
            dimension(before, main.x, axis - radius - 12);
            before = main.x;
        }
    }

    const Blueprint& b_;
    Page& page_;
};

tl::unexpected<Faults> cannot_write(const std::string& file) {
    return tl::unexpected(Faults{{file, 0, "it cannot be written", "a folder that may be written"}});
}

} // namespace

tl::expected<void, Faults> write_dxf(const Blueprint& blueprint, const std::string& file) {
    Page page(file, blueprint.unit, layers);
    if (!page.opened())
        return cannot_write(file);
    Sheet(blueprint, page).write();
    page.end();
    return {};
}

tl::expected<void, Faults> write_dxf(const DrawnHoles& drawn, Unit unit, const std::string& file) {
    std::vector<std::string> names;
    const auto add = [&names](const std::string& layer) {
        if (std::ranges::find(names, layer) == names.end())
            names.push_back(layer);
    };
    for (const auto& circle : drawn.circles)
        add(circle.layer);
    for (const auto& words : drawn.words)
        add(words.layer);
    Page page(file, unit, names);
    if (!page.opened())
        return cannot_write(file);
    for (const auto& circle : drawn.circles)
        page.circle(circle.at, circle.diameter, circle.layer);
    for (const auto& words : drawn.words)
        page.text(words.at, words.text, words.layer);
    page.end();
    return {};
}

} // namespace pallix::block
