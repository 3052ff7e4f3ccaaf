// SPDX-License-Identifier: GPL-3.0-or-later
// A digital gauge or a probe that is not there: sends what it would say over a local socket or a pseudo-terminal
// (docs/formats.md, gauge protocol).
#include "workshop/stand_ins.h"

#include <QCommandLineParser>
#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QLocalServer>
#include <QLocalSocket>
#include <QSocketNotifier>
#include <QTimer>
#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <fcntl.h>
#include <functional>
#include <sys/stat.h>
#include <termios.h>
#include <tl/expected.hpp>
#include <unistd.h>

namespace {

using namespace pallix;

constexpr int wrong_usage = 2;

int refuse(const QString& what) {
    std::fprintf(stderr, "pallix-gauge: %s\n", qPrintable(what));
    return wrong_usage;
}

/// Hands out one line after the other at a steady pace.
class Speaker : public QObject {
  public:
    using Send = std::function<void(const std::string&)>;

    Speaker(std::vector<std::string> lines, int interval_ms, int drop_after)
        : lines_(std::move(lines)), drop_after_(drop_after) {
        timer_.setInterval(interval_ms);
        QObject::connect(&timer_, &QTimer::timeout, this, [this] { next(); });
    }
    void speak(Send send) {
        send_ = std::move(send);
        timer_.start();
    }
    /// Says one line whenever it is asked.
    void answer(Send send) { send_ = std::move(send); }
    void asked() { next(); }

  private:
    void next() {
        if (at_ == lines_.size() || (drop_after_ > 0 && static_cast<int>(at_) == drop_after_)) {
            timer_.stop();
            QTimer::singleShot(50, qApp, &QCoreApplication::quit); // the last line shall arrive
            return;
        }
        send_(lines_[at_++]);
    }

    std::vector<std::string> lines_;
    std::size_t at_ = 0;
    int drop_after_;
    QTimer timer_;
    Send send_;
};

/// A pseudo-terminal that programs may open like a serial port.
int open_terminal(QString& path) {
    const int terminal = posix_openpt(O_RDWR | O_NOCTTY);
    if (terminal < 0 || grantpt(terminal) != 0 || unlockpt(terminal) != 0)
        return -1;
    termios settings{};
    tcgetattr(terminal, &settings);
    cfmakeraw(&settings);
    tcsetattr(terminal, TCSANOW, &settings);
    path = QString::fromLocal8Bit(ptsname(terminal));
    return terminal;
}

/// Puts away the socket that an earlier run has left, and nothing else.
/// @return why the name cannot be used; empty where it can
QString make_room(const QString& name) {
    const QString path = name.startsWith(QLatin1Char('/')) ? name : QDir::temp().filePath(name);
    struct stat status {};
    if (::lstat(QFile::encodeName(path).constData(), &status) != 0)
        return {};
    if (!S_ISSOCK(status.st_mode))
        return QStringLiteral("%1 is there already and is no socket; expected a name that is free").arg(path);
    QLocalSocket other;
    other.connectToServer(name);
    if (other.waitForConnected(500))
        return QStringLiteral("somebody speaks on %1 already; expected a name that is free").arg(path);
    QLocalServer::removeServer(name);
    return {};
}

/// The gauge that it is to be like; nothing: one that speaks the gauge protocol.
tl::expected<const workshop::TaughtStandIn*, QString> stand_in_of(const QString& key) {
    if (key.isEmpty())
        return nullptr;
    QStringList keys;
    for (const workshop::TaughtStandIn& stand_in : workshop::taught_stand_ins())
        if (keys << QString::fromLatin1(stand_in.key); keys.back() == key)
            return &stand_in;
    return tl::unexpected(
        QStringLiteral("there is no gauge \"%1\", expected one of %2").arg(key, keys.join(QStringLiteral(", "))));
}

/// What is to be sent: a log played, or readings with noise.
tl::expected<std::vector<std::string>, QString> lines_to_send(const QCommandLineParser& parser,
                                                              const workshop::TaughtStandIn* like) {
    const auto value = [&parser](const char* option) { return parser.value(QString::fromLatin1(option)); };
    if (const QString log = value("play"); !log.isEmpty()) {
        QFile file(log);
        if (!file.open(QIODevice::ReadOnly))
            return tl::unexpected(QStringLiteral("%1 cannot be read").arg(log));
        return workshop::lines_of_probe("stand-in probe", file.readAll().toStdString());
    }
    workshop::GaugeStandIn gauge;
    gauge.unit = value("unit").toStdString();
    gauge.noise = value("noise").toDouble();
    gauge.seed = value("seed").toULongLong();
    for (const QString& word : value("readings").split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
        bool sound = false;
        gauge.values.push_back(word.toDouble(&sound));
        if (!sound)
            return tl::unexpected(QStringLiteral("\"%1\" is no reading, expected a number").arg(word));
    }
    if (gauge.values.empty())
        return tl::unexpected(QStringLiteral("nothing to send, expected --readings or --play"));
    if (!like)
        return workshop::lines_of(gauge);
    std::vector<std::string> lines;
    for (const double reading : gauge.values)
        lines.push_back(like->sends(reading, static_cast<int>(lines.size()) + 1));
    return lines;
}

} // namespace

int main(int argc, char** argv) {
    QCoreApplication app(argc, argv);
    QCoreApplication::setApplicationName(QStringLiteral("pallix-gauge"));
    QCoreApplication::setApplicationVersion(QStringLiteral(PALLIX_VERSION));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("A stand-in for a digital gauge or a probe."));
    parser.addHelpOption();
    parser.addVersionOption();
    const auto option = [&parser](const char* name, const char* text, const char* value, const char* usual = "") {
        const QCommandLineOption o(QString::fromLatin1(name), QString::fromLatin1(text), QString::fromLatin1(value),
                                   QString::fromLatin1(usual));
        parser.addOption(o);
        return o;
    };
    const auto socket = option("socket", "Wait on this local socket for a listener.", "name");
    const QCommandLineOption terminal(QStringLiteral("terminal"),
                                      QStringLiteral("Speak on a pseudo-terminal and print its path."));
    parser.addOption(terminal);
    option("play", "Play this probe log touch by touch.", "file");
    option("readings", "Send these readings.", "numbers, spaces between");
    option("unit", "Unit of the readings.", "mm, in, um, thou or C", "mm");
    option("noise", "Standard deviation added to each reading.", "number", "0");
    option("seed", "Seed of the noise.", "number", "1");
    const auto as =
        option("as", "Speak like a gauge that has to be taught: plain, named, comma, asked or counted.", "name");
    const auto interval = option("interval", "Milliseconds from line to line.", "number", "400");
    const auto drop = option("drop-after", "Go dead after so many lines.", "number", "0");
    parser.process(app);

    const auto like = stand_in_of(parser.value(as));
    if (!like)
        return refuse(like.error());
    auto lines = lines_to_send(parser, *like);
    if (!lines)
        return refuse(lines.error());
    Speaker speaker(std::move(*lines), parser.value(interval).toInt(), parser.value(drop).toInt());

    QLocalServer server;
    if (parser.isSet(socket)) {
        if (const auto taken = make_room(parser.value(socket)); !taken.isEmpty())
            return refuse(taken);
        server.setSocketOptions(QLocalServer::UserAccessOption);
        if (!server.listen(parser.value(socket)))
            return refuse(server.errorString());
        QObject::connect(&server, &QLocalServer::newConnection, &app, [&] {
            QLocalSocket* listener = server.nextPendingConnection();
            QObject::connect(listener, &QLocalSocket::disconnected, &app, &QCoreApplication::quit);
            speaker.speak([listener](const std::string& line) {
                listener->write(line.data(), static_cast<qint64>(line.size()));
                listener->flush();
            });
        });
        std::printf("local:%s\n", qPrintable(parser.value(socket)));
    } else if (parser.isSet(terminal)) {
        QString path;
        const int handle = open_terminal(path);
        if (handle < 0)
            return refuse(QStringLiteral("no pseudo-terminal is to be had"));
        std::printf("serial:%s\n", qPrintable(path));
        const auto send = [handle](const std::string& line) {
            if (::write(handle, line.data(), line.size()) < 0)
                QCoreApplication::exit(1);
        };
        if (*like && !(*like)->profile.request.empty()) {
            const std::string request = block::bytes_typed((*like)->profile.request).value_or("");
            speaker.answer(send);
            auto* hears = new QSocketNotifier(handle, QSocketNotifier::Read, &app);
            QObject::connect(
                hears, &QSocketNotifier::activated, &app, [handle, request, heard = std::string(), &speaker]() mutable {
                    std::array<char, 100> bytes{};
                    const auto size = ::read(handle, bytes.data(), bytes.size());
                    heard.append(bytes.data(), static_cast<std::size_t>(std::max<ssize_t>(size, 0)));
                    for (std::size_t at = heard.find(request); at != std::string::npos; at = heard.find(request)) {
                        heard.erase(0, at + request.size());
                        speaker.asked();
                    }
                });
        } else {
            QTimer::singleShot(1500, &app, [&speaker, send] { speaker.speak(send); }); // time for a listener to open it
        }
    } else {
        return refuse(QStringLiteral("nowhere to speak, expected --socket NAME or --terminal"));
    }
    std::fflush(stdout);
    return QCoreApplication::exec();
}
