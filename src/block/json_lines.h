// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

namespace pallix::block {

/// Where each value of a JSON text stands, so that a message can name the line. Values are addressed as
/// `banks[0].deck_height.nominal`; the whole document is the empty address. Nothing is stored but the text: a line is
/// looked up when a message wants it.
class JsonLines {
  public:
    /// @param text well-formed JSON (a parser has accepted it)
    explicit JsonLines(std::string_view text);

    /// @return the line (from 1) of the value, or of its nearest enclosing value that exists
    [[nodiscard]] int line(std::string_view address) const;

  private:
    std::string text_;
};

/// @return the address of a member of an object, or of an item of a list
[[nodiscard]] std::string member_address(const std::string& object, std::string_view key);
[[nodiscard]] std::string item_address(const std::string& list, std::size_t index);

/// @return the line (from 1) on which the byte stands
[[nodiscard]] int line_of_byte(std::string_view text, std::size_t byte);

} // namespace pallix::block
