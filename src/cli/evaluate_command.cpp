// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/evaluate_command.h"

#include "block/evaluation_uncertainty.h"
#include "metrology/monte_carlo.h"
#include "wording/common/tables.h"

#include <iostream>

namespace pallix::cli {
namespace {

std::optional<block::Uncertainties> uncertainties(const EvaluateRequest& request, const MeasuredBlock& measured) {
    const auto touch = block::touch_uncertainty(measured.probe, measured.evaluation, request.touch_uncertainty);
    if (!touch)
        return std::nullopt;
    metrology::MonteCarloRun run;
    run.trials = request.trials;
    return block::uncertainties_of(measured.blueprint, measured.probe, *touch, run);
}

} // namespace

int evaluate(const EvaluateRequest& request) {
    const auto measured = read_block(request.files);
    if (!measured) {
        print(measured.error());
        return input_is_wrong;
    }
    if (request.as_text) {
        std::cout << wording::evaluation_table(measured->blueprint, measured->evaluation,
                                               wording::LengthText(request.unit));
    } else {
        const auto sure = request.with_uncertainty ? uncertainties(request, *measured) : std::nullopt;
        std::cout << block::evaluation_json(measured->evaluation, request.unit, sure ? &*sure : nullptr);
    }
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
