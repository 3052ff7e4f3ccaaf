// SPDX-License-Identifier: GPL-3.0-or-later
// Tests with an application object run without a display and touch no one's own settings.
#ifdef PALLIX_TESTS_THE_WINDOW
#include "ui/bench_application.h"
using Application = pallix::ui::BenchApplication;
#else
#include <QApplication>
using Application = QApplication;
#endif

#include <QTemporaryDir>
#include <gtest/gtest.h>

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    if (testing::GTEST_FLAG(list_tests))
        return RUN_ALL_TESTS();
    const QTemporaryDir home;
    qputenv("XDG_RUNTIME_DIR", home.path().toUtf8());
    qputenv("XDG_CONFIG_HOME", home.path().toUtf8());
    qputenv("XDG_DATA_HOME", home.path().toUtf8());
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    Application app(argc, argv);
    const int done = RUN_ALL_TESTS();
    // What ends in other threads is given back to this one, which has no loop any more.
    QCoreApplication::sendPostedEvents();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return done;
}
