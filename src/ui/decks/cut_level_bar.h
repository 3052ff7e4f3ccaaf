// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QAbstractSlider>
#include <vector>

namespace pallix::ui {

/// The cut level as a depth below the highest point: drag it, or step it with the arrow keys (one least step of the
/// unit shown; Page keys ten). Marks on the rail show where the lowest place, the target and the cut so far are.
class CutLevelBar : public QAbstractSlider {
    Q_OBJECT
  public:
    struct Mark {
        double depth = 0; ///< mm below the highest point
        QString name;
        bool above = true; ///< its name stands above the rail
    };

    explicit CutLevelBar(Context context, QWidget* parent = nullptr);

    /// @param deepest mm, the right end of the rail
    void set_scale(double deepest, std::vector<Mark> marks);
    void set_depth(double mm);
    [[nodiscard]] double depth() const; ///< mm
    QSize sizeHint() const override { return {480, 64}; }
    QSize minimumSizeHint() const override { return {240, 64}; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    [[nodiscard]] QRectF rail() const;
    [[nodiscard]] double x_of(double depth) const;
    void follow(QPointF position);

    Context context_;
    double deepest_ = 0.1;
    std::vector<Mark> marks_;
};

} // namespace pallix::ui
