// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QTableWidget;

namespace pallix::ui {

class TunnelDrawing;

/// The main tunnel as it was last probed.
class TunnelView : public View {
    Q_OBJECT
  public:
    explicit TunnelView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

  private:
    void fill_table();

    Context context_;
    QLabel* heading_;
    QLabel* summary_;
    QLabel* empty_;
    TunnelDrawing* drawing_;
    QTableWidget* table_;
};

} // namespace pallix::ui
