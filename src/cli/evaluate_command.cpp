// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/evaluate_command.h"

#include "block/evaluation_uncertainty.h"
#include "metrology/monte_carlo.h"
#include "wording/tables.h"

#include <cstdio>
#include <fstream>
#include <iostream>
#include <sstream>

namespace pallix::cli {
namespace {

constexpr int input_is_wrong = 1;

block::Result<block::NamedText> read_file(const std::string& file) {
    std::ifstream in(file, std::ios::binary);
    std::ostringstream text;
    if (in)
        text << in.rdbuf();
    if (!in || in.bad() || text.bad())
        return tl::unexpected(block::Faults{{file, 0, "the file cannot be read", "an existing, readable file"}});
    return block::NamedText{file, text.str()};
}

void print(const block::Faults& faults, const char* prefix = "") {
    for (const block::Fault& fault : faults)
        std::cerr << prefix << fault.text() << '\n';
}

/// Gathers the values of several inputs and the faults of those that failed.
template <class T>
bool take(block::Result<T> result, std::vector<T>& values, block::Faults& faults) {
    if (result)
        values.push_back(std::move(*result));
    else
        faults.insert(faults.end(), result.error().begin(), result.error().end());
    return result.has_value();
}

std::optional<block::Uncertainties> uncertainties(const EvaluateRequest& request, const block::Blueprint& blueprint,
                                                  const block::ProbeSet& probe, const block::Evaluation& evaluation) {
    const auto touch = block::touch_uncertainty(probe, evaluation, request.touch_uncertainty);
    if (!touch)
        return std::nullopt;
    metrology::MonteCarloRun run;
    run.trials = request.trials;
    return block::uncertainties_of(blueprint, probe, *touch, run);
}

} // namespace

int evaluate(const EvaluateRequest& request) {
    block::Faults faults;
    std::vector<block::Blueprint> blueprint;
    std::vector<block::NamedText> logs;
    std::vector<block::NamedText> blueprint_text;
    if (take(read_file(request.blueprint_file), blueprint_text, faults))
        take(block::read_blueprint(blueprint_text.front().text, request.blueprint_file), blueprint, faults);
    for (const std::string& file : request.probe_files)
        take(read_file(file), logs, faults);
    if (!faults.empty()) {
        print(faults);
        return input_is_wrong;
    }
    const auto probe = block::read_probe_logs(logs, blueprint.front());
    if (!probe) {
        print(probe.error());
        return input_is_wrong;
    }
    const auto evaluation = block::evaluate(blueprint.front(), *probe);
    if (!evaluation) {
        print(evaluation.error());
        return input_is_wrong;
    }
    print(probe->warnings, "warning: ");
    const auto sure = request.with_uncertainty ? uncertainties(request, blueprint.front(), *probe, *evaluation)
                                               : std::optional<block::Uncertainties>();
    std::cout << (request.as_text
                      ? wording::evaluation_table(blueprint.front(), *evaluation, wording::LengthText(request.unit))
                      : block::evaluation_json(*evaluation, request.unit, sure ? &*sure : nullptr));
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
