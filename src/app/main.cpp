// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/backup_work.h"
#include "session/certainty_work.h"
#include "session/demo_shop.h"
#include "session/one_window.h"
#include "session/preferences.h"
#include "session/session.h"
#include "session/shop_experience.h"
#include "session/shop_line.h"
#include "storage/backups.h"
#include "storage/shop_book.h"
#include "ui/bench_application.h"
#include "ui/bench_window.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/book_dialogs.h"
#include "ui/files.h"
#include "ui/screenshots.h"
#include "ui/theme.h"
#include "wording/common/lengths.h"
#include "workshop/harbour.h"

#include <QCommandLineParser>
#include <QDir>
#include <QFileInfo>
#include <QLocale>
#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>
#include <algorithm>
#include <csignal>
#include <cstdio>
#include <memory>
#include <string_view>

namespace {

using namespace pallix;

constexpr int input_is_wrong = 1;

struct Wishes {
    QString book;
    bool take_over = false;
    bool demo = false;
    QString copy_sound;
    QString restore; ///< a copy, to be put in the book's place
    QString screenshots;
    QSize picture;      ///< px
    int quit_after = 0; ///< s; 0 stays open
    QStringList files;
};

Wishes read_wishes(const QCoreApplication& app) {
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("The bench companion for machining engine blocks."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption book(QStringLiteral("book"), QStringLiteral("Open this shop book instead of your own."),
                                  QStringLiteral("file"));
    const QCommandLineOption demo(QStringLiteral("demo"),
                                  QStringLiteral("Open the harbour workshop, a shop to try things in."));
    const QCommandLineOption take_over(
        QStringLiteral("take-over"),
        QStringLiteral("Open the book although it is locked by somebody who cannot be asked."));
    const QCommandLineOption copy(QStringLiteral("copy-sound"),
                                  QStringLiteral("Copy what is sound of the book into a new one and quit."),
                                  QStringLiteral("file"));
    const QCommandLineOption restore(
        QStringLiteral("restore"),
        QStringLiteral("Put this copy in the place of the book, keep what was there, and open."),
        QStringLiteral("file"));
    const QCommandLineOption shots(QStringLiteral("screenshots"),
                                   QStringLiteral("Write a picture of every main view and quit."),
                                   QStringLiteral("folder"));
    const QCommandLineOption size(QStringLiteral("picture-size"), QStringLiteral("How large those pictures are."),
                                  QStringLiteral("width x height"), QStringLiteral("1280x800"));
    const QCommandLineOption quit(QStringLiteral("quit-after"), QStringLiteral("Quit after so many seconds."),
                                  QStringLiteral("seconds"), QStringLiteral("0"));
    parser.addOptions({book, demo, take_over, copy, restore, shots, size, quit});
    parser.addPositionalArgument(QStringLiteral("files"), QStringLiteral("Blueprints, probe logs or jobs to take in."),
                                 QStringLiteral("[files…]"));
    parser.process(app);
    const QStringList sides = parser.value(size).split(QLatin1Char('x'));
    const QSize picture(sides.value(0).toInt(), sides.value(1).toInt());
    if (sides.size() != 2 || picture.width() < 1024 || picture.height() < 700 || picture.width() > 7680 ||
        picture.height() > 4320) {
        std::fprintf(stderr, "--picture-size is %s, expected 1024x700 to 7680x4320\n", qPrintable(parser.value(size)));
        std::exit(input_is_wrong);
    }
    return {parser.value(book),
            parser.isSet(take_over),
            parser.isSet(demo),
            parser.value(copy),
            parser.value(restore),
            parser.value(shots),
            picture,
            parser.value(quit).toInt(),
            parser.positionalArguments()};
}

/// The folder is made for its owner alone.
QString data_file(const QString& name) {
    const QDir folder(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation));
    if (!folder.exists()) {
        QDir().mkpath(folder.absoluteFilePath(QStringLiteral("..")));
        QDir().mkdir(folder.path(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    }
    return folder.filePath(name);
}

/// A shop book among the files is the one to be opened.
void take_book(Wishes& wishes) {
    for (const QString& file : wishes.files)
        if (wishes.book.isEmpty() && ui::kind_of_file(file) == ui::FileKind::book)
            wishes.book = file;
    wishes.files.removeAll(wishes.book);
}

QString book_file(const Wishes& wishes, const QTemporaryDir& scratch) {
    if (!wishes.book.isEmpty())
        return wishes.book;
    if (!wishes.screenshots.isEmpty())
        return scratch.filePath(QStringLiteral("harbour.shopbook"));
    return data_file(wishes.demo ? QStringLiteral("harbour.shopbook") : QStringLiteral("shop.shopbook"));
}

int refuse(const storage::BookFault& fault) {
    std::fprintf(stderr, "%s %s\n", qPrintable(fault.what), qPrintable(fault.way_out));
    return input_is_wrong;
}

int copy_sound(const QString& from, const QString& to) {
    const auto told = storage::ShopBook::copy_sound(from, to);
    if (!told)
        return refuse(told.error());
    for (const QString& line : *told)
        std::printf("%s\n", qPrintable(line));
    std::printf("What is sound stands in %s.\n", qPrintable(to));
    return 0;
}

/// What stood in the place of a copy is named.
int restore(const QString& book, const QString& copy) {
    const auto before = storage::Backups(book).restore(copy, QDateTime::currentDateTimeUtc());
    if (!before)
        return refuse(before.error());
    if (!before->isEmpty())
        std::printf("The book of before stands in %s.\n", qPrintable(*before));
    return 0;
}

storage::BookResult<void> fill_demo(storage::ShopBook& book, const std::string& today) {
    return session::fill_with_past(book, today).and_then([&] { return session::fill_with_demo(book, today); });
}

/// What is only to be read needs no display.
bool asks_for_words(int argc, char** argv) {
    return std::any_of(argv + 1, argv + argc, [](const char* word) {
        const std::string_view w(word);
        return w == "--help" || w == "-h" || w == "--version" || w == "-v";
    });
}

/// @param again what to start with once the book is closed; left empty where nothing is
int work(ui::BenchApplication& app, const Wishes& wishes, QStringList& again) {
    const bool pictures = !wishes.screenshots.isEmpty();
    const QTemporaryDir scratch;

    const QString file = book_file(wishes, scratch);
    if (!wishes.copy_sound.isEmpty())
        return copy_sound(file, wishes.copy_sound);
    if (!wishes.restore.isEmpty())
        if (const int refused = restore(file, wishes.restore))
            return refused;
    if (!pictures && session::OneWindow::hand_over(file, wishes.files))
        return 0;
    session::Preferences preferences(pictures ? scratch.filePath(QStringLiteral("preferences.ini")) : QString());
    ui::load_fonts();
    ui::apply_theme(app, preferences.theme(), 1, preferences.touch());
    const QString copies = data_file(QStringLiteral("benches")); // of books that servers keep
    std::unique_ptr<storage::ShopBook> book;
    if (pictures || wishes.quit_after > 0) { // nobody is there to be asked
        auto opened = storage::ShopBook::open(file, wishes.take_over, pictures ? QString() : copies);
        if (!opened)
            return refuse(opened.error());
        book = std::move(*opened);
    } else {
        book = ui::open_book(file, wishes.take_over, copies);
    }
    if (!book)
        return input_is_wrong;
    if (!pictures)
        preferences.begin_as_usual_here();
    if (wishes.demo || pictures)
        if (const auto jobs = book->jobs(); jobs && jobs->empty())
            if (const auto filled = fill_demo(*book, pictures ? std::string() : session::Session::system_clock()());
                !filled)
                return refuse(filled.error());

    wording::show_decimal_comma(!pictures && QLocale().decimalPoint() == QLatin1Char(','));
    const session::Session::Clock harbour_clock = [] { return std::string(workshop::harbour_today) + "T08:00:00Z"; };
    const session::Session::Clock clock = pictures ? harbour_clock : session::Session::system_clock();
    session::Session session(
        *book, [&preferences] { return preferences.person().toStdString(); }, clock);
    session.learn_from(
        [&](const std::string& engine) { return session::experience_of_shop(*book, preferences, clock, engine); });
    session::InstrumentRegister instruments(*book, preferences, nullptr, clock);
    session::GaugeLink gauge(session);
    session.draw_certainty();
    session::PracticeWork practice(session);
    const ui::Context context{session, preferences, instruments, gauge, practice};
    ui::BenchWindow window(context);
    window.show();
    if (pictures) {
        if (const auto done = ui::write_screenshots(window, context, wishes.screenshots, wishes.picture); !done) {
            std::fprintf(stderr, "%s\n", qPrintable(done.error()));
            return input_is_wrong;
        }
        return 0;
    }
    session::ShopLine line(*book);
    window.listen(line);
    const session::OneWindow one(book->file());
    session::BackupWork backups(*book);
    QObject::connect(&backups, &session::BackupWork::failed, &window,
                     [&window](const QString& why) { ui::tell(&window, QStringLiteral("The shop book"), why); });
    QObject::connect(&one, &session::OneWindow::wanted, &window, &ui::BenchWindow::come_forward);
    if (wishes.quit_after > 0)
        QTimer::singleShot(wishes.quit_after * 1000, &app, &QApplication::quit);
    if (!wishes.files.isEmpty())
        QTimer::singleShot(0, &window, [&] { window.take_files(wishes.files); });
    const int done = QApplication::exec();
    backups.make_at_close();
    again = window.starts_again_with();
    return done;
}

} // namespace

int main(int argc, char** argv) {
    std::signal(SIGXFSZ, SIG_IGN); // a file that may not grow is a fault like others, and is told
    QCoreApplication::setApplicationName(QStringLiteral("pallix"));
    QCoreApplication::setApplicationVersion(QStringLiteral(PALLIX_VERSION));
    if (asks_for_words(argc, argv)) {
        const QCoreApplication words(argc, argv);
        static_cast<void>(read_wishes(words)); // which says them, and ends
    }
    ui::BenchApplication app(argc, argv);
    Wishes wishes = read_wishes(app);
    take_book(wishes);
    QStringList again;
    const int done = work(app, wishes, again);
    if (!again.isEmpty())
        QProcess::startDetached(QCoreApplication::applicationFilePath(), again);
    return done;
}
