// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/practice_bench.h"

#include "block/digest.h"
#include "block/fields_json.h"
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/common/sources.h"
#include "planning/cylinders/press_fit.h"
#include "planning/tunnel/tunnel_study.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::workshop {
namespace {

using block::Fields;
using block::MeasuredAt;
using block::Payload;
using block::Quantity;
using planning::Answers;
using planning::Step;
using planning::Task;

constexpr double reference_c = 20; // °C (ISO 1)

void hidden_fields(Fields& f, HiddenTruth& t) {
    auto seed = static_cast<std::int64_t>(t.seed);
    f.whole("seed", seed, {0, 1e15});
    t.seed = static_cast<std::uint64_t>(seed);
    f.group("block", [&] { fields(f, t.block); });
    f.group("gauges", [&] {
        GaugeHabits& g = t.gauges;
        f.number("scatter", g.scatter, {0, 1});
        f.number("stated", g.stated, {0, 1});
        f.number("slips", g.slips, {0, 1});
        f.number("mishaps", g.mishaps, {0, 1});
        f.number("drift", g.drift, {-1, 1});
        f.whole("zero_slips_after", g.zero_slips_after, {0, 1e6});
        f.number("zero_slip", g.zero_slip, {-1, 1});
        f.number("part_c", g.part_c, {-20, 120});
        f.number("gauge_c", g.gauge_c, {-20, 60});
        f.flag("probe", g.probe);
        f.flag("bridge", g.bridge);
    });
    f.group("machines", [&] {
        MachineHabits& m = t.machines;
        f.number("backlash", m.backlash, {0, 1});
        f.whole("lifted_at", m.lifted_at, {0, 1000});
        f.number("lifted", m.lifted, {-1, 1});
        f.number("bar_error", m.boring_bar.error, {-1, 1});
        int chips_at = m.boring_bar.chips_at.value_or(0);
        f.whole("chips_at", chips_at, {0, 1000});
        m.boring_bar.chips_at = chips_at > 0 ? std::optional(chips_at) : std::nullopt;
        f.number("chip", m.boring_bar.chip, {-1, 1});
        f.number("growth_per_hole", m.boring_bar.growth_per_hole, {-1, 1});
    });
}

/// A pack of feelers: the thickest that goes in, the thinnest that does not.
std::pair<double, double> felt(double gap) {
    constexpr std::array pack{0.0, 0.02, 0.03, 0.04, 0.05, 0.06, 0.08, 0.10, 0.15, 0.20, 0.30};
    const auto* stuck = std::ranges::upper_bound(pack, gap);
    return {*(stuck - 1), stuck == pack.end() ? 2 * pack.back() : *stuck};
}

planning::Measuring measuring_of(const MeasuredAt& at) {
    using enum planning::Measuring;
    switch (at.quantity) {
    case Quantity::size:
        return at.feature.kind == block::FeatureKind::main   ? main_sizes
               : at.feature.kind == block::FeatureKind::bore ? cylinder_sizes
                                                             : lifter_sizes;
    case Quantity::height:
        return deck_heights;
    case Quantity::gap:
        return feelers;
    case Quantity::temperature:
        return temperatures;
    case Quantity::slope:
        return deck_level;
    case Quantity::wall:
        return cylinder_walls;
    case Quantity::piston:
        return piston_heights;
    case Quantity::outside:
        return sleeve_sizes;
    default:
        return saddle_heights;
    }
}

} // namespace

std::string hidden_json(HiddenTruth truth) {
    return block::fields_as_json([&truth](Fields& f) { hidden_fields(f, truth); });
}

block::Result<HiddenTruth> read_hidden(std::string_view json, const block::Blueprint& blueprint) {
    HiddenTruth truth;
    block::Faults faults;
    for (const block::FieldFault& fault :
         block::fields_from_json(json, [&truth](Fields& f) { hidden_fields(f, truth); }))
        faults.push_back({"truth", 0, fault.text(), ""});
    if (faults.empty())
        if (auto unfit = fault_of(truth.block, blueprint))
            faults.push_back(std::move(*unfit));
    return faults.empty() ? block::Result<HiddenTruth>(std::move(truth)) : tl::unexpected(std::move(faults));
}

PracticeBench::PracticeBench(SimulatedBlock block, const GaugeHabits& gauges, std::uint64_t seed)
    : block_(std::move(block)), gauges_(gauges), seed_(seed), logs_(std::make_shared<block::ReadLogs>()) {}

PracticeBench::PracticeBench(const block::Blueprint& blueprint, const HiddenTruth& truth,
                             const std::vector<block::Entry>& entries)
    : PracticeBench(SimulatedBlock(blueprint, truth.block, truth.machines, truth.seed), truth.gauges, truth.seed) {
    for (std::size_t i = 0; i < entries.size(); ++i)
        work(entries, i);
}

metrology::Deviates PracticeBench::chance() const {
    constexpr std::uint64_t most_tries = 1000, of_readings = 1000000;
    return {seed_, of_readings + taken_ * most_tries + tries_};
}

std::optional<double> PracticeBench::perfect(const MeasuredAt& at) const {
    constexpr double wall = 6.5; // mm, of a cylinder that is where it is drawn; invented
    switch (at.quantity) {
    case Quantity::height:
        return gauges_.bridge ? std::optional(block_.truth(at)) : std::nullopt;
    case Quantity::size:
    case Quantity::saddle:
    case Quantity::gap:
    case Quantity::piston:
    case Quantity::outside:
        return block_.truth(at);
    case Quantity::temperature:
        return at.direction == "gauge" ? gauges_.gauge_c : gauges_.part_c;
    case Quantity::wall: {
        const metrology::Vec2 off = block_.off_its_place(at.feature);
        const double grown = block_.truth({at.feature, Quantity::size, at.level, "along", {}}) -
                             block_.blueprint().hole(at.feature)->diameter.nominal;
        const double thinner = at.direction == "right"  ? off.y
                               : at.direction == "left" ? -off.y
                               : at.direction == "rear" ? off.x
                                                        : -off.x;
        return wall - thinner - grown / 2;
    }
    default:
        return std::nullopt;
    }
}

/// Read at the other end of the bore, or with dirt under the foot.
std::optional<double> PracticeBench::mishap(const MeasuredAt& at, double is, metrology::Deviates& draw) const {
    if (at.quantity == Quantity::size && !at.level.empty()) {
        MeasuredAt other = at;
        other.level = at.level == "front"  ? "rear"
                      : at.level == "rear" ? "front"
                      : at.level == "top"  ? "bottom"
                                           : "top";
        return perfect(other);
    }
    if (at.quantity == Quantity::height || at.quantity == Quantity::saddle)
        return is + 0.02 + 0.04 * draw.uniform();
    return std::nullopt;
}

std::optional<Sent> PracticeBench::read(const MeasuredAt& at) {
    const auto is = perfect(at);
    if (!is)
        return std::nullopt;
    metrology::Deviates draw = chance();
    const bool first = tries_++ == 0;
    Sent sent{*is, {}, *is, false};
    if (block::is_bracket(at.quantity)) {
        const auto [goes_in, stuck] = felt(*is);
        sent.value = goes_in;
        sent.upper = stuck;
        return sent;
    }
    if (at.quantity == Quantity::temperature) {
        sent.value = std::round(10 * (*is + 0.1 * draw.normal())) / 10;
        return sent;
    }
    const double grown = block::expansion_of(block_.blueprint().material) * (gauges_.part_c - reference_c) -
                         block::steel_expansion * (gauges_.gauge_c - reference_c);
    sent.is = sent.value = *is * (1 + grown);
    sent.value +=
        gauges_.scatter * draw.normal() + gauges_.drift * since_check_ / 100 + (knocked_ ? gauges_.zero_slip : 0);
    // Who looks again sees that the needle has gone round, or that he was at the wrong end.
    if (const double share = draw.uniform(); first && share < gauges_.slips) {
        sent.value += draw.uniform() < 0.5 ? 1 : 0.1;
        sent.slipped = true;
    } else if (first && share > 1 - gauges_.mishaps)
        if (const auto wrong = mishap(at, sent.value, draw)) {
            sent.value = *wrong;
            sent.slipped = true;
        }
    sent.value = std::round(1000 * sent.value) / 1000;
    return sent;
}

block::Instrument PracticeBench::instrument(const MeasuredAt& at) const {
    return instrument(planning::usual_instrument(measuring_of(at)));
}

block::Instrument PracticeBench::instrument(block::InstrumentKind kind) const {
    block::Instrument one = block::usual_instruments().at(static_cast<std::size_t>(kind));
    one.name = "practice " + one.name;
    if (kind == block::InstrumentKind::thermometer)
        one.standard_uncertainty = 0.2;
    else if (kind == block::InstrumentKind::straightedge)
        one.resolution = 0.01;
    else {
        one.resolution = 0.001;
        one.turn = 1;
        one.standard_uncertainty = gauges_.stated;
    }
    return one;
}

block::RingCheck PracticeBench::check(const std::string& instrument, double size) {
    const double off = gauges_.drift * since_check_ / 100 + (knocked_ ? gauges_.zero_slip : 0);
    return {instrument, size, std::round(1000 * (size + off)) / 1000};
}

block::ProbeLogTaken PracticeBench::probe() {
    constexpr double scatter = 0.001; // mm, of a touch
    metrology::Deviates draw = chance();
    const std::string text = block_.probe(scatter, draw);
    return {"probed " + std::to_string(taken_ + 1) + ".csv", block::sha256_hex(text), text, scatter, false};
}

Answers PracticeBench::completed(const Step& step, Answers answers) const {
    SimulatedBlock tried = block_; // the metal comes off once it is in the ledger
    const auto depth = answers.find("depth");
    if (step.task == Task::cut_deck && depth != answers.end()) {
        const auto* set = std::get_if<double>(&depth->second);
        const std::vector<metrology::Vec2> dark =
            set ? tried.cut_deck(step.about->bank, *set) : std::vector<metrology::Vec2>();
        answers["clean"] = dark.empty();
        if (dark.empty())
            answers.erase("dark");
        else if (!answers.contains("dark"))
            answers["dark"] = dark;
    }
    if (step.task == Task::press)
        answers["proud"] = tried.press(*step.about);
    if (step.task == Task::mark_main)
        answers["mark"] = std::string(block::bar_mark_keys.at(static_cast<std::size_t>(tried.mark_of(*step.about))));
    if (step.task == Task::give_bar)
        answers["tunnel_plan/bar_mm"] = SimulatedBlock::bar;
    return answers;
}

void PracticeBench::work(const std::vector<block::Entry>& ledger, std::size_t i) {
    // A bar is set up on the line that the tunnel's plan had then.
    if (const auto* pass = std::get_if<block::TunnelPass>(&ledger[i].payload); pass && pass->protrusion)
        if (const auto study = planning::study_tunnel(
                block::fold({ledger.begin(), ledger.begin() + static_cast<std::ptrdiff_t>(i)}, logs_.get())))
            block_.set_up_bar(study->plan.line);
    work(ledger[i].payload);
}

void PracticeBench::work(const Payload& entry) {
    if (std::holds_alternative<block::Reading>(entry) || std::holds_alternative<block::ProbeLogTaken>(entry)) {
        ++taken_;
        tries_ = 0;
        ++since_check_;
        if (gauges_.zero_slips_after > 0 && !was_knocked_ &&
            taken_ >= static_cast<std::uint64_t>(gauges_.zero_slips_after))
            knocked_ = was_knocked_ = true;
    }
    if (std::holds_alternative<block::RingCheck>(entry)) {
        since_check_ = 0;
        knocked_ = false;
    }
    if (const auto* caps = std::get_if<block::CapsCut>(&entry))
        block_.cut_caps(caps->cuts);
    if (const auto* pass = std::get_if<block::TunnelPass>(&entry))
        pass->protrusion ? block_.bore_tunnel(*pass->protrusion) : block_.hone_tunnel(pass->strokes);
    if (const auto* cut = std::get_if<block::DeckCut>(&entry); cut && !cut->head &&
                                                               cut->kind != block::PassKind::flush &&
                                                               cut->depth > 0) // a flush pass meets the sleeve alone
        static_cast<void>(block_.cut_deck(cut->bank, cut->depth));
    if (const auto* fitted = std::get_if<block::InsertFitted>(&entry))
        static_cast<void>(block_.press(fitted->bore));
    if (const auto* cut = std::get_if<block::BoreCut>(&entry)) {
        if (cut->operation == block::BoreOperation::hone && cut->bore.kind == block::FeatureKind::bore)
            block_.hone(cut->bore, cut->strokes, cut->step.find("brush") != std::string::npos);
        else
            block_.bore(cut->bore, cut->setting.value_or(cut->target.value_or(0)), cut->new_edge);
    }
}

} // namespace pallix::workshop
