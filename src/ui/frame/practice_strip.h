// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace pallix::ui {

/// Over the reading line of a practice job, and of no other: that the block is not there, what is asked, what whoever
/// knows the trade remarks, and the keys of the simulated bench. Told by its hatched edge and its words.
class PracticeStrip : public QWidget {
    Q_OBJECT
  public:
    explicit PracticeStrip(Context context, QWidget* parent = nullptr);
    void refresh();
    void say(const QString& words); ///< until something else is done

  Q_SIGNALS:
    void reading_wanted();
    void ring_wanted();
    void truth_wanted(); ///< or, where it is open, the reckoning

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] QString coached() const;

    Context context_;
    QString said_;
    QLabel *mark_, *words_;
    QPushButton *take_, *ring_, *truth_;
};

} // namespace pallix::ui
