// SPDX-License-Identifier: GPL-3.0-or-later
// The manual that ships speaks of everything the program may ask, hold back or doubt.
#include "wording/manual/manual.h"

#include "wording/manual/manual_places.h"

#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <iterator>
#include <regex>
#include <set>

namespace {

using namespace pallix;
using wording::Manual;

std::vector<std::string> shipped_chapters() {
    std::set<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(PALLIX_DOCS "/../assets/manual"))
        files.insert(entry.path());
    std::vector<std::string> chapters;
    for (const auto& file : files) {
        std::ifstream in(file);
        chapters.emplace_back(std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>());
    }
    return chapters;
}

const Manual& shipped() {
    static const Manual manual(shipped_chapters());
    return manual;
}

/// Every one of an enumeration, from the first to the last, has a paragraph.
template <class Enum>
void expect_spoken_of(Enum last) {
    for (int i = 0; i <= static_cast<int>(last); ++i) {
        const std::string id = wording::manual_place(static_cast<Enum>(i));
        const wording::ManualSection* section = shipped().find(id);
        ASSERT_NE(section, nullptr) << "the manual has no paragraph " << id;
        EXPECT_GT(section->body.size(), 20U) << id;
    }
}

TEST(Manual, SpeaksOfEveryStepGateAndQuestion) {
    expect_spoken_of(planning::Task::sign_off);
    expect_spoken_of(planning::StepKind::hand_over);
    expect_spoken_of(block::Rule::order);
    expect_spoken_of(planning::SecondLook::learner);
    expect_spoken_of(block::Suspicion::unlike_neighbours);
    expect_spoken_of(planning::ZeroDoubted::taken);
    expect_spoken_of(planning::BlueprintDoubtKind::chain);
    expect_spoken_of(planning::RemarkKind::not_needed);
}

TEST(Manual, NamesEachPlaceOnceAndEveryLinkLeadsSomewhere) {
    std::set<std::string> known;
    for (const auto& section : shipped().sections()) {
        EXPECT_TRUE(known.insert(section.id).second) << section.id << " stands twice";
        EXPECT_FALSE(section.title.empty());
        EXPECT_NE(section.body.size() + static_cast<std::size_t>(section.level == 1 || section.level == 2), 0U)
            << section.id << " says nothing";
    }
    const std::regex link(R"(\(manual:([a-z_-]+)\))");
    for (const std::string& chapter : shipped_chapters())
        for (std::sregex_iterator at(chapter.begin(), chapter.end(), link), end; at != end; ++at)
            EXPECT_TRUE(known.contains((*at)[1])) << (*at)[1];
}

TEST(Manual, EveryHeadingHasAName) {
    for (const std::string& chapter : shipped_chapters())
        for (std::size_t at = chapter.find("\n#"); at != std::string::npos; at = chapter.find("\n#", at + 1)) {
            const std::string line = chapter.substr(at + 1, chapter.find('\n', at + 1) - at - 1);
            EXPECT_TRUE(line.ends_with("}") && line.find(" {#") != std::string::npos) << line;
        }
}

TEST(Manual, ReadsAChapterAsItIsWritten) {
    const Manual manual({"# One {#one}\n\nSome *words*.\n\n## Two {#word-two}\n*Also: twos, a pair.* After *one*.\n"});
    ASSERT_EQ(manual.sections().size(), 2U);
    EXPECT_EQ(manual.sections()[1].title, "Two");
    EXPECT_EQ(manual.sections()[1].level, 2);
    EXPECT_EQ(manual.sections()[1].also, (std::vector<std::string>{"twos", "a pair"}));
    EXPECT_EQ(Manual::meaning(manual.sections()[1]), "After one.");
    EXPECT_EQ(manual.chapter(0), "# One\n\nSome *words*.\n\n## Two\n\n*Also: twos, a pair.* After *one*.\n\n");
}

TEST(Manual, FindsByWordsTitlesFirst) {
    const Manual manual({"# A {#a}\n\nThe cap is cut.\n\n# Cut the cap {#b}\n\nx\n\n# C {#c}\n\nnothing\n"});
    const auto found = manual.search(" CUT cap ");
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0]->id, "b");
    EXPECT_EQ(found[1]->id, "a");
    EXPECT_TRUE(manual.search("  ").empty());
    EXPECT_TRUE(manual.search("capstan").empty());
}

// "the parting face of the caps": the longest word that stands there, each once, none within another word.
TEST(Manual, FindsWordsOfTheTradeInASentence) {
    const Manual manual({"# Face {#word-face}\nx\n# Parting face {#word-parting}\nx\n# Cap {#word-cap}\n*Also: caps.* "
                         "x\n"});
    const std::string sentence = "Off the parting face of caps; a cap is no capstan. Ein Käppcap.";
    const auto words = manual.words_in(sentence);
    ASSERT_EQ(words.size(), 2U);
    EXPECT_EQ(sentence.substr(words[0].begin, words[0].size), "parting face");
    EXPECT_EQ(sentence.substr(words[1].begin, words[1].size), "caps");
}

TEST(Manual, FindsTheWordsOfACall) {
    std::set<std::string> ids;
    for (const auto& word : shipped().words_in("Deburred, registers snug, back in their places; then every main is "
                                               "swept, and the saddle of main 2 stands 3 tenths proud."))
        ids.insert(word.section->id);
    EXPECT_EQ(ids, (std::set<std::string>{"word-register", "word-main", "word-sweep", "word-saddle", "word-tenth",
                                          "word-proud"}));
}

} // namespace
