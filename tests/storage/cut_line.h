// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// A line to a server that can be cut and mended: it passes on what both sides say, until it is told not to.

#include <QFile>
#include <QString>
#include <QTemporaryDir>
#include <QUrl>
#include <arpa/inet.h>
#include <array>
#include <atomic>
#include <gtest/gtest.h>
#include <map>
#include <netinet/in.h>
#include <poll.h>
#include <sys/socket.h>
#include <thread>
#include <unistd.h>
#include <vector>

namespace pallix::test {

class CutLine {
  public:
    /// @param address of the server's book
    explicit CutLine(const QString& address) : address_(address), listener_(listening(0)) {
        sockaddr_in here{};
        socklen_t size = sizeof here;
        EXPECT_EQ(::getsockname(listener_, reinterpret_cast<sockaddr*>(&here), &size), 0);
        port_ = ntohs(here.sin_port);
        allow_any_port();
        thread_ = std::thread([this] { pass_on(); });
    }
    ~CutLine() {
        ends_ = true;
        thread_.join();
        if (before_.isEmpty())
            qunsetenv("PGPASSFILE");
        else
            qputenv("PGPASSFILE", before_);
    }
    CutLine(const CutLine&) = delete;
    CutLine& operator=(const CutLine&) = delete;

    /// The same book, by this line.
    [[nodiscard]] QString address() const {
        QUrl url(address_);
        url.setPort(port_);
        return url.toString();
    }
    /// Whoever speaks is cut off, and nobody answers from here on.
    void cut() { become(State::cut); }
    void mend() { become(State::whole); }
    /// What is said to the server reaches it; what it answers does not from here on, and the line is cut then.
    /// @param after so many answers
    void swallow_answers(int after = 0) {
        answers_ = after;
        become(State::deaf);
    }

  private:
    enum class State { whole, deaf, cut };

    /// It is so when this returns.
    void become(State wanted) {
        wanted_ = wanted;
        while (is_ != wanted)
            std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
    /// Passwords are kept by port.
    void allow_any_port() {
        before_ = qgetenv("PGPASSFILE");
        QFile known(QFile::decodeName(before_)), any(folder_.filePath(QStringLiteral("pgpass")));
        ASSERT_TRUE(known.open(QIODevice::ReadOnly) && any.open(QIODevice::WriteOnly));
        any.setPermissions(QFile::ReadOwner | QFile::WriteOwner);
        for (const QByteArray& line : known.readAll().split('\n'))
            if (QByteArrayList words = line.split(':'); words.size() > 4) {
                words[1] = "*";
                any.write(words.join(':') + '\n');
            }
        any.close();
        qputenv("PGPASSFILE", QFile::encodeName(any.fileName()));
    }
    static int listening(int port) {
        const int s = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0), yes = 1;
        ::setsockopt(s, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
        const sockaddr_in at = place(port);
        EXPECT_EQ(::bind(s, reinterpret_cast<const sockaddr*>(&at), sizeof at), 0);
        EXPECT_EQ(::listen(s, 64), 0);
        return s;
    }
    static sockaddr_in place(int port) {
        sockaddr_in at{};
        at.sin_family = AF_INET;
        at.sin_port = htons(static_cast<std::uint16_t>(port));
        at.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        return at;
    }
    void close_all() {
        for (const auto& [socket, other] : other_)
            ::close(socket);
        other_.clear();
        if (listener_ >= 0)
            ::close(std::exchange(listener_, -1));
    }
    void accept_one() {
        const int client = ::accept4(listener_, nullptr, nullptr, SOCK_CLOEXEC),
                  server = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
        const sockaddr_in at = place(QUrl(address_).port());
        if (client < 0 || ::connect(server, reinterpret_cast<const sockaddr*>(&at), sizeof at) != 0) {
            ::close(client);
            ::close(server);
            return;
        }
        other_[client] = server;
        other_[server] = client;
        clients_[client] = true;
        clients_[server] = false;
    }
    /// @return whether it is still open
    bool pass(int from) {
        std::array<char, 65536> bytes{};
        const auto read = ::recv(from, bytes.data(), bytes.size(), 0);
        const int to = other_.at(from);
        if (is_ == State::deaf && !clients_.at(from) && answers_-- <= 0)
            return false; // the server has done what it was told, and nobody hears of it
        if (read > 0 && ::send(to, bytes.data(), static_cast<std::size_t>(read), MSG_NOSIGNAL) == read)
            return true;
        ::close(from);
        ::close(to);
        other_.erase(from);
        other_.erase(to);
        return true;
    }
    void pass_on() {
        while (!ends_) {
            if (const State wanted = wanted_; wanted != is_) {
                if (wanted == State::cut)
                    close_all();
                else if (listener_ < 0)
                    listener_ = listening(port_);
                is_ = wanted;
            }
            std::vector<pollfd> all;
            if (listener_ >= 0)
                all.push_back({listener_, POLLIN, 0});
            for (const auto& [socket, other] : other_)
                all.push_back({socket, POLLIN, 0});
            ::poll(all.data(), all.size(), 5);
            for (const pollfd& one : all) {
                if (one.revents == 0)
                    continue;
                if (one.fd == listener_)
                    accept_one();
                else if (other_.contains(one.fd) && !pass(one.fd)) {
                    wanted_ = State::cut;
                    break;
                }
            }
        }
        close_all();
    }

    QString address_;
    QTemporaryDir folder_;
    QByteArray before_;
    int port_ = 0;
    int listener_;
    std::map<int, int> other_; ///< each side of a conversation, and the other
    std::map<int, bool> clients_;
    std::atomic<State> wanted_ = State::whole, is_ = State::whole;
    std::atomic<int> answers_ = 0;
    std::atomic<bool> ends_ = false;
    std::thread thread_;
};

} // namespace pallix::test
