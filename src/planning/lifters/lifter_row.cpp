// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/lifters/lifter_row.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace pallix::planning {

using block::BoreOperation;
using block::FeatureId;
using block::JobState;

std::optional<double> set_to(const block::BoreCut& cut) {
    if (cut.operation == BoreOperation::hone)
        return std::nullopt;
    return cut.setting ? cut.setting : cut.target;
}

namespace {

/// First bore of a row against the last (common practice, no source).
constexpr double tool_holds = block::mm_per_thou / 2;

/// The bores of one row that the single-point tool in hand went through, in the order they were cut.
struct ToolRow {
    std::vector<LifterProgress*> cut;
    bool more_to_come = false; ///< the same tool is still to go through others of the row
};

/// @return nothing where the last tool in that row was no single-point one
std::optional<ToolRow> tool_row(const JobState& state, const std::vector<LifterProgress*>& bank) {
    constexpr double same = 1e-6; // mm
    const auto last_of = [&state](const LifterProgress* p) -> const block::Taken<block::BoreCut>* {
        const block::BoreWork& work = bores_of(state).bore(p->id);
        return work.cuts_now().empty() ? nullptr : &work.cuts.back();
    };
    const block::Taken<block::BoreCut>* newest = nullptr;
    for (const LifterProgress* p : bank)
        if (const auto* last = last_of(p); last && (!newest || last->sequence > newest->sequence))
            newest = last;
    if (!newest || newest->payload.operation != BoreOperation::finish || !set_to(newest->payload))
        return std::nullopt;
    const double set = *set_to(newest->payload);
    ToolRow row;
    for (LifterProgress* p : bank) {
        const auto* last = last_of(p);
        if (last && set_to(last->payload) && std::abs(*set_to(last->payload) - set) < same)
            row.cut.push_back(p);
        else if (p->state == LifterState::to_cut && !p->inside && p->next->to < set + same)
            row.more_to_come = true;
    }
    std::ranges::sort(row.cut, {}, [&](const LifterProgress* p) { return last_of(p)->sequence; });
    return row;
}

} // namespace

std::optional<ToolDrift> compare_rows(const JobState& state, std::vector<LifterProgress>& each) {
    std::map<std::string, std::vector<LifterProgress*>> banks;
    for (LifterProgress& p : each)
        banks[p.id.bank].push_back(&p);
    std::optional<ToolDrift> drift;
    for (const auto& [bank, all] : banks) {
        const auto found = tool_row(state, all);
        if (!found)
            continue;
        const ToolRow& row = *found;
        const auto ask = [](LifterProgress& p) {
            p.compared = true;
            if (p.by_setting) {
                p.state = LifterState::to_measure;
                p.next.reset(); // what comes next its size will tell
            }
            return p.by_setting;
        };
        LifterProgress &first = *row.cut.front(), &last = *row.cut.back();
        if (ask(first) || row.more_to_come || ask(last) || &first == &last)
            continue;
        const auto over = [&state](const LifterProgress& p) {
            return *p.size - *set_to(bores_of(state).bore(p.id).cuts.back().payload);
        };
        const double by = over(last) - over(first);
        if (std::abs(by) <= tool_holds)
            continue;
        bool unknown = false;
        for (LifterProgress* p : row.cut)
            unknown = ask(*p) || unknown;
        if (unknown && !drift)
            drift = ToolDrift{first.id, last.id, by};
    }
    return drift;
}

} // namespace pallix::planning
