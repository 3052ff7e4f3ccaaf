// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/exercise_drawing.h"

#include "wording/practice/practice_words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <set>

namespace pallix::ui {
namespace {

using workshop::Shape;
using workshop::ShapeOf;
using workshop::ShapePart;

constexpr double widest = 0.1; // mm that a panel spans, so that a pull goes somewhere

} // namespace

ExerciseDrawing::ExerciseDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("exercise-truth"), tr("how the block of the exercise is"), parent) {
    setFocusPolicy(Qt::StrongFocus);
}

void ExerciseDrawing::show_exercise(const workshop::Exercise& exercise) {
    const block::Blueprint& b = exercise.blueprint;
    const workshop::SimulatedBlock sound(b, workshop::as_drawn(b), {}, 1), now(b, exercise.truth.block, {}, 1);
    sound_ = workshop::shapes_of(sound, sound, {});
    std::vector<Shape> shapes = workshop::shapes_of(sound, now, workshop::drawn_limits(b));
    if (marked_ && (marked_->shape >= shapes.size() || marked_->part >= shapes[marked_->shape].parts.size()))
        marked_.reset();
    if (pulling_ && picture_) // to the same scale until it is let go
        picture_->show(std::move(shapes));
    else {
        names_.clear();
        for (const Shape& shape : shapes)
            names_ << qt(wording::shape_name(b, shape));
        picture_.emplace(std::move(shapes), names_, std::set<std::string>(), widest);
    }
    update();
    say_changed();
}

void ExerciseDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    if (picture_)
        picture_->paint(painter, QRectF(rect()).adjusted(10_px, 8_px, -10_px, -4_px),
                        {p.panel, p.ink, p.quiet, p.hairline, p.selected, p.fails}, font_of(Type::small),
                        context_.lengths(), hasFocus() ? marked_ : std::nullopt);
    paint_focus(painter);
}

double ExerciseDrawing::length_of(const Place& place) const {
    return picture_->shapes()[place.shape].parts[place.part].is_low;
}

void ExerciseDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    marked_ = picture_ ? picture_->at(event->position()) : std::nullopt;
    pulling_ = marked_.has_value();
    update();
    say_changed();
}

void ExerciseDrawing::mouseMoveEvent(QMouseEvent* event) {
    if (pulling_)
        pull(event->position());
}

void ExerciseDrawing::mouseReleaseEvent(QMouseEvent*) {
    if (std::exchange(pulling_, false) && picture_) { // to a scale that fits it again
        picture_.emplace(std::vector<Shape>(picture_->shapes()), names_, std::set<std::string>(), widest);
        update();
    }
}

void ExerciseDrawing::pull(QPointF to) {
    Q_EMIT pulled(marked_->shape, marked_->part, picture_->length_at(marked_->shape, to.y()));
}

/// Through all places, shape by shape; of a deck its ends and every quarter.
void ExerciseDrawing::walk(int by) {
    std::vector<Place> all;
    for (std::size_t s = 0; s < picture_->shapes().size(); ++s) {
        const std::size_t parts = picture_->shapes()[s].parts.size();
        const std::size_t step = picture_->shapes()[s].what == ShapeOf::deck ? std::max<std::size_t>(1, parts / 4) : 1;
        for (std::size_t p = 0; p < parts; p += step)
            all.push_back({s, p});
    }
    if (all.empty())
        return;
    const auto here = marked_ ? std::ranges::find(all, *marked_) : all.end();
    std::ptrdiff_t i = here == all.end() ? (by > 0 ? -1 : 0) : here - all.begin();
    i = std::clamp<std::ptrdiff_t>(i + by, 0, std::ssize(all) - 1);
    marked_ = all[static_cast<std::size_t>(i)];
    update();
    say_changed();
}

void ExerciseDrawing::keyPressEvent(QKeyEvent* event) {
    constexpr double fine = 0.005, coarse = 0.05; // mm
    const int key = event->key();
    if (!picture_)
        return Drawing::keyPressEvent(event);
    if (key == Qt::Key_Left || key == Qt::Key_Right)
        return walk(key == Qt::Key_Right ? 1 : -1);
    if (marked_ && (key == Qt::Key_Up || key == Qt::Key_Down)) {
        const double by = event->modifiers().testFlag(Qt::ShiftModifier) ? coarse : fine;
        Q_EMIT pulled(marked_->shape, marked_->part, length_of(*marked_) + (key == Qt::Key_Up ? by : -by));
        return;
    }
    Drawing::keyPressEvent(event);
}

std::vector<SpokenPart> ExerciseDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    if (!picture_)
        return parts;
    for (std::size_t s = 0; s < picture_->shapes().size(); ++s) {
        const Shape& shape = picture_->shapes()[s];
        if (shape.what == ShapeOf::deck)
            continue; // its places have no name
        for (std::size_t i = 0; i < shape.parts.size(); ++i)
            parts.push_back({names_[static_cast<qsizetype>(s)] + QLatin1String(", ") + qt(shape.parts[i].about),
                             qt(context_.lengths().side_with_unit(shape.parts[i].is_low, "over", "under")), QRect(),
                             marked_ == Place{s, i}, false});
    }
    return parts;
}

} // namespace pallix::ui
