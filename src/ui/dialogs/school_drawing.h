// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/school_work.h"
#include "ui/frame/drawing.h"

namespace pallix::ui {

/// What came of each way of planning a job: a row for each, a strip for each figure, a ring for each block that it was
/// tried on, all of a figure to one scale. One row is chosen.
class SchoolDrawing final : public Drawing {
    Q_OBJECT
  public:
    SchoolDrawing(Context context, const session::SchoolWork& work, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {860, 420}; }

    [[nodiscard]] std::size_t chosen() const { return chosen_; }
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override { choose(part); }

  Q_SIGNALS:
    void chosen_changed();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    void choose(std::size_t row);
    [[nodiscard]] QRectF row(std::size_t school) const;
    [[nodiscard]] QRectF cell(std::size_t school, std::size_t figure) const;
    /// Of all that was tried, least and most.
    [[nodiscard]] std::pair<double, double> range(workshop::TriedFigure figure) const;
    [[nodiscard]] QString words(workshop::TriedFigure figure, double value) const;
    void paint_strip(QPainter& painter, std::size_t school, std::size_t figure) const;

    const session::SchoolWork& work_;
    std::size_t chosen_ = 0;
};

} // namespace pallix::ui
