// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"

#include <QByteArray>
#include <QObject>
#include <QStringList>
#include <memory>
#include <optional>

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
    Theme theme() const { return theme_; }
    void set_theme(Theme theme);
    QString person() const;
    void set_person(const QString& person);
    /// Standard uncertainty of the height gauge in use, mm; nothing until someone states it.
    std::optional<double> gauge_uncertainty() const;
    void set_gauge_uncertainty(std::optional<double> mm);
    QByteArray geometry() const;
    void set_geometry(const QByteArray& geometry);
    QStringList recent_files() const; ///< newest first
    void add_recent_file(const QString& file);

  Q_SIGNALS:
    void unit_changed();
    void theme_changed();
    void person_changed();

  private:
    std::unique_ptr<QSettings> settings_;
    block::Unit unit_;
    Theme theme_;
};

} // namespace pallix::session
