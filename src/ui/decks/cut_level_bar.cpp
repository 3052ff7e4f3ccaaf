// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/cut_level_bar.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {
namespace {

constexpr double steps_per_mm = 10000; // the slider counts tenths of a micrometre

} // namespace

CutLevelBar::CutLevelBar(Context context, QWidget* parent) : QAbstractSlider(parent), context_(context) {
    setOrientation(Qt::Horizontal);
    fix_size(this, 0, 64);
    setFocusPolicy(Qt::StrongFocus);
    setObjectName(QStringLiteral("cut-level"));
    setAccessibleName(tr("cut level, depth below the highest point"));
    setToolTip(tr("Drag the cut level, or step it with the arrow keys (Ctrl+D goes here)"));
    setCursor(Qt::SizeHorCursor);
}

void CutLevelBar::set_scale(double deepest, std::vector<Mark> marks) {
    deepest_ = std::max(deepest, 1e-3);
    marks_ = std::move(marks);
    std::ranges::sort(marks_, {}, &Mark::depth);
    setRange(0, static_cast<int>(std::lround(deepest_ * steps_per_mm)));
    const double least = context_.preferences.unit() == block::Unit::inch ? 0.00254 : 0.001;
    setSingleStep(static_cast<int>(std::lround(least * steps_per_mm)));
    setPageStep(10 * singleStep());
    update();
}

void CutLevelBar::set_depth(double mm) {
    setValue(static_cast<int>(std::lround(mm * steps_per_mm)));
}
double CutLevelBar::depth() const {
    return value() / steps_per_mm;
}

QRectF CutLevelBar::rail() const {
    return QRectF(28_px, height() / 2.0 - 7_px, width() - 56.0_px, 14_px);
}

double CutLevelBar::x_of(double depth) const {
    return rail().left() + rail().width() * depth / deepest_;
}

void CutLevelBar::paintEvent(QPaintEvent*) {
    const Palette& p = context_.palette();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF r = rail();
    // What is above the level is cut to bright metal; below it stays iron.
    const double x = x_of(depth());
    painter.setPen(QPen(p.deck.edge, 1));
    painter.setBrush(p.deck.iron_high);
    painter.drawRect(r);
    painter.fillRect(QRectF(r.left() + 0.5, r.top() + 0.5, x - r.left(), r.height() - 1), p.deck.bright);
    painter.setFont(font_of(Type::small));
    std::array<double, 2> free_from{0, 0}; // per row, so that names do not run into each other
    for (const Mark& mark : marks_) {
        const double mx = x_of(mark.depth);
        painter.setPen(QPen(p.ink, 1.4));
        painter.drawLine(QPointF(mx, mark.above ? r.top() - 6_px : r.top()),
                         QPointF(mx, mark.above ? r.bottom() : r.bottom() + 6_px));
        painter.setPen(p.quiet);
        const double w = painter.fontMetrics().horizontalAdvance(mark.name) + 8;
        double& taken = free_from[mark.above ? 0 : 1];
        const double left = std::clamp(std::max(mx - w / 2, taken), 0.0, width() - w);
        taken = left + w + 6;
        painter.drawText(QRectF(left, mark.above ? r.top() - 24_px : r.bottom() + 6_px, w, 18_px), Qt::AlignCenter,
                         mark.name);
    }
    // The handle: a cutting edge.
    QPainterPath tool;
    tool.moveTo(x, r.bottom() + 3_px);
    tool.lineTo(x - 9_px, r.top() - 9_px);
    tool.lineTo(x + 9_px, r.top() - 9_px);
    tool.closeSubpath();
    painter.fillPath(tool, p.accent);
    if (hasFocus()) {
        painter.setPen(QPen(p.accent, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6_px, 6_px);
    }
}

void CutLevelBar::follow(QPointF position) {
    const QRectF r = rail();
    set_depth(std::clamp((position.x() - r.left()) / r.width(), 0.0, 1.0) * deepest_);
}

void CutLevelBar::mousePressEvent(QMouseEvent* event) {
    setSliderDown(true);
    follow(event->position());
}

void CutLevelBar::mouseMoveEvent(QMouseEvent* event) {
    if (isSliderDown())
        follow(event->position());
}

void CutLevelBar::mouseReleaseEvent(QMouseEvent*) {
    setSliderDown(false);
}

} // namespace pallix::ui
