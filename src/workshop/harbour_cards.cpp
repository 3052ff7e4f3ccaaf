// SPDX-License-Identifier: GPL-3.0-or-later
// What the harbour's shop knows of its jobs besides their metal. Invented, as all of the harbour is.
#include "block/digest.h"
#include "block/times.h"
#include "workshop/harbour.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>
#include <string_view>

namespace pallix::workshop {
namespace {

using namespace block;

struct Card {
    std::string_view title; ///< how the job's begins
    JobCard card;
    std::vector<PartNoted> parts{};
    std::vector<HoldPlaced> holds{};
};

std::vector<Card> cards() {
    return {
        {"Puffling, port",
         {"casting K-60, cast in 0417",
          "",
          "radio, channel 12",
          "loses gaskets, left bank",
          "decked once, years ago",
          Use::work,
          "diesel",
          "",
          "composite, 1.2 mm",
          "both engines alike",
          {},
          "2026-03-20"},
         {{"gasket set, both banks", false, "ordered at the chandler's", "2026-03-04", {}},
          {"head bolts", true, "shelf 3", "", {}}}},
        {"Puffling, starboard",
         {"casting K-60, cast in 0418",
          "",
          "radio, channel 12",
          "overhaul with the port engine",
          "",
          Use::work,
          "diesel",
          "",
          "composite, 1.2 mm",
          "",
          {},
          "2026-03-20"}},
        {"Eider",
         {"casting S-4", "", "the yard's office", "one cylinder scored by a broken ring", "never bored", Use::work,
          "diesel", "", "", "first oversize if it can be", 0.5, "2026-03-13"},
         {{"pistons, first oversize", true, "shelf 1", "", {}}}},
        {"Gannet",
         {"casting F-8, cast in 2210",
          "",
          "the ferry's engineer",
          "knocks when cold",
          "lifters bushed at the works",
          Use::work,
          "diesel",
          "0.6 bar",
          "steel",
          "",
          {},
          "2026-03-10"},
         {{"ring set", false, "with the mail boat", "2026-03-09", {}}}},
        {"Tystie",
         {"casting H-6",
          "",
          "the harbour office",
          "runs rough since the flood",
          "",
          Use::work,
          "diesel",
          "",
          "",
          "",
          {},
          "2026-03-17"}},
        {"Samphire",
         {"casting T-4",
          "",
          "the farm's boat, mornings",
          "water in the oil",
          "",
          Use::work,
          "petrol",
          "",
          "",
          "deck, nothing more",
          {},
          "2026-03-06"}},
        {"Lantern",
         {"casting L-4",
          "",
          "the trust's office",
          "to be run slowly, in a museum's boat",
          "",
          Use::work,
          "paraffin",
          "",
          "",
          "",
          {},
          ""},
         {},
         {{"the trust", "whether a sleeve may be fitted", {}}}},
    };
}

} // namespace

void add_cards(std::vector<DemoJob>& jobs) {
    constexpr std::string_view written = "2026-03-05T15:00:00Z"; // after all of them
    std::vector<std::string> given;
    for (const Card& card : cards()) {
        const auto job = std::ranges::find_if(jobs, [&card](const DemoJob& one) {
            return std::get<JobOpened>(one.entries.front().payload).title.starts_with(card.title);
        });
        if (job == jobs.end())
            continue;
        const auto add = [&](Payload payload) {
            job->entries.push_back({static_cast<std::int64_t>(job->entries.size() + 1), std::string(written), "Marit",
                                    std::move(payload)});
        };
        add(card.card);
        for (const PartNoted& part : card.parts)
            add(part);
        for (const HoldPlaced& hold : card.holds)
            add(hold);
        given.push_back(next_serial(harbour_papers().serial_pattern, std::string(written), given));
        add(SerialGiven{given.back(), ""});
    }
}

ShopPapers harbour_papers() {
    ShopPapers papers;
    papers.shop = "Harbour workshop, Skarvoy";
    papers.serial_pattern = "S{yy}-{nnn}";
    papers.machines = {*read_axes("boring mill", "X Y Z"), *read_axes("surfacer", "Y -X Z")};
    return papers;
}

std::vector<DemoJob> harbour_past() {
    const std::vector<DemoFile> files = harbour_files();
    const auto blueprint = std::ranges::find_if(files, [](const DemoFile& f) {
        return f.name.find("workboat") != std::string::npos && f.name.ends_with("blueprint.json");
    });
    constexpr std::array boats{"Fulmar", "Skua", "Whimbrel", "Dunlin", "Petrel", "Turnstone", "Razorbill"};
    std::mt19937_64 random(60);
    const auto about = [&random](double mean, double spread) {
        return std::normal_distribution<double>(mean, spread)(random);
    };
    std::vector<DemoJob> jobs;
    for (std::size_t i = 0; i < boats.size(); ++i) {
        PracticeBlock block{workboat_v6(), {}};
        block.tunnel_sag = about(0.006, 0.002);
        for (const BankBlueprint& bank : block.blueprint.banks) {
            const metrology::Vec2 shift{about(0.05, 0.02), about(bank.id == "R" ? 0.08 : -0.06, 0.02)};
            for (const auto& bore : block.blueprint.bores)
                if (bore.id.bank == bank.id)
                    block.holes[bore.id] = {shift, {}, 0.02, about(0.05, 0.015), 0.01};
            DeckTruth& deck = block.decks[bank.id];
            deck.offset = 0.15;
            deck.rear_over_front = about(0.03, 0.012);
            deck.positive_over_negative = about(0.01, 0.01);
            deck.crown = about(0.012, 0.004);
        }
        ProbeJob probing;
        probing.seed = 600 + i;
        probing.holes = true;
        probing.stated_uncertainty = 0.001;
        const std::string log = probe(block, probing);
        const auto opened = *read_time("2025-07-07T07:30:00Z") + std::chrono::days(30 * static_cast<int>(i));
        double minutes = 0;
        DemoJob job;
        const auto add = [&](double after, Payload payload) {
            minutes += after;
            job.entries.push_back({static_cast<std::int64_t>(job.entries.size() + 1),
                                   time_text(opened + std::chrono::seconds(std::lround(60 * minutes))),
                                   i % 2 == 0 ? "Marit" : "Jorun", std::move(payload)});
        };
        add(0, JobOpened{std::string(boats[i]) + ", engine", "the " + std::string(boats[i]) + "'s owner",
                         blueprint->name, blueprint->text});
        add(45 + about(0, 5), StepDone{"washed"});
        add(25 + about(0, 4), StepDone{"inspected for cracks, threads, caps and registers"});
        add(22 + about(0, 3), ProbeLogTaken{"as found.csv", sha256_hex(log), log, 0.001, false});
        for (const BankBlueprint& bank : block.blueprint.banks) {
            const DeckTruth& deck = block.decks.at(bank.id);
            const double clean = deck.rear_over_front + std::abs(deck.positive_over_negative) + deck.crown;
            add(1, DeckForecastKept{bank.id, 0.8 * clean, 1.3 * clean, 0, 0, {}});
            add(20 + about(0, 3), DeckCut{bank.id, PassKind::witness, 0.01, false, {}});
            add(11 + about(0, 2), DeckCut{bank.id, PassKind::pass, clean / 2, false, {}});
            add(12 + about(0, 2),
                DeckCut{bank.id, PassKind::finish, std::max(0.005, clean / 2 - 0.01) + 0.005, true, {}});
        }
        add(30, Delivered{"the " + std::string(boats[i]) + "'s owner", "decks only"});
        jobs.push_back(std::move(job));
    }
    return jobs;
}

void shift_days(std::vector<DemoJob>& jobs, int days) {
    const auto day = [days](std::string& text) {
        if (const auto read = read_day(text))
            text = day_text(*read + std::chrono::days(days));
    };
    const auto time = [days](std::string& text) {
        if (const auto read = read_time(text))
            text = time_text(*read + std::chrono::days(days));
    };
    for (DemoJob& job : jobs)
        for (Entry& entry : job.entries) {
            time(entry.time);
            if (auto* card = std::get_if<JobCard>(&entry.payload))
                day(card->promised);
            else if (auto* part = std::get_if<PartNoted>(&entry.payload))
                day(part->due);
            else if (auto* rest = std::get_if<RestBegun>(&entry.payload))
                time(rest->until);
            else if (auto* clock = std::get_if<ClockSet>(&entry.payload))
                time(clock->until);
        }
}

} // namespace pallix::workshop
