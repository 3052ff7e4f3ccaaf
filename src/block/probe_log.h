// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/fault.h"
#include "block/feature.h"
#include "block/named_text.h"
#include "metrology/geometry.h"

#include <atomic>
#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace pallix::block {

/// One touch of the probe, turned back out of its set-up into the shared machine frame.
struct Touch {
    metrology::Vec3 position; ///< mm; on the surface, or the ball's centre where tip_radius > 0
    double tip_radius = 0;    ///< mm
};

/// The touches of one feature at one level, over all logs read together.
struct Section {
    FeatureId feature;
    std::string level;   ///< empty where a feature has none (and for dowels, decks and the pan rail)
    std::size_t log = 0; ///< index of the log its first touch came from
    int line = 0;        ///< line of the first touch
    std::vector<Touch> touches;
};

struct LogHeader {
    std::string file;
    Unit unit = Unit::mm;
    bool is_tip = false;
    double tip_radius = 0;                   ///< mm
    std::optional<double> temperature_c;     ///< kept and shown, never applied
    std::optional<double> touch_uncertainty; ///< mm, standard, of one touch, as the log states it
    int header_line = 1;
    bool rolled = false; ///< has set-ups at different rotations
    std::size_t touches = 0;
};

/// Several probe logs read one after the other.
struct ProbeSet {
    std::vector<LogHeader> logs;
    std::vector<Section> sections; ///< in order of first appearance
    Faults warnings;

    [[nodiscard]] std::vector<const Section*> of(FeatureKind kind) const;
    [[nodiscard]] Fault fault(const Section& section, std::string what, std::string expected) const;
};

/// What the logs are expected to hold.
enum class ProbeScope {
    whole, ///< enough to build the frame from: at least two mains
    part,  ///< may be the decks alone, to be laid on top of earlier logs
};

/// Someone who watches a long read and may end it.
struct ReadWatch {
    std::function<void(double share)> progress;   ///< 0 to 1
    const std::atomic<bool>* cancelled = nullptr; ///< may be set by anyone
};

/// Reads probe logs (docs/formats.md) against a blueprint. Every fault of every log is listed; with any, nothing is
/// taken.
/// @param logs at least one
/// @param watch may be null; a cancelled read ends with one fault that says so
[[nodiscard]] Result<ProbeSet> read_probe_logs(std::span<const NamedText> logs, const Blueprint& blueprint,
                                               ProbeScope scope = ProbeScope::whole, const ReadWatch* watch = nullptr);

/// @return the newest sections, and those of `earlier` whose feature the newest do not hold
[[nodiscard]] ProbeSet laid_over(const ProbeSet& earlier, const ProbeSet& newest);

} // namespace pallix::block
