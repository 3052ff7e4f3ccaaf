// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/cylinder_work.h"
#include "planning/cylinders/texture.h"
#include "wording/common/lengths.h"
#include "wording/common/sentences.h"

#include <string>
#include <vector>

namespace pallix::wording {

[[nodiscard]] std::string centre_name(block::CentreSchool school);
[[nodiscard]] std::string thrust_name(block::ThrustSide side);
[[nodiscard]] std::string bore_choice_name(block::BoreChoice choice);
[[nodiscard]] std::string alloy_name(block::PistonAlloy alloy);
[[nodiscard]] std::string abrasive_name(block::Abrasive abrasive);
[[nodiscard]] std::string operation_name(block::BoreOperation operation);
/// "larger in the middle by 0.0008 in: pushed too hard. Lighter, and let it rest."
/// What was seen of the scratches, where it is not what speed and strokes make, and what would.
[[nodiscard]] std::string hatch_sentence(const planning::HatchSeen& hatch);
[[nodiscard]] std::string shape_sentence(const planning::HoneBore& bore, const LengthText& l);
/// "+0.0200 over" — an oversize; "nominal" for none
[[nodiscard]] std::string oversize_text(double oversize, const LengthText& l);
/// A height of texture: µm whatever the unit of lengths; a ratio in %.
[[nodiscard]] std::string texture_text(double value, bool is_ratio);
/// Which traces a finding is of: "mean of 3 traces", "one trace, of its place alone; from before the last cut".
[[nodiscard]] std::string traces_text(const planning::TextureFinding& finding);
/// ": Ra 0.42 µm, Rpk 0.60 µm (fails, at most 0.35 µm)"
[[nodiscard]] std::string typed_texture_words(const std::vector<planning::TextureCheck>& checks);
/// Redo or stop, by the newest trace or tester since the last cut; empty where there is neither, or no limit.
[[nodiscard]] std::string texture_advice_sentence(const block::JobState& state, const block::FeatureId& cylinder);
[[nodiscard]] std::string range_text(const block::TextureLimits::Range& range, bool is_ratio);

/// By each centre school: the size, who sets it, what it would be without that one.
[[nodiscard]] std::vector<std::string> size_sentences(const block::JobState& state,
                                                      const planning::CylinderStudy& study, const LengthText& l);
/// One bore: what it needs, how far it can go towards its place, what its walls become.
[[nodiscard]] std::vector<std::string> bore_sentences(const block::JobState& state,
                                                      const planning::CylinderStudy& study,
                                                      const block::FeatureId& bore, const LengthText& l);
/// Where one does not clean up: what the next size costs the others, and what a sleeve does.
[[nodiscard]] std::vector<std::string> choice_sentences(const block::JobState& state,
                                                        const planning::CylinderStudy& study,
                                                        const block::FeatureId& bore, const LengthText& l);
[[nodiscard]] std::vector<std::string> sleeve_sentences(const planning::SleeveWork& sleeve, const LengthText& l);

/// Where a cylinder lies against the blueprint, both ways with their limits: "0.120 mm outboard (at most 0.100 —
/// fails), …".
[[nodiscard]] std::string place_sentence(const block::JobState& state, const planning::Placed& placed,
                                         const LengthText& l);
/// How far to move from the centre that is there, and where that is from the dowel; empty where nobody probed it.
[[nodiscard]] std::string centre_sentence(const block::JobState& state, const planning::CylinderNeed& need,
                                          const LengthText& l);
/// What is said of a place that is off, or not proven.
[[nodiscard]] CallText place_call(const block::JobState& state, const planning::CylinderWork& work,
                                  const LengthText& l);
/// What to do with the cylinders now.
[[nodiscard]] CallText cylinder_call(const block::JobState& state, const planning::CylinderWork* work,
                                     const LengthText& l);

/// What an entry of these kinds says, without its bank or bore; empty where it is of another.
[[nodiscard]] std::string entry_words(block::CylinderKinds kinds, const block::Payload& entry, const LengthText& l);

} // namespace pallix::wording
