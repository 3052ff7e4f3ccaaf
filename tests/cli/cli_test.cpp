// SPDX-License-Identifier: GPL-3.0-or-later
// pallix-cli as other programs see it: exit status, standard output, standard error.
#include "reference_data.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>
#include <sys/wait.h>
#include <unistd.h>

using testing::HasSubstr;

namespace {

struct Outcome {
    int status = -1;
    std::string out, err;
};

class Cli : public testing::Test {
  protected:
    void SetUp() override {
        folder_ = std::filesystem::temp_directory_path() /
                  ("pallix-cli-" + std::string(testing::UnitTest::GetInstance()->current_test_info()->name()) + "-" +
                   std::to_string(::getpid()));
        std::filesystem::create_directories(folder_);
    }
    void TearDown() override { std::filesystem::remove_all(folder_); }

    Outcome run(const std::string& arguments) const {
        const std::string out = (folder_ / "out").string(), err = (folder_ / "err").string();
        const std::string command = std::string(PALLIX_CLI) + " " + arguments + " >'" + out + "' 2>'" + err + "'";
        const int status = std::system(command.c_str()); // NOLINT(cert-env33-c): the arguments are the test's own
        return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, pallix::test::read_file(out),
                pallix::test::read_file(err)};
    }
    std::string write(const std::string& name, const std::string& text) const {
        const auto file = folder_ / name;
        std::ofstream(file, std::ios::binary) << text;
        return file.string();
    }
    static std::string files(const std::string& name) {
        return "--blueprint " + pallix::test::example(name + "/block.pallix-blueprint.json") + " --probe " +
               pallix::test::example(name + "/probe.csv");
    }

    std::filesystem::path folder_;
};

} // namespace

TEST_F(Cli, EvaluatesToJson) {
    for (const std::string name : {"v6", "i4"}) {
        const Outcome o = run("evaluate " + files(name));
        EXPECT_EQ(o.status, 0);
        EXPECT_EQ(o.err, "");
        const auto ours = nlohmann::json::parse(o.out);
        const auto expected =
            nlohmann::json::parse(pallix::test::read_file(pallix::test::example(name + "/expected-evaluation.json")));
        EXPECT_EQ(ours["format"], "pallix-evaluation");
        EXPECT_EQ(ours["version"], 1);
        EXPECT_NEAR(ours["decks"][0]["flatness_mz"], expected["decks"][0]["flatness_mz"], 1e-6);
        EXPECT_NEAR(ours["tunnel"]["straightness_vertical_mz"], expected["tunnel"]["straightness_vertical_mz"], 1e-6);
    }
}

TEST_F(Cli, PrintsInchOnRequest) {
    const auto mm = nlohmann::json::parse(run("evaluate " + files("i4")).out),
               inch = nlohmann::json::parse(run("evaluate --unit in " + files("i4")).out);
    EXPECT_EQ(inch["unit"], "in");
    EXPECT_NEAR(inch["decks"][0]["height_max"].get<double>() * 25.4, mm["decks"][0]["height_max"], 1e-9);
    EXPECT_EQ(inch["decks"][0]["slope_u"], mm["decks"][0]["slope_u"]);
}

TEST_F(Cli, PrintsATable) {
    const Outcome o = run("evaluate --format text " + files("v6"));
    EXPECT_EQ(o.status, 0);
    EXPECT_THAT(o.out, HasSubstr("Main tunnel"));
    EXPECT_THAT(o.out, HasSubstr("288.375"));
}

TEST_F(Cli, ReadsSeveralLogs) {
    const std::string log = pallix::test::read_file(pallix::test::example("i4/probe.csv"));
    const std::size_t header = log.find("setup,"), rows = log.find('\n', header) + 1, split = log.find("C,deck.C");
    const std::string head = log.substr(0, rows);
    const std::string a = write("a.csv", log.substr(0, split)), b = write("b.csv", head + log.substr(split));
    const Outcome o = run("evaluate --blueprint " + pallix::test::example("i4/block.pallix-blueprint.json") +
                          " --probe " + a + " --probe " + b);
    EXPECT_EQ(o.status, 0) << o.err;
    EXPECT_EQ(o.out, run("evaluate " + files("i4")).out);
}

TEST_F(Cli, WrongInputSaysWhereAndPrintsNothing) {
    const std::string bad = write("bad.csv", "feature,x,y,z\nmain.1,1,2,three\nwheel.1,1,2,3\n");
    const Outcome o =
        run("evaluate --blueprint " + pallix::test::example("v6/block.pallix-blueprint.json") + " --probe " + bad);
    EXPECT_EQ(o.status, 1);
    EXPECT_EQ(o.out, "");
    EXPECT_THAT(o.err, HasSubstr(bad + ":2: z is \"three\", expected a finite number\n"));
    EXPECT_THAT(o.err, HasSubstr(bad + ":3: feature \"wheel.1\" is not known, expected main.N"));
}

TEST_F(Cli, MissingFilesAreWrongInput) {
    const Outcome o = run("evaluate --blueprint nowhere.json --probe neither.csv");
    EXPECT_EQ(o.status, 1);
    EXPECT_EQ(o.out, "");
    EXPECT_THAT(o.err, HasSubstr("nowhere.json: the file cannot be read"));
    EXPECT_THAT(o.err, HasSubstr("neither.csv: the file cannot be read"));
    EXPECT_EQ(run("evaluate --blueprint / --probe /").status, 1) << "a folder is no file";
}

TEST_F(Cli, WarningsDoNotStopIt) {
    std::string log = pallix::test::read_file(pallix::test::example("i4/probe.csv"));
    const std::string noted = write("noted.csv", "# operator: someone\n" + log);
    const Outcome o =
        run("evaluate --blueprint " + pallix::test::example("i4/block.pallix-blueprint.json") + " --probe " + noted);
    EXPECT_EQ(o.status, 0);
    EXPECT_THAT(o.err, HasSubstr("warning: " + noted + ":1: the key \"operator\""));
    EXPECT_TRUE(nlohmann::json::accept(o.out));
}

TEST_F(Cli, WrongUsageIsTwo) {
    EXPECT_EQ(run("").status, 2);
    EXPECT_EQ(run("frobnicate").status, 2);
    EXPECT_EQ(run("evaluate").status, 2);
    EXPECT_EQ(run("evaluate --unit furlong " + files("v6")).status, 2);
    EXPECT_EQ(run("evaluate --format pie " + files("v6")).status, 2);
    EXPECT_EQ(run("--no-such-flag").status, 2);
}

TEST_F(Cli, TellsVersionAndHelp) {
    const Outcome version = run("--version");
    EXPECT_EQ(version.status, 0);
    EXPECT_THAT(version.out, testing::MatchesRegex("pallix-cli [0-9]+\\.[0-9]+\\.[0-9]+\n"));
    const Outcome help = run("--help");
    EXPECT_EQ(help.status, 0);
    EXPECT_THAT(help.out, HasSubstr("evaluate"));
    EXPECT_THAT(run("evaluate --help").out, HasSubstr("--blueprint"));
}

TEST_F(Cli, GivesUncertaintiesUnlessAskedNotTo) {
    const auto parsed = [this](const std::string& more) {
        const Outcome r = run("evaluate " + files("v6") + more);
        EXPECT_EQ(r.status, 0) << r.err;
        return nlohmann::json::parse(r.out);
    };
    const auto with = parsed(" --trials 20");
    EXPECT_EQ(with["touch_uncertainty"]["source"], "scatter");
    EXPECT_GT(with["bores"][0]["uncertainty"]["diameter"].get<double>(), 0);
    EXPECT_GT(with["decks"][0]["uncertainty"]["flatness_mz"].get<double>(), 0);
    const auto stated = parsed(" --trials 20 --uncertainty 0.001 --unit in");
    EXPECT_NEAR(stated["touch_uncertainty"]["value"].get<double>(), 0.001, 1e-12);
    EXPECT_EQ(parsed(" --uncertainty off").count("touch_uncertainty"), 0U);
    EXPECT_FALSE(parsed(" --uncertainty off")["bores"][0].contains("uncertainty"));
    for (const char* wrong : {" --uncertainty perhaps", " --uncertainty -1", " --trials 3", " --trials many"})
        EXPECT_EQ(run("evaluate " + files("v6") + wrong).status, 2) << wrong;
}

TEST_F(Cli, PlansToJsonAndText) {
    for (const std::string block : {"v6", "i4"}) {
        const Outcome o = run("plan " + files(block) + " --policy " + pallix::test::example("policy.json"));
        EXPECT_EQ(o.status, 0) << o.err;
        EXPECT_EQ(o.err, "");
        const auto ours = nlohmann::json::parse(o.out);
        EXPECT_EQ(ours["format"], "pallix-plan");
        const auto expected =
            nlohmann::json::parse(pallix::test::read_file(pallix::test::example(block + "/expected-plan.json")));
        EXPECT_NEAR(ours["tunnel"]["max_cap_cut"].get<double>(), expected["tunnel"]["max_cap_cut"].get<double>(), 1e-5);
        EXPECT_FALSE(ours["tunnel"]["binding"].empty());
    }
    const Outcome text = run("plan --format text " + files("v6"));
    EXPECT_EQ(text.status, 0);
    EXPECT_THAT(text.out, HasSubstr("Main tunnel"));
    EXPECT_THAT(text.out, HasSubstr("deck.R"));
}

TEST_F(Cli, APlanWithoutAWayIsAnAnswer) {
    const std::string policy =
        write("tight.json", R"({"format":"pallix-policy","version":1,"tunnel":{"target_diameter":86.0}})");
    const Outcome o = run("plan " + files("v6") + " --policy " + policy);
    EXPECT_EQ(o.status, 0);
    const auto ours = nlohmann::json::parse(o.out);
    EXPECT_FALSE(ours["tunnel"]["feasible"].get<bool>());
    EXPECT_GT(ours["tunnel"]["short_by"].get<double>(), 0);
    EXPECT_FALSE(ours["tunnel"].contains("cap_cuts"));
    EXPECT_FALSE(ours["decks"].empty()) << "planned from datum A as measured";
}

TEST_F(Cli, AWrongPolicyIsWrongInput) {
    const std::string policy =
        write("p.json", "{\"format\":\"pallix-policy\",\"version\":1,\n\"decks\":{\"school\":\"deep\"}}");
    const Outcome o = run("plan " + files("i4") + " --policy " + policy);
    EXPECT_EQ(o.status, 1);
    EXPECT_EQ(o.out, "");
    EXPECT_THAT(o.err, HasSubstr("p.json:2: "));
    EXPECT_EQ(run("plan " + files("i4") + " --policy nowhere.json").status, 1);
    EXPECT_EQ(run("plan --policy x").status, 2);
}

// The stand-in gauge deleted whatever stood under the name it was to listen on.
TEST_F(Cli, TheStandInGaugeDeletesNoFile) {
    const std::string precious = write("precious.txt", "years of work");
    const std::string command =
        std::string(PALLIX_GAUGE) + " --socket '" + precious + "' --readings 1 2>'" + (folder_ / "err").string() + "'";
    const int status = std::system(command.c_str()); // NOLINT(cert-env33-c): the arguments are the test's own
    EXPECT_EQ(WEXITSTATUS(status), 2);
    EXPECT_EQ(pallix::test::read_file(precious), "years of work");
    EXPECT_THAT(pallix::test::read_file((folder_ / "err").string()), HasSubstr("is there already and is no socket"));
}

TEST_F(Cli, OnlyFilesAreRead) {
    for (const std::string& odd : {std::string("/dev/zero"), folder_.string()}) {
        const Outcome o = run("evaluate --blueprint " + odd + " --probe " + odd);
        EXPECT_EQ(o.status, 1);
        EXPECT_THAT(o.err, HasSubstr("this is no file but a folder, a device or a pipe"));
    }
    const std::string large = write("large.csv", "");
    std::filesystem::resize_file(large, (256ULL << 20) + 1); // sparse: it takes no room
    EXPECT_THAT(run("evaluate " + files("v6") + " --probe " + large).err, HasSubstr("at most 256 MB"));
    const Outcome latin = run("evaluate --blueprint '" + (folder_ / "gr\xfc\xdf.json").string() + "' --probe x");
    EXPECT_EQ(latin.status, 1);
    EXPECT_THAT(latin.err, HasSubstr("gr??.json: the file cannot be read"));
}

TEST_F(Cli, SaysWhatComesNextInAJob) {
    const std::string jobs = std::string(PALLIX_TEST_DATA) + "/jobs/";
    const Outcome o = run("next --job " + jobs + "launch.pallix.json --at 2026-03-05T14:30:00Z");
    EXPECT_EQ(o.status, 0);
    EXPECT_EQ(o.err, "");
    const auto steps = nlohmann::json::parse(o.out);
    EXPECT_EQ(steps["format"], "pallix-steps");
    EXPECT_EQ(steps["version"], 1);
    EXPECT_EQ(steps["unit"], "mm");
    EXPECT_EQ(steps["now"], "tunnel/caps");
    const auto state_of = [](const nlohmann::json& list, const std::string& id) -> std::string {
        for (const auto& step : list["steps"])
            if (step["id"] == id)
                return step["state"];
        return "";
    };
    EXPECT_EQ(state_of(steps, "tunnel/caps"), "now");
    EXPECT_EQ(state_of(steps, "tunnel/torque"), "waits");
    EXPECT_EQ(state_of(steps, "main.1/measure/front/upright"), "") << "done: only with --all";
    for (const auto& step : steps["steps"]) {
        EXPECT_EQ(step["cannot_be_undone"].get<bool>(), step["kind"] == "cut" || step["kind"] == "hone") << step["id"];
        EXPECT_FALSE(step["words"].get<std::string>().empty());
        EXPECT_TRUE(step.contains("machine") && step.contains("set_up") && step.contains("changes")) << step["id"];
        for (const auto& wait : step["waits_for"])
            EXPECT_FALSE(wait["words"].get<std::string>().empty());
    }
    // Five caps at eight minutes; once they are cut, what was read of the mains holds no more.
    const auto& caps = *std::ranges::find_if(steps["steps"], [](const auto& s) { return s["id"] == "tunnel/caps"; });
    EXPECT_EQ(caps["machine"], "cap_grinder");
    EXPECT_EQ(caps["set_up"], "caps_off");
    EXPECT_EQ(caps["minutes"], 40);
    EXPECT_THAT(caps["care"].get<std::string>(), HasSubstr("Guards and eyes covered"));
    EXPECT_EQ(caps["changes"].size(), 5);
    EXPECT_EQ(caps["changes"][0], (nlohmann::json{{"what", "stale"}, {"about", "main.1"}}));
    const Outcome all = run("next --all --job " + jobs + "launch.pallix.json");
    EXPECT_EQ(state_of(nlohmann::json::parse(all.out), "main.1/measure/front/upright"), "done");
    EXPECT_EQ(state_of(nlohmann::json::parse(all.out), "cleaned/wash"), "skipped");
    EXPECT_THAT(run("next --format text --job " + jobs + "ketch.pallix.json").out,
                testing::StartsWith("Wash the block\n"));
}

TEST_F(Cli, ALedgerThatCannotBeFoldedIsAnErrorWithItsPlace) {
    auto job =
        nlohmann::json::parse(pallix::test::read_file(std::string(PALLIX_TEST_DATA) + "/jobs/tender.pallix.json"));
    for (auto& entry : job["entries"])
        if (entry["kind"] == "deck_cut")
            entry["payload"]["depth_mm"] = 12;
    const Outcome o = run("next --job " + write("deep.pallix.json", job.dump(1)));
    EXPECT_EQ(o.status, 1);
    EXPECT_EQ(o.out, "");
    EXPECT_THAT(o.err, HasSubstr("(deck_cut): depth_mm is 12, expected 0 to 5"));
    for (auto& entry : job["entries"])
        if (entry["kind"] == "deck_cut") {
            entry["payload"]["depth_mm"] = 0.1;
            entry["payload"]["bank"] = "Z";
        }
    const Outcome other = run("next --job " + write("other.pallix.json", job.dump(1)));
    EXPECT_EQ(other.status, 1);
    EXPECT_EQ(other.out, "");
    EXPECT_THAT(other.err, HasSubstr("speaks of bank \"Z\""));
    EXPECT_EQ(run("next").status, 2);
    EXPECT_EQ(run("next --job " + write("deep.pallix.json", "{}") + " --at yesterday").status, 2);
    EXPECT_EQ(run("next --job nowhere.pallix.json").status, 1);
}

TEST_F(Cli, TellsWhetherAPaperBelongsToALedger) {
    const std::string job = std::string(PALLIX_TEST_DATA) + "/jobs/tender.pallix.json";
    const Outcome whole = run("check --job " + job);
    EXPECT_EQ(whole.status, 0) << whole.err;
    ASSERT_EQ(whole.out.size(), 65u) << "64 digits and a line's end";
    const std::string digest = whole.out.substr(0, 64);
    const Outcome same = run("check --job " + job + " --digest " + digest.substr(0, 16));
    EXPECT_EQ(same.status, 0) << same.err;
    EXPECT_THAT(same.out, HasSubstr("unaltered up to entry"));
    auto altered = nlohmann::json::parse(pallix::test::read_file(job));
    altered["entries"][1]["person"] = "somebody else";
    const Outcome other = run("check --job " + write("altered.pallix.json", altered.dump(1)) + " --digest " + digest);
    EXPECT_EQ(other.status, 1);
    EXPECT_THAT(other.err, HasSubstr("no entry of this ledger"));
    EXPECT_TRUE(other.out.empty());
    EXPECT_EQ(run("check --job " + job + " --digest 12").status, 2);
    EXPECT_EQ(run("check --job " + job + " --digest no-digest-at-all").status, 2);
    EXPECT_EQ(run("check --job nowhere.pallix.json").status, 1);
}

TEST_F(Cli, WritesPapersWithoutADisplay) {
    const std::string jobs = std::string(PALLIX_TEST_DATA) + "/jobs/";
    const auto out = [this](const char* name) { return (folder_ / name).string(); };
    const auto begins = [](const std::string& file, const std::string& with) {
        return pallix::test::read_file(file).starts_with(with);
    };
    for (const char* kind :
         {"passport", "customer", "estimate", "work-sheet", "caps", "boring", "readings", "coordinates", "label"}) {
        const Outcome o = run("report --job " + jobs + "ferry.pallix.json --kind " + kind +
                              " --paper letter --unit in --out " + out("paper.pdf"));
        EXPECT_EQ(o.status, 0) << kind << o.err;
        EXPECT_EQ(o.out, out("paper.pdf") + "\n") << kind;
        EXPECT_EQ(o.err, "") << kind;
        EXPECT_TRUE(begins(out("paper.pdf"), "%PDF-")) << kind;
    }
    EXPECT_EQ(run("report --job " + jobs + "ferry.pallix.json --kind data --out " + out("all.xlsx")).status, 0);
    EXPECT_TRUE(begins(out("all.xlsx"), "PK"));
    EXPECT_EQ(run("report --job " + jobs + "ferry.pallix.json --kind coordinates --out " + out("c.csv")).status, 0);
    EXPECT_TRUE(begins(out("c.csv"), "\"set-up\",\"hole\","));
    EXPECT_EQ(run("report --job " + jobs + "ferry.pallix.json --kind passport --at 2026-03-06T09:00:00Z --out " +
                  out("p.html"))
                  .status,
              0);
    EXPECT_THAT(pallix::test::read_file(out("p.html")), HasSubstr("Printed 2026-03-06"));
}

TEST_F(Cli, WritesPapersOfManyJobsInOneCall) {
    const std::string jobs = std::string(PALLIX_TEST_DATA) + "/jobs/";
    const std::string many =
        "--job " + jobs + "ketch.pallix.json --job " + jobs + "tender.pallix.json --job " + jobs + "ketch.pallix.json";
    const Outcome o = run("report " + many + " --kind passport --out '" + (folder_ / "{job}.html").string() + "'");
    EXPECT_EQ(o.status, 0) << o.err;
    EXPECT_EQ(std::count(o.out.begin(), o.out.end(), '\n'), 3);
    EXPECT_TRUE(std::filesystem::exists(folder_ / "Samphire, tender.html"));
    EXPECT_TRUE(std::filesystem::exists(folder_ / "Lantern Ketch, auxiliary.html"));
    EXPECT_TRUE(std::filesystem::exists(folder_ / "Lantern Ketch, auxiliary 2.html")) << "none is written over another";
    const Outcome one = run("report " + many + " --kind passport --out " + (folder_ / "one.html").string());
    EXPECT_EQ(one.status, 1);
    EXPECT_THAT(one.err, HasSubstr("it is one file for many jobs"));
}

TEST_F(Cli, WhatIsWrongWithOnePaperStopsNoOther) {
    const std::string jobs = std::string(PALLIX_TEST_DATA) + "/jobs/";
    const Outcome o =
        run("report --job nowhere.pallix.json --job " + write("bad.pallix.json", "{]") + " --job " + jobs +
            "tender.pallix.json --kind passport --out '" + (folder_ / "{job}.html").string() + "'");
    EXPECT_EQ(o.status, 1);
    EXPECT_THAT(o.err, HasSubstr("nowhere.pallix.json"));
    EXPECT_THAT(o.err, HasSubstr("bad.pallix.json"));
    EXPECT_TRUE(std::filesystem::exists(folder_ / "Samphire, tender.html"));
}

TEST_F(Cli, RefusesWhatNoPaperIsMadeOf) {
    const std::string job = "report --job " + std::string(PALLIX_TEST_DATA) + "/jobs/tender.pallix.json ";
    const auto refused = [&](const std::string& arguments, int status, const char* why) {
        const Outcome o = run(job + arguments);
        EXPECT_EQ(o.status, status) << arguments;
        EXPECT_THAT(o.err, HasSubstr(why)) << arguments;
    };
    refused("--kind passport", 2, "--out is required");
    refused("--kind poem --out x.pdf", 2, "poem");
    refused("--kind passport --out x.pdf --paper a0", 2, "a0");
    refused("--kind passport --out x.pdf --unit furlong", 2, "furlong");
    refused("--kind passport --out x.pdf --at yesterday", 2, "a time in UTC");
    refused("--kind passport --out " + (folder_ / "x.docx").string(), 1, "a passport is written as .pdf, .html");
    refused("--kind passport --out /nowhere/x.pdf", 1, "cannot be written");
    refused("--kind label --label 1x1 --out x.pdf", 1, "is no size of a label");
    refused("--kind coordinates --machine lathe --out x.csv", 1, "no machine of that name");
    refused("--kind coordinates --shop " + write("s.json", "{}") + " --out x.csv", 1, "serial_pattern");
    EXPECT_EQ(run("report --kind passport --out x.pdf").status, 2);
    EXPECT_EQ(run("report --all --kind passport --out x.pdf").status, 2) << "of no book";
}

TEST_F(Cli, ABookThatIsNotThereIsNotMade) {
    const std::string book = (folder_ / "none.shopbook").string();
    for (const std::string& command :
         {"jobs --book " + book, "export --book " + book + " --out x", "backup --book " + book + " --out y",
          "import --book " + book + " --from z", "check --book " + book,
          "report --book " + book + " --all --kind passport --out {job}.pdf"}) {
        const Outcome o = run(command);
        EXPECT_EQ(o.status, 1) << command;
        EXPECT_THAT(o.err, HasSubstr("there is no such file")) << command;
    }
    EXPECT_FALSE(std::filesystem::exists(book));
    EXPECT_EQ(run("check").status, 2);
}

TEST_F(Cli, DrawsABlueprintFromARecipeThatIsEvaluatedLikeAnyOther) {
    const std::string recipe = write("four.pallix-recipe.json", R"({ "format": "pallix-recipe", "version": 1,
 "figures": { "name": "a four", "layout": "inline", "clocking": "decks", "cylinders": 4, "bore": "82 H8", "pitch": 94,
  "deck_height": "208.5 ±0.05", "main_size": "58 H6" } })");
    const Outcome drawn = run("blueprint new --recipe " + recipe);
    ASSERT_EQ(drawn.status, 0) << drawn.err;
    const auto json = nlohmann::json::parse(drawn.out);
    EXPECT_EQ(json["mains"].size(), 5U);
    EXPECT_NEAR(json["mains"][0]["diameter"]["upper"].get<double>(), 0.019, 1e-12);
    const std::string blueprint = write("four.pallix-blueprint.json", drawn.out);
    const Outcome looked = run("blueprint check --blueprint " + blueprint);
    EXPECT_EQ(looked.status, 0);
    EXPECT_THAT(looked.out, HasSubstr("a four: 5 mains, 1 deck, 4 cylinders, 0 lifter bores, 0 dowels, no cam."));
    EXPECT_THAT(looked.out, HasSubstr("No origin dowel"));
    EXPECT_EQ(run("blueprint check --blueprint - < " + recipe).out, looked.out);
}

// A deck of four circles of 80 at 90, drawn in inches that nobody names.
TEST_F(Cli, MakesARecipeOfADrawing) {
    std::string dxf = "0\nSECTION\n2\nENTITIES\n";
    for (int i = 0; i < 4; ++i)
        dxf += "0\nCIRCLE\n8\n0\n10\n" + std::to_string(i * 90 / 25.4) + "\n20\n0\n40\n" + std::to_string(40 / 25.4) +
               "\n";
    const std::string drawing = write("deck.dxf", dxf + "0\nENDSEC\n0\nEOF\n");
    const Outcome silent = run("blueprint from-dxf " + drawing);
    EXPECT_EQ(silent.status, 1);
    EXPECT_THAT(silent.err, HasSubstr("does not say its unit"));
    const Outcome made = run("blueprint from-dxf " + drawing + " --pitch '90 mm'");
    ASSERT_EQ(made.status, 0) << made.err;
    EXPECT_THAT(made.err, HasSubstr("4 cylinders of 80"));
    const auto json = nlohmann::json::parse(made.out);
    EXPECT_NEAR(std::stod(json["figures"]["pitch"].get<std::string>()), 90, 1e-4);
    EXPECT_EQ(json["origins"]["pitch"]["from"], "drawing");
    EXPECT_EQ(run("blueprint from-dxf " + drawing + " --unit cm").status, 2);
    const Outcome help = run("blueprint from-dxf --help");
    EXPECT_THAT(help.out, HasSubstr("example: "));
}

// A shipped log of the harbour's tender taught without its blueprint.
TEST_F(Cli, MakesARecipeOfTablesAndOfGoodBlocks) {
    const std::string table = write("sheet.csv", "layout;inline\nbore;82,5 +0,02 0\nweight;90\n");
    const Outcome figures = run("blueprint from-table " + table);
    ASSERT_EQ(figures.status, 0) << figures.err;
    EXPECT_EQ(nlohmann::json::parse(figures.out)["figures"]["bore"], "82,5 +0,02 0");
    EXPECT_THAT(figures.err, HasSubstr("passed over: row 3: weight | 90"));
    EXPECT_EQ(run("blueprint from-table " + write("none.csv", "a;b\n")).status, 1);
    const std::string log = std::string(PALLIX_DEMO_DATA) + "/samphire-as-found.csv";
    const Outcome taught = run("blueprint from-probe " + log);
    ASSERT_EQ(taught.status, 0) << taught.err;
    const auto json = nlohmann::json::parse(taught.out);
    EXPECT_EQ(json["figures"]["mains"], "5");
    EXPECT_EQ(json["origins"]["main_pitch"]["blocks"], 1);
    EXPECT_EQ(run("blueprint from-probe /nowhere.csv").status, 1);
    const std::string recipe = write("four.pallix-recipe.json", R"({ "format": "pallix-recipe", "version": 1,
 "figures": { "layout": "inline", "clocking": "decks", "cylinders": 4, "bore": "82 H8", "pitch": 94,
  "deck_height": "208.5 ±0.05", "main_size": "58 H6" } })");
    EXPECT_EQ(run("blueprint to-dxf --blueprint " + recipe + " --out " + write("out.dxf", "")).status, 0);
    EXPECT_EQ(run("blueprint to-dxf --blueprint " + recipe + " --out /nowhere/out.dxf").status, 1);
}

TEST_F(Cli, RefusesARecipeByFigureAndLine) {
    const std::string recipe = write("r.json", "{ \"format\": \"pallix-recipe\", \"version\": 1,\n \"figures\": {\n"
                                               "  \"bore\": \"wide\" } }");
    const Outcome refused = run("blueprint new --recipe " + recipe);
    EXPECT_EQ(refused.status, 1);
    EXPECT_TRUE(refused.out.empty());
    EXPECT_THAT(refused.err, HasSubstr("r.json:3: bore: "));
    EXPECT_THAT(refused.err, HasSubstr("layout is missing"));
    EXPECT_EQ(run("blueprint new").status, 2);
    EXPECT_EQ(run("blueprint").status, 2);
}

TEST_F(Cli, ConvertsAShopsOwnLogAndSaysHowItWasUnderstood) {
    const std::string log = write("deck.txt", "Machine 4\nMerkmal;X;Y;Z\nHL1;1,5;-2;3\n");
    EXPECT_EQ(run("convert " + log).status, 1);
    const std::string mapping = write("m.json", R"({"format": "pallix-log-mapping", "version": 1,
 "columns": {"feature": "Merkmal", "y": "-Y"}, "features": {"HL{n}": "main.{n}"}})");
    const Outcome made = run("convert --mapping " + mapping + " " + log);
    EXPECT_EQ(made.status, 0) << made.err;
    EXPECT_EQ(made.out, "# pallix-probe-log: 1\n# unit: mm\nfeature,x,y,z\nmain.1,1.5,2,3\n");
    EXPECT_THAT(made.err, HasSubstr("understood: decimal comma"));
    EXPECT_EQ(run("convert --mapping " + mapping + " - < " + log).out, made.out);
    EXPECT_EQ(run("convert").status, 2);
}

// A run without a name in it: laid on the blueprint, kept as a program, and a recipe taught by it.
TEST_F(Cli, NamesTouchesByWhereTheyLie) {
    const std::string demo = std::string(PALLIX_DEMO_DATA);
    std::ifstream in(demo + "/samphire-as-found.csv");
    std::string bare;
    for (std::string line; std::getline(in, line);)
        if (!line.starts_with('#') && !line.starts_with("setup")) {
            auto at = line.find(',', line.find(',', line.find(',') + 1) + 1); // after set-up, feature and level
            std::string numbers = line.substr(at + 1);
            std::ranges::replace(numbers, ',', ' ');
            bare += numbers + "\n";
        }
    const std::string log = write("run.txt", bare), blueprint = demo + "/tender-inline-four.pallix-blueprint.json";
    EXPECT_EQ(run("convert " + log).status, 1);
    const Outcome laid = run("convert --blueprint " + blueprint + " " + log);
    ASSERT_EQ(laid.status, 0) << laid.err;
    EXPECT_THAT(laid.err, HasSubstr("line 1, 8 touches: main.1 front, sure"));
    std::string stated = laid.out; // as the log with names states it in its head
    stated.insert(stated.find('\n') + 1, "# touch_uncertainty: 0.0012\n");
    const auto by_place = run("evaluate --blueprint " + blueprint + " --probe " + write("laid.csv", stated));
    const auto by_name = run("evaluate --blueprint " + blueprint + " --probe " + demo + "/samphire-as-found.csv");
    ASSERT_EQ(by_place.status, 0) << by_place.err;
    EXPECT_EQ(by_place.out, by_name.out);
    const Outcome mapping = run("convert --suggest --blueprint " + blueprint + " " + log);
    EXPECT_EQ(nlohmann::json::parse(mapping.out)["program"][0]["feature"], "main.1");
    EXPECT_EQ(run("convert --mapping " + write("m.json", mapping.out) + " " + log).out, laid.out);
    const Outcome taught = run("blueprint from-probe --by-shape " + log);
    ASSERT_EQ(taught.status, 0) << taught.err;
    EXPECT_EQ(nlohmann::json::parse(taught.out)["figures"],
              nlohmann::json::parse(run("blueprint from-probe " + demo + "/samphire-as-found.csv").out)["figures"]);
    EXPECT_EQ(run("blueprint from-probe " + log).status, 1);
    // What is the same from both ends is not guessed at.
    std::string mains;
    for (int n = 0; n < 5; ++n)
        for (const auto& [y, z] : {std::pair(29, 0), {0, 29}, {-29, 0}, {0, -29}})
            mains += std::to_string(20 + 94 * n) + " " + std::to_string(y) + " " + std::to_string(z) + "\n";
    const Outcome open = run("convert --blueprint " + blueprint + " " + write("mains.txt", mains));
    EXPECT_EQ(open.status, 1);
    EXPECT_TRUE(open.out.empty());
}

TEST_F(Cli, MakesPlaysAndScoresAnExercise) {
    const std::string job = (folder_ / "job.pallix.json").string(), played = (folder_ / "played.pallix.json").string(),
                      opened = (folder_ / "opened.pallix.json").string();
    EXPECT_THAT(run("practice list").out, HasSubstr("bowed_tunnel\t1\tA bowed tunnel\n"));
    ASSERT_EQ(run("practice new --theme straightedge --level 2 --number 5 --out " + job).status, 0);
    const std::string text = pallix::test::read_file(job);
    EXPECT_THAT(text, HasSubstr("\"practice\""));
    EXPECT_EQ(text.find("dip_depth"), std::string::npos) << "its truth is sealed";
    ASSERT_EQ(run("practice play --job " + job + " --out " + played).status, 0);
    const Outcome sealed = run("practice score --job " + played);
    EXPECT_EQ(sealed.status, 1);
    EXPECT_THAT(sealed.err, HasSubstr("its truth is sealed, expected --open"));
    const Outcome score = run("practice score --job " + played + " --open --out " + opened);
    ASSERT_EQ(score.status, 0) << score.err;
    const auto json = nlohmann::json::parse(score.out);
    EXPECT_EQ(json["format"], "pallix-reckoning");
    double parts = 0;
    for (const auto& part : json["own"]["parts"])
        parts += part.get<double>();
    EXPECT_NEAR(json["own"]["score"].get<double>(), parts, 1e-9);
    EXPECT_NEAR(json["own"]["score"], json["player"]["score"], 1e-9) << "it is the player's own job";
    EXPECT_GE(json["own"]["score"].get<double>(), 80);
    EXPECT_EQ(nlohmann::json::parse(run("practice score --job " + opened).out), json)
        << "opened, it can be asked again";
    EXPECT_THAT(run("practice score --format text --job " + opened).out, HasSubstr("of 100"));
    ASSERT_EQ(run("practice play --careless --job " + job + " --out " + played).status, 0);
    EXPECT_LT(nlohmann::json::parse(run("practice score --open --job " + played).out)["own"]["score"].get<double>(),
              json["own"]["score"].get<double>());
}

TEST_F(Cli, SaysWhatIsWrongWithPractice) {
    const std::string out = (folder_ / "x.pallix.json").string();
    const Outcome theme = run("practice new --theme bowed --out " + out);
    EXPECT_EQ(theme.status, 1);
    EXPECT_THAT(theme.err, HasSubstr("--theme: is \"bowed\", expected one of straightedge, bowed_tunnel"));
    EXPECT_FALSE(std::filesystem::exists(out));
    EXPECT_EQ(run("practice").status, 2);
    EXPECT_EQ(run("practice new --theme bowed_tunnel --level 4 --out " + out).status, 2);
    EXPECT_EQ(run("practice new --theme bowed_tunnel --out " + (folder_ / "none" / "x.json").string()).status, 1);
    const std::string real =
        write("real.pallix.json",
              R"({"format":"pallix-job","version":1,"entries":[{"sequence":1,"time":"2026-03-02T09:00:00Z",)"
              R"("person":"x","kind":"job_opened","version":1,"payload":{"title":"t","customer":"",)"
              R"("blueprint_file":"b","blueprint":"{}"}}]})");
    for (const char* what : {"play --out ", "score --open --out "}) {
        const Outcome none = run("practice " + std::string(what) + out + " --job " + real);
        EXPECT_EQ(none.status, 1);
        EXPECT_THAT(none.err, testing::Not(testing::IsEmpty())) << what;
    }
}

TEST_F(Cli, MakesAnExerciseOfTheShopsOwn) {
    const std::string file = (folder_ / "own.pallix-exercise.json").string(),
                      job = (folder_ / "j.pallix.json").string();
    const std::string make = "practice make --blueprint " + pallix::test::example("i4/block.pallix-blueprint.json") +
                             " --title Spare --scope tunnel --scope decks --out " + file + " --error ";
    const Outcome wrong = run(make + "'main.1 bent 0.03'");
    EXPECT_EQ(wrong.status, 1);
    EXPECT_THAT(wrong.err, HasSubstr("errors:1: \"bent\" is no error of main.1"));
    EXPECT_FALSE(std::filesystem::exists(file)) << "nothing is half made";
    const Outcome made = run(make + "'main.2 up 0.03' --error 'deck.C slope 0.02'");
    ASSERT_EQ(made.status, 0) << made.err;
    ASSERT_EQ(run("practice new --exercise " + file + " --out " + job).status, 0);
    const Outcome score = run("practice score --open --job " + job);
    ASSERT_EQ(score.status, 0) << score.err;
    EXPECT_FALSE(nlohmann::json::parse(score.out)["own"]["finished"].get<bool>());
    EXPECT_EQ(run("practice new --out " + job).status, 2) << "of a theme, or of a file";
    EXPECT_EQ(run("practice new --exercise " + job + " --out " + job).status, 1);
}
