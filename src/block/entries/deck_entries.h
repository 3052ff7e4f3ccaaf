// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"
#include "metrology/geometry.h"

#include <array>
#include <charconv>
#include <cstdint>
#include <map>
#include <numbers>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

// What a person did to a deck, found on it, or knows of what is bolted to it. All lengths mm, volumes mm³.

inline constexpr Range cut_of_a_deck{0, 5};        // mm: more than any machine takes at once
inline constexpr Range volume_range{0, 1e9, true}; // mm³: a litre of chamber
inline constexpr Range signed_volume_range{-1e9, 1e9};
inline constexpr Range roughness_range{0, 1, true};         // mm
inline constexpr Range cutting_speed_range{0, 10000, true}; // m/min

/// A flush pass takes sleeves down to the deck they stand proud of: what of it came off the deck nobody knows.
enum class PassKind { witness, pass, finish, spring, flush };
inline constexpr std::array pass_kind_keys{"witness", "pass", "finish", "spring", "flush"};

/// One pass over a deck.
/// What a spring pass did to the lines that the cutter leaves where the metal sprang away.
enum class MarkerLines { not_looked_at, gone, fewer, same };
inline constexpr std::array marker_lines_keys{"not_looked_at", "gone", "fewer", "same"};

struct DeckCut {
    std::string bank;
    PassKind kind = PassKind::pass;
    double depth = 0;                  ///< mm, ≥ 0, infeed since the pass before (from first touch for the first)
    bool clean = false;                ///< touched everywhere
    std::vector<metrology::Vec2> dark; ///< (u, v) mm, places that stayed dark
    double brush = default_brush;      ///< mm, radius each of those places stands for
    bool rest_bright = false;          ///< everything that is not painted dark was touched
    MarkerLines lines = MarkerLines::not_looked_at; ///< of a spring pass
    bool head = false;                              ///< over the head of that bank
    static constexpr double default_brush = 8;
    bool operator==(const DeckCut&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<DeckCut> = "deck_cut";
inline void fields(Fields& f, DeckCut& p) {
    f.text("bank", p.bank);
    f.choice("pass", p.kind, pass_kind_keys);
    f.number("depth_mm", p.depth, cut_of_a_deck);
    f.flag("clean", p.clean);
    f.list("dark_mm", p.dark, {0, 20000}, [&](metrology::Vec2& at) { f.place("", at); });
    f.number_or("brush_mm", p.brush, DeckCut::default_brush, {0, 1000, true});
    f.flag_if("rest_bright", p.rest_bright);
    f.choice_or_first("lines", p.lines, marker_lines_keys);
    f.flag_if("head", p.head);
}

enum class TargetSchool {
    least_cut,
    blueprint,
    height,
    clearance, ///< from the mock-up: the piston that stands highest gets it
    ratio,     ///< the cylinder that compresses most gets it
};
inline constexpr std::array target_school_keys{"least_cut", "blueprint", "height", "clearance", "ratio"};

/// How sure the least cut is to be of cleaning.
enum class Sureness {
    sure,        ///< as sure as 95 %, by what is believed of the surface
    likely,      ///< as likely as not
    as_measured, ///< the lowest measured place
};
inline constexpr std::array sureness_keys{"sure", "likely", "as_measured"};

/// Which height the decks are cut to.
struct DeckTargetChosen {
    TargetSchool school = TargetSchool::least_cut;
    bool equal = true;
    std::optional<double> height;      ///< mm, for TargetSchool::height
    std::optional<double> clearance{}; ///< mm, piston below the deck, for TargetSchool::clearance
    std::optional<double> ratio{};     ///< compression ratio, for TargetSchool::ratio
    Sureness clean = Sureness::sure;   ///< for TargetSchool::least_cut
    bool operator==(const DeckTargetChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<DeckTargetChosen> = "deck_target";
inline void fields(Fields& f, DeckTargetChosen& p) {
    f.choice("school", p.school, target_school_keys);
    f.flag("equal", p.equal);
    f.number("height_mm", p.height, size_range);
    f.number("clearance_mm", p.clearance, {-50, 50});
    f.number("ratio", p.ratio, {1, 100, true});
    f.choice_or_first("clean", p.clean, sureness_keys);
}

/// The editable figures of a pass plan (defaults are common practice).
struct PassPlanChosen {
    double witness = 0; ///< mm
    double pass = 0;
    double finish = 0;
    int spring_passes = 0;
    bool operator==(const PassPlanChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<PassPlanChosen> = "pass_plan";
inline void fields(Fields& f, PassPlanChosen& p) {
    f.number("witness_mm", p.witness, cut_of_a_deck);
    f.number("pass_mm", p.pass, {0, 5, true});
    f.number("finish_mm", p.finish, cut_of_a_deck);
    f.whole("spring_passes", p.spring_passes, {0, 20});
}

enum class FlawKind { crack, pit, mark };
inline constexpr std::array flaw_kind_keys{"crack", "pit", "mark"};
/// What lies beside a flaw and makes it better or worse.
enum class FlawNear { open_deck, bore, valve_seat, coolant_hole, bolt };
inline constexpr std::array flaw_near_keys{"open_deck", "bore", "valve_seat", "coolant_hole", "bolt"};
/// What of the block it is in.
enum class FlawWhere { deck, bore, saddle, web, outside };
inline constexpr std::array flaw_where_keys{"deck", "bore", "saddle", "web", "outside"};
enum class FlawChoice { watch, stop_and_pin, sleeve, scrap };
inline constexpr std::array flaw_choice_keys{"watch", "stop_and_pin", "sleeve", "scrap"};

/// A crack, pit or mark, as it was seen; a later pass may show more.
struct FlawMarked {
    std::string bank; ///< of a deck; empty elsewhere
    FlawKind kind = FlawKind::crack;
    std::vector<metrology::Vec2> path; ///< on a deck, (u, v): one place, or the line it runs along
    FlawNear near = FlawNear::open_deck;
    std::optional<double> depth; ///< mm
    std::string note;
    FlawWhere where = FlawWhere::deck;
    std::optional<FeatureId> feature{}; ///< the cylinder whose wall it is in, or the main

    /// mm, along its path
    [[nodiscard]] double length() const {
        double sum = 0;
        for (std::size_t i = 1; i < path.size(); ++i)
            sum += norm(path[i] - path[i - 1]);
        return sum;
    }
    bool operator==(const FlawMarked&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<FlawMarked> = "flaw";
inline void fields(Fields& f, FlawMarked& p) {
    f.choice_or_first("where", p.where, flaw_where_keys);
    const bool on_deck = p.where == FlawWhere::deck;
    if (on_deck)
        f.text("bank", p.bank);
    f.choice("flaw", p.kind, flaw_kind_keys);
    if (on_deck) {
        f.choice("near", p.near, flaw_near_keys);
        f.list("path_mm", p.path, {1, 1000}, [&](metrology::Vec2& at) { f.place("", at); });
    } else if (p.where != FlawWhere::outside) {
        FeatureId feature = p.feature.value_or(FeatureId{});
        f.feature("feature", feature, {p.where == FlawWhere::bore ? FeatureKind::bore : FeatureKind::main});
        p.feature = feature;
    }
    f.number("depth_mm", p.depth, length_range);
    f.text("note", p.note, 10 * short_text);
}
struct FlawDecided {
    std::int64_t flaw = 0; ///< entry that marked it
    FlawChoice choice = FlawChoice::watch;
    std::string note;
    bool operator==(const FlawDecided&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<FlawDecided> = "flaw_decided";
inline void fields(Fields& f, FlawDecided& p) {
    f.whole("flaw", p.flaw, {1, 1e15});
    f.choice("choice", p.choice, flaw_choice_keys);
    f.text("note", p.note, 10 * short_text);
}
/// Water or air through the jacket, behind a shield.
struct PressureTested {
    bool tight = false;
    std::string note; ///< pressure, time, where it wept
    bool operator==(const PressureTested&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<PressureTested> = "pressure_test";
inline void fields(Fields& f, PressureTested& p) {
    f.flag("tight", p.tight);
    f.text("note", p.note, 10 * short_text);
}

/// What a pass was expected to take, kept before the first cut so that it can be held against what was taken.
struct DeckForecastKept {
    std::string bank;
    double low = 0, high = 0;               ///< mm off the highest place until it is clean: 95 % interval
    double lowest_low = 0, lowest_high = 0; ///< mm, height of the lowest place: 95 % interval
    metrology::Vec2 decides;                ///< (u, v) of the place that most likely decides
    bool operator==(const DeckForecastKept&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<DeckForecastKept> = "deck_forecast";
inline void fields(Fields& f, DeckForecastKept& p) {
    f.text("bank", p.bank);
    f.number("low_mm", p.low, any_length);
    f.number("high_mm", p.high, any_length);
    f.number("lowest_low_mm", p.lowest_low, any_length);
    f.number("lowest_high_mm", p.lowest_high, any_length);
    f.place("decides_mm", p.decides);
}

/// The cutter and how it is driven.
struct CutterFitted {
    double diameter = 0;
    int teeth = 1;
    double nose_radius = 0;
    double speed = 0, feed = 0;               ///< m/min; mm per tooth
    double finish_speed = 0, finish_feed = 0; ///< the same for the finishing cut
    bool new_inserts = false;
    bool operator==(const CutterFitted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<CutterFitted> = "cutter";
inline void fields(Fields& f, CutterFitted& p) {
    f.number("diameter_mm", p.diameter, size_range);
    f.whole("teeth", p.teeth, {1, 60});
    f.number("nose_radius_mm", p.nose_radius, {0, 100});
    f.number("speed_m_min", p.speed, cutting_speed_range);
    f.number("feed_mm", p.feed, {0, 10, true});
    f.number("finish_speed_m_min", p.finish_speed, cutting_speed_range);
    f.number("finish_feed_mm", p.finish_feed, {0, 10, true});
    f.flag("new_inserts", p.new_inserts);
}

enum class CutterState { sharp, dull, chatter };
inline constexpr std::array cutter_state_keys{"sharp", "dull", "chatter"};
/// How the surface came out.
struct FinishNoted {
    std::string bank;
    CutterState cutter = CutterState::sharp;
    std::optional<double> ra; ///< mm, as measured
    std::string note;
    bool operator==(const FinishNoted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<FinishNoted> = "deck_finish";
inline void fields(Fields& f, FinishNoted& p) {
    f.text("bank", p.bank);
    f.choice("cutter", p.cutter, cutter_state_keys);
    f.text("note", p.note, 10 * short_text);
    f.number("ra_mm", p.ra, roughness_range);
}

enum class GasketKind { composition, multilayer_steel, soft_copper };
inline constexpr std::array gasket_kind_keys{"composition", "multilayer_steel", "soft_copper"};
/// Which gasket the finish is for.
struct GasketChosen {
    GasketKind kind = GasketKind::composition;
    double ra_at_most = 0; ///< mm
    bool operator==(const GasketChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<GasketChosen> = "gasket";
inline void fields(Fields& f, GasketChosen& p) {
    f.choice("gasket", p.kind, gasket_kind_keys);
    f.number("ra_at_most_mm", p.ra_at_most, roughness_range);
}

/// Indicator readings on the plate, the bar or the deck, and where the block stands on what.
struct SetUpRead {
    struct Reading {
        metrology::Vec2 place; ///< (u, v)
        double height = 0;     ///< mm, + is high
        bool operator==(const Reading&) const = default;
    };
    struct Foot {
        std::string name;
        metrology::Vec2 place; ///< (u, v)
        bool operator==(const Foot&) const = default;
    };
    std::string bank;
    std::string surface; ///< "plate", "bar" or "deck"; "head": how the head of that bank lies
    std::vector<Reading> readings;
    std::vector<Foot> feet;
    bool operator==(const SetUpRead&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<SetUpRead> = "set_up";
inline void fields(Fields& f, SetUpRead& p) {
    f.text("bank", p.bank);
    f.text("surface", p.surface);
    f.list("readings", p.readings, {0, 1000}, [&](SetUpRead::Reading& r) {
        f.group("", [&] {
            f.place("at_mm", r.place);
            f.number("height_mm", r.height, any_length);
        });
    });
    f.list("feet", p.feet, {2, 100}, [&](SetUpRead::Foot& foot) {
        f.group("", [&] {
            f.text("name", foot.name);
            f.place("at_mm", foot.place);
        });
    });
}

/// A cylinder's number as the key of a map.
inline int cylinder_in(const std::string& key) {
    int number = 0;
    const auto [end, error] = std::from_chars(key.data(), key.data() + key.size(), number);
    return error == std::errc{} && end == key.data() + key.size() ? number : 0;
}

/// What the mock-up and the parts say. What nobody stated is not known.
struct EngineFigures {
    std::optional<double> stroke, rod, pin_height;       ///< pin height: pin's centre to the piston's crown
    std::optional<double> chamber;                       ///< mm³, of the head
    std::map<int, double> chambers;                      ///< mm³, by cylinder, where they were measured one by one
    std::optional<double> gasket_bore, gasket_thickness; ///< compressed
    double dish = 0;                                     ///< mm³, + adds volume, a dome takes some
    double crevice = 0;                                  ///< mm³ above the top ring
    bool steel_rods = true;
    std::optional<double> valve_intake, valve_exhaust; ///< mm, valve to piston as measured
    std::optional<double> manifold_face;               ///< rad, intake face from the vertical, along the crankshaft
    struct CamChain {
        int teeth_crank = 0, teeth_cam = 0;
        double pitch = 0, distance = 0; ///< mm
        bool operator==(const CamChain&) const = default;
    };
    std::optional<CamChain> overhead_chain; ///< to a cam in the head: shorter by what comes off
    bool operator==(const EngineFigures&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<EngineFigures> = "engine_figures";
inline void fields(Fields& f, EngineFigures& p) {
    f.number("stroke_mm", p.stroke, size_range);
    f.number("rod_mm", p.rod, size_range);
    f.number("pin_height_mm", p.pin_height, size_range);
    f.number("chamber_mm3", p.chamber, volume_range);
    std::vector<std::string> cylinders;
    for (const auto& [cylinder, volume] : p.chambers)
        cylinders.push_back(std::to_string(cylinder));
    std::map<int, double> chambers;
    for (const std::string& key : f.begin_map("chambers_mm3", std::move(cylinders), {0, 100})) {
        const int cylinder = cylinder_in(key);
        f.demand(cylinder > 0, key, "is no cylinder", "a number from 1");
        double volume = p.chambers.contains(cylinder) ? p.chambers[cylinder] : 0;
        f.number(key, volume, volume_range);
        chambers[cylinder] = volume;
    }
    f.end();
    p.chambers = std::move(chambers);
    f.number("gasket_bore_mm", p.gasket_bore, size_range);
    f.number("gasket_thickness_mm", p.gasket_thickness, size_range);
    f.number("dish_mm3", p.dish, signed_volume_range);
    f.number("crevice_mm3", p.crevice, {0, 1e9});
    f.flag("steel_rods", p.steel_rods);
    f.number("valve_intake_mm", p.valve_intake, any_length);
    f.number("valve_exhaust_mm", p.valve_exhaust, any_length);
    f.number("manifold_face_rad", p.manifold_face, {-std::numbers::pi, std::numbers::pi});
    if (f.left_out("overhead_chain", !p.overhead_chain)) {
        p.overhead_chain.reset();
        return;
    }
    if (!p.overhead_chain)
        p.overhead_chain = EngineFigures::CamChain{};
    f.group("overhead_chain", [&] {
        f.whole("teeth_crank", p.overhead_chain->teeth_crank, {6, 1000});
        f.whole("teeth_cam", p.overhead_chain->teeth_cam, {6, 1000});
        f.number("pitch_mm", p.overhead_chain->pitch, size_range);
        f.number("distance_mm", p.overhead_chain->distance, size_range);
    });
}

/// What goes into a crankshaft's bobweight, and what its balance is held against. Masses g of one piston and rod.
struct BalanceCard {
    std::optional<double> big_end, bearing;              ///< turning: rod's big end, its shells
    double oil = 0;                                      ///< that lies in the throw
    std::optional<double> piston, pin, rings, small_end; ///< going up and down
    double locks = 0;                                    ///
    double share = 0.5;                                  ///< of what goes up and down, for a V of 90° (from memory)
    int rods = 2;                                        ///< on one throw
    std::optional<double> crank;                         ///< kg, of what is balanced
    std::optional<double> speed;                         ///< 1/min, the highest it runs at
    double grade = 6.3;                                  ///< mm/s, ISO 21940-11
    bool operator==(const BalanceCard&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BalanceCard> = "balance_card";
inline void fields(Fields& f, BalanceCard& p) {
    constexpr Range grams{0, 100000};
    f.number("big_end_g", p.big_end, grams);
    f.number("bearing_g", p.bearing, grams);
    f.number("oil_g", p.oil, grams);
    f.number("piston_g", p.piston, grams);
    f.number("pin_g", p.pin, grams);
    f.number("rings_g", p.rings, grams);
    f.number("locks_g", p.locks, grams);
    f.number("small_end_g", p.small_end, grams);
    f.number("share", p.share, {0, 1});
    f.whole("rods", p.rods, {1, 4});
    f.number("crank_kg", p.crank, {0, 10000, true});
    f.number("speed_rev_min", p.speed, {0, 100000, true});
    f.number("grade_mm_s", p.grade, {0, 4000, true});
}

/// Work on the head of a bank: what its face reads, what came off it, what its chambers hold since.
struct HeadWork {
    std::string bank;
    std::optional<double> gap_low, gap_high; ///< feeler that goes in under a straightedge, and the next that does not
    double cut = 0;
    std::optional<double> chamber; ///< mm³, measured after the cut
    bool operator==(const HeadWork&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<HeadWork> = "head_work";
inline void fields(Fields& f, HeadWork& p) {
    f.text("bank", p.bank);
    f.number("cut_mm", p.cut, {0, 5});
    f.number("gap_low_mm", p.gap_low, length_range);
    f.number("gap_high_mm", p.gap_high, length_range);
    f.number("chamber_mm3", p.chamber, volume_range);
    f.demand(!p.gap_low || !p.gap_high || *p.gap_high > *p.gap_low, "gap_high_mm", "is not thicker than what goes in",
             "the thinner one first");
}

using DeckKinds =
    Kinds<DeckCut, DeckTargetChosen, PassPlanChosen, FlawMarked, FlawDecided, PressureTested, DeckForecastKept,
          CutterFitted, FinishNoted, GasketChosen, SetUpRead, EngineFigures, BalanceCard, HeadWork>;

} // namespace pallix::block
