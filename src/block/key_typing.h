// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

namespace pallix::block {

/// What a gauge types that is a keyboard to the computer: key events of Linux (linux/input-event-codes.h) as letters,
/// by the keys of the United States, which such gauges send whatever language the desktop has.
class KeyTyping {
  public:
    /// @param code of the key; @param value 1 pressed, 2 held, 0 let go
    /// @return the letter that it types; a line feed for Enter; nothing for what types none
    [[nodiscard]] std::optional<char> feed(int code, int value);

  private:
    bool shift_left_ = false, shift_right_ = false;
};

} // namespace pallix::block
