// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/forward.h"
#include "block/state/measured.h"
#include "planning/decks/deck_verdict.h"
#include "planning/readings/gauge_findings.h"
#include "planning/readings/second_look.h"
#include "planning/tunnel/tunnel_study.h"
#include "planning/tunnel/tunnel_verdict.h"

#include <cmath>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// A size before the caps were cut, what it should have become, and what it became.
struct CapPrediction {
    block::MeasuredAt at;
    double before = 0, cut = 0; ///< mm
    double predicted = 0;       ///< mm: a size upright shrinks by the cut, 60° off by half of it
    std::optional<double> after;
    double allowed = 0;   ///< mm, what it may differ by: twice the uncertainty of both readings
    std::size_t read = 0; ///< times since the cut
    std::optional<block::ForecastRecord> widened{}; ///< why that is more than the readings alone have it
    [[nodiscard]] bool disagrees() const { return after && std::abs(*after - predicted) > allowed; }
};

/// One cell of the hone board.
struct StockLeft {
    block::MeasuredAt at;
    double size = 0;        ///< mm
    double left = 0;        ///< mm to the target; − is over it
    double to_smallest = 0; ///< mm to the smallest allowed size; ≤ 0 is in size
    double to_largest = 0;  ///< mm to the largest allowed; < 0 is too large
    bool stale = false;     ///< measured before the last strokes
};

/// What the strokes so far took, and how many are left.
struct StrokeForecast {
    int strokes = 0;       ///< between the last two measurements
    double per_stroke = 0; ///< mm on diameter, of the place that opened fastest: where the stones cut
    double stock_left = 0; ///< mm, the largest of what was read since
    double strokes_left = 0;
    double at_once = 0; ///< strokes after which nothing can be over its aim yet, as sure as the readings are
    std::optional<block::ForecastRecord> widened{}; ///< why they are fewer than the readings alone have it
};

enum class TunnelStep {
    measure,       ///< nothing counts that was read of it: probe it, or read it from the start
    read,          ///< readings are missing
    caps_off,      ///< the caps are not on as they will run
    state_caps,    ///< nobody has said whether they were
    settle,        ///< too near a limit to tell, or probe and gauge contradict each other
    cannot_settle, ///< too near a limit, and measuring it again and again has not told
    decide,        ///< no plan within the limits
    good,          ///< it meets
    cut_caps,
    torque_caps,  ///< caps back on, torqued as they will run
    measure_caps, ///< sizes after the caps were cut
    read_again,   ///< a size did not become what the cut should have made of it, or decides too much by itself
    machine,      ///< hone strokes, or passes of the bar
    measure_work, ///< sizes after strokes or a pass
    give_bar,     ///< nobody has said how thick the bar is
    mark,         ///< what the pass left in each main
    not_clean,    ///< in size, and not cut all round
    log_finished, ///< every main is in size: say that the tunnel is done
    too_large,    ///< a main is over its window
    no_limits,    ///< the blueprint gives a main no window: nothing can be judged or planned by its size
};

/// How much of a main's two halves a pass of the bar is to touch, 0 to 1; the relief beside the parting line left out.
struct BarContact {
    block::FeatureId main;
    double cap = 0, saddle = 0;
};

struct TunnelWork {
    TunnelStep step = TunnelStep::measure;
    bool by_probe = false; ///< it was last measured with a probe
    bool begun = false;    ///< caps cut or bores worked on since it was last said to be done
    metrology::Verdict verdict = metrology::Verdict::cannot_tell; ///< of everything that was measured of it and holds
    std::vector<block::MeasuredAt> to_read;                       ///< in the order they are read
    std::optional<SecondLook> second_look;                        ///< why what is to be read is read again
    block::TunnelMethod method = block::TunnelMethod::hone;
    std::optional<TunnelStudy>
        study; ///< the plan, where it is what the tunnel waits for; `study_tunnel` makes it anyway
    std::vector<block::FeatureId> saddles_missing; ///< why there is no plan from gauges
    std::vector<CapCut> to_cut;                    ///< what the plan asks for
    std::vector<CapPrediction> predictions;
    std::vector<StockLeft> board;   ///< main by main, front and rear, three ways; by probe each section
    std::optional<StockLeft> dwell; ///< the tightest place
    std::optional<StrokeForecast> forecast;
    int last_strokes = 0;                             ///< of the last go with the hone; 0: none yet
    bool establishing_due = false;                    ///< boring: a pass that is measured before the final one
    std::optional<double> next_protrusion;            ///< boring: mm, t2 = t1 + (wanted − measured)/2
    std::vector<block::FeatureId> to_mark, not_clean; ///< boring, of the last pass
    std::vector<BarContact> contacts;                 ///< boring: what the next pass is to touch, where that is known
};
/// @param probed what the probe says of it, where that holds; may be null
[[nodiscard]] TunnelWork tunnel_work(const block::JobState& state, const GaugeFindings& gauge,
                                     const TunnelVerdict* probed = nullptr);

/// Steps around cutting caps that are ticked by hand or eye (common practice, no source).
[[nodiscard]] std::vector<std::string> cap_steps();

} // namespace pallix::planning
