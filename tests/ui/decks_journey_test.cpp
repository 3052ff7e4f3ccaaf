// SPDX-License-Identifier: GPL-3.0-or-later
// Decks in the real window: with nothing but a straightedge, and by probe to a zero deck on both banks.
#include "bench_fixture.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/set_up.h"
#include "planning/readings/reading_plan.h"
#include "session/belief_work.h"
#include "ui/decks/deck_drawing.h"
#include "ui/frame/drawing.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/figure_line.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"
#include "wording/steps/step_words.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableWidget>

using namespace pallix;
using planning::DeckStep;
using test::in;

namespace {

class DecksJourney : public test::BenchFixture {
  protected:
    void enter(const QString& text) {
        QTest::keyClicks(focused(), text);
        QTest::keyClick(focused(), Qt::Key_Return);
    }
    void read_what(const char* what) {
        key(Qt::Key_R, Qt::ControlModifier);
        for (int i = 0; i < 9 && find<QComboBox>("what-to-measure")->currentText() != QString::fromLatin1(what); ++i)
            key(Qt::Key_M, Qt::ControlModifier);
        ASSERT_EQ(find<QComboBox>("what-to-measure")->currentText(), QString::fromLatin1(what));
        key(Qt::Key_R, Qt::ControlModifier);
    }
    DeckStep call() { return session_.assessment().decks.kind; }
    /// Paints over a place of the deck on the passes page with the mouse.
    void paint(metrology::Vec2 from, metrology::Vec2 to) {
        auto* deck = find<ui::DeckDrawing>("deck");
        const QPoint a = deck->picture()->to_screen(from).toPoint(), b = deck->picture()->to_screen(to).toPoint();
        QTest::mousePress(deck, Qt::LeftButton, {}, a);
        for (int i = 1; i <= 8; ++i) {
            const QPoint at = a + (b - a) * i / 8;
            QMouseEvent move(QEvent::MouseMove, at, deck->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(deck, &move);
        }
        QTest::mouseRelease(deck, Qt::LeftButton, {}, b);
    }
    void wait_for_belief() {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !session_.beliefs().running(); }, 20000));
        QApplication::processEvents();
    }
    /// The workboat's V6 as it was found, on the page of its decks.
    void open_worn_v6();
};

/// The workboat's V6 with worn decks, and what it measures like after they were cut to a height.
workshop::PracticeBlock worn_v6(std::optional<double> cut_to) {
    workshop::PracticeBlock p{workshop::workboat_v6(), {}, 0.002, 0.001, 0.001, {}};
    workshop::DeckTruth t;
    t.offset = 0.08;
    t.rear_over_front = 0.03;
    t.dip = {300, 50};
    t.dip_depth = 0.02;
    t.cut_to = cut_to;
    p.decks["R"] = t;
    t.rear_over_front = -0.02;
    p.decks["L"] = t;
    return p;
}

std::string log_of(std::optional<double> cut_to, std::uint64_t seed) {
    workshop::ProbeJob job;
    job.seed = seed;
    job.noise = 0.0005;
    job.stated_uncertainty = 0.001;
    return workshop::probe(worn_v6(cut_to), job);
}

void DecksJourney::open_worn_v6() {
    ASSERT_TRUE(session_.new_job(QStringLiteral("practice"), QStringLiteral("nobody"),
                                 {"v6.json", block::write_blueprint(workshop::workboat_v6())}));
    open_window();
    ASSERT_TRUE(session_.take_probe_logs({{"found.csv", log_of({}, 5)}}, std::nullopt));
    key(Qt::Key_F5);
    wait_for_belief();
}

} // namespace

TEST_F(DecksJourney, FeelersOnlyThenCutCleanFlat) {
    open_small_job();
    ASSERT_TRUE(session_.take(block::GatePassed{block::Rule::tunnel_first, "decks", "the mains are good by feel"}));
    open_window();
    key(Qt::Key_F5);
    read_what("feelers");
    for (int line = 0; line < 5; ++line)
        enter(line == 3 ? QStringLiteral("0.08 0.09") : QStringLiteral("0.05 0.06"));
    ASSERT_EQ(session_.assessment().by_feel.size(), 1U);
    EXPECT_EQ(call(), DeckStep::cut_by_feel);
    EXPECT_EQ(headline(), QStringLiteral("Deck: witness cut"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("0.025 mm"));

    // What feelers imply stands on the page, and the line with the widest gap is drawn.
    key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier); // mock-up
    key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier); // as found
    EXPECT_TRUE(text_of("found-words").contains(QStringLiteral("at least 0.040 and at most 0.270 mm, as sure as 95 %")))
        << text_of("found-words").toStdString();
    find<ui::DeckDrawing>("deck-as-found")->setFocus();
    key(Qt::Key_T);
    EXPECT_EQ(find<QTableWidget>("deck-as-found-table")->item(3, 1)->text(), QStringLiteral("0.080 to 0.090"));
    key(Qt::Key_T);

    key(Qt::Key_D, Qt::ControlModifier); // the passes
    paint({10, -40}, {10, 40});
    EXPECT_GT(find<ui::DeckDrawing>("deck")->dark().size(), 5U);
    tick("clean"); // all but what is painted
    answer();
    EXPECT_EQ(decks_of(session_.state()).deck("C").cuts.size(), 1U);
    EXPECT_TRUE(decks_of(session_.state()).deck("C").cuts[0].cut.rest_bright);
    EXPECT_EQ(call(), DeckStep::cut_by_feel) << "places stayed dark";
    tick("clean");
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Deck: finishing cut"));
    answer(); // what was clean stays clean
    EXPECT_EQ(headline(), QStringLiteral("Deck: spring pass"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("no infeed"));
    find<QAbstractButton>("ask-lines-gone")->click();
    answer();
    EXPECT_EQ(decks_of(session_.state()).deck("C").cuts.back().cut.lines, block::MarkerLines::gone);
    EXPECT_EQ(call(), DeckStep::feel_again);
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Lay the straightedge")));

    read_what("feelers");
    for (int line = 0; line < 5; ++line)
        enter(QStringLiteral("0 0.01"));
    EXPECT_EQ(call(), DeckStep::flat_by_feel);
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Read deck"))) << headline().toStdString();
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Flat along its lines")));
    EXPECT_EQ(session_.assessment().by_feel[0].verdict, metrology::Verdict::meets) << "0.02 + 2 · 0.01 is the limit";
}

TEST_F(DecksJourney, ProbeMockUpZeroDeckOnBothBanksWithinAThou) {
    open_worn_v6();
    ASSERT_NE(session_.belief("R"), nullptr);

    // The pistons stand at 241.28 above the crankshaft: what is read is the deck less that.
    const double crown = 241.28;
    for (const char* bank : {"R", "L"}) {
        window_->decks().show_bank(bank);
        read_what("piston to deck");
        for (const auto& at : planning::usual_places(*intake_of(session_.state()).blueprint,
                                                     planning::Measuring::piston_heights, bank)) {
            const auto* bore = intake_of(session_.state()).blueprint->hole(at.feature);
            const double below = *block::height_now(decks_of(session_.state()).deck(bank), {bore->u, bore->v}) - crown;
            const double rock = at.direction == "one side of the pin" ? 0.02 : -0.02;
            enter(QString::number(below + rock, 'f', 3));
        }
    }
    ASSERT_EQ(session_.assessment().crowns.size(), 6U) << "two cylinders a bank read, the third lies between";
    for (const auto& c : session_.assessment().crowns)
        EXPECT_NEAR(c.crown, crown, 0.001);

    choose_figure("deck_target/school", QString::fromStdString(wording::school_name(block::TargetSchool::clearance)));
    figure("deck_target/clearance_mm", QStringLiteral("0 mm"));
    ASSERT_EQ(decks_of(session_.state()).target.school, block::TargetSchool::clearance);
    for (const char* bank : {"R", "L"})
        EXPECT_NEAR(session_.assessment().bank(bank)->plan.target, crown, 0.001);
    EXPECT_TRUE(text_of("consequences").contains(QStringLiteral("their deck")));

    while (call() == DeckStep::cut) {
        ASSERT_LT(session_.entries().size(), 80U);
        window_->decks().show_bank(session_.assessment().decks.bank);
        if (session_.assessment().decks.pass->kind != block::PassKind::witness)
            tick("clean");
        answer();
    }
    EXPECT_EQ(call(), DeckStep::measure_again);
    EXPECT_EQ(decks_of(session_.state()).forecasts.size(), 2U) << "one for each bank, before its first pass";
    for (const char* bank : {"R", "L"})
        EXPECT_NEAR(session_.assessment().bank(bank)->remaining, 0, 1e-3);

    // What the machine left, probed again: zero deck on both banks within a thou.
    ASSERT_TRUE(session_.take_probe_logs({{"left.csv", log_of(crown - 241.3 + 0.004, 6)}}, std::nullopt));
    for (const planning::PistonCrown& c : session_.assessment().crowns) {
        const auto* bore = intake_of(session_.state()).blueprint->hole(c.bore);
        const double clearance =
            *block::height_now(decks_of(session_.state()).deck(c.bore.bank), {bore->u, bore->v}) - c.crown;
        EXPECT_LT(std::abs(clearance), block::mm_per_thou) << c.cylinder;
    }
    EXPECT_EQ(headline(), QStringLiteral("Print the passport"));
}

TEST_F(DecksJourney, ACrackIsDrawnDecidedAndStandsInTheCall) {
    open_demo();
    open_demo_at("Samphire", ui::Place::decks);
    window_->decks().show_page(ui::DecksView::Page::found);
    auto* deck = find<ui::DeckDrawing>("deck-as-found");
    const QPoint from = deck->picture()->to_screen({100, 55}).toPoint(),
                 to = deck->picture()->to_screen({130, 50}).toPoint();
    QTest::mousePress(deck, Qt::LeftButton, {}, from);
    QTest::mouseRelease(deck, Qt::LeftButton, {}, to);
    EXPECT_TRUE(headline().startsWith(QStringLiteral("A crack, pit or mark"))) << headline().toStdString();
    answer();
    EXPECT_TRUE(decks_of(session_.state()).flaws.empty()) << "what it is must be said";
    tick("flaw-crack");
    tick("near-bore");
    answer();
    ASSERT_EQ(decks_of(session_.state()).flaws.size(), 1U) << text_of("call-echo").toStdString();
    const block::KnownFlaw& crack = decks_of(session_.state()).flaws[0];
    EXPECT_EQ(crack.flaw.path.size(), 2U);
    EXPECT_NEAR(crack.flaw.length(), std::hypot(30, 5), 1.5) << "to the pixel";
    EXPECT_FALSE(crack.decided);
    QTest::mouseClick(deck, Qt::LeftButton, {}, from); // where it begins: what becomes of it
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Decide"))) << headline().toStdString();
    tick("choice-watch");
    answer();
    QTest::mouseClick(deck, Qt::LeftButton, {}, from); // decided otherwise
    tick("choice-stop_and_pin");
    answer();
    EXPECT_EQ(deck->spoken().back().name.right(18), QStringLiteral("stop-drill and pin"));
    ASSERT_TRUE(decks_of(session_.state()).flaws[0].decided);
    EXPECT_EQ(decks_of(session_.state()).flaws[0].decided->choice, block::FlawChoice::stop_and_pin);
    window_->call().speak_of("cleaned/any/pressure");
    tick("result-leaks");
    answer();
    EXPECT_FALSE(decks_of(session_.state()).pressure_test->payload.tight);
    QTest::mouseClick(deck, Qt::LeftButton, {}, from - QPoint(40, 0));
    tick("flaw-pit");
    tick("near-open_deck");
    ask("depth", QStringLiteral("deep"));
    answer();
    EXPECT_EQ(decks_of(session_.state()).flaws.size(), 1U) << "a depth that cannot be read marks nothing";
    EXPECT_FALSE(text_of("call-echo").isEmpty());
    ask("depth", QString());
    answer();
    EXPECT_EQ(decks_of(session_.state()).flaws.size(), 2U) << "how deep it is need not be known";
}

TEST_F(DecksJourney, TheSetUpSaysWhichFoot) {
    open_demo();
    open_demo_at("Samphire", ui::Place::decks);
    window_->decks().show_page(ui::DecksView::Page::set_up);
    ASSERT_TRUE(
        session_.take(block::SetUpRead{"C", "plate", {}, {{"F1", {0, 100}}, {"F2", {0, -100}}, {"F3", {300, 0}}}}));
    // Tilted to +v only: 0.05 between the sides of a deck whose corner places lie 114.24 apart.
    read_what("set-up");
    for (const char* typed : {"+0.05", "0", "+0.05", "0"})
        enter(QString::fromLatin1(typed));
    const double across = 0.05 / 114.24;
    EXPECT_TRUE(text_of("set-up-words")
                    .startsWith(QStringLiteral("F1: leave; F2: raise %1 mm; F3: raise %2 mm.")
                                    .arg(across * 200, 0, 'f', 3)
                                    .arg(across * 100, 0, 'f', 3)))
        << text_of("set-up-words").toStdString();
    // 0.088 and 0.044 out of 0.05, 0.03, 0.02, 0.02 and what is thicker: 0.09 and 0.04 come nearest.
    EXPECT_TRUE(
        text_of("set-up-words").contains(QStringLiteral("Under F2 0.050 + 0.020 + 0.020. Under F3 0.020 + 0.020.")))
        << text_of("set-up-words").toStdString();
    // A foot is moved by keys, too; what was read stays.
    find<ui::Drawing>("set-up-drawing")->setFocus();
    key(Qt::Key_N);
    key(Qt::Key_Right);
    EXPECT_EQ(decks_of(session_.state()).set_ups.at("C").payload.feet[1].place.x, 10);
    EXPECT_EQ(planning::set_up_of(session_.state(), "C").readings.size(), 4U);
    ASSERT_TRUE(session_.take(block::StepDone{"screws turned"}));
    EXPECT_FALSE(planning::correct_set_up(planning::set_up_of(session_.state(), "C"))) << "it was moved since";
}

// Run over with an indicator on the machine, levelled, read again, cut until clean with a dark place painted, felt.
TEST_F(DecksJourney, AHeadIsWorkedLikeADeck) {
    open_worn_v6();
    window_->decks().show_bank("R");
    window_->decks().show_page(ui::DecksView::Page::set_up);
    EXPECT_FALSE(window_->decks().shows_head());
    read_what("head heights");
    for (const char* typed : {"0.08 high", "0.08 high", "0", "0"}) // front +v, front −v, rear +v, rear −v
        enter(QString::fromLatin1(typed));
    EXPECT_TRUE(window_->decks().shows_head()) << "what is asked for is shown";
    EXPECT_EQ(headline(), QStringLiteral("Level the head of the right bank"));
    EXPECT_TRUE(text_of("set-up-words").contains(QStringLiteral("rear: raise")))
        << text_of("set-up-words").toStdString();
    answer();
    read_what("head heights");
    for (const char* typed : {"0.03 high", "0.05 low", "0.06 low", "0.03 high"}) // twisted
        enter(QString::fromLatin1(typed));
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Read head over the right bank deck, edge")))
        << "nobody said how sure the indicator is: the straightedge tells. " << headline().toStdString();
    read_what("head feelers");
    for (int line = 0; line < 7; ++line)
        enter(QStringLiteral("0.10 0.12"));
    EXPECT_EQ(headline(), QStringLiteral("Right bank, head: witness cut"));
    window_->decks().show_page(ui::DecksView::Page::found);
    window_->decks().show_page(ui::DecksView::Page::passes);
    EXPECT_EQ(text_of("level-depth"), QStringLiteral("0.000 mm below the highest point"));
    window_->decks().set_depth(0.05);
    EXPECT_NE(text_of("clean-share"), QStringLiteral("clean 100 %"));
    paint({300, -60}, {320, -60});
    answer();
    const auto& cuts = decks_of(session_.state()).face("R").cuts;
    ASSERT_EQ(cuts.size(), 1U);
    EXPECT_FALSE(cuts.front().cut.dark.empty());
    EXPECT_TRUE(decks_of(session_.state()).deck("R").cuts.empty()) << "the deck is another face";
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Right bank, head: pass"))) << headline().toStdString();
    tick("clean");
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Right bank, head: finishing cut"));
    answer();
    key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_FALSE(window_->decks().shows_head());
}

TEST_F(DecksJourney, AClampThatPullsIsNamed) {
    open_worn_v6();
    window_->decks().show_bank("L");
    window_->decks().show_page(ui::DecksView::Page::set_up);
    read_what("set-up");
    for (const char* typed : {"0.01 high", "0", "0.07 low", "0.01 high"})
        enter(QString::fromLatin1(typed));
    // Rear: +v stands 0.08 under −v, front 0.01 over it; what the deck itself is twisted by is taken off.
    EXPECT_TRUE(text_of("set-up-words").startsWith(QStringLiteral("The rear, inboard corner is pulled down: ease its")))
        << text_of("set-up-words").toStdString();
}

TEST_F(DecksJourney, FiguresHeadsAndCutterAreKeptOrRefused) {
    open_demo();
    open_demo_at("Samphire", ui::Place::decks);
    window_->decks().show_page(ui::DecksView::Page::mock_up);
    const std::size_t before = session_.entries().size();
    figure("engine_figures/stroke_mm", QStringLiteral("tall"));
    EXPECT_EQ(session_.entries().size(), before);
    EXPECT_NE(remark("engine_figures/stroke_mm"), QString());
    figure("engine_figures/chamber_mm3", QStringLiteral("41,5"));
    figure("engine_figures/gasket_thickness_mm", QStringLiteral("1.2"));
    figure("engine_figures/stroke_mm", QStringLiteral("92"));
    ASSERT_EQ(session_.entries().size(), before + 3);
    EXPECT_EQ(decks_of(session_.state()).figures.stroke, 92);
    EXPECT_EQ(decks_of(session_.state()).figures.chamber, 41'500);
    figure("engine_figures/overhead_chain", QStringLiteral("21"));
    EXPECT_EQ(session_.entries().size(), before + 3) << "a chain needs both sprockets, pitch and distance";
    window_->call().speak_of("deck.C/any/head");
    answer();
    EXPECT_EQ(session_.entries().size(), before + 3) << "nothing was typed of the head";
    ask("cut", QStringLiteral("0.1"));
    answer();
    EXPECT_NEAR(planning::head_state(session_.state(), "C").cut, 0.1, 1e-12);

    // What the machine is set to stands on the page of the set-up, with what it leaves.
    window_->decks().show_page(ui::DecksView::Page::set_up);
    figure("cutter/diameter_mm", QStringLiteral("200 mm"));
    EXPECT_TRUE(remark("cutter/diameter_mm").contains(QStringLiteral("Once more if it is meant")));
    figure("cutter/diameter_mm", QStringLiteral("240 mm"));
    figure("cutter/finish_feed_mm", QStringLiteral("0.05 mm"));
    choose_figure("gasket/gasket", QString::fromStdString(wording::gasket_name(block::GasketKind::composition)));
    ASSERT_TRUE(decks_of(session_.state()).cutter);
    EXPECT_EQ(decks_of(session_.state()).cutter->payload.diameter, 240);
    EXPECT_TRUE(decks_of(session_.state()).gasket);
    EXPECT_TRUE(line_with("cutter/diameter_mm")->text().contains(QStringLiteral("rev/min")))
        << line_with("cutter/diameter_mm")->text().toStdString();

    // Roughness after the last pass, held against the gasket; what is known of the deck is its table.
    window_->decks().show_page(ui::DecksView::Page::passes);
    window_->call().speak_of("deck.C/any/finish");
    tick("cutter-sharp");
    ask("ra_um", QStringLiteral("rough"));
    answer();
    EXPECT_TRUE(decks_of(session_.state()).finishes.empty());
    ask("ra_um", QStringLiteral("1.1"));
    answer();
    ASSERT_EQ(decks_of(session_.state()).finishes.size(), 1U) << text_of("call-echo").toStdString();
    window_->decks().passes().show_table(true);
    const QString facts = find<ui::PlainTable>("deck-table")->as_text();
    EXPECT_TRUE(facts.contains(QStringLiteral("Ra 1.10 µm, at most 2.20 — meets"))) << facts.toStdString();
    EXPECT_TRUE(facts.contains(QStringLiteral("they agree"))) << facts.toStdString();
    window_->open_job(demo_job(QStringLiteral("Puffling, starboard")));
    const auto text = wording::call_text(session_.state(), session_.assessment(), context_.lengths());
    EXPECT_TRUE(QString::fromStdString(text.reasons.at(0)).contains(QStringLiteral("rev/min"))) << text.reasons.at(0);
}

TEST_F(DecksJourney, AJobWithALargeScanOpensWithProgressAndMayBeLeftClosed) {
    open_small_job();
    test::LogWriter log = test::small_log();
    for (int i = 0; i < 260; ++i)
        for (int j = 0; j < 200; ++j)
            log.touch("deck.C", {1 + 148.0 * i / 259, -49 + 98.0 * j / 199, 200.03});
    take_log(log.text());
    const storage::JobId scanned = *session_.job();
    session_.close_job();
    open_window();
    window_->set_patience(0);
    in_dialog([](QDialog& d) {
        EXPECT_EQ(d.objectName(), QStringLiteral("open-progress"));
        d.reject();
    });
    window_->open_job(scanned);
    EXPECT_FALSE(session_.has_job()) << "ended: nothing was opened";
    window_->open_job(scanned);
    ASSERT_TRUE(session_.has_job());
    EXPECT_EQ(decks_of(session_.state()).deck("C").latest->result.touches, 9U + 260 * 200);
}

TEST_F(DecksJourney, ALargeScanIsReadInTheBackgroundAndMayBeEnded) {
    open_small_job();
    open_window();
    test::LogWriter log = test::small_log();
    for (int i = 0; i < 120; ++i)
        for (int j = 0; j < 90; ++j) {
            const double u = 1 + 148.0 * i / 119, v = -49 + 98.0 * j / 89;
            log.touch("deck.C", {u, v, 200.03 + 0.002 * std::sin(u / 20)});
        }
    const QString file = QString::fromStdString(write("scan.csv", log.text()));
    in_dialog([=](QDialog& d) {
        in<QLineEdit>(d, "log-files")->setText(file);
        in<QLineEdit>(d, "log-uncertainty")->setText(QStringLiteral("1 µm"));
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        EXPECT_TRUE(in<QWidget>(d, "log-progress")->isVisible());
        d.reject(); // ends the read
        EXPECT_TRUE(d.isVisible()) << "the dialog stays";
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
    });
    key(Qt::Key_I, Qt::ControlModifier);
    ASSERT_TRUE(tunnel_of(session_.state()).latest);
    EXPECT_EQ(decks_of(session_.state()).deck("C").latest->result.points.size(), 9U + 120 * 90);
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_max, 200.032, 1e-3);
}

// A fault in the last line of a large log: told with its line, nothing taken in, and the dialog waits for another file.
TEST_F(DecksJourney, AFaultInALargeLogIsToldAndAnotherFileIsTaken) {
    open_small_job();
    open_window();
    test::LogWriter log = test::small_log();
    for (int i = 0; i < 120; ++i)
        for (int j = 0; j < 90; ++j)
            log.touch("deck.C", {1 + 148.0 * i / 119, -49 + 98.0 * j / 89, 200.03});
    const std::string sound = log.text();
    const auto lines = std::ranges::count(sound, '\n');
    const QString broken = QString::fromStdString(write("broken.csv", sound + "deck.C,1,two,3\n")),
                  whole = QString::fromStdString(write("whole.csv", sound));
    in_dialog([&](QDialog& d) {
        in<QLineEdit>(d, "log-files")->setText(broken);
        in<QLineEdit>(d, "log-uncertainty")->setText(QStringLiteral("1 µm"));
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        auto* faults = in<QPlainTextEdit>(d, "faults");
        ASSERT_TRUE(QTest::qWaitFor([&] { return faults->isVisible() && !faults->toPlainText().isEmpty(); }, 20000));
        EXPECT_TRUE(faults->toPlainText().contains(QStringLiteral("broken.csv:%1").arg(lines + 1)))
            << faults->toPlainText().toStdString();
        EXPECT_FALSE(in<QWidget>(d, "log-progress")->isVisible());
        EXPECT_EQ(session_.entries().size(), 1U);
        in<QLineEdit>(d, "log-files")->setText(whole);
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
    });
    key(Qt::Key_I, Qt::ControlModifier);
    ASSERT_EQ(session_.entries().size(), 2U);
    EXPECT_EQ(decks_of(session_.state()).deck("C").latest->result.points.size(), 9U + 120 * 90);
    EXPECT_EQ(book_->entries(*session_.job())->size(), 2U) << "on the disk before the dialog has closed";
    EXPECT_TRUE(context_.preferences.recent_files().contains(whole));
    EXPECT_FALSE(context_.preferences.recent_files().contains(broken));
}

TEST_F(DecksJourney, EveryLogThatIsNotThereIsNamed) {
    open_small_job();
    open_window();
    in_dialog([](QDialog& d) {
        in<QLineEdit>(d, "log-files")->setText(QStringLiteral("/nowhere/first.csv; /nowhere/second.csv"));
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        const QString told = in<QPlainTextEdit>(d, "faults")->toPlainText();
        EXPECT_TRUE(told.contains(QStringLiteral("first.csv")) && told.contains(QStringLiteral("second.csv")))
            << told.toStdString();
        in<QLineEdit>(d, "log-files")->clear();
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")->toPlainText().contains(QStringLiteral("no file was chosen")));
        d.reject();
    });
    key(Qt::Key_I, Qt::ControlModifier);
    EXPECT_EQ(session_.entries().size(), 1U);
}

// A limit is changed in its sentence, with its reason, and made the shop's.
TEST_F(DecksJourney, LimitsAreChangedWithAReason) {
    open_small_job();
    take_log(test::small_log(200.03).text());
    open_window();
    const auto figure = [](QDialog& d, const char* address, const char* text) {
        auto* line = d.findChild<ui::FigureLine*>();
        line->edit(QString::fromLatin1(address));
        auto* field = line->findChild<QLineEdit*>(QStringLiteral("figure"));
        field->setText(QString::fromLatin1(text));
        QTest::keyClick(field, Qt::Key_Return);
        return line->remark();
    };
    in_dialog([&](QDialog& d) {
        EXPECT_EQ(figure(d, "limits/straightness_mm", "0.02"), QStringLiteral("Still needed: why these limits."));
        EXPECT_FALSE(intake_of(session_.state()).limits);
        auto* keep = in<QPushButton>(d, "keep-limits");
        EXPECT_FALSE(keep->isEnabled());
        EXPECT_EQ(figure(d, "limits/reason", "a race engine"), QStringLiteral("Kept."));
        ASSERT_TRUE(keep->isEnabled());
        keep->click();
        EXPECT_FALSE(keep->isEnabled());
        d.accept();
    });
    window_->findChild<QAction*>(QStringLiteral("limits"))->trigger();
    ASSERT_TRUE(intake_of(session_.state()).limits);
    EXPECT_EQ(intake_of(session_.state()).limits->payload.straightness, 0.02);
    EXPECT_EQ(intake_of(session_.state()).limits->payload.reason, "a race engine");
    EXPECT_TRUE(session_.limits_are_the_shops());
}

// A deck of the next job is thought about while the page still shows the bank of the one before.
TEST_F(DecksJourney, WhatIsBelievedOfOneJobFindsThePageOfAnother) {
    session_.draw_certainty();
    open_small_job(); // one bank, C
    take_log(test::small_log(200.2, 0.1).text(), 0.001);
    open_window();
    key(Qt::Key_F5);
    ASSERT_TRUE(QTest::qWaitFor([this] { return session_.belief("C") != nullptr; }, 20000));
    window_->go_to(ui::Place::block);
    ASSERT_TRUE(session_.new_job(QStringLiteral("v6"), {}, {"b.json", write_blueprint(workshop::workboat_v6())}));
    QSignalSpy known(&session_, &session::Session::belief_known);
    workshop::ProbeJob job;
    job.stated_uncertainty = 0.001;
    take_log(workshop::probe(worn_v6(std::nullopt), job), 0.001);
    ASSERT_TRUE(known.wait(20000));
    key(Qt::Key_F5);
    EXPECT_NE(session_.assessment().bank("R"), nullptr);
}
