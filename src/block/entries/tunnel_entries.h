// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"

#include <array>
#include <numbers>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::block {

// What a person decided on the main tunnel and did to it.

inline constexpr Range cut_of_a_cap{0, 3}; // mm: more than any machine takes at once

enum class TunnelMethod { hone, bore };
inline constexpr std::array tunnel_method_keys{"hone", "bore"};

enum class CapCuts { each, equal }; ///< each cap its own cut, or one for all
inline constexpr std::array cap_cuts_keys{"each", "equal"};

enum class GivenLine { datum, ends }; ///< datum A, or through the end mains
inline constexpr std::array given_line_keys{"datum", "ends"};

/// What the tunnel shall become, and within which limits: mm, rad.
struct TunnelPolicy {
    TunnelMethod method = TunnelMethod::hone;
    std::optional<double> target_diameter{}; ///< nothing: the middle of each main's own window
    double stock = 0;                        ///< metal that must come off everywhere
    double parting = 0;                      ///< rad beside the parting line that need not clean up
    std::optional<double> stock_from{};      ///< rad from the parting line: nearer, a place cleans up without stock
    CapCuts caps = CapCuts::each;
    double max_cap_cut = 0.5;
    double max_rise = 0.15; ///< of the centre line, up or down
    double max_side = 0.05;
    GivenLine line = GivenLine::datum; ///< for line boring
    std::vector<FeatureId> replaced{}; ///< mains whose cap is replaced or repaired: its old surface does not count
    std::optional<double> bar{};       ///< diameter of the boring bar
    bool operator==(const TunnelPolicy&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TunnelPolicy> = "tunnel_plan";
inline void fields(Fields& f, TunnelPolicy& p) {
    f.choice("method", p.method, tunnel_method_keys);
    f.number("target_diameter_mm", p.target_diameter, size_range);
    f.number("stock_mm", p.stock, {0, 50});
    f.number("parting_rad", p.parting, {0, std::numbers::pi / 2});
    f.number("stock_from_rad", p.stock_from, {0, std::numbers::pi / 2});
    f.choice("caps", p.caps, cap_cuts_keys);
    f.number("max_cap_cut_mm", p.max_cap_cut, {0, 50});
    f.number("max_rise_mm", p.max_rise, {0, 50});
    f.number("max_side_mm", p.max_side, {0, 50});
    f.choice("line", p.line, given_line_keys);
    f.number("bar_mm", p.bar, size_range);
    f.list("replaced", p.replaced, {0, 100}, [&](FeatureId& id) { f.feature("", id, {FeatureKind::main}); });
}

/// Metal taken off the caps' parting faces.
struct CapsCut {
    std::vector<std::pair<FeatureId, double>> cuts; ///< mm
    bool operator==(const CapsCut&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<CapsCut> = "caps_cut";
inline void fields(Fields& f, CapsCut& p) {
    by_feature(f, "cuts_mm", p.cuts, FeatureKind::main, cut_of_a_cap);
}

enum class TunnelPassKind {
    strokes,      ///< of the line hone
    caps_only,    ///< boring bar, the block barely touched
    establishing, ///< boring bar, to be measured before the final one
    final_pass,
};
inline constexpr std::array tunnel_pass_keys{"strokes", "caps_only", "establishing", "final"};

/// One go of the hone or the boring bar. Sizes measured before it hold no longer.
struct TunnelPass {
    TunnelPassKind kind = TunnelPassKind::strokes;
    int strokes = 0;                  ///< of the hone
    std::optional<double> protrusion; ///< mm, of the cutter from the bar
    bool new_cutter = false;          ///< the establishing pass is asked for again
    bool operator==(const TunnelPass&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TunnelPass> = "tunnel_pass";
inline void fields(Fields& f, TunnelPass& p) {
    f.choice("pass", p.kind, tunnel_pass_keys);
    f.whole("strokes", p.strokes, {0, 10000});
    f.number("protrusion_mm", p.protrusion, size_range);
    f.flag_if("new_cutter", p.new_cutter);
    f.demand(p.kind != TunnelPassKind::strokes || p.strokes > 0, "strokes", "is 0", "at least one stroke of the hone");
}

/// What a pass of the bar left in one main.
enum class BarMark {
    clean,     ///< cut all round
    part,      ///< cut in part
    dusting,   ///< the tool dusted it here and there
    untouched, ///< not at all
};
inline constexpr std::array bar_mark_keys{"clean", "part", "dusting", "untouched"};
struct MainMarked {
    FeatureId main;
    BarMark mark = BarMark::clean;
    bool operator==(const MainMarked&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<MainMarked> = "main_mark";
inline void fields(Fields& f, MainMarked& p) {
    f.feature("main", p.main, {FeatureKind::main});
    f.choice("mark", p.mark, bar_mark_keys);
}

/// What an indicator carried round by the bar reads in a ring that is known to be round: how far it sags.
struct IndicatorSag {
    double at_12 = 0, at_6 = 0; ///< mm, + pushed in
    bool operator==(const IndicatorSag&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<IndicatorSag> = "indicator_sag";
inline void fields(Fields& f, IndicatorSag& p) {
    f.number("at_12_mm", p.at_12, any_length);
    f.number("at_6_mm", p.at_6, any_length);
}

/// A step that was done by hand or eye: "even contact of the parting faces", "caps deburred".
struct StepDone {
    std::string step;
    bool operator==(const StepDone&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<StepDone> = "step_done";
inline void fields(Fields& f, StepDone& p) {
    f.text("step", p.step);
}

/// The main tunnel was cut: what was measured from it holds no longer.
struct TunnelCut {
    TunnelMethod method = TunnelMethod::hone;
    std::string note;
    bool operator==(const TunnelCut&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TunnelCut> = "tunnel_cut";
inline void fields(Fields& f, TunnelCut& p) {
    f.choice("method", p.method, tunnel_method_keys);
    f.text("note", p.note);
}

/// How far the hone was expected to bring the line up at each main, before the first stroke after the caps were cut.
struct TunnelForecastKept {
    struct Rise {
        FeatureId main;
        double rise = 0;                   ///< mm
        std::optional<double> uncertainty; ///< mm, standard; nothing where nobody stated how sure a touch is
        bool operator==(const Rise&) const = default;
    };
    std::vector<Rise> rises;
    bool operator==(const TunnelForecastKept&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TunnelForecastKept> = "tunnel_forecast";
inline void fields(Fields& f, TunnelForecastKept& p) {
    f.list("rises", p.rises, {1, 100}, [&](TunnelForecastKept::Rise& r) {
        f.feature("main", r.main, {FeatureKind::main});
        f.number("rise_mm", r.rise, any_length);
        f.number("uncertainty_mm", r.uncertainty, length_range);
    });
}

using TunnelKinds =
    Kinds<TunnelPolicy, CapsCut, TunnelPass, MainMarked, IndicatorSag, StepDone, TunnelCut, TunnelForecastKept>;

} // namespace pallix::block
