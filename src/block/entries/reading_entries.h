// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"
#include "block/reading.h"

#include <cstdint>
#include <string>
#include <vector>

namespace pallix::block {

// What was measured by hand, with what, and under which conditions.

void fields(Fields& f, Instrument& i); ///< of the register, and within a reading
void fields(Fields& f, Conditions& c);

template <>
inline constexpr std::string_view entry_kind<Reading> = "reading";
void fields(Fields& f, Reading& r);

/// From here on these conditions hold, until others are stated.
struct ConditionsStated {
    Conditions conditions;
    bool also_before = false; ///< they held already when what is there was read, and nobody had said so
    bool operator==(const ConditionsStated&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<ConditionsStated> = "conditions";
inline void fields(Fields& f, ConditionsStated& p) {
    fields(f, p.conditions);
    f.flag_if("also_before", p.also_before);
}

/// An instrument held against something of known size. Two checks tell how far it drifted between them.
struct RingCheck {
    std::string instrument;
    double size = 0;    ///< mm, of the ring
    double reading = 0; ///< mm, what the instrument made of it, whole
    bool operator==(const RingCheck&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RingCheck> = "ring_check";
inline void fields(Fields& f, RingCheck& p) {
    f.text("instrument", p.instrument);
    f.number("size_mm", p.size, size_range);
    f.number("reading_mm", p.reading, size_range);
}

/// One place read again and again with one instrument.
struct RepeatabilityTest {
    std::string instrument;
    std::string words;            ///< which place
    std::vector<double> readings; ///< mm, at least 2
    bool operator==(const RepeatabilityTest&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RepeatabilityTest> = "repeatability_test";
inline void fields(Fields& f, RepeatabilityTest& p) {
    f.text("instrument", p.instrument);
    f.text("words", p.words);
    f.list("readings_mm", p.readings, {2, 1000}, [&](double& reading) { f.number("", reading, any_length); });
}

/// Which places one kind of measuring goes through, in which order.
struct ReadingPlanChosen {
    std::string plan;                ///< "main_sizes", "deck_heights R", …
    std::vector<std::string> places; ///< keys of MeasuredAt
    bool operator==(const ReadingPlanChosen&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<ReadingPlanChosen> = "reading_plan";
inline void fields(Fields& f, ReadingPlanChosen& p) {
    f.text("plan", p.plan);
    f.list("places", p.places, {1, 2000}, [&](std::string& key) { f.text("", key); });
}

/// A gauge study: parts read by several people, each several times (AIAG, Measurement Systems Analysis). Its parts are
/// places of the block; what counts of it are the readings that follow with that instrument.
struct GaugeStudyBegun {
    std::string instrument;
    std::string plan;                ///< whose places they are: "cylinder_sizes R"
    std::vector<std::string> places; ///< keys of MeasuredAt
    std::vector<std::string> people;
    std::int64_t trials = 3;
    bool operator==(const GaugeStudyBegun&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<GaugeStudyBegun> = "gauge_study";
inline void fields(Fields& f, GaugeStudyBegun& p) {
    f.text("instrument", p.instrument);
    f.text("plan", p.plan);
    f.list("places", p.places, {2, 50}, [&](std::string& key) { f.text("", key); });
    f.list("people", p.people, {2, 10}, [&](std::string& name) { f.text("", name); });
    f.whole("trials", p.trials, {2, 10});
}

using ReadingKinds = Kinds<Reading, ConditionsStated, RingCheck, RepeatabilityTest, ReadingPlanChosen, GaugeStudyBegun>;

} // namespace pallix::block
