// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/gauge_profile.h"
#include "session/gauge_line.h"
#include "session/session.h"

#include <QObject>
#include <QString>
#include <QStringList>
#include <QTimer>
#include <map>
#include <memory>
#include <optional>
#include <string>

namespace pallix::session {

/// Listens to a gauge or probe on a line (gauge_line.h): one that speaks the gauge protocol, or one that was taught.
/// Readings are handed on as they come; touches of a probe go to the shop book line by line and become one log entry
/// when the log is whole. A line that breaks loses nothing that arrived and says so.
class GaugeLink : public QObject {
    Q_OBJECT
  public:
    explicit GaugeLink(Session& session, QObject* parent = nullptr);
    ~GaugeLink() override;

    /// @param profile of a gauge that was taught; nothing: it speaks the gauge protocol
    /// @return why it cannot be listened to
    [[nodiscard]] Outcome open(const QString& address, const std::optional<block::GaugeProfile>& profile = {});
    void close();
    [[nodiscard]] bool is_open() const { return line_ != nullptr; }
    [[nodiscard]] bool answers_when_asked() const { return line_ && profile_ && !profile_->request.empty(); }
    void ask(); ///< for a reading
    [[nodiscard]] QString name() const { return name_; }
    [[nodiscard]] QString address() const { return address_; }
    [[nodiscard]] std::size_t readings() const { return readings_; }

    /// Takes what a probe has sent so far in as a log: for a log that was cut off.
    /// @param sure the person was asked about what is doubtful of it
    [[nodiscard]] Outcome take_in_touches(bool sure = false);

  Q_SIGNALS:
    void reading(const block::GaugeReading& reading);
    void said(const QString& message, bool fault); ///< for the person to read
    void changed();                                ///< opened, closed, name known, touches arrived

  private:
    void read();
    void take(const block::GaugeLine& line);
    void take_items(std::vector<block::GaugeLineReader::Item> items);
    void take_by_foot();
    [[nodiscard]] bool waits_for_foot() const {
        return profile_ && !profile_->pedal.empty() && profile_->request.empty();
    }
    [[nodiscard]] bool counts(std::int64_t number, const std::string& words, const QString& what);
    void lost(const QString& why);
    void stream(const std::string& line);
    void write_down();
    void end_log();
    void put_away_touches();
    void tell_what_waits();

    Session& session_;
    std::unique_ptr<session::GaugeLine> line_;
    block::GaugeLineReader reader_;
    std::optional<block::GaugeProfile> profile_;
    std::optional<block::GaugeReading> held_; ///< what it sent last, until the foot switch is pressed
    QTimer pausing_;                          ///< of a gauge whose lines nothing ends
    QString address_;
    QString name_;
    std::int64_t last_number_ = 0;
    std::map<std::int64_t, std::string> recent_; ///< what was sent under the last numbers
    QStringList unwritten_;                      ///< lines of a log that go to the disk together, in a moment
    QTimer writing_;
    std::optional<storage::JobId> log_job_; ///< the job that the log being sent came for
    std::size_t readings_ = 0;
    bool greeted_ = false;
    bool fresh_log_ = true; ///< the next line of a log starts a new one
};

} // namespace pallix::session
