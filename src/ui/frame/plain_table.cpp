// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/plain_table.h"

#include "block/reading_text.h"
#include "ui/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>
#include <QSignalBlocker>

namespace pallix::ui {
namespace {

/// A cell that is sorted as the number it shows, where it shows one.
class Cell : public QTableWidgetItem {
  public:
    using QTableWidgetItem::QTableWidgetItem;
    bool operator<(const QTableWidgetItem& other) const override {
        const auto mine = block::read_number(text().toStdString()),
                   others = block::read_number(other.text().toStdString());
        return mine && others ? *mine < *others : text() < other.text();
    }
};

} // namespace

PlainTable::PlainTable(const QString& name, const QString& spoken, QWidget* parent) : QTableWidget(parent) {
    setObjectName(name);
    setAccessibleName(spoken);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setShowGrid(false);
    setTabKeyNavigation(false);
    setToolTip(tr("T goes back to the drawing; Ctrl+C copies the table"));
    verticalHeader()->hide();
    set_type(this, Type::text);
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (const QTableWidgetItem* first = item(row, 0))
            Q_EMIT row_chosen(first->data(Qt::UserRole).toInt());
    });
    connect(this, &QTableWidget::cellDoubleClicked, this, &PlainTable::enter);
}

void PlainTable::enter(int row) {
    if (const QTableWidgetItem* first = item(row, 0))
        Q_EMIT row_entered(first->data(Qt::UserRole).toInt());
}

void PlainTable::show_rows(const QStringList& heads, int words, const std::vector<QStringList>& rows) {
    const QSignalBlocker quiet(this);
    setSortingEnabled(false);
    setColumnCount(static_cast<int>(heads.size()));
    setHorizontalHeaderLabels(heads);
    setRowCount(static_cast<int>(rows.size()));
    verticalHeader()->setDefaultSectionSize(scaled(28));
    const auto side = [words](int c) { return (c < words ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter; };
    for (int c = 0; c < columnCount(); ++c) {
        horizontalHeader()->setSectionResizeMode(c, c < words ? QHeaderView::ResizeToContents : QHeaderView::Stretch);
        horizontalHeaderItem(c)->setTextAlignment(side(c));
    }
    for (int r = 0; r < rowCount(); ++r)
        for (int c = 0; c < columnCount(); ++c) {
            auto* cell = new Cell(rows[static_cast<std::size_t>(r)].value(c));
            cell->setTextAlignment(side(c));
            cell->setData(Qt::UserRole, r);
            setItem(r, c, cell);
        }
    horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
    setSortingEnabled(true);
}

void PlainTable::choose(int row) {
    const QSignalBlocker quiet(this);
    for (int r = 0; r < rowCount(); ++r)
        if (item(r, 0)->data(Qt::UserRole).toInt() == row)
            selectRow(r);
}

QString PlainTable::as_text() const {
    QString text;
    for (int c = 0; c < columnCount(); ++c)
        text += (c > 0 ? QStringLiteral("\t") : QString()) + horizontalHeaderItem(c)->text();
    for (int r = 0; r < rowCount(); ++r) {
        text += QLatin1Char('\n');
        for (int c = 0; c < columnCount(); ++c)
            text += (c > 0 ? QStringLiteral("\t") : QString()) + item(r, c)->text();
    }
    return text + QLatin1Char('\n');
}

void PlainTable::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Copy)) {
        QApplication::clipboard()->setText(as_text());
        return;
    }
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        return enter(currentRow());
    if (event->key() == Qt::Key_T && event->modifiers() == Qt::NoModifier)
        return event->ignore(); // the page swaps it for the drawing
    QTableWidget::keyPressEvent(event);
}

} // namespace pallix::ui
