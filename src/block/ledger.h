// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/entries/deck_entries.h"
#include "block/entries/route_entries.h"
#include "block/feature.h"
#include "block/fields.h"
#include "block/reading.h"
#include "metrology/geometry.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <utility>
#include <variant>
#include <vector>

namespace pallix::block {

// What a person did. An entry never changes; a wrong one is struck by a later one and stays readable.

/// The first entry of every job.
struct JobOpened {
    std::string title;
    std::string customer;
    std::string blueprint_file;
    std::string blueprint; ///< the file's text
    bool operator==(const JobOpened&) const = default;
};

/// A whole probe log is one entry.
struct ProbeLogTaken {
    std::string file;
    std::string sha256; ///< of the text, hexadecimal
    std::string text;
    std::optional<double> standard_uncertainty; ///< mm, of one touch, as stated by whoever took it
    bool continues = false;                     ///< read together with the log entry before it
    bool operator==(const ProbeLogTaken&) const = default;
};

enum class PassKind { witness, pass, finish, spring };

/// One pass over a deck.
struct DeckCut {
    std::string bank;
    PassKind kind = PassKind::pass;
    double depth = 0;                  ///< mm, ≥ 0, infeed since the pass before (from first touch for the first)
    bool clean = false;                ///< touched everywhere
    std::vector<metrology::Vec2> dark; ///< (u, v) mm, places that stayed dark
    double brush = default_brush;      ///< mm, radius each of those places stands for
    bool rest_bright = false;          ///< everything that is not painted dark was touched
    static constexpr double default_brush = 8;
    bool operator==(const DeckCut&) const = default;
};

enum class TargetSchool {
    least_cut,
    blueprint,
    height,
    clearance, ///< from the mock-up: the piston that stands highest gets it
    ratio,     ///< the cylinder that compresses most gets it
};

/// Which height the decks are cut to.
struct DeckTargetChosen {
    TargetSchool school = TargetSchool::least_cut;
    bool equal = true;
    std::optional<double> height;      ///< mm, for TargetSchool::height
    std::optional<double> clearance{}; ///< mm, piston below the deck, for TargetSchool::clearance
    std::optional<double> ratio{};     ///< compression ratio, for TargetSchool::ratio
    bool operator==(const DeckTargetChosen&) const = default;
};

/// The editable figures of a pass plan (defaults are common practice).
struct PassPlanChosen {
    double witness = 0; ///< mm
    double pass = 0;
    double finish = 0;
    int spring_passes = 0;
    bool operator==(const PassPlanChosen&) const = default;
};

/// From here on these conditions hold, until others are stated.
struct ConditionsStated {
    Conditions conditions;
    bool also_before = false; ///< they held already when what is there was read, and nobody had said so
    bool operator==(const ConditionsStated&) const = default;
};

/// An instrument held against something of known size. Two checks tell how far it drifted between them.
struct RingCheck {
    std::string instrument;
    double size = 0;    ///< mm, of the ring
    double reading = 0; ///< mm, what the instrument made of it, whole
    bool operator==(const RingCheck&) const = default;
};

/// One place read again and again with one instrument.
struct RepeatabilityTest {
    std::string instrument;
    std::string words;            ///< which place
    std::vector<double> readings; ///< mm, at least 2
    bool operator==(const RepeatabilityTest&) const = default;
};

enum class TunnelMethod { hone, bore };

enum class CapCuts { each, equal };   ///< each cap its own cut, or one for all
enum class GivenLine { datum, ends }; ///< datum A, or through the end mains

/// What the tunnel shall become, and within which limits: mm, rad.
struct TunnelPolicy {
    TunnelMethod method = TunnelMethod::hone;
    std::optional<double> target_diameter{}; ///< nothing: the middle of each main's own window
    double stock = 0;                        ///< metal that must come off everywhere
    double parting = 0;                      ///< rad beside the parting line that need no stock
    CapCuts caps = CapCuts::each;
    double max_cap_cut = 0.5;
    double max_rise = 0.15; ///< of the centre line, up or down
    double max_side = 0.05;
    GivenLine line = GivenLine::datum; ///< for line boring
    std::vector<FeatureId> replaced{}; ///< mains whose cap is replaced or repaired: its old surface does not count
    bool operator==(const TunnelPolicy&) const = default;
};

/// Metal taken off the caps' parting faces.
struct CapsCut {
    std::vector<std::pair<FeatureId, double>> cuts; ///< mm
    bool operator==(const CapsCut&) const = default;
};

enum class TunnelPassKind {
    strokes,      ///< of the line hone
    caps_only,    ///< boring bar, the block barely touched
    establishing, ///< boring bar, to be measured before the final one
    final_pass,
};

/// One go of the hone or the boring bar. Sizes measured before it hold no longer.
struct TunnelPass {
    TunnelPassKind kind = TunnelPassKind::strokes;
    int strokes = 0;                  ///< of the hone
    std::optional<double> protrusion; ///< mm, of the cutter from the bar
    bool new_cutter = false;          ///< the establishing pass is asked for again
    bool operator==(const TunnelPass&) const = default;
};

/// A step that was done by hand or eye: "even contact of the parting faces", "caps deburred".
struct StepDone {
    std::string step;
    bool operator==(const StepDone&) const = default;
};

/// The main tunnel was cut: what was measured from it holds no longer.
struct TunnelCut {
    TunnelMethod method = TunnelMethod::hone;
    std::string note;
    bool operator==(const TunnelCut&) const = default;
};

/// Which places one kind of measuring goes through, in which order.
struct ReadingPlanChosen {
    std::string plan;                ///< "main_sizes", "deck_heights R", …
    std::vector<std::string> places; ///< keys of MeasuredAt
    bool operator==(const ReadingPlanChosen&) const = default;
};

struct Note {
    std::string text;
    bool operator==(const Note&) const = default;
};

/// Takes an earlier entry out of the state. A strike can be struck itself.
struct Strike {
    std::int64_t sequence = 0;
    std::string reason;
    bool operator==(const Strike&) const = default;
};

/// An entry of a kind this version does not know, or of a known one that cannot be read: kept, shown as such, without
/// effect. What cannot be read may have been a cut: nothing is called until it is struck.
struct UnknownPayload {
    std::string kind;
    std::int64_t version = 1;
    std::string json;
    std::vector<FieldFault> faults{}; ///< why it cannot be read; none where the kind is not known

    bool operator==(const UnknownPayload& other) const {
        return kind == other.kind && version == other.version && json == other.json;
    }
};

using PayloadKinds =
    std::variant<JobOpened, ProbeLogTaken, Reading, DeckCut, DeckTargetChosen, PassPlanChosen, Note, Strike,
                 ConditionsStated, RingCheck, RepeatabilityTest, TunnelCut, ReadingPlanChosen, TunnelPolicy, CapsCut,
                 TunnelPass, StepDone, FlawMarked, FlawDecided, PressureTested, DeckForecastKept, CutterFitted,
                 FinishNoted, GasketChosen, SetUpRead, EngineFigures, HeadWork, CylinderPlanChosen, BorePitted,
                 BoreDecided, PistonsStated, BoreCut, InsertMeasured, InsertFitted, BoreStepDone, HonePlanChosen,
                 RestBegun, TraceTaken, TextureLimits, LifterPlanChosen, LifterDecided, GatePassed, RoundOpened,
                 ScopeChosen, RouteChosen, StepSkipped, UnknownPayload>;

/// One of these kinds. Copying and destroying forty of them is compiled once, not in every file that holds an entry.
class Payload : public PayloadKinds {
  public:
    using PayloadKinds::PayloadKinds;
    Payload();
    ~Payload();
    Payload(const Payload&);
    Payload(Payload&&) noexcept;
    Payload& operator=(const Payload&);
    Payload& operator=(Payload&&) noexcept;
};

struct Entry {
    std::int64_t sequence = 0; ///< from 1 within the job, without gaps
    std::string time;          ///< UTC, ISO 8601, "2026-03-02T09:41:00Z"
    std::string person;
    Payload payload;
};

[[nodiscard]] std::string kind_of(const Payload& payload);
[[nodiscard]] std::int64_t version_of(const Payload& payload);

/// Payloads as the shop book and job files keep them.
[[nodiscard]] std::string payload_json(const Payload& payload);

/// @return the payload; an unknown kind or a newer version as UnknownPayload; every fault where a known one is broken
[[nodiscard]] tl::expected<Payload, std::vector<FieldFault>> read_payload(std::string_view kind, std::int64_t version,
                                                                          std::string_view json);

/// What is wrong with an entry that was made in the program, by the same ranges that files are read with.
/// @param payload is walked through in place and left as it is
[[nodiscard]] std::vector<FieldFault> faults_in(Payload& payload);

/// @return for each entry, whether it is struck (by a strike that is not struck itself)
[[nodiscard]] std::vector<bool> struck(const std::vector<Entry>& entries);

} // namespace pallix::block
