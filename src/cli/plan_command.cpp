// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/plan_command.h"

#include "planning/common/correction_plan.h"
#include "wording/common/tables.h"

#include <iostream>

namespace pallix::cli {

int plan(const PlanRequest& request) {
    const auto measured = read_block(request.files);
    if (!measured) {
        print(measured.error());
        return input_is_wrong;
    }
    planning::PlanPolicy policy;
    if (!request.policy.empty()) {
        const auto read = read_file(request.policy).and_then([&](const block::NamedText& text) {
            return planning::read_policy(text.text, text.file, measured->blueprint);
        });
        if (!read) {
            print(read.error());
            return input_is_wrong;
        }
        policy = *read;
    }
    const planning::CorrectionPlan plan = planning::plan_corrections(measured->blueprint, measured->evaluation, policy);
    std::cout << (request.as_text
                      ? wording::plan_table(measured->blueprint, plan, wording::LengthText(measured->blueprint.unit))
                      : planning::plan_json(plan));
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
