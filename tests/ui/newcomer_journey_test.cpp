// SPDX-License-Identifier: GPL-3.0-or-later
// The newcomer's path that the README times: an empty shop book, an engine of one's own, a straightedge, the first
// verdict. Counted are all keys, digits too.
#include "bench_fixture.h"
#include "planning/common/assessment.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"

using namespace pallix;
using test::in;

namespace {

class Newcomer : public test::BenchFixture {
  protected:
    void press(Qt::Key k, Qt::KeyboardModifiers m = Qt::NoModifier) {
        ++keys_;
        key(k, m);
    }
    void type_keys(const QString& text) {
        keys_ += static_cast<int>(text.size());
        type(text);
    }
    [[nodiscard]] std::string at_hand() { return window_->engines().board().drawing().current(); }

    int keys_ = 0;
};

TEST_F(Newcomer, FromAnEmptyBookToTheFirstVerdictOnAnOwnEngine) {
    open_window();
    press(Qt::Key_N, Qt::ControlModifier | Qt::AltModifier); // an empty drawing board
    type_keys(QStringLiteral("harbour four"));
    press(Qt::Key_Return);
    const std::map<std::string, QString> sheet{{"layout", QStringLiteral("inline")},
                                               {"cylinders", QStringLiteral("4")},
                                               {"bore", QStringLiteral("79 H7")},
                                               {"pitch", QStringLiteral("88")},
                                               {"deck_height", QStringLiteral("204.2 ±0.05")},
                                               {"main_size", QStringLiteral("59 H6")},
                                               {"cam", QStringLiteral("118")},
                                               {"cam_size", QStringLiteral("48 H7")}};
    for (int i = 0; i < 20 && !window_->engines().board().board().whole(); ++i) {
        if (!sheet.contains(at_hand()))
            press(Qt::Key_Tab); // to the next that is missing
        const auto figure = sheet.find(at_hand());
        ASSERT_NE(figure, sheet.end()) << "the sheet has no " << at_hand();
        type_keys(figure->second);
        press(Qt::Key_Return);
    }
    ASSERT_TRUE(window_->engines().board().board().whole());
    press(Qt::Key_S, Qt::ControlModifier); // keeps it
    in_dialog([&](QDialog& d) {
        keys_ += 10;
        QTest::keyClicks(in<QLineEdit>(d, "job-title"), QStringLiteral("first one"));
        QTest::keyClick(in<QLineEdit>(d, "job-title"), Qt::Key_Return);
    });
    press(Qt::Key_N, Qt::ControlModifier); // a job of it
    ASSERT_TRUE(session_.has_job());
    press(Qt::Key_F5); // the deck
    press(Qt::Key_R, Qt::ControlModifier);
    press(Qt::Key_M, Qt::ControlModifier); // by straightedge
    const auto judged = [this] {
        const auto& felt = session_.assessment().by_feel;
        return !felt.empty() && felt.front().verdict == metrology::Verdict::meets;
    };
    for (int line = 0; line < 12 && !judged(); ++line) {
        const auto before = session_.entries().size();
        type_keys(QStringLiteral("0 0.01"));
        press(Qt::Key_Return);
        ASSERT_GT(session_.entries().size(), before) << text_of("reading-place").toStdString();
    }
    EXPECT_TRUE(judged()) << headline().toStdString();
    EXPECT_LE(keys_, 150) << "the README says so";
    RecordProperty("keys", keys_);
}

} // namespace
