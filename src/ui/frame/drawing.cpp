// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/drawing.h"

#include <QKeyEvent>
#include <QLineF>
#include <QPainter>
#include <algorithm>

namespace pallix::ui {
namespace {

constexpr int fine_reach = 12; // px at 100 %, the width within which a mouse still hits a small thing

} // namespace

Drawing::Drawing(Context context, const QString& name, const QString& spoken, QWidget* parent)
    : Spoken(parent), context_(context) {
    setObjectName(name);
    setAccessibleName(spoken);
}

void Drawing::mark(const std::optional<block::FeatureId>& id) {
    const bool other = id != marked_;
    marked_ = id;
    update();
    if (other)
        say_changed();
}

std::vector<SpokenPart> Drawing::spoken() const {
    std::vector<SpokenPart> parts;
    for (const Thing& thing : things())
        parts.push_back({thing.name, thing.value, thing.where.toAlignedRect(), marked_ == thing.id});
    return parts;
}

void Drawing::press(std::size_t part) {
    if (const auto all = things(); part < all.size())
        Q_EMIT pointed_at(all[part].id);
}

std::optional<block::FeatureId> Drawing::thing_at(QPointF at) const {
    std::optional<block::FeatureId> nearest;
    double least = (touch() ? touch_height : fine_reach) * scale() / 2;
    for (const Thing& thing : things()) {
        const QPointF edge(std::clamp(at.x(), thing.where.left(), thing.where.right()),
                           std::clamp(at.y(), thing.where.top(), thing.where.bottom()));
        if (const double away = QLineF(at, edge).length(); away < least) {
            least = away;
            nearest = thing.id;
        }
    }
    return nearest;
}

void Drawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (const auto thing = thing_at(event->position()))
        Q_EMIT pointed_at(*thing);
}

void Drawing::keyPressEvent(QKeyEvent* event) {
    const auto all = things();
    const int key = event->key();
    if (!all.empty() && (key == Qt::Key_Return || key == Qt::Key_Enter)) {
        Q_EMIT entered();
        return;
    }
    const bool forward = key == Qt::Key_Right || key == Qt::Key_Down, back = key == Qt::Key_Left || key == Qt::Key_Up;
    if (all.empty() || (!forward && !back) || event->modifiers() != Qt::NoModifier)
        return Spoken::keyPressEvent(event);
    const auto here = std::ranges::find_if(all, [this](const Thing& t) { return marked_ == t.id; });
    std::ptrdiff_t i = here == all.end() ? (forward ? -1 : 1) : here - all.begin();
    i = std::clamp<std::ptrdiff_t>(i + (forward ? 1 : -1), 0, std::ssize(all) - 1);
    Q_EMIT pointed_at(all[static_cast<std::size_t>(i)].id);
}

void Drawing::focusInEvent(QFocusEvent* event) {
    Spoken::focusInEvent(event);
    update();
    say_changed();
}

void Drawing::focusOutEvent(QFocusEvent* event) {
    Spoken::focusOutEvent(event);
    update();
}

void Drawing::prepare(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(context_.palette().hairline, 1));
    painter.setBrush(context_.palette().panel);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    painter.setFont(font_of(Type::small));
}

void Drawing::paint_focus(QPainter& painter) const {
    if (!hasFocus())
        return;
    painter.setPen(QPen(context_.palette().accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
}

void Drawing::paint_empty(QPainter& painter, const QString& words) const {
    painter.setFont(font_of(Type::number));
    painter.setPen(context_.palette().quiet);
    painter.drawText(rect().adjusted(24, 0, -24, 0), Qt::AlignCenter | Qt::TextWordWrap, words);
}

void Drawing::write(QPainter& painter, const QRectF& box, int flags, const QString& words, Type type, bool bold) const {
    constexpr int least = 10; // px at 100 %
    QFont font = font_of(type, bold);
    while (font.pixelSize() > scaled(least) && QFontMetricsF(font).horizontalAdvance(words) > box.width())
        font.setPixelSize(font.pixelSize() - 1);
    painter.setFont(font);
    painter.drawText(box, flags, words);
}

void Drawing::paint_frame(QPainter& painter, const QRectF& box, bool strong) const {
    if (!strong)
        return;
    painter.setPen(QPen(context_.palette().accent, 2));
    painter.setBrush(context_.palette().selected);
    painter.drawRoundedRect(box, 8, 8);
}

} // namespace pallix::ui
