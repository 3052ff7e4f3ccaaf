// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument_event.h"
#include "planning/shop/instrument_care.h"
#include "ui/frame/drawing.h"

#include <vector>

namespace pallix::ui {

/// What happened to an instrument, along the time: how much too large checks found it, when its zero was set, when it
/// was repaired, when it is to be checked again.
class InstrumentHistoryDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit InstrumentHistoryDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {420, 210}; }

    void show_history(const block::Instrument& instrument, block::InstrumentHistory history,
                      const planning::InstrumentRecord& record);
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] QRectF field() const;
    [[nodiscard]] double x_of(const std::string& time) const;
    [[nodiscard]] double y_of(double error) const;
    void paint_scale(QPainter& painter) const;
    void paint_event(QPainter& painter, const block::InstrumentEvent& event) const;
    void paint_day(QPainter& painter, const std::string& day, const QString& words, const QColor& colour) const;

    block::InstrumentHistory history_;
    planning::InstrumentRecord record_;
    double sure_ = 0; ///< mm, twice its standard uncertainty; 0 where that was not stated
    double most_ = 0; ///< mm, up and down
    std::string from_, until_, today_;
};

} // namespace pallix::ui
