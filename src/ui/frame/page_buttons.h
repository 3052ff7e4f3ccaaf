// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QWidget>

class QButtonGroup;

namespace pallix::ui {

/// A row of buttons, one for each page of a view; one is always down.
class PageButtons : public QWidget {
    Q_OBJECT
  public:
    PageButtons(const QStringList& names, const QString& tip, QWidget* parent = nullptr);
    /// Where the manual speaks of the pages of a view, one id each; the view is told with every page.
    void explain(QWidget* view, const QStringList& ids);
    void press(int page);

  Q_SIGNALS:
    void chosen(int page);

  private:
    QButtonGroup* group_;
    QWidget* view_ = nullptr;
    QStringList explained_;
};

} // namespace pallix::ui
