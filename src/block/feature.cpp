// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/feature.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <vector>

namespace pallix::block {
namespace {

struct Shape {
    FeatureKind kind;
    std::string_view word;
    bool has_bank;
    bool has_number;
};

constexpr std::array<Shape, 7> shapes{{
    {FeatureKind::main, "main", false, true},
    {FeatureKind::cam, "cam", false, true},
    {FeatureKind::dowel, "dowel", true, true},
    {FeatureKind::deck, "deck", true, false},
    {FeatureKind::bore, "bore", true, true},
    {FeatureKind::lifter, "lifter", true, true},
    {FeatureKind::panrail, "panrail", false, false},
}};

std::vector<std::string_view> split(std::string_view text) {
    std::vector<std::string_view> parts;
    while (true) {
        const std::size_t dot = text.find('.');
        parts.push_back(text.substr(0, dot));
        if (dot == std::string_view::npos)
            return parts;
        text.remove_prefix(dot + 1);
    }
}

std::optional<int> parse_number(std::string_view text) {
    int number = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (error != std::errc{} || end != text.data() + text.size() || number < 1 || text.front() == '0')
        return std::nullopt;
    return number;
}

} // namespace

std::string_view kind_name(FeatureKind kind) {
    return std::ranges::find(shapes, kind, &Shape::kind)->word;
}

std::string FeatureId::text() const {
    const auto shape = std::ranges::find(shapes, kind, &Shape::kind);
    std::string name(shape->word);
    if (shape->has_bank)
        name += "." + bank;
    if (shape->has_number)
        name += "." + std::to_string(number);
    return name;
}

std::optional<FeatureId> FeatureId::parse(std::string_view name) {
    const auto parts = split(name);
    const auto shape = std::ranges::find(shapes, parts.front(), &Shape::word);
    if (shape == shapes.end() || parts.size() != 1U + (shape->has_bank ? 1U : 0U) + (shape->has_number ? 1U : 0U))
        return std::nullopt;
    FeatureId id{shape->kind, {}, 0};
    if (shape->has_bank) {
        if (parts[1].empty())
            return std::nullopt;
        id.bank = parts[1];
    }
    if (shape->has_number) {
        const auto number = parse_number(parts.back());
        if (!number)
            return std::nullopt;
        id.number = *number;
    }
    return id;
}

} // namespace pallix::block
