// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QTableWidget>

namespace pallix::ui {

/// A table without grid or frills: one row chosen at a time, words to the left, numbers to the right.
class PlainTable : public QTableWidget {
    Q_OBJECT
  public:
    /// @param words how many of the first columns hold words
    PlainTable(const QString& name, const QString& spoken, const QStringList& heads, int words,
               QWidget* parent = nullptr);
    /// Puts rows in; the chosen row stays chosen. Rows beyond `most_shown` are scrolled.
    void set_rows(const std::vector<QStringList>& rows, int most_shown = 12);

  private:
    int words_;
};

} // namespace pallix::ui
