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
#include "ui/cylinders/cylinders_view.h"
#include "ui/cylinders/ladder_drawing.h"
#include "ui/cylinders/texture_page.h"
#include "ui/lifters/lifters_view.h"
#include "workshop/harbour.h"
#include "workshop/machines.h"

#include <QComboBox>
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
    void fill(const char* field, const QString& text) {
        auto* edit = find<QLineEdit>(field);
        edit->setFocus();
        edit->clear();
        QTest::keyClicks(edit, text);
    }
    void press(const char* button) { QTest::mouseClick(find<QPushButton>(button), Qt::LeftButton); }
    void choose(const char* box, const QString& item) {
        auto* combo = find<QComboBox>(box);
        const int i = combo->findText(item);
        ASSERT_GE(i, 0) << item.toStdString();
        combo->setCurrentIndex(i);
        Q_EMIT combo->activated(i);
    }
    QString headline() { return text_of("call-headline"); }
    const planning::CylinderWork& work() { return *session_.assessment().cylinders; }
    void state_pistons(const QString& size) {
        window_->cylinders().show_page(Page::bore);
        fill("piston", size);
        fill("clearance", QStringLiteral("0.05"));
        press("keep-pistons");
    }
    /// Follows the boring board until it asks for something else than cuts and readings.
    void bore_by_the_board(workshop::BoringBar& bar) {
        using enum planning::BoringStep;
        window_->cylinders().show_page(Page::bore);
        std::map<block::FeatureId, double> holes;
        for (int go = 0; go < 60 && work().step == planning::CylinderStep::bore; ++go) {
            const auto board = work().boring;
            if (board.step == bore || board.step == cut_again) {
                key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
                QTest::keyClick(focused(), Qt::Key_Return);
                holes[*board.hole] =
                    bar.bore(*bores_of(session_.state()).bore(*board.hole).cuts.back().payload.setting);
            } else if (board.step == measure || board.step == measure_first) {
                read(holes[*board.hole]);
            } else {
                return;
            }
        }
    }
    void torque_plate_on() {
        block::Conditions c;
        c.plate_on = true;
        c.caps_torqued = true;
        ASSERT_TRUE(session_.take(block::ConditionsStated{c}));
    }
    void hone_to(double size) {
        window_->cylinders().show_page(Page::hone);
        fill("hone-strokes", QStringLiteral("40"));
        QTest::keyClick(focused(), Qt::Key_Return);
        for (int i = 0; i < 6; ++i)
            read(size);
        // In size after the last stone: the brush is counted in strokes, and follows.
        if (std::ranges::any_of(work().hone.bores, &planning::HoneBore::brush_due)) {
            EXPECT_EQ(find<QComboBox>("hone-step")->currentText(), QStringLiteral("brush"));
            fill("hone-strokes", QStringLiteral("15"));
            QTest::keyClick(focused(), Qt::Key_Return);
            for (int i = 0; i < 6; ++i)
                read(size);
        }
    }
    void tick_edges() {
        for (int i = 0; i < 3; ++i) {
            fill("tick-seen", QStringLiteral("even all round"));
            choose("bore-ticks", QString::fromStdString(work().hone.steps_left.front()));
            press("tick-bore");
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

std::string ferry_log(double shift, double bore) {
    workshop::PracticeBlock p{workshop::ferry_v8(), {}, 0, 0, 0.001, {}};
    for (const char* bank : {"R", "L"}) {
        p.decks[bank] = {};
        for (int n = 1; n <= 8; ++n)
            p.holes[{block::FeatureKind::lifter, bank, n}] = {{0, shift * (1 + n % 3)}, {}, bore - 22, 0, 0};
    }
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
    EXPECT_TRUE(find<QLabel>("positions-empty")->isVisible());
    for (int n = 1; n <= 4; ++n)
        for (int place = 0; place < 6; ++place)
            read(n == 3 ? 82.5 : 80.02);
    EXPECT_EQ(headline(), QStringLiteral("Choose the centre and the size"));

    key(Qt::Key_Y, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(window_->cylinders().page(), Page::size);
    EXPECT_TRUE(text_of("size-words")
                    .contains(QStringLiteral("nothing in the list holds every bore; cylinder 3 (bore 3) sets it (needs "
                                             "+2.500), without it +0.250 mm")))
        << text_of("size-words").toStdString();
    press("keep-cylinder-plan");
    EXPECT_EQ(headline(), QStringLiteral("No size holds every bore: decide on cylinder 3 (bore 3)"));
    auto* ladder = find<ui::LadderDrawing>("ladder");
    ladder->setFocus();
    for (int i = 0; i < 2; ++i)
        QTest::keyClick(ladder, Qt::Key_Down);
    EXPECT_EQ(text_of("size-bore"), QStringLiteral("cylinder 3"));
    choose("bore-choice", QStringLiteral("sleeve it"));
    fill("bore-why", QStringLiteral("scored past every size"));
    press("decide-bore");
    EXPECT_EQ(headline(), QStringLiteral("Measure the sleeve for cylinder 3 (bore 3)"));

    state_pistons(QStringLiteral("80.20"));
    window_->cylinders().show_page(Page::sleeve);
    press("keep-sleeve");
    EXPECT_TRUE(text_of("sleeve-echo").contains(QStringLiteral("Still needed: inside")))
        << text_of("sleeve-echo").toStdString();
    for (const auto& [field, value] : std::map<const char*, const char*>{{"outside-1", "84.032"},
                                                                         {"outside-2", "84.030"},
                                                                         {"outside-3", "84.030"},
                                                                         {"outside-4", "84.030"},
                                                                         {"outside-5", "84.028"},
                                                                         {"outside-6", "84.030"},
                                                                         {"inside", "79"},
                                                                         {"length", "140"},
                                                                         {"interference", "0.03"},
                                                                         {"parent", "100"},
                                                                         {"ledge", "5"}})
        fill(field, QString::fromLatin1(value));
    press("keep-sleeve");
    EXPECT_TRUE(text_of("sleeve-words").contains(QStringLiteral("Seat 84.000 mm")))
        << text_of("sleeve-words").toStdString();
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Bore cylinder 3")));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Stop 5.000 mm above the bottom")));

    workshop::BoringBar bar;
    bore_by_the_board(bar);
    EXPECT_EQ(headline(), QStringLiteral("Fit the sleeve into cylinder 3 (bore 3)"));
    EXPECT_FALSE(text_of("call-caution").isEmpty()) << "the press can hurt";
    EXPECT_EQ(bar.bored, 1) << "1.5 mm in one cut";
    window_->cylinders().show_page(Page::sleeve);
    fill("sleeve-proud", QStringLiteral("0.08"));
    press("sleeve-in");
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
    for (const int n : {1, 2, 3, 4}) {
        EXPECT_EQ(work().hone.bore, bore_id(n));
        for (int i = 0; i < 6 && !work().hone.bores[static_cast<std::size_t>(n - 1)].measured; ++i)
            read(80.15); // what boring left
        hone_to(80.255);
    }
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
    choose("centre", QStringLiteral("on the blueprint"));
    press("keep-cylinder-plan");
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
    for (int n = 1; n <= 4; ++n) {
        for (int i = 0; i < 6 && !work().hone.bores[static_cast<std::size_t>(n - 1)].measured; ++i)
            read(82.40);
        hone_to(82.506);
    }
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
    EXPECT_TRUE(find<QPushButton>("edge-looked-at")->isVisible());
    const std::size_t before = session_.entries().size();
    find<ui::CylindersView>("cylinders")->mark(*work().boring.before);
    fill("bore-set", QStringLiteral("80.40"));
    press("log-bore");
    EXPECT_EQ(session_.entries().size(), before) << "nothing goes on";
    EXPECT_TRUE(text_of("bore-echo").contains(QStringLiteral("the edge of the tool is in doubt")))
        << text_of("bore-echo").toStdString();
    // With a fresh edge the hole is brought to size.
    find<ui::CylindersView>("cylinders")->mark(*work().boring.hole);
    bar.fit_new_edge();
    QTest::mouseClick(find<QCheckBox>("fresh-edge"), Qt::LeftButton, {}, QPoint(8, 10));
    fill("bore-set", QStringLiteral("80.40"));
    press("log-bore");
    ASSERT_EQ(session_.entries().size(), before + 1);
    read(bar.bore(80.40));
    bore_by_the_board(bar);
    EXPECT_EQ(work().step, planning::CylinderStep::hone);
    // Two clicks from a number to where it comes from: its row, and the button.
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
    press("cylinder-sources");
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
    for (int i = 0; i < 5; ++i)
        read(80.40);
    hone_to(80.506);
    EXPECT_EQ(headline(), QStringLiteral("Let the block rest"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("40 min"));
    ticks_ = 0; // the fixture's clock: 09:10 and a minute a look
    fill("rest-minutes", QStringLiteral("nine"));
    press("start-rest");
    EXPECT_TRUE(text_of("hone-echo").contains(QStringLiteral("no number")));
    fill("rest-minutes", QStringLiteral("10"));
    press("start-rest");
    EXPECT_EQ(headline(), QStringLiteral("Let the block rest"));
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Waits: it rests until 2026-03-02T")));
    EXPECT_TRUE(text_of("rest-clock").startsWith(QStringLiteral("resting"))) << text_of("rest-clock").toStdString();
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
    window_->cylinders().texture().take_trace(QString::fromStdString(write("bad.trace.csv", "x,z\n0,1\n")));
    EXPECT_TRUE(text_of("texture-echo").contains(QStringLiteral("bad.trace.csv:1: this is no roughness trace")))
        << text_of("texture-echo").toStdString();
    EXPECT_FALSE(bores_of(session_.state()).bore(bore_id(1)).trace);
    const QString file = QString::fromStdString(write("wall.trace.csv", workshop::trace({})));
    window_->take_files({file}); // dropped onto the window
    ASSERT_TRUE(bores_of(session_.state()).bore(bore_id(1)).trace);
    auto* table = find<QTableWidget>("texture");
    EXPECT_EQ(table->item(2, 0)->text(), QStringLiteral("Rk, µm"));
    EXPECT_TRUE(table->item(2, 2)->text().endsWith(QStringLiteral("µm")));
    choose("rings", QStringLiteral("plain iron rings, workboat"));
    table->item(2, 3)->setText(QStringLiteral("soft"));
    press("keep-texture");
    EXPECT_TRUE(text_of("texture-echo").contains(QStringLiteral("no number")));
    EXPECT_FALSE(bores_of(session_.state()).texture_limits);
    table->item(2, 3)->setText(QStringLiteral("0.10"));
    table->item(2, 4)->setText(QStringLiteral("0.11"));
    press("keep-texture");
    ASSERT_TRUE(bores_of(session_.state()).texture_limits);
    EXPECT_NEAR(*bores_of(session_.state()).texture_limits->payload.rk.most, 0.00011, 1e-12);
    EXPECT_EQ(table->item(2, 1)->text(), QStringLiteral("fails"));
}

TEST_F(CylindersJourney, WrongFiguresAreRefusedBesideTheirFields) {
    new_job(test::row_blueprint());
    key(Qt::Key_F6);
    window_->cylinders().show_page(Page::size);
    fill("oversizes", QStringLiteral("0, quarter"));
    press("keep-cylinder-plan");
    EXPECT_TRUE(text_of("size-echo").startsWith(QStringLiteral("sizes on offer:")))
        << text_of("size-echo").toStdString();
    fill("oversizes", QString());
    press("keep-cylinder-plan");
    EXPECT_TRUE(text_of("size-echo").contains(QStringLiteral("oversizes has 0 items")));
    press("note-pit");
    EXPECT_TRUE(text_of("size-echo").contains(QStringLiteral("how deep")));
    window_->cylinders().show_page(Page::bore);
    fill("piston", QStringLiteral("8"));
    press("keep-pistons");
    EXPECT_TRUE(text_of("bore-echo").contains(QStringLiteral("do not belong into bore.C.1")))
        << text_of("bore-echo").toStdString();
    press("log-bore");
    EXPECT_TRUE(text_of("bore-echo").contains(QStringLiteral("Mark a hole")));
    window_->cylinders().show_page(Page::hone);
    fill("hone-rate", QStringLiteral("0"));
    press("keep-hone-plan");
    EXPECT_TRUE(text_of("hone-echo").contains(QStringLiteral("strokes per min is 0, expected greater than 0")));
    fill("hone-rate", QStringLiteral("55"));
    fill("hone-steps", QStringLiteral("150 stone 0.04; brush"));
    press("keep-hone-plan");
    EXPECT_TRUE(text_of("hone-echo").contains(QStringLiteral("each with what it leaves")));
    fill("hone-steps", QStringLiteral("220 stone 0.01; 400 stone 0.02"));
    press("keep-hone-plan");
    EXPECT_TRUE(text_of("hone-echo").contains(QStringLiteral("less and less stock")));
    window_->go_to(ui::Place::lifters);
    window_->lifters().show_page(ui::LiftersView::Page::work);
    fill("lifter-least", QStringLiteral("0.06"));
    fill("lifter-most", QStringLiteral("0.02"));
    press("keep-lifter-plan");
    EXPECT_TRUE(text_of("lifter-echo").contains(QStringLiteral("the smaller clearance first")))
        << text_of("lifter-echo").toStdString();
    EXPECT_EQ(session_.entries().size(), 1U) << "nothing was taken";
    window_->go_to(ui::Place::cylinders);
    window_->cylinders().show_page(Page::hone);
    fill("hone-steps", QStringLiteral("220 stone 0.01; plateau brush 0"));
    press("keep-hone-plan");
    const auto plan = planning::hone_plan_of(session_.state());
    ASSERT_EQ(plan.steps.size(), 2U) << text_of("hone-echo").toStdString();
    EXPECT_EQ(plan.steps[0].grit, "220 stone");
    EXPECT_EQ(plan.steps[1].abrasive, block::Abrasive::brush);
}

TEST_F(CylindersJourney, SixteenLiftersAreBushedAndProven) {
    new_job(write_blueprint(workshop::ferry_v8()));
    take_log(ferry_log(0.08, 22.01));
    want_only(planning::Stage::lifters);
    key(Qt::Key_F7);
    EXPECT_EQ(headline(), QStringLiteral("Give the shop's numbers"));
    window_->lifters().show_page(ui::LiftersView::Page::work);
    choose("lifter-school", QStringLiteral("bush every one"));
    for (const auto& [field, value] : std::map<const char*, const char*>{{"lifter-size", "21.965"},
                                                                         {"lifter-least", "0.025"},
                                                                         {"lifter-most", "0.045"},
                                                                         {"lifter-position", "0.02"},
                                                                         {"base-radius", "15"},
                                                                         {"roller-radius", "8.5"},
                                                                         {"bush-outside", "24"}})
        fill(field, QString::fromLatin1(value));
    press("keep-lifter-plan");
    EXPECT_EQ(headline(), QStringLiteral("Give the shop's numbers")) << "interference has no default";
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("interference of the bushes")));
    fill("bush-interference", QStringLiteral("0.03"));
    press("keep-lifter-plan");
    const double seat = 23.97, inside = 22.0;
    const auto& board = [this]() -> const planning::LifterBoard& { return session_.assessment().lifters->board; };
    using enum planning::LifterStep;
    for (int go = 0; go < 400 && board().step != prove; ++go) {
        const auto step = board().step;
        if (step == cut) {
            key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
            QTest::keyClick(focused(), Qt::Key_Return);
        } else if (step == measure_cut) {
            read(*bores_of(session_.state()).bore(*board().lifter).cuts.back().payload.target);
        } else if (step == press) {
            CylindersJourney::press("bush-in");
        } else {
            FAIL() << headline().toStdString();
        }
    }
    ASSERT_EQ(board().step, prove) << text_of("lifter-echo").toStdString();
    for (const auto& lifter : intake_of(session_.state()).blueprint->lifters) {
        const block::BoreWork& w = bores_of(session_.state()).bore(lifter.id);
        ASSERT_EQ(w.cuts.size(), 5U) << lifter.id.text();
        EXPECT_NEAR(*w.cuts[3].payload.target, seat, 1e-9);
        EXPECT_NEAR(*w.cuts[4].payload.target, inside, 1e-9);
        EXPECT_TRUE(w.fitted);
    }
    take_log(ferry_log(0.004, inside));
    EXPECT_EQ(headline(), QStringLiteral("Print the passport"));
    ASSERT_TRUE(board().after);
    EXPECT_LT(board().after->spread(), session_.assessment().lifters->study.before->spread() / 10);
    EXPECT_EQ(session_.assessment().stages[static_cast<std::size_t>(planning::Stage::lifters)].mark,
              planning::StageMark::meets);
}
