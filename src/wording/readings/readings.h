// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/reading.h"
#include "block/shorthand.h"
#include "metrology/decision.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

[[nodiscard]] std::string instrument_kind_name(block::InstrumentKind kind);
[[nodiscard]] std::string measuring_name(planning::Measuring what);
/// "main 2", "cylinder 3 (right bank, bore 2)", "right bank deck", "lifter 4, left bank"
[[nodiscard]] std::string feature_words(const block::Blueprint& blueprint, const block::FeatureId& id);
/// "cylinder 3", "lifter 2": for a place that says which bank it is on.
[[nodiscard]] std::string short_feature_words(const block::JobState& state, const block::FeatureId& id);
/// "main 2, front, upright"; "right bank deck, rear, outboard"
[[nodiscard]] std::string place_of_reading(const block::Blueprint& blueprint, const block::MeasuredAt& at);

/// A value of a quantity with its unit: "73.996 mm", "19.5 °C", "0.04 mm/m".
[[nodiscard]] std::string quantity_text(block::Quantity quantity, double value, const LengthText& l);

/// What a reading was understood as, before it counts.
/// @param zero_set_on what the gauge's zero was set on, where the reading counts from it
[[nodiscard]] std::string understood_words(const block::Understood& understood, block::Quantity quantity,
                                           const block::Expected& expected, const std::string& zero_set_on,
                                           const LengthText& l);
/// The question a suspicious reading is asked about; empty where there is nothing to ask.
[[nodiscard]] std::string question_about(const block::Understood& understood, block::Quantity quantity,
                                         const block::Expected& expected, const LengthText& l);
/// What may be typed, as the empty reading line says it.
/// What plus stands for: "larger"; nothing where a reading has no sense of its own.
[[nodiscard]] std::string more_means(block::Quantity q);
[[nodiscard]] std::string what_to_type(block::Quantity quantity, const block::Instrument& instrument,
                                       const LengthText& l);
/// "zero 73.990 mm, set on the ring" — or what is missing before its readings can be trusted.
[[nodiscard]] std::string instrument_words(const block::Instrument& instrument, const LengthText& l);
[[nodiscard]] std::string conditions_words(const block::Conditions& conditions);

/// What would settle a doubt, or that it is enough.
[[nodiscard]] std::string settling_sentence(const metrology::Settling& settling, const LengthText& l);

/// "1.2 thou the same way all along (92 % of it): the datum or a core shift."
[[nodiscard]] std::string pattern_sentence(const block::Blueprint& blueprint, const planning::Pattern& pattern,
                                           const LengthText& l);
[[nodiscard]] std::string dowel_pair_sentence(const planning::DowelPair& pair, const LengthText& l);
/// "0.120 mm outboard", "0.030 mm to the rear".
[[nodiscard]] std::string across_words(const block::BankBlueprint& bank, double v, const LengthText& l);
[[nodiscard]] std::string along_words(double u, const LengthText& l);
/// A position error by function: "0.0040 in outboard across the crankshaft, 0.0057 in to the front along it".
[[nodiscard]] std::string position_words(const block::BankBlueprint& bank, metrology::Vec2 error, const LengthText& l);

/// Everything the gauges say of the tunnel, the decks, the cylinders, in sentences.
[[nodiscard]] std::vector<std::string> tunnel_gauge_sentences(const block::JobState& state,
                                                              const planning::Assessment& a, const LengthText& l);
/// Where the bar stands in the end mains that were swept, and what is in that besides.
[[nodiscard]] std::vector<std::string> dial_in_sentences(const block::JobState& state, const planning::Assessment& a,
                                                         const LengthText& l);
[[nodiscard]] std::vector<std::string> deck_gauge_sentences(const block::JobState& state, const planning::Assessment& a,
                                                            const std::string& bank, const LengthText& l);
/// Disagreements of gauge and probe, conditions that may not be compared, what is to be measured again.
[[nodiscard]] std::vector<std::string> doubt_sentences(const block::JobState& state, const planning::Assessment& a,
                                                       const LengthText& l);

/// What an entry of these kinds says, without its bank or bore; empty where it is of another.
[[nodiscard]] std::string entry_words(block::ReadingKinds kinds, const block::Payload& entry, const LengthText& l);

} // namespace pallix::wording
