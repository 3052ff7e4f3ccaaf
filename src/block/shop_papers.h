// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "metrology/geometry.h"

#include <array>
#include <cstddef>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// How a block stands in a machine: which of its axes each way of the block lies along, and how it is turned.
struct MachineAxes {
    std::string machine; ///< "boring mill"
    /// 0 to 2 for X to Z: to the rear (+u), across (+v), up from the deck (+w).
    std::array<std::size_t, 3> axis{0, 1, 2};
    std::array<int, 3> sign{1, 1, 1};
    double turn = 0; ///< rad, right-handed about the machine's axis that up lies along, in the axis' own direction
    bool operator==(const MachineAxes&) const = default;
};
/// @param place (u, v, w) from the origin, mm
/// @return (X, Y, Z), mm
[[nodiscard]] metrology::Vec3 in_machine(const MachineAxes& axes, metrology::Vec3 place);
/// "X -Y -Z turn 12.5": along, across, up; the turn in degrees is left out where there is none.
[[nodiscard]] std::string axes_text(const MachineAxes& axes);
/// @return the fault where it is none, or would mirror the block
[[nodiscard]] Result<MachineAxes> read_axes(const std::string& machine, std::string_view text);

/// What a shop's engraver can do.
struct Engraver {
    std::size_t most = 24; ///< letters on one line
    std::string letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-./ ";
    bool operator==(const Engraver&) const = default;
};
/// What is to be engraved, in letters that the engraver can do: small ones become capitals where it has no small ones.
/// @return the fault where a letter is none of its own, or the line is too long
[[nodiscard]] Result<std::string> engraved(const Engraver& engraver, std::string_view line);

/// The size of a label, mm.
struct LabelSize {
    double width = 62, height = 29;
    bool operator==(const LabelSize&) const = default;
};
/// Sizes that labels are commonly sold in.
[[nodiscard]] const std::vector<LabelSize>& common_labels();
[[nodiscard]] std::string label_text(const LabelSize& label); ///< "62 x 29"
/// "62 x 29", "4 x 2 in"
[[nodiscard]] Result<LabelSize> read_label(std::string_view text);

/// What a shop's papers, marks and machines are like.
struct ShopPapers {
    std::string shop;                          ///< its name as papers have it
    std::string serial_pattern = "{yy}-{nnn}"; ///< {yyyy} or {yy} for the year, {n}, {nn}, … for the number
    std::string engraving = "{serial}";        ///< {serial}, {bore}, {main}, {deck}
    Engraver engraver;
    LabelSize label;
    std::vector<MachineAxes> machines;
    bool operator==(const ShopPapers&) const = default;

    [[nodiscard]] const MachineAxes* machine(std::string_view name) const;
};
/// A `.pallix-shop.json`.
[[nodiscard]] std::string shop_papers_text(const ShopPapers& papers);
[[nodiscard]] Result<ShopPapers> read_shop_papers(std::string_view text, const std::string& file);
/// What makes it unusable, its serial pattern among it; nothing where it is sound.
[[nodiscard]] std::optional<Fault> fault_of(const ShopPapers& papers);

/// The next serial by a pattern: one more than the largest number given in that year.
/// @param day "2026-03-05"; @param given all serials of the shop; those of other patterns count for nothing
[[nodiscard]] std::string next_serial(const std::string& pattern, const std::string& day,
                                      const std::vector<std::string>& given);
/// What the code on a paper begins with.
inline constexpr std::string_view serial_mark = "serial ";
/// The serial that a text names: the text itself, or what a scanner types of the code on a paper (docs/formats.md).
[[nodiscard]] std::string serial_in(std::string_view scanned);

} // namespace pallix::block
