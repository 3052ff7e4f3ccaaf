// SPDX-License-Identifier: GPL-3.0-or-later
// A bench of a shop of many, in a process of its own: works at the jobs of the book, and writes down what it was told.
// Usage: bench_worker ADDRESS COPIES PERSON SECONDS LOG
#include "block/ledger.h"
#include "session/session.h"
#include "session/shop_line.h"

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QTimer>
#include <chrono>
#include <cstdio>
#include <random>

namespace {

using namespace pallix;

qint64 microseconds() {
    return std::chrono::duration_cast<std::chrono::microseconds>(std::chrono::system_clock::now().time_since_epoch())
        .count();
}

class Worker {
  public:
    Worker(storage::ShopBook& book, std::string person, QFile& log)
        : book_(book), person_(std::move(person)), log_(log), random_(std::hash<std::string>{}(person_)),
          session_(book_, [this] { return person_; }), line_(book_) {
        const auto catch_up = [this] { static_cast<void>(session_.catch_up()); };
        QObject::connect(&line_, &session::ShopLine::job_moved, &session_, [this, catch_up](qint64 job) {
            if (session_.job() == job)
                catch_up();
        });
        QObject::connect(&line_, &session::ShopLine::much_changed, &session_, catch_up);
        QObject::connect(&line_, &session::ShopLine::broke, &session_, &session::Session::go_alone);
        QObject::connect(&line_, &session::ShopLine::state_changed, &session_, [this] { session_.deliver(); });
        QObject::connect(&session_, &session::Session::others_wrote, &session_, [this](int first) { hear(first); });
        QObject::connect(&pause_, &QTimer::timeout, &session_, [this] { work(); });
        session_.deliver(); // what waited when it was killed
        pause();
    }

    /// @return whether nothing waits any more
    bool end() {
        pause_.stop();
        session_.deliver();
        const auto outbox = book_.outbox();
        return !book_.is_alone() && (!outbox || outbox->waiting() == 0);
    }

  private:
    void pause() {
        constexpr int shortest = 1500, longest = 3500; // ms: a busy hand
        pause_.setSingleShot(true);
        pause_.start(std::uniform_int_distribution(shortest, longest)(random_));
    }
    void say(const char* what, const std::string& words, double ms) {
        log_.write(
            QStringLiteral("%1\t%2\t%3\n").arg(QLatin1String(what), QString::fromStdString(words)).arg(ms).toUtf8());
        log_.flush();
    }
    /// One thing after the other: another job now and then, and notes to it.
    void work() {
        const auto jobs = book_.jobs();
        constexpr unsigned stays = 8;
        if (jobs && !jobs->empty() && (!session_.has_job() || random_() % stays == 0)) {
            QElapsedTimer clock;
            clock.start();
            constexpr std::size_t busy = 4; // jobs that the shop is at
            if (session_.open_job((*jobs)[random_() % std::min(busy, jobs->size())].id))
                say("opened", std::to_string(*session_.job()), static_cast<double>(clock.nsecsElapsed()) / 1e6);
        }
        if (session_.has_job()) {
            const bool alone = book_.is_alone();
            const std::string text = person_ + " " + std::to_string(QCoreApplication::applicationPid()) + " " +
                                     std::to_string(++number_) + (alone ? " alone " : " at ") +
                                     std::to_string(microseconds());
            QElapsedTimer clock;
            clock.start();
            const auto taken = session_.take(block::Note{text});
            const double ms = static_cast<double>(clock.nsecsElapsed()) / 1e6;
            if (taken)
                say(alone || book_.is_alone() ? "kept" : "written", text, ms);
            else
                say("refused", taken.error().front().text(), ms);
        }
        pause();
    }
    /// How long ago it was done at the other bench, now that everything is worked out with it.
    void hear(int first) {
        for (auto i = static_cast<std::size_t>(first); i < session_.entries().size(); ++i)
            if (const auto* note = std::get_if<block::Note>(&session_.entries()[i].payload))
                if (const auto at = note->text.find(" at "); at != std::string::npos)
                    say("heard", note->text,
                        static_cast<double>(microseconds() - std::stoll(note->text.substr(at + 4))) / 1e3);
    }

    storage::ShopBook& book_;
    std::string person_;
    QFile& log_;
    std::mt19937 random_;
    session::Session session_;
    session::ShopLine line_;
    QTimer pause_;
    int number_ = 0;
};

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    const QStringList words = QCoreApplication::arguments();
    if (words.size() != 6)
        return 2;
    auto book = storage::ShopBook::open(words[1], false, words[2]);
    if (!book) {
        std::fprintf(stderr, "%s\n", qPrintable(book.error().what));
        return 1;
    }
    QFile log(words[5]);
    if (!log.open(QIODevice::WriteOnly | QIODevice::Append))
        return 1;
    Worker worker(**book, words[3].toStdString(), log);
    QTimer end;
    QObject::connect(&end, &QTimer::timeout, &app, [&] {
        end.setInterval(std::chrono::milliseconds(500)); // until the line is back
        if (worker.end())
            QCoreApplication::quit();
    });
    end.start(words[4].toInt() * 1000);
    return QCoreApplication::exec();
}
