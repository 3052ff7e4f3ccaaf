// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/gauge_profile.h"
#include "session/session.h"

#include <QIODevice>
#include <QObject>
#include <QString>
#include <QTimer>
#include <memory>
#include <vector>

namespace pallix::session {

/// A place where a gauge may be.
struct GaugePort {
    QString address; ///< "serial:/dev/ttyUSB0"
    QString words;   ///< what the port says of itself
};
[[nodiscard]] std::vector<GaugePort> gauge_ports();

/// Opens a gauge's line: `local:NAME` is a local socket, `serial:PATH` a serial port or pseudo-terminal, `keys:PATH` a
/// gauge that is a keyboard to the computer. A signal `lost(why)` of the line comes when it breaks.
class GaugeLine : public QObject {
    Q_OBJECT
  public:
    /// @param profile how a serial port is set, and its foot switch
    /// @return why it cannot be listened to
    [[nodiscard]] static tl::expected<std::unique_ptr<GaugeLine>, block::Faults>
    open(const QString& address, const block::GaugeProfile& profile = {});
    ~GaugeLine() override;

    [[nodiscard]] QByteArray read_all() { return device_->readAll(); }
    [[nodiscard]] bool has_bytes() const { return device_->bytesAvailable() > 0; }
    void send(const std::string& bytes);
    void close(); ///< nothing is heard of it from here on

  Q_SIGNALS:
    void came(); ///< bytes
    void lost(const QString& why);
    void pedal(); ///< the foot switch was pressed

  private:
    GaugeLine() = default;
    [[nodiscard]] Outcome open_socket(const QString& address, const QString& name);
    [[nodiscard]] Outcome open_port(const QString& address, const QString& path, const block::GaugeProfile& profile);
    [[nodiscard]] Outcome open_keys(const QString& address, const QString& path);
    [[nodiscard]] Outcome listen_to_pedal(const QString& pedal);
    void look_at_pedal(int line);

    std::unique_ptr<QIODevice> device_, switch_;
    QTimer pedal_timer_;
    bool down_ = false; ///< the foot switch
};

} // namespace pallix::session
