// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/intake_state.h"
#include "wording/common/sentences.h"

#include <array>
#include <cctype>
#include <string>

namespace pallix::wording {

// What sentences are put together with.

inline const block::BankBlueprint& bank_of(const block::JobState& state, const std::string& id) {
    return *intake_of(state).blueprint->bank(id);
}

inline std::string capitalised(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

inline std::string lowered(std::string text) {
    if (!text.empty())
        text[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(text[0])));
    return text;
}

/// "the right bank", "the deck"
inline std::string the_bank(const block::JobState& state, const std::string& id) {
    return "the " + bank_name(bank_of(state, id));
}

inline std::string count_words(std::size_t n, const std::string& one, const std::string& many) {
    constexpr std::array small{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"};
    return (n < small.size() ? small[n] : std::to_string(n)) + " " + (n == 1 ? one : many);
}

} // namespace pallix::wording
