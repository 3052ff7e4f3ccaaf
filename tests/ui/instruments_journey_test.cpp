// SPDX-License-Identifier: GPL-3.0-or-later
// Gauges over the years, in the real window: their zeros, their history, a study of one, and how forecasts held.
#include "bench_fixture.h"

#include "block/ledger.h"
#include "block/state/readings_state.h"
#include "planning/readings/gauge_study_plan.h"
#include "planning/readings/reading_plan.h"
#include "ui/dialogs/instrument_history.h"
#include "ui/frame/line_drawing.h"
#include "ui/shop/shop_view.h"

#include <QListWidget>
#include <QSpinBox>

using namespace pallix;
using planning::Measuring;
using test::in;

namespace {

class InstrumentsJourney : public test::BenchFixture {
  protected:
    InstrumentsJourney() {
        at_ = "2026-03-02T08:00:00Z";
        follows_preferences_ = true;
        preferences_.set_person(QStringLiteral("Marit"));
    }
    void enter(const QString& text) {
        QTest::keyClicks(focused(), text);
        QTest::keyClick(focused(), Qt::Key_Return);
    }
    void to_the_line(Qt::Key view) {
        key(view);
        key(Qt::Key_R, Qt::ControlModifier);
    }
    [[nodiscard]] std::size_t readings() const { return readings_of(session_.state()).readings.size(); }
    block::Instrument zeroed_gauge() {
        block::Instrument gauge = instruments_.in_hand(Measuring::main_sizes);
        gauge.standard_uncertainty = 0.001;
        EXPECT_TRUE(instruments_.zero(gauge, 60.01, "ring", 20));
        return *instruments_.find(gauge.name);
    }
};

} // namespace

TEST_F(InstrumentsJourney, AnOldZeroIsAskedAboutOnce) {
    zeroed_gauge();
    open_small_job();
    open_window();
    to_the_line(Qt::Key_F4);
    enter(QStringLiteral("60.010"));
    EXPECT_EQ(readings(), 1u) << "set this morning";
    at_ = "2026-03-02T18:00:00Z";
    enter(QStringLiteral("60.011"));
    EXPECT_EQ(readings(), 1u);
    EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("Its zero was set 10 hours ago")))
        << text_of("echo").toStdString();
    QTest::keyClick(focused(), Qt::Key_Return);
    EXPECT_EQ(readings(), 2u) << "once more: it counts";
    enter(QStringLiteral("60.010"));
    EXPECT_EQ(readings(), 3u) << "and is not asked about again";

    // The gauge got cold: asked about until it is set at its target.
    key(Qt::Key_H, Qt::ControlModifier);
    block::Reading cold;
    cold.at = {{block::FeatureKind::panrail, "", 0}, block::Quantity::temperature, "", "gauge", {}};
    cold.value = 14;
    block::Instrument tool = instruments_.in_hand(Measuring::main_sizes);
    ASSERT_TRUE(instruments_.zero(tool, 60.01, "ring", 20));
    ASSERT_TRUE(session_.take(cold));
    window_->go_to(ui::Place::tunnel);
    key(Qt::Key_R, Qt::ControlModifier);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("6.0 °C colder"))) << text_of("echo").toStdString();
    key(Qt::Key_H, Qt::ControlModifier);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("stands zeroed at"))) << text_of("echo").toStdString();
    EXPECT_NEAR(instruments_.in_hand(Measuring::main_sizes).zero_c.value_or(0), 14, 1e-9);
}

TEST_F(InstrumentsJourney, AHistoryGrowsWithAndWithoutAJob) {
    const std::string name = zeroed_gauge().name;
    open_window();
    in_dialog([&](QDialog& d) {
        EXPECT_EQ(in<QListWidget>(d, "instrument-events")->count(), 1);
        auto* days = in<QLineEdit>(d, "instrument-check-days");
        QTest::keyClicks(days, QStringLiteral("often"));
        QTest::keyClick(days, Qt::Key_Return);
        EXPECT_TRUE(in<QLabel>(d, "instrument-echo")->text().contains(QStringLiteral("1 to 3660")));
        days->setText(QStringLiteral("90"));
        QTest::keyClick(days, Qt::Key_Return);
        QTest::keyClicks(in<QLineEdit>(d, "ring-size"), QStringLiteral("60.000"));
        in<QLineEdit>(d, "ring-reading")->setText(QStringLiteral("60.004"));
        QTest::keyClick(in<QLineEdit>(d, "ring-reading"), Qt::Key_Return);
        const QString record = in<QLabel>(d, "instrument-record")->text();
        EXPECT_TRUE(record.contains(QStringLiteral("Last checked 2026-03-02: it read 0.0040 mm too much")))
            << record.toStdString();
        EXPECT_TRUE(record.contains(QStringLiteral("Check due 2026-05-31"))) << record.toStdString();
        auto* repair = in<QLineEdit>(d, "repair");
        QTest::keyClick(repair, Qt::Key_Return);
        EXPECT_TRUE(in<QLabel>(d, "instrument-echo")->text().contains(QStringLiteral("wanted first")));
        at_ = "2026-03-02T09:00:00Z";
        QTest::keyClicks(repair, QStringLiteral("new tips"));
        QTest::keyClick(repair, Qt::Key_Return);
        EXPECT_EQ(in<QListWidget>(d, "instrument-events")->count(), 3);
        EXPECT_TRUE(
            in<QListWidget>(d, "instrument-events")->item(0)->text().contains(QStringLiteral("repaired: new tips")));
        auto* drawing = d.findChild<ui::InstrumentHistoryDrawing*>();
        ASSERT_NE(drawing, nullptr);
        EXPECT_EQ(drawing->spoken().size(), 3u);
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier); // no job is open
    EXPECT_EQ(instruments_.history(name).size(), 3u);
    open_small_job();
    to_the_line(Qt::Key_F4);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("repaired since"))) << text_of("echo").toStdString();
    in_dialog([&](QDialog& d) {
        in<QPushButton>(d, "instrument-zero-now")->click();
        EXPECT_TRUE(in<QLabel>(d, "instrument-echo")->text().contains(QStringLiteral("stands zeroed at 60.010 mm")))
            << in<QLabel>(d, "instrument-echo")->text().toStdString();
        d.reject();
    });
    at_ = "2026-03-02T09:10:00Z";
    key(Qt::Key_G, Qt::ControlModifier);
    EXPECT_FALSE(instruments_.doubt(*instruments_.find(name), session_.state()));
}

TEST_F(InstrumentsJourney, AGaugeStudyIsLaidOutByTheReadingLine) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), block::Role::owner));
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Mira"), block::Role::machinist));
    open_small_job();
    open_window();
    to_the_line(Qt::Key_F6);
    ASSERT_TRUE(text_of("reading-place").startsWith(QStringLiteral("cylinder 1")));
    in_dialog([](QDialog& d) {
        EXPECT_EQ(in<QLineEdit>(d, "study-people")->text(), QStringLiteral("Marit, Mira"));
        in<QLineEdit>(d, "study-people")->setText(QStringLiteral("Marit"));
        in<QSpinBox>(d, "study-parts")->setValue(2);
        in<QSpinBox>(d, "study-trials")->setValue(2);
        d.accept();
        EXPECT_FALSE(in<QLabel>(d, "study-fault")->text().isEmpty()) << "one person is no study";
        in<QLineEdit>(d, "study-people")->setText(QStringLiteral("Marit, Mira"));
        d.accept();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
    ASSERT_TRUE(readings_of(session_.state()).study);
    std::size_t asked = 0;
    for (; asked < 8; ++asked) {
        const auto standing = planning::study_standing(session_.state(), preferences_.person().toStdString());
        ASSERT_TRUE(standing && standing->next) << asked;
        if (standing->next->person != preferences_.person().toStdString()) {
            EXPECT_EQ(text_of("reading-place"),
                      QStringLiteral("Gauge study: %1 reads next").arg(QString::fromStdString(standing->next->person)));
            key(standing->next->person == "Marit" ? Qt::Key_1 : Qt::Key_2, Qt::ControlModifier);
        }
        key(Qt::Key_R, Qt::ControlModifier);
        // Far from what was read there before: it is not asked about, as nobody is to know.
        enter(QStringLiteral("60.0%1").arg(asked % 2 == 0 ? 10 : 60));
        EXPECT_EQ(readings(), asked + 1) << text_of("echo").toStdString();
    }
    const auto standing = planning::study_standing(session_.state(), "Marit");
    EXPECT_TRUE(standing && standing->complete());
    in_dialog([](QDialog& d) {
        auto* events = in<QListWidget>(d, "instrument-events");
        ASSERT_GE(events->count(), 1);
        EXPECT_TRUE(events->item(0)->text().contains(QStringLiteral("of all that was seen")))
            << events->item(0)->text().toStdString();
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier);
}

TEST_F(InstrumentsJourney, AStudyIsBrokenOffWithAReason) {
    open_small_job();
    open_window();
    to_the_line(Qt::Key_F6);
    in_dialog([](QDialog& d) {
        in<QLineEdit>(d, "study-people")->setText(QStringLiteral("Marit, Mira"));
        d.accept();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
    ASSERT_TRUE(readings_of(session_.state()).study);
    in_dialog([](QDialog& d) {
        auto* why = d.findChild<QLineEdit*>();
        QTest::keyClicks(why, QStringLiteral("the visitor left"));
        QTest::keyClick(why, Qt::Key_Return);
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_FALSE(readings_of(session_.state()).study);
    EXPECT_TRUE(text_of("reading-place").startsWith(QStringLiteral("cylinder 1"))) << "the line goes on with the block";
}

TEST_F(InstrumentsJourney, TheLineSaysWhatBlocksOfTheKindUsuallyAre) {
    session_.learn_from([](const std::string&) {
        return block::Experience{{{block::Trait::wear, "bore.C.1", 0.05, 0.01, 9}}, {}};
    });
    open_small_job();
    open_window();
    to_the_line(Qt::Key_F6);
    bool said = false;
    for (const QLabel* label : window_->findChildren<QLabel*>())
        said = said || (label->isVisible() &&
                        label->text().contains(QStringLiteral("usually 0.050 mm over, by 9 blocks of this kind")));
    EXPECT_TRUE(said);
    enter(QStringLiteral("60.060"));
    EXPECT_EQ(readings(), 1u) << "as expected: nothing is asked";
}

TEST_F(InstrumentsJourney, HowForecastsHeldIsAPageOfTheShop) {
    open_small_job();
    take_log(test::small_log(200.3).text());
    for (int i = 0; i < 6; ++i) {
        ASSERT_TRUE(session_.take(block::DeckForecastKept{"C", 0.01, 0.02, 199.9, 200, {10, 0}}));
        ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::pass, 0.05, false, {}}));
        ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::pass, 0.05, true, {}}));
    }
    open_window();
    key(Qt::Key_F2);
    auto* lines = find<ui::LineDrawing>("forecasts");
    key(Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_FALSE(lines->isVisible()) << "machines";
    key(Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(lines->isVisible());
    QStringList said;
    for (const ui::SpokenPart& part : lines->spoken())
        said << part.name + QStringLiteral(": ") + part.value;
    EXPECT_TRUE(said.join(QLatin1Char('\n')).contains(QStringLiteral("0 of 6 held")))
        << said.join(QLatin1Char('\n')).toStdString();
    key(Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_FALSE(lines->isVisible()) << "and round again";
}
