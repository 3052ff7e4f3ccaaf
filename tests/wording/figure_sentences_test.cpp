// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/figure_sentences.h"

#include "planning/story.h"

#include <gmock/gmock.h>
#include <set>

using namespace pallix;
using namespace pallix::wording;
using testing::HasSubstr;

namespace {

const block::FeatureId first = *block::FeatureId::parse("bore.C.1");
const auto all = {FiguresOf::tunnel,        FiguresOf::decks,   FiguresOf::cutter, FiguresOf::mock_up,
                  FiguresOf::cylinder_size, FiguresOf::boring,  FiguresOf::honing, FiguresOf::texture,
                  FiguresOf::sleeve,        FiguresOf::lifters, FiguresOf::head};

FigureSentence said(const test::Story& s, FiguresOf what, block::Unit unit = block::Unit::mm) {
    return figure_sentence(what, s.state(), s.now(), first, LengthText(unit));
}

} // namespace

TEST(FigureSentences, EveryFigureOfEverySentenceIsThereHasANameAndCanBeSetToWhatItIs) {
    test::Story s;
    for (const FiguresOf what : all) {
        const FigureSentence sentence = said(s, what);
        EXPECT_THAT(plain_words(sentence), testing::Not(HasSubstr("{")));
        std::set<std::string> seen;
        std::size_t figures = 0;
        for (const SentencePart& part : sentence) {
            if (part.figure.empty())
                continue;
            ++figures;
            EXPECT_FALSE(part.name.empty()) << part.figure;
            EXPECT_TRUE(seen.insert(part.figure).second) << part.figure << " is said twice";
            const auto figure = planning::figure_at(s.state(), part.figure, first);
            ASSERT_TRUE(figure) << part.figure;
            const std::string text = figure_text(s.state(), *figure, LengthText(block::Unit::mm));
            EXPECT_EQ(part.gap, text.empty()) << part.figure;
            if (!figure_choices(*figure).empty() && figure->value.number) { // its words are those of a choice
                EXPECT_EQ(part.words, figure_choices(*figure)[static_cast<std::size_t>(*figure->value.number)]);
                continue;
            }
            if (part.gap)
                continue;
            // Typed as it is shown, it stays what it is, to the digits shown.
            const auto again = planning::set_figure(s.state(), part.figure, first, text, block::Unit::mm, true);
            ASSERT_TRUE(again) << part.figure << ": " << again.error().front().text();
            test::Story then = s;
            then.add(*again);
            EXPECT_EQ(figure_text(then.state(), *planning::figure_at(then.state(), part.figure, first),
                                  LengthText(block::Unit::mm)),
                      text)
                << part.figure;
        }
        EXPECT_GT(figures, 3U);
    }
}

TEST(FigureSentences, WhatIsNotStatedIsAGapAndWhatIsStatedIsSaidInTheBenchsUnit) {
    test::Story s;
    block::PistonsStated pistons;
    pistons.size = 79.95;
    s.add(pistons);
    EXPECT_THAT(plain_words(said(s, FiguresOf::boring)),
                testing::StartsWith("Pistons cast, 79.950 (this one's ____), clearance ____"));
    EXPECT_THAT(plain_words(said(s, FiguresOf::boring, block::Unit::inch)), HasSubstr("cast, 3.1476"));
    EXPECT_THAT(plain_words(said(s, FiguresOf::boring)), HasSubstr("leave 0.100 for the hone"));
}

TEST(FigureSentences, OnlyTheNumberOfTheChosenTargetIsSaid) {
    test::Story s;
    EXPECT_THAT(plain_words(said(s, FiguresOf::decks)), testing::Not(HasSubstr("____")));
    s.add(block::DeckTargetChosen{block::TargetSchool::height, true, 200.0});
    EXPECT_THAT(plain_words(said(s, FiguresOf::decks)), HasSubstr("200.000"));
    s.add(block::DeckTargetChosen{block::TargetSchool::ratio, true, {}});
    EXPECT_THAT(plain_words(said(s, FiguresOf::decks)), HasSubstr("____ : 1"));
}

TEST(FigureSentences, NoBlueprintSaysNothing) {
    EXPECT_TRUE(
        figure_sentence(FiguresOf::decks, block::Folded(), planning::Assessment(), {}, LengthText(block::Unit::mm))
            .empty());
}
