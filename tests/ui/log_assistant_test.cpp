// SPDX-License-Identifier: GPL-3.0-or-later
// Logs as other programs write them, taken in from the window.
#include "bench_fixture.h"

#include "block/digest.h"
#include "block/evaluation_uncertainty.h"
#include "block/log_dialect.h"
#include "block/state/tunnel_state.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <QComboBox>
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
        EXPECT_FALSE(ok->isEnabled()) << "HL1 is no name it knows";
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
        column->setCurrentIndex(column->findText(QStringLiteral("Laengs")));
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
