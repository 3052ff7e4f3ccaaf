// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/blueprint_command.h"
#include "cli/book_commands.h"
#include "cli/check_command.h"
#include "cli/convert_command.h"
#include "cli/evaluate_command.h"
#include "cli/next_command.h"
#include "cli/plan_command.h"
#include "cli/report_command.h"
#include "reporting/report.h"

#include <CLI/CLI.hpp>
#include <QGuiApplication>
#include <algorithm>
#include <cctype>
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

    cli::NextRequest next_request;
    std::string next_format = "json";
    CLI::App* next =
        app.add_subcommand("next", "print what comes next in a job: its steps, and the one that is called");
    next->add_option("--job", next_request.job, "the job, .pallix.json")->required();
    next->add_option("--at", next_request.at, "the time of asking, UTC (2026-03-05T14:30:00Z); now without it")
        ->check([](const std::string& text) {
            return cli::is_utc(text) ? "" : "a time in UTC such as 2026-03-05T14:30:00Z";
        });
    next->add_flag("--all", next_request.all, "also what is done, skipped and stale");
    next->add_option("--format", next_format, "json, or lines to read")->check(CLI::IsMember({"json", "text"}));

    cli::CheckRequest check_request;
    CLI::App* check_paper =
        app.add_subcommand("check", "tell whether a paper belongs to an unaltered ledger, or print a ledger's digest");
    cli::BookRequest book_request;
    auto* checked_book =
        check_paper->add_option("--book", book_request.book, "a shop book: whether it is as it was written");
    check_paper->add_option("--job", check_request.job, "the job, .pallix.json")->excludes(checked_book);
    check_paper
        ->add_option("--digest", check_request.digest,
                     "the paper's digest; twelve digits from its beginning are enough")
        ->check([](const std::string& text) {
            const auto digits = std::ranges::count_if(text, [](unsigned char c) { return std::isxdigit(c) != 0; });
            const auto blanks = std::ranges::count(text, ' ');
            return digits >= 12 && digits <= 64 && digits + blanks == static_cast<std::ptrdiff_t>(text.size())
                       ? ""
                       : "12 to 64 hexadecimal digits";
        });

    cli::ReportRequest report_request;
    std::string report_unit = "mm";
    CLI::App* report = app.add_subcommand("report", "write papers of one job or of many");
    report
        ->add_option("--job", report_request.jobs,
                     "a job, .pallix.json; with --book a title, serial or number; may be given several times")
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    auto* report_book = report->add_option("--book", report_request.book, "the shop book that the jobs stand in");
    report->add_flag("--all", report_request.all, "every job of the book")->needs(report_book);
    report->add_option("--kind", report_request.kind, "which paper")
        ->required()
        ->check(CLI::IsMember(std::vector<std::string>(reporting::paper_keys.begin(), reporting::paper_keys.end())));
    report
        ->add_option("--out", report_request.out,
                     "the file; its suffix says the form; {job} in it stands for each job's serial or title")
        ->required();
    report->add_option("--paper", report_request.paper, "a4 or letter; as is usual here without it")
        ->check(CLI::IsMember({"a4", "letter"}));
    report->add_option("--unit", report_unit, "unit of the lengths printed")->check(CLI::IsMember({"mm", "in"}));
    report->add_option("--shop", report_request.shop, "how the shop's papers are, .pallix-shop.json");
    report->add_option("--machine", report_request.machine, "whose axes coordinates go by");
    report->add_option("--label", report_request.label, "size of a label, such as \"62 x 29\"");
    report->add_option("--at", report_request.at, "the time of printing, UTC; now without it")
        ->check([](const std::string& text) {
            return cli::is_utc(text) ? "" : "a time in UTC such as 2026-03-05T14:30:00Z";
        });
    report->footer("example: pallix-cli report --book shop.pallix --all --kind passport --out papers/{job}.pdf\n"
                   "         pallix-cli report --job ferry.pallix.json --kind coordinates --out ferry.dxf");

    std::string jobs_format = "text";
    CLI::App* jobs = app.add_subcommand("jobs", "list the jobs of a shop book");
    jobs->add_option("--book", book_request.book, "the shop book")->required();
    jobs->add_option("--format", jobs_format, "lines to read, or json")->check(CLI::IsMember({"json", "text"}));
    CLI::App* export_all = app.add_subcommand("export", "write jobs of a shop book as .pallix.json");
    export_all->add_option("--book", book_request.book, "the shop book")->required();
    export_all->add_option("--job", book_request.jobs, "a title, serial or number; all without it")
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    export_all->add_option("--out", book_request.out, "the folder")->required();
    CLI::App* backup = app.add_subcommand("backup", "copy a shop book, and read the copy again");
    backup->add_option("--book", book_request.book, "the shop book")->required();
    backup->add_option("--out", book_request.out, "the copy")->required();

    cli::ConvertRequest convert_request;
    CLI::App* convert = app.add_subcommand("convert", "print a shop's own probe log as one that Pallix reads");
    convert->add_option("log", convert_request.log, "the log; - for standard input")->required();
    const auto add_log_reading = [](CLI::App* command, cli::LogReading& reading) {
        command->add_option("--mapping", reading.mapping, "how the log is to be read, .pallix-mapping.json");
        command->add_flag("--by-shape", reading.by_shape,
                          "name touches that have no names by the shape of blocks in general");
    };
    add_log_reading(convert, convert_request.reading);
    convert->add_option("--blueprint", convert_request.reading.blueprint,
                        "name touches that have no names by where this block's places lie");
    convert->add_flag("--suggest", convert_request.suggest,
                      "print the mapping by which it is read, to be looked over and kept, not the log");
    convert->footer("example: pallix-cli convert --mapping ours.pallix-mapping.json deck.txt > deck.csv\n"
                    "         pallix-cli convert --blueprint four.pallix-blueprint.json --suggest run.txt > "
                    "ours.pallix-mapping.json");

    cli::BlueprintRequest blueprint_request;
    std::string blueprint_unit = "mm";
    CLI::App* blueprint = app.add_subcommand("blueprint", "draw a blueprint from a recipe, or look one over");
    blueprint->require_subcommand(1);
    CLI::App* draw = blueprint->add_subcommand("new", "print the blueprint that a recipe makes");
    draw->add_option("--recipe", blueprint_request.file, "the recipe, .pallix-recipe.json; - for standard input")
        ->required();
    draw->footer("example: pallix-cli blueprint new --recipe four.pallix-recipe.json > four.pallix-blueprint.json");
    CLI::App* check = blueprint->add_subcommand("check", "say what a blueprint has, leaves out, and what looks wrong");
    check->add_option("--blueprint", blueprint_request.file, "a blueprint or a recipe; - for standard input")
        ->required();
    check->add_option("--unit", blueprint_unit, "unit of the lengths printed")->check(CLI::IsMember({"mm", "in"}));
    check->footer("example: pallix-cli blueprint check --blueprint four.pallix-blueprint.json --unit in");

    std::string table_file, table_base;
    CLI::App* from_table =
        blueprint->add_subcommand("from-table", "print the recipe that a table of figures or holes makes");
    from_table->add_option("table", table_file, "XLSX, ODS, CSV or TSV; - for standard input")->required();
    from_table->add_option("--onto", table_base, "an engine, recipe or blueprint whose figures stand already");
    from_table->add_option("--unit", blueprint_unit, "unit of numbers that name none")
        ->check(CLI::IsMember({"mm", "in"}));
    from_table->footer("example: pallix-cli blueprint from-table sheet.xlsx --unit in > four.pallix-recipe.json");
    std::vector<std::string> good_blocks;
    CLI::App* from_probe =
        blueprint->add_subcommand("from-probe", "print the recipe that probe logs of good blocks teach");
    from_probe->add_option("logs", good_blocks, "a probe log or a job, .pallix.json, for each block")->required();
    cli::LogReading good_reading;
    add_log_reading(from_probe, good_reading);
    from_probe->add_option("--onto", table_base, "an engine, recipe or blueprint whose figures stand already");
    from_probe->add_option("--unit", blueprint_unit, "unit of the figures printed")->check(CLI::IsMember({"mm", "in"}));
    from_probe->footer("example: pallix-cli blueprint from-probe first.csv second.csv > four.pallix-recipe.json");
    std::string dxf_file;
    CLI::App* to_dxf = blueprint->add_subcommand("to-dxf", "write a blueprint as a drawing with its dimensions");
    to_dxf->add_option("--blueprint", blueprint_request.file, "a blueprint or a recipe; - for standard input")
        ->required();
    to_dxf->add_option("--out", dxf_file, "the drawing, .dxf")->required();
    to_dxf->footer("example: pallix-cli blueprint to-dxf --blueprint four.pallix-recipe.json --out four.dxf");
    cli::DxfRequest dxf_request;
    CLI::App* from_dxf =
        blueprint->add_subcommand("from-dxf", "print the recipe that a drawing of a deck or gasket makes");
    from_dxf->add_option("drawing", dxf_request.drawing, "the drawing, ASCII .dxf; - for standard input")->required();
    from_dxf->add_option("--onto", dxf_request.base, "an engine, recipe or blueprint whose figures stand already");
    from_dxf->add_option("--unit", dxf_request.unit, "the drawing's unit, where it does not say it")
        ->check(CLI::IsMember({"mm", "in"}));
    from_dxf->add_option("--pitch", dxf_request.distance,
                         "from one cylinder to the next: the scale is held against it");
    from_dxf->add_flag("--other-end", dxf_request.other_end, "the front cylinder is at the drawing's right end");
    from_dxf->add_flag("--mirrored", dxf_request.mirrored, "it is drawn from below");
    from_dxf->add_option("--without-layer", dxf_request.without, "a layer that is passed over; may be repeated");
    from_dxf->add_flag("--gasket", dxf_request.gasket, "its holes are the gasket's, not the bores");
    from_dxf->footer("example: pallix-cli blueprint from-dxf deck.dxf --pitch \"108 mm\" > deck.pallix-recipe.json");

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const bool asked = error.get_exit_code() == 0; // --help, --version
        app.exit(error, std::cout, std::cerr);
        return asked ? 0 : wrong_usage;
    }
    if (convert->parsed())
        return cli::convert(convert_request);
    if (draw->parsed())
        return cli::draw_blueprint(blueprint_request);
    if (from_table->parsed())
        return cli::recipe_from_sheet(table_file, table_base, *block::unit_from_name(blueprint_unit));
    if (from_probe->parsed())
        return cli::recipe_from_blocks(good_blocks, good_reading, table_base, *block::unit_from_name(blueprint_unit));
    if (to_dxf->parsed())
        return cli::write_drawing(blueprint_request, dxf_file);
    if (from_dxf->parsed())
        return cli::recipe_from_drawing(dxf_request);
    if (check->parsed()) {
        blueprint_request.unit = *block::unit_from_name(blueprint_unit);
        return cli::check_blueprint(blueprint_request);
    }
    if (next->parsed()) {
        next_request.as_text = next_format == "text";
        return cli::next(next_request);
    }
    if (check_paper->parsed()) {
        if (check_request.job.empty() && book_request.book.empty()) {
            std::cerr << "--job or --book is required\n";
            return wrong_usage;
        }
        return book_request.book.empty() ? cli::check(check_request) : cli::check_book(book_request);
    }
    if (jobs->parsed()) {
        book_request.as_json = jobs_format == "json";
        return cli::list_jobs(book_request);
    }
    if (export_all->parsed())
        return cli::export_jobs(book_request);
    if (backup->parsed())
        return cli::back_up(book_request);
    if (report->parsed()) {
        if (report_request.jobs.empty() && !report_request.all) {
            std::cerr << "--job, or --all with --book, is required\n";
            return wrong_usage;
        }
        qputenv("QT_QPA_PLATFORM", "offscreen");            // papers need type, and no display
        if (qEnvironmentVariableIsEmpty("QT_LOGGING_RULES")) // nor a session, which Qt would remark on
            qputenv("QT_LOGGING_RULES", "default.warning=false");
        const QGuiApplication application(argc, argv);
        reporting::load_paper_fonts();
        report_request.unit = *block::unit_from_name(report_unit);
        return cli::report(report_request);
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
