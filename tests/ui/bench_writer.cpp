// SPDX-License-Identifier: GPL-3.0-or-later
// The real window at work without end: one reading typed, struck and put back by its keys, again and again; says how
// many entries there are once they are shown. Made to be killed.
#include "session/instrument_register.h"
#include "session/practice_work.h"
#include "ui/bench_application.h"
#include "ui/bench_window.h"
#include "ui/theme.h"

#include <QLineEdit>
#include <QTest>
#include <QTimer>
#include <cstdio>

int main(int argc, char** argv) {
    using namespace pallix;
    ui::BenchApplication app(argc, argv);
    if (argc != 3)
        return 2;
    auto book = storage::ShopBook::open(QString::fromLocal8Bit(argv[1]));
    if (!book) {
        std::printf("%s\n", qPrintable(book.error().what));
        return 1;
    }
    ui::load_fonts();
    session::Preferences preferences(QString::fromLocal8Bit(argv[2]));
    session::Session session(**book, [] { return std::string("Marit"); });
    session::InstrumentRegister instruments(**book, preferences);
    session::GaugeLink gauge(session);
    session::PracticeWork practice(session);
    ui::BenchWindow window({session, preferences, instruments, gauge, practice});
    window.show();
    const auto jobs = (*book)->jobs();
    if (!jobs || jobs->empty())
        return 1;
    window.open_job(jobs->front().id);
    window.go_to(ui::Place::tunnel);
    window.read_next();
    QTimer work;
    int turn = 0;
    QObject::connect(&work, &QTimer::timeout, &app, [&] {
        auto* field = window.findChild<QLineEdit*>(QStringLiteral("reading"));
        if (turn == 0) {
            field->setText(QStringLiteral("60.01 mm"));
            QTest::keyClick(field, Qt::Key_Return);
        } else {
            QTest::keyClick(&window, Qt::Key_Z,
                            turn % 2 == 1 ? Qt::ControlModifier : Qt::ControlModifier | Qt::ShiftModifier);
        }
        ++turn;
        std::printf("%zu\n", session.entries().size());
        std::fflush(stdout);
    });
    work.start(0);
    return ui::BenchApplication::exec();
}
