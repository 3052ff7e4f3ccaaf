// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/evaluate_command.h"

#include <CLI/CLI.hpp>
#include <iostream>

namespace {

constexpr int wrong_usage = 2;

} // namespace

int main(int argc, char** argv) {
    using namespace pallix;
    CLI::App app{"pallix-cli: what probe logs say of an engine block, in its datum frame"};
    app.set_version_flag("--version", "pallix-cli " PALLIX_VERSION);
    app.require_subcommand(1);

    cli::EvaluateRequest request;
    std::string unit = "mm", format = "json";
    CLI::App* evaluate = app.add_subcommand("evaluate", "print what the probe logs say of the block");
    evaluate->add_option("--blueprint", request.blueprint_file, "the blueprint, .pallix-blueprint.json")->required();
    evaluate->add_option("--probe", request.probe_files, "a probe log, .csv; may be given several times")
        ->required()
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    evaluate->add_option("--unit", unit, "unit of the lengths printed")->check(CLI::IsMember({"mm", "in"}));
    evaluate->add_option("--format", format, "json, or a table to read")->check(CLI::IsMember({"json", "text"}));

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const bool asked = error.get_exit_code() == 0; // --help, --version
        app.exit(error, std::cout, std::cerr);
        return asked ? 0 : wrong_usage;
    }
    request.unit = *block::unit_from_name(unit);
    request.as_text = format == "text";
    return cli::evaluate(request);
}
