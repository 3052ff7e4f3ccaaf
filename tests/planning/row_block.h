// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/job_state.h"
#include "block/small_block.h"

#include <nlohmann/json.hpp>

namespace pallix::test {

/// An inline block with four cylinders of 80 and two lifters of 22 beside a cam that stands 100 above the mains.
inline std::string row_blueprint(const std::string& material = "grey_iron") {
    auto j = nlohmann::ordered_json::parse(small_blueprint());
    j["name"] = "row of four";
    j["material"] = material;
    j["banks"][0]["deck_outline"] = {{0, -60}, {420, -60}, {420, 60}, {0, 60}};
    j["mains"][1]["x"] = 400;
    j["bores"] = nlohmann::ordered_json::array();
    for (int n = 1; n <= 4; ++n)
        j["bores"].push_back({{"id", "bore.C." + std::to_string(n)},
                              {"bank", "C"},
                              {"cylinder", n},
                              {"u", 100 * n - 40},
                              {"v", 0},
                              {"diameter", {{"nominal", 80}, {"lower", 0}, {"upper", 0.02}}}});
    j["lifters"] = nlohmann::ordered_json::array();
    for (int n = 1; n <= 2; ++n)
        j["lifters"].push_back({{"id", "lifter.C." + std::to_string(n)},
                                {"bank", "C"},
                                {"angle_deg", 0},
                                {"u", 100 * n},
                                {"v", 0},
                                {"diameter", {{"nominal", 22}, {"lower", 0}, {"upper", 0.02}}}});
    return j.dump(1);
}

inline block::FeatureId bore_id(int number) {
    return {block::FeatureKind::bore, "C", number};
}
inline block::FeatureId lifter_id(int number) {
    return {block::FeatureKind::lifter, "C", number};
}

/// The ledger of a job on that block, entry by entry.
class RowJob {
  public:
    explicit RowJob(const std::string& material = "grey_iron") {
        add(block::JobOpened{"row", "", "row.json", row_blueprint(material)});
    }
    void add(block::Payload payload, const std::string& time = "2026-03-02T09:00:00Z") {
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), time, "", std::move(payload)});
    }
    /// Three levels, both ways.
    void sizes(const block::FeatureId& id, double size, const std::string& time = "2026-03-02T09:00:00Z") {
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"})
                add(size_reading(id.text(), level, way, size, 0.0005), time);
    }
    void cut(int bore, block::BoreOperation operation, double target, std::optional<double> setting = {},
             bool new_edge = false) {
        block::BoreCut c{bore_id(bore), operation, target, setting, new_edge, 0, "", {}, ""};
        add(c);
    }
    [[nodiscard]] block::JobState state() const { return block::fold(entries_); }
    [[nodiscard]] const std::vector<block::Entry>& entries() const { return entries_; }

  private:
    std::vector<block::Entry> entries_;
};

/// A bore as a probe has it: two rings, the upper one about `top`, the lower one about `bottom`.
inline block::HoleResult probed_bore(const block::FeatureId& id, metrology::Vec2 top, double top_diameter,
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
