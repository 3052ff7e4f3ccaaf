// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/drawn_page.h"

#include "ui/frame/figure_line.h"

#include <QKeyEvent>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

DrawnPage::DrawnPage(Context context, Drawing* drawing, std::optional<wording::FiguresOf> figures, Table table,
                     QWidget* parent)
    : QWidget(parent), context_(context), drawing_(drawing), twin_(std::move(table)), both_(new QStackedWidget(this)) {
    both_->addWidget(drawing_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    column->addWidget(both_, 1);
    if (figures) {
        figures_ = new FigureLine(context, *figures, this);
        column->addWidget(figures_);
    }
    setFocusProxy(drawing_);
    connect(drawing_, &Drawing::pointed_at, this, &DrawnPage::marked);
    connect(drawing_, &Drawing::entered, this, &DrawnPage::entered);
}

/// Most are never asked for: it is made when it is.
PlainTable* DrawnPage::made_table() {
    if (table_)
        return table_;
    table_ = new PlainTable(drawing_->objectName() + QStringLiteral("-table"), drawing_->accessibleName(), this);
    both_->addWidget(table_);
    connect(table_, &PlainTable::row_entered, this, [this](int row) {
        Q_EMIT row_entered(row);
        Q_EMIT entered();
    });
    connect(table_, &PlainTable::row_chosen, this, [this](int row) {
        Q_EMIT row_marked(row);
        if (row >= 0 && row < static_cast<int>(ids_.size()))
            Q_EMIT marked(
                block::FeatureId(ids_[static_cast<std::size_t>(row)])); // who hears it may fill the table anew
    });
    return table_;
}

void DrawnPage::show_bore(const std::optional<block::FeatureId>& marked) {
    marked_ = marked;
    drawing_->mark(marked);
    drawing_->refresh();
    if (figures_)
        figures_->refresh(marked);
    if (shows_table())
        fill_table();
}

void DrawnPage::add_below(QWidget* widget) {
    auto* column = static_cast<QVBoxLayout*>(layout());
    column->insertWidget(figures_ ? column->count() - 1 : column->count(), widget);
}

void DrawnPage::fill_table() {
    TwinTable twin = twin_();
    ids_ = std::move(twin.ids);
    made_table()->show_rows(twin.heads, twin.words, twin.rows);
    const auto here = std::ranges::find_if(ids_, [this](const auto& id) { return marked_ == id; });
    if (here != ids_.end())
        table_->choose(static_cast<int>(here - ids_.begin()));
}

bool DrawnPage::shows_table() const {
    return table_ && both_->currentWidget() == table_;
}

void DrawnPage::show_table(bool table) {
    if (table)
        fill_table();
    both_->setCurrentWidget(table ? static_cast<QWidget*>(table_) : drawing_);
    setFocusProxy(both_->currentWidget());
    both_->currentWidget()->setFocus();
}

void DrawnPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_T && event->modifiers() == Qt::NoModifier)
        return show_table(!shows_table());
    QWidget::keyPressEvent(event);
}

} // namespace pallix::ui
