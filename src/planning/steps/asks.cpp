// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading_text.h"
#include "block/shorthand.h"
#include "planning/steps/answer.h"

namespace pallix::planning {

using namespace block;

Answers proposed(const Step& step) {
    Answers answers;
    for (const Ask& ask : step.asks)
        if (ask.proposed && ask.kind == AskKind::tick)
            answers[ask.key] = *ask.proposed != 0;
        else if (ask.proposed && ask.kind == AskKind::choice)
            answers[ask.key] = ask.choices[static_cast<std::size_t>(*ask.proposed)];
        else if (ask.proposed)
            answers[ask.key] = *ask.proposed;
    return answers;
}

tl::expected<std::optional<double>, std::string> read_ask(const Ask& ask, const std::string& typed, Unit bench) {
    constexpr double smallest_size = 5, believable = 2, mm3_per_cm3 = 1000; // mm
    if (typed.find_first_not_of(' ') == std::string::npos)
        return std::optional<double>();
    if (ask.kind == AskKind::length && ask.proposed && *ask.proposed >= smallest_size) {
        const auto read = read_shorthand(typed, {*ask.proposed, believable, bench});
        if (!read)
            return tl::unexpected(read.error());
        if (read->suspicion == Suspicion::ten_times || read->suspicion == Suspicion::one_turn)
            return tl::unexpected("\"" + typed + "\" is far from what is called for");
        return std::optional(read->value);
    }
    if (ask.kind == AskKind::length)
        return read_length(typed, bench).map([](double mm) { return std::optional(mm); });
    const auto number = read_number(typed, {"%", "µm", "cm³", "°", "°c", "c"});
    if (!number)
        return tl::unexpected(number.error());
    const double value = ask.key.ends_with("_mm3") ? *number * mm3_per_cm3 : *number;
    const bool temperature = ask.key.ends_with("_c");
    if (temperature && ((ask.least && value < *ask.least) || (ask.most && value > *ask.most)))
        return tl::unexpected("\"" + typed + "\" is no temperature of a block: −40 to 120 °C");
    return std::optional(value);
}

} // namespace pallix::planning
