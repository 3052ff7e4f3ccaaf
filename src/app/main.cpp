// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/certainty_work.h"
#include "session/demo_shop.h"
#include "session/preferences.h"
#include "session/session.h"
#include "storage/shop_book.h"
#include "ui/bench_window.h"
#include "ui/screenshots.h"
#include "ui/theme.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QFileInfo>
#include <QMessageBox>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <memory>

namespace {

using namespace pallix;

constexpr int input_is_wrong = 1;

struct Wishes {
    QString book;
    bool demo = false;
    QString screenshots;
    int quit_after = 0; ///< s; 0 stays open
    QStringList files;
};

Wishes read_wishes(const QApplication& app) {
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("The bench companion for machining engine blocks."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption book(QStringLiteral("book"), QStringLiteral("Open this shop book instead of your own."),
                                  QStringLiteral("file"));
    const QCommandLineOption demo(QStringLiteral("demo"),
                                  QStringLiteral("Open the harbour workshop, a shop to try things in."));
    const QCommandLineOption shots(QStringLiteral("screenshots"),
                                   QStringLiteral("Write a picture of every main view and quit."),
                                   QStringLiteral("folder"));
    const QCommandLineOption quit(QStringLiteral("quit-after"), QStringLiteral("Quit after so many seconds."),
                                  QStringLiteral("seconds"), QStringLiteral("0"));
    parser.addOptions({book, demo, shots, quit});
    parser.addPositionalArgument(QStringLiteral("files"), QStringLiteral("Blueprints, probe logs or jobs to take in."),
                                 QStringLiteral("[files…]"));
    parser.process(app);
    return {parser.value(book), parser.isSet(demo), parser.value(shots), parser.value(quit).toInt(),
            parser.positionalArguments()};
}

QString data_file(const QString& name) {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    return QDir(folder).filePath(name);
}

QString book_file(const Wishes& wishes, const QTemporaryDir& scratch) {
    if (!wishes.book.isEmpty())
        return wishes.book;
    if (!wishes.screenshots.isEmpty())
        return scratch.filePath(QStringLiteral("harbour.shopbook"));
    return data_file(wishes.demo ? QStringLiteral("harbour.shopbook") : QStringLiteral("shop.shopbook"));
}

int refuse(const storage::BookFault& fault, bool in_window) {
    std::fprintf(stderr, "%s %s\n", qPrintable(fault.what), qPrintable(fault.way_out));
    if (in_window)
        QMessageBox::critical(nullptr, QStringLiteral("Pallix"), fault.what + QStringLiteral("\n\n") + fault.way_out);
    return input_is_wrong;
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("pallix"));
    QApplication::setApplicationVersion(QStringLiteral(PALLIX_VERSION));
    const Wishes wishes = read_wishes(app);
    const bool pictures = !wishes.screenshots.isEmpty();
    const QTemporaryDir scratch;

    auto book = storage::ShopBook::open(book_file(wishes, scratch));
    if (!book)
        return refuse(book.error(), !pictures && wishes.quit_after == 0);
    if (wishes.demo || pictures)
        if (const auto jobs = (*book)->jobs(); jobs && jobs->empty())
            if (const auto filled = session::fill_with_demo(**book); !filled)
                return refuse(filled.error(), !pictures);

    session::Preferences preferences(pictures ? scratch.filePath(QStringLiteral("preferences.ini")) : QString());
    session::Session session(**book, [&preferences] { return preferences.person().toStdString(); });
    ui::load_fonts();
    ui::apply_theme(app, preferences.theme());
    session::InstrumentRegister instruments(**book, preferences);
    session::GaugeLink gauge(session);
    session.draw_certainty();
    const ui::Context context{session, preferences, instruments, gauge};
    ui::BenchWindow window(context);
    window.show();
    if (pictures) {
        if (const auto done = ui::write_screenshots(window, context, wishes.screenshots); !done) {
            std::fprintf(stderr, "%s\n", qPrintable(done.error()));
            return input_is_wrong;
        }
        return 0;
    }
    if (wishes.quit_after > 0)
        QTimer::singleShot(wishes.quit_after * 1000, &app, &QApplication::quit);
    if (!wishes.files.isEmpty())
        QTimer::singleShot(0, &window, [&] { window.take_files(wishes.files); });
    return QApplication::exec();
}
