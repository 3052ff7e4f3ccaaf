// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"

#include <array>
#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <string>
#include <vector>

namespace pallix::test {

inline constexpr std::array stations{20, 70, 120, 170, 220};

/// Five mains of 60.000 to 60.020, a cam, one deck 200 high (±0.05), four cylinders of 80.
inline std::string story_blueprint() {
    const auto list = [](std::size_t count, auto item) {
        std::string all;
        for (std::size_t i = 0; i < count; ++i)
            all += (i > 0 ? "," : "") + item(i);
        return all;
    };
    const std::string window = R"("lower":0,"upper":0.02}})";
    const std::string mains = list(stations.size(), [&](std::size_t i) {
        return R"({"id":"main.)" + std::to_string(i + 1) + R"(","x":)" + std::to_string(stations[i]) +
               R"(,"diameter":{"nominal":60,)" + window;
    });
    const std::string bores = list(4, [&](std::size_t i) {
        const std::string n = std::to_string(i + 1);
        return R"({"id":"bore.C.)" + n + R"(","bank":"C","cylinder":)" + n + R"(,"u":)" + std::to_string(i * 60 + 30) +
               R"(,"v":0,"diameter":{"nominal":80,)" + window;
    });
    return R"({"format":"pallix-blueprint","version":1,"unit":"mm","name":"five mains",
"datum":{"origin_dowel":"dowel.C.1","clocking":"cam"},
"banks":[{"id":"C","angle_deg":0,"deck_height":{"nominal":200,"lower":-0.05,"upper":0.05},"deck_flatness":0.05,
"deck_outline":[[0,-50],[240,-50],[240,50],[0,50]]}],"mains":[)" +
           mains + R"(],"cam":{"y":0,"z":100,"bearings":[{"id":"cam.1","x":20,"diameter":{"nominal":50,)" + window +
           R"(,{"id":"cam.2","x":220,"diameter":{"nominal":50,)" + window +
           R"(]},"dowels":[{"id":"dowel.C.1","bank":"C","u":0,"v":0,"diameter":{"nominal":12,)" + window +
           R"(],"bores":[)" + bores + "]}";
}

/// The block as a probe has it: every main's radius, cap end moved by `cap` towards the crankshaft.
inline std::string log_of(double radius, double cap = 0, double deck = 200.03, double middle_up = 0) {
    LogWriter w;
    for (std::size_t i = 0; i < stations.size(); ++i)
        for (const char* level : {"front", "rear"})
            for (int k = 0; k < 12; ++k) {
                const double angle = (k + 0.5) * 2 * std::numbers::pi / 12;
                const double y = radius * std::cos(angle), z = radius * std::sin(angle);
                const double up = i == 2 ? middle_up : 0;
                w.touch("main." + std::to_string(i + 1),
                        {stations[i] + (level[0] == 'f' ? -8.0 : 8.0), y, z + up + (z < 0 ? cap : 0)}, level);
            }
    w.ring_x("cam.1", {20, 0, 100}, 25).ring_x("cam.2", {220, 0, 100}, 25);
    w.ring_z("dowel.C.1", {0, 0, deck}, 6);
    for (const double u : {5.0, 60.0, 120.0, 180.0, 235.0})
        for (const double v : {-45.0, 45.0})
            w.touch("deck.C", {u, v, deck});
    return w.text();
}

/// A ledger told entry by entry, and what is called for after it.
class Story {
  public:
    explicit Story(const std::string& blueprint = story_blueprint()) {
        add(block::JobOpened{"story", "", "b.json", blueprint});
    }
    Story& add(block::Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T09:00:00Z", "Marit", std::move(payload)});
        return *this;
    }
    Story& log(const std::string& text) { return add(block::ProbeLogTaken{"log.csv", "", text, 0.0005, false}); }
    Story& probed(double radius, double cap = 0, double deck = 200.03) { return log(log_of(radius, cap, deck)); }
    Story& caps(bool torqued) {
        block::Conditions c;
        c.caps_torqued = torqued;
        return add(block::ConditionsStated{c, false});
    }
    Story& size(int main, const char* end, const char* way, double d) {
        return add(size_reading("main." + std::to_string(main), end, way, d, 0.0005));
    }
    /// Every main both ends, three ways.
    Story& sizes(double upright, double side) {
        for (int n = 1; n <= 5; ++n)
            for (const char* end : {"front", "rear"})
                size(n, end, "upright", upright).size(n, end, "60 left", side).size(n, end, "60 right", side);
        return *this;
    }
    Story& saddles(double off = 0) {
        for (int n = 1; n <= 5; ++n) {
            block::Reading r = size_reading("main." + std::to_string(n), "", "", n == 3 ? off : 0, 0.0005);
            r.at.quantity = block::Quantity::saddle;
            add(r);
        }
        return *this;
    }
    /// What the indicator reads at the corners of the deck: front +v, front −v, rear +v, rear −v.
    Story& corners(const std::array<double, 4>& heights) {
        std::size_t i = 0;
        for (const char* end : {"front", "rear"})
            for (const char* side : {"+v", "-v"}) {
                block::Reading r;
                r.at = {{block::FeatureKind::deck, "C", 0}, block::Quantity::indicator, end, side, {}};
                r.value = heights.at(i++);
                r.instrument.name = "indicator";
                add(r);
            }
        return *this;
    }
    /// One size of each of the four cylinders.
    Story& bores(double d) {
        for (int n = 1; n <= 4; ++n)
            add(size_reading("bore.C." + std::to_string(n), "top", "across", d, 0.0005));
        return *this;
    }
    Story& pistons(double size, std::optional<double> clearance = {}) {
        block::PistonsStated p;
        p.size = size;
        if (clearance)
            p.clearance = *clearance;
        return add(p);
    }
    Story& cut_caps(double depth) {
        block::CapsCut cut;
        for (int n = 1; n <= 5; ++n)
            cut.cuts.emplace_back(block::FeatureId{block::FeatureKind::main, "", n}, depth);
        return add(cut);
    }
    Story& strokes(int n) { return add(block::TunnelPass{block::TunnelPassKind::strokes, n, {}, false}); }
    Story& deck(block::PassKind kind, double depth, bool clean = true, std::vector<metrology::Vec2> dark = {}) {
        return add(block::DeckCut{"C", kind, depth, clean, std::move(dark)});
    }
    [[nodiscard]] const std::vector<block::Entry>& entries() const { return entries_; }
    block::Folded state() const {
        block::Folded s = block::fold(entries_);
        EXPECT_TRUE(intake_of(s).troubles.empty()) << intake_of(s).troubles.front().words;
        return s;
    }
    planning::Assessment now(const std::string& at = "2026-03-02T12:00:00Z") const {
        return planning::assess(state(), nullptr, at);
    }
    /// Id of the step that is called; "" for none.
    std::string called() const {
        const planning::Assessment a = now();
        const planning::Step* step = a.steps.now();
        return step ? step->id : "";
    }
    planning::StageMark mark(planning::Stage stage) const { return now().stages[static_cast<std::size_t>(stage)].mark; }
    /// Steps that take metal and could be done at once.
    std::vector<std::string> metal() const {
        const planning::Assessment a = now();
        std::vector<std::string> ids;
        for (const planning::Step& s : a.steps.steps)
            if (s.cannot_be_undone && (s.state == planning::StepState::now || s.state == planning::StepState::ready))
                ids.push_back(s.id);
        return ids;
    }
    std::vector<block::Rule> waits(const std::string& id) const {
        const planning::Assessment a = now();
        const planning::Step* step = a.steps.find(id);
        std::vector<block::Rule> rules;
        if (step)
            for (const planning::Wait& w : step->waits_for)
                rules.push_back(w.rule);
        return rules;
    }

  private:
    std::vector<block::Entry> entries_;
};

} // namespace pallix::test
