// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/json_lines.h"

#include <algorithm>

namespace pallix::block {
namespace {

/// Walks the text once and notes the line each value starts on. No recursion on input depth beyond what the parser
/// took.
class Walker {
  public:
    Walker(std::string_view text, std::map<std::string, int, std::less<>>& lines) : text_(text), lines_(lines) {}

    void value(const std::string& address) {
        skip_space();
        lines_.emplace(address, line_);
        switch (peek()) {
        case '{':
            object(address);
            break;
        case '[':
            list(address);
            break;
        case '"':
            string();
            break;
        default:
            while (at_ < text_.size() && std::string_view(",]}\n\r\t ").find(peek()) == std::string_view::npos)
                ++at_;
        }
    }

  private:
    char peek() const { return at_ < text_.size() ? text_[at_] : '\0'; }

    void skip_space() {
        while (at_ < text_.size() && std::string_view(" \t\r\n").find(text_[at_]) != std::string_view::npos) {
            if (text_[at_] == '\n')
                ++line_;
            ++at_;
        }
    }

    std::string_view string() {
        const std::size_t start = ++at_;
        while (at_ < text_.size() && text_[at_] != '"')
            at_ += text_[at_] == '\\' ? 2 : 1;
        const std::string_view s = text_.substr(std::min(start, text_.size()), at_ - start);
        ++at_;
        return s;
    }

    void object(const std::string& address) {
        ++at_;
        for (skip_space(); at_ < text_.size() && peek() != '}'; skip_space()) {
            const std::string_view key = string();
            skip_space();
            ++at_; // the colon
            value(member_address(address, key));
            skip_space();
            if (peek() == ',')
                ++at_;
        }
        ++at_;
    }

    void list(const std::string& address) {
        ++at_;
        std::size_t index = 0;
        for (skip_space(); at_ < text_.size() && peek() != ']'; skip_space()) {
            value(item_address(address, index++));
            skip_space();
            if (peek() == ',')
                ++at_;
        }
        ++at_;
    }

    std::string_view text_;
    std::map<std::string, int, std::less<>>& lines_;
    std::size_t at_ = 0;
    int line_ = 1;
};

} // namespace

JsonLines::JsonLines(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    Walker(text, lines_).value("");
}

int JsonLines::line(std::string address) const {
    while (true) {
        if (const auto found = lines_.find(address); found != lines_.end())
            return found->second;
        if (address.empty())
            return 1;
        const std::size_t cut = address.find_last_of(".[");
        address.resize(cut == std::string::npos ? 0 : cut);
    }
}

std::string member_address(const std::string& object, std::string_view key) {
    return object.empty() ? std::string(key) : object + "." + std::string(key);
}

std::string item_address(const std::string& list, std::size_t index) {
    return list + "[" + std::to_string(index) + "]";
}

int line_of_byte(std::string_view text, std::size_t byte) {
    return 1 + static_cast<int>(std::ranges::count(text.substr(0, std::min(byte, text.size())), '\n'));
}

} // namespace pallix::block
