// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/lengths.h"

#include "block/number_text.h"

#include <algorithm>
#include <cmath>
#include <locale>

namespace pallix::wording {

namespace {

/// A comma where the program was told that people here write one.
class CommaHere : public std::numpunct<char> {
    char do_decimal_point() const override { return ','; }
};

} // namespace

void show_decimal_comma(bool comma) {
    std::locale::global(comma ? std::locale(std::locale::classic(), new CommaHere) : std::locale::classic());
}

char decimal_sign() {
    return std::use_facet<std::numpunct<char>>(std::locale()).decimal_point();
}

std::string fixed(double value, int decimals) {
    std::string text = block::fixed_number(value, decimals);
    std::ranges::replace(text, '.', decimal_sign());
    if (!text.starts_with('-'))
        return text;
    const bool zero = text.find_first_of("123456789") == std::string::npos;
    return (zero ? "" : "−") + text.substr(1);
}

std::string LengthText::unit_name() const {
    return std::string(block::unit_name(unit_));
}

std::string LengthText::plain(double mm) const {
    return fixed(mm / block::mm_per(unit_), decimals());
}

std::string LengthText::with_sign(double mm) const {
    const std::string text = plain(mm);
    const bool zero = text.find_first_of("123456789") == std::string::npos;
    return (mm > 0 && !zero ? "+" : "") + text;
}

std::string LengthText::with_unit(double mm) const {
    return plain(mm) + " " + unit_name();
}

std::string LengthText::signed_with_unit(double mm) const {
    return with_sign(mm) + " " + unit_name();
}

std::string LengthText::word(double mm, const std::string& more, const std::string& less) const {
    return plain(mm) == plain(0) ? "" : " " + (mm > 0 ? more : less);
}

std::string LengthText::side(double mm, const std::string& more, const std::string& less) const {
    return plain(std::abs(mm)) + word(mm, more, less);
}

std::string LengthText::side_with_unit(double mm, const std::string& more, const std::string& less) const {
    return with_unit(std::abs(mm)) + word(mm, more, less);
}

std::string LengthText::fine(double mm) const {
    return fixed(mm / block::mm_per(unit_), decimals() + 1) + " " + unit_name();
}

} // namespace pallix::wording
