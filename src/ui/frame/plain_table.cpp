// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/plain_table.h"

#include <QHeaderView>
#include <QSignalBlocker>
#include <algorithm>

namespace pallix::ui {

PlainTable::PlainTable(const QString& name, const QString& spoken, const QStringList& heads, int words, QWidget* parent)
    : QTableWidget(parent), words_(words) {
    setObjectName(name);
    setAccessibleName(spoken);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setShowGrid(false);
    setTabKeyNavigation(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(24);
    setColumnCount(static_cast<int>(heads.size()));
    setHorizontalHeaderLabels(heads);
    for (int c = 0; c < columnCount(); ++c)
        horizontalHeader()->setSectionResizeMode(c, c < words_ ? QHeaderView::ResizeToContents : QHeaderView::Stretch);
    for (int c = 0; c < columnCount(); ++c)
        horizontalHeaderItem(c)->setTextAlignment((c < words_ ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
}

void PlainTable::set_rows(const std::vector<QStringList>& rows, int most_shown) {
    const QSignalBlocker quiet(this);
    const int chosen = currentRow();
    setRowCount(static_cast<int>(rows.size()));
    for (int r = 0; r < rowCount(); ++r)
        for (int c = 0; c < columnCount(); ++c) {
            auto* cell = new QTableWidgetItem(rows[static_cast<std::size_t>(r)].value(c));
            cell->setTextAlignment((c < words_ ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            setItem(r, c, cell);
        }
    setFixedHeight(40 + verticalHeader()->defaultSectionSize() * std::clamp(rowCount(), 1, most_shown));
    if (chosen >= 0 && chosen < rowCount())
        selectRow(chosen);
}

} // namespace pallix::ui
