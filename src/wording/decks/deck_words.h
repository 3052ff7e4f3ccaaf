// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_consequences.h"
#include "planning/decks/deck_record.h"
#include "planning/decks/deck_shape.h"
#include "planning/decks/milling.h"
#include "planning/decks/set_up.h"
#include "planning/decks/straightedge.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

[[nodiscard]] std::string flaw_kind_name(block::FlawKind kind);
[[nodiscard]] std::string flaw_near_words(block::FlawNear near); ///< "in the open deck", "beside a bore"
[[nodiscard]] std::string flaw_choice_name(block::FlawChoice choice);
[[nodiscard]] std::string gasket_name(block::GasketKind gasket);
[[nodiscard]] std::string cutter_state_name(block::CutterState state);
/// A volume with its unit: cm³ whatever the unit of lengths.
[[nodiscard]] std::string volume_text(double mm3);
[[nodiscard]] std::string ratio_text(double ratio); ///< "9.82 : 1"
/// An angle in degrees.
[[nodiscard]] std::string angle_text(double rad);

/// "5.5 to 7.5 thou until it is clean; the rear, outboard corner decides (71 %)."
[[nodiscard]] std::string marker_lines_words(block::MarkerLines lines);
[[nodiscard]] std::string forecast_sentence(const planning::DeckBelief& belief, const LengthText& l);
/// A forecast held against what was taken; empty while it is not clean.
[[nodiscard]] std::string outcome_sentence(const planning::ForecastOutcome& outcome, const LengthText& l);
/// The ledger's depth against the heights', where they were taken before and after.
[[nodiscard]] std::string depth_sentence(const planning::DepthHeld& held, const LengthText& l);
[[nodiscard]] std::string finish_sentence(const planning::FinishHeld& held); ///< "Ra 1.10 µm, at most 2.20 — meets"
/// What passes contradict, and what that points to.
[[nodiscard]] std::vector<std::string> contradiction_sentences(const block::BankBlueprint& bank,
                                                               const planning::DeckBelief& belief, const LengthText& l);
/// What a straightedge does on one line: "rests at both ends, 0.0021 in under its middle", "rocks …".
[[nodiscard]] std::string edge_sentence(const planning::EdgeComparison& edge, const LengthText& l);
[[nodiscard]] std::vector<std::string> feeler_bound_sentences(const planning::FlatnessBounds& bounds,
                                                              const LengthText& l);
/// What of a deck was not measured; empty where it was measured to its edges.
[[nodiscard]] std::string coverage_sentence(const block::BankBlueprint& bank, const planning::DeckCoverage& coverage,
                                            const LengthText& l);
[[nodiscard]] std::vector<std::string>
shape_sentences(const block::BankBlueprint& bank, const std::optional<planning::LocalFlatness>& local,
                double local_limit, const std::optional<planning::BanksLie>& banks, const LengthText& l);
/// What to put under a foot that is to be raised.
[[nodiscard]] std::string stack_sentence(const planning::FootMove& foot, const planning::Stack& stack,
                                         const LengthText& l);
/// Which clamp to ease, else what each foot has to do, and what is left then.
[[nodiscard]] std::vector<std::string> set_up_sentences(const block::BankBlueprint& bank, const planning::SetUpLie& lie,
                                                        const LengthText& l);
/// Why a bank is to be levelled, or its head.
[[nodiscard]] std::vector<std::string> levelling_reasons(const block::JobState& state, const std::string& bank,
                                                         bool head, const LengthText& l);
/// What came off the head since its chambers were measured; empty where nothing did.
[[nodiscard]] std::string chamber_sentence(const planning::HeadState& head, const LengthText& l);
/// How the face of a head lies, what came off it and what its chambers hold since.
[[nodiscard]] std::vector<std::string> head_sentences(const block::JobState& state, const planning::HeadProgress& head,
                                                      const LengthText& l);
/// All of that in one, with whose head it is.
[[nodiscard]] std::string head_line(const block::JobState& state, const planning::HeadProgress& head,
                                    const LengthText& l);
[[nodiscard]] std::string milling_sentence(const planning::MillingData& data, const LengthText& l);
/// What a cut changes, one line each.
[[nodiscard]] std::vector<std::string> consequence_sentences(const planning::DeckConsequences& c, bool steel_rods,
                                                             const LengthText& l);
/// A flaw with what was decided.
/// Where it is, what it is, what was decided.
[[nodiscard]] std::string flaw_sentence(const block::JobState& state, const block::KnownFlaw& flaw,
                                        const LengthText& l);
/// How bad it is by what lies beside it.
[[nodiscard]] std::string flaw_risk_sentence(const block::Blueprint& blueprint, const block::FlawMarked& flaw,
                                             const LengthText& l);
/// "the wall of cylinder 3", "the web of main 2"
[[nodiscard]] std::string flaw_place_words(const block::Blueprint& blueprint, const block::FlawMarked& flaw);
[[nodiscard]] std::string flaw_sentence(const block::BankBlueprint& bank, const block::KnownFlaw& flaw,
                                        const LengthText& l);
/// Flaws nobody has decided on, and what stops the work; for the call.
[[nodiscard]] std::vector<std::string> flaw_reasons(const block::JobState& state, const std::string& bank,
                                                    const LengthText& l);

/// What an entry of these kinds says, without its bank or bore; empty where it is of another.
[[nodiscard]] std::string entry_words(block::DeckKinds kinds, const block::Payload& entry, const LengthText& l);

} // namespace pallix::wording
