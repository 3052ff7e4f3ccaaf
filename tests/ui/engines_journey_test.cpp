// SPDX-License-Identifier: GPL-3.0-or-later
// A shop's own engine, from an empty book to its first evaluation, by keys alone.
#include "bench_fixture.h"

#include "block/number_text.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "ui/dialogs/dxf_dialog.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QListWidget>
#include <QProgressBar>
#include <QRegularExpression>
#include <algorithm>
#include <gmock/gmock.h>
#include <set>
#include <sstream>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::test;
using testing::HasSubstr;
using ui::EnginesView;

class EnginesJourney : public BenchFixture {
  protected:
    ui::BoardPage& board() { return window_->engines().board(); }
    const planning::Board& drawn() { return board().board(); }
    [[nodiscard]] std::string at_hand() { return board().drawing().current(); }

    /// Types what a sheet says into the figure that has the caret, which must be this one.
    void fill(const char* key, const QString& text) {
        ASSERT_EQ(at_hand(), key);
        type(text);
        numbers_ += text.contains(QRegularExpression(QStringLiteral("\\d"))) ? 1 : 0;
        this->key(Qt::Key_Return);
    }
    /// On with Enter, without typing, until this one.
    void pass_to(const char* key) {
        for (int i = 0; i < 80 && at_hand() != key; ++i)
            this->key(Qt::Key_Down);
        ASSERT_EQ(at_hand(), key);
    }
    void fill(std::initializer_list<std::pair<const char*, const char*>> sheet) {
        for (const auto& [key, text] : sheet) {
            pass_to(key);
            fill(key, QString::fromUtf8(text));
        }
    }
    void begin() {
        open_window();
        key(Qt::Key_N, Qt::ControlModifier | Qt::AltModifier);
        ASSERT_EQ(window_->place(), ui::Place::engines);
        ASSERT_EQ(at_hand(), "name");
    }
    void open_job(const QString& title) {
        in_dialog([&](QDialog& d) {
            QTest::keyClicks(in<QLineEdit>(d, "job-title"), title);
            QTest::keyClick(in<QLineEdit>(d, "job-title"), Qt::Key_Return);
        });
        key(Qt::Key_N, Qt::ControlModifier);
        ASSERT_TRUE(session_.has_job());
    }
    void take_log(const QString& file) {
        in_dialog([&](QDialog& d) {
            QTest::keyClicks(in<QLineEdit>(d, "log-files"), file);
            QTest::keyClick(in<QLineEdit>(d, "log-files"), Qt::Key_Return);
        });
        key(Qt::Key_I, Qt::ControlModifier);
    }

    int numbers_ = 0; ///< figures with digits that were typed
};

TEST_F(EnginesJourney, FromAnEmptyBookToTheFirstEvaluationOfAnInlineFour) {
    begin();
    fill({{"name", "lugger four"},
          {"layout", "inline"},
          {"cylinders", "4"},
          {"bore", "79 H7"},
          {"pitch", "88"},
          {"deck_height", "204.2 ±0.05"},
          {"deck_flatness", "0.05"},
          {"main_size", "59 H6"},
          {"clocking", "decks"},
          {"dowels", "2"},
          {"dowel_size", "12 H7"},
          {"dowel_apart", "310"},
          {"dowel_across", "-52"},
          {"outline_ends", "60"},
          {"outline_side", "62"},
          {"engine_figures/stroke_mm", "84"},
          {"engine_figures/rod_mm", "130"},
          {"engine_figures/pin_height_mm", "31.9"},
          {"pistons/clearance_mm", "0.04"},
          {"cylinder_plan/oversizes_mm", "0; 0.5; 1"}});
    EXPECT_LE(numbers_, 60);
    EXPECT_TRUE(drawn().whole());
    EXPECT_EQ(drawn().open_questions(), 0U);
    key(Qt::Key_S, Qt::ControlModifier);
    ASSERT_EQ(book_->engines().rows()->size(), 1U);
    EXPECT_EQ(book_->engines().rows()->front().name, "lugger four");
    EXPECT_TRUE(preferences_.draft().isEmpty()) << "it is on the shelf";

    open_job(QStringLiteral("Sanderling"));
    EXPECT_EQ(window_->place(), ui::Place::block);
    EXPECT_TRUE(intake_of(session_.state()).troubles.empty());
    const Blueprint& b = *intake_of(session_.state()).blueprint;
    EXPECT_NEAR(b.bores[3].u, 44 + 3 * 88, 1e-9);
    EXPECT_NEAR(*b.mains[0].diameter.upper, 0.019, 1e-9) << "H6 over 50 to 80 mm, ISO 286-1";
    EXPECT_EQ(*b.bores[1].cylinder, 2);
    EXPECT_EQ(*decks_of(session_.state()).figures.stroke, 84);
    EXPECT_EQ(bores_of(session_.state()).cylinder_plan->payload.oversizes.size(), 3U);
    EXPECT_EQ(book_->engines().uses(QStringLiteral("lugger four"))->front().job, "Sanderling");

    workshop::PracticeBlock truth{b, {{"C", {}}}, 0, 0, 0, {}};
    truth.decks["C"].offset = 0.11;
    workshop::ProbeJob probe;
    probe.stated_uncertainty = 0.0008;
    take_log(QString::fromStdString(write("sanderling.csv", workshop::probe(truth, probe))));
    const auto& latest = tunnel_of(session_.state()).latest;
    ASSERT_TRUE(latest);
    EXPECT_NEAR(latest->evaluation.decks.front().height_mean, 204.31, 0.002);
    EXPECT_LT(latest->evaluation.tunnel.straightness_lsq, 0.005);
}

TEST_F(EnginesJourney, TheFerrysV8InAtMostEightyNumbers) {
    begin();
    fill({{"name", "ferry V8, 90 degrees"},
          {"material", "al"},
          {"layout", "v"},
          {"angle", "90"},
          {"cylinders", "4"},
          {"bore", "92 +0.02 0"},
          {"pitch", "108"},
          {"first_bore", "82"},
          {"stagger", "-22"},
          {"deck_height", "228.6 ±0.05"},
          {"deck_flatness", "0.05"},
          {"main_size", "68 +0.013 0"},
          {"first_main", "16"},
          {"cam", "122"},
          {"cam_size", "50 +0.025 0"},
          {"lifters", "2"},
          {"lifter_size", "22 H7"},
          {"lifter_angle", "40"},
          {"lifter_first", "62"},
          {"lifter_pitch", "116"},
          {"lifter_pair", "44"},
          {"lifter_across", "-78.42"},
          {"dowels", "2"},
          {"dowel_size", "14 +0.018 0"},
          {"dowel_apart", "427.68"},
          {"dowel_across", "-60"},
          {"outline_ends", "77.76"},
          {"outline_side", "76"},
          {"outline_corner", "14"}});
    // The left bank's dowels are not where a mirror would have them: each its own figure.
    key(Qt::Key_Escape);
    for (int page = 0; page < 2; ++page) // what goes with it, shelf, block
        key(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    key(Qt::Key_B);
    for (int n : {1, 2}) {
        board().drawing().setFocus();
        for (int i = 0; i < 30 && board().drawing().marked() != FeatureId{FeatureKind::dowel, "L", n}; ++i)
            key(Qt::Key_Right);
        key(Qt::Key_Return);
        pass_to((FeatureId{FeatureKind::dowel, "L", n}.text() + "/across").c_str());
        type(QStringLiteral("-60"));
        ++numbers_;
        key(Qt::Key_Return);
        key(Qt::Key_Escape);
    }
    EXPECT_LE(numbers_, 80);
    ASSERT_TRUE(drawn().whole());
    const Blueprint meant = workshop::ferry_v8(), &is = drawn().sketch().blueprint;
    for (const auto list : {&Blueprint::bores, &Blueprint::dowels, &Blueprint::lifters}) {
        ASSERT_EQ((is.*list).size(), (meant.*list).size());
        for (const HoleBlueprint& hole : meant.*list) {
            EXPECT_NEAR(is.hole(hole.id)->u, hole.u, 1e-9) << hole.id.text();
            EXPECT_NEAR(is.hole(hole.id)->v, hole.v, 1e-9) << hole.id.text();
            EXPECT_EQ(is.hole(hole.id)->cylinder, hole.cylinder);
        }
    }
}

TEST_F(EnginesJourney, WhatCannotBeReadStaysUntilItCanBe) {
    begin();
    fill("name", QStringLiteral("a four"));
    pass_to("layout");
    type(QStringLiteral("w"));
    key(Qt::Key_Return);
    EXPECT_EQ(at_hand(), "layout");
    EXPECT_THAT(text_of("board-words").toStdString(), HasSubstr("none of: inline, v, opposed"));
    type(QStringLiteral("inl"));
    key(Qt::Key_Tab);
    EXPECT_EQ(at_hand(), "cylinders") << "Tab: the next that is missing";
    fill("cylinders", QStringLiteral("4"));
    fill("bore", QStringLiteral("80 +5 0"));
    EXPECT_EQ(at_hand(), "bore");
    EXPECT_THAT(text_of("board-words").toStdString(), HasSubstr("a point in its place"));
    fill("bore", QStringLiteral("80 +0.02 0"));
    key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_TRUE(book_->engines().rows()->empty());
    EXPECT_THAT(text_of("board-words").toStdString(), HasSubstr("missing"));
    EXPECT_EQ(at_hand(), "pitch");
    // Nothing is lost with the window.
    window_.reset();
    open_window();
    key(Qt::Key_F9);
    EXPECT_EQ(drawn().typed("bore"), "80 +0.02 0");
    key(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    key(Qt::Key_Z, Qt::ControlModifier);
}

TEST_F(EnginesJourney, AQuestionIsAnsweredBeforeTheEngineIsKept) {
    begin();
    fill({{"name", "tight four"},
          {"layout", "inline"},
          {"cylinders", "2"},
          {"bore", "80"},
          {"pitch", "81"},
          {"deck_height", "200"},
          {"main_size", "50"},
          {"clocking", "decks"}});
    EXPECT_EQ(drawn().open_questions(), 1U);
    EXPECT_THAT(text_of("board-question").toStdString(), HasSubstr("only 1.000 mm of deck are left"));
    in_dialog([](QDialog& d) { d.reject(); });
    key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_TRUE(book_->engines().rows()->empty()) << "left open";
    in_dialog([](QDialog& d) {
        QTest::keyClicks(d.findChild<QLineEdit*>(), QStringLiteral("cast so"));
        QTest::keyClick(d.findChild<QLineEdit*>(), Qt::Key_Return);
    });
    key(Qt::Key_S, Qt::ControlModifier);
    ASSERT_EQ(book_->engines().rows()->size(), 1U);
    EXPECT_EQ(book_->engines().engine(QStringLiteral("tight four"))->recipe.accepted.size(), 1U);
}

TEST_F(EnginesJourney, AnAssumedFigureIsMarkedAndJudgesNothing) {
    begin();
    fill({{"name", "old four"},
          {"layout", "inline"},
          {"cylinders", "4"},
          {"bore", "80 H8"},
          {"pitch", "92"},
          {"deck_height", "200 ±0.1"}});
    key(Qt::Key_Up);
    pass_to("deck_height");
    key(Qt::Key_5, Qt::AltModifier);
    EXPECT_EQ(drawn().origin("deck_height").source, FigureSource::assumed);
    EXPECT_EQ(drawn().origin("bore").source, FigureSource::sheet);
    EXPECT_FALSE(drawn().sketch().blueprint.banks[0].deck_height.whole());
}

TEST_F(EnginesJourney, AnEngineOfAnothersNameIsAskedAbout) {
    open_demo();
    key(Qt::Key_N, Qt::ControlModifier | Qt::AltModifier);
    fill({{"name", "tender inline four"},
          {"layout", "inline"},
          {"cylinders", "2"},
          {"bore", "80"},
          {"pitch", "95"},
          {"deck_height", "200"},
          {"main_size", "50"},
          {"clocking", "decks"}});
    in_dialog([](QDialog& d) { d.reject(); });
    key(Qt::Key_S, Qt::ControlModifier);
    const auto rows = book_->engines().rows();
    for (const auto& row : *rows)
        EXPECT_EQ(row.revision, 1) << row.name.toStdString();
    EXPECT_EQ(at_hand(), "name");
    key(Qt::Key_Escape);
    in_dialog([](QDialog& d) {
        for (auto* b : d.findChildren<QPushButton*>())
            if (b->text() == QStringLiteral("Keep this as its next revision"))
                return b->click();
        d.reject();
    });
    key(Qt::Key_S, Qt::ControlModifier);
    key(Qt::Key_S, Qt::ControlModifier); // it is that engine now
    EXPECT_EQ(book_->engines().engine(QStringLiteral("tender inline four"), 3)->recipe.figures.at("bore"), "80");
}

TEST_F(EnginesJourney, TheShelfIsSearchedCopiedAndRetired) {
    open_demo();
    find<QPushButton>("shop-engines")->click();
    ASSERT_EQ(window_->place(), ui::Place::engines);
    auto* list = find<QListView>("engines");
    EXPECT_EQ(list->model()->rowCount(), 3);
    find<QLineEdit>("engine-search")->setText(QStringLiteral("V 60"));
    ASSERT_EQ(list->model()->rowCount(), 1);
    in_dialog([](QDialog& d) {
        d.findChild<QLineEdit*>()->setText(QStringLiteral("trawler V6"));
        QTest::keyClick(d.findChild<QLineEdit*>(), Qt::Key_Return);
    });
    find<QPushButton>("engine-copy")->click();
    EXPECT_EQ(window_->engines().page(), EnginesView::Page::block);
    key(Qt::Key_S, Qt::ControlModifier);
    window_->engines().show_page(EnginesView::Page::shelf);
    EXPECT_EQ(list->model()->rowCount(), 2);
    find<QPushButton>("engine-retire")->click();
    EXPECT_EQ(list->model()->rowCount(), 1);
    find<QCheckBox>("engine-retired")->setChecked(true);
    EXPECT_EQ(list->model()->rowCount(), 2);
}

// The job's own blueprint on the board: what would change is shown, the entry stands in the ledger.
TEST_F(EnginesJourney, AJobsBlueprintIsAmendedOnTheBoard) {
    open_demo();
    open_demo_at("Samphire", ui::Place::block);
    window_->go_to(ui::Place::engines);
    window_->engines().begin_amending();
    ASSERT_EQ(window_->engines().page(), EnginesView::Page::block);
    board().edit("deck_height");
    const std::size_t before = session_.entries().size();
    auto* field = board().findChild<QLineEdit*>(QStringLiteral("board-figure"));
    const QString was = field->text();
    field->setText(QStringLiteral("228.1 ±0.05"));
    QTest::keyClick(field, Qt::Key_Return);
    in_dialog([](QDialog& d) {
        QTest::keyClicks(d.findChild<QLineEdit*>(), QStringLiteral("the sheet was misread"));
        QTest::keyClick(d.findChild<QLineEdit*>(), Qt::Key_Return);
    });
    window_->engines().keep();
    ASSERT_EQ(session_.entries().size(), before + 1);
    EXPECT_TRUE(std::holds_alternative<BlueprintAmended>(session_.entries().back().payload));
    EXPECT_NEAR(intake_of(session_.state()).blueprint->banks[0].deck_height.nominal, 228.1, 1e-9) << was.toStdString();
}

// What is on the board and was left there is no blueprint of the job; what was drawn for one job is none of another.
TEST_F(EnginesJourney, AmendsNoJobWithWhatWasNotDrawnForIt) {
    open_demo();
    open_demo_at("Samphire", ui::Place::block);
    window_->go_to(ui::Place::engines);
    auto* keep = find<QPushButton>("board-keep");
    window_->engines().open(QStringLiteral("ferry V8, 90 degrees"));
    board().board().type("pitch", "109", FigureSource::sheet);
    in_dialog([](QDialog& d) { d.reject(); }); // leave it there
    window_->engines().begin_amending();
    EXPECT_EQ(drawn().typed("pitch"), "109");
    EXPECT_FALSE(keep->text().contains(QStringLiteral("mend"))) << "the ferry's V8 is not the tender's block";
    in_dialog([](QDialog& d) {
        for (auto* b : d.findChildren<QPushButton*>())
            if (b->text() == QStringLiteral("Put it away"))
                return b->click();
        d.reject();
    });
    window_->engines().begin_amending();
    EXPECT_TRUE(keep->text().contains(QStringLiteral("mend")));
    window_->open_job(demo_job(QStringLiteral("Puffling, port")));
    window_->go_to(ui::Place::engines);
    EXPECT_FALSE(keep->text().contains(QStringLiteral("mend"))) << "another job is open";
}

// Lifters and decks are marked on the board as holes are.
TEST_F(EnginesJourney, EveryHoleAndDeckIsReachedByArrowKeys) {
    open_demo();
    key(Qt::Key_F9);
    window_->engines().open(QStringLiteral("ferry V8, 90 degrees"));
    board().drawing().setFocus();
    std::set<FeatureId> reached;
    for (int i = 0; i < 60; ++i) {
        key(Qt::Key_Right);
        if (board().drawing().marked())
            reached.insert(*board().drawing().marked());
    }
    for (const FeatureId& id : {FeatureId{FeatureKind::main, "", 5},
                                {FeatureKind::bore, "R", 4},
                                {FeatureKind::dowel, "R", 2},
                                {FeatureKind::lifter, "R", 8},
                                {FeatureKind::deck, "R", 0}})
        EXPECT_TRUE(reached.contains(id)) << id.text();
    for (int i = 0; i < 60 && board().drawing().marked() != FeatureId{FeatureKind::lifter, "R", 3}; ++i)
        key(Qt::Key_Left);
    key(Qt::Key_Return);
    fill("lifter.R.3/along", QStringLiteral("180"));
    EXPECT_NEAR(drawn().sketch().blueprint.hole({FeatureKind::lifter, "R", 3})->u, 180, 1e-9);
}

TEST_F(EnginesJourney, TakesAnEngineFromAJobAndFromAFile) {
    open_demo();
    open_demo_at("Samphire", ui::Place::block);
    window_->go_to(ui::Place::engines);
    window_->engines().take_from_job();
    EXPECT_FALSE(drawn().engine().recipe.figures.empty());
    in_dialog([](QDialog& d) { QTest::keyClick(&d, Qt::Key_Escape); }, false);
    const std::string broken = write("broken.pallix-engine.json", "{\"format\": \"pallix-engine\"}");
    in_dialog([](QDialog& d) { d.reject(); });
    window_->engines().take_file(QString::fromStdString(broken));
    const std::string sound = write("own.pallix-engine.json", write_engine(drawn().engine()));
    in_dialog([](QDialog& d) { // what is on the board is not on the shelf
        for (auto* b : d.findChildren<QPushButton*>())
            if (b->text().contains(QStringLiteral("Put it away")))
                return b->click();
    });
    window_->engines().take_file(QString::fromStdString(sound));
    EXPECT_TRUE(drawn().whole());
}

// Four circles of 80 at 90 and two of 12, in a file that does not say its unit.
TEST_F(EnginesJourney, TakesADeckFromADrawing) {
    begin();
    fill({{"name", "drawn four"}, {"layout", "inline"}});
    key(Qt::Key_Escape);
    std::string dxf = "0\nSECTION\n2\nENTITIES\n";
    const auto circle = [&](double x, double y, double r) {
        dxf += "0\nCIRCLE\n8\n0\n10\n" + std::to_string(x) + "\n20\n" + std::to_string(y) + "\n40\n" +
               std::to_string(r) + "\n";
    };
    for (int i = 0; i < 4; ++i)
        circle(90 * i, 0, 40);
    circle(-30, -45, 6);
    circle(300, -45, 6);
    for (int i = 0; i < 6; ++i)
        circle(54 * i, 50, 5);
    const QString file = QString::fromStdString(write("deck.dxf", dxf + "0\nENDSEC\n0\nEOF\n"));
    in_dialog([](QDialog& d) {
        auto* take = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        auto* pitch = in<QLineEdit>(d, "dxf-pitch");
        while (in<QProgressBar>(d, "dxf-progress")->isVisible())
            QTest::qWait(5);
        EXPECT_FALSE(take->isEnabled()) << "nobody said the unit";
        pitch->setText(QStringLiteral("90"));
        EXPECT_TRUE(take->isEnabled());
        EXPECT_THAT(in<QLabel>(d, "dxf-words")->text().toStdString(), HasSubstr("passed over: 6 of size 10"));
        take->click();
    });
    window_->take_files({file});
    EXPECT_EQ(drawn().typed("pitch"), "90");
    EXPECT_EQ(drawn().typed("dowels"), "2");
    EXPECT_EQ(drawn().typed("name"), "drawn four");
    EXPECT_EQ(drawn().origin("pitch").source, FigureSource::drawing);
    // The front, the datum and the right side by pointing; a layer that is passed over.
    in_dialog([](QDialog& d) {
        while (in<QProgressBar>(d, "dxf-progress")->isVisible())
            QTest::qWait(5);
        in<QLineEdit>(d, "dxf-pitch")->setText(QStringLiteral("90"));
        auto* picture = in<ui::DxfPicture>(d, "dxf-picture");
        auto* says = in<QComboBox>(d, "dxf-press-says");
        // The drawing spans x −40 to 310 and is fitted into the picture with 20 px at its sides.
        const auto press = [&](int what, double x, double y) {
            says->setCurrentIndex(what);
            QPoint nearest;
            double least = 1e9;
            for (int px = 0; px < picture->width(); px += 2)
                for (int py = 0; py < picture->height(); py += 2) {
                    const auto at = picture->place_of({static_cast<double>(px), static_cast<double>(py)});
                    if (const double off = std::hypot(at.x - x, at.y - y); off < least) {
                        least = off;
                        nearest = {px, py};
                    }
                }
            QTest::mouseClick(picture, Qt::LeftButton, {}, nearest);
        };
        EXPECT_FALSE(in<QCheckBox>(d, "dxf-other-end")->isChecked());
        press(1, 270, 0);
        EXPECT_TRUE(in<QCheckBox>(d, "dxf-other-end")->isChecked()) << "cylinder 1 is at the right";
        press(2, 300, -45);
        press(3, 100, 50); // with the front at the right, seen from above, what is right lies below
        EXPECT_TRUE(in<QCheckBox>(d, "dxf-mirrored")->isChecked());
        press(0, 162, 50);
        EXPECT_THAT(in<QLabel>(d, "dxf-words")->text().toStdString(),
                    testing::Not(HasSubstr("passed over: 6 of size 10")));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    window_->take_files({file});
    EXPECT_EQ(drawn().typed("origin"), "dowel.C.1") << "the foremost now";
    key(Qt::Key_Z, Qt::ControlModifier);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(drawn().typed("pitch"), "");
    const QString broken = QString::fromStdString(write("broken.dxf", "nothing"));
    in_dialog([](QDialog& d) {
        while (in<QProgressBar>(d, "dxf-progress")->isVisible())
            QTest::qWait(5);
        EXPECT_FALSE(d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->isEnabled());
        d.reject();
    });
    window_->take_files({broken});
    EXPECT_EQ(drawn().typed("name"), "drawn four");
}

TEST_F(EnginesJourney, ATableIsShownBeforeItIsTaken) {
    begin();
    fill({{"name", "sheet four"}, {"layout", "inline"}});
    key(Qt::Key_Escape);
    QGuiApplication::clipboard()->setText(
        QStringLiteral("hole\tx [mm]\nbore 1\t46\nbore 2\t138\n\nbore\t80 H8\nweight\t90"));
    const auto press = [this](const char* words, int which) {
        in_dialog([words, which](QDialog& d) {
            QString shown;
            for (const auto* label : d.findChildren<QLabel*>())
                shown += label->text();
            EXPECT_THAT(shown.toStdString(), HasSubstr(words));
            const QString wanted = which == 0 ? QStringLiteral("Onto the board") : QStringLiteral("Leave it");
            for (auto* b : d.findChildren<QPushButton*>())
                if (b->text() == wanted)
                    return b->click();
            d.reject();
        });
        key(Qt::Key_V, Qt::ControlModifier | Qt::AltModifier);
    };
    press("bore pitch: 92", 1);
    EXPECT_EQ(drawn().typed("pitch"), "") << "left";
    press("passed over, row 6: weight | 90", 0);
    EXPECT_EQ(drawn().typed("pitch"), "92");
    EXPECT_EQ(drawn().typed("bore"), "80 H8");
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(drawn().typed("pitch"), "");
    QGuiApplication::clipboard()->setText(QStringLiteral("nothing"));
    in_dialog([](QDialog& d) { d.reject(); });
    key(Qt::Key_V, Qt::ControlModifier | Qt::AltModifier);
}

TEST_F(EnginesJourney, GoodBlocksTeachTheirFigures) {
    begin();
    fill("name", QStringLiteral("taught four"));
    key(Qt::Key_Escape);
    QStringList files;
    for (int i = 1; i <= 3; ++i) {
        workshop::PracticeBlock good{workshop::tender_inline_four(), {{"C", {}}}, 0, 0, 0.002 * i, {}};
        good.blueprint.lifters.clear();
        good.decks["C"].offset = 0.01 * i;
        workshop::ProbeJob probe;
        probe.seed = static_cast<std::uint64_t>(i);
        probe.holes = true;
        files << QString::fromStdString(
            write(("good" + std::to_string(i) + ".csv").c_str(), workshop::probe(good, probe)));
    }
    in_dialog([](QDialog& d) {
        QString shown;
        for (const auto* label : d.findChildren<QLabel*>())
            shown += label->text();
        EXPECT_THAT(shown.toStdString(), HasSubstr("on 3 blocks"));
        EXPECT_THAT(shown.toStdString(), HasSubstr("deck height: "));
        EXPECT_THAT(shown.toStdString(), HasSubstr("(±"));
        for (auto* b : d.findChildren<QPushButton*>())
            if (b->text() == QStringLiteral("Onto the board"))
                return b->click();
        d.reject();
    });
    window_->engines().take_blocks(files);
    EXPECT_TRUE(drawn().whole());
    EXPECT_EQ(drawn().origin("pitch").blocks, 3);
    // 0.01, 0.02, 0.03 over nominal: a mean of 0.02, of which half a width of 4.303 · 0.01/√3 is told (Student's t, two
    // degrees of freedom).
    EXPECT_NEAR(*finite_number(drawn().typed("deck_height")),
                workshop::tender_inline_four().banks[0].deck_height.nominal + 0.02, 0.002);
    EXPECT_NEAR(*drawn().origin("deck_height").spread, 4.303 * 0.01 / std::sqrt(3), 0.002);
    in_dialog([](QDialog& d) { d.reject(); });
    window_->engines().take_blocks({QStringLiteral("/nowhere.csv")});
}

TEST_F(EnginesJourney, TheDrawingGoesOutAsPdfSvgAndDxf) {
    open_demo();
    key(Qt::Key_F9);
    window_->engines().open(QStringLiteral("ferry V8, 90 degrees"));
    const auto bytes = [this](const char* name) {
        const QString file = folder_.filePath(QString::fromLatin1(name));
        window_->engines().save_as(file);
        QFile in(file);
        EXPECT_TRUE(in.open(QIODevice::ReadOnly)) << name;
        return in.readAll();
    };
    EXPECT_TRUE(bytes("ferry.pdf").startsWith("%PDF-"));
    const QByteArray svg = bytes("ferry.svg");
    for (const char* figure : {"228.6 ±0.05", "427.68", "68 +0.013 0"})
        EXPECT_TRUE(svg.contains(figure)) << figure;
    EXPECT_TRUE(bytes("ferry.dxf").contains("CYLINDERS"));
    const auto blueprint = read_blueprint(bytes("ferry.pallix-blueprint.json").toStdString(), "ferry");
    ASSERT_TRUE(blueprint) << blueprint.error().front().text();
    EXPECT_EQ(blueprint->bores.size(), 8U);
    EXPECT_TRUE(engine_from(bytes("ferry.pallix-engine.json").toStdString(), "ferry"));
    EXPECT_TRUE(read_recipe(bytes("ferry.pallix-recipe.json").toStdString(), "ferry"));
    in_dialog([](QDialog& d) { d.reject(); });
    window_->engines().save_as(QStringLiteral("/nowhere/at/all.svg"));
}

// The field stays at its number when the drawing becomes another size: words of several lines come in below it.
TEST_F(EnginesJourney, TheFieldStaysAtItsNumber) {
    begin();
    board().edit_next_missing();
    auto* field = find<QLineEdit>("board-figure");
    const auto off = [&] {
        QApplication::processEvents();
        return std::abs(field->geometry().center().y() -
                        board().drawing().place_of(board().drawing().current()).center().y());
    };
    EXPECT_LE(off(), 2);
    const int before = field->geometry().center().y();
    window_->resize(window_->width(), window_->height() - 60);
    EXPECT_LE(off(), 2);
    EXPECT_NE(field->geometry().center().y(), before);
}

// A machine that writes numbers only: the first block's holes and faces are looked over once, the next two are read as
// it.
TEST_F(EnginesJourney, GoodBlocksWithoutNamesAreLookedOverOnce) {
    begin();
    fill("name", QStringLiteral("taught by numbers"));
    key(Qt::Key_Escape);
    QStringList named, bare;
    for (int i = 1; i <= 3; ++i) {
        workshop::PracticeBlock good{workshop::tender_inline_four(), {{"C", {}}}, 0, 0, 0.002 * i, {}};
        good.blueprint.lifters.clear();
        workshop::ProbeJob probe;
        probe.seed = static_cast<std::uint64_t>(i);
        probe.holes = true;
        const std::string log = workshop::probe(good, probe);
        named << QString::fromStdString(write(("named" + std::to_string(i) + ".csv").c_str(), log));
        std::string numbers;
        std::istringstream in(log);
        for (std::string line; std::getline(in, line);)
            if (std::ranges::count(line, ',') == 5 && line.find("feature") == std::string::npos) {
                std::string row = line.substr(line.find(',', line.find(',', line.find(',') + 1) + 1) + 1);
                std::ranges::replace(row, ',', '\t');
                numbers += row + "\n";
            }
        bare << QString::fromStdString(write(("bare" + std::to_string(i) + ".txt").c_str(), numbers));
    }
    const auto onto_the_board = [](QDialog& d) {
        for (auto* b : d.findChildren<QPushButton*>())
            if (b->text() == QStringLiteral("Onto the board"))
                return b->click();
        d.reject();
    };
    in_dialog(onto_the_board);
    window_->engines().take_blocks(named);
    const block::Recipe wanted = drawn().engine().recipe;
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(drawn().whole());
    in_dialog([&](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_EQ(ok->text(), "These names are right");
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("4 cylinders"));
        in_dialog(onto_the_board);
        ok->click();
    });
    window_->engines().take_blocks(bare);
    EXPECT_EQ(drawn().engine().recipe, wanted);
    EXPECT_TRUE(drawn().whole());
    in_dialog([](QDialog& d) { d.reject(); }); // left: nothing is taken
    window_->engines().take_blocks({bare.front()});
    EXPECT_EQ(drawn().engine().recipe, wanted);
}

// The harbour has two blocks of the ferry's engine in its book: what they were found like teaches it.
TEST_F(EnginesJourney, TheShopsOwnJobsTeachAnEngine) {
    open_demo();
    window_->go_to(ui::Place::engines);
    window_->engines().begin_new();
    fill("name", QStringLiteral("tender inline four"));
    key(Qt::Key_Escape);
    in_dialog([this](QDialog& d) {
        auto* list = in<QListWidget>(d, "history-jobs");
        ASSERT_GT(list->count(), 2);
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        int ticked = 0;
        for (int i = 0; i < list->count(); ++i) {
            const bool samphire = list->item(i)->text().contains(QStringLiteral("Samphire"));
            list->item(i)->setCheckState(samphire ? Qt::Checked : Qt::Unchecked);
            ticked += samphire ? 1 : 0;
        }
        ASSERT_EQ(ticked, 1);
        in_dialog([](QDialog& offer) {
            for (auto* b : offer.findChildren<QPushButton*>())
                if (b->text() == QStringLiteral("Onto the board"))
                    return b->click();
            offer.reject();
        });
        ok->click();
    });
    window_->engines().take_history();
    EXPECT_EQ(drawn().typed("mains"), "5");
    EXPECT_EQ(drawn().origin("main_pitch").source, FigureSource::measured);
    const std::vector<MainBlueprint> mains = workshop::tender_inline_four().mains;
    EXPECT_NEAR(*finite_number(drawn().typed("main_pitch")), mains[1].x - mains[0].x, 0.01);
}
