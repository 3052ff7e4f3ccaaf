// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/tables.h"

#include "wording/common/sentences.h"
#include "wording/tunnel/tunnel_words.h"

#include <algorithm>
#include <vector>

namespace pallix::wording {
namespace {

/// Characters a text takes on screen: continuation bytes of UTF-8 take none.
std::size_t columns(const std::string& text) {
    return static_cast<std::size_t>(std::ranges::count_if(text, [](char c) { return (c & 0xC0) != 0x80; }));
}

/// Rows of cells; the first column to the left, the others to the right, so that points stand under points.
class Table {
  public:
    explicit Table(std::vector<std::string> head) : rows_{std::move(head)} {}
    void add(std::vector<std::string> row) { rows_.push_back(std::move(row)); }

    std::string text() const {
        std::vector<std::size_t> width(rows_.front().size(), 0);
        for (const auto& row : rows_)
            for (std::size_t i = 0; i < row.size(); ++i)
                width[i] = std::max(width[i], columns(row[i]));
        std::string out;
        for (const auto& row : rows_) {
            std::string line;
            for (std::size_t i = 0; i < row.size(); ++i) {
                const std::string pad(width[i] - columns(row[i]), ' ');
                line += i == 0 ? row[i] + pad : "  " + pad + row[i];
            }
            line.erase(line.find_last_not_of(' ') + 1);
            out += "  " + line + "\n";
        }
        return out + "\n";
    }

  private:
    std::vector<std::vector<std::string>> rows_;
};

std::string hole_table(const std::string& title, const std::vector<block::HoleResult>& holes, const LengthText& l) {
    if (holes.empty())
        return "";
    const bool lifters = holes.front().id.kind == block::FeatureKind::lifter;
    Table table({lifters ? "lifter" : "bore", lifters ? "from cam plane" : "cylinder", "along", "across", "along error",
                 "across error", "top size", "taper", "round MZ", "cleans free", "about top", "about blueprint"});
    for (const block::HoleResult& h : holes) {
        double round = 0;
        for (const block::HoleLevel& level : h.levels)
            round = std::max(round, level.roundness_mz);
        const std::string second =
            lifters ? (h.v_cam ? l.with_sign(*h.v_cam) : "") : (h.cylinder ? std::to_string(*h.cylinder) : "");
        table.add({h.id.text(), second, l.plain(h.centre.x), l.plain(h.centre.y),
                   h.place_known ? l.with_sign(h.error.x) : "", h.place_known ? l.with_sign(h.error.y) : "",
                   l.plain(h.diameter()), l.with_sign(h.taper()), l.plain(round), l.plain(h.clean_free),
                   l.plain(h.clean_top), h.place_known ? l.plain(h.clean_blueprint) : ""});
    }
    return title + "\n" + table.text();
}

} // namespace

std::string evaluation_table(const block::Blueprint& blueprint, const block::Evaluation& e, const LengthText& l) {
    std::string out = blueprint.name + "\n";
    out += "all lengths in " + l.unit_name() + "; datum: mains, " + datum_name(blueprint) + "\n\n";
    out += "Main tunnel\n";
    Table tunnel({"straightness", "over all (LSQ)", "seen from the side (MZ)", "seen from above (MZ)"});
    tunnel.add({"", l.plain(e.tunnel.straightness_lsq), l.plain(e.tunnel.straightness_vertical_mz),
                l.plain(e.tunnel.straightness_lateral_mz)});
    out += tunnel.text();
    Table mains({"main", "level", "along", "across", "height", "diameter", "round LSQ", "round MZ"});
    for (const block::MainResult& m : e.mains)
        mains.add({m.id.text(), m.level, l.plain(m.centre.x), l.with_sign(m.centre.y), l.with_sign(m.centre.z),
                   l.plain(m.diameter), l.plain(m.roundness_lsq), l.plain(m.roundness_mz)});
    out += mains.text();
    if (e.cam) {
        out += "Cam\n";
        Table cam({"across", "height", "distance", "error", "parallel"});
        cam.add({l.with_sign(e.cam->y), l.plain(e.cam->z), l.plain(e.cam->distance), l.with_sign(e.cam->distance_error),
                 l.plain(e.cam->parallelism)});
        out += cam.text();
    }
    if (!e.decks.empty()) {
        out += "Decks\n";
        Table decks(
            {"deck", "points", "lowest", "highest", "mean", "flat LSQ", "flat MZ", "to clean", "over blueprint"});
        for (const block::DeckResult& d : e.decks)
            decks.add({d.id.text(), std::to_string(d.touches), l.plain(d.height_min), l.plain(d.height_max),
                       l.plain(d.height_mean), l.plain(d.flatness_lsq), l.plain(d.flatness_mz),
                       l.plain(d.cut_to_clean()), l.with_sign(d.stock_to_nominal())});
        out += decks.text();
    }
    if (!e.dowels.empty()) {
        out += "Dowels\n";
        Table dowels({"dowel", "u", "v", "diameter", "u error", "v error"});
        for (const block::DowelResult& d : e.dowels)
            dowels.add({d.id.text(), l.plain(d.u), l.plain(d.v), l.plain(d.diameter),
                        d.place_known ? l.with_sign(d.du) : "", d.place_known ? l.with_sign(d.dv) : ""});
        out += dowels.text();
    }
    out += hole_table("Cylinders", e.bores, l);
    out += hole_table("Lifters", e.lifters, l);
    return out;
}

std::string plan_table(const block::Blueprint& blueprint, const planning::CorrectionPlan& plan, const LengthText& l) {
    std::string out = blueprint.name + "\nall lengths in " + l.unit_name() + "\n\nMain tunnel\n";
    for (const std::string& sentence : tunnel_plan_sentences(plan.tunnel, l))
        out += "  " + sentence + "\n";
    if (plan.roll != 0)
        out += "  " + roll_sentence(plan.roll) + "\n";
    out += "\n";
    if (plan.tunnel.feasible) {
        Table cuts({"cap", "cut"});
        for (const planning::CapCut& cut : plan.tunnel.cuts)
            cuts.add({cut.id.text(), l.plain(cut.cut)});
        out += cuts.text();
    }
    if (!plan.decks.empty()) {
        out += "Decks, from the tunnel as it will be\n";
        Table decks({"deck", "cut to", "lowest", "highest", "cut", "short by"});
        for (const planning::DeckCorrection& d : plan.decks)
            decks.add({d.id.text(), l.plain(d.target), l.plain(d.low), l.plain(d.high), l.with_sign(d.cut()),
                       d.cleans() ? "cleans" : l.plain(d.short_by)});
        out += decks.text();
    }
    if (!plan.bores.each.empty()) {
        out += plan.bores.oversize ? "Cylinders: oversize " + l.with_sign(*plan.bores.oversize) + ", set by " +
                                         plan.bores.set_by->text() + "\n"
                                   : "Cylinders: no oversize of the list holds them all; most needed by " +
                                         plan.bores.set_by->text() + "\n";
        Table bores({"bore", "cleans at", "needed", "over nominal", "oversize"});
        for (const planning::BoreNeed& b : plan.bores.each)
            bores.add({b.id.text(), l.plain(b.clean), l.plain(b.needed), l.with_sign(b.needed - b.nominal),
                       b.oversize ? l.with_sign(*b.oversize) : "none"});
        out += bores.text();
    }
    return out;
}

} // namespace pallix::wording
