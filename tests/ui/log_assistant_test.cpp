// SPDX-License-Identifier: GPL-3.0-or-later
// Logs as other programs write them, taken in from the window.
#include "bench_fixture.h"

#include "block/digest.h"
#include "block/evaluation_uncertainty.h"
#include "block/log_dialect.h"
#include "block/log_dialects.h"
#include "block/small_block.h"
#include "block/state/tunnel_state.h"
#include "ui/dialogs/touch_picture.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"
#include "workshop/probe_rows.h"

#include <QCheckBox>
#include <QComboBox>
#include <algorithm>
#include <gmock/gmock.h>
#include <sstream>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::test;
using testing::HasSubstr;

class LogAssistantTest : public BenchFixture {
  protected:
    LogAssistantTest() {
        workshop::PracticeBlock p{workshop::tender_inline_four(), {{"C", {}}}, 0.01, 0, 0.001, {}};
        workshop::ProbeJob job;
        job.stated_uncertainty = 0.0005;
        ours_ = workshop::probe(p, job);
    }
    /// Semicolons, decimal commas, names and headings of another shop.
    [[nodiscard]] std::string theirs(const std::string& heading) const {
        std::string out = "Probe run\r\n" + heading + "\r\n";
        std::istringstream in(ours_);
        for (std::string line; std::getline(in, line);) {
            if (line.starts_with('#') || line.starts_with("setup") || line.starts_with("feature"))
                continue;
            std::string cells;
            for (const char c : line)
                cells += c == ',' ? std::string(";") : c == '.' ? std::string("\x01") : std::string(1, c);
            std::string named;
            for (std::size_t i = 0; i < cells.size(); ++i) // points of numbers are commas, those of names stay
                named += cells[i] != '\x01' ? std::string(1, cells[i])
                         : i > 0 && std::isdigit(static_cast<unsigned char>(cells[i - 1])) != 0 ? std::string(",")
                                                                                                : std::string(".");
            if (const auto at = named.find("main."); at != std::string::npos)
                named.replace(at, 5, "HL");
            out += named + "\r\n";
        }
        return out;
    }
    /// Takes a log in by keys; `act` sees the assistant.
    void take(const std::string& file, const std::function<void(QDialog&)>& act) {
        in_dialog([&](QDialog& d) {
            in<QLineEdit>(d, "log-files")->setText(QString::fromStdString(file));
            if (act)
                in_dialog(act);
            d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
            if (d.isVisible())
                d.reject();
        });
        key(Qt::Key_I, Qt::ControlModifier);
    }
    void new_job(const char* title) {
        const NamedText blueprint{"tender.json", write_blueprint(workshop::tender_inline_four())};
        ASSERT_TRUE(session_.new_job(QString::fromLatin1(title), {}, blueprint, true));
    }
    [[nodiscard]] std::string evaluated() {
        const auto& latest = tunnel_of(session_.state()).latest;
        return latest ? evaluation_json(latest->evaluation, Unit::mm, nullptr) : std::string("nothing");
    }

    std::string ours_;
};

TEST_F(LogAssistantTest, AsksOnceForNamesAndKnowsThemTheNextTime) {
    open_window();
    new_job("first");
    const std::string columns =
        ours_.find("setup,feature") != std::string::npos ? "Setup;Feature;Level;X;Y;Z" : "Feature;Level;X;Y;Z";
    const std::string log = theirs(columns), file = write("run.txt", log);
    take(file, [](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_TRUE(ok->isEnabled()) << "HL1 is no name it knows, but they lie where the blueprint's places are";
        in<QCheckBox>(d, "log-by-place")->setChecked(false);
        EXPECT_FALSE(ok->isEnabled());
        in<QLineEdit>(d, "log-feature-0")->setText(QStringLiteral("main.{n}"));
        in<QLineEdit>(d, "log-mapping-name")->setText(QStringLiteral("the old probe"));
        Q_EMIT in<QLineEdit>(d, "log-feature-0")->editingFinished();
        EXPECT_TRUE(ok->isEnabled()) << in<QLabel>(d, "log-understood")->text().toStdString();
        ok->click();
    });
    const auto* taken = std::get_if<ProbeLogTaken>(&session_.entries().back().payload);
    ASSERT_NE(taken, nullptr);
    EXPECT_EQ(taken->original.str(), log) << "kept beside what was made of it";
    EXPECT_EQ(taken->original_sha256, sha256_hex(log));
    const std::string by_theirs = evaluated();
    // The next log of that probe is read the same way, with one press.
    new_job("second");
    take(file, [](QDialog& d) {
        EXPECT_EQ(in<QLineEdit>(d, "log-mapping-name")->text(), "the old probe");
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    EXPECT_EQ(evaluated(), by_theirs);
    // And the same as from a log of our own.
    new_job("third");
    take(write("ours.csv", ours_), nullptr);
    EXPECT_EQ(evaluated(), by_theirs);
    EXPECT_NE(by_theirs, "nothing");
}

TEST_F(LogAssistantTest, AsksForColumnsAndLeavesEverythingWhereItIsLeft) {
    open_window();
    new_job("first");
    const std::string columns = ours_.find("setup,feature") != std::string::npos ? "Setup;Feature;Level;Laengs;Y;Z"
                                                                                 : "Feature;Level;Laengs;Y;Z";
    const std::string file = write("run.txt", theirs(columns));
    const std::size_t before = session_.entries().size();
    take(file, [](QDialog& d) { d.reject(); });
    EXPECT_EQ(session_.entries().size(), before);
    take(file, [](QDialog& d) {
        auto* column = in<QComboBox>(d, "log-column-x");
        EXPECT_EQ(column->currentText(), "Laengs") << "the only column of numbers that is left";
        column->setCurrentIndex(0);
        EXPECT_FALSE(d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->isEnabled());
        column->setCurrentIndex(column->findText(QStringLiteral("Laengs")));
        in<QCheckBox>(d, "log-by-place")->setChecked(false);
        in<QLineEdit>(d, "log-feature-0")->setText(QStringLiteral("main.{n}"));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->setEnabled(true);
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    EXPECT_EQ(session_.entries().size(), before + 1);
    EXPECT_NE(evaluated(), "nothing");
}

TEST_F(LogAssistantTest, AMappingThatIsKeptIsAFileThatTheCommandLineReads) {
    LogMapping m;
    m.delimiter = ";";
    m.decimal = ",";
    m.unit = Unit::inch;
    m.kind = "tip";
    m.tip_diameter = "3";
    m.columns = {{"x", "-Laengs"}, {"feature", "#2"}};
    m.features = {{"HL{n}", "main.{n}"}};
    m.levels = {{"oben", "top"}};
    const auto again = read_mapping(write_mapping(m), "m.json");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_EQ(write_mapping(*again), write_mapping(m));
    EXPECT_EQ(again->columns, m.columns);
    EXPECT_EQ(again->features, m.features);
    EXPECT_EQ(again->tip_diameter, "3");
}

// Numbers alone: each hole and face is named by where it lies; one is corrected by pointing, one left out.
TEST_F(LogAssistantTest, NamesTouchesByWhereTheyLieAndIsCorrectedByPointing) {
    open_window();
    new_job("first");
    std::string bare;
    std::istringstream in_ours(ours_);
    for (std::string line; std::getline(in_ours, line);)
        if (!line.starts_with('#') && !line.starts_with("setup")) {
            const auto at = line.find(',', line.find(',', line.find(',') + 1) + 1);
            bare += line.substr(at + 1) + "\n";
        }
    const std::string file = write("bare.txt", bare);
    take(file, [](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_TRUE(ok->isEnabled());
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("by where they lie: 5 mains"));
        auto* picture = in<ui::TouchPicture>(d, "touch-picture");
        const auto runs = picture->spoken();
        ASSERT_GT(runs.size(), 10U);
        EXPECT_THAT(runs[0].value.toStdString(), testing::StartsWith("main.1 front, sure, 0.0"));
        // The second dowel is another hole: what stood there is left out, and can be named again.
        std::size_t dowel = 0;
        while (!runs[dowel].value.startsWith(QStringLiteral("dowel.C.2")))
            ++dowel;
        picture->setFocus();
        for (std::size_t i = 0; i < dowel; ++i)
            QTest::keyClick(picture, Qt::Key_Right);
        EXPECT_EQ(picture->marked(), dowel);
        auto* name = in<QLineEdit>(d, "log-group");
        EXPECT_EQ(name->text(), "dowel.C.2");
        QTest::keyClick(picture, Qt::Key_Return);
        name->setText(QStringLiteral("-"));
        QTest::keyClick(name, Qt::Key_Return);
        EXPECT_EQ(picture->spoken()[dowel].value, "?, pointed at");
        name->setText(QStringLiteral("sump"));
        QTest::keyClick(name, Qt::Key_Return);
        EXPECT_TRUE(d.isVisible()) << "Enter takes a name, not the log";
        EXPECT_EQ(picture->spoken()[dowel].value, "?, pointed at") << "no place of a block";
        in<QLineEdit>(d, "log-mapping-name")->setText(QStringLiteral("the old probe"));
        ok->click();
    });
    const Evaluation& e = tunnel_of(session_.state()).latest->evaluation;
    EXPECT_EQ(e.dowels.size(), 1U);
    EXPECT_EQ(e.bores.size(), 0U);
    EXPECT_EQ(e.mains.size(), 10U);
    // The next block of that program: known by its order, and said to lie where the places are.
    new_job("second");
    take(file, [](QDialog& d) {
        EXPECT_THAT(
            in<QLabel>(d, "log-understood")->text().toStdString(),
            testing::AllOf(HasSubstr("by the order of the program"), HasSubstr("lie where the blueprint has them")));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    EXPECT_EQ(tunnel_of(session_.state()).latest->evaluation.dowels.size(), 1U);
    // Another program with as many touches is not taken for it: its places lie elsewhere.
    std::vector<std::string> lines;
    std::istringstream in_bare(bare);
    for (std::string line; std::getline(in_bare, line);)
        lines.push_back(line);
    std::ranges::rotate(lines, lines.begin() + 16); // begins with main 2
    std::string turned;
    for (const std::string& line : lines)
        turned += line + "\n";
    new_job("third");
    take(write("other.txt", turned), [](QDialog& d) {
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("by where they lie"));
        EXPECT_THAT(in<ui::TouchPicture>(d, "touch-picture")->spoken()[0].value.toStdString(),
                    testing::StartsWith("main.2 front, sure"));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    EXPECT_EQ(tunnel_of(session_.state()).latest->evaluation.dowels.size(), 2U);
}

// A mapping's unit is the log's, also when it is kept and offered again.
TEST_F(LogAssistantTest, ReadsInTheUnitThatWasKept) {
    open_window();
    new_job("first");
    LogMapping m;
    m.unit = Unit::inch;
    m.features = {{"HL{n}", "main.{n}"}};
    ASSERT_TRUE(session_.book().engines().keep_mapping(QStringLiteral("inches"), write_mapping(m)));
    const std::string columns =
        ours_.find("setup,feature") != std::string::npos ? "Setup;Feature;Level;X;Y;Z" : "Feature;Level;X;Y;Z";
    take(write("run.txt", theirs(columns)), [](QDialog& d) {
        EXPECT_EQ(in<QComboBox>(d, "log-unit")->currentText(), "inch");
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("unit in"));
        d.reject();
    });
}

// Two banks in two set-ups: how far the block was turned is asked for, and nothing is read without it.
TEST_F(LogAssistantTest, AsksHowFarTheBlockWasTurned) {
    open_window();
    const Blueprint b = workshop::ferry_v8();
    ASSERT_TRUE(session_.new_job(QStringLiteral("rolled"), {}, {"ferry.json", write_blueprint(b)}, true));
    workshop::PracticeBlock p{b, {{"R", {}}, {"L", {}}}, 0, 0, 0, {}};
    workshop::ProbeJob job;
    job.rolled = true;
    ours_ = workshop::probe(p, job);
    take(write("rolled.txt", theirs("Setup;Feature;Level;X;Y;Z")), [&](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_FALSE(ok->isEnabled());
        for (int i = 0; i < 2; ++i) {
            auto* field = in<QLineEdit>(d, i == 0 ? "log-turn-0" : "log-turn-1");
            EXPECT_FALSE(ok->isEnabled());
            const BankBlueprint& bank = *b.bank(i == 0 ? "R" : "L"); // in the order of the log
            field->setText(QStringLiteral("%1; 12; -9,5").arg(bank.angle / radians_per_degree));
            Q_EMIT field->editingFinished();
        }
        EXPECT_TRUE(ok->isEnabled()) << in<QLabel>(d, "log-understood")->text().toStdString();
        ok->click();
    });
    ASSERT_TRUE(tunnel_of(session_.state()).latest);
    const Evaluation& e = tunnel_of(session_.state()).latest->evaluation;
    for (const DeckResult& deck : e.decks)
        EXPECT_NEAR(deck.angle_error(), 0, 1e-4) << deck.id.text();
}

// A machine that numbers what it probes gives the same words to another program's places: they are held against where
// the places lie.
TEST_F(LogAssistantTest, WordsThatWereKeptAreHeldAgainstThePlaces) {
    open_window();
    new_job("first");
    std::vector<std::string> runs; // of one place each
    std::string before;
    std::istringstream in_ours(ours_);
    for (std::string line; std::getline(in_ours, line);)
        if (!line.starts_with('#') && !line.starts_with("setup")) {
            const auto at = line.find(',', line.find(',', line.find(',') + 1) + 1);
            if (line.substr(0, at) != before)
                runs.emplace_back();
            before = line.substr(0, at);
            runs.back() += line.substr(at) + "\n";
        }
    const auto numbered = [&] {
        std::string out = "Element,X,Y,Z\n";
        for (std::size_t i = 0; i < runs.size(); ++i) {
            std::istringstream rows(runs[i]);
            for (std::string row; std::getline(rows, row);)
                out += "EL" + std::to_string(i) + row + "\n";
        }
        return out;
    };
    const auto look_over = [](QDialog& d) {
        in<QLineEdit>(d, "log-mapping-name")->setText(QStringLiteral("numbering machine"));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    };
    take(write("run.txt", numbered()), look_over);
    const std::string by_place = evaluated();
    std::ranges::rotate(runs, runs.begin() + 2); // the mains from the second on, the first one last
    new_job("second");
    take(write("other.txt", numbered()), look_over);
    EXPECT_EQ(evaluated(), by_place) << "and not with main 2 for main 1";
}

// Axes of a mirror image: said, and turned round.
TEST_F(LogAssistantTest, SaysThatAxesAreLeftHanded) {
    open_window();
    new_job("first");
    std::string text = "Name;X;Y;Z\n";
    for (const std::vector<std::string>& f : test::probe_rows(ours_))
        text += f[1] + ";" + f[3] + ";" + (f[4].starts_with('-') ? f[4].substr(1) : "-" + f[4]) + ";" + f[5] + "\n";
    take(write("mirrored.txt", text), [](QDialog& d) {
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("axes are left-handed"));
        d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    const Evaluation& e = tunnel_of(session_.state()).latest->evaluation;
    for (const DowelResult& dowel : e.dowels)
        EXPECT_LT(std::abs(dowel.dv), 0.1) << dowel.id.text();
}

// A column of operations is no list of set-ups: one answer does for all of them.
TEST_F(LogAssistantTest, OneTurnDoesForManySetUps) {
    open_window();
    new_job("first");
    std::string text = "Op;Name;X;Y;Z\n", before;
    int operation = 0;
    for (const std::vector<std::string>& f : test::probe_rows(ours_)) {
        operation += f[1] == before ? 0 : 10;
        before = f[1];
        text += std::to_string(operation) + ";" + f[1] + ";" + f[3] + ";" + f[4] + ";" + f[5] + "\n";
    }
    take(write("operations.txt", text), [](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_FALSE(ok->isEnabled());
        EXPECT_EQ(d.findChild<QLineEdit*>(QStringLiteral("log-turn-1")), nullptr);
        auto* all = in<QLineEdit>(d, "log-turn-0");
        all->setText(QStringLiteral("0"));
        Q_EMIT all->editingFinished();
        EXPECT_TRUE(ok->isEnabled());
        ok->click();
    });
    EXPECT_TRUE(tunnel_of(session_.state()).latest);
}

// Numbers alone of a block that was rolled over half way: the assistant says from which touch on, and asks how far.
TEST_F(LogAssistantTest, FindsWhereABlockWasRolledOver) {
    open_window();
    const Blueprint b = workshop::ferry_v8();
    ASSERT_TRUE(session_.new_job(QStringLiteral("rolled"), {}, {"ferry.json", write_blueprint(b)}, true));
    workshop::PracticeBlock p{b, {{"R", {}}, {"L", {}}}, 0, 0, 0, {}};
    workshop::ProbeJob job;
    job.rolled = true;
    job.holes = true;
    std::string text;
    std::istringstream in_log(workshop::probe(p, job));
    std::size_t touches = 0, first_left = 0;
    for (std::string line; std::getline(in_log, line);)
        if (std::ranges::count(line, ',') == 5 && line.find("feature") == std::string::npos) {
            ++touches;
            if (first_left == 0 && line.starts_with("L,"))
                first_left = touches;
            text += line.substr(line.find(',', line.find(',', line.find(',') + 1) + 1) + 1) + "\n";
        }
    take(write("rolled.txt", text), [&](QDialog& d) {
        auto* ok = d.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        EXPECT_FALSE(ok->isEnabled());
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(),
                    HasSubstr("from touch " + std::to_string(first_left) + " on, the block seems to be turned"));
        auto* turn = in<QLineEdit>(d, "log-turn-0");
        // From the right bank's set-up to the left one's, about the harbour's rotary axis.
        turn->setText(QStringLiteral("-90; 12; -9.5"));
        Q_EMIT turn->editingFinished();
        EXPECT_TRUE(ok->isEnabled()) << in<QLabel>(d, "log-understood")->text().toStdString();
        EXPECT_THAT(in<QLabel>(d, "log-understood")->text().toStdString(), HasSubstr("8 cylinders, 16 lifters"));
        ok->click();
    });
    ASSERT_TRUE(tunnel_of(session_.state()).latest);
    const Evaluation& e = tunnel_of(session_.state()).latest->evaluation;
    ASSERT_EQ(e.decks.size(), 2U);
    for (const DeckResult& deck : e.decks)
        EXPECT_NEAR(deck.angle_error(), 0, 1e-4) << deck.id.text();
}

// Twenty shops' logs, each by a glance and a press; what is likely is laid before the person. One needs its axes
// turned.
TEST_F(LogAssistantTest, TakesTwentyDialectsWithTwoConfirmationsAtMost) {
    open_window();
    const auto values = [this] {
        const Evaluation& e = tunnel_of(session_.state()).latest->evaluation;
        std::vector<double> all{e.decks.at(0).height_min, e.decks.at(0).height_max, e.cam->y, e.cam->z};
        for (const MainResult& main : e.mains)
            all.insert(all.end(), {main.centre.x, main.centre.y, main.centre.z, main.diameter});
        for (const DowelResult& dowel : e.dowels)
            all.insert(all.end(), {dowel.u, dowel.v, dowel.diameter});
        return all;
    };
    const auto begin = [this](const std::string& title) {
        ASSERT_TRUE(session_.new_job(QString::fromStdString(title), {}, {"small.json", small_blueprint()}, true));
    };
    begin("ours");
    take(write("ours.csv", small_log(200.03, 0.05, -0.02).text()), nullptr);
    ASSERT_TRUE(tunnel_of(session_.state()).latest);
    const std::vector<double> wanted = values();
    for (const Dialect& d : twenty_dialects()) {
        SCOPED_TRACE(d.name);
        begin(d.name);
        int confirmed = 0;
        take(write((std::string(d.name) + ".txt").c_str(), written(d)), [&](QDialog& assistant) {
            auto* ok = assistant.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
            if (!ok->isEnabled()) {
                ++confirmed;
                auto* by_place = in<QCheckBox>(assistant, "log-by-place");
                by_place->setChecked(true);
            }
            ++confirmed;
            EXPECT_TRUE(ok->isEnabled()) << in<QLabel>(assistant, "log-understood")->text().toStdString();
            ok->click();
            if (assistant.isVisible())
                assistant.reject();
        });
        EXPECT_LE(confirmed, 2);
        ASSERT_TRUE(tunnel_of(session_.state()).latest);
        const std::vector<double> got = values();
        ASSERT_EQ(got.size(), wanted.size());
        for (std::size_t i = 0; i < got.size(); ++i)
            EXPECT_NEAR(got[i], wanted[i], 1e-9) << i;
    }
}
