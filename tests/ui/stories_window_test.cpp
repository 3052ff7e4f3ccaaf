// SPDX-License-Identifier: GPL-3.0-or-later
// What was found to mislead in the window, as it happened.
#include "bench_fixture.h"
#include "block/ledger.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_work.h"
#include "ui/dialogs/help_dialog.h"

#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTextBrowser>
#include <stdexcept>

using namespace pallix;
using planning::Measuring;
using test::in;

namespace {

class WindowStories : public test::BenchFixture {
  protected:
    QLineEdit* reading() { return find<QLineEdit>("reading"); }
};

} // namespace

// The plan's drawing went on looking into what the session had thrown away.
TEST_F(WindowStories, AJobWithoutABlueprintOpensBesideThePlanPage) {
    open_small_job();
    take_log(test::small_log(200.1).text());
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(session_.tunnel_study());
    window_->grab();
    const auto bad = book_->create_job({{1, "2026-03-02T09:00:00Z", "x", block::JobOpened{"bad", "", "b.json", "{}"}}});
    ASSERT_TRUE(bad);
    window_->open_job(*bad);
    window_->grab();
    EXPECT_EQ(headline(), QStringLiteral("The blueprint cannot be read"));
    for (const Qt::Key view : {Qt::Key_F3, Qt::Key_F4, Qt::Key_F5, Qt::Key_F8, Qt::Key_F6, Qt::Key_F7, Qt::Key_F2}) {
        key(view);
        window_->grab();
    }
    key(Qt::Key_F4);
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    window_->grab();
    EXPECT_EQ(headline(), QStringLiteral("The blueprint cannot be read"));
}

TEST_F(WindowStories, NoPageCallsForAnythingBeforeTheLedgerIsMended) {
    open_small_job();
    take_log(test::small_log(200.1).text());
    ASSERT_TRUE(book_->append(*session_.job(), {{3, "2026-03-02T09:50:00Z", "x",
                                                 block::UnknownPayload{"deck_cut", 1, R"({"bank":"C"})", {}}}}));
    open_window();
    window_->open_job(*session_.job());
    for (const Qt::Key view : {Qt::Key_F4, Qt::Key_F5, Qt::Key_F6, Qt::Key_F7}) {
        key(view);
        EXPECT_EQ(headline(), QStringLiteral("Mend the ledger first"));
    }
}

// Ctrl+Z put the last value back into the field, at the next place; Ctrl+U emptied it.
TEST_F(WindowStories, KeysOfTheBenchWorkWithTheCaretInTheReadingField) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    ASSERT_TRUE(reading()->hasFocus());
    type(QStringLiteral("60.012"));
    key(Qt::Key_Return);
    ASSERT_EQ(readings_of(session_.state()).readings.size(), 1U);
    EXPECT_TRUE(reading()->text().isEmpty());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(readings_of(session_.state()).readings.empty()) << "the entry is struck";
    EXPECT_TRUE(reading()->text().isEmpty()) << "and nothing stands at the next place";
    key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(readings_of(session_.state()).readings.size(), 1U);
    type(QStringLiteral("60.0"));
    key(Qt::Key_U, Qt::ControlModifier);
    EXPECT_EQ(reading()->text(), QStringLiteral("60.0"));
    EXPECT_EQ(preferences_.unit(), block::Unit::inch);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NE(reading()->text(), QStringLiteral("60.0")) << "what is being typed is the field's to undo";
    EXPECT_EQ(readings_of(session_.state()).readings.size(), 1U);
}

// "1 jobs in the shop", "&Blueprint", and two views that F1 did not name.
TEST_F(WindowStories, WordsAreRight) {
    open_small_job();
    open_window();
    bool said = false;
    for (const QLabel* label : window_->findChildren<QLabel*>())
        said |= label->text() == QStringLiteral("1 job in the shop");
    EXPECT_TRUE(said);
    in_dialog([](QDialog& d) {
        for (const QLabel* label : d.findChildren<QLabel*>())
            EXPECT_TRUE(!label->text().contains(QLatin1Char('&')) || label->buddy()) << qPrintable(label->text());
        d.reject();
    });
    key(Qt::Key_N, Qt::ControlModifier);
    in_dialog([](QDialog& d) {
        const QString help = in<QTextBrowser>(d, "help-text")->toPlainText();
        for (const char* view : {"F2", "F3", "F4", "F5", "F6", "F7", "F8"})
            EXPECT_TRUE(help.contains(QLatin1String(view))) << view;
        d.reject();
    });
    key(Qt::Key_F1, Qt::ShiftModifier);
}

// A decimal comma was refused for temperatures, and a lever's angle that could not be read became 0.
TEST_F(WindowStories, ACommaIsAPointWhereverANumberIsTyped) {
    open_small_job();
    open_window();
    key(Qt::Key_J, Qt::ControlModifier);
    ask("part_c", QStringLiteral("195"));
    answer();
    EXPECT_FALSE(readings_of(session_.state()).conditions.part_c) << "no block is as hot as that";
    EXPECT_TRUE(text_of("call-echo").contains(QStringLiteral("−40 to 120"))) << text_of("call-echo").toStdString();
    ask("part_c", QStringLiteral("19,5"));
    ask("gauge_c", QStringLiteral("21,25 °C"));
    answer();
    EXPECT_EQ(readings_of(session_.state()).conditions.part_c, 19.5);
    EXPECT_EQ(readings_of(session_.state()).conditions.gauge_c, 21.25);
    ASSERT_TRUE(instruments_.save([] {
        block::Instrument lever;
        lever.name = "lever";
        lever.kind = block::InstrumentKind::lever_indicator;
        lever.contact_angle = 0.1;
        return lever;
    }()));
    in_dialog([this](QDialog& d) {
        auto* list = d.findChild<QListWidget*>();
        ASSERT_NE(list, nullptr);
        list->setCurrentItem(list->findItems(QStringLiteral("lever"), Qt::MatchExactly).front());
        auto* angle = in<QLineEdit>(d, "instrument-angle");
        const auto saved = [&](const char* typed) {
            angle->setText(QString::fromUtf8(typed));
            QTest::mouseClick(in<QPushButton>(d, "instrument-save"), Qt::LeftButton);
            return instruments_.find("lever")->contact_angle / block::radians_per_degree;
        };
        EXPECT_NEAR(saved("12,5"), 12.5, 1e-12);
        EXPECT_NEAR(saved("15°"), 15, 1e-12);
        EXPECT_NEAR(saved("steep"), 15, 1e-12) << "what cannot be read changes nothing";
        EXPECT_EQ(saved(""), 0);
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier);
}

// Files of many kinds that crashed or hung the window, or stood in the way at every later start: each is refused in a
// dialog, nothing is written, and every view still answers.
TEST_F(WindowStories, HostileFilesAreRefusedAndTheWindowGoesOn) {
    open_small_job();
    take_log(test::small_log(200.1).text());
    open_window();
    window_->open_job(*session_.job());
    const std::size_t jobs = book_->jobs()->size(), entries = session_.entries().size();
    const auto job = [](const std::string& kind, const std::string& payload) {
        return R"({"format":"pallix-job","version":1,"entries":[{"sequence":1,"time":"2026-03-02T09:00:00Z","person":"x",)"
               R"("kind":"job_opened","version":1,"payload":{"title":"x","customer":"","blueprint_file":"b","blueprint":")" +
               [] {
                   std::string escaped;
                   for (const char c : test::small_blueprint())
                       escaped += c == '"' ? "\\\"" : c == '\n' ? "\\n" : std::string(1, c);
                   return escaped;
               }() +
               R"("}},{"sequence":2,"time":"2026-03-02T09:01:00Z","person":"x","kind":")" + kind +
               R"(","version":1,"payload":)" + payload + "}]}";
    };
    const std::vector<std::pair<const char*, std::string>> files{
        {"deep.pallix.json", std::string(100000, '[')},
        {"empty.pallix.json", ""},
        {"negative.pallix.json", R"({"format":"pallix-job","version":-1,"entries":[]})"},
        {"noflaw.pallix.json", job("flaw", R"({"bank":"C","flaw":"crack","near":"bore","path_mm":[],"note":""})")},
        {"passes.pallix.json",
         job("pass_plan", R"({"witness_mm":1,"pass_mm":1,"finish_mm":1,"spring_passes":2147483648})")},
        {"bank.pallix.json", job("deck_cut", R"({"bank":"Q","pass":"pass","depth_mm":1,"clean":true,"dark_mm":[]})")},
        {"far.pallix.json",
         job("deck_cut", R"({"bank":"C","pass":"pass","depth_mm":1,"clean":false,"dark_mm":[[1e9,0]]})")},
        {"strokes.pallix.json", job("tunnel_pass", R"({"pass":"strokes","strokes":-3})")},
        {"nothing.pallix-blueprint.json", "{}"},
    };
    for (const auto& [name, text] : files) {
        bool refused = false;
        in_dialog([&refused](QDialog& d) {
            refused = true;
            d.reject();
        });
        window_->take_files({QString::fromStdString(write(name, text))});
        EXPECT_TRUE(refused) << name;
        EXPECT_EQ(book_->jobs()->size(), jobs) << name;
    }
    for (const Qt::Key view : {Qt::Key_F2, Qt::Key_F4, Qt::Key_F5, Qt::Key_F8, Qt::Key_F6, Qt::Key_F7}) {
        key(view);
        window_->grab();
    }
    EXPECT_EQ(session_.entries().size(), entries);
}

// ---- what is silently wrong -----------------------------------------------------------------------------------------

// What stood in the field, and what the gauge had sent meanwhile, went into the next job that was opened.
TEST_F(WindowStories, WhatWaitsForOneJobIsNotTakenByAnother) {
    open_small_job();
    const storage::JobId first = *session_.job();
    open_window();
    window_->open_job(first);
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    type(QStringLiteral("60.0"));
    for (int i = 1; i <= 3; ++i)
        Q_EMIT gauge_.reading({i, "60.01" + std::to_string(i), "mm"});
    ASSERT_TRUE(QTest::qWaitFor([this] { return text_of("echo").contains(QStringLiteral("3 readings wait")); }, 20000));
    ASSERT_TRUE(session_.new_job(QStringLiteral("second"), {}, {"small.json", test::small_blueprint()}));
    const storage::JobId second = *session_.job();
    key(Qt::Key_F4);
    EXPECT_TRUE(reading()->text().isEmpty());
    QTest::qWait(50);
    EXPECT_TRUE(readings_of(session_.state()).readings.empty()) << "the second job was never measured";
    window_->open_job(first);
    key(Qt::Key_F4);
    EXPECT_EQ(reading()->text(), QStringLiteral("60.0"));
    reading()->clear();
    ASSERT_TRUE(QTest::qWaitFor([this] { return readings_of(session_.state()).readings.size() == 3; }, 20000));
    EXPECT_EQ(book_->entries(second)->size(), 1U);
}

TEST_F(WindowStories, TwentyThousandReadingsThatWaitAreOneLineAndOneNote) {
    open_small_job();
    open_window();
    window_->open_job(*session_.job());
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    type(QStringLiteral("60.0"));
    constexpr int many = 20000;
    for (int i = 1; i <= many; ++i)
        Q_EMIT gauge_.reading({i, "60.01", "mm"});
    ASSERT_TRUE(
        QTest::qWaitFor([this] { return text_of("echo").contains(QStringLiteral("20000 readings wait")); }, 20000));
    EXPECT_LT(text_of("echo").size(), 300) << text_of("echo").toStdString();
    key(Qt::Key_F8); // nothing is asked for there
    reading()->clear();
    const auto notes = [this] {
        return std::ranges::count_if(
            session_.entries(), [](const block::Entry& e) { return std::holds_alternative<block::Note>(e.payload); });
    };
    ASSERT_TRUE(QTest::qWaitFor([&] { return notes() > 0; }, 20000));
    QTest::qWait(50);
    EXPECT_EQ(notes(), 1);
    EXPECT_EQ(std::get<block::Note>(session_.entries().back().payload).text.find("The gauge sent 60.01 mm, 60.01 mm"),
              0U);
}

// A title with a picture in it was loaded as one: /dev/zero until the memory was full.
TEST_F(WindowStories, MarkupInNamesIsShownAsItStands) {
    const QString title = QStringLiteral("<img src=/dev/zero><b>bold</b>");
    std::string blueprint = test::small_blueprint();
    const auto name = blueprint.find("\"name\": \"") + 9;
    blueprint.insert(name, "<img src=/dev/zero>");
    ASSERT_TRUE(session_.new_job(title, QStringLiteral("<script>x</script>"), {"small.json", blueprint}));
    take_log(test::small_log(200.1).text());
    ASSERT_TRUE(session_.take(block::Note{title.toStdString()}));
    open_window();
    window_->open_job(*session_.job());
    for (const Qt::Key view : {Qt::Key_F2, Qt::Key_F4, Qt::Key_F5, Qt::Key_F6, Qt::Key_F7, Qt::Key_F8}) {
        key(view);
        window_->grab();
    }
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    type(title);
    key(Qt::Key_Return);
    Q_EMIT gauge_.said(title, true);
    EXPECT_TRUE(text_of("echo").contains(title));
    window_->grab();
    int labels = 0;
    for (const QLabel* label : window_->findChildren<QLabel*>()) {
        EXPECT_EQ(label->textFormat(), Qt::PlainText) << qPrintable(label->objectName() + label->text());
        ++labels;
    }
    EXPECT_GT(labels, 30);
}

TEST_F(WindowStories, AKeyHeldDownIsNoNumber) {
    open_small_job();
    open_window();
    window_->open_job(*session_.job());
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    for (const QString& held : {QString(400, QLatin1Char('9')), QString(32000, QLatin1Char(' ')) + QLatin1Char('1')}) {
        reading()->clear();
        reading()->insert(held);
        key(Qt::Key_Return);
        EXPECT_TRUE(readings_of(session_.state()).readings.empty());
        EXPECT_FALSE(text_of("echo").isEmpty());
    }
}

// An exception in a handler ended the program.
TEST_F(WindowStories, AFaultOfTheProgramIsToldOnceAndTheWindowGoesOn) {
    open_small_job();
    open_window();
    int told = 0;
    for (int i = 0; i < 2; ++i) {
        in_dialog(
            [&told](QDialog& d) {
                EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")->toPlainText().contains(QStringLiteral("(no such wheel)")));
                ++told;
                d.reject();
            },
            i == 0);
        bool thrown = false;
        QTimer::singleShot(0, window_.get(), [&thrown] {
            thrown = true;
            throw std::runtime_error("no such wheel");
        });
        ASSERT_TRUE(QTest::qWaitFor([&] { return thrown && told == 1; }, 20000));
        QTest::qWait(20);
    }
    EXPECT_EQ(told, 1);
    key(Qt::Key_F4);
    window_->grab();
}

TEST_F(WindowStories, ADamagedJobIsListedCopiedOutAndSetAside) {
    open_small_job();
    take_log(test::small_log(200.1).text());
    ASSERT_TRUE(session_.take(block::Note{"sound"}));
    ASSERT_TRUE(session_.new_job(QStringLiteral("another"), {}, {"small.json", test::small_blueprint()}));
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("behind"));
        db.setDatabaseName(book_->file());
        ASSERT_TRUE(db.open());
        QSqlQuery query(db);
        ASSERT_TRUE(query.exec(QStringLiteral("DROP TRIGGER entry_stays")));
        ASSERT_TRUE(query.exec(QStringLiteral("UPDATE entry SET person = 'somebody' WHERE job = 1 AND sequence = 3")));
    }
    QSqlDatabase::removeDatabase(QStringLiteral("behind"));
    open_window();
    key(Qt::Key_F2);
    auto* jobs = find<QListView>("jobs");
    ASSERT_EQ(jobs->model()->rowCount(), 2);
    int row = jobs->model()->index(0, 0).data().toString() == QStringLiteral("small") ? 0 : 1;
    const QModelIndex damaged = jobs->model()->index(row, 0);
    EXPECT_TRUE(damaged.data(Qt::AccessibleTextRole)
                    .toString()
                    .contains(QStringLiteral("Entry 3 (note) of “small” is not what was written.")))
        << qPrintable(damaged.data(Qt::AccessibleTextRole).toString());
    jobs->setCurrentIndex(damaged);
    window_->grab();
    in_dialog([](QDialog& d) { d.reject(); });
    window_->open_job(1);
    EXPECT_NE(session_.job(), 1) << "it is not opened";
    EXPECT_TRUE(find<QPushButton>("shop-copy-sound")->isVisible());
    EXPECT_EQ(book_->sound_entries(1)->size(), 2U);
    QTest::mouseClick(find<QPushButton>("shop-set-aside"), Qt::LeftButton);
    EXPECT_EQ(jobs->model()->rowCount(), 1);
    QTest::mouseClick(find<QCheckBox>("shop-all"), Qt::LeftButton, {},
                      QPoint(8, find<QCheckBox>("shop-all")->height() / 2));
    EXPECT_EQ(jobs->model()->rowCount(), 2);
}

// A misread sheet: the mains' window was typed too narrow, and everything was measured.
TEST_F(WindowStories, ABlueprintIsAmendedAndEverythingWorkedOutAnew) {
    std::string misread = test::small_blueprint();
    for (auto at = misread.find("\"nominal\": 60, \"lower\": 0, \"upper\": 0.02"); at != std::string::npos;
         at = misread.find("\"nominal\": 60, \"lower\": 0, \"upper\": 0.02"))
        misread.replace(misread.find("0.02", at), 4, "0.005");
    ASSERT_TRUE(session_.new_job(QStringLiteral("misread"), {}, {"misread.json", misread}));
    ASSERT_TRUE(session_.take_probe_logs({{"log.csv", test::small_log(200.03).text()}}, 0.0005));
    open_window();
    const auto tunnel = [this] {
        return session_.assessment().stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark;
    };
    EXPECT_EQ(tunnel(), planning::StageMark::fails);
    const QString file = folder_.filePath(QStringLiteral("right.pallix-blueprint.json"));
    std::ofstream(file.toStdString()) << test::small_blueprint();
    QString said;
    const auto answer_with = [&](const char* reason) {
        in_dialog([&said, reason](QDialog& d) {
            for (const QLabel* label : d.findChildren<QLabel*>())
                said += label->text();
            auto* field = d.findChild<QLineEdit*>();
            field->setText(QString::fromLatin1(reason));
            QTest::keyClick(field, Qt::Key_Return);
        });
        window_->amend_blueprint(file);
    };
    answer_with("the sheet has 60 +0.02 0");
    EXPECT_TRUE(said.contains(QStringLiteral("Main 1: 60 +0.005 0 becomes 60 +0.02 0 mm."))) << said.toStdString();
    EXPECT_TRUE(said.contains(QStringLiteral("Tunnel: fails becomes meets."))) << said.toStdString();
    EXPECT_EQ(tunnel(), planning::StageMark::meets);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(tunnel(), planning::StageMark::fails) << "struck, it was never there";
    // What is no blueprint, and what changes nothing, is told and not taken.
    const auto before = session_.entries().size();
    for (const std::string& text : {std::string("{"), misread}) {
        std::ofstream(file.toStdString()) << text;
        in_dialog([](QDialog& d) { d.reject(); });
        window_->amend_blueprint(file);
    }
    EXPECT_EQ(session_.entries().size(), before);
}

// Nothing is demanded that the job does not need: every page of a block that is two mains and a deck is shown, by day
// in inches and by night in millimetres, before and after it was probed.
TEST_F(WindowStories, ABareBlockIsShownOnEveryPage) {
    const std::string bare = R"({ "format": "pallix-blueprint", "version": 1, "datum": { "clocking": "decks" },
 "banks": [ { "id": "C", "angle_deg": 0, "deck_height": { "nominal": 200 } } ],
 "mains": [ { "id": "main.1", "x": 20, "diameter": { "nominal": 60 } }, { "id": "main.2", "x": 120, "diameter": { "nominal": 60 } } ] })";
    ASSERT_TRUE(session_.new_job(QStringLiteral("bare"), {}, {"bare.json", bare}));
    open_window();
    const auto walk = [this] {
        for (const Qt::Key place : {Qt::Key_F3, Qt::Key_F4, Qt::Key_F5, Qt::Key_F6, Qt::Key_F7, Qt::Key_F8}) {
            key(place);
            for (int page = 0; page < 6; ++page) {
                key(place == Qt::Key_F4   ? Qt::Key_M
                    : place == Qt::Key_F5 ? Qt::Key_D
                                          : Qt::Key_Y,
                    Qt::ControlModifier | Qt::ShiftModifier);
                key(Qt::Key_T);
                key(Qt::Key_Right);
                window_->grab();
                key(Qt::Key_T);
                window_->grab();
            }
        }
    };
    walk();
    test::LogWriter log;
    log.ring_x("main.1", {20, 0, 0}, 30.005).ring_x("main.2", {120, 0, 0}, 30.005).deck(200.03, 0.02, 0);
    ASSERT_TRUE(session_.take_probe_logs({{"log.csv", log.text()}}, 0.0005));
    EXPECT_TRUE(headline().contains(QStringLiteral("no limits"))) << headline().toStdString();
    preferences_.set_theme(session::Theme::dark);
    preferences_.set_unit(block::Unit::inch);
    walk();
}
