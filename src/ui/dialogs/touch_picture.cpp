// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/touch_picture.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace pallix::ui {

using block::TouchGroup;
using block::TouchName;
using metrology::Vec3;

namespace {

/// A log's place in the block's axes, as far as they are known by now.
Vec3 in_axes(Vec3 p, const std::array<block::LogAxis, 3>& axes) {
    const std::array<double, 3> from{p.x, p.y, p.z};
    const auto along = [&](std::size_t i) {
        const double value = from[static_cast<std::size_t>(axes[i].from)];
        return axes[i].turned ? -value : value;
    };
    return {along(0), along(1), along(2)};
}

/// A hole's circle, or a face's touches.
std::vector<Vec3> outline_of(const TouchGroup& g, const std::vector<block::LooseTouch>& touches) {
    std::vector<Vec3> all;
    if (g.kind == TouchGroup::Kind::hole) {
        const metrology::PlaneBasis basis = metrology::plane_basis(g.axis);
        constexpr int corners = 36;
        for (int i = 0; i < corners; ++i) {
            const double t = 2 * std::numbers::pi * i / corners;
            all.push_back(g.centre + g.radius * (std::cos(t) * basis.first + std::sin(t) * basis.second));
        }
        return all;
    }
    for (std::size_t i = g.first; i < g.first + g.count; ++i)
        all.push_back(touches[i].position);
    return all;
}

QString name_words(const TouchName& name) {
    if (!name.id)
        return QStringLiteral("?");
    return qt(name.id->text()) + (name.level.empty() ? QString() : QLatin1Char(' ') + qt(name.level));
}

QString sure_words(TouchName::Sure sure) {
    switch (sure) {
    case TouchName::Sure::stated:
        return QObject::tr("pointed at");
    case TouchName::Sure::sure:
        return QObject::tr("sure");
    case TouchName::Sure::likely:
        return QObject::tr("likely");
    case TouchName::Sure::unknown:
        break;
    }
    return QObject::tr("left out");
}

} // namespace

TouchPicture::TouchPicture(Context context, QWidget* parent) : Spoken(parent), context_(context) {
    setObjectName(QStringLiteral("touch-picture"));
    setAccessibleName(tr("the touches, from above and from the rear; point at a hole or a face to say what it is"));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
}

void TouchPicture::show_touches(const std::vector<block::LooseTouch>& touches, const block::NamedLog& named) {
    places_.clear();
    drawn_.clear();
    for (std::size_t i = 0; i < named.groups.size(); ++i) {
        const TouchGroup& g = named.groups[i];
        const TouchName& name = named.named.names[i];
        const auto how_sure = [this](const TouchName& n) {
            return n.off > 0 ? tr("%1, %2 from the blueprint's place")
                                   .arg(sure_words(n.sure), qt(context_.lengths().with_unit(n.off)))
                             : sure_words(n.sure);
        };
        std::vector<Vec3> outline = outline_of(g, touches);
        for (Vec3& p : outline)
            p = in_axes(p, named.named.axes);
        places_.push_back(std::move(outline));
        drawn_.push_back({{},
                          {},
                          g.kind != TouchGroup::Kind::hole,
                          name.id ? qt(name.id->text()) : QStringLiteral("?"),
                          name_words(name),
                          name.sure,
                          how_sure(name)});
    }
    marked_ = drawn_.empty() ? 0 : std::min(marked_, drawn_.size() - 1);
    lay_out();
    update();
    say_changed();
}

void TouchPicture::mark(std::size_t group) {
    marked_ = group;
    update();
    say_changed();
}

std::vector<SpokenPart> TouchPicture::spoken() const {
    std::vector<SpokenPart> parts;
    for (std::size_t i = 0; i < drawn_.size(); ++i)
        parts.push_back({drawn_[i].face ? tr("face %1").arg(i + 1) : tr("hole %1").arg(i + 1),
                         tr("%1, %2").arg(drawn_[i].name, drawn_[i].how),
                         drawn_[i].above.boundingRect().toAlignedRect(), i == marked_});
    return parts;
}

void TouchPicture::press(std::size_t part) {
    if (part < drawn_.size())
        Q_EMIT pointed_at(part);
}

/// From above to the left, from the rear to the right, at one scale.
void TouchPicture::lay_out() {
    Vec3 low{1e9, 1e9, 1e9}, high{-1e9, -1e9, -1e9};
    for (const auto& run : places_)
        for (const Vec3 p : run) {
            low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
        }
    if (places_.empty())
        return;
    const double margin = scaled(28), between = scaled(40);
    const double wide = std::max(1.0, high.x - low.x) + std::max(1.0, high.y - low.y);
    const double tall = std::max({1.0, high.y - low.y, high.z - low.z});
    const double scale = std::min((width() - 2 * margin - between) / wide, (height() - 2 * margin) / tall);
    const double left = (width() - wide * scale - between) / 2, rear_left = left + (high.x - low.x) * scale + between;
    const double middle = height() / 2.0 + scaled(8);
    for (std::size_t i = 0; i < places_.size(); ++i) {
        drawn_[i].above.clear();
        drawn_[i].rear.clear();
        for (const Vec3 p : places_[i]) {
            // Seen from above with the front to the left, what is right from the rear lies at the top.
            drawn_[i].above << QPointF(left + (p.x - low.x) * scale, middle - (p.y - (low.y + high.y) / 2) * scale);
            drawn_[i].rear << QPointF(rear_left + (p.y - low.y) * scale, middle - (p.z - (low.z + high.z) / 2) * scale);
        }
    }
}

void TouchPicture::resizeEvent(QResizeEvent* event) {
    Spoken::resizeEvent(event);
    lay_out();
}

/// Sure ones in ink, likely ones in the accent's colour, the rest quiet.
QColor TouchPicture::colour_of(const Drawn& run) const {
    const Palette& p = context_.palette();
    const bool likely = run.sure == TouchName::Sure::likely;
    return run.place == QLatin1String("?") ? p.quiet : likely ? p.accent : p.ink;
}

/// What is left out is dashed, besides its question mark.
void TouchPicture::paint_run(QPainter& painter, const Drawn& run, const QPolygonF& outline, bool marked) const {
    const Palette& p = context_.palette();
    const QColor colour = colour_of(run);
    const bool unknown = run.place == QLatin1String("?");
    painter.setPen(QPen(colour, marked ? 3 : 1.4, unknown ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(marked ? QBrush(p.selected) : QBrush(Qt::NoBrush));
    if (run.face) {
        painter.setBrush(colour);
        const double r = scaled(marked ? 4 : 2);
        for (const QPointF at : outline)
            painter.drawEllipse(at, r, r);
    } else {
        painter.drawPolygon(outline);
    }
}

QRectF TouchPicture::name_box(const Drawn& run, bool marked) const {
    const QString& words = marked ? run.name : run.place;
    const QSizeF size(QFontMetricsF(font_of(Type::small, marked)).horizontalAdvance(words) + 6, scaled(18));
    QRectF box(QPointF(), size);
    box.moveCenter(run.above.boundingRect().center());
    box.moveLeft(std::clamp(box.left(), 2.0, std::max(2.0, width() - size.width() - 2)));
    return box;
}

/// What is marked with its level, on a ground of its own.
void TouchPicture::paint_name(QPainter& painter, const Drawn& run, bool marked) const {
    painter.setFont(font_of(Type::small, marked));
    const QRectF box = name_box(run, marked);
    painter.fillRect(box, context_.palette().panel);
    painter.setPen(colour_of(run));
    painter.drawText(box, Qt::AlignCenter, marked ? run.name : run.place);
}

void TouchPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Palette& p = context_.palette();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), p.panel);
    for (std::size_t i = 0; i < drawn_.size(); ++i)
        if (i != marked_) {
            paint_run(painter, drawn_[i], drawn_[i].above, false);
            paint_run(painter, drawn_[i], drawn_[i].rear, false);
        }
    // A name once for each place, where it fits into it and none is written over another.
    std::vector<QRectF> written;
    std::set<QString> named;
    for (std::size_t i = 0; i < drawn_.size(); ++i) {
        const QRectF box = drawn_[i].above.boundingRect();
        const QRectF at = name_box(drawn_[i], false);
        const bool fits = box.width() > 0.6 * at.width() && box.height() > at.height();
        const bool free = std::ranges::none_of(written, [&](const QRectF& other) { return other.intersects(at); });
        if (i == marked_ || !fits || !free || !named.insert(drawn_[i].place).second)
            continue;
        written.push_back(at);
        paint_name(painter, drawn_[i], false);
    }
    if (marked_ < drawn_.size()) {
        paint_run(painter, drawn_[marked_], drawn_[marked_].rear, true);
        paint_run(painter, drawn_[marked_], drawn_[marked_].above, true);
        paint_name(painter, drawn_[marked_], true);
        painter.setFont(font_of(Type::small, true));
        painter.setPen(p.ink);
        painter.drawText(QRectF(width() * 0.25, scaled(4), width() * 0.5, scaled(20)), Qt::AlignHCenter,
                         tr("%1: %2").arg(drawn_[marked_].name, drawn_[marked_].how));
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(scaled(8), scaled(4), width() / 2.0, scaled(20)), Qt::AlignLeft,
                     tr("from above, front to the left"));
    painter.drawText(QRectF(width() / 2.0, scaled(4), width() / 2.0 - scaled(8), scaled(20)), Qt::AlignRight,
                     tr("from the rear"));
    if (hasFocus()) {
        painter.setPen(QPen(p.accent, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

void TouchPicture::mousePressEvent(QMouseEvent* event) {
    setFocus();
    // The smallest thing under the hand; of several as near, the one after the one that is marked.
    std::vector<std::pair<double, std::size_t>> near;
    const double reach = scaled(10);
    for (std::size_t i = 0; i < drawn_.size(); ++i)
        for (const QPolygonF* outline : {&drawn_[i].above, &drawn_[i].rear}) {
            const QRectF box = outline->boundingRect().adjusted(-reach, -reach, reach, reach);
            if (box.contains(event->position()))
                near.emplace_back(std::round(std::hypot(box.width(), box.height())), i);
        }
    if (near.empty())
        return;
    std::ranges::sort(near);
    const double least = near.front().first + 4;
    std::erase_if(near, [&](const auto& n) { return n.first > least; });
    const auto after = std::ranges::find_if(near, [&](const auto& n) { return n.second > marked_; });
    Q_EMIT pointed_at(after == near.end() ? near.front().second : after->second);
}

void TouchPicture::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    const bool forward = key == Qt::Key_Right || key == Qt::Key_Down, back = key == Qt::Key_Left || key == Qt::Key_Up;
    if (drawn_.empty() || (!forward && !back))
        return Spoken::keyPressEvent(event);
    if (forward && marked_ + 1 < drawn_.size())
        Q_EMIT pointed_at(marked_ + 1);
    else if (back && marked_ > 0)
        Q_EMIT pointed_at(marked_ - 1);
}

} // namespace pallix::ui
