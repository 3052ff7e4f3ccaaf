// SPDX-License-Identifier: GPL-3.0-or-later
// A bench where people write a decimal comma: it is shown everywhere, taken as it is shown, and kept with a point.
#include "bench_fixture.h"
#include "block/state/readings_state.h"
#include "ui/frame/figure_line.h"
#include "wording/common/lengths.h"

#include <QRegularExpression>

using namespace pallix;

namespace {

class DecimalCommaJourney : public test::BenchFixture {
  protected:
    void SetUp() override {
        test::BenchFixture::SetUp();
        wording::show_decimal_comma(true);
    }
    void TearDown() override {
        test::BenchFixture::TearDown();
        wording::show_decimal_comma(false);
    }
    /// Lengths with a point on any visible label of the window, "0.012 mm".
    QStringList with_points() const {
        static const QRegularExpression point(QStringLiteral("\\d\\.\\d+ ?(mm|in)\\b"));
        QStringList found;
        for (const QLabel* label : window_->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(point))
                found << label->text();
        return found;
    }
};

TEST_F(DecimalCommaJourney, IsShownOnEveryPage) {
    open_demo();
    const auto jobs = book_->jobs();
    ASSERT_TRUE(jobs);
    int numbers = 0;
    for (const auto& job : *jobs) {
        window_->open_job(job.id);
        for (const ui::Place place : {ui::Place::block, ui::Place::tunnel, ui::Place::decks, ui::Place::cylinders,
                                      ui::Place::lifters, ui::Place::passport}) {
            window_->go_to(place);
            EXPECT_EQ(with_points(), QStringList()) << static_cast<int>(place);
            numbers += text_of("call-number").contains(QLatin1Char(',')) ? 1 : 0;
        }
    }
    EXPECT_GT(numbers, 0);
}

// What a field proposes is what it takes: Ctrl+Return keeps it, whatever sign it was shown with.
TEST_F(DecimalCommaJourney, WhatIsProposedIsTaken) {
    open_demo();
    const auto jobs = book_->jobs();
    ASSERT_TRUE(jobs);
    int taken = 0;
    for (const auto& job : *jobs) {
        window_->open_job(job.id);
        window_->go_to(ui::Place::block);
        const auto step = window_->call().step();
        if (!step || !step->number || step->state != planning::StepState::now || step->asks.empty() ||
            std::ranges::none_of(step->asks,
                                 [](const planning::Ask& a) { return a.kind == planning::AskKind::length; }))
            continue;
        const std::size_t before = session_.entries().size();
        answer();
        if (session_.entries().size() > before)
            ++taken;
        const QString echo = text_of("call-echo");
        EXPECT_FALSE(echo.contains(QStringLiteral("number"))) << echo.toStdString();
    }
    EXPECT_GT(taken, 0);
}

TEST_F(DecimalCommaJourney, AReadingIsTypedAndKept) {
    open_small_job();
    open_window();
    preferences_.set_unit(block::Unit::mm);
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    auto* field = find<QLineEdit>("reading");
    field->setText(QStringLiteral("60,0125"));
    QTest::keyClick(field, Qt::Key_Return);
    ASSERT_EQ(readings_of(session_.state()).readings.size(), 1U) << text_of("reading-place").toStdString();
    const auto& reading = readings_of(session_.state()).readings.front();
    EXPECT_NEAR(reading.value, 60.0125, 1e-9);
}

} // namespace
