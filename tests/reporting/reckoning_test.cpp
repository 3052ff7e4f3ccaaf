// SPDX-License-Identifier: GPL-3.0-or-later
// What came of an exercise, on one page, as somebody else's program reads it back.
#include "block/entries/practice_entries.h"
#include "read_back.h"
#include "reporting/reckoning.h"
#include "reporting/truth_picture.h"
#include "sanitized.h"
#include "workshop/harbour.h"
#include "workshop/practice/exercise.h"
#include "workshop/practice/result.h"

#include <gmock/gmock.h>

using namespace pallix;

namespace {

/// An exercise as somebody left it, opened.
std::vector<block::Entry> opened(workshop::Theme theme, bool careless) {
    std::vector<block::Entry> entries;
    for (block::Payload& p : workshop::opening_of(workshop::exercise_of(theme, 2, 3)))
        entries.push_back({std::ssize(entries) + 1, "2026-03-02T09:00:00Z", "Mira", std::move(p)});
    entries = workshop::play_exercise(entries, careless)->entries;
    entries.push_back({std::ssize(entries) + 1, entries.back().time, "Mira", block::TruthOpened{50}});
    return entries;
}

QString paper_of(const test::Told& told) {
    return reporting::reckoning_html(
        {told.state, told.assessment, told.entries, wording::LengthText(block::Unit::mm), 1, {}});
}

} // namespace

TEST(ReckoningPaper, IsOnePageHoweverMuchWentWrong) {
    const test::Told told(opened(workshop::Theme::whole_block, true));
    for (const auto paper : {QPageSize::A4, QPageSize::Letter}) {
        if (test::sanitized && paper == QPageSize::Letter)
            continue; // minutes more, for the same drawing
        const auto pages = test::read_back(paper_of(told), {}, paper);
        ASSERT_EQ(pages.size(), 1U);
        test::expect_legible(pages, "a whole block, done badly");
        EXPECT_TRUE(pages[0].all().contains(QStringLiteral("What to do better")));
        EXPECT_TRUE(pages[0].all().contains(QStringLiteral("more of the kind")));
    }
}

TEST(ReckoningPaper, WaitsForWhoeverReckonsItUp) {
    const test::Told told(opened(workshop::Theme::straightedge, false));
    reporting::PaperSource source{told.state, told.assessment, told.entries, wording::LengthText(block::Unit::mm), 1,
                                  {}};
    source.of_book.practice_awaited = true;
    EXPECT_TRUE(reporting::reckoning_html(source).contains(QStringLiteral("being reckoned up")));
    source.of_book.practice_awaited = false;
    EXPECT_TRUE(reporting::reckoning_html(source).contains(QStringLiteral("How it truly is")));
}

// A main 0.04 over and 0.02 under the line: the picture says so where it is asked.
TEST(TruthPicture, KnowsWhatStandsWhere) {
    workshop::Shape line{
        workshop::ShapeOf::mains, "", {{"main.1", 0, 0, 0, 0.04, 0.04}, {"main.2", 100, 0, 0, -0.02, -0.02}}};
    reporting::TruthPicture picture({line, line}, {QStringLiteral("a"), QStringLiteral("b")}, {"main.2"});
    QImage image(600, 200, QImage::Format_RGB32);
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(14);
    QPainter painter(&image);
    picture.paint(painter, QRectF(0, 0, 600, 200), {Qt::white, Qt::black, Qt::black, Qt::black, Qt::white, Qt::red},
                  font, wording::LengthText(block::Unit::mm));
    for (const std::size_t shape : {0UL, 1UL})
        for (const std::size_t part : {0UL, 1UL}) {
            const QPointF at = picture.point_of({shape, part});
            EXPECT_EQ(picture.at(at + QPointF(5, 0)), (reporting::TruthPicture::Place{shape, part}));
            EXPECT_NEAR(picture.length_at(shape, at.y()), line.parts[part].is_low, 1e-9);
        }
    EXPECT_GT(picture.point_of({0, 1}).y(), picture.point_of({0, 0}).y()) << "lower";
    EXPECT_LT(picture.point_of({0, 1}).x(), picture.point_of({1, 0}).x()) << "beside one another";
    EXPECT_FALSE(picture.at({599, 199}));
    EXPECT_EQ(image.pixelColor(picture.point_of({0, 1}).toPoint()), QColor(Qt::red)) << "out of its limit";
    EXPECT_EQ(image.pixelColor(picture.point_of({0, 0}).toPoint()), QColor(Qt::black));
}
