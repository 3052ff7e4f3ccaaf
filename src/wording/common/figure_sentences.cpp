// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/figure_sentences.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/boring.h"
#include "planning/cylinders/honing.h"
#include "planning/cylinders/texture.h"
#include "planning/decks/balance.h"
#include "planning/decks/milling.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/lifters/lifter_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <string_view>

namespace pallix::wording {

using block::JobState;
using planning::Figure;
using planning::FigureUnit;

namespace {

constexpr const char* blank = "____";

/// Choices that are not called by their keys.
template <class Enum, class Name>
std::vector<std::string> named(std::size_t count, Name name) {
    std::vector<std::string> names;
    for (std::size_t i = 0; i < count; ++i)
        names.push_back(name(static_cast<Enum>(i)));
    return names;
}

const std::map<std::string, std::vector<std::string>, std::less<>>& choice_words() {
    static const std::map<std::string, std::vector<std::string>, std::less<>> words{
        {"tunnel_plan/method", {"line hone", "line bore"}},
        {"tunnel_plan/caps", {"each cap its own", "all caps equal"}},
        {"tunnel_plan/line", {"on the datum", "through the end mains"}},
        {"deck_target/school",
         named<block::TargetSchool>(block::target_school_keys.size(), [](auto s) { return school_name(s); })},
        {"deck_target/clean", {"as sure as 95 %", "as likely as not", "as measured"}},
        {"deck_target/equal", {"each bank by itself", "both banks equal"}},
        {"cutter/new_inserts", {"inserts as they were", "inserts changed"}},
        {"gasket/gasket",
         named<block::GasketKind>(block::gasket_kind_keys.size(), [](auto g) { return gasket_name(g); })},
        {"engine_figures/steel_rods", {"aluminium rods", "steel rods"}},
        {"cylinder_plan/centre",
         named<block::CentreSchool>(block::centre_school_keys.size(), [](auto c) { return centre_name(c); })},
        {"cylinder_plan/thrust",
         named<block::ThrustSide>(block::thrust_side_keys.size(), [](auto t) { return thrust_name(t); })},
        {"pistons/alloy",
         named<block::PistonAlloy>(block::piston_alloy_keys.size(), [](auto a) { return alloy_name(a); })},
        {"pistons/measure_each", {"the first and the last hole measured", "every hole measured before the next"}},
        {"hone_plan/there_and_back", {"one way", "there and back"}},
        {"insert_measured/heated", {"pressed in", "dropped into the heated block"}},
        {"lifter_plan/school",
         named<block::LifterSchool>(block::lifter_school_keys.size(), [](auto s) { return lifter_school_name(s); })},
        {"lifter_plan/follower", {"roller", "flat"}},
        {"lifter_plan/cam_turns_left", {"to the right", "to the left"}},
        {"lifter_plan/keyed", {"plain", "keyed"}},
    };
    return words;
}

std::string trimmed(double value) {
    std::string text = fixed(value, 3);
    text.erase(text.find_last_not_of('0') + 1);
    if (text.ends_with('.'))
        text.pop_back();
    return text;
}

/// Puts a sentence together from a text with its figures in braces: "clearance {pistons/clearance_mm|clearance}".
class Sentence {
  public:
    Sentence(const JobState& state, const std::optional<block::FeatureId>& marked, const LengthText& l)
        : state_(state), marked_(marked), l_(l) {}

    Sentence& say(std::string_view text) {
        while (!text.empty()) {
            const auto open = text.find('{');
            add(std::string(text.substr(0, open)));
            if (open == std::string_view::npos)
                break;
            const auto close = text.find('}', open);
            add_figure(text.substr(open + 1, close - open - 1));
            text.remove_prefix(close + 1);
        }
        return *this;
    }
    FigureSentence parts;

  private:
    void add(std::string words) {
        if (words.empty())
            return;
        if (!parts.empty() && parts.back().figure.empty())
            parts.back().words += words;
        else
            parts.push_back({std::move(words)});
    }
    void add_figure(std::string_view text) {
        const auto bar = text.find('|');
        const std::string address(text.substr(0, bar));
        const auto figure = planning::figure_at(state_, address, marked_);
        if (!figure)
            return;
        std::string words = figure_text(state_, *figure, l_);
        const bool gap = words.empty();
        parts.push_back({gap ? blank : std::move(words), address, std::string(text.substr(bar + 1)), gap});
    }

    const JobState& state_;
    const std::optional<block::FeatureId>& marked_;
    const LengthText& l_;
};

void say_pistons(Sentence& s, const JobState& state, const planning::Assessment& a,
                 const std::optional<block::FeatureId>& marked, const LengthText& l) {
    s.say("Pistons {pistons/alloy|alloy of the pistons}, {pistons/size_mm|size of all pistons}");
    if (marked)
        s.say(" (this one's {pistons/sizes_mm.*|size of this cylinder's piston})");
    s.say(", clearance {pistons/clearance_mm|clearance}");
    const planning::CylinderWork* work = a.cylinders ? &*a.cylinders : nullptr;
    if (!planning::pistons_of(state).clearance && work && marked)
        if (const auto hole = std::ranges::find(work->hone.bores, *marked, &planning::HoneBore::id);
            hole != work->hone.bores.end() && hole->sizes.finish > 0)
            s.say(" (usual " +
                  l.plain(planning::usual_clearance(planning::pistons_of(state).alloy, hole->sizes.finish)) + ")");
    if (work && marked)
        if (const auto bore = std::ranges::find(work->hone.bores, *marked, &planning::HoneBore::id);
            bore != work->hone.bores.end())
            s.say(": finish " + l.plain(bore->sizes.finish) + " to " + l.plain(bore->sizes.finish_most));
}

void say_limits(Sentence& s, const JobState& state) {
    s.say("Where the blueprint sets no limit: tunnel straight within {limits/straightness_mm|straightness of the "
          "tunnel}, main to main {limits/main_step_mm|step from main to main}; decks flat within "
          "{limits/flatness_mm|flatness over all}, in 75 mm {limits/local_flatness_mm|flatness in 75 mm}, alike within "
          "{limits/bank_difference_mm|difference of the banks}");
    s.say(" · mains round and parallel within {limits/main_shape_mm|shape of the mains}" +
          std::string(planning::limits_of(state).main_shape ? "" : " (half of their window)") +
          "; cylinders in place within {limits/position_across_mm|place of the cylinders, across} across, "
          "{limits/position_along_mm|place of the cylinders, along} along; guard band {limits/coverage|guard factor} × "
          "the standard uncertainty; a gauge's zero holds {limits/zero_hours|hours a zero holds} h, and "
          "{limits/zero_step_c|degrees a zero bears} °C more or less");
    s.say(" · " + std::string(planning::limits_of(state).reason.empty() ? "usual in the trade; others because " : "") +
          "{limits/reason|why these limits}");
}

void say_tunnel(Sentence& s) {
    s.say("{tunnel_plan/method|how the tunnel is cut}, {tunnel_plan/caps|cuts of the caps}; finished size "
          "{tunnel_plan/target_diameter_mm|finished size}, stock {tunnel_plan/stock_mm|stock on radius} from "
          "{tunnel_plan/stock_from_rad|stock from here on}° off the "
          "parting line");
    s.say(" · at most: cap cut {tunnel_plan/max_cap_cut_mm|largest cap cut}, rise {tunnel_plan/max_rise_mm|largest "
          "rise}, side step {tunnel_plan/max_side_mm|largest side step}");
    s.say(" · relief {tunnel_plan/parting_rad|relief beside the parting line}° beside the parting line; a bar of "
          "{tunnel_plan/bar_mm|diameter of the bar} goes {tunnel_plan/line|line of the bar}");
}

constexpr const char* passes_to_make =
    "itness {pass_plan/witness_mm|witness cut}, passes of {pass_plan/pass_mm|largest pass}, finishing "
    "{pass_plan/finish_mm|finishing cut}, {pass_plan/spring_passes|spring passes} spring passes";

void say_decks(Sentence& s, const JobState& state) {
    using enum block::TargetSchool;
    s.say("Cut to {deck_target/school|target of the decks}");
    switch (decks_of(state).target.school) {
    case height:
        s.say(" {deck_target/height_mm|given deck height}");
        break;
    case clearance:
        s.say(" {deck_target/clearance_mm|piston below the deck}");
        break;
    case ratio:
        s.say(" {deck_target/ratio|compression ratio} : 1");
        break;
    case least_cut:
        s.say(" that cleans {deck_target/clean|how sure it is to clean}");
        break;
    case blueprint:
        break;
    }
    if (intake_of(state).blueprint->banks.size() > 1)
        s.say(", {deck_target/equal|both banks}");
    s.say(std::string(" · w") + passes_to_make);
}

/// A head is cut by the passes of the decks, until it is clean.
void say_head(Sentence& s) {
    s.say(std::string("W") + passes_to_make + ", as on the decks");
}

void say_cutter(Sentence& s, const JobState& state, const LengthText& l) {
    s.say("Cutter {cutter/diameter_mm|cutter diameter}, {cutter/teeth|teeth} teeth of nose {cutter/nose_radius_mm|nose "
          "radius}, {cutter/new_inserts|inserts} · {cutter/speed_m_min|cutting speed} m/min at {cutter/feed_mm|feed "
          "per tooth} a tooth, finishing {cutter/finish_speed_m_min|finishing speed} at {cutter/finish_feed_mm|"
          "finishing feed per tooth}");
    const auto& fitted = decks_of(state).cutter;
    const block::CutterFitted cutter = fitted ? fitted->payload : planning::usual_cutter;
    double length = 0;
    for (const auto& bank : intake_of(state).blueprint->banks)
        length = std::max(length, planning::deck_extent(bank).length());
    s.say(": " + milling_sentence(planning::milling_for(cutter, block::PassKind::finish, length), l));
    s.say(" For {gasket/gasket|gasket}: Ra at most {gasket/ra_at_most_mm|Ra at most} µm");
}

/// "65.90 to 66.30", of what was read in the line and still holds; nothing where nothing was.
std::string span_read(const JobState& state, block::Quantity quantity, const std::string& level, const LengthText& l) {
    std::optional<double> low, high;
    for (const block::MeasuredPlace& p : readings_of(state).places)
        if (p.at.quantity == quantity && p.at.level == level && !p.stale()) {
            low = std::min(low.value_or(p.value), p.value);
            high = std::max(high.value_or(p.value), p.value);
        }
    const auto text = [&](double v) { return quantity == block::Quantity::volume ? fixed(v, 2) : l.plain(v); };
    return !low ? "" : text(*low) == text(*high) ? text(*low) : text(*low) + " to " + text(*high);
}

void say_mock_up(Sentence& s, const JobState& state, const LengthText& l) {
    const std::string chambers = span_read(state, block::Quantity::volume, "", l),
                      intake = span_read(state, block::Quantity::valve, "intake", l),
                      exhaust = span_read(state, block::Quantity::valve, "exhaust", l);
    s.say("Stroke {engine_figures/stroke_mm|stroke}, rod {engine_figures/rod_mm|rod}, pin to crown "
          "{engine_figures/pin_height_mm|pin to crown}, {engine_figures/steel_rods|rods}");
    s.say(" · chamber " + (chambers.empty() ? "{engine_figures/chamber_mm3|chamber}" : "read " + chambers) +
          " cm³, gasket {engine_figures/gasket_bore_mm|gasket bore} × "
          "{engine_figures/gasket_thickness_mm|gasket thickness}, dish {engine_figures/dish_mm3|dish} cm³, crevice "
          "{engine_figures/crevice_mm3|crevice} cm³");
    s.say(" · valve to piston " +
          (intake.empty() ? "{engine_figures/valve_intake_mm|intake valve to piston}" : "read " + intake) + " in, " +
          (exhaust.empty() ? "{engine_figures/valve_exhaust_mm|exhaust valve to piston}" : "read " + exhaust) +
          " out; intake face "
          "{engine_figures/manifold_face_rad|intake face}°; cam chain {engine_figures/overhead_chain|cam chain: teeth "
          "of crank and cam, pitch, distance}");
}

void say_balance(Sentence& s, const JobState& state) {
    const block::BalanceCard& card = decks_of(state).balance;
    s.say("One rod: big end {balance_card/big_end_g|big end} g, shells {balance_card/bearing_g|shells} g, small end "
          "{balance_card/small_end_g|small end} g; one piston {balance_card/piston_g|piston} g, pin "
          "{balance_card/pin_g|pin} g, rings {balance_card/rings_g|rings} g, locks {balance_card/locks_g|locks} g");
    s.say(" · {balance_card/rods|rods on a throw} on a throw, {balance_card/share|share of what goes up and down} of "
          "what goes up and down, oil {balance_card/oil_g|oil in a throw} g");
    s.say(" · crankshaft {balance_card/crank_kg|mass of the crankshaft} kg, up to {balance_card/speed_rev_min|highest "
          "speed} rev/min, grade G {balance_card/grade_mm_s|balance grade}");
    if (const auto b = planning::bobweight(card))
        s.say(" → bobweight " + fixed(b->weight, 1) + " g");
    if (const auto u = planning::permissible_unbalance(card))
        s.say(", " + fixed(*u, 0) + " g·mm allowed in all");
}

void say_size(Sentence& s) {
    s.say("Centre {cylinder_plan/centre|centre of the bores}; on offer {cylinder_plan/oversizes_mm|sizes on offer over "
          "nominal}, decided {cylinder_plan/oversize_mm|oversize decided on}");
    s.say(" · margin {cylinder_plan/margin_mm|margin on diameter}; least wall {cylinder_plan/wall_thrust_mm|least wall "
          "on the thrust side} where the thrust goes, {cylinder_plan/thrust|thrust sides}, "
          "{cylinder_plan/wall_mm|least wall elsewhere} elsewhere");
}

void say_hone(Sentence& s, const JobState& state, const planning::Assessment& a,
              const std::optional<block::FeatureId>& marked) {
    s.say("{hone_plan/steps|grits, each with what it leaves}");
    s.say(" · {hone_plan/speed_rev_min|revolutions} rev/min, {hone_plan/strokes_per_min|strokes a minute} strokes a "
          "minute of {hone_plan/stroke_mm|stroke}, {hone_plan/there_and_back|what one stroke is}");
    const auto plan = planning::hone_plan_of(state);
    double size =
        intake_of(state).blueprint->bores.empty() ? 100 : intake_of(state).blueprint->bores.front().diameter.nominal;
    if (a.cylinders && marked)
        if (const auto b = std::ranges::find(a.cylinders->hone.bores, *marked, &planning::HoneBore::id);
            b != a.cylinders->hone.bores.end() && b->sizes.finish > 0)
            size = b->sizes.finish;
    s.say(" → cross-hatch " +
          fixed(planning::cross_hatch({size, plan.speed, plan.stroke, plan.rate, plan.there_and_back}) /
                    block::radians_per_degree,
                0) +
          "°");
}

void say_texture(Sentence& s) {
    s.say("Rings {texture_limits/rings|rings}");
    for (const char* part : {"Ra", "Rz", "Rk", "Rpk", "Rvk", "Mr1", "Mr2"}) {
        std::string key(part);
        std::ranges::transform(key, key.begin(), [](char c) { return static_cast<char>(std::tolower(c)); });
        std::string words(part == std::string_view("Ra") ? ": " : " · ");
        words.append(part).append(" {texture_limits/").append(key).append(".least|").append(part);
        words.append(" at least} to {texture_limits/").append(key).append(".most|").append(part).append(" at most}");
        s.say(part[0] == 'M' ? words + " %" : words);
    }
    s.say(", R in µm");
}

void say_sleeve(Sentence& s, const std::optional<block::FeatureId>& marked) {
    if (!marked)
        return;
    s.say("Sleeve {insert_measured/outside_mm[0]|outside, top, one way} {insert_measured/outside_mm[1]|outside, top, "
          "the other way} at the top, {insert_measured/outside_mm[2]|outside, middle, one way} "
          "{insert_measured/outside_mm[3]|outside, middle, the other way} in the middle, "
          "{insert_measured/outside_mm[4]|outside, bottom, one way} {insert_measured/outside_mm[5]|outside, bottom, "
          "the other way} at the bottom; inside {insert_measured/inside_mm|inside}, "
          "{insert_measured/length_mm|length that is pressed} long");
    s.say(" · interference {insert_measured/interference_mm|interference}, at most "
          "{insert_measured/interference_most_mm|largest interference}, in metal {insert_measured/parent_outside_mm|"
          "outside of the metal that holds it} round, step below {insert_measured/ledge_mm|step left below}, "
          "{insert_measured/heated|how it goes in}, slide {insert_measured/slide_mm|slide when heated}");
    s.say(" · friction {insert_measured/friction|friction}, E {insert_measured/insert_modulus|modulus of the sleeve} "
          "in {insert_measured/parent_modulus|modulus of the block} N/mm²");
}

void say_lifters(Sentence& s) {
    s.say("{lifter_plan/school|school of the lifters}: lifters {lifter_plan/lifter_mm|size of the lifters}, clearance "
          "{lifter_plan/clearance_least_mm|least clearance} to {lifter_plan/clearance_most_mm|largest clearance}, "
          "bushed beyond {lifter_plan/position_mm|largest offset} off place");
    s.say(" · bush {lifter_plan/bush_outside_mm|outside of the bush}, interference "
          "{lifter_plan/interference_mm|interference}, {lifter_plan/keyed|keyed or plain}, key at "
          "{lifter_plan/key_angle_rad|angle of the key}°, {lifter_plan/height_mm|height over the boss} over the boss");
    s.say(" · {lifter_plan/follower|follower}, base circle {lifter_plan/base_radius_mm|radius of the base circle}, "
          "roller {lifter_plan/roller_radius_mm|radius of the roller}; the cam's top turns "
          "{lifter_plan/cam_turns_left|which way the cam turns}, seen from the rear");
}

} // namespace

FigureSentence figure_sentence(FiguresOf what, const JobState& state, const planning::Assessment& a,
                               const std::optional<block::FeatureId>& marked, const LengthText& l) {
    Sentence s(state, marked, l);
    if (!intake_of(state).blueprint)
        return {};
    switch (what) {
    case FiguresOf::limits:
        say_limits(s, state);
        break;
    case FiguresOf::tunnel:
        say_tunnel(s);
        break;
    case FiguresOf::decks:
        say_decks(s, state);
        break;
    case FiguresOf::head:
        say_head(s);
        break;
    case FiguresOf::cutter:
        say_cutter(s, state, l);
        break;
    case FiguresOf::mock_up:
        say_mock_up(s, state, l);
        break;
    case FiguresOf::balance:
        say_balance(s, state);
        break;
    case FiguresOf::cylinder_size:
        say_size(s);
        break;
    case FiguresOf::boring:
        say_pistons(s, state, a, marked, l);
        s.say(" · leave {pistons/hone_stock_mm|stock for the hone} for the hone, within ±{pistons/tolerance_mm|rough "
              "size within}, largest cut {pistons/largest_cut_mm|largest cut}, {pistons/measure_each|which holes are "
              "measured}");
        break;
    case FiguresOf::honing:
        say_pistons(s, state, a, marked, l);
        s.say(", at most {pistons/finish_tolerance_mm|how much larger a finished bore may be} over and "
              "{pistons/shape_mm|taper and oval at most} out of shape · ");
        say_hone(s, state, a, marked);
        break;
    case FiguresOf::texture:
        say_texture(s);
        break;
    case FiguresOf::sleeve:
        say_sleeve(s, marked);
        break;
    case FiguresOf::lifters:
        say_lifters(s);
        break;
    }
    return s.parts;
}

std::string plain_words(const FigureSentence& sentence) {
    std::string words;
    for (const SentencePart& part : sentence)
        words += part.words;
    return words;
}

std::string figure_text(const JobState& state, const Figure& figure, const LengthText& l) {
    const std::optional<double>& n = figure.value.number;
    switch (figure.unit) {
    case FigureUnit::length:
        return n ? l.plain(*n) : "";
    case FigureUnit::roughness:
        return n ? trimmed(*n * 1000) : "";
    case FigureUnit::volume:
        return n ? fixed(*n / 1000, 2) : "";
    case FigureUnit::angle:
        return n ? trimmed(*n / block::radians_per_degree) : "";
    case FigureUnit::share:
        return n ? trimmed(*n * 100) : "";
    case FigureUnit::number:
        return n ? trimmed(*n) : "";
    case FigureUnit::choice:
    case FigureUnit::flag: {
        const auto words = figure_choices(figure);
        const auto place = static_cast<std::size_t>(n.value_or(0));
        return place < words.size() ? words[place] : "";
    }
    case FigureUnit::text:
        return figure.value.text;
    case FigureUnit::lengths: {
        std::string words;
        for (const double mm : figure.value.numbers)
            words += (words.empty() ? "" : ", ") + l.plain(mm);
        return words;
    }
    case FigureUnit::grits: {
        std::string words;
        const auto plan = planning::hone_plan_of(state);
        for (const auto& step : plan.steps)
            words += (words.empty() ? "" : "; ") + step.grit + " " + l.plain(step.leaves);
        return words;
    }
    case FigureUnit::chain: {
        const auto& chain = decks_of(state).figures.overhead_chain;
        return chain ? std::to_string(chain->teeth_crank) + " " + std::to_string(chain->teeth_cam) + " " +
                           l.plain(chain->pitch) + " " + l.plain(chain->distance)
                     : "";
    }
    }
    return "";
}

std::vector<std::string> figure_choices(const Figure& figure) {
    if (figure.address == "texture_limits/rings") {
        std::vector<std::string> rings;
        for (const block::TextureLimits& usual : planning::usual_texture_limits())
            rings.push_back(usual.rings);
        return rings;
    }
    const auto words = choice_words().find(figure.address);
    if (words != choice_words().end())
        return words->second;
    if (figure.unit == FigureUnit::flag)
        return {"no", "yes"};
    return {figure.value.names.begin(), figure.value.names.end()};
}

} // namespace pallix::wording
