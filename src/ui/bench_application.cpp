// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/bench_application.h"

#include "ui/frame/spoken.h"

#include <cstdio>

namespace pallix::ui {

BenchApplication::BenchApplication(int& argc, char** argv) : QApplication(argc, argv) {
    install_spoken();
}

bool BenchApplication::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& error) {
        std::fprintf(stderr, "pallix: %s\n", error.what());
        Q_EMIT failed(QString::fromUtf8(error.what()));
        return true;
    }
}

} // namespace pallix::ui
