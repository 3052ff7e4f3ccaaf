// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/json_lines.h"

#include <algorithm>
#include <charconv>

namespace pallix::block {
namespace {

/// One step of an address: a key of an object, or the index of an item.
struct Step {
    std::string_view key;
    std::size_t index = 0;
    bool item = false;
};

/// Takes the first step off an address.
Step take_step(std::string_view& address) {
    if (address.starts_with('.'))
        address.remove_prefix(1);
    if (address.starts_with('[')) {
        Step step{{}, 0, true};
        const std::size_t end = std::min(address.find(']'), address.size() - 1);
        std::from_chars(address.data() + 1, address.data() + end, step.index);
        address.remove_prefix(end + 1);
        return step;
    }
    const std::size_t end = std::min(address.find_first_of(".["), address.size());
    const Step step{address.substr(0, end), 0, false};
    address.remove_prefix(end);
    return step;
}

/// Goes from a value into what it holds, over everything on the way, without recursion.
class Walker {
  public:
    explicit Walker(std::string_view text) : text_(text) { skip_space(); }

    [[nodiscard]] std::size_t at() const { return at_; }

    /// @return whether the value here holds such a thing; then it is the value here
    bool enter(const Step& step) {
        if (peek() != (step.item ? '[' : '{'))
            return false;
        ++at_;
        skip_space();
        for (std::size_t index = 0; at_ < text_.size() && peek() != ']' && peek() != '}'; ++index) {
            std::string_view key;
            if (!step.item) {
                key = string();
                skip_space();
                ++at_; // the colon
                skip_space();
            }
            if (step.item ? index == step.index : key == step.key)
                return true;
            skip_value();
            skip_space();
            if (peek() == ',')
                ++at_;
            skip_space();
        }
        return false;
    }

  private:
    [[nodiscard]] char peek() const { return at_ < text_.size() ? text_[at_] : '\0'; }

    void skip_space() { at_ = std::min(text_.find_first_not_of(" \t\r\n", at_), text_.size()); }

    std::string_view string() {
        const std::size_t start = ++at_;
        while (at_ < text_.size() && text_[at_] != '"')
            at_ += text_[at_] == '\\' ? 2 : 1;
        at_ = std::min(at_, text_.size());
        const std::string_view s = text_.substr(std::min(start, text_.size()), at_ - start);
        ++at_;
        return s;
    }

    void skip_value() {
        std::size_t deep = 0;
        do {
            switch (peek()) {
            case '"':
                string();
                break;
            case '{':
            case '[':
                ++deep;
                ++at_;
                break;
            case '}':
            case ']':
                --deep;
                ++at_;
                break;
            case ',':
            case ':':
                ++at_;
                break;
            default:
                at_ = std::min(text_.find_first_of(",]}:\n\r\t ", at_), text_.size());
            }
            skip_space();
        } while (deep > 0 && at_ < text_.size());
    }

    std::string_view text_;
    std::size_t at_ = 0;
};

} // namespace

JsonLines::JsonLines(std::string_view text) : text_(text) {
    if (text_.starts_with("\xEF\xBB\xBF"))
        text_.erase(0, 3);
}

int JsonLines::line(std::string_view address) const {
    Walker walker(text_);
    std::size_t nearest = walker.at();
    while (!address.empty() && walker.enter(take_step(address)))
        nearest = walker.at();
    return line_of_byte(text_, nearest);
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
