// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <string>
#include <utility>

namespace pallix::block {

/// A text that never changes and may be a hundred megabytes: copies share it.
class SharedText {
  public:
    SharedText() = default;
    SharedText(std::string text) : text_(std::make_shared<const std::string>(std::move(text))) {}
    SharedText(const char* text) : SharedText(std::string(text)) {}

    [[nodiscard]] const std::string& str() const {
        static const std::string none;
        return text_ ? *text_ : none;
    }
    operator const std::string&() const { return str(); }
    bool operator==(const SharedText& other) const { return text_ == other.text_ || str() == other.str(); }

  private:
    std::shared_ptr<const std::string> text_;
};

} // namespace pallix::block
