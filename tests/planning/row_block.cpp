// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/row_block.h"

#include <tuple>

namespace pallix::test {
namespace {

/// The text with its one place of `what` replaced.
std::string with(std::string text, const std::string& what, const std::string& instead) {
    return text.replace(text.find(what), what.size(), instead);
}

std::string hole(const std::string& id, int u, int size, const std::string& more) {
    return "{ \"id\": \"" + id + "\", \"bank\": \"C\", " + more + ", \"u\": " + std::to_string(u) +
           ", \"v\": 0, \"diameter\": { \"nominal\": " + std::to_string(size) + ", \"lower\": 0, \"upper\": 0.02 } }";
}

} // namespace

std::string row_blueprint(const std::string& material) {
    std::string bores, lifters;
    for (int n = 1; n <= 4; ++n)
        bores += (n > 1 ? ",\n   " : "") +
                 hole("bore.C." + std::to_string(n), 100 * n - 40, 80, "\"cylinder\": " + std::to_string(n));
    for (int n = 1; n <= 2; ++n)
        lifters += (n > 1 ? ",\n   " : "") + hole("lifter.C." + std::to_string(n), 100 * n, 22, "\"angle_deg\": 0");
    std::string text = small_blueprint();
    text = with(text, "\"name\": \"small block\"", "\"name\": \"row of four\", \"material\": \"" + material + "\"");
    text = with(text, "[ [0, -50], [150, -50], [150, 50], [0, 50] ]", "[ [0, -60], [420, -60], [420, 60], [0, 60] ]");
    text = with(text, "\"id\": \"main.2\", \"x\": 120", "\"id\": \"main.2\", \"x\": 400");
    const std::size_t from = text.find("\"bores\""), to = text.find("\"workshop_note\"");
    return text.replace(from, to - from, "\"bores\": [ " + bores + " ],\n \"lifters\": [ " + lifters + " ],\n ");
}

block::FeatureId bore_id(int number) {
    return {block::FeatureKind::bore, "C", number};
}
block::FeatureId lifter_id(int number) {
    return {block::FeatureKind::lifter, "C", number};
}

RowJob::RowJob(const std::string& material) {
    add(block::JobOpened{"row", "", "row.json", row_blueprint(material)});
}

void RowJob::add(block::Payload payload, const std::string& time) {
    entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), time, "", std::move(payload)});
}

void RowJob::sizes(const block::FeatureId& id, double size, const std::string& time) {
    for (const char* level : {"top", "middle", "bottom"})
        for (const char* way : {"across", "along"})
            add(size_reading(id.text(), level, way, size, 0.0005), time);
}

void RowJob::cut(int bore, block::BoreOperation operation, double target, std::optional<double> setting,
                 bool new_edge) {
    add(block::BoreCut{bore_id(bore), operation, target, setting, new_edge, 0, "", {}, ""});
}

RowJob rough_bored(const std::string& material) {
    RowJob job(material);
    job.sizes(bore_id(1), 80);
    block::PistonsStated p;
    p.clearance = 0.05;
    p.size = 80.45;
    job.add(p);
    job.cut(1, block::BoreOperation::rough, 80.4, 80.4);
    block::Conditions c;
    c.plate_on = true;
    c.caps_torqued = true;
    job.add(block::ConditionsStated{c});
    job.sizes(bore_id(1), 80.4);
    return job;
}

block::HoleResult probed_bore(const block::FeatureId& id, metrology::Vec2 top, double top_diameter,
                              metrology::Vec2 bottom, double bottom_diameter) {
    block::HoleResult h;
    h.id = id;
    h.centre = top;
    for (const auto& [name, centre, diameter, w] :
         {std::tuple("top", top, top_diameter, 190.0), std::tuple("bottom", bottom, bottom_diameter, 90.0)}) {
        block::HoleLevel level;
        level.level = name;
        level.w = w;
        level.centre = centre;
        level.diameter = diameter;
        for (const auto& way : {metrology::Vec2{1, 0}, {0, 1}, {-1, 0}, {0, -1}}) {
            level.surface.push_back(centre + diameter / 2 * way);
            level.heights.push_back(w);
        }
        h.levels.push_back(level);
    }
    h.lean = 1.0 / (h.levels[0].w - h.levels[1].w) * (top - bottom);
    return h;
}

} // namespace pallix::test
