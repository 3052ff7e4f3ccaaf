// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/unnamed/named_log.h"

#include <algorithm>
#include <set>

namespace pallix::block {

namespace {

/// The log's own words for places, each with ours; nothing where they do not tell every place from every other.
std::optional<std::map<std::string, std::string>> by_labels(const NamedLog& log) {
    std::map<std::string, std::string> ours;
    std::set<std::string> used;
    for (std::size_t i = 0; i < log.groups.size(); ++i) {
        const std::string& label = log.groups[i].label;
        const auto& id = log.named.names[i].id;
        if (label.empty() || !id || !used.insert(id->text()).second)
            return std::nullopt; // without a word, left out, or a place of several sections
        if (!ours.emplace(label, id->text()).second)
            return std::nullopt;
    }
    return ours;
}

} // namespace

bool has_labels(const LogLook& look) {
    return !look.touches.empty() && std::ranges::none_of(look.touches, &std::string::empty, &LooseTouch::label);
}

NamedLog name_log(const LogLook& look, const LogMapping& mapping,
                  const std::map<std::size_t, std::optional<FeatureId>>& pointed, const Blueprint* blueprint) {
    NamedLog log{group_touches(look.touches), {}, mapping};
    std::map<std::size_t, FeatureId> names;
    for (const auto& [at, id] : pointed)
        if (id)
            names.emplace(at, *id);
    log.named = name_touches(log.groups, names, blueprint);
    for (const auto& [at, id] : pointed)
        if (!id && at < log.groups.size())
            log.named.names[at] = {{}, {}, TouchName::Sure::stated, 0};
    if (look.touches.empty())
        return log;
    const std::array<std::string, 3> axes{"x", "y", "z"};
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const LogAxis axis = log.named.axes[i];
        std::string column = look.columns.at(axes[static_cast<std::size_t>(axis.from)]);
        if (axis.turned)
            column = column.starts_with('-') ? column.substr(1) : column.insert(0, 1, '-');
        if (log.named.axes[i] != LogAxis{static_cast<int>(i), false})
            log.mapping.columns[axes[i]] = column;
    }
    // A mapping that names columns leaves none to be found by itself.
    if (!log.mapping.columns.empty())
        log.mapping.columns.insert(look.columns.begin(), look.columns.end());
    log.mapping.program.clear();
    if (const auto labels = by_labels(log)) {
        for (const auto& [theirs, ours] : *labels) {
            std::erase_if(log.mapping.features, [&t = theirs](const auto& f) { return f.first == t; });
            log.mapping.features.emplace_back(theirs, ours);
        }
        return log;
    }
    for (std::size_t i = 0; i < log.groups.size(); ++i) {
        const TouchName& name = log.named.names[i];
        log.mapping.program.push_back({name.id ? name.id->text() : "", name.level, log.groups[i].count});
    }
    return log;
}

NameCheck check_names(const LogLook& look, const LogMapping& mapping, const Blueprint& blueprint) {
    NameCheck check;
    std::vector<std::string> ours; // of each touch; empty where the mapping does not say it of this place alone
    for (const ProgramStep& step : mapping.program)
        ours.insert(ours.end(),
                    std::min(step.touches, look.touches.size() - std::min(ours.size(), look.touches.size())),
                    step.feature);
    if (mapping.program.empty())
        for (const LooseTouch& touch : look.touches) {
            const auto known =
                std::ranges::find(mapping.features, touch.label, &std::pair<std::string, std::string>::first);
            ours.push_back(known == mapping.features.end() ? std::string() : known->second);
        }
    if (ours.size() != look.touches.size() || std::ranges::all_of(ours, &std::string::empty))
        return check;
    const std::vector<TouchGroup> groups = group_touches(look.touches);
    const NamedTouches named = name_touches(groups, {}, &blueprint);
    for (std::size_t i = 0; i < groups.size(); ++i) {
        const TouchName& name = named.names[i];
        if (!name.id || name.sure != TouchName::Sure::sure || ours[groups[i].first].empty())
            continue;
        ++check.found;
        check.agree += ours[groups[i].first] == name.id->text() ? 1 : 0;
    }
    return check;
}

} // namespace pallix::block
