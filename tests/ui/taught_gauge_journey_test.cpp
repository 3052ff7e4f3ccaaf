// SPDX-License-Identifier: GPL-3.0-or-later
// A gauge that nobody knows is taught in the window, and its readings arrive in the reading line.
#include "bench_fixture.h"
#include "session/terminal.h"
#include "ui/frame/reading_line.h"
#include "workshop/stand_ins.h"

#include <QComboBox>
#include <QPlainTextEdit>

using namespace pallix;
using test::in;

namespace {

class TaughtGaugeJourney : public test::BenchFixture {
  protected:
    test::Terminal terminal_;
};

// Nothing is written by hand but its name: the pattern is found from three things sent, and the next one is a reading.
TEST_F(TaughtGaugeJourney, IsTaughtAndRead) {
    open_small_job();
    open_window();
    QString tried, shown;
    in_dialog([&](QDialog& gauge) {
        in_dialog_over(gauge, [&](QDialog& teach) {
            in<QLineEdit>(teach, "learn-name")->setText(QStringLiteral("bore gauge"));
            in<QLineEdit>(teach, "learn-address")->setText(terminal_.address());
            in<QPushButton>(teach, "learn-listen")->click();
            for (const char* sent : {"A7: +0.0100 mm\r", "A7: -0.0200 mm\r", "A7: +0.0310 mm\r"}) {
                terminal_.send(sent);
                QTest::qWait(300);
            }
            tried = in<QLabel>(teach, "learn-tried")->text();
            shown = in<QPlainTextEdit>(teach, "learn-heard")->toPlainText();
            in<QPushButton>(teach, "learn-keep")->click();
        });
        in<QPushButton>(gauge, "gauge-learn")->click();
        EXPECT_EQ(in<QComboBox>(gauge, "gauge-profile")->currentText(), QStringLiteral("bore gauge"));
        EXPECT_EQ(in<QLineEdit>(gauge, "gauge-address")->text(), terminal_.address());
        in<QPushButton>(gauge, "gauge-connect")->click();
        gauge.accept();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(tried, QStringLiteral("Reads: 0.0100 mm  ·  -0.0200 mm  ·  0.0310 mm"));
    EXPECT_TRUE(shown.startsWith(QStringLiteral("A7: +0.0100 mm\\r"))) << shown.toStdString();
    ASSERT_TRUE(gauge_.is_open());
    EXPECT_EQ(gauge_.name(), QStringLiteral("bore gauge"));
    EXPECT_EQ(preferences_.last_gauge(), QStringLiteral("bore gauge"));
    QString came;
    QObject::connect(&gauge_, &session::GaugeLink::reading, window_.get(),
                     [&](const block::GaugeReading& r) { came = QString::fromStdString(r.value + " " + r.unit); });
    terminal_.send("A7: -0.0150 mm\r");
    EXPECT_TRUE(QTest::qWaitFor([&] { return !came.isEmpty(); }, 20000));
    EXPECT_EQ(came, QStringLiteral("-0.0150 mm"));
}

// Another cable, another end of its lines: what was taught gives way to what is heard.
TEST_F(TaughtGaugeJourney, IsTaughtAnew) {
    open_small_job();
    open_window();
    preferences_.keep_gauge_profile(workshop::taught_stand_ins().front().profile);
    preferences_.set_last_gauge(QStringLiteral("plain"));
    in_dialog([&](QDialog& gauge) {
        in_dialog_over(gauge, [&](QDialog& teach) {
            in<QLineEdit>(teach, "learn-address")->setText(terminal_.address());
            in<QPushButton>(teach, "learn-listen")->click();
            for (const char* sent : {"B +0.0100 in\r", "B -0.0200 in\r", "B +0.0310 in\r"}) {
                terminal_.send(sent);
                QTest::qWait(300);
            }
            in<QPushButton>(teach, "learn-keep")->click();
        });
        in<QPushButton>(gauge, "gauge-anew")->click();
        gauge.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    const auto profiles = preferences_.gauge_profiles();
    ASSERT_EQ(profiles.size(), 1U);
    EXPECT_EQ(profiles.front().end, block::LineEnd::carriage_return);
    const auto pattern = block::GaugePattern::of(profiles.front());
    ASSERT_TRUE(pattern);
    EXPECT_TRUE(pattern->read("B +0.0100 in"));
}

TEST_F(TaughtGaugeJourney, WhatCannotBeKeptIsSaid) {
    open_small_job();
    open_window();
    QString no_name, no_port, no_pattern;
    in_dialog([&](QDialog& gauge) {
        in_dialog_over(gauge, [&](QDialog& teach) {
            auto* echo = in<QLabel>(teach, "learn-echo");
            in<QLineEdit>(teach, "learn-address")->setText(QStringLiteral("serial:/dev/no-such-port"));
            in<QPushButton>(teach, "learn-listen")->click();
            no_port = echo->text();
            in<QPushButton>(teach, "learn-keep")->click();
            no_name = echo->text();
            in<QLineEdit>(teach, "learn-name")->setText(QStringLiteral("gauge"));
            QTest::keyClicks(in<QLineEdit>(teach, "learn-pattern"), QStringLiteral("(x"));
            no_pattern = in<QLabel>(teach, "learn-tried")->text();
            teach.reject();
        });
        in<QPushButton>(gauge, "gauge-learn")->click();
        gauge.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(no_port.contains(QStringLiteral("the port cannot be opened"))) << no_port.toStdString();
    EXPECT_EQ(no_name, QStringLiteral("Not kept: name is empty, expected what the gauge is called."));
    EXPECT_TRUE(no_pattern.startsWith(QStringLiteral("The pattern cannot be read"))) << no_pattern.toStdString();
    EXPECT_TRUE(preferences_.gauge_profiles().empty());
}

// One that is asked: Ctrl+Space sends its request.
TEST_F(TaughtGaugeJourney, IsAskedByAKey) {
    open_small_job();
    open_window();
    const auto& gauges = workshop::taught_stand_ins();
    const auto asked = std::ranges::find_if(gauges, [](const auto& g) { return !g.profile.request.empty(); });
    ASSERT_TRUE(gauge_.open(terminal_.address(), asked->profile));
    key(Qt::Key_Space, Qt::ControlModifier);
    std::string request;
    EXPECT_TRUE(QTest::qWaitFor([&] { return (request += terminal_.heard()).size() >= 2; }, 20000));
    EXPECT_EQ(request, "?\r");
    preferences_.keep_gauge_profile(asked->profile);
    preferences_.set_last_gauge(QStringLiteral("asked"));
    in_dialog([](QDialog& gauge) {
        in<QPushButton>(gauge, "gauge-forget")->click();
        EXPECT_EQ(in<QComboBox>(gauge, "gauge-profile")->count(), 1);
        gauge.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(preferences_.gauge_profiles().empty());
}

} // namespace
