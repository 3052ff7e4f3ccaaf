// SPDX-License-Identifier: GPL-3.0-or-later
// One brain: for every prefix of every demo ledger the window, the shop list and the command line say the same.
#include "bench_fixture.h"
#include "block/job_file.h"
#include "planning/common/assessment.h"
#include "reference_data.h"
#include "sanitized.h"
#include "session/shop_model.h"
#include "wording/steps/step_words.h"

#include <QProcess>
#include <filesystem>

using namespace pallix;

namespace {

class OneCall : public test::BenchFixture, public testing::WithParamInterface<std::string> {
  protected:
    /// First line of what the command line says of a job in words.
    QString by_command_line(const std::string& job) const {
        const QString file = folder_.filePath(QStringLiteral("prefix.pallix.json"));
        QFile out(file);
        EXPECT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(QByteArray::fromStdString(job));
        out.close();
        QProcess cli;
        cli.start(QStringLiteral(PALLIX_CLI), {QStringLiteral("next"), QStringLiteral("--job"), file,
                                               QStringLiteral("--format"), QStringLiteral("text")});
        EXPECT_TRUE(cli.waitForFinished());
        EXPECT_EQ(cli.exitCode(), 0) << cli.readAllStandardError().toStdString();
        return QString::fromUtf8(cli.readAllStandardOutput())
            .section(QLatin1Char('\n'), 0, 0)
            .section(QStringLiteral("  ["), 0, 0);
    }
};

} // namespace

TEST_P(OneCall, InWindowShopListAndCommandLine) {
    const std::string name = GetParam();
    const auto entries =
        block::read_job(test::read_file(std::string(PALLIX_TEST_DATA) + "/jobs/" + name + ".pallix.json"), name);
    ASSERT_TRUE(entries);
    preferences_.set_unit(block::Unit::mm);
    open_window();
    session::ShopModel shop(*book_, preferences_);
    for (std::size_t n = 1; n <= entries->size(); ++n) {
        if (test::sanitized && n % 20 != 1 && n != entries->size())
            continue; // each starts a command line
        const std::string job = block::write_job({entries->begin(), entries->begin() + static_cast<std::ptrdiff_t>(n)});
        const auto taken = session_.import_job({name, job});
        ASSERT_TRUE(taken) << taken.error().front().text();
        const QString here = text_of("call-headline");
        ASSERT_EQ(here.toStdString(), by_command_line(job).toStdString()) << name << " " << n;
        shop.reload();
        const int row = shop.index_of(*session_.job());
        ASSERT_GE(row, 0);
        ASSERT_EQ(shop.index(row).data(session::ShopModel::waits_role).toString().toStdString(),
                  wording::waits_for(session_.state(), session_.assessment(), context_.lengths()))
            << name << " " << n;
        for (const ui::Place place : {ui::Place::tunnel, ui::Place::decks, ui::Place::cylinders}) {
            if (n != entries->size())
                break;
            window_->go_to(place);
            EXPECT_EQ(text_of("call-headline"), here) << "the same on every page";
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Harbour, OneCall,
                         testing::Values("workboat", "workboat_probed", "tender", "launch", "smack", "ferry", "ketch"),
                         [](const auto& tested) { return tested.param; });
