// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"
#include "planning/steps/answer.h"
#include "planning/steps/refused.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace pallix::planning {

/// What was answered to a step, each as its ask wants it. What is missing, of another kind or out of range is refused
/// by its name.
class Given {
  public:
    Given(const Step& step, const Answers& answers) : step_(step), answers_(answers) {}

  protected:
    [[noreturn]] void elsewhere(const char* how) const {
        throw Refused{{"job", 0, step_.id + " is not answered here", how}};
    }

    /// A length or count that need not be stated; held to its range where it is.
    std::optional<double> if_given(const std::string& key) const {
        return answers_.contains(key) ? std::optional(number(key)) : std::nullopt;
    }
    std::string words_if(const std::string& key) const { return given<std::string>(key).value_or(""); }
    bool is_ticked(const std::string& key) const { return given<bool>(key).value_or(false); }
    std::vector<metrology::Vec2> places(const std::string& key) const {
        return given<std::vector<metrology::Vec2>>(key).value_or(std::vector<metrology::Vec2>());
    }
    template <class Value>
    std::optional<Value> given(const std::string& key) const {
        const auto found = answers_.find(key);
        if (found == answers_.end())
            return std::nullopt;
        const auto* value = std::get_if<Value>(&found->second);
        if (!value)
            throw Refused{{"job", 0, step_.id + ": " + key + " is of another kind", "what the step asks for"}};
        return *value;
    }
    double number(const std::string& key) const {
        const auto value = given<double>(key);
        const auto ask = std::ranges::find(step_.asks, key, &Ask::key);
        if (!value)
            throw Refused{{"job", 0, step_.id + ": " + key + " is missing", "a number"}};
        const bool asked = ask != step_.asks.end();
        if (!std::isfinite(*value) || (asked && ask->least && *value < *ask->least) ||
            (asked && ask->most && *value > *ask->most))
            throw Refused{{"job", 0, step_.id + ": " + key + " is " + std::to_string(*value),
                           asked && ask->least && ask->most
                               ? std::to_string(*ask->least) + " to " + std::to_string(*ask->most)
                               : "a number that can be"}};
        return *value;
    }
    std::string words(const std::string& key) const {
        const auto value = given<std::string>(key);
        if (!value || value->empty())
            throw Refused{{"job", 0, step_.id + ": " + key + " is missing", "words"}};
        return *value;
    }
    void ticked(const std::string& key) const {
        if (!given<bool>(key).value_or(false))
            throw Refused{{"job", 0, step_.id + ": " + key + " is not ticked", "done, or another step"}};
    }
    /// Of choices that are some of an enumeration's.
    template <class Enum, class Keys>
    Enum choice(const std::string& key, const Keys& keys) const {
        static_cast<void>(choice<Enum>(key)); // one of those offered
        return static_cast<Enum>(std::ranges::find(keys, words(key)) - keys.begin());
    }
    template <class Enum>
    Enum choice(const std::string& key) const {
        const std::string value = words(key);
        const auto ask = std::ranges::find(step_.asks, key, &Ask::key);
        if (ask != step_.asks.end())
            if (const auto i = std::ranges::find(ask->choices, value); i != ask->choices.end())
                return static_cast<Enum>(i - ask->choices.begin());
        throw Refused{{"job", 0, step_.id + ": " + key + " is \"" + value + "\"", "one of the choices"}};
    }

    const Step& step_;
    const Answers& answers_;
};

} // namespace pallix::planning
