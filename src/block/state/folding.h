// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/state/fresh.h"
#include "block/state/job_state.h"
#include "block/state/read_logs.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::block {

/// What a fold knows while it goes through the ledger: the state so far, and what has to wait for the next entry.
struct Folding {
    JobState& state;
    ReadLogs* read = nullptr;     ///< may be null
    const Entry* entry = nullptr; ///< the one being taken
    /// What holds from the beginning: the one that was amended last, else the job's own; null where none can be read.
    std::shared_ptr<const Blueprint> blueprint{};

    /// Every reading that counts, corrected for what later checks tell of its gauge.
    std::vector<TakenReading> corrected{};
    std::size_t next_corrected = 0;
    std::vector<std::size_t> fresh{};              ///< readings that nothing has made untrue
    std::map<std::string, std::int64_t> heights{}; ///< banks with heights not looked at yet, and the last one's entry

    /// Logs that continue one another, until the last of them is known.
    struct Logs {
        std::vector<const ProbeLogTaken*> waiting;
        std::vector<std::int64_t> sequences;
        std::int64_t sequence = 0; ///< of the last
        std::optional<double> standard_uncertainty;
        std::string key; ///< of all logs so far that are not struck
        std::shared_ptr<const ProbeSet> probed;
    };
    Logs logs{};

    void trouble(std::int64_t sequence, std::string words) { state.troubles.push_back({sequence, std::move(words)}); }
    /// Of the entry being taken.
    void trouble(const std::string& words);
    /// @return null where the blueprint does not have it, which is a trouble
    [[nodiscard]] DeckState* deck_of(const std::string& bank);
    /// Whether the blueprint lists it; a trouble where not.
    [[nodiscard]] bool listed(const FeatureId& id);
    /// Measured from mains with their caps off, and nobody answers for that with a reason.
    [[nodiscard]] bool from_open_mains(const Conditions& then, const FeatureId& about) const;
    void take_measurement(const std::string& bank, DeckMeasurement measurement);
    /// Readings of a round that is over hold no longer.
    void end_round(const RoundEnd& round);
};

// What each part's entries do to the state, a file for each.
void fold_entry(Folding& f, JobKinds, const Payload& payload);
void fold_entry(Folding& f, ReadingKinds, const Payload& payload);
void fold_entry(Folding& f, TunnelKinds, const Payload& payload);
void fold_entry(Folding& f, DeckKinds, const Payload& payload);
void fold_entry(Folding& f, CylinderKinds, const Payload& payload);
void fold_entry(Folding& f, LifterKinds, const Payload& payload);
void fold_entry(Folding& f, RouteKinds, const Payload& payload);
void fold_entry(Folding& f, ShopKinds, const Payload& payload);
void fold_entry(Folding& f, PracticeKinds, const Payload& payload);

/// Reads and evaluates the logs that wait.
void finish_logs(Folding& f);
/// Heights by hand that came one after the other are looked at once, after the last of them.
void finish_heights(Folding& f);

/// A blueprint, read once.
/// @param read may be null
[[nodiscard]] Result<std::shared_ptr<const Blueprint>> blueprint_of(const std::string& text, const std::string& file,
                                                                    ReadLogs* read);

/// What was stated holds from then on, also for readings that say nothing of it themselves.
void complete(Conditions& own, const Conditions& stated);

/// What one group of logs gave.
struct ReadLogs::Read {
    std::shared_ptr<const ProbeSet> laid;     ///< with what was probed before; null where it could not be read
    std::optional<EvaluationState> evaluated; ///< nothing where it could not be
    std::string trouble;                      ///< why not
    std::vector<FeatureId> held;              ///< features of this group of logs alone
};

} // namespace pallix::block
