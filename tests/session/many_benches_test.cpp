// SPDX-License-Identifier: GPL-3.0-or-later
// A shop of many benches at one server, while everything breaks that can. PALLIX_BENCHES says how many, for how many
// seconds: "20 120" (scripts/benches). What it measured is printed.
#include "block/ledger.h"
#include "sanitized.h"
#include "session/demo_shop.h"
#include "storage/cut_line.h"
#include "storage/shop_book.h"
#include "storage/test_server.h"

#include <QElapsedTimer>
#include <QProcess>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <map>
#include <memory>

using namespace pallix;

namespace {

/// What the benches were told, by what it was.
struct Told {
    std::map<std::string, std::vector<double>> ms;
    std::vector<std::string> acknowledged;
    std::vector<std::string> refused;
};

Told read_logs(const QString& folder) {
    Told told;
    for (const QString& name : QDir(folder).entryList({QStringLiteral("*.log")})) {
        QFile log(QDir(folder).filePath(name));
        EXPECT_TRUE(log.open(QIODevice::ReadOnly));
        for (const QByteArray& line : log.readAll().split('\n')) {
            const QByteArrayList words = line.split('\t');
            if (words.size() != 3)
                continue; // cut short by a kill: nobody was told
            const std::string what = words[0].toStdString(), text = words[1].toStdString();
            told.ms[what].push_back(words[2].toDouble());
            if (what == "written" || what == "kept")
                told.acknowledged.push_back(text);
            if (what == "refused")
                told.refused.push_back(text);
        }
    }
    return told;
}

/// The value that so many in a hundred stay below; 0 of none.
double percentile(std::vector<double> all, double percent) {
    std::ranges::sort(all);
    const auto place = static_cast<std::size_t>(percent / 100 * static_cast<double>(all.size()));
    return all.empty() ? 0 : all[std::min(place, all.size() - 1)];
}

class ManyBenches : public testing::Test {
  protected:
    void SetUp() override {
        if (!test::TestServer::shared())
            GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
        const QStringList wish =
            qEnvironmentVariable("PALLIX_BENCHES", test::sanitized ? QStringLiteral("4 12") : QStringLiteral("8 24"))
                .split(QLatin1Char(' '));
        benches_ = wish.value(0).toInt();
        seconds_ = wish.value(1).toInt();
        ASSERT_TRUE(benches_ > 1 && seconds_ > 9) << "PALLIX_BENCHES";
        ASSERT_TRUE(server_.ask("start"));
        server_.become_known();
        address_ = server_.address(server_.new_database());
        line_.emplace(address_);
        auto book = storage::ShopBook::open(address_);
        ASSERT_TRUE(book) << qPrintable(book.error().what);
        ASSERT_TRUE(session::fill_with_demo(**book));
        before_ = entries_of(**book);
    }
    void TearDown() override {
        workers_.clear();
        line_.reset();
        server_.ask("stop");
        test::TestServer::shared();
    }
    static std::map<qint64, qint64> entries_of(const storage::ShopBook& book) {
        std::map<qint64, qint64> all;
        if (const auto jobs = book.jobs())
            for (const storage::JobRow& job : *jobs)
                all[job.id] = job.entries;
        return all;
    }
    /// Every other bench is at the line that is cut.
    void start(int bench, int seconds) {
        const QString name = QStringLiteral("bench %1").arg(bench);
        auto worker = std::make_unique<QProcess>();
        worker->setProcessChannelMode(QProcess::ForwardedErrorChannel);
        worker->start(QStringLiteral(PALLIX_BENCH_WORKER),
                      {bench % 2 ? line_->address() : address_, folder_.filePath(name), name, QString::number(seconds),
                       folder_.filePath(name + QStringLiteral(".log"))});
        ASSERT_TRUE(worker->waitForStarted());
        workers_[bench] = std::move(worker);
    }
    /// Work goes on until then.
    void wait_until(double share) const {
        const auto left = static_cast<qint64>(share * 1000 * seconds_) - clock_.elapsed();
        if (left > 0)
            QTest::qWait(static_cast<int>(left));
    }

    test::ServerFolder folder_;
    const test::TestServer server_{folder_.path()};
    QString address_;
    std::optional<test::CutLine> line_;
    int benches_ = 0, seconds_ = 0;
    std::map<qint64, qint64> before_;
    std::map<int, std::unique_ptr<QProcess>> workers_;
    QElapsedTimer clock_;
};

} // namespace

TEST_F(ManyBenches, LoseNothingAndDoubleNothingWhateverBreaks) {
    clock_.start();
    for (int bench = 0; bench < benches_; ++bench)
        start(bench, seconds_);
    wait_until(0.3);
    ASSERT_TRUE(server_.ask("kill"));
    wait_until(0.4);
    ASSERT_TRUE(server_.ask("start"));
    wait_until(0.6);
    line_->cut();
    wait_until(0.65);
    workers_.at(1)->kill(); // alone, with what waits there
    workers_.at(0)->kill();
    wait_until(0.7);
    line_->mend();
    for (const int killed : {0, 1})
        start(killed, static_cast<int>(0.3 * seconds_));
    wait_until(1);
    for (const auto& [bench, worker] : workers_)
        ASSERT_TRUE(worker->state() == QProcess::NotRunning ||
                    worker->waitForFinished(test::sanitized ? 120000 : 60000))
            << "bench " << bench << " still waits";

    const Told told = read_logs(folder_.path());
    auto book = storage::ShopBook::open(address_);
    ASSERT_TRUE(book);
    EXPECT_TRUE((*book)->damage().empty());
    std::map<std::string, int> there;
    qint64 fresh = 0;
    for (const auto& [job, count] : entries_of(**book)) {
        const auto entries = (*book)->entries(job); // each is held against the chain, and the numbers have no gap
        ASSERT_TRUE(entries) << qPrintable(entries.error().what);
        ASSERT_EQ(static_cast<qint64>(entries->size()), count);
        fresh += count - before_.at(job);
        for (const block::Entry& entry : *entries)
            if (const auto* note = std::get_if<block::Note>(&entry.payload))
                ++there[note->text];
    }
    for (const std::string& text : told.acknowledged)
        EXPECT_EQ(there[text], 1) << text;
    EXPECT_GT(told.acknowledged.size(), static_cast<std::size_t>(benches_ * seconds_ / 8));
    EXPECT_GT(told.ms.at("kept").size(), 0U) << "somebody worked alone";
    const auto of = [&told](const char* what) {
        const auto found = told.ms.find(what);
        return found == told.ms.end() ? std::vector<double>() : found->second;
    };
    std::printf("%d benches, %d s: %zu entries acknowledged (%zu of them alone), %zu refused, %lld new in the book\n",
                benches_, seconds_, told.acknowledged.size(), of("kept").size(), told.refused.size(),
                static_cast<long long>(fresh));
    for (const char* what : {"written", "kept", "heard", "opened"})
        std::printf("%-8s ms: 50 %% %.1f, 95 %% %.1f, 99 %% %.1f, most %.1f, of %zu\n", what, percentile(of(what), 50),
                    percentile(of(what), 95), percentile(of(what), 99), percentile(of(what), 100), of(what).size());
}
