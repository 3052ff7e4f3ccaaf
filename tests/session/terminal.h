// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <algorithm>
#include <array>
#include <fcntl.h>
#include <gtest/gtest.h>
#include <string>
#include <termios.h>
#include <unistd.h>
#include <utility>

namespace pallix::test {

/// The other end of a serial line.
class Terminal {
  public:
    Terminal() : handle_(posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK)) {
        EXPECT_GE(handle_, 0);
        EXPECT_EQ(grantpt(handle_), 0);
        EXPECT_EQ(unlockpt(handle_), 0);
        termios raw{};
        tcgetattr(handle_, &raw);
        cfmakeraw(&raw);
        tcsetattr(handle_, TCSANOW, &raw);
        kept_ = ::open(ptsname(handle_), O_RDWR | O_NOCTTY | O_NONBLOCK);
        EXPECT_GE(kept_, 0);
    }
    ~Terminal() {
        pull();
        ::close(kept_);
    }
    Terminal(const Terminal&) = delete;
    Terminal& operator=(const Terminal&) = delete;
    [[nodiscard]] QString address() const {
        return QStringLiteral("serial:") + QString::fromLocal8Bit(ptsname(handle_));
    }
    void send(const std::string& bytes) const {
        EXPECT_EQ(::write(handle_, bytes.data(), bytes.size()), static_cast<ssize_t>(bytes.size()));
    }
    [[nodiscard]] std::string heard() const {
        std::array<char, 100> bytes{};
        const ssize_t size = ::read(handle_, bytes.data(), bytes.size());
        return {bytes.data(), static_cast<std::size_t>(std::max<ssize_t>(size, 0))};
    }
    void pull() {
        if (handle_ >= 0)
            ::close(std::exchange(handle_, -1));
    }

  private:
    int handle_;
    int kept_ = -1; ///< its number, which nobody else gets before a port that was pulled has given up its lock
};

} // namespace pallix::test
