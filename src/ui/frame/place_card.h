// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>

namespace pallix::ui {

/// The place a reading is wanted of, drawn large while somebody is reading: which end, which way, which side up, and
/// which way the needle goes when the value grows.
class PlaceCard : public QWidget {
    Q_OBJECT
  public:
    explicit PlaceCard(Context context, QWidget* parent = nullptr);
    void show_asked(const std::optional<planning::AskedReading>& asked, block::InstrumentKind instrument);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_round(QPainter& painter, const QRectF& box);
    void paint_levels(QPainter& painter, const QRectF& box);
    void paint_deck(QPainter& painter, const QRectF& box);
    void paint_dial(QPainter& painter, const QRectF& box);
    [[nodiscard]] QPen strong() const;
    void dot(QPainter& painter, QPointF at) const;

    Context context_;
    std::optional<planning::AskedReading> asked_;
    block::InstrumentKind instrument_ = block::InstrumentKind::bore_gauge;
};

} // namespace pallix::ui
