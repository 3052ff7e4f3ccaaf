// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/truth_picture.h"
#include "ui/frame/drawing.h"
#include "workshop/practice/exercise.h"

#include <optional>
#include <vector>

namespace pallix::ui {

/// How the block of an exercise is, larger than life. What is pulled there, with the mouse or the arrow keys, is to be
/// wrong by so much.
class ExerciseDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit ExerciseDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {520, 480}; }

    void show_exercise(const workshop::Exercise& exercise);
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    /// Of the block as drawn.
    [[nodiscard]] const std::vector<workshop::Shape>& sound() const { return sound_; }

  Q_SIGNALS:
    void pulled(std::size_t shape, std::size_t part, double length); ///< mm, as the shape has it

  protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    using Place = reporting::TruthPicture::Place;
    void pull(QPointF to);
    void walk(int by);
    [[nodiscard]] double length_of(const Place& place) const;

    std::vector<workshop::Shape> sound_;
    QStringList names_;
    std::optional<reporting::TruthPicture> picture_;
    std::optional<Place> marked_;
    bool pulling_ = false;
};

} // namespace pallix::ui
