// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fields.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <vector>

namespace pallix::block {

/// What happened to an instrument.
enum class InstrumentHappening {
    zeroed,   ///< its zero was set
    checked,  ///< held against something of known size
    repeated, ///< one place read again and again
    studied,  ///< read by several people: a gauge study was laid out
    repaired, ///< opened, cleaned, its tips changed: what was known of it before holds no longer
};
inline constexpr std::array instrument_happening_keys{"zeroed", "checked", "repeated", "studied", "repaired"};

/// A line of an instrument's history, which goes across jobs and only grows.
struct InstrumentEvent {
    std::string instrument;
    InstrumentHappening what = InstrumentHappening::checked;
    std::optional<double> size;    ///< mm, zeroed or checked on
    std::optional<double> reading; ///< mm, what it made of it
    std::optional<double> celsius; ///< of the gauge
    std::optional<double> spread;  ///< mm, standard deviation of one reading
    std::int64_t count = 0;        ///< readings in that
    std::string words;             ///< what it was done on, what was repaired

    std::string time; ///< UTC, ISO 8601
    std::string person;
    std::int64_t job = 0;      ///< in whose ledger it stands; 0: in none
    std::int64_t sequence = 0; ///< entry there
    bool struck = false;       ///< it was struck there
    bool operator==(const InstrumentEvent&) const = default;

    /// How much too large it reads, mm.
    [[nodiscard]] std::optional<double> error() const {
        return what == InstrumentHappening::checked && size && reading ? std::optional(*reading - *size) : std::nullopt;
    }
};
using InstrumentHistory = std::vector<InstrumentEvent>; ///< by time

/// What a file keeps of it: all but where and when it stands.
void fields(Fields& f, InstrumentEvent& e);
[[nodiscard]] std::string instrument_event_json(const InstrumentEvent& event);
[[nodiscard]] tl::expected<InstrumentEvent, std::string> read_instrument_event(std::string_view json);
[[nodiscard]] std::optional<std::string> fault_of(const InstrumentEvent& event);

} // namespace pallix::block
