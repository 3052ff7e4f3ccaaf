// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fields.h"
#include "block/ledger.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

enum class FieldKind { number, whole, flag, choice, text, numbers };

/// What stands in one field of an entry.
struct FieldValue {
    FieldKind kind = FieldKind::number;
    std::optional<double> number{}; ///< as files have it (mm, rad, mm³); of a flag 0 or 1, of a choice its place;
                                    ///< nothing where it was not stated
    std::string text{};             ///< of a text
    std::vector<double> numbers{};  ///< of a list of numbers
    Range range{};                  ///< what a number may be
    std::span<const char* const> names{}; ///< of a choice

    [[nodiscard]] bool stated() const { return number || !text.empty() || !numbers.empty(); }
};

/// A field by its address, "clearance_mm", "ra.least", "sizes_mm.bore.L.3", "oversizes_mm": a third way through the
/// one description of an entry.
/// @return nothing where entries of its kind have no such field
[[nodiscard]] std::optional<FieldValue> field_at(const Payload& payload, std::string_view address);

/// The same entry with another value in one field; what is no longer stated is left out. Ranges are held by
/// `faults_in`, as with every entry.
[[nodiscard]] Payload with_field(const Payload& payload, std::string_view address, const FieldValue& value);

} // namespace pallix::block
