// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/stages.h"
#include "ui/context.h"

#include <QAbstractButton>
#include <QWidget>
#include <array>
#include <vector>

namespace pallix::ui {

/// The places of the bench a person can go to.
enum class Place { shop, block, tunnel, decks, cylinders, lifters, passport, engines };
inline constexpr std::array place_keys{"shop",      "block",   "tunnel",   "decks",
                                       "cylinders", "lifters", "passport", "engines"};

/// One stop of the route: its state as shape and word.
class RouteStop : public QAbstractButton {
    Q_OBJECT
  public:
    RouteStop(Context context, QString name, Place place, QWidget* parent);

    Place place() const { return place_; }
    void set_state(planning::StageMark mark, bool open_here, bool enabled);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;
    void set_bare() { bare_ = true; } ///< no stage, so no state

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QString name_;
    Place place_;
    planning::StageMark mark_ = planning::StageMark::open;
    bool open_here_ = false;
    bool bare_ = false;
};

/// On the left: the stages of the job and how each stands.
class RoutePanel : public QWidget {
    Q_OBJECT
  public:
    explicit RoutePanel(Context context, QWidget* parent = nullptr);
    void refresh(Place here);
    void set_foot(QWidget* widget); ///< below the last stop

  Q_SIGNALS:
    void chosen(Place place);
    void card_wanted(); ///< of the job: what it was received with

  protected:
    void paintEvent(QPaintEvent* event) override;
    void changeEvent(QEvent* event) override;

  private:
    Context context_;
    RouteStop *shop_, *engines_, *block_;
    std::vector<RouteStop*> stages_;
    std::vector<bool> own_page_; ///< of each stage
};

} // namespace pallix::ui
