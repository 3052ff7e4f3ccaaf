// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/fields.h"

#include "block/number_text.h"
#include "block/utf8.h"

#include <algorithm>

namespace pallix::block {

std::string FieldFault::text() const {
    return (field.empty() ? what : field + " " + what) + (expected.empty() ? "" : ", expected " + expected);
}

std::string FieldFault::said() const {
    struct Suffix {
        std::string_view key, unit;
    };
    constexpr std::array<Suffix, 6> suffixes{{{"_mm3", "mm³"},
                                              {"_mm", "mm"},
                                              {"_rad", "rad"},
                                              {"_percent", "%"},
                                              {"_m_min", "m/min"},
                                              {"_rev_min", "rev/min"}}};
    FieldFault plain = *this;
    std::string unit;
    for (const Suffix& suffix : suffixes)
        if (const auto at = plain.field.find(suffix.key); at != std::string::npos && unit.empty()) {
            plain.field.erase(at, suffix.key.size());
            unit = " (" + std::string(suffix.unit) + ")";
        }
    std::ranges::replace(plain.field, '_', ' ');
    return plain.text() + unit;
}

std::string Range::text() const {
    return above ? "greater than " + short_number(least) + ", at most " + short_number(most)
                 : short_number(least) + " to " + short_number(most);
}

std::string FaultFinder::address(Key key) const {
    std::string address;
    const auto join = [&address](std::string_view step) {
        if (!step.empty())
            address += (address.empty() || step.front() == '[' ? "" : ".") + std::string(step);
    };
    for (const std::string& step : path_)
        join(step);
    join(key);
    return address;
}

void FaultFinder::fault(Key key, std::string what, std::string expected) {
    if (faults_.size() < most_faults)
        faults_.push_back({address(key), std::move(what), std::move(expected)});
}

void FaultFinder::demand(bool holds, Key key, std::string_view what, std::string_view expected) {
    if (!holds && faults_.empty()) // what could not be read by itself is not held against the rest
        fault(key, std::string(what), std::string(expected));
}

void FaultFinder::hold(Key key, double value, Range range) {
    if (!range.holds(value))
        fault(key, "is " + short_number(value), range.text());
}

void FaultFinder::hold(Key key, const std::string& text, std::size_t most) {
    if (text.size() > most)
        fault(key, "has " + std::to_string(text.size()) + " bytes", "at most " + std::to_string(most));
    else if (const std::size_t at = first_not_utf8(text); at != std::string_view::npos)
        fault(key, "is no UTF-8 text from byte " + std::to_string(at + 1) + " on", "UTF-8");
}

void FaultFinder::hold(Key key, std::size_t size, Count count) {
    if (size < count.least || size > count.most)
        fault(key, "has " + std::to_string(size) + (size == 1 ? " item" : " items"),
              count.least == count.most ? std::to_string(count.least)
                                        : std::to_string(count.least) + " to " + std::to_string(count.most));
}

void FaultFinder::hold(Key key, const FeatureId& id, std::initializer_list<FeatureKind> kinds) {
    if (kinds.size() == 0 || std::ranges::find(kinds, id.kind) != kinds.end())
        return;
    std::string list;
    for (const FeatureKind kind : kinds)
        list += (list.empty() ? "a " : " or ") + std::string(kind_name(kind));
    fault(key, "is " + id.text(), list);
}

void Checker::place(Key key, metrology::Vec2& value) {
    hold(key, value.x, any_length);
    hold(key, value.y, any_length);
}

void Checker::name(Key key, std::size_t& index, std::span<const char* const> names) {
    if (index >= names.size())
        fault(key, "is the choice of number " + std::to_string(index), "one of " + std::to_string(names.size()));
}

std::size_t Checker::begin_list(Key key, std::size_t size, Count count) {
    hold(key, size, count);
    path_.emplace_back(key);
    return size;
}

std::vector<std::string> Checker::begin_map(Key key, std::vector<std::string> keys, Count count) {
    hold(key, keys.size(), count);
    path_.emplace_back(key);
    return keys;
}

} // namespace pallix::block
