// SPDX-License-Identifier: GPL-3.0-or-later
// The five journeys of the bench by keys alone, counted: every key but the digits that would be typed anywhere.
// "Before" is the same work in the window with its forms (0.6), by the shortest way its shortcuts and Tab allowed.
#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/row_block.h"
#include "ui/bench_fixture.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/ferry_log.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::test;
using planning::Stage;
using planning::StageMark;

namespace {

class KeysJourney : public BenchFixture {
  protected:
    void press(Qt::Key k, Qt::KeyboardModifiers m = Qt::NoModifier) {
        ++keys_;
        key(k, m);
    }
    /// The call, as it proposes.
    void answer_it(const char* button) {
        ASSERT_EQ(find<QPushButton>("call-answer")->text(), QString::fromUtf8(button)) << headline().toStdString();
        press(Qt::Key_Return, Qt::ControlModifier);
        ASSERT_TRUE(text_of("call-echo").isEmpty()) << text_of("call-echo").toStdString();
    }
    /// The fields of the call, one after the other.
    void answer_with(std::initializer_list<const char*> values) {
        press(Qt::Key_K, Qt::ControlModifier);
        bool first = true;
        for (const char* value : values) {
            if (!std::exchange(first, false))
                press(Qt::Key_Tab);
            type(QString::fromLatin1(value));
        }
        press(Qt::Key_Return);
        ASSERT_TRUE(text_of("call-echo").isEmpty()) << text_of("call-echo").toStdString();
    }
    void tick_all_bright() {
        press(Qt::Key_K, Qt::ControlModifier);
        press(Qt::Key_Tab);
        press(Qt::Key_Space);
    }
    /// In the line, where the caret must be by now; one that is asked about is meant.
    void read(const QString& text) {
        const auto before = session_.entries().size();
        type(text);
        press(Qt::Key_Return);
        if (session_.entries().size() == before)
            press(Qt::Key_Return);
        ASSERT_EQ(session_.entries().size(), before + 1)
            << text_of("reading-place").toStdString() << ": " << text_of("echo").toStdString();
    }
    StageMark mark_of(Stage stage) { return session_.assessment().stages[static_cast<std::size_t>(stage)].mark; }
    void want_only(Stage stage) {
        ASSERT_TRUE(session_.take(block::ScopeChosen{{stage}, "the rest is good by its papers"}));
    }
    int keys_ = 0;
};

std::string dished_v6() {
    workshop::PracticeBlock p{workshop::workboat_v6(), {}, 0.002, 0.001, 0.001, {}};
    for (const char* bank : {"R", "L"})
        p.decks[bank] = {.offset = 0.08, .rear_over_front = 0.03, .dip = {300, 50}, .dip_depth = 0.1, .cut_to = {}};
    workshop::ProbeJob job;
    job.seed = 5;
    job.noise = 0.0005;
    job.stated_uncertainty = 0.001;
    return workshop::probe(p, job);
}

} // namespace

// Before 21: the other bank had to be called up, and the tick lay two fields further.
TEST_F(KeysJourney, ProbeLogToTwoSquaredDecksIn17Keys) {
    ASSERT_TRUE(session_.new_job(QStringLiteral("practice"), {}, {"b.json", write_blueprint(workshop::workboat_v6())}));
    ASSERT_TRUE(session_.take_probe_logs({{"found.csv", dished_v6()}}, std::nullopt));
    open_window();
    press(Qt::Key_F5);
    while (find<QPushButton>("call-answer")->text() == QStringLiteral("Cut")) {
        ASSERT_LT(session_.entries().size(), 40U);
        if (session_.assessment().decks.passes_left == 4) // and so it stays
            tick_all_bright();
        answer_it("Cut");
    }
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Measure the right bank again"))) << headline().toStdString();
    for (const char* bank : {"R", "L"})
        EXPECT_NEAR(session_.assessment().bank(bank)->remaining, 0, 1e-3);
    EXPECT_EQ(keys_, 17);
}

// Before 53: two dialogs of conditions, the reading line called up four times, a dialog that the tunnel was cut.
TEST_F(KeysJourney, CapsToHonedTunnelIn44Keys) {
    open_small_job();
    state_uncertainty(planning::Measuring::main_sizes, 0.0005);
    open_window();
    press(Qt::Key_F4);
    press(Qt::Key_R, Qt::ControlModifier);
    const auto read_all = [this](const char* upright, const char* side) {
        for (int i = 0; i < 12; ++i)
            read(QString::fromLatin1(i % 3 == 0 ? upright : side));
    };
    read_all("60.024", "60.012");
    answer_it("They were torqued");
    answer_it("Caps are cut so");
    answer_it("Torqued");
    read_all("59.918", "59.959");
    EXPECT_EQ(headline(), QStringLiteral("Line hone"));
    answer_with({"25"});
    read_all("60.010", "60.010");
    answer_it("The tunnel is done");
    EXPECT_EQ(mark_of(Stage::tunnel), StageMark::meets);
    EXPECT_EQ(keys_, 44);
}

// Before at least 74: eleven fields of a sleeve and their button, size and choice on pages of their own.
TEST_F(KeysJourney, ARuinedCylinderToItsSleeveIn49Keys) {
    ASSERT_TRUE(session_.new_job(QStringLiteral("row"), {}, {"b.json", test::row_blueprint()}));
    want_only(Stage::cylinders);
    open_window();
    press(Qt::Key_F6);
    press(Qt::Key_R, Qt::ControlModifier);
    for (int n = 1; n <= 4; ++n)
        for (int place = 0; place < 6; ++place)
            read(n == 3 ? QStringLiteral("82.5") : QStringLiteral("80.02"));
    answer_it("Keep the plan");
    press(Qt::Key_K, Qt::ControlModifier); // what becomes of cylinder 3: no size holds it, so a sleeve comes first
    press(Qt::Key_Space);
    answer_it("Decided");
    for (int place = 0; place < 6; ++place)
        read(QStringLiteral("84.03"));
    answer_with({"79", "140", "100"}); // inside, length, iron around it
    answer_it("Bored");
    while (headline().startsWith(QStringLiteral("Read cylinder 3")))
        read(QStringLiteral("83.998"));
    answer_it("It is in");
    EXPECT_TRUE(bores_of(session_.state()).bore({block::FeatureKind::bore, "C", 3}).fitted);
    EXPECT_EQ(keys_, 49);
}

// Before 295: two keys for each cut and each bush, two for each reading; then 153, every bore measured after every
// tool.
TEST_F(KeysJourney, SixteenLiftersIn122Keys) {
    ASSERT_TRUE(session_.new_job(QStringLiteral("v8"), {}, {"b.json", write_blueprint(workshop::ferry_v8())}));
    ASSERT_TRUE(session_.take_probe_logs({{"found.csv", test::ferry_log(0.08, 22.01)}}, std::nullopt));
    want_only(Stage::lifters);
    open_window();
    press(Qt::Key_F7);
    press(Qt::Key_Y, Qt::ControlModifier | Qt::ShiftModifier); // the work
    answer_with({"21.965", "0.025", "0.045"});
    answer_with({"24", "0.03"});
    press(Qt::Key_R, Qt::ControlModifier);
    using planning::LifterStep;
    const auto& board = [this]() -> const planning::LifterBoard& { return session_.assessment().lifters->board; };
    while (board().step != LifterStep::prove) {
        ASSERT_LT(keys_, 200) << headline().toStdString();
        if (board().step == LifterStep::measure_cut)
            read(QString::number(*bores_of(session_.state()).bore(*board().lifter).cuts.back().payload.target, 'f', 3));
        else
            press(Qt::Key_Return, Qt::ControlModifier);
    }
    EXPECT_EQ(headline(), QStringLiteral("Probe the lifters again"));
    EXPECT_EQ(keys_, 122);
}

// Before 20, without finishing cut and spring passes: the tick lay a field further.
TEST_F(KeysJourney, StraightedgeOnlyIn22Keys) {
    open_small_job();
    ASSERT_TRUE(session_.take(block::GatePassed{block::Rule::tunnel_first, "decks", "the mains are good by feel"}));
    open_window();
    press(Qt::Key_F5);
    press(Qt::Key_R, Qt::ControlModifier);
    press(Qt::Key_M, Qt::ControlModifier);
    for (int line = 0; line < 5; ++line)
        read(line == 3 ? QStringLiteral("0.08 0.09") : QStringLiteral("0.05 0.06"));
    answer_it("Cut");
    answer_it("Cut");
    tick_all_bright();
    for (int pass = 0; pass < 4; ++pass) // clean, finished, twice without infeed
        answer_it("Cut");
    for (int line = 0; line < 5; ++line)
        read(QStringLiteral("0 0.01"));
    EXPECT_EQ(session_.assessment().by_feel[0].verdict, metrology::Verdict::meets);
    EXPECT_EQ(keys_, 22);
}
