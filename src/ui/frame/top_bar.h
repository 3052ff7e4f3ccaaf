// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace pallix::ui {

/// Across the top: which block, from which datum, how warm, in which unit.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    explicit TopBar(Context context, QWidget* parent = nullptr);
    void refresh();
    /// Of a book that a server keeps.
    struct Line {
        bool at_shop = true;    ///< it answers
        bool keeps = false;     ///< what is entered while it does not is kept here
        QStringList here_too{}; ///< who else has the open job on screen
        qint64 waiting = 0;     ///< entries that are not there yet
    };
    void show_line(const Line& line);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QLabel* title_;
    QLabel* datum_;
    Line shown_;   ///< of the line
    QLabel* line_; ///< one word: at the shop, or alone
    QPushButton* inch_;
    QPushButton* mm_;
    QPushButton* theme_;
};

} // namespace pallix::ui
