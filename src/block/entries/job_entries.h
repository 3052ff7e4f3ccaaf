// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"
#include "block/shared_text.h"

#include <cstdint>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::block {

// What a job begins with, what was probed, and what is said of other entries.

/// The first entry of every job.
struct JobOpened {
    std::string title;
    std::string customer;
    std::string blueprint_file;
    std::string blueprint; ///< the file's text
    std::string engine{};  ///< of the shelf that it was drawn from; empty: from a file
    int revision = 0;      ///< of that engine, from 1
    bool operator==(const JobOpened&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<JobOpened> = "job_opened";
inline void fields(Fields& f, JobOpened& p) {
    f.text("title", p.title);
    f.text("customer", p.customer);
    f.text("blueprint_file", p.blueprint_file);
    f.text("blueprint", p.blueprint, long_text);
    f.text_if("engine", p.engine);
    if (f.left_out("revision", p.revision == 0))
        p.revision = 0;
    else
        f.whole("revision", p.revision, {1, 1e6});
}

/// Another blueprint in the place of the one before it, from the job's beginning on: everything is worked out anew from
/// the touches and readings as they were taken.
struct BlueprintAmended {
    std::string blueprint_file;
    std::string blueprint; ///< the whole text
    std::string reason;
    bool operator==(const BlueprintAmended&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BlueprintAmended> = "blueprint_amended";
inline void fields(Fields& f, BlueprintAmended& p) {
    f.text("blueprint_file", p.blueprint_file);
    f.text("blueprint", p.blueprint, long_text);
    f.text("reason", p.reason);
}

/// A whole probe log is one entry.
struct ProbeLogTaken {
    std::string file;
    std::string sha256; ///< of the text, hexadecimal
    SharedText text;
    std::optional<double> standard_uncertainty; ///< mm, of one touch, as stated by whoever took it
    bool continues = false;                     ///< read together with the log entry before it
    std::string original_sha256{};              ///< of the log of another form that this one was made from
    SharedText original{};                      ///< its text; empty where it came as it is
    bool operator==(const ProbeLogTaken&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<ProbeLogTaken> = "probe_log";
inline void fields(Fields& f, ProbeLogTaken& p) {
    f.text("file", p.file);
    f.text("sha256", p.sha256);
    f.text("text", p.text, long_text);
    f.number("standard_uncertainty_mm", p.standard_uncertainty, {0, 100});
    f.flag_if("continues", p.continues);
    f.text_if("original_sha256", p.original_sha256);
    if (!f.left_out("original", p.original.str().empty()))
        f.text("original", p.original, long_text);
}

struct Note {
    std::string text;
    bool operator==(const Note&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<Note> = "note";
inline void fields(Fields& f, Note& p) {
    f.text("text", p.text, long_text);
}

/// Takes an earlier entry out of the state. A strike can be struck itself.
struct Strike {
    std::int64_t sequence = 0;
    std::string reason;
    bool operator==(const Strike&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<Strike> = "strike";
inline void fields(Fields& f, Strike& p) {
    f.whole("sequence", p.sequence, {1, 1e15});
    f.text("reason", p.reason, 10 * short_text);
}

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

using JobKinds = Kinds<JobOpened, BlueprintAmended, ProbeLogTaken, Note, Strike>;

} // namespace pallix::block
