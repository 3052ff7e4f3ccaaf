// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/explained_label.h"

#include "ui/context.h"
#include "ui/manual_help.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

namespace pallix::ui {

ExplainedLabel::ExplainedLabel(QWidget* parent) : PlainLabel(parent) {
    setWordWrap(true);
    setMouseTracking(true);
}

/// As a label of plain words lays them out, which it does not tell.
void ExplainedLabel::lay_out() const {
    const QString now = text() + QLatin1Char('\n') + QString::number(contentsRect().width()) + font().toString();
    if (now == laid_out_)
        return;
    laid_out_ = now;
    words_.clear();
    const std::string sentence = text().toStdString();
    QList<QTextLayout::FormatRange> formats;
    for (const wording::WordInText& word : shipped_manual().words_in(sentence)) {
        const auto length = [&sentence](std::size_t from, std::size_t size) {
            return static_cast<int>(qt(sentence.substr(from, size)).size());
        };
        words_.push_back({length(0, word.begin), length(word.begin, word.size), qt(word.section->id)});
        QTextLayout::FormatRange range;
        range.start = words_.back().begin;
        range.length = words_.back().size;
        range.format.setUnderlineStyle(QTextCharFormat::DotLine);
        formats << range;
    }
    QTextOption option;
    option.setWrapMode(QTextOption::WordWrap);
    layout_.setText(text().replace(QLatin1Char('\n'), QChar(QChar::LineSeparator)));
    layout_.setFont(font());
    layout_.setTextOption(option);
    layout_.setFormats(formats);
    layout_.beginLayout();
    double height = 0;
    for (QTextLine line = layout_.createLine(); line.isValid(); line = layout_.createLine()) {
        line.setLeadingIncluded(true); // as a label of plain words does
        line.setLineWidth(contentsRect().width());
        line.setPosition({0, height});
        height += line.height();
    }
    layout_.endLayout();
}

QString ExplainedLabel::explained_at(const QPoint& at) const {
    lay_out();
    const QPointF within = at - contentsRect().topLeft();
    for (int i = 0; i < layout_.lineCount(); ++i) {
        const QTextLine line = layout_.lineAt(i);
        if (!line.naturalTextRect().contains(within))
            continue;
        const int letter = line.xToCursor(within.x(), QTextLine::CursorOnCharacter);
        const auto word = std::ranges::find_if(
            words_, [letter](const Word& w) { return letter >= w.begin && letter < w.begin + w.size; });
        return word == words_.end() ? QString() : word->id;
    }
    return {};
}

QPoint ExplainedLabel::place_of(const QString& id) const {
    lay_out();
    const auto word = std::ranges::find(words_, id, &Word::id);
    if (word == words_.end())
        return {-1, -1};
    const QTextLine line = layout_.lineForTextPosition(word->begin);
    return contentsRect().topLeft() +
           QPoint(static_cast<int>(line.cursorToX(word->begin)) + 2, static_cast<int>(line.y() + line.height() / 2));
}

bool ExplainedLabel::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip)
        return PlainLabel::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    if (const auto* word = shipped_manual().find(explained_at(help->pos()).toStdString()))
        QToolTip::showText(help->globalPos(), plain_tip(qt(word->title + ": " + wording::Manual::meaning(*word))),
                           this);
    else
        QToolTip::hideText();
    return true;
}

void ExplainedLabel::paintEvent(QPaintEvent*) {
    lay_out();
    QPainter painter(this);
    painter.setPen(palette().color(QPalette::WindowText));
    layout_.draw(&painter, contentsRect().topLeft());
}

void ExplainedLabel::mouseMoveEvent(QMouseEvent* event) {
    const bool over = !explained_at(event->position().toPoint()).isEmpty();
    setCursor(over ? Qt::PointingHandCursor : Qt::ArrowCursor);
    PlainLabel::mouseMoveEvent(event);
}

void ExplainedLabel::mouseReleaseEvent(QMouseEvent* event) {
    const QString id = explained_at(event->position().toPoint());
    if (event->button() == Qt::LeftButton && !id.isEmpty())
        show_manual(this, id);
    else
        PlainLabel::mouseReleaseEvent(event);
}

} // namespace pallix::ui
