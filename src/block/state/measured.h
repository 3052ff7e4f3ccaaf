// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/reading.h"
#include "metrology/decision.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

/// A reading as the ledger has it, with what is known of it by now.
struct TakenReading {
    std::int64_t sequence = 0;
    std::string time;
    std::string person;
    Reading reading;
    double value = 0;              ///< corrected for drift and temperature; of a bracket, its lower end
    double drift_correction = 0;   ///< mm, part of the difference to reading.value
    double thermal_correction = 0; ///< mm, the other part
    std::optional<double> fixed; ///< standard uncertainty that repeating does not lower; nothing where none was stated
    std::string stale_because;   ///< what was cut since; empty while it holds

    [[nodiscard]] bool stale() const { return !stale_because.empty(); }
};

/// All readings of one place that hold, as one value; or, where none holds any more, the old ones, stale.
struct MeasuredPlace {
    MeasuredAt at;
    std::string words;
    double value = 0;            ///< mean of the readings (mm, mm per m, °C); of brackets, the largest lower end
    std::optional<double> upper; ///< of brackets, the smallest upper end
    std::size_t count = 0;       ///< readings in it
    double spread = 0;           ///< largest less smallest reading
    std::optional<metrology::Sureness> sureness; ///< nothing where an instrument's uncertainty was not stated
    std::string instrument;                      ///< of the last reading
    Conditions conditions;                       ///< of the last reading
    std::string stale_because;
    std::vector<std::int64_t> sequences; ///< entries it comes from

    [[nodiscard]] bool stale() const { return !stale_because.empty(); }
    [[nodiscard]] std::optional<double> standard_uncertainty() const {
        return sureness ? std::optional(sureness->standard_uncertainty()) : std::nullopt;
    }
};

/// An instrument held against something known, as the ledger has it.
struct TakenCheck {
    std::int64_t sequence = 0;
    std::string instrument;
    double error = 0; ///< mm, reading less size
};

/// The drift between two checks is spread evenly over the readings of that instrument between them; what that leaves
/// (drift·√(s(1 − s))) joins their uncertainty. Readings before the first or after the last check stay as they are.
void spread_drift(std::vector<TakenReading>& readings, const std::vector<TakenCheck>& checks);

inline constexpr double steel_expansion = 11.5e-6; ///< per kelvin, of a gauge; from memory

/// Brings sizes, heights and walls to 20 °C where the temperatures of part and gauge are known (ISO 1).
/// @param part_expansion per kelvin
void bring_to_reference_temperature(std::vector<TakenReading>& readings, double part_expansion);

/// One place from all readings of it, at least one.
[[nodiscard]] MeasuredPlace measured_place(const std::vector<const TakenReading*>& all);

/// @return the places in the order they were first read
[[nodiscard]] std::vector<MeasuredPlace> measured_places(const std::vector<TakenReading>& readings);

} // namespace pallix::block
