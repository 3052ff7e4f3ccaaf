// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/blueprint_command.h"
#include "cli/book_commands.h"
#include "cli/check_command.h"
#include "cli/convert_command.h"
#include "cli/evaluate_command.h"
#include "cli/next_command.h"
#include "cli/plan_command.h"
#include "cli/practice_command.h"
#include "cli/report_command.h"
#include "reporting/report.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <csignal>
#include <functional>
#include <iostream>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace {

using namespace pallix;

constexpr int wrong_usage = 2;

/// A length greater than 0; nothing for any other text.
std::optional<double> length_of(const std::string& text) {
    double length = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), length);
    return error == std::errc() && end == text.data() + text.size() && std::isfinite(length) && length > 0
               ? std::optional(length)
               : std::nullopt;
}

void add_block_files(CLI::App& command, cli::BlockFiles& files) {
    command.add_option("--blueprint", files.blueprint, "the blueprint, .pallix-blueprint.json")->required();
    command.add_option("--probe", files.probes, "a probe log, .csv; may be given several times")
        ->required()
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
}

void add_unit(CLI::App& command, std::string& unit, const char* words = "unit of the lengths printed") {
    command.add_option("--unit", unit, words)->check(CLI::IsMember({"mm", "in"}));
}

void add_format(CLI::App& command, std::string& format, const char* words) {
    command.add_option("--format", format, words)->check(CLI::IsMember({"json", "text"}));
}

void add_time(CLI::App& command, std::string& at, const char* words) {
    command.add_option("--at", at, words)->check([](const std::string& text) {
        return cli::is_utc(text) ? "" : "a time in UTC such as 2026-03-05T14:30:00Z";
    });
}

CLI::Option* add_many(CLI::App& command, const char* name, std::vector<std::string>& values, const char* words) {
    return command.add_option(name, values, words)->expected(1)->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
}

/// Every command with its options; parsing leaves what is to be run.
class Commands {
  public:
    explicit Commands(CLI::App& app) : app_(app) {
        evaluate();
        plan();
        next();
        check();
        report();
        books();
        convert();
        blueprints();
        blueprints_from_elsewhere();
        drawings();
        practice();
    }
    [[nodiscard]] int run() const { return run_(); }

  private:
    CLI::App* command(CLI::App& parent, const char* name, const char* words, std::function<int()> run) {
        CLI::App* made = parent.add_subcommand(name, words);
        made->callback([this, run = std::move(run)] { run_ = run; });
        return made;
    }
    CLI::App* command(const char* name, const char* words, std::function<int()> run) {
        return command(app_, name, words, std::move(run));
    }

    void evaluate() {
        CLI::App* c = command("evaluate", "print what the probe logs say of the block", [this] {
            evaluate_.unit = *block::unit_from_name(unit_);
            evaluate_.with_uncertainty = uncertainty_ != "off";
            if (const auto length = length_of(uncertainty_))
                evaluate_.touch_uncertainty = *length * block::mm_per(evaluate_.unit);
            evaluate_.as_text = format_ == "text";
            return cli::evaluate(evaluate_);
        });
        add_block_files(*c, evaluate_.files);
        add_unit(*c, unit_);
        add_format(*c, format_, "json, or a table to read");
        c->add_option("--uncertainty", uncertainty_,
                      "auto: standard uncertainties from what the logs state of a touch, or from the scatter about the "
                      "circles; off: none; or a touch's standard uncertainty in the unit of --unit")
            ->check([](const std::string& text) {
                return text == "auto" || text == "off" || length_of(text) ? "" : "auto, off or a length greater than 0";
            });
        c->add_option("--trials", evaluate_.trials, "draws behind the uncertainty of zones and extremes")
            ->check(CLI::Range(10, 1'000'000));
    }

    void plan() {
        CLI::App* c = command("plan", "print what to cut: tunnel, decks, cylinders", [this] {
            plan_.as_text = format_ == "text";
            return cli::plan(plan_);
        });
        add_block_files(*c, plan_.files);
        c->add_option("--policy", plan_.policy, "what to plan by, .json; the usual policy without it");
        add_format(*c, format_, "json, or tables to read");
    }

    void next() {
        CLI::App* c = command("next", "print what comes next in a job: its steps, and the one that is called", [this] {
            next_.as_text = format_ == "text";
            return cli::next(next_);
        });
        c->add_option("--job", next_.job, "the job, .pallix.json")->required();
        add_time(*c, next_.at, "the time of asking, UTC (2026-03-05T14:30:00Z); now without it");
        c->add_flag("--all", next_.all, "also what is done, skipped and stale");
        add_format(*c, format_, "json, or lines to read");
    }

    void practice() {
        CLI::App* parent = app_.add_subcommand("practice", "blocks that are not there, to learn on");
        parent->require_subcommand(1);
        command(*parent, "list", "print the themes", [] { return cli::list_exercises(); });
        CLI::App* fresh =
            command(*parent, "new", "write the job of an exercise", [this] { return cli::new_exercise(practice_); });
        auto* which = fresh->add_option_group("which")->require_option(1);
        which->add_option("--theme", practice_.theme, "one of those that list prints");
        which->add_option("--from", practice_.copied,
                          "a copy of a real job that was measured and not cut, .pallix.json");
        which->add_option("--exercise", practice_.exercise, "an exercise of your own, .pallix-exercise.json");
        fresh->add_option("--level", practice_.level, "from 1, the easiest, to 3")->check(CLI::Range(1, 3));
        fresh->add_option("--number", practice_.number, "the same number is the same block everywhere")
            ->check(CLI::Range(1, 1'000'000'000));
        CLI::App* make =
            command(*parent, "make", "write an exercise of your own: a sound block, and what is wrong with it",
                    [this] { return cli::make_exercise(practice_); });
        make->add_option("--blueprint", practice_.blueprint, "the blueprint, .pallix-blueprint.json")->required();
        make->add_option("--title", practice_.title, "what it is called")->required();
        make->add_option("--story", practice_.story, "what is told of it");
        make->add_option("--wanted", practice_.wanted, "what is asked");
        add_many(*make, "--scope", practice_.scope, "a stage that is asked for; may be given several times")
            ->required()
            ->check(CLI::IsMember({"tunnel", "decks", "cylinders", "lifters", "mock_up", "finish"}));
        add_many(*make, "--error", practice_.errors,
                 "what is wrong, such as \"main.3 up 0.03\"; may be given several times");
        make->add_option("--number", practice_.number, "what gauges and machines do by chance")
            ->check(CLI::Range(1, 1'000'000'000));
        make->add_option("--level", practice_.level, "from 1 to 3, as it is told")->check(CLI::Range(1, 3));
        make->add_option("--out", practice_.out, "the exercise to write, .pallix-exercise.json")->required();
        CLI::App* play = command(*parent, "play", "write what the simulated player makes of a job's exercise",
                                 [this] { return cli::play_practice(practice_); });
        play->add_flag("--careless", practice_.careless, "one who cuts on the first number");
        CLI::App* tried =
            command(*parent, "try",
                    "print what comes of a school on copies of a job, beside what comes as it is planned", [this] {
                        practice_.as_text = format_ == "text";
                        return cli::try_practice(practice_);
                    });
        tried->add_option("--job", practice_.job, "the job, measured and not cut, .pallix.json")->required();
        tried->add_option("--times", practice_.times, "how many of the blocks that it may be")
            ->check(CLI::Range(1, 1000));
        tried->add_option("--tunnel", practice_.method, "hone or bore")->check(CLI::IsMember({"hone", "bore"}));
        tried->add_option("--caps", practice_.caps, "each its own cut, or all the same")
            ->check(CLI::IsMember({"each", "equal"}));
        tried->add_option("--centre", practice_.centre, "where the cylinders go")
            ->check(CLI::IsMember({"free", "top", "blueprint", "limited"}));
        add_format(*tried, format_, "json, or lines to read: least, middle, most, as planned and as tried");
        CLI::App* score = command(*parent, "score", "print what came of an exercise, held against the truth", [this] {
            practice_.as_text = format_ == "text";
            return cli::score_practice(practice_);
        });
        score->add_flag("--open", practice_.open, "open the truth, which ends the exercise");
        add_format(*score, format_, "json, or lines to read");
        for (CLI::App* c : {play, score})
            c->add_option("--job", practice_.job, "the job, .pallix.json")->required();
        for (CLI::App* c : {fresh, play})
            c->add_option("--out", practice_.out, "the job to write, .pallix.json")->required();
        score->add_option("--out", practice_.out, "the job with its truth opened, .pallix.json");
    }

    void check() {
        CLI::App* c = command("check",
                              "tell whether a paper belongs to an unaltered ledger, print a ledger's digest, or look a "
                              "whole shop book over",
                              [this] { return book_.book.empty() ? cli::check(check_) : cli::check_book(book_); });
        auto* of = c->add_option_group("what")->require_option(1);
        of->add_option("--job", check_.job, "the job, .pallix.json");
        of->add_option("--book", book_.book, "a shop book: whether it is as it was written");
        c->add_option("--digest", check_.digest, "the paper's digest; twelve digits from its beginning are enough")
            ->check([](const std::string& text) {
                const auto digits = std::ranges::count_if(text, [](unsigned char d) { return std::isxdigit(d) != 0; });
                const auto blanks = std::ranges::count(text, ' ');
                return digits >= 12 && digits <= 64 && digits + blanks == static_cast<std::ptrdiff_t>(text.size())
                           ? ""
                           : "12 to 64 hexadecimal digits";
            });
    }

    void report() {
        CLI::App* c = command("report", "write papers of one job or of many", [this] {
            report_.unit = *block::unit_from_name(unit_);
            return cli::report(report_);
        });
        auto* whose = c->add_option_group("whose")->require_option(1);
        add_many(*whose, "--job", report_.jobs,
                 "a job, .pallix.json; with --book a title, serial or number; may be given several times");
        auto* all = whose->add_flag("--all", report_.all, "every job of the book");
        all->needs(c->add_option("--book", report_.book, "the shop book that the jobs stand in"));
        c->add_option("--kind", report_.kind, "which paper")
            ->required()
            ->check(
                CLI::IsMember(std::vector<std::string>(reporting::paper_keys.begin(), reporting::paper_keys.end())));
        c->add_option("--out", report_.out,
                      "the file; its suffix says the form; {job} in it stands for each job's serial or title")
            ->required();
        c->add_option("--paper", report_.paper, "a4 or letter; as is usual here without it")
            ->check(CLI::IsMember({"a4", "letter"}));
        add_unit(*c, unit_);
        c->add_option("--shop", report_.shop, "how the shop's papers are, .pallix-shop.json");
        c->add_option("--machine", report_.machine, "whose axes coordinates go by");
        c->add_option("--label", report_.label, "size of a label, such as \"62 x 29\"");
        add_time(*c, report_.at, "the time of printing, UTC; now without it");
        c->footer("example: pallix-cli report --book shop.shopbook --all --kind passport --out papers/{job}.pdf\n"
                  "         pallix-cli report --job ferry.pallix.json --kind coordinates --out ferry.dxf");
    }

    void books() {
        CLI::App* jobs = command("jobs", "list the jobs of a shop book", [this] {
            book_.as_json = format_ == "json";
            return cli::list_jobs(book_);
        });
        jobs->preparse_callback([this](std::size_t) { format_ = "text"; });
        add_format(*jobs, format_, "lines to read, or json");
        CLI::App* all =
            command("export", "write jobs of a shop book as .pallix.json", [this] { return cli::export_jobs(book_); });
        add_many(*all, "--job", book_.jobs, "a title, serial or number; all without it");
        all->add_option("--out", book_.out, "the folder")->required();
        CLI::App* backup =
            command("backup", "copy a shop book, and read the copy again", [this] { return cli::back_up(book_); });
        backup->add_option("--out", book_.out, "the copy")->required();
        CLI::App* import = command("import", "take the jobs of another shop book in; the same job twice is one",
                                   [this] { return cli::import_book(book_); });
        import->add_option("--from", book_.from, "the other book, such as a backup")->required();
        for (CLI::App* c : {jobs, all, backup, import})
            c->add_option("--book", book_.book, "the shop book, a file or postgresql://host/database")->required();
        CLI::App* whole = app_.add_subcommand("book", "a whole shop book: copy it, or print what stands for it");
        whole->require_subcommand(1);
        CLI::App* copy = command(*whole, "copy", "copy a shop book into an empty one, a file or a server's",
                                 [this] { return cli::copy_book(book_); });
        copy->add_option("from", book_.from, "the book, a file or postgresql://host/database")->required();
        copy->add_option("to", book_.book, "the other; where it holds an earlier copy, the copy goes on")->required();
        copy->footer("example: pallix-cli book copy shop.shopbook postgresql://marit@office/shop");
        CLI::App* digest = command(*whole, "digest", "print a digest of all that stands in a book",
                                   [this] { return cli::print_digest(book_); });
        digest->add_option("book", book_.book, "the book, a file or postgresql://host/database")->required();
    }

    static void add_log_reading(CLI::App& command, cli::LogReading& reading) {
        command.add_option("--mapping", reading.mapping, "how the log is to be read, .pallix-mapping.json");
        command.add_flag("--by-shape", reading.by_shape,
                         "name touches that have no names by the shape of blocks in general");
    }

    void convert() {
        CLI::App* c = command("convert", "print a shop's own probe log as one that Pallix reads",
                              [this] { return cli::convert(convert_); });
        c->add_option("log", convert_.log, "the log; - for standard input")->required();
        add_log_reading(*c, convert_.reading);
        c->add_option("--blueprint", convert_.reading.blueprint,
                      "name touches that have no names by where this block's places lie");
        c->add_flag("--suggest", convert_.suggest,
                    "print the mapping by which it is read, to be looked over and kept, not the log");
        c->footer("example: pallix-cli convert --mapping ours.pallix-mapping.json deck.txt > deck.csv\n"
                  "         pallix-cli convert --blueprint four.pallix-blueprint.json --suggest run.txt > "
                  "ours.pallix-mapping.json");
    }

    void blueprints() {
        blueprint_command_ = app_.add_subcommand("blueprint", "draw a blueprint from a recipe, or look one over");
        blueprint_command_->require_subcommand(1);
        CLI::App* draw = command(*blueprint_command_, "new", "print the blueprint that a recipe makes",
                                 [this] { return cli::draw_blueprint(blueprint_); });
        draw->add_option("--recipe", blueprint_.file, "the recipe, .pallix-recipe.json; - for standard input")
            ->required();
        draw->footer("example: pallix-cli blueprint new --recipe four.pallix-recipe.json > four.pallix-blueprint.json");
        CLI::App* check =
            command(*blueprint_command_, "check", "say what a blueprint has, leaves out, and what looks wrong", [this] {
                blueprint_.unit = *block::unit_from_name(unit_);
                return cli::check_blueprint(blueprint_);
            });
        check->add_option("--blueprint", blueprint_.file, "a blueprint or a recipe; - for standard input")->required();
        add_unit(*check, unit_);
        check->footer("example: pallix-cli blueprint check --blueprint four.pallix-blueprint.json --unit in");
    }

    void blueprints_from_elsewhere() {
        const char* base_words = "an engine, recipe or blueprint whose figures stand already";
        CLI::App* table =
            command(*blueprint_command_, "from-table", "print the recipe that a table of figures or holes makes",
                    [this] { return cli::recipe_from_sheet(table_, base_, *block::unit_from_name(unit_)); });
        table->add_option("table", table_, "XLSX, ODS, CSV or TSV; - for standard input")->required();
        table->add_option("--onto", base_, base_words);
        add_unit(*table, unit_, "unit of numbers that name none");
        table->footer("example: pallix-cli blueprint from-table sheet.xlsx --unit in > four.pallix-recipe.json");
        CLI::App* probe =
            command(*blueprint_command_, "from-probe", "print the recipe that probe logs of good blocks teach", [this] {
                return cli::recipe_from_blocks(good_blocks_, good_reading_, base_, *block::unit_from_name(unit_));
            });
        probe->add_option("logs", good_blocks_, "a probe log or a job, .pallix.json, for each block")->required();
        add_log_reading(*probe, good_reading_);
        probe->add_option("--onto", base_, base_words);
        add_unit(*probe, unit_, "unit of the figures printed");
        probe->footer("example: pallix-cli blueprint from-probe first.csv second.csv > four.pallix-recipe.json");
    }

    void drawings() {
        CLI::App* to = command(*blueprint_command_, "to-dxf", "write a blueprint as a drawing with its dimensions",
                               [this] { return cli::write_drawing(blueprint_, dxf_file_); });
        to->add_option("--blueprint", blueprint_.file, "a blueprint or a recipe; - for standard input")->required();
        to->add_option("--out", dxf_file_, "the drawing, .dxf")->required();
        to->footer("example: pallix-cli blueprint to-dxf --blueprint four.pallix-recipe.json --out four.dxf");
        CLI::App* from =
            command(*blueprint_command_, "from-dxf", "print the recipe that a drawing of a deck or gasket makes",
                    [this] { return cli::recipe_from_drawing(dxf_); });
        from->add_option("drawing", dxf_.drawing, "the drawing, ASCII .dxf; - for standard input")->required();
        from->add_option("--onto", dxf_.base, "an engine, recipe or blueprint whose figures stand already");
        from->add_option("--unit", dxf_.unit, "the drawing's unit, where it does not say it")
            ->check(CLI::IsMember({"mm", "in"}));
        from->add_option("--pitch", dxf_.distance, "from one cylinder to the next: the scale is held against it");
        from->add_flag("--other-end", dxf_.other_end, "the front cylinder is at the drawing's right end");
        from->add_flag("--mirrored", dxf_.mirrored, "it is drawn from below");
        from->add_option("--without-layer", dxf_.without, "a layer that is passed over; may be repeated");
        from->add_flag("--gasket", dxf_.gasket, "its holes are the gasket's, not the bores");
        from->footer("example: pallix-cli blueprint from-dxf deck.dxf --pitch \"108 mm\" > deck.pallix-recipe.json");
    }

    CLI::App& app_;
    CLI::App* blueprint_command_ = nullptr;
    std::function<int()> run_;
    std::string unit_ = "mm", format_ = "json", uncertainty_ = "auto";
    cli::EvaluateRequest evaluate_;
    cli::PlanRequest plan_;
    cli::PracticeRequest practice_;
    cli::NextRequest next_;
    cli::CheckRequest check_;
    cli::BookRequest book_;
    cli::ReportRequest report_;
    cli::ConvertRequest convert_;
    cli::BlueprintRequest blueprint_;
    std::string table_, base_, dxf_file_;
    std::vector<std::string> good_blocks_;
    cli::LogReading good_reading_;
    cli::DxfRequest dxf_;
};

} // namespace

int main(int argc, char** argv) {
    std::signal(SIGXFSZ, SIG_IGN); // a file that may not grow is a fault like others, and is told
    CLI::App app{"pallix-cli: what probe logs say of an engine block, what to cut, and the papers of a job"};
    app.set_version_flag("--version", "pallix-cli " PALLIX_VERSION);
    app.require_subcommand(1);
    const Commands commands(app);
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const bool asked = error.get_exit_code() == 0; // --help, --version
        app.exit(error, std::cout, std::cerr);
        return asked ? 0 : wrong_usage;
    }
    return commands.run();
}
