// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/gauge_profile.h"
#include "block/units.h"
#include "planning/practice/coach.h"
#include "planning/readings/measuring.h"

#include <QByteArray>
#include <QObject>
#include <QStringList>
#include <memory>
#include <optional>
#include <vector>

class QSettings;

namespace pallix::session {

enum class Theme { light, dark };

/// What a person has set for themselves, kept between starts. Every key and its default stands in one place.
class Preferences : public QObject {
    Q_OBJECT
  public:
    /// @param file an INI file; empty for the person's own settings
    explicit Preferences(const QString& file = {}, QObject* parent = nullptr);
    ~Preferences() override;

    block::Unit unit() const { return unit_; }
    void set_unit(block::Unit unit);
    /// The first time: lengths as they are usually given where this machine stands.
    void begin_as_usual_here();
    /// "a4" or "letter"; empty: as is usual here.
    QString paper() const;
    void set_paper(const QString& paper);
    Theme theme() const { return theme_; }
    void set_theme(Theme theme);
    QString person() const;
    void set_person(const QString& person);
    /// Name of the instrument last used for one kind of measuring; empty where none was chosen.
    QString instrument_for(planning::Measuring what) const;
    void set_instrument_for(planning::Measuring what, const QString& name);
    /// Until when clocks were heard: what rang since is told at start. UTC, ISO 8601.
    std::string clocks_heard() const;
    void set_clocks_heard(const std::string& utc);
    QString last_gauge_address() const; ///< what a gauge was last listened to on
    void set_last_gauge_address(const QString& address);
    QString last_gauge() const; ///< name of the profile; empty: one that speaks the gauge protocol
    void set_last_gauge(const QString& name);
    /// Gauges that somebody has taught here; none where what is kept cannot be read.
    std::vector<block::GaugeProfile> gauge_profiles() const;
    /// In the place of one of the same name, or after the others.
    void keep_gauge_profile(const block::GaugeProfile& profile);
    void forget_gauge_profile(const std::string& name);
    QString stack_pieces() const; ///< blocks and shims of the shop, as they are typed
    void set_stack_pieces(const QString& pieces);
    /// Where jacks and screws stand along the block, as typed.
    QString jacks() const;
    void set_jacks(const QString& typed);
    /// The engine on the drawing board that is not on the shelf yet, as a file has it.
    QString draft() const;
    void set_draft(const QString& engine);
    /// How large everything is shown: 1 is 100 %.
    double size() const;
    void set_size(double size); ///< from 0.8 to 2
    /// How much the coach of a practice job says.
    planning::CoachDepth coach() const;
    void set_coach(planning::CoachDepth depth);
    /// Large targets and a keypad, for gloves and touch screens.
    bool touch() const;
    void set_touch(bool touch);
    QByteArray geometry() const;
    void set_geometry(const QByteArray& geometry);
    QStringList recent_files() const; ///< newest first
    void add_recent_file(const QString& file);

  Q_SIGNALS:
    void unit_changed();
    void theme_changed();
    void person_changed();
    void size_changed();
    void coach_changed();

  private:
    std::unique_ptr<QSettings> settings_;
    block::Unit unit_;
    Theme theme_;
};

} // namespace pallix::session
