// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/small_block.h"

#include "block/number_text.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <vector>

namespace pallix::test {

std::string small_blueprint(const std::string& clocking, const std::string& angle) {
    return R"({
 "format": "pallix-blueprint", "version": 1, "unit": "mm", "name": "small block",
 "datum": { "origin_dowel": "dowel.C.1", "clocking": ")" +
           clocking + R"(" },
 "banks": [ { "id": "C", "angle_deg": )" +
           angle + R"(, "deck_height": { "nominal": 200, "lower": -0.05, "upper": 0.05 }, "deck_flatness": 0.04,
   "deck_outline": [ [0, -50], [150, -50], [150, 50], [0, 50] ] } ],
 "mains": [ { "id": "main.1", "x": 20, "diameter": { "nominal": 60, "lower": 0, "upper": 0.02 } },
            { "id": "main.2", "x": 120, "diameter": { "nominal": 60, "lower": 0, "upper": 0.02 } } ],
 "cam": { "y": 0, "z": 100, "bearings": [ { "id": "cam.1", "x": 20, "diameter": { "nominal": 40, "lower": 0, "upper": 0.02 } } ] },
 "dowels": [ { "id": "dowel.C.1", "bank": "C", "u": 0, "v": -40, "diameter": { "nominal": 10, "lower": 0, "upper": 0.02 } } ],
 "bores": [ { "id": "bore.C.1", "bank": "C", "cylinder": 1, "u": 75, "v": 0, "diameter": { "nominal": 60, "lower": 0, "upper": 0.02 } } ],
 "workshop_note": { "gasket": "copper" }
})";
}

LogWriter::LogWriter(std::string head, std::string columns) : text_(std::move(head) + std::move(columns) + "\n") {}

LogWriter& LogWriter::touch(const std::string& feature, metrology::Vec3 p, const std::string& level) {
    text_ += "a," + feature + "," + level;
    for (const double x : {p.x, p.y, p.z})
        text_ += "," + block::fixed_number(x, 9);
    text_ += "\n";
    return *this;
}

LogWriter& LogWriter::ring_x(const std::string& feature, metrology::Vec3 centre, double radius, int count,
                             const std::string& level) {
    for (int i = 0; i < count; ++i) {
        const double a = 2 * std::numbers::pi * (i + 0.3) / count;
        touch(feature, centre + metrology::Vec3{0, radius * std::cos(a), radius * std::sin(a)}, level);
    }
    return *this;
}

LogWriter& LogWriter::ring_z(const std::string& feature, metrology::Vec3 centre, double radius, int count) {
    for (int i = 0; i < count; ++i) {
        const double a = 2 * std::numbers::pi * (i + 0.3) / count;
        touch(feature, centre + metrology::Vec3{radius * std::cos(a), radius * std::sin(a), 0});
    }
    return *this;
}

LogWriter& LogWriter::deck(double height, double rear_over_front, double right_over_left) {
    for (const double u : {5.0, 75.0, 145.0})
        for (const double v : {-45.0, 0.0, 45.0})
            touch("deck.C", {u, v, height + rear_over_front * (u - 75) / 150 + right_over_left * v / 100});
    return *this;
}

LogWriter& LogWriter::row(const std::string& line) {
    text_ += line + "\n";
    return *this;
}

/// The whole small block, exact.
LogWriter small_log(double deck_height, double rear_over_front, double right_over_left) {
    LogWriter log;
    log.ring_x("main.1", {20, 0, 0}, 30.005)
        .ring_x("main.2", {120, 0, 0}, 30.005)
        .ring_x("cam.1", {20, 0, 100}, 20.005);
    log.ring_z("dowel.C.1", {0, -40, 195}, 5.004).deck(deck_height, rear_over_front, right_over_left);
    return log;
}

block::Reading height_reading(metrology::Vec2 place, double height, std::optional<double> u, const std::string& bank) {
    block::Instrument bridge;
    bridge.name = "deck bridge";
    bridge.kind = block::InstrumentKind::deck_bridge;
    bridge.standard_uncertainty = u;
    return {{{block::FeatureKind::deck, bank, 0}, block::Quantity::height, "", "", place},
            "deck, somewhere",
            height,
            {},
            "200",
            false,
            bridge,
            {}};
}

block::Reading size_reading(const std::string& feature, const std::string& level, const std::string& direction,
                            double size, std::optional<double> u) {
    block::Reading r = height_reading({}, size, u);
    r.at = {*block::FeatureId::parse(feature), block::Quantity::size, level, direction, {}};
    r.words = feature + " " + level;
    r.instrument.name = "bore gauge";
    r.instrument.kind = block::InstrumentKind::bore_gauge;
    return r;
}

block::Blueprint read_small_blueprint(const std::string& clocking, const std::string& angle) {
    auto b = block::read_blueprint(small_blueprint(clocking, angle), "small.json");
    EXPECT_TRUE(b) << (b ? "" : b.error().front().text());
    return *b;
}

block::Result<block::Evaluation> evaluate_small(const std::string& log, const block::Blueprint& blueprint) {
    const std::vector<block::NamedText> logs{{"log.csv", log}};
    return block::read_probe_logs(logs, blueprint).and_then([&](const block::ProbeSet& set) {
        return block::evaluate(blueprint, set);
    });
}

} // namespace pallix::test
