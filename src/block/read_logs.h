// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <memory>
#include <string>

namespace pallix::block {

struct ReadWatch;

/// Logs that were read and evaluated in an earlier fold over the same entries. Copies share what they hold.
class ReadLogs {
  public:
    struct Read;
    [[nodiscard]] const Read* find(const std::string& key) const;
    void keep(const std::string& key, Read read);

    const ReadWatch* watch = nullptr; ///< of whoever waits for a long read; may be null

  private:
    std::map<std::string, std::shared_ptr<const Read>> reads_;
};

} // namespace pallix::block
