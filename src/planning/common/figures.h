// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "block/fault.h"
#include "block/field_at.h"
#include "block/forward.h"
#include "block/units.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::planning {

/// How a figure is typed and shown.
enum class FigureUnit {
    length,
    roughness, ///< mm within, µm outside
    volume,    ///< mm³ within, cm³ outside
    angle,     ///< rad within, degrees outside
    share,     ///< of 1 within, percent outside
    number,
    choice,
    flag,
    text,
    lengths, ///< a list
    grits,   ///< of a hone plan: "150 stone 0.040; brush 0"
    chain,   ///< of a cam in the head: teeth of both wheels, pitch, distance
};

/// A figure that a plan stands on, with its address: kind of entry, a stroke, field: "pistons/clearance_mm". A star in
/// it stands for the marked bore: "pistons/sizes_mm.*".
struct Figure {
    std::string address;
    FigureUnit unit = FigureUnit::length;
    block::FieldValue value;
};

/// The kind of entry that an address names.
[[nodiscard]] std::string kind_in(std::string_view address);
/// A figure as it is typed in its unit. @param inside mm, mm³, rad, of 1
[[nodiscard]] double outside(FigureUnit unit, double inside);

/// The entry of a kind as it stands in a job, with what is usual where nothing was chosen.
/// @param marked the bore that is spoken of, for figures of one bore
/// @return nothing for kinds that no plan stands on
[[nodiscard]] std::optional<block::Payload> standing(const block::JobState& state, std::string_view kind,
                                                     const std::optional<block::FeatureId>& marked = {});

[[nodiscard]] std::optional<Figure> figure_at(const block::JobState& state, std::string_view address,
                                              const std::optional<block::FeatureId>& marked = {});

/// The entry that another value makes, read as it is typed: shorthand for sizes, "2 µm", degrees, cm³; empty for
/// whatever need not be stated. Ranges are held when the entry is taken.
/// @param sure it was asked about already: a value far from the one that stands is taken
/// @param draft an entry that still lacks figures, instead of the one that stands; may be null
/// @return why it cannot be read, or a question where it can hardly be meant
[[nodiscard]] block::Result<block::Payload> set_figure(const block::JobState& state, std::string_view address,
                                                       const std::optional<block::FeatureId>& marked,
                                                       const std::string& typed, block::Unit bench, bool sure = false,
                                                       const block::Payload* draft = nullptr);
/// Fields without which an entry is no entry, and which nobody has stated yet: of a sleeve, until all of it was
/// measured; why limits are to be others.
[[nodiscard]] std::vector<std::string> still_lacking(const block::Payload& entry);
/// The same for a choice or a flag, by its place.
[[nodiscard]] block::Result<block::Payload> choose_figure(const block::JobState& state, std::string_view address,
                                                          const std::optional<block::FeatureId>& marked,
                                                          std::size_t choice);

/// A single-insert cutter of a size a small mill swings (common practice, no source).
inline constexpr block::CutterFitted usual_cutter{250, 2, 1.2, 250, 0.12, 320, 0.05, false};

} // namespace pallix::planning
