// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "planning/tunnel/tunnel_plan.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::planning {

using block::CentreSchool;

struct BoresPolicy {
    CentreSchool centre =
        CentreSchool::top;         ///< `limited` is for one bore at one size (cylinder_plan.h): planned as top
    std::vector<double> oversizes; ///< mm over nominal, on diameter; may hold 0
    double margin = 0;             ///< mm on diameter
    std::map<block::FeatureId, double> pits; ///< depth, mm
};

/// What a correction is planned by.
struct PlanPolicy {
    TunnelPolicy tunnel;
    block::DeckTargetChosen decks;
    BoresPolicy bores;
};

/// Reads a policy (docs/schema/pallix-policy.schema.json) against a blueprint.
[[nodiscard]] block::Result<PlanPolicy> read_policy(std::string_view text, const std::string& file,
                                                    const block::Blueprint& blueprint);

/// A deck from the tunnel as it will be. Heights mm.
struct DeckCorrection {
    block::FeatureId id;
    double target = 0; ///< height to cut to
    double low = 0, high = 0;
    double short_by = 0; ///< how far the lowest place stays below the cut; 0 where it cleans up
    [[nodiscard]] double cut() const { return high - target; }
    [[nodiscard]] bool cleans() const { return target <= low; }
};

/// A cylinder and the finish bore it needs, mm.
struct BoreNeed {
    block::FeatureId id;
    double nominal = 0;
    double clean = 0;               ///< smallest bore that cleans up about its centre
    double needed = 0;              ///< with pits and margin
    std::optional<double> oversize; ///< the smallest in the list that holds it
};

struct BoresPlan {
    std::optional<double> oversize;         ///< for all of them; nothing when one finds none in the list
    std::optional<block::FeatureId> set_by; ///< the one that needs most over its nominal
    std::vector<BoreNeed> each;
};

/// What to cut, everything downstream from the tunnel as it will be.
struct CorrectionPlan {
    TunnelPlan tunnel;
    double roll = 0; ///< rad, by which a later measurement will turn
    std::vector<DeckCorrection> decks;
    BoresPlan bores;
};

[[nodiscard]] CorrectionPlan plan_corrections(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                              const PlanPolicy& policy);

/// By the window's own plan of the decks.
[[nodiscard]] std::vector<DeckCorrection> correct_decks(const block::Blueprint& blueprint,
                                                        const std::vector<block::DeckResult>& decks,
                                                        const CentreLine& line, const block::DeckTargetChosen& target);
[[nodiscard]] BoresPlan correct_bores(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                      const CentreLine& line, const BoresPolicy& policy);

/// The plan as the command line prints it (format `pallix-plan`, version 1).
[[nodiscard]] std::string plan_json(const CorrectionPlan& plan, block::Unit unit = block::Unit::mm);

} // namespace pallix::planning
