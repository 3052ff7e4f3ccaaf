// SPDX-License-Identifier: GPL-3.0-or-later
// A gauge and a probe on the line: what they say arrives, and nothing that arrived is lost.
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "session/certainty_work.h"
#include "session/gauge_link.h"

#include "session/instrument_register.h"
#include "session_fixture.h"
#include "terminal.h"
#include "workshop/stand_ins.h"

#include <QFileInfo>
#include <QLocalServer>
#include <QLocalSocket>
#include <QSignalSpy>
#include <QTest>
#include <algorithm>
#include <array>
#include <csignal>
#include <cstring>
#include <sys/socket.h>
#include <sys/un.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace pallix;
using session::GaugeLink;

namespace {

class GaugeLinkTest : public test::SessionFixture {
  protected:
    void SetUp() override {
        open_small_job();
        QObject::connect(&link_, &GaugeLink::reading, &link_,
                         [this](const block::GaugeReading& r) { values_ << QString::fromStdString(r.value + r.unit); });
        QObject::connect(&link_, &GaugeLink::said, &link_,
                         [this](const QString& text, bool fault) { (fault ? faults_ : news_) << text; });
    }
    /// Listens on a socket of this test and hands the other end to it.
    void connect_socket() {
        QLocalServer server;
        const QString name = QStringLiteral("pallix-test-%1").arg(QCoreApplication::applicationPid());
        QLocalServer::removeServer(name);
        ASSERT_TRUE(server.listen(name));
        const auto opened = link_.open(QStringLiteral("local:") + name);
        ASSERT_TRUE(opened) << opened.error().front().text();
        ASSERT_TRUE(server.waitForNewConnection(1000));
        gauge_.reset(server.nextPendingConnection());
        gauge_->setParent(nullptr);
    }
    /// Whether it happens, on a machine that may be busy with other things.
    template <class Happened>
    static bool comes(const Happened& happened) {
        return QTest::qWaitFor(happened, 20000);
    }
    /// Sends and waits until everything has left and nothing more is said of it.
    void settle() {
        gauge_->flush();
        EXPECT_TRUE(comes([this] { return gauge_->bytesToWrite() == 0; }));
        const auto heard = [this] {
            return std::array{static_cast<std::size_t>(values_.size() + faults_.size() + news_.size()),
                              session_.streamed_touches(), session_.entries().size()};
        };
        for (auto before = heard();;) {
            QTest::qWait(60); // longer than lines of a log wait to be written together
            if (const auto now = heard(); now == before)
                break;
            else
                before = now;
        }
    }
    void send(const QByteArray& bytes) {
        gauge_->write(bytes);
        settle();
    }
    void send_all(const std::vector<std::string>& lines, std::size_t count) {
        for (std::size_t i = 0; i < std::min(count, lines.size()); ++i)
            gauge_->write(QByteArray::fromStdString(lines[i]));
        settle();
    }
    void pull_the_plug() {
        gauge_->abort();
        EXPECT_TRUE(comes([this] { return !link_.is_open(); }));
    }

    GaugeLink link_{session_};
    std::unique_ptr<QLocalSocket> gauge_;
    QStringList values_, faults_, news_;
};

} // namespace

TEST_F(GaugeLinkTest, ReadingsArriveInOrderAndOnce) {
    connect_socket();
    send("pallix-gauge 1 ring gauge\nreading 1 0.5 mm\nread");
    send("ing 2 -3 um\nreading 2 -3 um\nreading 3 1 thou\n");
    EXPECT_EQ(values_, (QStringList{QStringLiteral("0.5mm"), QStringLiteral("-3um"), QStringLiteral("1thou")}))
        << "what is sent once more counts once";
    EXPECT_EQ(link_.name(), QStringLiteral("ring gauge"));
    EXPECT_EQ(link_.readings(), 3U);
    EXPECT_TRUE(faults_.isEmpty());
    EXPECT_EQ(news_, QStringList{QStringLiteral("Readings 2 came twice and counts once.")});
    send("bye\n");
    EXPECT_FALSE(link_.is_open());
    EXPECT_EQ(news_.size(), 2);
}

// A gauge that was switched off and on counts from 1: its readings were dropped without a word, and one line numbered
// 2^63 - 1 silenced it for good.
TEST_F(GaugeLinkTest, NothingIsDroppedInSilence) {
    connect_socket();
    send("pallix-gauge 1 g\nreading 1 0.5 mm\nreading 2 0.6 mm\n");
    send("pallix-gauge 1 g\nreading 1 0.5 mm\n");
    EXPECT_EQ(values_.size(), 3) << "a hello begins a new count";
    send("reading 9 0.7 mm\nreading 2 0.8 mm\nreading 3 0.9 mm\n");
    EXPECT_EQ(values_.size(), 6);
    EXPECT_TRUE(news_.back().contains(QStringLiteral("Readings are counted from 2 again")));
    send("reading 9223372036854775807 0.7 mm\nreading 0 0.7 mm\nreading 4 1.0 mm\n");
    EXPECT_EQ(values_.size(), 7);
    EXPECT_EQ(values_.back(), QStringLiteral("1.0mm"));
    EXPECT_TRUE(faults_.back().contains(QStringLiteral("reading 9223372036854775807"))) << qPrintable(faults_.back());
}

// What was measured for one job was taken by the next one that was opened.
TEST_F(GaugeLinkTest, ALogBelongsToTheJobItCameFor) {
    const auto lines = workshop::lines_of_probe("probe", test::small_log(200.03).text());
    connect_socket();
    send_all(lines, 20);
    const storage::JobId first = *session_.job();
    ASSERT_TRUE(session_.new_job(QStringLiteral("second"), {}, {"small.json", test::small_blueprint()}));
    for (std::size_t i = 20; i < lines.size() - 1; ++i) // all but the goodbye
        gauge_->write(QByteArray::fromStdString(lines[i]));
    gauge_->flush();
    EXPECT_TRUE(comes(
        [this] { return !news_.isEmpty() && news_.back().contains(QStringLiteral("waits in the job it came for")); }));
    EXPECT_FALSE(tunnel_of(session_.state()).latest) << "not the second job's";
    EXPECT_EQ(session_.streamed_touches(), 0U);
    ASSERT_TRUE(session_.open_job(first));
    EXPECT_TRUE(news_.back().contains(QStringLiteral("touches wait in this job"))) << qPrintable(news_.back());
    ASSERT_TRUE(link_.take_in_touches());
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 200.03, 1e-8);
}

TEST_F(GaugeLinkTest, AnotherLogIsAskedAbout) {
    connect_socket();
    const auto lines = workshop::lines_of_probe("probe", test::small_log(210).text());
    send_all(lines, lines.size());
    EXPECT_FALSE(tunnel_of(session_.state()).latest);
    EXPECT_TRUE(faults_.back().contains(QStringLiteral("Is it the right log?"))) << qPrintable(faults_.back());
    EXPECT_TRUE(faults_.back().contains(QStringLiteral("deck.C stands at 210.000 mm, expected about 200.000 mm")));
    ASSERT_TRUE(link_.take_in_touches(true)) << "the person was asked";
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 210, 1e-8);
}

TEST_F(GaugeLinkTest, AThousandTouchesASecondAreWrittenTogether) {
    connect_socket();
    QString log = QStringLiteral("pallix-gauge 1 fast\nlog # unit: mm\nlog feature,x,y,z\n");
    for (int i = 1; i <= 3000; ++i)
        log += QStringLiteral("touch %1 deck.C,%2,0,200\n").arg(i).arg(i % 150);
    int changes = 0;
    QObject::connect(&link_, &session::GaugeLink::changed, [&changes] { ++changes; });
    gauge_->write(log.toUtf8());
    gauge_->flush();
    ASSERT_TRUE(QTest::qWaitFor([this] { return session_.streamed_touches() == 3000; }, 20000));
    EXPECT_LT(changes, 100) << "and not three thousand waits for the disk";
}

TEST_F(GaugeLinkTest, PullingThePlugLosesNothingAndSaysSo) {
    connect_socket();
    send("pallix-gauge 1 g\nreading 1 0.5 mm\nreading 2 0.6 mm\nreading 3 0.");
    pull_the_plug();
    EXPECT_EQ(values_.size(), 2);
    EXPECT_FALSE(link_.is_open());
    ASSERT_EQ(faults_.size(), 1) << faults_.join(QLatin1Char('|')).toStdString();
    EXPECT_TRUE(faults_[0].contains(QStringLiteral("Connection to the gauge lost")));
    EXPECT_TRUE(faults_[0].contains(QStringLiteral("2 readings are kept")));
    EXPECT_TRUE(faults_[0].contains(QStringLiteral("cut off")));
    connect_socket(); // and it goes on
    send("reading 3 0.7 mm\n");
    EXPECT_EQ(values_.size(), 3);
}

TEST_F(GaugeLinkTest, GarbageAWrongUnitAndAGapAreOneMessageEach) {
    connect_socket();
    send("pallix-gauge 1 g\n");
    send("\x01\x02\x03 what\n");
    ASSERT_EQ(faults_.size(), 1);
    EXPECT_TRUE(faults_[0].startsWith(QStringLiteral("Not taken: the gauge sent “... what”")));
    send("reading 1 2 ells\n");
    ASSERT_EQ(faults_.size(), 2);
    EXPECT_TRUE(faults_[1].contains(QStringLiteral("a unit of mm")));
    send("reading 1 2 mm\nreading 4 2 mm\n");
    ASSERT_EQ(faults_.size(), 3);
    EXPECT_TRUE(faults_[2].contains(QStringLiteral("Readings 2 to 3 never arrived")));
    send("a\nb\nc\n");
    ASSERT_EQ(faults_.size(), 4) << "much garbage at once is one message";
    EXPECT_TRUE(faults_[3].contains(QStringLiteral("2 lines more")));
    EXPECT_EQ(values_.size(), 2);
}

// Anybody may make a socket of that name: readings of a stranger are not taken.
TEST_F(GaugeLinkTest, ASocketOfAnotherUserIsRefused) {
    if (::getuid() != 0)
        GTEST_SKIP() << "only root can be somebody else";
    const QTemporaryDir folder;
    QFile::setPermissions(folder.path(), QFile::Permissions(0x7777));
    const QByteArray path = folder.filePath(QStringLiteral("gauge")).toUtf8();
    const pid_t stranger = ::fork();
    if (stranger == 0) {
        sockaddr_un address{};
        address.sun_family = AF_UNIX;
        std::strncpy(address.sun_path, path.constData(), sizeof address.sun_path - 1);
        const int socket = ::socket(AF_UNIX, SOCK_STREAM, 0);
        if (::setuid(65534) == 0 && ::bind(socket, reinterpret_cast<sockaddr*>(&address), sizeof address) == 0 &&
            ::listen(socket, 1) == 0)
            ::accept(socket, nullptr, nullptr);
        ::_exit(0);
    }
    ASSERT_TRUE(QTest::qWaitFor([&] { return QFileInfo::exists(QString::fromUtf8(path)); }, 20000));
    QTest::qWait(50);
    const auto opened = link_.open(QStringLiteral("local:") + QString::fromUtf8(path));
    EXPECT_FALSE(opened);
    EXPECT_NE(opened.error().front().text().find("a program of another user answers there (user 65534)"),
              std::string::npos)
        << opened.error().front().text();
    ::kill(stranger, SIGKILL);
    ::waitpid(stranger, nullptr, 0);
}

TEST_F(GaugeLinkTest, AddressesThatLeadNowhereAreRefused) {
    EXPECT_FALSE(link_.open(QStringLiteral("local:nobody-is-here-at-all")));
    EXPECT_FALSE(link_.open(QStringLiteral("serial:no-such-port")));
    const auto odd = link_.open(QStringLiteral("carrier pigeon"));
    ASSERT_FALSE(odd);
    EXPECT_EQ(odd.error().front().expected, "local:NAME, serial:PATH or keys:PATH");
    EXPECT_FALSE(link_.is_open());
}

TEST_F(GaugeLinkTest, APseudoTerminalIsASerialPort) {
    test::Terminal terminal;
    const auto opened = link_.open(terminal.address());
    ASSERT_TRUE(opened) << opened.error().front().text();
    terminal.send("pallix-gauge 1 serial gauge\nreading 1 +0.0123 mm\n");
    EXPECT_TRUE(comes([this] { return !values_.isEmpty(); }));
    EXPECT_EQ(values_, QStringList{QStringLiteral("+0.0123mm")});
    terminal.pull();
    EXPECT_TRUE(comes([this] { return !link_.is_open(); }));
    QTest::qWait(20);
    EXPECT_EQ(faults_.size(), 1) << "a dead port is told once, not thirty thousand times";
}

TEST_F(GaugeLinkTest, AProbePlaysItsLogIntoTheJob) {
    connect_socket();
    const auto lines =
        workshop::lines_of_probe("probe", "# touch_uncertainty: 0.0015\n" + test::small_log(200.03).text());
    send_all(lines, lines.size());
    ASSERT_TRUE(tunnel_of(session_.state()).latest) << faults_.join(QLatin1Char('|')).toStdString();
    EXPECT_EQ(tunnel_of(session_.state()).latest->standard_uncertainty, 0.0015);
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 200.03, 1e-8);
    EXPECT_EQ(session_.streamed_touches(), 0U);
}

TEST_F(GaugeLinkTest, TouchesOfABrokenLineAreKeptAndGoOn) {
    const auto lines = workshop::lines_of_probe("probe", test::small_log(200.03).text());
    connect_socket();
    send_all(lines, 20); // hello, three lines of head, sixteen touches
    pull_the_plug();
    EXPECT_EQ(session_.streamed_touches(), 16U);
    ASSERT_EQ(faults_.size(), 1);
    EXPECT_TRUE(faults_[0].contains(QStringLiteral("16 touches are kept")));
    EXPECT_FALSE(tunnel_of(session_.state()).latest);
    connect_socket();
    for (std::size_t i = 20; i < lines.size(); ++i)
        gauge_->write(QByteArray::fromStdString(lines[i]));
    gauge_->flush();
    ASSERT_TRUE(comes([this] { return tunnel_of(session_.state()).latest.has_value(); }));
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_mean, 200.03, 1e-8);
}

TEST_F(GaugeLinkTest, ANewLogPutsACutOffOneIntoTheLedger) {
    const auto lines = workshop::lines_of_probe("probe", test::small_log(200.03).text());
    connect_socket();
    send_all(lines, 20);
    pull_the_plug();
    connect_socket();
    send_all(lines, lines.size());
    EXPECT_TRUE(tunnel_of(session_.state()).latest);
    const auto note = std::ranges::find_if(
        session_.entries(), [](const block::Entry& e) { return std::holds_alternative<block::Note>(e.payload); });
    ASSERT_NE(note, session_.entries().end());
    EXPECT_NE(std::get<block::Note>(note->payload).text.find("main.1,front,"), 0U);
    EXPECT_NE(std::get<block::Note>(note->payload).text.find("16 touches"), std::string::npos);
}

TEST_F(GaugeLinkTest, ALogThatCannotBeReadStaysWhereItIs) {
    connect_socket();
    const auto lines = workshop::lines_of_probe("probe", "feature,x,y,z\nwheel.1,1,2,3\n");
    send_all(lines, lines.size());
    EXPECT_FALSE(tunnel_of(session_.state()).latest);
    EXPECT_EQ(session_.streamed_touches(), 1U);
    ASSERT_EQ(faults_.size(), 1);
    EXPECT_TRUE(faults_[0].contains(QStringLiteral("wheel.1")));
}

TEST_F(GaugeLinkTest, InstrumentsAreKeptAndChosen) {
    session::InstrumentRegister shop(*book_, preferences_);
    EXPECT_EQ(shop.instruments().size(), block::instrument_kinds) << "one of each to start from";
    EXPECT_EQ(shop.in_hand(planning::Measuring::main_sizes).kind, block::InstrumentKind::bore_gauge);
    block::Instrument mike;
    mike.name = "stick micrometer";
    mike.kind = block::InstrumentKind::inside_micrometer;
    ASSERT_TRUE(shop.save(mike));
    EXPECT_EQ(shop.instruments().size(), block::instrument_kinds + 1) << "the others are still there";
    shop.take_in_hand(planning::Measuring::main_sizes, mike.name);
    EXPECT_EQ(session::InstrumentRegister(*book_, preferences_).in_hand(planning::Measuring::main_sizes).name,
              mike.name);
    mike.standard_uncertainty = -1;
    EXPECT_FALSE(shop.save(mike));
    ASSERT_TRUE(shop.remove(mike.name));
    EXPECT_EQ(shop.in_hand(planning::Measuring::main_sizes).kind, block::InstrumentKind::bore_gauge);
}

TEST_F(GaugeLinkTest, CertaintyIsDrawnBesideTheWindowAndUsed) {
    constexpr auto flatness = planning::CheckKind::flatness;
    session_.draw_certainty();
    QSignalSpy known(&session_, &session::Session::certainty_known);
    take_log(test::small_log(200.03).text(), 0.001);
    const auto by_rule = session_.assessment().banks[0].verdict->check(flatness)->uncertainty;
    EXPECT_TRUE(session_.certainty().running());
    ASSERT_TRUE(known.wait(20000));
    EXPECT_FALSE(session_.certainty().running());
    const auto drawn = session_.certainty_of_latest()->values.of("decks[0].flatness_mz");
    ASSERT_TRUE(drawn);
    EXPECT_EQ(session_.assessment().banks[0].verdict->check(flatness)->uncertainty, drawn);
    EXPECT_NE(by_rule, drawn);
    // Another log: what was drawn for the first says nothing of it.
    take_log(test::small_log(200.02).text(), 0.001);
    EXPECT_EQ(session_.certainty_of_latest(), nullptr);
    session_.certainty().cancel();
    EXPECT_FALSE(session_.certainty().running());
}

// Cut as measured until more is known of the deck; then as surely as was chosen, and that until heights are new.
TEST_F(GaugeLinkTest, ADeckIsPlannedByWhatIsBelievedOfItOnceThatIsKnown) {
    session_.draw_certainty();
    QSignalSpy known(&session_, &session::Session::depths_known);
    take_log(test::small_log(200.3, 0.1).text(), 0.002);
    const double measured = session_.assessment().bank("C")->plan.target;
    ASSERT_TRUE(known.wait(20000));
    const auto belief = session_.belief("C");
    ASSERT_TRUE(belief);
    const planning::BankPlan& plan = session_.assessment().bank("C")->plan;
    EXPECT_NEAR(plan.high - plan.target - *plan.finish, belief->surface.removal.high, 1e-9);
    EXPECT_LT(plan.target, measured);
    const double sure = plan.target;
    ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::witness, 0.02, false, {{20, 20}}}));
    EXPECT_EQ(session_.assessment().bank("C")->plan.target, sure) << "the pass is still being thought about";
    ASSERT_TRUE(session_.take(
        block::DeckTargetChosen{block::TargetSchool::least_cut, true, {}, {}, {}, block::Sureness::as_measured}));
    EXPECT_NEAR(session_.assessment().bank("C")->plan.target, measured, 1e-9);
}
