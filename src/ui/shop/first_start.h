// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

namespace pallix::ui {

/// What somebody sees whose shop book is empty: the ways to begin, and by which lengths and on which paper.
class FirstStart : public QWidget {
    Q_OBJECT
  public:
    explicit FirstStart(Context context, QWidget* parent = nullptr);

  Q_SIGNALS:
    void engine_wanted();
    void file_wanted();
    void harbour_wanted();
    void practice_wanted();

  private:
    Context context_;
};

} // namespace pallix::ui
