// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/bench_application.h"

#include "ui/dialogs/manual_window.h"
#include "ui/frame/spoken.h"
#include "ui/manual_help.h"

#include <QKeyEvent>
#include <cstdio>

namespace pallix::ui {

BenchApplication::BenchApplication(int& argc, char** argv) : QApplication(argc, argv) {
    install_spoken();
    installEventFilter(this);
}

bool BenchApplication::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress || !activeModalWidget() || !watched->isWidgetType() ||
        qobject_cast<ManualWindow*>(activeModalWidget()))
        return QApplication::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const QString id = explained_by(qobject_cast<QWidget*>(watched));
    if (key->key() != Qt::Key_F1 || key->modifiers() != Qt::NoModifier || id.isEmpty())
        return QApplication::eventFilter(watched, event);
    show_manual(activeModalWidget(), id);
    return true;
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
