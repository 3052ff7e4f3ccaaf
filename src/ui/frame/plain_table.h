// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QTableWidget>
#include <vector>

namespace pallix::ui {

/// A table without grid or frills: one row chosen at a time, words to the left, numbers to the right. A click on a head
/// sorts by it; Ctrl+C copies all of it as tab-separated text.
class PlainTable : public QTableWidget {
    Q_OBJECT
  public:
    PlainTable(const QString& name, const QString& spoken, QWidget* parent = nullptr);
    /// @param words how many of the first columns hold words
    void show_rows(const QStringList& heads, int words, const std::vector<QStringList>& rows);
    void choose(int row); ///< as it was put in, wherever it has been sorted to
    [[nodiscard]] QString as_text() const;

  Q_SIGNALS:
    void row_chosen(int row);  ///< as it was put in
    void row_entered(int row); ///< Enter or a double click

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void enter(int row);
};

} // namespace pallix::ui
