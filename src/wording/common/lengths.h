// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"

#include <string>

namespace pallix::wording {

/// The one formatter of lengths people see: inch with four decimals, mm with three, a real minus sign.
class LengthText {
  public:
    explicit LengthText(block::Unit unit) : unit_(unit) {}

    block::Unit unit() const { return unit_; }
    std::string unit_name() const;

    /// "8.4646", "215.003"
    [[nodiscard]] std::string plain(double mm) const;
    /// "+0.0008", "−0.020"; "0.0000" has no sign
    [[nodiscard]] std::string with_sign(double mm) const;
    /// "0.0065 in", "0.165 mm"
    [[nodiscard]] std::string with_unit(double mm) const;
    /// as above, signed
    [[nodiscard]] std::string signed_with_unit(double mm) const;
    /// The word of its side in place of a sign: "0.0010 over", "0.020 below"; "0.0000" has neither.
    [[nodiscard]] std::string side(double mm, const std::string& more, const std::string& less) const;
    /// "0.0010 in over"
    [[nodiscard]] std::string side_with_unit(double mm, const std::string& more, const std::string& less) const;
    /// one more decimal, for uncertainties: "0.00008 in", "0.0020 mm"
    [[nodiscard]] std::string fine(double mm) const;

  private:
    [[nodiscard]] std::string word(double mm, const std::string& more, const std::string& less) const;
    int decimals() const { return unit_ == block::Unit::inch ? 4 : 3; }
    block::Unit unit_;
};

/// From here on numbers for people have a decimal comma, or a point; files and lines keep their point. Kept where the
/// standard library keeps it, in the locale of the process.
void show_decimal_comma(bool comma);
[[nodiscard]] char decimal_sign(); ///< of numbers for people

/// A number with fixed decimals and a real minus sign, "−0" shown as "0".
[[nodiscard]] std::string fixed(double value, int decimals);

} // namespace pallix::wording
