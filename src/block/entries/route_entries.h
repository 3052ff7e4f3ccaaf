// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

// What a person decided on the way a job goes: which stages, in which order, what is passed or left out and why.

/// Where a job's work can stand.
enum class Stage { received, cleaned, as_found, tunnel, decks, cylinders, lifters, mock_up, finish, passport };
inline constexpr std::array stage_keys{"received",  "cleaned", "as_found", "tunnel", "decks",
                                       "cylinders", "lifters", "mock_up",  "finish", "passport"}; ///< as files have it

/// What keeps a step from being taken: rules of the datum logic, whatever the order of the route.
enum class Rule {
    clean_first,     ///< dirt is not measured
    conditions,      ///< caps, plate, temperature as the reading needs them
    complete,        ///< readings are missing
    fresh,           ///< something was cut or moved since it was read
    doubt,           ///< too near a limit to tell, or readings that contradict each other
    tunnel_first,    ///< everything hangs on the main tunnel
    datum_confirmed, ///< the block was rolled
    flaw_decided,    ///< a crack or pit that nobody has decided on
    inspected,       ///< not looked over for cracks
    size_decided,    ///< which size the bores get
    wall_decided,    ///< a wall gets thinner than its limit
    figures,         ///< a number that the plan needs
    trial_first,     ///< the worst hole, alone
    sleeve_first,    ///< pressed in before the rest is bored
    flush_first,     ///< a sleeve stands proud of the deck
    rest_over,       ///< still warm
    sign_off,        ///< a decision with a reason
    part_here,       ///< a part that has not come
    order,           ///< the route's order, no rule of the datum logic
};
inline constexpr std::array rule_keys{"clean_first",  "conditions",      "complete",     "fresh",        "doubt",
                                      "tunnel_first", "datum_confirmed", "flaw_decided", "inspected",    "size_decided",
                                      "wall_decided", "figures",         "trial_first",  "sleeve_first", "flush_first",
                                      "rest_over",    "sign_off",        "part_here",    "order"};

inline void reason_field(Fields& f, std::string& value) {
    f.text("reason", value);
    f.demand(!value.empty(), "reason", "is empty", "why, in words");
}

/// A rule that a person went on against: it stands in the passport.
struct GatePassed {
    Rule rule = Rule::tunnel_first;
    std::string about; ///< a feature ("deck.R") or a stage; empty: wherever the rule stands in the way
    std::string reason;
    bool operator==(const GatePassed&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<GatePassed> = "gate_passed";
inline void fields(Fields& f, GatePassed& p) {
    f.choice("rule", p.rule, rule_keys);
    f.text_if("about", p.about);
    reason_field(f, p.reason);
}

/// What was read of a thing counts from here on anew: it was moved, torqued, levelled, or somebody wants it so.
struct RoundOpened {
    std::string about; ///< "mains", "sweep", or a feature
    std::string reason;
    bool operator==(const RoundOpened&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RoundOpened> = "round";
inline void fields(Fields& f, RoundOpened& p) {
    f.text("about", p.about);
    f.demand(!p.about.empty(), "about", "is empty", "\"mains\", \"sweep\" or a feature");
    reason_field(f, p.reason);
}

inline void stages_field(Fields& f, Fields::Key key, std::vector<Stage>& list, Count count) {
    f.list(key, list, count, [&](Stage& stage) { f.choice("", stage, stage_keys); });
    const bool twice = [&] {
        for (std::size_t i = 0; i < list.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (list[i] == list[j])
                    return true;
        return false;
    }();
    f.demand(!twice, key, "names a stage twice", "each stage once");
}

/// Which stages are wanted; the others ask for nothing.
struct ScopeChosen {
    std::vector<Stage> stages;
    std::string reason; ///< of those left out: "tunnel good by the papers of the shop before"
    bool operator==(const ScopeChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<ScopeChosen> = "scope";
inline void fields(Fields& f, ScopeChosen& p) {
    stages_field(f, "stages", p.stages, {1, stage_keys.size()});
    f.text_if("reason", p.reason);
}

enum class RoutePreset { mains_first, one_clamping, least_metal, decks_twice, sleeves_first };
inline constexpr std::array route_preset_keys{"mains_first", "one_clamping", "least_metal", "decks_twice",
                                              "sleeves_first"};
/// In which order the stages are gone through; rules hold whatever the order.
struct RouteChosen {
    RoutePreset preset = RoutePreset::mains_first;
    std::vector<Stage> order; ///< as edited; empty: as the preset has it
    bool operator==(const RouteChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RouteChosen> = "route";
inline void fields(Fields& f, RouteChosen& p) {
    f.choice("preset", p.preset, route_preset_keys);
    if (!f.left_out("order", p.order.empty()))
        stages_field(f, "order", p.order, {1, stage_keys.size()});
    else
        p.order.clear();
}

/// A step that is left out, and why.
struct StepSkipped {
    std::string step; ///< its id
    std::string reason;
    bool operator==(const StepSkipped&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<StepSkipped> = "step_skipped";
inline void fields(Fields& f, StepSkipped& p) {
    f.text("step", p.step);
    f.demand(!p.step.empty(), "step", "is empty", "the id of a step");
    reason_field(f, p.reason);
}

/// What is held against where the blueprint sets no limit: as the shop has it, or as it was changed for this job.
struct LimitsChosen {
    double flatness = 0;                   ///< mm, of a deck over all
    double local_flatness = 0;             ///< mm, of a deck in a window of 75 mm
    double bank_difference = 0;            ///< mm, one deck over the other
    double straightness = 0;               ///< mm, of the tunnel over all
    double main_step = 0;                  ///< mm, from one main to the next
    std::optional<double> main_shape;      ///< mm, roundness on radius and taper; nothing: half of its size window
    std::optional<double> position_across; ///< mm, of a cylinder, across the crankshaft; nothing: it has no limit
    std::optional<double> position_along;  ///< mm, along the crankshaft
    double coverage = 2;                   ///< guard band, in standard uncertainties
    static constexpr double usual_zero_hours = 8, usual_zero_step = 2; // common practice, no source
    double zero_hours = usual_zero_hours;                              ///< h, that a gauge's zero is good for
    double zero_step = usual_zero_step; ///< °C, that the gauge may change by until it is to be zeroed again
    std::string reason;
    bool operator==(const LimitsChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<LimitsChosen> = "limits";
inline void fields(Fields& f, LimitsChosen& p) {
    constexpr Range small{0, 1, true};
    f.number("flatness_mm", p.flatness, small);
    f.number("local_flatness_mm", p.local_flatness, small);
    f.number("bank_difference_mm", p.bank_difference, small);
    f.number("straightness_mm", p.straightness, small);
    f.number("main_step_mm", p.main_step, small);
    f.number("main_shape_mm", p.main_shape, small);
    f.number("position_across_mm", p.position_across, small);
    f.number("position_along_mm", p.position_along, small);
    f.number("coverage", p.coverage, {1, 4});
    f.number_or("zero_hours", p.zero_hours, LimitsChosen::usual_zero_hours, {0, 1000, true});
    f.number_or("zero_step_c", p.zero_step, LimitsChosen::usual_zero_step, {0, 100, true});
    reason_field(f, p.reason);
}

using RouteKinds = Kinds<GatePassed, RoundOpened, ScopeChosen, RouteChosen, StepSkipped, LimitsChosen>;

} // namespace pallix::block
