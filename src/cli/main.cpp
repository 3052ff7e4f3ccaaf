// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/evaluate_command.h"
#include "cli/plan_command.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <cmath>
#include <iostream>
#include <optional>

namespace {

constexpr int wrong_usage = 2;

/// A length greater than 0; nothing for any other text.
std::optional<double> length_of(const std::string& text) {
    double length = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), length);
    return error == std::errc() && end == text.data() + text.size() && std::isfinite(length) && length > 0
               ? std::optional(length)
               : std::nullopt;
}

void add_block_files(CLI::App& command, pallix::cli::BlockFiles& files) {
    command.add_option("--blueprint", files.blueprint, "the blueprint, .pallix-blueprint.json")->required();
    command.add_option("--probe", files.probes, "a probe log, .csv; may be given several times")
        ->required()
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
}

} // namespace

int main(int argc, char** argv) {
    using namespace pallix;
    CLI::App app{"pallix-cli: what probe logs say of an engine block, and what to cut"};
    app.set_version_flag("--version", "pallix-cli " PALLIX_VERSION);
    app.require_subcommand(1);

    cli::EvaluateRequest request;
    std::string unit = "mm", format = "json";
    CLI::App* evaluate = app.add_subcommand("evaluate", "print what the probe logs say of the block");
    add_block_files(*evaluate, request.files);
    evaluate->add_option("--unit", unit, "unit of the lengths printed")->check(CLI::IsMember({"mm", "in"}));
    evaluate->add_option("--format", format, "json, or a table to read")->check(CLI::IsMember({"json", "text"}));
    std::string uncertainty = "auto";
    evaluate
        ->add_option("--uncertainty", uncertainty,
                     "auto: standard uncertainties from what the logs state of a touch, or from the scatter about the "
                     "circles; off: none; or a touch's standard uncertainty in the unit of --unit")
        ->check([](const std::string& text) {
            return text == "auto" || text == "off" || length_of(text) ? "" : "auto, off or a length greater than 0";
        });
    evaluate->add_option("--trials", request.trials, "draws behind the uncertainty of zones and extremes")
        ->check(CLI::Range(10, 1'000'000));

    cli::PlanRequest plan_request;
    std::string plan_format = "json";
    CLI::App* plan = app.add_subcommand("plan", "print what to cut: tunnel, decks, cylinders");
    add_block_files(*plan, plan_request.files);
    plan->add_option("--policy", plan_request.policy, "what to plan by, .json; the usual policy without it");
    plan->add_option("--format", plan_format, "json, or tables to read")->check(CLI::IsMember({"json", "text"}));

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const bool asked = error.get_exit_code() == 0; // --help, --version
        app.exit(error, std::cout, std::cerr);
        return asked ? 0 : wrong_usage;
    }
    if (plan->parsed()) {
        plan_request.as_text = plan_format == "text";
        return cli::plan(plan_request);
    }
    request.unit = *block::unit_from_name(unit);
    request.with_uncertainty = uncertainty != "off";
    if (const auto length = length_of(uncertainty))
        request.touch_uncertainty = *length * block::mm_per(request.unit);
    request.as_text = format == "text";
    return cli::evaluate(request);
}
