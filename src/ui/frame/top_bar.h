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
    /// Of a book that a server keeps: whether it answers, and who else has the open job on screen.
    void show_line(bool at_shop, const QStringList& here_too);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QLabel* title_;
    QLabel* datum_;
    bool at_shop_ = true;
    QLabel* line_; ///< one word: at the shop, or alone
    QPushButton* inch_;
    QPushButton* mm_;
    QPushButton* theme_;
};

} // namespace pallix::ui
