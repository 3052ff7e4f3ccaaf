// SPDX-License-Identifier: GPL-3.0-or-later
// Gauges that were taught, played on a pseudo-terminal: each is read, each can be learned by listening.
#include "session/gauge_ear.h"
#include "session/gauge_link.h"
#include "session/key_device.h"
#include "session_fixture.h"
#include "terminal.h"
#include "workshop/stand_ins.h"

#include <QTest>
#include <cmath>

using namespace pallix;
using session::GaugeLink;

namespace {

class TaughtGauge : public test::SessionFixture {
  protected:
    void SetUp() override {
        open_small_job();
        QObject::connect(&link_, &GaugeLink::reading, &link_,
                         [this](const block::GaugeReading& r) { read_.push_back(r); });
        QObject::connect(&link_, &GaugeLink::said, &link_,
                         [this](const QString& text, bool fault) { (fault ? faults_ : news_) << text; });
    }
    template <class Happened>
    static bool comes(const Happened& happened) {
        return QTest::qWaitFor(happened, 20000);
    }
    static double mm(const block::GaugeReading& r) {
        const double value = QString::fromStdString(r.value).toDouble();
        return r.unit == "in" ? value * 25.4 : r.unit == "um" ? value / 1000 : value;
    }

    test::Terminal terminal_;
    GaugeLink link_{session_};
    std::vector<block::GaugeReading> read_;
    QStringList faults_, news_;
};

TEST_F(TaughtGauge, EachOfTheFiveIsRead) {
    for (const workshop::TaughtStandIn& gauge : workshop::taught_stand_ins()) {
        read_.clear();
        const test::Terminal terminal;
        const auto opened = link_.open(terminal.address(), gauge.profile);
        ASSERT_TRUE(opened) << gauge.key << ": " << opened.error().front().text();
        const double unit = gauge.profile.unit == "um" ? 1000 : 1;
        int number = 0;
        for (const double value : {0.125, -0.25, 0.0}) {
            if (link_.answers_when_asked()) {
                link_.ask();
                std::string request;
                EXPECT_TRUE(comes([&] { return (request += terminal.heard()).size() >= 2; })) << gauge.key;
                EXPECT_EQ(request, "?\r");
            }
            const auto before = read_.size();
            terminal.send(gauge.sends(value * unit, ++number));
            ASSERT_TRUE(comes([&] { return read_.size() == before + 1; }))
                << gauge.key << faults_.join(u'|').toStdString();
            EXPECT_NEAR(mm(read_.back()), value * (gauge.profile.unit == "in" ? 25.4 : 1), 1e-9) << gauge.key;
        }
        EXPECT_TRUE(faults_.isEmpty()) << gauge.key << faults_.join(u'|').toStdString();
        link_.close();
    }
}

TEST_F(TaughtGauge, EachOfTheFiveIsLearnedByListening) {
    for (const workshop::TaughtStandIn& gauge : workshop::taught_stand_ins()) {
        const test::Terminal terminal;
        session::GaugeEar ear;
        ASSERT_TRUE(ear.listen(terminal.address(), gauge.profile));
        const std::array values{12.0, -7.5, 30.25};
        for (std::size_t i = 0; i < values.size(); ++i) {
            terminal.send(gauge.sends(values[i], static_cast<int>(i) + 1));
            ASSERT_TRUE(comes([&] { return ear.sent().size() == i + 1; })) << gauge.key;
        }
        const auto learnt = block::learn_gauge(ear.sent());
        ASSERT_TRUE(learnt) << gauge.key << ": " << learnt.error();
        EXPECT_EQ(learnt->end, gauge.profile.end) << gauge.key;
        block::GaugeProfile profile = gauge.profile;
        profile.pattern = learnt->pattern;
        const auto pattern = block::GaugePattern::of(profile);
        ASSERT_TRUE(pattern) << gauge.key << ": " << pattern.error();
        for (std::size_t i = 0; i < values.size(); ++i) {
            std::string line = gauge.sends(values[i], static_cast<int>(i) + 1);
            while (line.ends_with('\r') || line.ends_with('\n'))
                line.pop_back();
            const auto reading = pattern->read(line);
            ASSERT_TRUE(reading) << gauge.key << ": " << learnt->pattern << ": " << reading.error();
            const double expected =
                gauge.profile.unit == "um" ? std::round(std::abs(values[i])) * (values[i] < 0 ? -1 : 1) : values[i];
            EXPECT_DOUBLE_EQ(QString::fromStdString(reading->value).toDouble(), expected)
                << gauge.key << ": " << learnt->pattern;
            EXPECT_EQ(reading->unit, gauge.profile.unit) << gauge.key;
        }
    }
}

// Unplugged in the middle of a line: what came before it counts, it is told once.
TEST_F(TaughtGauge, UnpluggedInTheMiddleOfALine) {
    const auto& plain = workshop::taught_stand_ins().front();
    ASSERT_TRUE(link_.open(terminal_.address(), plain.profile));
    terminal_.send(plain.sends(1.5, 1) + "+2.");
    ASSERT_TRUE(comes([this] { return read_.size() == 1; }));
    terminal_.pull();
    ASSERT_TRUE(comes([this] { return !link_.is_open(); }));
    QTest::qWait(20);
    ASSERT_EQ(faults_.size(), 1) << faults_.join(u'|').toStdString();
    EXPECT_TRUE(faults_.front().contains(QStringLiteral("1 reading is kept; the one being sent was cut off")))
        << faults_.front().toStdString();
}

// Garbage between readings: it is told, one message however much of it came, and no reading is lost.
TEST_F(TaughtGauge, GarbageIsToldAndLosesNothing) {
    const auto& plain = workshop::taught_stand_ins().front();
    ASSERT_TRUE(link_.open(terminal_.address(), plain.profile));
    std::string bytes;
    for (int i = 0; i < 20; ++i)
        bytes += "\x81\x02\xFF;;\n";
    terminal_.send(plain.sends(1.5, 1) + bytes + plain.sends(2.5, 2));
    ASSERT_TRUE(comes([this] { return read_.size() == 2; }));
    EXPECT_EQ(read_[1].value, "2.5000");
    EXPECT_LE(faults_.size(), 20 / 2) << "not one message a line";
    EXPECT_GE(faults_.size(), 1);
}

// Ten thousand lines, as fast as they can be sent: each of them is there, once and in order.
TEST_F(TaughtGauge, TenThousandLinesLoseNothing) {
    const auto& plain = workshop::taught_stand_ins().front();
    ASSERT_TRUE(link_.open(terminal_.address(), plain.profile));
    constexpr int lines = 10000;
    std::string waiting;
    for (int i = 0; i < lines; ++i)
        waiting += plain.sends(i / 1000.0, i);
    std::size_t at = 0;
    while (at < waiting.size()) {
        const std::size_t size = std::min<std::size_t>(2000, waiting.size() - at);
        terminal_.send(waiting.substr(at, size));
        at += size;
        ASSERT_TRUE(comes([&] { return read_.size() + 300 >= at * lines / waiting.size(); }));
    }
    ASSERT_TRUE(comes([this] { return read_.size() == lines; }));
    for (int i = 0; i < lines; i += 97)
        EXPECT_NEAR(mm(read_[static_cast<std::size_t>(i)]), i / 1000.0, 5e-5);
    EXPECT_TRUE(faults_.isEmpty()) << faults_.join(u'|').toStdString();
}

TEST_F(TaughtGauge, WhatCannotBeIsRefused) {
    block::GaugeProfile profile = workshop::taught_stand_ins().front().profile;
    profile.pattern = "(";
    const auto no_pattern = link_.open(terminal_.address(), profile);
    ASSERT_FALSE(no_pattern);
    EXPECT_NE(no_pattern.error().front().text().find("its pattern cannot be read"), std::string::npos);
    profile = workshop::taught_stand_ins().front().profile;
    profile.pedal = "cts";
    const auto no_lines = link_.open(terminal_.address(), profile);
    ASSERT_FALSE(no_lines) << "a pseudo-terminal has no such line";
    EXPECT_NE(no_lines.error().front().text().find("does not tell of its lines"), std::string::npos);
    const auto no_keys = link_.open(QStringLiteral("keys:/dev/null"));
    ASSERT_FALSE(no_keys);
    EXPECT_NE(no_keys.error().front().text().find("a gauge that is a keyboard"), std::string::npos);
    EXPECT_FALSE(link_.is_open());
}

} // namespace
