// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/feature.h"
#include "block/setup_turn.h"
#include "block/units.h"
#include "block/unnamed/touch_groups.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace pallix::block {

/// A step of the program by which a machine probes: so many touches, one after the other, at one place.
struct ProgramStep {
    std::string feature; ///< ours; empty: these touches are left out
    std::string level;
    std::size_t touches = 0;
    bool operator==(const ProgramStep&) const = default;
};

/// How a shop's own log is to be read. What is not stated is found in the log itself.
struct LogMapping {
    std::string delimiter; ///< one character, or "space"; empty: found
    std::string decimal;   ///< "." or ","; empty: found
    std::optional<Unit> unit;
    std::string kind;         ///< surface or tip
    std::string tip_diameter; ///< in the log's unit
    /// Ours (setup, rotation, feature, level, x, y, z) to their heading, or "#3" for the third column; x, y and z with
    /// a minus before it where their axis runs the other way.
    std::map<std::string, std::string> columns;
    /// Their name of a feature, with {n} for its number, to ours: "HL{n}" to "main.{n}".
    std::vector<std::pair<std::string, std::string>> features;
    std::map<std::string, std::string> levels; ///< theirs to ours
    /// What is touched in which order, where the log does not say it. A log of other touches than these is refused.
    std::vector<ProgramStep> program;
    /// How the block was turned over, by the set-up's name; "*": in all that are not named; "#33": from the
    /// log's 33rd touch on. Axes in mm.
    std::map<std::string, SetupTurn> setups;
};

/// Reads a `.pallix-mapping.json`.
[[nodiscard]] Result<LogMapping> read_mapping(std::string_view text, const std::string& file);

/// "Main 3", "MAIN_3", "bore R2", "Cyl. left 2", "deck right" as features; on an inline's one bank where none is named.
[[nodiscard]] std::optional<FeatureId> feature_by_usual_name(const std::string& name);

/// A log in the form of the contract, and how it was understood.
struct ConvertedLog {
    std::string log;
    std::vector<std::string> understood; ///< "columns separated by ;", "decimal comma", "x from “X [mm]”", …
    std::size_t touches = 0;
};

/// What the log does not say, and a mapping or a person has to.
struct LogLacks {
    /// Columns that are not known, ours to theirs as they stand: the one of words, those of numbers in their order.
    std::map<std::string, std::string> columns;
    bool names = false;             ///< of features: neither a column nor lines between the touches
    std::vector<std::string> turns; ///< set-ups of which it is not stated how far the block was turned
};

/// A log that may be one of another form, looked at before anything is decided.
struct LogLook {
    Result<ConvertedLog> converted;
    std::vector<std::vector<std::string>> rows; ///< the first ones, from the headings on where there are some
    std::vector<std::string> headings;          ///< of its columns; "#3" where there is none
    std::set<FeatureId> features;               ///< that are known
    std::vector<std::string> strangers;         ///< names of features that are not known, with {n} for their numbers
    LogLacks lacks;
    std::vector<LooseTouch> touches;            ///< by the log's own words, up to `most_loose_touches`; else none
    std::map<std::string, std::string> columns; ///< ours to their headings, a minus before those that are turned
};
[[nodiscard]] LogLook look_at_log(std::string_view text, const std::string& file, const LogMapping& mapping = {});

/// Whether it is a log of the contract's own form, right or wrong.
[[nodiscard]] bool is_probe_log(std::string_view text);

/// A `.pallix-mapping.json` of a mapping.
[[nodiscard]] std::string write_mapping(const LogMapping& mapping);

/// Makes a log of the contract's form from one of another: any delimiter, decimal commas, lines before the headings,
/// headings and names of features as shops have them. No digit of a number is changed.
/// @return all faults, with their lines, where it cannot be understood
[[nodiscard]] Result<ConvertedLog> convert_log(std::string_view text, const std::string& file,
                                               const LogMapping& mapping = {});

} // namespace pallix::block
