// SPDX-License-Identifier: GPL-3.0-or-later
// Measuring by hand in the real window: a whole block through the reading line without the mouse, and a gauge on the
// line.
#include "bench_fixture.h"
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/frame/drawing.h"

#include <QComboBox>
#include <QListWidget>
#include <QLocalServer>
#include <QLocalSocket>
#include <QTableWidget>

using namespace pallix;
using planning::Measuring;
using test::in;
using test::small_log;

namespace {

class GaugeJourney : public test::BenchFixture {
  protected:
    QLineEdit* reading() { return find<QLineEdit>("reading"); }
    void enter(const QString& text) {
        QTest::keyClicks(focused(), text);
        QTest::keyClick(focused(), Qt::Key_Return);
    }
    /// States zero and uncertainty of an instrument in the register's dialog, by keys.
    void set_up_instrument(const QString& uncertainty, const QString& zero = {}) {
        in_dialog([=](QDialog& d) {
            auto* u = in<QLineEdit>(d, "instrument-uncertainty");
            u->selectAll();
            QTest::keyClicks(u, uncertainty);
            in<QLineEdit>(d, "instrument-resolution")->clear();
            if (!zero.isEmpty()) {
                QTest::keyClicks(in<QLineEdit>(d, "instrument-zero"), zero);
                QTest::keyClicks(in<QLineEdit>(d, "instrument-zero-on"), QStringLiteral("ring"));
            }
            QTest::keyClick(u, Qt::Key_Return); // the dialog's own button: save
            EXPECT_TRUE(in<QLabel>(d, "instrument-echo")->text().startsWith(QStringLiteral("Saved")))
                << in<QLabel>(d, "instrument-echo")->text().toStdString();
            d.reject();
        });
        key(Qt::Key_G, Qt::ControlModifier);
    }
    metrology::Verdict tunnel_by_gauge() {
        metrology::Verdict v = metrology::Verdict::meets;
        for (const auto& main : session_.assessment().gauge.mains)
            v = metrology::worse(v, main.verdict);
        return v;
    }
};

} // namespace

// Mains 60.010, deck 200.030 flat, cylinder 60.010: what small_log holds, now by bore gauge and deck bridge.
TEST_F(GaugeJourney, AWholeBlockWithoutProbeOrMouse) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    // Conditions first: caps torqued, said by keys.
    key(Qt::Key_J, Qt::ControlModifier);
    EXPECT_EQ(headline(), QStringLiteral("Conditions of the readings to come"));
    EXPECT_EQ(focused()->objectName(), QStringLiteral("ask-caps-not_stated"));
    key(Qt::Key_Down);
    EXPECT_EQ(focused()->objectName(), QStringLiteral("ask-caps-yes"));
    auto* fasteners = find<QLineEdit>("ask-fasteners");
    QTest::keyClicks(fasteners, QStringLiteral("oil, three steps"));
    QTest::keyClick(fasteners, Qt::Key_Return);
    EXPECT_EQ(headline(), QStringLiteral("Wash the block")) << "back at the call";
    EXPECT_EQ(readings_of(session_.state()).conditions.caps_torqued, true);

    key(Qt::Key_R, Qt::ControlModifier);
    ASSERT_TRUE(reading()->hasFocus());
    set_up_instrument(QStringLiteral("1 µm"), QStringLiteral("60.000"));
    key(Qt::Key_R, Qt::ControlModifier);
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main 1, front, upright"));
    for (int i = 0; i < 12; ++i) {
        QTest::keyClicks(reading(), i % 2 == 0 ? QStringLiteral("+10 µm") : QStringLiteral("60.010"));
        EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("understood: 60.010 mm")))
            << text_of("echo").toStdString();
        QTest::keyClick(reading(), Qt::Key_Return);
    }
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main sizes: all read"));
    EXPECT_EQ(tunnel_by_gauge(), metrology::Verdict::meets);
    key(Qt::Key_F4); // the caret back into the drawing
    key(Qt::Key_T);
    EXPECT_EQ(find<QTableWidget>("tunnel-drawing-table")->rowCount(), 12);
    key(Qt::Key_T);
    EXPECT_EQ(std::get<block::Reading>(session_.entries().back().payload).conditions.fasteners, "oil, three steps");

    key(Qt::Key_F5);
    key(Qt::Key_R, Qt::ControlModifier);
    set_up_instrument(QStringLiteral("1 µm"));
    key(Qt::Key_R, Qt::ControlModifier);
    QTest::keyClicks(reading(), QStringLiteral("+30 µm"));
    EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("a deviation, and this gauge has no zero")));
    reading()->clear();
    key(Qt::Key_H, Qt::ControlModifier);
    EXPECT_EQ(text_of("echo"), QStringLiteral("deck bridge stands zeroed at 200.000 mm."));
    for (const char* typed : {"200.030", "+30 µm", "20003", "200.03"})
        enter(QString::fromUtf8(typed));
    ASSERT_TRUE(decks_of(session_.state()).deck("C").latest);
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("deck, edge right side")) << "four heights do not show it flat";
    for (int i = 0; i < 5; ++i)
        enter(QStringLiteral("0 0.03"));
    EXPECT_EQ(session_.assessment().gauge.feelers.at(0).lines, 5U);

    key(Qt::Key_F6);
    key(Qt::Key_R, Qt::ControlModifier);
    EXPECT_TRUE(text_of("reading-place").startsWith(QStringLiteral("cylinder 1 (bore 1), top, across")));
    for (int i = 0; i < 6; ++i)
        enter(QStringLiteral("+10 µm"));
    ASSERT_EQ(session_.assessment().gauge.cylinders.size(), 1U);
    const auto by_gauge = session_.assessment();
    EXPECT_EQ(by_gauge.gauge.cylinders[0].verdict, metrology::Verdict::meets);

    // The same block by probe: the same verdicts.
    test::LogWriter log = small_log(200.03);
    for (int i = 0; i < 8; ++i) {
        const double a = 2 * std::numbers::pi * i / 8;
        log.touch("bore.C.1", {75 + 30.005 * std::cos(a), 30.005 * std::sin(a), 190}, "top");
    }
    take_log(log.text(), 0.001);
    const auto& by_probe = session_.assessment();
    EXPECT_EQ(by_probe.tunnel->mains[0].verdict, by_gauge.gauge.mains[0].verdict);
    EXPECT_EQ(by_probe.tunnel->mains[1].verdict, by_gauge.gauge.mains[1].verdict);
    EXPECT_EQ(by_probe.banks[0].verdict->verdict, by_gauge.banks[0].verdict->verdict);
    EXPECT_TRUE(by_probe.gauge.disagreements.empty()) << by_probe.gauge.disagreements.front().words;
}

TEST_F(GaugeJourney, KeysStepBackSkipRepeatAndStrike) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    enter(QStringLiteral("60.010"));
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main 1, front, 60° left"));
    key(Qt::Key_PageDown);
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main 1, front, 60° right"));
    key(Qt::Key_R, Qt::ControlModifier | Qt::ShiftModifier); // the last place once more
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main 1, front, upright"));
    enter(QStringLiteral("60.012"));
    EXPECT_EQ(readings_of(session_.state()).places.at(0).count, 2U);
    EXPECT_NEAR(readings_of(session_.state()).places.at(0).value, 60.011, 1e-9);
    in_dialog([](QDialog& d) {
        auto* why = d.findChild<QLineEdit*>();
        QTest::keyClicks(why, QStringLiteral("needle stuck"));
        QTest::keyClick(why, Qt::Key_Return);
    });
    key(Qt::Key_Backspace, Qt::ControlModifier);
    EXPECT_EQ(std::get<block::Strike>(session_.entries().back().payload).reason, "needle stuck");
    EXPECT_EQ(readings_of(session_.state()).places.at(0).count, 1U);
    reading()->setFocus();
    key(Qt::Key_PageUp);
    EXPECT_TRUE(readings_of(session_.state()).places.empty());
}

TEST_F(GaugeJourney, ALearnerIsAskedTwiceAndADoubtfulRepeatIsQuestioned) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), block::Role::learner));
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    enter(QStringLiteral("60.010"));
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("main 1, front, upright")) << "once more";
    enter(QStringLiteral("60.060"));
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("The same place read 60.010 mm before")))
        << text_of("echo").toStdString();
    EXPECT_EQ(readings_of(session_.state()).places.at(0).count, 1U);
    QTest::keyClick(reading(), Qt::Key_Escape);
    enter(QStringLiteral("60.011"));
    EXPECT_EQ(readings_of(session_.state()).places.at(0).count, 2U);
    EXPECT_FALSE(std::get<block::Reading>(session_.entries().back().payload).confirmed);
}

TEST_F(GaugeJourney, ReadingPlanIsEdited) {
    open_small_job();
    open_window();
    key(Qt::Key_F5);
    key(Qt::Key_R, Qt::ControlModifier);
    in_dialog([](QDialog& d) {
        auto* list = in<QListWidget>(d, "plan-places");
        EXPECT_EQ(list->count(), 4);
        QTest::keyClick(list, Qt::Key_Space); // leaves the first place out
        QTest::keyClick(&d, Qt::Key_Return);
    });
    key(Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(text_of("reading-place"), QStringLiteral("deck, front, left side"));
    EXPECT_EQ(planning::chosen_places(session_.state(), Measuring::deck_heights, "C").size(), 3U);
}

TEST_F(GaugeJourney, ATunnelCutMakesWhatHangsOnItStale) {
    open_small_job();
    take_log(small_log(200.03).text());
    open_window();
    key(Qt::Key_F4);
    window_->call().speak_of("tunnel/any/cut");
    tick("method-hone");
    ask("note", QStringLiteral("caps cut 3 thou"));
    answer();
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("Probe the tunnel again"));
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NE(text_of("call-headline"), QStringLiteral("Probe the tunnel again"));
}

TEST_F(GaugeJourney, InstrumentsAreCheckedAndTested) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    in_dialog([](QDialog& d) {
        auto* echo = in<QLabel>(d, "instrument-echo");
        QTest::keyClicks(in<QLineEdit>(d, "instrument-uncertainty"), QStringLiteral("often"));
        QTest::keyClick(in<QLineEdit>(d, "instrument-uncertainty"), Qt::Key_Return);
        EXPECT_TRUE(echo->text().contains(QStringLiteral("is not a number")));
        QTest::keyClicks(in<QLineEdit>(d, "ring-size"), QStringLiteral("60.000"));
        QTest::keyClicks(in<QLineEdit>(d, "ring-reading"), QStringLiteral("+2 µm"));
        QTest::keyClick(in<QLineEdit>(d, "ring-reading"), Qt::Key_Return);
        EXPECT_TRUE(echo->text().contains(QStringLiteral("it reads 0.002 mm too much"))) << echo->text().toStdString();
        QTest::keyClicks(in<QLineEdit>(d, "repeats"), QStringLiteral("60.001 60.002 60.003"));
        for (auto* button : d.findChildren<QPushButton*>())
            if (button->text().contains(QStringLiteral("te&st")))
                button->click();
        EXPECT_TRUE(echo->text().contains(QStringLiteral("0.0010 mm (s of 3)"))) << echo->text().toStdString();
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier);
    ASSERT_EQ(readings_of(session_.state()).checks.size(), 1U);
    EXPECT_NEAR(readings_of(session_.state()).checks[0].error, 0.002, 1e-9);
    EXPECT_NEAR(instruments_.in_hand(Measuring::main_sizes).repeatability.value_or(0), 0.001, 1e-9);
}

// Readings of a gauge go where the line asks; an absurd one is asked about, those behind it wait; the plug loses none.
TEST_F(GaugeJourney, AGaugeOnTheLine) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    QLocalServer server;
    const QString name = QStringLiteral("pallix-bench-test-%1").arg(QCoreApplication::applicationPid());
    QLocalServer::removeServer(name);
    ASSERT_TRUE(server.listen(name));
    in_dialog([&](QDialog& d) {
        in<QLineEdit>(d, "gauge-address")->clear();
        QTest::keyClicks(in<QLineEdit>(d, "gauge-address"), QStringLiteral("local:") + name);
        QTest::mouseClick(in<QPushButton>(d, "gauge-connect"), Qt::LeftButton);
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(gauge_.is_open());
    ASSERT_TRUE(server.waitForNewConnection(1000));
    QLocalSocket* gauge = server.nextPendingConnection();
    const auto send = [gauge](const char* lines) {
        gauge->write(lines);
        gauge->flush();
        QTest::qWait(30);
    };
    const auto count = [this] { return readings_of(session_.state()).readings.size(); };
    send("pallix-gauge 1 bore gauge\nreading 1 60.010 mm\nreading 2 60.011 mm\n");
    EXPECT_TRUE(QTest::qWaitFor([&] { return count() == 2; }, 20000));
    send("reading 3 1e9 mm\nreading 4 60.012 mm\n"); // absurd
    EXPECT_TRUE(QTest::qWaitFor([&] { return text_of("echo").contains(QStringLiteral("1 reading waits")); }, 20000));
    EXPECT_EQ(count(), 2U);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("from what is expected"))) << text_of("echo").toStdString();
    QTest::keyClick(reading(), Qt::Key_Escape); // not that one: the next has its turn
    EXPECT_TRUE(QTest::qWaitFor([&] { return count() == 3; }, 20000));
    EXPECT_NEAR(readings_of(session_.state()).readings.back().value, 60.012, 1e-9);
    send("reading 5 21.5 C\n");
    EXPECT_TRUE(QTest::qWaitFor([&] { return text_of("echo").contains(QStringLiteral("Not taken")); }, 20000));
    EXPECT_EQ(count(), 3U);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("expected a length"))) << text_of("echo").toStdString();
    send("reading 6 60.0");
    gauge->abort();
    EXPECT_TRUE(QTest::qWaitFor([&] { return !gauge_.is_open(); }, 20000));
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("readings are kept"))) << text_of("echo").toStdString();
    EXPECT_EQ(count(), 3U);
    EXPECT_EQ(book_->entries(*session_.job())->size(), session_.entries().size());
}

TEST_F(GaugeJourney, PositionsShowLevelsPatternAndSources) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Puffling, port")));
    key(Qt::Key_F6);
    EXPECT_EQ(window_->place(), ui::Place::cylinders);
    EXPECT_TRUE(text_of("pattern").contains(QStringLiteral("One stands out: cylinder 3 (right bank, bore 2)")))
        << text_of("pattern").toStdString();
    EXPECT_EQ(text_of("hole-name"), QStringLiteral("cylinder 1 (right bank, bore 1)"));
    key(Qt::Key_Right);
    EXPECT_EQ(text_of("hole-name"), QStringLiteral("cylinder 3 (right bank, bore 2)"));
    key(Qt::Key_T);
    EXPECT_EQ(find<QTableWidget>("positions-table")->rowCount(), 9) << "three levels of three";
    key(Qt::Key_T);
    EXPECT_TRUE(text_of("hole-where").contains(QStringLiteral("outboard across the crankshaft")));
    const auto expect_source = [this](const char* words) {
        in_dialog([words](QDialog& d) {
            const auto* table = d.findChild<QTableView*>();
            int found = 0;
            for (int row = 0; row < table->model()->rowCount(); ++row)
                for (int column = 0; column < table->model()->columnCount(); ++column)
                    found += !table->isRowHidden(row) &&
                             table->model()->index(row, column).data().toString().contains(QLatin1String(words));
            EXPECT_GT(found, 0) << words;
            d.reject();
        });
        key(Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    };
    expect_source("puffling-port-as-found.csv");
    const QString from_datum = text_of("hole-where");
    find<QCheckBox>("from-dowel")->setChecked(true);
    EXPECT_TRUE(text_of("hole-where").contains(QStringLiteral("outboard across the crankshaft")));
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_TRUE(text_of("hole-name").contains(QStringLiteral("left bank")));
    EXPECT_TRUE(text_of("pattern").contains(QStringLiteral("All one way"))) << text_of("pattern").toStdString();
    // A size by hand joins the sources and the table.
    key(Qt::Key_R, Qt::ControlModifier);
    enter(QStringLiteral("97.02"));
    expect_source("typed 97.02");
    find<ui::Drawing>("positions")->setFocus();
    key(Qt::Key_T);
    EXPECT_TRUE(find<QTableWidget>("positions-table")->item(0, 6)->text().contains(QStringLiteral("across 97.020")));
}
