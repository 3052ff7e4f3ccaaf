// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/line_drawing.h"

#include "ui/marks.h"

#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {
namespace {

constexpr double margin = 20, between_columns = 32, line_room = 12, heading_room = 22; // px at 100 %
constexpr double mark_width = 26;
constexpr int narrowest_column = 330, picture_height = 120;

/// What stands at the left and at the right of a line takes less where there are two columns.
double name_width(double column) {
    return column < 480_px ? 104_px : 148_px;
}
/// What stands at the right stands below in a narrow column.
bool aside_below(double column) {
    return column < 480_px;
}
double aside_width(double column) {
    return aside_below(column) ? 0 : 180_px;
}

} // namespace

LineDrawing::LineDrawing(Context context, const QString& name, const QString& spoken, QWidget* parent)
    : Drawing(context, name, spoken, parent) {
    setFocusPolicy(Qt::StrongFocus);
}

void LineDrawing::show_lines(std::vector<SheetLine> lines) {
    lines_ = std::move(lines);
    const auto here = std::ranges::find(lines_, marked_line_, &SheetLine::id);
    if (here == lines_.end())
        marked_line_.clear();
    update();
    say_changed();
}

void LineDrawing::mark_line(const QString& id) {
    if (id == marked_line_)
        return;
    marked_line_ = id;
    update();
    say_changed();
    Q_EMIT line_marked(id);
}

TwinTable LineDrawing::table(const QString& heads) const {
    TwinTable twin = TwinTable::headed(heads, 3);
    for (const SheetLine& line : lines_)
        if (!line.heading)
            twin.rows.push_back({line.name, line.words, line.aside});
    return twin;
}

double LineDrawing::height_of(const SheetLine& line, double width) const {
    if (line.heading)
        return QFontMetricsF(font_of(Type::number, true)).height() +
               (&line == &lines_.front() ? 4 : scaled(heading_room));
    const double room =
        width - name_width(width) - scaled(mark_width) - (line.aside.isEmpty() ? 0 : aside_width(width));
    const QRectF words = QFontMetricsF(font_of(Type::text))
                             .boundingRect(QRectF(0, 0, std::max(40.0, room), 1e4), Qt::TextWordWrap, line.words);
    const QRectF name = QFontMetricsF(font_of(Type::small))
                            .boundingRect(QRectF(0, 0, name_width(width) - 8, 1e4), Qt::TextWordWrap, line.name);
    return std::max({words.height(), name.height(), QFontMetricsF(font_of(Type::text)).height()}) + scaled(line_room) +
           (line.picture.isNull() ? 0 : scaled(picture_height) + 6) +
           (!line.aside.isEmpty() && aside_below(width) ? QFontMetricsF(font_of(Type::small)).height() : 0);
}

/// Down the first column, then down the second; a heading never stands alone at a column's end.
std::vector<LineDrawing::Laid> LineDrawing::laid_out() const {
    const double m = scaled(margin);
    const QRectF sheet = QRectF(rect()).adjusted(m, m, -m, -m);
    double needed = 0;
    for (const SheetLine& line : lines_)
        needed += height_of(line, sheet.width());
    const bool two = needed > sheet.height() && sheet.width() >= 2 * scaled(narrowest_column);
    const double width = two ? (sheet.width() - scaled(between_columns)) / 2 : sheet.width();
    std::vector<Laid> laid;
    laid.reserve(lines_.size());
    double x = sheet.left(), y = sheet.top();
    bool second = false;
    for (std::size_t i = 0; i < lines_.size(); ++i) {
        const double height = height_of(lines_[i], width);
        const double with_next =
            lines_[i].heading && i + 1 < lines_.size() ? height + height_of(lines_[i + 1], width) : height;
        if (y + with_next > sheet.bottom() + 0.5) {
            if (!two || second)
                break; // T has them all
            second = true;
            x += width + scaled(between_columns);
            y = sheet.top();
        }
        laid.push_back({i, {x, y, width, height}});
        y += height;
    }
    return laid;
}

void LineDrawing::paint_line(QPainter& painter, const SheetLine& line, const QRectF& box) const {
    const Palette& p = context_.palette();
    if (line.heading) {
        painter.setPen(p.ink);
        write(painter, box.adjusted(0, 0, 0, -4), Qt::AlignLeft | Qt::AlignBottom, line.name, Type::number, true);
        painter.setPen(QPen(p.hairline, 1));
        painter.drawLine(box.bottomLeft(), box.bottomRight());
        return;
    }
    const bool marked = !line.id.isEmpty() && line.id == marked_line_;
    paint_frame(painter, box.adjusted(-6, 0, 6, 0), marked);
    const double top = box.top() + scaled(line_room) / 2.0;
    if (line.mark)
        paint_mark(painter, QRectF(box.left(), top + 2, scaled(14), scaled(14)), *line.mark, p);
    const double left = box.left() + scaled(mark_width);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(left, top, name_width(box.width()) - 8, box.height()),
                     Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, line.name);
    const double aside = line.aside.isEmpty() ? 0 : aside_width(box.width());
    const QRectF words(left + name_width(box.width()), top, box.right() - left - name_width(box.width()) - aside,
                       box.height());
    if (line.words.isEmpty()) { // a gap, as on paper
        painter.setPen(QPen(p.hairline, 1.5, Qt::DotLine));
        const double y = box.bottom() - scaled(line_room) / 2.0;
        painter.drawLine(QPointF(words.left(), y), QPointF(words.right(), y));
    } else {
        painter.setFont(font_of(Type::text));
        painter.setPen(p.ink);
        painter.drawText(words, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, line.words);
    }
    if (!line.picture.isNull()) {
        const double height = scaled(picture_height);
        const QSizeF size = QSizeF(line.picture.size()).scaled(words.width(), height, Qt::KeepAspectRatio);
        painter.drawPixmap(QRectF(QPointF(words.left(), box.bottom() - scaled(line_room) / 2.0 - height), size),
                           line.picture, QRectF(line.picture.rect()));
    }
    painter.setPen(p.quiet);
    if (aside > 0)
        write(painter, QRectF(box.right() - aside + 8, top, aside - 8, QFontMetricsF(font_of(Type::text)).height()),
              Qt::AlignRight | Qt::AlignVCenter, line.aside, Type::small);
    else if (!line.aside.isEmpty())
        write(painter, QRectF(words.left(), box.top(), words.width(), box.height() - scaled(line_room) / 2.0),
              Qt::AlignLeft | Qt::AlignBottom, line.aside, Type::small);
}

void LineDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    if (lines_.empty())
        paint_empty(painter, empty_);
    const auto laid = laid_out();
    for (const Laid& one : laid)
        paint_line(painter, lines_[one.line], one.box);
    if (laid.size() < lines_.size()) {
        painter.setPen(context_.palette().quiet);
        write(painter, QRectF(rect()).adjusted(20, 0, -20, -4), Qt::AlignRight | Qt::AlignBottom,
              tr("%1 more: T shows all").arg(lines_.size() - laid.size()), Type::small);
    }
    paint_focus(painter);
}

std::vector<std::size_t> LineDrawing::markable() const {
    std::vector<std::size_t> all;
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (!lines_[i].id.isEmpty())
            all.push_back(i);
    return all;
}

void LineDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    for (const Laid& one : laid_out())
        if (one.box.contains(event->position()) && !lines_[one.line].id.isEmpty())
            return mark_line(lines_[one.line].id);
}

void LineDrawing::mouseDoubleClickEvent(QMouseEvent*) {
    if (!marked_line_.isEmpty())
        Q_EMIT line_entered(marked_line_);
}

void LineDrawing::keyPressEvent(QKeyEvent* event) {
    const auto all = markable();
    const int key = event->key();
    const bool forward = key == Qt::Key_Down || key == Qt::Key_Right, back = key == Qt::Key_Up || key == Qt::Key_Left;
    if (all.empty() || event->modifiers() != Qt::NoModifier)
        return Spoken::keyPressEvent(event);
    if ((key == Qt::Key_Return || key == Qt::Key_Enter) && !marked_line_.isEmpty()) {
        Q_EMIT line_entered(marked_line_);
        return;
    }
    if (!forward && !back)
        return Spoken::keyPressEvent(event);
    const auto here = std::ranges::find_if(all, [this](std::size_t i) { return lines_[i].id == marked_line_; });
    std::ptrdiff_t i = here == all.end() ? (forward ? -1 : 1) : here - all.begin();
    i = std::clamp<std::ptrdiff_t>(i + (forward ? 1 : -1), 0, std::ssize(all) - 1);
    mark_line(lines_[all[static_cast<std::size_t>(i)]].id);
}

std::vector<SpokenPart> LineDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    const auto laid = laid_out();
    parts.reserve(laid.size());
    for (const Laid& one : laid) {
        const SheetLine& line = lines_[one.line];
        const QString value = line.aside.isEmpty() ? line.words : line.words + QStringLiteral(", ") + line.aside;
        parts.push_back({line.name,
                         line.heading      ? QString()
                         : value.isEmpty() ? tr("nothing yet")
                                           : value,
                         one.box.toAlignedRect(), !line.id.isEmpty() && line.id == marked_line_, !line.id.isEmpty()});
    }
    return parts;
}

void LineDrawing::press(std::size_t part) {
    const auto laid = laid_out();
    if (part < laid.size() && !lines_[laid[part].line].id.isEmpty())
        mark_line(lines_[laid[part].line].id);
}

} // namespace pallix::ui
