// SPDX-License-Identifier: GPL-3.0-or-later
// The main tunnel in the real window: as found, planned, caps cut, honed or bored, proven.
#include "bench_fixture.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_work.h"
#include "ui/tunnel/plan_drawing.h"
#include "ui/tunnel/tunnel_view.h"

#include <QComboBox>
#include <QTableWidget>
#include <map>

using namespace pallix;
using planning::Measuring;
using test::in;

namespace {

class TunnelJourney : public test::BenchFixture {
  protected:
    /// Reads every main three ways at both ends through the reading line.
    void read_sizes(const char* upright, const char* side) {
        key(Qt::Key_R, Qt::ControlModifier);
        for (int i = 0; i < 12; ++i) {
            QTest::keyClicks(focused(), QString::fromLatin1(i % 3 == 0 ? upright : side));
            QTest::keyClick(focused(), Qt::Key_Return);
            if (auto* line = find<QLineEdit>("reading"); !line->text().isEmpty()) // asked about: it is meant
                QTest::keyClick(line, Qt::Key_Return);
        }
    }
    void torque_caps() {
        key(Qt::Key_J, Qt::ControlModifier);
        tick("caps-yes");
        ask("fasteners", QStringLiteral("oil, three steps"));
        answer();
    }
    void finish_tunnel() {
        EXPECT_EQ(find<QPushButton>("call-answer")->text(), QStringLiteral("The tunnel is done"));
        answer();
    }
    void start() {
        open_small_job();
        state_uncertainty(Measuring::main_sizes, 0.0005);
        open_window();
        key(Qt::Key_F4);
        torque_caps();
    }
};

} // namespace

TEST_F(TunnelJourney, HonedFromAsFoundToMeets) {
    start();
    EXPECT_EQ(headline(), QStringLiteral("Wash the block"));
    read_sizes("60.024", "60.012");
    EXPECT_EQ(headline(), QStringLiteral("Cut the caps"));
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark,
              planning::StageMark::fails);
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier); // the plan
    EXPECT_EQ(text_of("tunnel-plan-verdict"), QStringLiteral("Cleans up everywhere with the least cutting"));
    key(Qt::Key_T);
    EXPECT_GE(find<QTableWidget>("tunnel-plan-table")->rowCount(), 5) << "the other schools";
    key(Qt::Key_T);
    // What if: a cap cut less than planned comes short at once, and the plan is one click away.
    auto* drawing = find<ui::PlanDrawing>("tunnel-plan");
    drawing->setFocus();
    for (int i = 0; i < 4; ++i)
        key(Qt::Key_Down);
    EXPECT_TRUE(drawing->is_changed());
    EXPECT_TRUE(
        text_of("tunnel-plan-verdict").startsWith(QStringLiteral("Short by 0.001 mm at main 1's cap at 4 o'clock")))
        << text_of("tunnel-plan-verdict").toStdString();
    for (int i = 0; i < 4; ++i)
        key(Qt::Key_Up);
    const double planned = drawing->cuts()[0];
    EXPECT_NEAR(planned, 4 * (0.0254 + 0.001), 2e-4)
        << "60° off 0.002 too large, two thou to come off, a cap gives half";
    answer(); // caps are cut so
    ASSERT_EQ(tunnel_of(session_.state()).caps_cut.size(), 1U);
    EXPECT_EQ(headline(), QStringLiteral("Torque the caps"));
    torque_caps();
    EXPECT_EQ(headline(), QStringLiteral("Read main 1, front, upright"));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("a disagreement is named")));
    read_sizes("59.918", "59.959"); // as predicted: 0.106 upright, half of it 60° off
    EXPECT_EQ(headline(), QStringLiteral("Line hone"));
    key(Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(focused(), QStringLiteral("25"));
    QTest::keyClick(focused(), Qt::Key_Return);
    EXPECT_EQ(headline(), QStringLiteral("Read main 1, front, upright")) << "one way of each, the tightest";
    read_sizes("60.010", "60.010");
    EXPECT_EQ(headline(), QStringLiteral("Every main is in size: stop"));
    finish_tunnel();
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Read deck"))) << "what was read last is as left";
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark,
              planning::StageMark::meets);
}

TEST_F(TunnelJourney, BoredWithAnEstablishingPass) {
    start();
    read_sizes("60.024", "60.012");
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    choose_figure("tunnel_plan/method", QStringLiteral("line bore"));
    EXPECT_EQ(session_.tunnel_work().method, block::TunnelMethod::bore);
    EXPECT_EQ(headline(), QStringLiteral("Cut the caps"));
    answer();
    torque_caps();
    const auto& predictions = session_.tunnel_work().predictions;
    const auto predicted = [&predictions](const char* way) {
        const auto p = std::ranges::find_if(predictions, [way](const auto& x) { return x.at.direction == way; });
        return QString::number(p->predicted, 'f', 4).toStdString();
    };
    const std::string upright = predicted("upright"), side = predicted("60 left");
    read_sizes(upright.c_str(), side.c_str());
    EXPECT_EQ(headline(), QStringLiteral("Measure the boring bar"));
    ask("tunnel_plan/bar_mm", QStringLiteral("50"));
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Establishing pass"));
    const auto cut_all_round = [this] {
        while (headline().endsWith(QStringLiteral("look at what the pass left"))) {
            tick("mark-clean");
            answer();
        }
    };
    const auto pass = [this](const char* protrusion) {
        key(Qt::Key_K, Qt::ControlModifier);
        ask("protrusion", QString::fromLatin1(protrusion));
        QTest::keyClick(focused(), Qt::Key_Return);
    };
    pass("5.000");
    cut_all_round();
    read_sizes("60.004", "60.004");
    EXPECT_EQ(headline(), QStringLiteral("Every main is in size: stop"));
    EXPECT_NEAR(*session_.tunnel_work().next_protrusion, 5.003, 1e-9);
    window_->call().speak_of("tunnel/any/pass"); // one more than is called for
    tick("pass-final");
    ask("protrusion", QStringLiteral("5.003"));
    answer();
    cut_all_round();
    read_sizes("60.010", "60.010");
    finish_tunnel();
    read_sizes("60.010", "60.010");
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark,
              planning::StageMark::meets);
}

TEST_F(TunnelJourney, LimitsAreEditedAndAWrongOneIsSaidInPlace) {
    start();
    read_sizes("60.024", "60.012");
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    figure("tunnel_plan/max_cap_cut_mm", QStringLiteral("0.005"));
    EXPECT_EQ(text_of("tunnel-plan-verdict"), QStringLiteral("No plan within the limits"));
    EXPECT_EQ(headline(), QStringLiteral("No plan within the limits"));
    const std::size_t before = session_.entries().size();
    figure("tunnel_plan/max_cap_cut_mm", QStringLiteral("a bit"));
    EXPECT_EQ(session_.entries().size(), before);
    EXPECT_TRUE(remark("tunnel_plan/max_cap_cut_mm").contains(QStringLiteral("is not a number")));
}

TEST_F(TunnelJourney, DraggingACapShowsWhatGetsShort) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Tystie")));
    key(Qt::Key_F4);
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    auto* drawing = find<ui::PlanDrawing>("tunnel-plan");
    const QPoint cap(drawing->width() / 10,
                     static_cast<int>(drawing->height() * 0.7 / 2 + 28)); // the lower half of the first section
    QTest::mousePress(drawing, Qt::LeftButton, {}, cap);
    QMouseEvent move(QEvent::MouseMove, cap + QPoint(0, 8), drawing->mapToGlobal(cap + QPoint(0, 8)), Qt::NoButton,
                     Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(drawing, &move);
    QTest::mouseRelease(drawing, Qt::LeftButton, {}, cap + QPoint(0, 8));
    EXPECT_TRUE(drawing->is_changed());
    EXPECT_LT(drawing->tightest()->slack, -1e-4);
    EXPECT_TRUE(text_of("tunnel-plan-verdict").contains(QStringLiteral("main 1's cap")));
}

// The call asked for the saddles, and the line said that all sizes were read.
TEST_F(TunnelJourney, TheLineGoesOnWithWhatTheCallAsksFor) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Tystie")));
    key(Qt::Key_F4);
    ASSERT_TRUE(session_.take(block::TunnelPass{block::TunnelPassKind::strokes, 20, {}, false}));
    for (const auto& main : intake_of(session_.state()).blueprint->mains)
        for (const char* end : {"front", "rear"})
            for (const char* way : {"upright", "60 left", "60 right"}) {
                const double middle = main.diameter.middle();
                ASSERT_TRUE(session_.take(test::size_reading(main.id.text(), end, way, middle, 0.0005)));
            }
    EXPECT_EQ(headline(), QStringLiteral("Read main 1, saddle over the bar"));
    EXPECT_TRUE(text_of("reading-place").contains(QStringLiteral("saddle"))) << text_of("reading-place").toStdString();
}

// The masses are typed where they stand in the sentence; what follows from them stands in the drawing's table.
TEST_F(TunnelJourney, ABalanceCardIsFilledWhereItStands) {
    start();
    window_->tunnel().show_page(ui::TunnelView::Page::balance);
    for (const auto& [address, value] : std::map<const char*, const char*>{{"balance_card/big_end_g", "500"},
                                                                           {"balance_card/bearing_g", "40"},
                                                                           {"balance_card/small_end_g", "142"},
                                                                           {"balance_card/piston_g", "400"},
                                                                           {"balance_card/pin_g", "120"},
                                                                           {"balance_card/rings_g", "36"},
                                                                           {"balance_card/locks_g", "2"},
                                                                           {"balance_card/crank_kg", "20"},
                                                                           {"balance_card/speed_rev_min", "6000"}})
        figure(address, QString::fromLatin1(value));
    find<QWidget>("balance")->setFocus();
    key(Qt::Key_T);
    const auto* table = find<QTableWidget>("balance-table");
    ASSERT_EQ(table->rowCount(), 10);
    EXPECT_EQ(table->item(8, 2)->text(), QStringLiteral("1780.0 g")) << "2 · (540 + 350), no oil";
    EXPECT_EQ(table->item(9, 2)->text(), QStringLiteral("201 g·mm")) << "9549 · 6.3 · 20 / 6000";
}
