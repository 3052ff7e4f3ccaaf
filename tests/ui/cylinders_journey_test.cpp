// SPDX-License-Identifier: GPL-3.0-or-later
// Cylinders and lifters in the real window: a ruined one is sleeved, a shifted bank goes to its blueprint, a warm block
// rests, a chipped edge stops the work, sixteen lifters are bushed and proven.
#include "bench_fixture.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/sources.h"
#include "planning/row_block.h"
#include "planning/steps/steps.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/cylinders/ladder_drawing.h"
#include "ui/ferry_log.h"
#include "ui/frame/drawing.h"
#include "ui/lifters/lifters_view.h"
#include "workshop/harbour.h"
#include "workshop/machines.h"

#include <QClipboard>
#include <QPlainTextEdit>
#include <QTableView>
#include <QTableWidget>

using namespace pallix;
using test::bore_id;
using test::in;
using Page = ui::CylindersView::Page;

namespace {

class CylindersJourney : public test::BenchFixture {
  protected:
    void new_job(const std::string& blueprint) {
        const auto done = session_.new_job(QStringLiteral("row"), QStringLiteral("nobody"), {"row.json", blueprint});
        ASSERT_TRUE(done) << done.error().front().text();
        open_window();
    }
    /// The rest of the block is good by its papers.
    void want_only(planning::Stage stage) {
        ASSERT_TRUE(session_.take(block::ScopeChosen{{stage}, "the rest is good by its papers"}));
    }
    void only_bores() { want_only(planning::Stage::cylinders); }
    void enter(const QString& text) {
        QTest::keyClicks(focused(), text);
        QTest::keyClick(focused(), Qt::Key_Return);
    }
    /// A reading through the line; one that is asked about is meant.
    void read(double size) {
        key(Qt::Key_R, Qt::ControlModifier);
        const std::size_t before = session_.entries().size();
        enter(QString::number(size, 'f', 4));
        if (session_.entries().size() == before)
            QTest::keyClick(focused(), Qt::Key_Return);
        ASSERT_EQ(session_.entries().size(), before + 1) << text_of("echo").toStdString();
    }
    const planning::CylinderWork& work() { return *session_.assessment().cylinders; }
    void state_pistons(const QString& size) {
        window_->cylinders().show_page(Page::bore);
        figure("pistons/size_mm", size);
        figure("pistons/clearance_mm", QStringLiteral("0.05"));
    }
    /// Follows the boring board until it asks for something else than cuts and readings: one key a cut.
    void bore_by_the_board(workshop::BoringBar& bar) {
        using enum planning::BoringStep;
        window_->cylinders().show_page(Page::bore);
        for (int go = 0; go < 60 && work().step == planning::CylinderStep::bore; ++go) {
            const auto board = work().boring;
            if (board.step == bore || board.step == cut_again) {
                const auto hole = std::ranges::find(board.holes, *board.hole, &planning::HoleProgress::id);
                window_->call().speak_of(board.hole->text() + (hole->seat ? "/seat" : "/rough"));
                const std::size_t before = session_.entries().size();
                answer();
                ASSERT_EQ(session_.entries().size(), before + 1) << text_of("call-echo").toStdString();
                bored_[*board.hole] =
                    bar.bore(*bores_of(session_.state()).bore(*board.hole).cuts.back().payload.setting);
            } else if (board.step == measure || board.step == measure_first) {
                read(bored_[*board.hole]);
            } else if (board.step == judge_trial) {
                window_->call().speak_of(board.hole->text() + "/trial");
                tick("trial-clean");
                answer();
            } else {
                return;
            }
        }
    }
    std::map<block::FeatureId, double> bored_; ///< what the bar left
    void torque_plate_on() {
        block::Conditions c;
        c.plate_on = true;
        c.caps_torqued = true;
        ASSERT_TRUE(session_.take(block::ConditionsStated{c}));
    }
    void hone(int strokes) {
        window_->call().speak_of(work().hone.bore->text() + "/hone");
        ask("strokes", QString::number(strokes));
        answer();
    }
    /// All of them, grit by grit: stones that leave them in size, and the brush, which is counted in strokes.
    void hone_to(double size) {
        window_->cylinders().show_page(Page::hone);
        while (work().hone.step == planning::HoneStep::hone) {
            const block::FeatureId bore = *work().hone.bore;
            const bool brush = std::ranges::find(work().hone.bores, bore, &planning::HoneBore::id)->brush_due;
            hone(brush ? 15 : 40);
            if (brush) {
                EXPECT_EQ(bores_of(session_.state()).bore(bore).cuts.back().payload.step, "brush");
            }
            for (int i = 0; i < 6; ++i)
                read(size);
        }
    }
    /// What the bar left, of every bore, with the plate on.
    void read_as_bored(double size) {
        for (int i = 0; i < 60 && work().hone.step == planning::HoneStep::measure; ++i)
            read(size);
    }
    void tick_edges() {
        for (int i = 0; i < 3; ++i) {
            window_->call().speak_of(work().hone.bore->text() + "/dress/" +
                                     planning::id_part(work().hone.steps_left.front()));
            ask("note", QStringLiteral("even all round"));
            answer();
        }
    }
};

/// The tender's four with every cylinder off its place by as much, or an aluminium one that is sound.
std::string tender_log(metrology::Vec2 off, double oversize, double wear) {
    workshop::PracticeBlock p{workshop::tender_inline_four(), {}, 0, 0, 0.001, {}};
    p.decks["C"] = {};
    for (int n = 1; n <= 4; ++n)
        p.holes[bore_id(n)] = {off, {}, oversize, wear, 0};
    workshop::ProbeJob job;
    job.noise = 0.0002;
    job.holes = true;
    job.stated_uncertainty = 0.0005;
    return workshop::probe(p, job);
}

} // namespace

TEST_F(CylindersJourney, ARuinedCylinderIsSleevedAndTheRestGoToTheNextSize) {
    new_job(test::row_blueprint());
    only_bores();
    key(Qt::Key_F6);
    EXPECT_EQ(headline(), QStringLiteral("Wash the block"));
    EXPECT_TRUE(text_of("pattern").startsWith(QStringLiteral("No cylinder was probed.")));
    for (int n = 1; n <= 4; ++n)
        for (int place = 0; place < 6; ++place)
            read(n == 3 ? 82.5 : 80.02);
    EXPECT_EQ(headline(), QStringLiteral("Choose the centre and the size"));

    key(Qt::Key_Y, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(window_->cylinders().page(), Page::size);
    const planning::CommonSize* common = work().study.by(block::CentreSchool::top);
    EXPECT_EQ(common->set_by, bore_id(3));
    EXPECT_FALSE(common->oversize) << "nothing in the list holds every bore";
    EXPECT_EQ(common->without, 0.25);
    answer(); // keeps the plan
    EXPECT_EQ(headline(), QStringLiteral("No size holds every bore: decide on cylinder 3 (bore 3)"));
    auto* ladder = find<ui::LadderDrawing>("ladder");
    ladder->setFocus();
    for (int i = 0; i < 2; ++i)
        QTest::keyClick(ladder, Qt::Key_Down);
    EXPECT_EQ(ladder->marked(), bore_id(3));
    answer();
    EXPECT_EQ(text_of("call-echo"), QStringLiteral("Choose: what becomes of it."));
    tick("choice-sleeve");
    ask("note", QStringLiteral("scored past every size"));
    answer();
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Read sleeve of cylinder 3 (bore 3)")));

    state_pistons(QStringLiteral("80.20"));
    window_->cylinders().show_page(Page::sleeve);
    figure("insert_measured/outside_mm[0]", QStringLiteral("84.032"));
    EXPECT_TRUE(remark("insert_measured/inside_mm").contains(QStringLiteral("Still needed: outside, top, the other")))
        << remark("insert_measured/inside_mm").toStdString();
    EXPECT_FALSE(bores_of(session_.state()).bore(bore_id(3)).insert) << "half a sleeve is none";
    for (const auto& [address, value] : std::map<const char*, const char*>{{"insert_measured/outside_mm[1]", "84.030"},
                                                                           {"insert_measured/outside_mm[2]", "84.030"},
                                                                           {"insert_measured/outside_mm[3]", "84.030"},
                                                                           {"insert_measured/outside_mm[4]", "84.028"},
                                                                           {"insert_measured/outside_mm[5]", "84.030"},
                                                                           {"insert_measured/inside_mm", "79"},
                                                                           {"insert_measured/length_mm", "140"},
                                                                           {"insert_measured/interference_mm", "0.03"},
                                                                           {"insert_measured/parent_outside_mm", "100"},
                                                                           {"insert_measured/ledge_mm", "5"}})
        figure(address, QString::fromLatin1(value));
    ASSERT_TRUE(work().sleeves.front().plan);
    EXPECT_NEAR(work().sleeves.front().plan->seat, 84.0, 1e-9);
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Bore cylinder 3")));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Stop 5.000 mm above the bottom")));

    workshop::BoringBar bar;
    bore_by_the_board(bar);
    EXPECT_EQ(headline(), QStringLiteral("Fit the sleeve into cylinder 3 (bore 3)"));
    EXPECT_FALSE(text_of("call-caution").isEmpty()) << "the press can hurt";
    EXPECT_EQ(bar.bored, 1) << "1.5 mm in one cut";
    window_->cylinders().show_page(Page::sleeve);
    ask("proud", QStringLiteral("0.08"));
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Deck: take the sleeve flush"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("0.080 mm"));
    ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::pass, 0.08, true, {}}));
    EXPECT_EQ(headline(), QStringLiteral("Read cylinder 2 (bore 2), top, across the crankshaft"));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Measure its neighbours again")));
    EXPECT_EQ(work().neighbours, (std::vector{bore_id(2), bore_id(4)}));
    window_->cylinders().show_page(Page::bore);
    for (const int n : {2, 4}) {
        key(Qt::Key_R, Qt::ControlModifier);
        EXPECT_TRUE(text_of("reading-place").contains(QStringLiteral("cylinder %1").arg(n)))
            << text_of("reading-place").toStdString();
        read(80.015);
    }
    bore_by_the_board(bar);
    EXPECT_EQ(work().step, planning::CylinderStep::hone);
    EXPECT_EQ(headline(), QStringLiteral("Torque plate and caps on, as they will run"));
    torque_plate_on();
    EXPECT_EQ(work().hone.bore, bore_id(1));
    read_as_bored(80.15);
    EXPECT_EQ(work().hone.bore, bore_id(1));
    hone_to(80.255);
    for (int n = 1; n <= 4; ++n)
        tick_edges();
    EXPECT_EQ(headline(), QStringLiteral("Print the passport"));
    const auto stage = session_.assessment().stages[static_cast<std::size_t>(planning::Stage::cylinders)];
    EXPECT_EQ(stage.mark, planning::StageMark::cannot_tell) << "nobody said how sure the gauge is";
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NE(headline(), QStringLiteral("Print the passport")) << "undo strikes the last tick";
}

TEST_F(CylindersJourney, ABankShiftedAlikeIsBoredToItsBlueprint) {
    new_job(write_blueprint(workshop::tender_inline_four()));
    take_log(tender_log({0, 0.11}, 0.01, 0.04));
    key(Qt::Key_F6);
    EXPECT_TRUE(text_of("pattern").contains(QStringLiteral("All one way, by 0.110")))
        << text_of("pattern").toStdString();
    window_->cylinders().show_page(Page::size);
    choose_figure("cylinder_plan/centre", QStringLiteral("on the blueprint"));
    // 82.05 worn, 0.11 off: 82.27 about the blueprint, so +0.50; about the top +0.25 would do.
    EXPECT_EQ(work().study.oversize, 0.5);
    EXPECT_EQ(work().study.by(block::CentreSchool::top)->oversize, 0.25);
    state_pistons(QStringLiteral("82.45"));
    workshop::BoringBar bar;
    bar.error = -0.02;
    bore_by_the_board(bar);
    EXPECT_EQ(bar.bored, 5) << "the first hole told the tool's error";
    EXPECT_EQ(work().step, planning::CylinderStep::hone);
    torque_plate_on();
    state_uncertainty(planning::Measuring::cylinder_sizes, 0.001);
    read_as_bored(82.40);
    hone_to(82.506);
    for (int n = 1; n <= 4; ++n)
        tick_edges();
    EXPECT_EQ(headline(), QStringLiteral("Print the passport"));
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::cylinders)].mark,
              planning::StageMark::meets);
    // The proof: probed again, they stand where the blueprint has them.
    take_log(tender_log({0, 0}, 0.506, 0));
    window_->cylinders().show_page(Page::found);
    for (const auto& bore : tunnel_of(session_.state()).latest->evaluation.bores)
        EXPECT_LT(norm(bore.error), 0.002) << bore.id.text();
    EXPECT_EQ(work().study.bore(bore_id(1))->found.worn,
              tunnel_of(session_.state()).as_found->evaluation.bores[0].levels[1].diameter)
        << "what was found stays what was found";
}

TEST_F(CylindersJourney, AChippedEdgeStopsTheWorkBeforeTheNextHole) {
    new_job(test::row_blueprint());
    only_bores();
    key(Qt::Key_F6);
    for (int n = 1; n <= 4; ++n)
        for (int place = 0; place < 6; ++place)
            read(80.02);
    state_pistons(QStringLiteral("80.45"));
    workshop::BoringBar bar;
    bar.chips_at = 2;
    bar.chip = 0.05;
    bore_by_the_board(bar);
    EXPECT_EQ(headline(), QStringLiteral("Stop: look at the cutting edge"));
    EXPECT_EQ(bar.bored, 2);
    const std::size_t before = session_.entries().size();
    find<ui::CylindersView>("cylinders")->mark(*work().boring.before);
    answer();
    EXPECT_EQ(session_.entries().size(), before) << "nothing goes on";
    EXPECT_FALSE(session_.take(
        block::BoreCut{*work().boring.before, block::BoreOperation::rough, 80.4, 80.4, false, 0, "", {}, ""}));
    find<QPushButton>("call-back")->click();
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("Stop: look at the cutting edge"));
    EXPECT_EQ(find<QPushButton>("call-answer")->text(), QStringLiteral("Looked at"));
    answer();
    // With a fresh edge the hole is brought to size.
    bar.fit_new_edge();
    tick("new_edge");
    ask("setting", QStringLiteral("80.40"));
    answer();
    ASSERT_EQ(session_.entries().size(), before + 2);
    EXPECT_TRUE(std::get<block::BoreCut>(session_.entries().back().payload).new_edge);
    bored_[*work().boring.hole] = bar.bore(80.40);
    read(bored_[*work().boring.hole]);
    bore_by_the_board(bar);
    EXPECT_EQ(work().step, planning::CylinderStep::hone);
    // From a number to where it comes from: its section, and a key.
    find<ui::CylindersView>("cylinders")->mark(bore_id(2));
    in_dialog([this](QDialog& d) {
        auto* table = d.findChild<QTableView*>();
        ASSERT_NE(table, nullptr);
        int shown = 0;
        for (int row = 0; row < table->model()->rowCount(); ++row)
            shown += table->isRowHidden(row) ? 0 : 1;
        EXPECT_EQ(shown, static_cast<int>(planning::sources_of(session_.state(), bore_id(2)).size()));
        EXPECT_LT(shown, table->model()->rowCount());
        d.reject();
    });
    key(Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
}

TEST_F(CylindersJourney, AnAluminiumBlockRestsAndIsMeasuredAgain) {
    new_job(test::row_blueprint("aluminium"));
    only_bores();
    key(Qt::Key_F6);
    for (int n = 1; n <= 4; ++n)
        ASSERT_TRUE(session_.take(test::size_reading(bore_id(n).text(), "top", "across", 80.02)));
    for (const int n : {2, 3, 4})
        ASSERT_TRUE(session_.take(block::BoreDecided{bore_id(n), block::BoreChoice::leave, "not in this test"}));
    state_pistons(QStringLiteral("80.45"));
    workshop::BoringBar bar;
    bore_by_the_board(bar);
    torque_plate_on();
    for (int i = 0; i < 6 && !work().hone.bores[0].measured; ++i)
        read(80.40); // what was read without the plate gives no stock
    hone_to(80.506);
    EXPECT_EQ(headline(), QStringLiteral("Let the block rest"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("40 min"));
    ticks_ = 0; // the fixture's clock: 09:10 and a minute a look
    ask("minutes", QStringLiteral("nine"));
    answer();
    EXPECT_TRUE(text_of("call-echo").contains(QStringLiteral("minutes"))) << text_of("call-echo").toStdString();
    EXPECT_FALSE(bores_of(session_.state()).rest);
    ask("minutes", QStringLiteral("10"));
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Let the block rest"));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Waits: it rests until ")));
    EXPECT_FALSE(text_of("call-reasons").contains(QStringLiteral("2026-03-02T"))) << "as the clock on the wall has it";
    EXPECT_TRUE(text_of("call-number").endsWith(QStringLiteral(" left"))) << text_of("call-number").toStdString();
    read(80.50);
    EXPECT_EQ(readings_of(session_.state()).readings.back().stale_because, "read before the block had rested");
    ticks_ = 20; // later than the rest
    for (int i = 0; i < 6; ++i)
        read(80.503);
    EXPECT_EQ(headline(), QStringLiteral("Dress cylinder 1 (bore 1)"));
    EXPECT_NEAR(work().hone.bores[0].most, -0.003, 1e-9);
}

TEST_F(CylindersJourney, ATraceIsReadOrRefusedAndItsLimitsAreEdited) {
    new_job(test::row_blueprint());
    key(Qt::Key_F6);
    window_->cylinders().show_page(Page::texture);
    in_dialog([](QDialog& d) {
        EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")
                        ->toPlainText()
                        .contains(QStringLiteral("bad.trace.csv:1: this is no roughness trace")));
        d.reject();
    });
    window_->cylinders().take_trace(QString::fromStdString(write("bad.trace.csv", "x,z\n0,1\n")));
    EXPECT_TRUE(bores_of(session_.state()).bore(bore_id(1)).traces.empty());
    const QString file = QString::fromStdString(write("wall.trace.csv", workshop::trace({})));
    window_->take_files({file}); // dropped onto the window
    ASSERT_FALSE(bores_of(session_.state()).bore(bore_id(1)).traces.empty());
    const std::string x3p = write("again.x3p", "");
    ASSERT_EQ(std::system((std::string("/usr/bin/python3 ") + PALLIX_TOOLS + "/write_x3p.py D " + x3p).c_str()), 0);
    window_->take_files({QString::fromStdString(x3p)});
    EXPECT_EQ(bores_of(session_.state()).bore(bore_id(1)).traces.size(), 2U);
    key(Qt::Key_Z, Qt::ControlModifier);
    ASSERT_EQ(bores_of(session_.state()).bore(bore_id(1)).traces.size(), 1U);
    choose_figure("texture_limits/rings", QStringLiteral("plain iron rings, workboat"));
    ASSERT_TRUE(bores_of(session_.state()).texture_limits);
    const auto rk = [this] { return bores_of(session_.state()).texture_limits->payload.rk; };
    const double usual = *rk().most;
    figure("texture_limits/rk.most", QStringLiteral("soft"));
    EXPECT_NE(remark("texture_limits/rk.most"), QString());
    EXPECT_EQ(rk().most, usual);
    figure("texture_limits/rk.least", QStringLiteral("0.10"));
    figure("texture_limits/rk.most", QStringLiteral("0.11"));
    EXPECT_NEAR(*rk().most, 0.00011, 1e-12);
    find<ui::Drawing>("trace")->setFocus();
    key(Qt::Key_T); // the table in the drawing's place
    auto* table = find<QTableWidget>("trace-table");
    ASSERT_TRUE(table->isVisible());
    EXPECT_EQ(table->item(2, 0)->text(), QStringLiteral("Rk"));
    EXPECT_EQ(table->item(2, 1)->text(), QStringLiteral("fails"));
    key(Qt::Key_C, Qt::ControlModifier);
    EXPECT_TRUE(
        QApplication::clipboard()->text().startsWith(QStringLiteral("parameter\tstands\tmeasured\tsure to ±\nRa\t")));
    key(Qt::Key_T);
    EXPECT_FALSE(table->isVisible());
}

TEST_F(CylindersJourney, WrongFiguresAreRefusedWhereTheyStand) {
    new_job(test::row_blueprint());
    key(Qt::Key_F6);
    const auto refused = [this](const char* address, const char* typed) {
        figure(address, QString::fromUtf8(typed));
        return remark(address);
    };
    window_->cylinders().show_page(Page::size);
    EXPECT_NE(refused("cylinder_plan/oversizes_mm", "0, quarter"), QString());
    EXPECT_TRUE(refused("cylinder_plan/oversizes_mm", "").contains(QStringLiteral("oversizes has 0 items")));
    window_->cylinders().show_page(Page::bore);
    EXPECT_TRUE(refused("pistons/size_mm", "8").contains(QStringLiteral("do not belong into bore.C.1")))
        << remark("pistons/size_mm").toStdString();
    answer();
    window_->cylinders().show_page(Page::hone);
    EXPECT_TRUE(refused("hone_plan/strokes_per_min", "0")
                    .contains(QStringLiteral("strokes per min is 0, expected greater than 0")));
    EXPECT_TRUE(refused("hone_plan/steps", "150 stone 0.04; brush").contains(QStringLiteral("each grit with what")));
    EXPECT_TRUE(
        refused("hone_plan/steps", "220 stone 0.01; 400 stone 0.02").contains(QStringLiteral("less and less stock")));
    // A pit is noted at any time, of the cylinder that is marked: how deep it is must be said.
    window_->cylinders().mark(bore_id(2));
    const std::size_t before = session_.entries().size();
    window_->call().speak_of("bore.C.2/any/pit");
    answer();
    EXPECT_EQ(session_.entries().size(), before);
    EXPECT_EQ(text_of("call-echo"), QStringLiteral("depth: nothing is typed"));
    ask("depth", QStringLiteral("0.2"));
    tick("level-top");
    tick("side-rear");
    answer();
    ASSERT_EQ(bores_of(session_.state()).bore(bore_id(2)).pits.size(), 1U);
    EXPECT_EQ(bores_of(session_.state()).bore(bore_id(2)).pits[0].payload.direction, "rear");
    window_->go_to(ui::Place::lifters);
    window_->go_to(ui::Place::cylinders);
    window_->cylinders().show_page(Page::hone);
    figure("hone_plan/steps", QStringLiteral("220 stone 0.01; plateau brush 0"));
    const auto plan = planning::hone_plan_of(session_.state());
    ASSERT_EQ(plan.steps.size(), 2U) << remark("hone_plan/steps").toStdString();
    EXPECT_EQ(plan.steps[0].grit, "220 stone");
    EXPECT_EQ(plan.steps[1].abrasive, block::Abrasive::brush);
}

TEST_F(CylindersJourney, SixteenLiftersAreBushedAndProven) {
    new_job(write_blueprint(workshop::ferry_v8()));
    take_log(test::ferry_log(0.08, 22.01));
    want_only(planning::Stage::lifters);
    key(Qt::Key_F7);
    EXPECT_EQ(headline(), QStringLiteral("Give the shop's numbers"));
    window_->lifters().show_page(ui::LiftersView::Page::work);
    choose_figure("lifter_plan/school", QStringLiteral("bush every one"));
    // The call asks for what is missing, three at a time.
    ask("lifter_plan/lifter_mm", QStringLiteral("21.965"));
    ask("lifter_plan/clearance_least_mm", QStringLiteral("0.025"));
    ask("lifter_plan/clearance_most_mm", QStringLiteral("0.045"));
    answer();
    for (const auto& [address, value] : std::map<const char*, const char*>{{"lifter_plan/position_mm", "0.02"},
                                                                           {"lifter_plan/base_radius_mm", "15"},
                                                                           {"lifter_plan/roller_radius_mm", "8.5"}})
        figure(address, QString::fromLatin1(value));
    ask("lifter_plan/bush_outside_mm", QStringLiteral("24"));
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Give the shop's numbers")) << "interference has no default";
    EXPECT_EQ(text_of("call-echo"), QStringLiteral("interference: nothing is typed"));
    ask("lifter_plan/interference_mm", QStringLiteral("0.03"));
    answer();
    const double seat = 23.97, inside = 22.0;
    const auto& board = [this]() -> const planning::LifterBoard& { return session_.assessment().lifters->board; };
    using enum planning::LifterStep;
    for (int go = 0; go < 400 && board().step != prove; ++go) {
        const auto step = board().step;
        if (step == cut || step == press) {
            answer();
        } else if (step == measure_cut) {
            read(*bores_of(session_.state()).bore(*board().lifter).cuts.back().payload.target);
        } else {
            FAIL() << headline().toStdString();
        }
    }
    ASSERT_EQ(board().step, prove) << text_of("call-echo").toStdString();
    for (const auto& lifter : intake_of(session_.state()).blueprint->lifters) {
        const block::BoreWork& w = bores_of(session_.state()).bore(lifter.id);
        ASSERT_EQ(w.cuts.size(), 5U) << lifter.id.text();
        EXPECT_NEAR(*w.cuts[3].payload.target, seat, 1e-9);
        EXPECT_NEAR(*w.cuts[4].payload.target, inside, 1e-9);
        EXPECT_TRUE(w.fitted);
    }
    take_log(test::ferry_log(0.004, inside));
    EXPECT_EQ(headline(), QStringLiteral("Print the passport"));
    ASSERT_TRUE(board().after);
    EXPECT_LT(board().after->spread(), session_.assessment().lifters->study.before->spread() / 10);
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::lifters)].mark,
              planning::StageMark::meets);
}
