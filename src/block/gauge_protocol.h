// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <utility>
#include <variant>
#include <vector>

namespace pallix::block {

// What a gauge or probe on the line says: one line of text each (docs/formats.md, gauge protocol 1).

/// `pallix-gauge 1 bore gauge on bench 2`: the first line, who is speaking.
struct GaugeHello {
    std::string name;
};
/// `reading 17 -0.0123 mm`: a number that counts up, the value, its unit (mm, in, um, thou, C).
struct GaugeReading {
    std::int64_t number = 0;
    std::string value; ///< as it was sent, with a decimal point
    std::string unit;
};
/// `log # unit: mm`: a line of a probe log before its touches, header row included.
struct ProbeLogLine {
    std::string line;
};
/// `touch 212 left,bore.L.1,top,3.1496,1.7520,9.0551`: one row of the log.
struct ProbeTouch {
    std::int64_t number = 0;
    std::string row;
};
/// `end`: the log is whole.
struct ProbeLogEnd {};
/// `bye`: the speaker goes of its own accord.
struct GaugeBye {};

using GaugeLine = std::variant<GaugeHello, GaugeReading, ProbeLogLine, ProbeTouch, ProbeLogEnd, GaugeBye>;

/// @return what the line says, or why it cannot be read
[[nodiscard]] tl::expected<GaugeLine, std::string> read_gauge_line(std::string_view line);
[[nodiscard]] std::string write_gauge_line(const GaugeLine& line); ///< with its line feed

/// Puts lines together from whatever arrives. Bytes that make no line are told as garbage once, not byte by byte.
class GaugeLineReader {
  public:
    using Read = std::function<tl::expected<GaugeLine, std::string>(std::string_view)>;
    /// @param read what a line says; @param end what ends it: LF (CR before it is left out) or CR; 0: nothing, what
    /// came is a line when `pause` says so
    explicit GaugeLineReader(Read read = read_gauge_line, char end = '\n') : read_(std::move(read)), end_(end) {}
    struct Item {
        std::optional<GaugeLine> line;
        std::string fault; ///< in words, where there is no line
    };
    [[nodiscard]] std::vector<Item> feed(std::string_view bytes);
    /// Nothing more came for a while: what stands there is a line, where nothing else ends one.
    [[nodiscard]] std::vector<Item> pause();
    /// The line that was cut off when the connection went; empty where none was begun.
    [[nodiscard]] const std::string& unfinished() const { return pending_; }
    void clear() { pending_.clear(); }

  private:
    void take(std::string_view line, std::vector<Item>& items) const;

    Read read_;
    char end_;
    std::string pending_;
};

} // namespace pallix::block
