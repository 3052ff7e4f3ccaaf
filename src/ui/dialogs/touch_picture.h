// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/unnamed/named_log.h"
#include "ui/context.h"
#include "ui/frame/spoken.h"

#include <QPolygonF>
#include <vector>

namespace pallix::ui {

/// Touches of a log that names none, seen from above and from the rear: runs of them as holes and faces, with what each
/// is taken for. One of them is marked, by pointing or by the arrow keys.
class TouchPicture : public Spoken {
    Q_OBJECT
  public:
    explicit TouchPicture(Context context, QWidget* parent = nullptr);
    /// @param touches as the log has them @param named what they are taken for
    void show_touches(const std::vector<block::LooseTouch>& touches, const block::NamedLog& named);
    void mark(std::size_t group);
    [[nodiscard]] std::size_t marked() const { return marked_; }
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;
    QSize minimumSizeHint() const override { return {600, 260}; }

  Q_SIGNALS:
    void pointed_at(std::size_t group);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// A run of touches as it is drawn: its outline from above and from the rear.
    struct Drawn {
        QPolygonF above, rear;
        bool face = false;
        QString place, name; ///< without its level, and with it; "?" where it is left out
        block::TouchName::Sure sure{};
        QString how; ///< how sure, and how far from the blueprint's place
    };
    void lay_out();
    [[nodiscard]] QColor colour_of(const Drawn& run) const;
    [[nodiscard]] QRectF name_box(const Drawn& run, bool marked) const;
    void paint_run(QPainter& painter, const Drawn& run, const QPolygonF& outline, bool marked) const;
    void paint_name(QPainter& painter, const Drawn& run, bool marked) const;

    Context context_;
    std::vector<std::vector<metrology::Vec3>> places_; ///< of the runs, in the block's axes
    std::vector<Drawn> drawn_;
    std::size_t marked_ = 0;
};

} // namespace pallix::ui
