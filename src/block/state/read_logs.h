// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <memory>
#include <string>

namespace pallix::block {

struct Blueprint;
struct ReadWatch;

/// Logs that were read and evaluated, and the blueprint that was read, in an earlier fold over the same entries. Copies
/// share what they hold.
class ReadLogs {
  public:
    struct Read;
    [[nodiscard]] const Read* find(const std::string& key) const;
    void keep(const std::string& key, Read read);
    /// @return null where another text was read last
    [[nodiscard]] std::shared_ptr<const Blueprint> blueprint(const std::string& text) const;
    void keep(const std::string& text, std::shared_ptr<const Blueprint> blueprint);

    const ReadWatch* watch = nullptr; ///< of whoever waits for a long read; may be null

  private:
    std::map<std::string, std::shared_ptr<const Read>> reads_;
    std::string blueprint_text_;
    std::shared_ptr<const Blueprint> blueprint_;
};

} // namespace pallix::block
