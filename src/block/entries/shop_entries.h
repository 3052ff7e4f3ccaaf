// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"
#include "block/entries/memory_entries.h"
#include "block/entries/route_entries.h"
#include "block/times.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>

namespace pallix::block {

// What the shop knows of a job besides its metal: whose it is and what for, what and whom it waits for, who works on
// it.

enum class Use { work, road, race };
inline constexpr std::array use_keys{"work", "road", "race"};

/// The job card, or a line of it: what is given holds from here on, the rest stays as it was.
struct JobCard {
    std::string identity; ///< serial number, or casting words
    std::string customer;
    std::string reach; ///< how to reach them
    std::string complaint;
    std::string history; ///< "sleeved once"
    std::optional<Use> use;
    std::string fuel;
    std::string boost;
    std::string gasket;
    std::string wanted;             ///< in the customer's words
    std::optional<double> oversize; ///< mm on diameter, of the pistons on hand
    std::string promised;           ///< a day, "2026-03-02"
    bool operator==(const JobCard&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<JobCard> = "job_card";

inline void day_if(Fields& f, Fields::Key key, std::string& value) {
    f.text_if(key, value);
    f.demand(value.empty() || read_day(value), key, "is \"" + value + "\"", "a day such as 2026-03-02");
}
inline void stage_if(Fields& f, Fields::Key key, std::optional<Stage>& value) {
    if (f.left_out(key, !value)) {
        value.reset();
        return;
    }
    Stage stage = value.value_or(Stage::received);
    f.choice(key, stage, stage_keys);
    value = stage;
}
inline void fields(Fields& f, JobCard& p) {
    f.text_if("identity", p.identity);
    f.text_if("customer", p.customer);
    f.text_if("reach", p.reach);
    f.text_if("complaint", p.complaint, 10 * short_text);
    f.text_if("history", p.history, 10 * short_text);
    if (f.left_out("use", !p.use))
        p.use.reset();
    else {
        Use use = p.use.value_or(Use::work);
        f.choice("use", use, use_keys);
        p.use = use;
    }
    f.text_if("fuel", p.fuel);
    f.text_if("boost", p.boost);
    f.text_if("gasket", p.gasket);
    f.text_if("wanted", p.wanted, 10 * short_text);
    f.number("oversize_mm", p.oversize, {0, 20});
    day_if(f, "promised", p.promised);
    f.demand(p != JobCard{}, "", "says nothing", "a line of the card");
}

/// A part or paper, as it stands from here on; one of the same name before it is that one.
struct PartNoted {
    std::string name;
    bool here = false;
    std::string where;          ///< where it is, or who brings it
    std::string due;            ///< a day
    std::optional<Stage> stage; ///< what waits for it; nothing: the passport
    bool operator==(const PartNoted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<PartNoted> = "part";
inline void name_field(Fields& f, Fields::Key key, std::string& value) {
    f.text(key, value);
    f.demand(!value.empty(), key, "is empty", "its name, in words");
}
inline void fields(Fields& f, PartNoted& p) {
    name_field(f, "name", p.name);
    f.flag_if("here", p.here);
    f.text_if("where", p.where);
    day_if(f, "due", p.due);
    stage_if(f, "stage", p.stage);
}

/// Somebody is waited for.
struct HoldPlaced {
    std::string with;           ///< whom
    std::string what;           ///< what is to come of it
    std::optional<Stage> stage; ///< what waits; nothing: whatever cannot be undone
    bool operator==(const HoldPlaced&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<HoldPlaced> = "hold";
inline void fields(Fields& f, HoldPlaced& p) {
    name_field(f, "with", p.with);
    f.text_if("what", p.what);
    stage_if(f, "stage", p.stage);
}
struct HoldLifted {
    std::int64_t hold = 0; ///< its entry
    std::string note;      ///< what came of it
    bool operator==(const HoldLifted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<HoldLifted> = "hold_lifted";
inline void fields(Fields& f, HoldLifted& p) {
    f.whole("hold", p.hold, {1, 1e15});
    f.text_if("note", p.note);
}

/// A clock that runs with the job and rings: a soak, a night.
struct ClockSet {
    std::string what;
    double minutes = 0;
    std::string until;          ///< UTC, ISO 8601
    std::optional<Stage> stage; ///< what waits until then; nothing: it only rings
    bool operator==(const ClockSet&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<ClockSet> = "clock";
inline void fields(Fields& f, ClockSet& p) {
    name_field(f, "what", p.what);
    f.number("minutes", p.minutes, {0, 30.0 * 24 * 60, true});
    f.text("until", p.until);
    f.demand(read_time(p.until).has_value(), "until", "is \"" + p.until + "\"", "a time such as 2026-03-02T09:41:00Z");
    stage_if(f, "stage", p.stage);
}

/// What is looked at before anything is measured.
enum class Inspection { deburred, threads, caps, cracks, walls };
inline constexpr std::array inspection_keys{"deburred", "threads", "caps", "cracks", "walls"};
struct Inspected {
    Inspection what = Inspection::deburred;
    std::string method; ///< "dye", "magnetic particles", "ultrasound"
    std::string found;  ///< empty: nothing that matters
    bool operator==(const Inspected&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<Inspected> = "inspected";
inline void fields(Fields& f, Inspected& p) {
    f.choice("what", p.what, inspection_keys);
    f.text_if("method", p.method);
    f.text_if("found", p.found, 10 * short_text);
}

/// A picture that the book keeps whole, by the digest of its bytes.
struct PictureKept {
    std::string file;
    std::string sha256;     ///< of the file's bytes, hexadecimal
    std::int64_t bytes = 0; ///< how many
    std::string about;      ///< a feature, a step or "flaw/7"; empty: the job
    std::string words;
    bool operator==(const PictureKept&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<PictureKept> = "picture";
inline constexpr std::int64_t largest_picture = 20 << 20; ///< bytes
inline void fields(Fields& f, PictureKept& p) {
    f.text("file", p.file);
    f.text("sha256", p.sha256);
    f.demand(p.sha256.size() == 64, "sha256", "is \"" + p.sha256 + "\"", "64 hexadecimal digits");
    f.whole("bytes", p.bytes, {1, static_cast<double>(largest_picture)});
    f.text_if("about", p.about);
    f.text_if("words", p.words);
}

enum class Role { owner, machinist, learner };
inline constexpr std::array role_keys{"owner", "machinist", "learner"};

/// Who works on the block from here on. Written where it matters: when a learner comes to it, or goes.
struct AtBench {
    std::string person;
    Role role = Role::machinist;
    bool operator==(const AtBench&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<AtBench> = "at_bench";
inline void fields(Fields& f, AtBench& p) {
    name_field(f, "person", p.person);
    f.choice("role", p.role, role_keys);
}

/// Somebody else answers for what a learner is about to do.
struct SignedOff {
    std::string what; ///< a kind of step, "cut_deck", or the id of a decision
    std::string by;
    Role role = Role::machinist; ///< of who signs
    bool by_code = false;        ///< proved by a code
    bool operator==(const SignedOff&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<SignedOff> = "signed_off";
inline void fields(Fields& f, SignedOff& p) {
    name_field(f, "what", p.what);
    name_field(f, "by", p.by);
    f.choice("role", p.role, role_keys);
    f.demand(p.role != Role::learner, "role", "is learner", "somebody who is none");
    f.flag_if("by_code", p.by_code);
}

/// The block has left the shop.
struct Delivered {
    std::string to;
    std::string note;
    bool operator==(const Delivered&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<Delivered> = "delivered";
inline void fields(Fields& f, Delivered& p) {
    f.text_if("to", p.to);
    f.text_if("note", p.note);
}

/// What the shop calls the block by, so that it is found years later, and what of it stands on the metal.
struct SerialGiven {
    std::string serial;
    std::string engraved; ///< the line as it was marked on the block; empty: not marked yet
    bool operator==(const SerialGiven&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<SerialGiven> = "serial";
inline void fields(Fields& f, SerialGiven& p) {
    name_field(f, "serial", p.serial);
    f.text_if("engraved", p.engraved);
}

using ShopKinds = Kinds<JobCard, PartNoted, HoldPlaced, HoldLifted, ClockSet, Inspected, PictureKept, AtBench,
                        SignedOff, Delivered, Experience, SerialGiven>;

} // namespace pallix::block
