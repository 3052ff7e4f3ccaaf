// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/gauge_protocol.h"

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <vector>

namespace re2 {
class RE2;
}

namespace pallix::block {

// Gauges that do not speak the gauge protocol: how their line is set, and what of what they send is the number.

/// What ends a line.
enum class LineEnd {
    newline, ///< LF, or CR and LF
    carriage_return,
    pause, ///< nothing does: what comes without a break belongs together
};
inline constexpr std::array line_end_keys{"newline", "carriage_return", "pause"};
enum class Parity { none, even, odd };
inline constexpr std::array parity_keys{"none", "even", "odd"};
/// Who says that the other may send.
enum class Flow { none, lines, words };
inline constexpr std::array flow_keys{"none", "rts_cts", "xon_xoff"};

/// Speeds that serial gauges have.
inline constexpr std::array bauds{1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200};
/// Lines of a serial port that a foot switch may lie on.
inline constexpr std::array pedal_lines{"cts", "dsr", "dcd", "ri"};
/// What a foot switch that is a keyboard to the computer begins with: "keys:/dev/input/event7".
inline constexpr std::string_view keys_prefix = "keys:";

/// One gauge, or one make of them, as a person has taught it.
struct GaugeProfile {
    std::string name;
    int baud = 9600, data_bits = 8, stop_bits = 1;
    Parity parity = Parity::none;
    Flow flow = Flow::none;
    LineEnd end = LineEnd::newline;
    /// A regular expression of RE2 over a whole line; its groups `number`, `unit` and `sign` are what they are called.
    std::string pattern;
    std::string unit = "mm"; ///< where the line does not name one: mm, in, um, thou or C
    std::string request;     ///< sent to a gauge that answers only when asked; \r, \n, \t and \x1B are one byte
    std::string pedal;       ///< foot switch: one of `pedal_lines`, or `keys_prefix` and a device; empty: none
    bool operator==(const GaugeProfile&) const = default;
};
/// What makes it unusable; nothing where it is sound.
[[nodiscard]] std::optional<Fault> fault_of(const GaugeProfile& profile);

/// Profiles as they are kept, and back (docs/formats.md, gauge profiles).
[[nodiscard]] std::string gauge_profiles_text(const std::vector<GaugeProfile>& profiles);
[[nodiscard]] Result<std::vector<GaugeProfile>> read_gauge_profiles(std::string_view text, const std::string& file);

/// The bytes that are sent for a text as people type it: "P\r".
/// @return refused where a backslash stands before what it cannot stand before
[[nodiscard]] tl::expected<std::string, std::string> bytes_typed(std::string_view text);
/// Bytes as a person can read them: what cannot be printed as \r, \n, \t or \x1B.
[[nodiscard]] std::string bytes_shown(std::string_view bytes);

/// A pattern made ready.
class GaugePattern {
  public:
    /// @return why it cannot be used
    [[nodiscard]] static tl::expected<GaugePattern, std::string> of(const GaugeProfile& profile);
    /// @return the reading, its number 0; or what the line is and what was expected
    [[nodiscard]] tl::expected<GaugeReading, std::string> read(std::string_view line) const;

  private:
    std::shared_ptr<const re2::RE2> expression_; ///< what RE2 has made of it; never changes
    std::string unit_;
    int number_ = 0, unit_group_ = 0, sign_ = 0; ///< which group; 0: none
};

/// What is found out of a gauge by listening to it.
struct GaugeLearnt {
    LineEnd end = LineEnd::newline;
    std::string pattern;
    std::string unit; ///< that the lines name; empty where they name none
};
/// Proposes a pattern: the number is what has a point, a sign or a unit with it and changes; counters and checks are
/// left out.
/// @param sent what came each time *send* was pressed, three times or more
/// @return why nothing can be proposed
[[nodiscard]] tl::expected<GaugeLearnt, std::string> learn_gauge(const std::vector<std::string>& sent);

} // namespace pallix::block
