// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/manual/manual_places.h"

#include "wording/common/pick.h"

namespace pallix::wording {
namespace {

constexpr std::array second_keys{"stands_out", "too_large", "sets_size", "twisted", "near_limit", "between", "learner"};
static_assert(second_keys.size() == static_cast<std::size_t>(planning::SecondLook::learner) + 1);
constexpr std::array suspicion_keys{"none", "ten_times",     "other_unit",       "one_turn",
                                    "far",  "unlike_repeat", "unlike_neighbours"};
static_assert(suspicion_keys.size() == static_cast<std::size_t>(block::Suspicion::unlike_neighbours) + 1);
constexpr std::array zero_keys{"old", "warmed", "drifted", "repaired", "taken"};
static_assert(zero_keys.size() == static_cast<std::size_t>(planning::ZeroDoubted::taken) + 1);

} // namespace

std::string manual_place(planning::Task task) {
    return "step-" + pick(task, planning::task_keys);
}
std::string manual_place(planning::StepKind kind) {
    return "kind-" + pick(kind, planning::step_kind_keys);
}
std::string manual_place(block::Rule rule) {
    return "rule-" + pick(rule, block::rule_keys);
}
std::string manual_place(planning::SecondLook why) {
    return "second-" + pick(why, second_keys);
}
std::string manual_place(block::Suspicion why) {
    return "doubt-" + pick(why, suspicion_keys);
}
std::string manual_place(planning::ZeroDoubted why) {
    return "zero-" + pick(why, zero_keys);
}
std::string manual_place(planning::BlueprintDoubtKind doubt) {
    return "blueprint-" + pick(doubt, planning::blueprint_doubt_keys);
}
std::string manual_place(planning::RemarkKind remark) {
    return "remark-" + pick(remark, planning::remark_keys);
}

} // namespace pallix::wording
