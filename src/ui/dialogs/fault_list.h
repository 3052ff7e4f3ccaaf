// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "ui/context.h"

#include <QPlainTextEdit>

namespace pallix::ui {

/// The faults of an input, each on a line of its own, to read and to copy. Hidden while there are none.
class FaultList : public QPlainTextEdit {
    Q_OBJECT
  public:
    explicit FaultList(Context context, QWidget* parent = nullptr);
    void show_faults(const block::Faults& faults);

  private:
    Context context_;
};

/// Says in a dialog of its own why something was not taken or done.
void show_faults(const block::Faults& faults, Context context, QWidget* parent);

} // namespace pallix::ui
