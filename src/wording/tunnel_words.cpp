// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/tunnel_words.h"

#include "wording/lengths.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <set>

namespace pallix::wording {

using planning::BindingPoint;
using planning::TunnelPlan;

std::string clock_words(double clock) {
    const int hour = static_cast<int>(std::lround(clock * 6 / std::numbers::pi));
    return std::to_string((hour + 11 + 12) % 12 + 1) + " o'clock";
}

std::string binding_words(const BindingPoint& point) {
    return "main " + std::to_string(point.id.number) + "'s " + (point.cap ? "cap" : "saddle") + " at " +
           clock_words(point.clock);
}

std::string limit_name(planning::TunnelLimit limit) {
    constexpr std::array names{"a larger finished size", "more cap cut", "more rise", "more side step"};
    return names[static_cast<std::size_t>(limit)];
}

namespace {

std::string join(const std::vector<std::string>& parts, const char* last) {
    std::string out;
    for (std::size_t i = 0; i < parts.size(); ++i)
        out += (i == 0 ? "" : i + 1 == parts.size() ? last : ", ") + parts[i];
    return out;
}

/// Saddles set the line, caps follow it: each named once.
std::string why(const TunnelPlan& plan) {
    std::vector<std::string> saddles, caps;
    std::set<std::string> said;
    for (const BindingPoint& b : plan.binding) {
        const std::string words = binding_words(b);
        if (said.insert(words).second)
            (b.cap ? caps : saddles).push_back(words);
    }
    if (saddles.empty() && caps.empty())
        return "";
    constexpr std::size_t most = 4;
    if (caps.size() > most) {
        caps.resize(most);
        caps.emplace_back("others");
    }
    if (saddles.empty())
        return "Set by " + join(caps, " and ") + ".";
    return "Set by " + join(saddles, " and ") + (caps.empty() ? "." : "; " + join(caps, " and ") + " follow.");
}

} // namespace

std::vector<std::string> tunnel_plan_sentences(const TunnelPlan& plan, const LengthText& l) {
    std::vector<std::string> out;
    if (!plan.feasible) {
        out.push_back("No cap cutting within the limits gives a straight, round tunnel in size.");
        out.push_back(plan.short_by ? "It is short by " + l.with_unit(*plan.short_by) + " of radius."
                                    : std::string("No finished size would mend it: the line breaks a limit."));
        std::vector<std::string> ways;
        for (const auto limit : plan.limits_to_give)
            ways.push_back(limit_name(limit));
        out.push_back(ways.empty() ? "No single limit, loosened, would do: another line, or repaired caps."
                                   : "Any one of these would do: " + join(ways, " or ") + ".");
        return out;
    }
    const bool hone = plan.method == block::TunnelMethod::hone;
    out.push_back(plan.max_cap_cut > 0
                      ? "Cut caps by up to " + l.with_unit(plan.max_cap_cut) +
                            (hone ? ", then line hone." : ", then line bore.")
                      : std::string(hone ? "No cap needs cutting: line hone." : "No cap needs cutting: line bore."));
    out.push_back(std::abs(plan.rise) < 5e-4 ? "The centre line stays where it is."
                                             : "The centre line moves " + l.with_unit(std::abs(plan.rise)) +
                                                   (plan.rise > 0 ? " towards the cam." : " away from the cam."));
    if (const std::string reason = why(plan); !reason.empty())
        out.push_back(reason);
    return out;
}

std::string roll_sentence(double roll) {
    return "The line moves sideways, so a later measurement clocked by the cam will read turned by " +
           fixed(std::abs(roll) * 180 / std::numbers::pi, 4) + "°: deck and bore positions then read differently.";
}

} // namespace pallix::wording
