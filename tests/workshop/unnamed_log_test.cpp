// SPDX-License-Identifier: GPL-3.0-or-later
// Whole logs without names, read by where their touches lie and then by the order of their program.
#include "block/unnamed/named_log.h"

#include "block/evaluation_uncertainty.h"
#include "block/number_text.h"
#include "probe_rows.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <random>
#include <string_view>

using namespace pallix;
using namespace pallix::block;
using pallix::test::probe_rows;
using testing::HasSubstr;

namespace {

struct Shop {
    const char* name;
    std::string head;
    std::string order; ///< of the columns: x, y, z; n counts, f is a word for the place, l its level
    bool comma = false;
    enum { nothing, gap, line, element } between = nothing; ///< what stands between places
};

void PrintTo(const Shop& shop, std::ostream* out) {
    *out << shop.name;
}

/// A log of ours as that shop's machine writes it.
std::string written(const std::string& ours, const Shop& shop) {
    std::string out = shop.head, before;
    int count = 0, places = 0;
    for (const auto& f : probe_rows(ours)) {
        if (f[1] + f[2] != before) {
            ++places;
            out += shop.between == Shop::gap && !before.empty() ? "\n"
                   : shop.between == Shop::line ? "Place no. " + std::string(1, static_cast<char>('A' + places % 26)) +
                                                      std::string(static_cast<std::size_t>(places / 26), 'x') + "\n"
                                                : "";
        }
        before = f[1] + f[2];
        for (const char c : shop.order) {
            std::string field = c == 'x'   ? f[3]
                                : c == 'y' ? f[4]
                                : c == 'z' ? f[5]
                                : c == 'n' ? std::to_string(++count)
                                : c == 'f' ? "EL_" + std::to_string(places)
                                           : std::string(1, c);
            if (shop.comma)
                std::ranges::replace(field, '.', ',');
            out += field;
        }
        out += "\n";
    }
    return out;
}

class UnnamedLog : public testing::TestWithParam<Shop> {};

std::string ours_of(const Blueprint& b, std::uint64_t seed) {
    workshop::PracticeBlock p{b, {}, 0.02, 0.01, 0, {}};
    for (const BankBlueprint& bank : b.banks)
        p.decks[bank.id] = {0.15, 0.05, -0.04, 0.03, 0.02, {}, 0, 30, {}};
    workshop::ProbeJob job;
    job.holes = true;
    job.seed = seed;
    return workshop::probe(p, job);
}

/// A log's evaluation, as text.
std::string evaluated(const std::string& log, const Blueprint& b) {
    const auto read = read_probe_logs(std::vector<NamedText>{{"log", log}}, b);
    if (!read)
        return read.error().front().text();
    const auto e = evaluate(b, *read);
    return e ? evaluation_json(*e, Unit::mm, nullptr) : e.error().front().text();
}

} // namespace

TEST_P(UnnamedLog, IsReadByWhereItsTouchesLieAndTheNextOneByItsOrder) {
    const Shop& shop = GetParam();
    for (const Blueprint& b : {workshop::tender_inline_four(), workshop::ferry_v8()}) {
        const std::string first = ours_of(b, 1), text = written(first, shop);
        const LogLook look = look_at_log(text, "log.txt");
        EXPECT_FALSE(look.converted);
        const NamedLog named = name_log(look, {}, {}, &b);
        EXPECT_THAT(named.named.open, testing::IsEmpty());
        const auto converted = convert_log(text, "log.txt", named.mapping);
        ASSERT_TRUE(converted) << converted.error().front().text();
        EXPECT_EQ(evaluated(converted->log, b), evaluated(first, b));
        // The next block, read by the mapping as it is kept in a file; there nothing is looked for.
        const auto kept = read_mapping(write_mapping(named.mapping), "m.json");
        ASSERT_TRUE(kept) << kept.error().front().text();
        const std::string second = ours_of(b, 2);
        const auto next = convert_log(written(second, shop), "log.txt", *kept);
        ASSERT_TRUE(next) << next.error().front().text();
        EXPECT_EQ(evaluated(next->log, b), evaluated(second, b));
    }
}

INSTANTIATE_TEST_SUITE_P(Shops, UnnamedLog,
                         testing::Values(Shop{"bare", "", "x y z"}, Shop{"bare_commas", "", "x;y;z", true},
                                         Shop{"headed", "X;Y;Z\n", "x;y;z"}, Shop{"counted", "", "n\tx\ty\tz", true},
                                         Shop{"gaps", "", "x,y,z", false, Shop::gap},
                                         Shop{"lines_between", "Block 7\n", "x y z", false, Shop::line},
                                         Shop{"words_of_its_own", "Element;X;Y;Z\n", "f;x;y;z", true, Shop::element},
                                         Shop{"across", "X;Y;Z\n", "y;x;z"}), // its x runs across, left-handed
                         [](const auto& i) { return std::string(i.param.name); });

TEST(UnnamedLogs, OfAnotherProgramAreRefusedByTheNumberOfTheirTouches) {
    const Blueprint b = workshop::tender_inline_four();
    const std::string text = written(ours_of(b, 1), {"bare", "", "x y z"});
    LogMapping m = name_log(look_at_log(text, "log.txt"), {}, {}, &b).mapping;
    const auto shorter = convert_log(text.substr(0, text.rfind('\n', text.size() - 2) + 1), "log.txt", m);
    ASSERT_FALSE(shorter);
    EXPECT_THAT(shorter.error().front().text(), HasSubstr("touches, expected"));
    m.program.front().feature = "crank";
    const auto odd = convert_log(text, "log.txt", m);
    ASSERT_FALSE(odd);
    EXPECT_THAT(odd.error().front().text(), HasSubstr("its mapping names “crank”"));
    EXPECT_FALSE(read_mapping(write_mapping(m), "m.json")) << "and as a file it is no mapping";
}

// Two banks in two set-ups: without their turns one would be laid into the other.
TEST(UnnamedLogs, OfARolledBlockAskHowFarItWasTurned) {
    const Blueprint b = workshop::ferry_v8();
    workshop::PracticeBlock p{b, {{"R", {}}, {"L", {}}}, 0, 0, 0, {}};
    workshop::ProbeJob job;
    job.rolled = true;
    const std::string ours = workshop::probe(p, job);
    std::string theirs = "Fixture;Name;Level;X;Y;Z\n";
    for (const auto& f : probe_rows(ours))
        theirs += f[0] + ";" + f[1] + ";" + f[2] + ";" + f[3] + ";" + f[4] + ";" + f[5] + "\n";
    const LogLook look = look_at_log(theirs, "log.txt");
    ASSERT_FALSE(look.converted);
    EXPECT_THAT(look.converted.error().front().text(), HasSubstr("how far the block was turned in set-up"));
    EXPECT_THAT(look.lacks.turns, testing::UnorderedElementsAre("R", "L"));
    LogMapping m;
    for (const BankBlueprint& bank : b.banks) // as the harbour's probe has it: docs/formats.md, the head of its log
        m.setups[bank.id] = {bank.angle, 12, -9.5};
    const auto read = read_mapping(write_mapping(m), "m.json");
    ASSERT_TRUE(read) << read.error().front().text();
    const auto converted = convert_log(theirs, "log.txt", *read);
    ASSERT_TRUE(converted) << converted.error().front().text();
    const auto value = [&](const std::string& log) {
        const auto e = evaluate(b, *read_probe_logs(std::vector<NamedText>{{"log", log}}, b));
        return e->decks.front().height_mean;
    };
    EXPECT_NEAR(value(converted->log), value(ours), 1e-9);
}

TEST(UnnamedLogs, TakeTheTurnOfTheBlockFromAColumnOrFromATouchOn) {
    const std::string rows = "Name;X;Y;Z;Rotation\nmain 1;1;2;3;0\nmain 2;4;5;6;-30,5\n";
    const auto by_column = convert_log(rows, "log.txt", {});
    ASSERT_TRUE(by_column) << by_column.error().front().text();
    EXPECT_THAT(by_column->log, HasSubstr("# setup.at -30_5.rotation_deg: -30.5\n"));
    EXPECT_THAT(by_column->log, HasSubstr("at -30_5,main.2,4,5,6\n"));
    EXPECT_THAT(by_column->understood, testing::Contains(HasSubstr("no axis is stated")));
    // The turn is what counts, whatever the set-up is called; a turn that is no number is refused.
    const auto both = convert_log("Setup;Name;X;Y;Z;Rotation\nA;main 1;1;2;3;0\nA;main 2;4;5;6;30\n", "log.txt", {});
    ASSERT_TRUE(both) << both.error().front().text();
    EXPECT_THAT(both->log, HasSubstr("at 30,main.2,4,5,6\n"));
    const auto odd = convert_log("Name;X;Y;Z;Rotation\nmain 1;1;2;3;up\n", "log.txt", {});
    ASSERT_FALSE(odd);
    EXPECT_EQ(odd.error().size(), 1U);
    EXPECT_THAT(odd.error().front().text(), HasSubstr("log.txt:2: rotation is “up”"));
    LogMapping stated;
    stated.setups["at 30"] = {30 * radians_per_degree, 12, -9.5};
    const auto about = convert_log("Name;X;Y;Z;Rotation\nmain 1;1;2;3;30\n", "log.txt", stated);
    ASSERT_TRUE(about);
    EXPECT_THAT(about->log, HasSubstr("# setup.at 30.axis_y: 12\n"));
    LogMapping m;
    m.setups["#2"] = {0.5 * radians_per_degree, 1, 2};
    const auto from = convert_log("Name;X;Y;Z\nmain 1;1;2;3\nmain 2;4;5;6\n", "log.txt", m);
    ASSERT_TRUE(from) << from.error().front().text();
    EXPECT_THAT(from->log, HasSubstr("# setup.from 2.rotation_deg: 0.5\n# setup.from 2.axis_y: 1\n"));
    EXPECT_THAT(from->log, HasSubstr("\n,main.1,1,2,3\nfrom 2,main.2,4,5,6\n"));
}

// Logs without names as no machine writes them: cut, doubled, mixed up, with numbers that are none or too large. Each
// ends in a message or in a log whose every row is a touch.
TEST(UnnamedLogs, HostileOnesEndInAMessageOrAreRead) {
    const Blueprint b = workshop::tender_inline_four();
    std::string whole = written(ours_of(b, 1), {"bare", "", "x;y;z"});
    whole.resize(whole.find('\n', 3000) + 1);
    std::mt19937 dice(20261126);
    const auto any = [&](std::size_t n) { return std::uniform_int_distribution<std::size_t>(0, n - 1)(dice); };
    const std::vector<std::string> odd{"nan",       "1e308", "-1e308", "inf", ";",       "\n\n", "-", "0",
                                       "999999999", "\t",    ",",      "x",   "0;0;0\n", "#",    "\""};
    std::size_t read = 0, refused = 0;
    for (int i = 0; i < 40; ++i) {
        std::string text = whole;
        const auto line_at = [&](std::size_t at) { return text.rfind('\n', at) + 1; }; // 0 for the first
        for (std::size_t k = 0; k < 1 + any(6); ++k) {
            const std::size_t from = line_at(any(text.size())),
                              to = std::min(text.find('\n', from), text.size() - 1) + 1;
            if (i % 2 == 0) // whole rows lost, doubled or moved
                text = any(2) == 0 ? text.erase(from, to - from)
                                   : text.insert(line_at(any(text.size())), text.substr(from, to - from));
            else if (any(2) == 0)
                text.erase(any(text.size()), any(40));
            else
                text.insert(any(text.size()), odd[any(odd.size())]);
        }
        for (const Blueprint* known : {static_cast<const Blueprint*>(nullptr), &b}) {
            const LogLook look = look_at_log(text, "log.txt");
            const NamedLog named = name_log(look, {}, {}, known);
            ASSERT_EQ(named.groups.size(), named.named.names.size());
            const auto converted = convert_log(text, "log.txt", named.mapping);
            if (!converted) {
                ++refused;
                ASSERT_FALSE(converted.error().empty());
                continue;
            }
            ++read;
            const auto rows =
                std::ranges::count_if(std::string_view(converted->log), [](char c) { return c == '\n'; }) -
                std::ranges::count(std::string_view(converted->log), '#') - 1;
            EXPECT_EQ(static_cast<std::size_t>(rows), converted->touches);
        }
    }
    EXPECT_GT(read, 10U);
    EXPECT_GT(refused, 10U);
}
