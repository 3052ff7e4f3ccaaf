// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/gauge_line.h"

#include <string>
#include <vector>

namespace pallix::session {

/// Listens to a gauge that nobody has taught yet: what comes without a break is one thing sent.
class GaugeEar : public QObject {
    Q_OBJECT
  public:
    explicit GaugeEar(QObject* parent = nullptr);
    /// Begins anew, with nothing heard.
    [[nodiscard]] Outcome listen(const QString& address, const block::GaugeProfile& profile);
    void stop();
    [[nodiscard]] bool listens() const { return line_ != nullptr; }
    void send(const std::string& bytes);
    [[nodiscard]] const std::vector<std::string>& sent() const { return sent_; }

  Q_SIGNALS:
    void heard(); ///< one thing more
    void lost(const QString& why);

  private:
    std::unique_ptr<GaugeLine> line_;
    std::string coming_;
    std::vector<std::string> sent_;
    QTimer break_;
};

} // namespace pallix::session
