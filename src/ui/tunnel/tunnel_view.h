// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QPushButton;
class QTableWidget;

namespace pallix::ui {

class TunnelDrawing;

/// The main tunnel as it was last measured, by probe or by gauge.
class TunnelView : public View {
    Q_OBJECT
  public:
    explicit TunnelView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;
    void show_asked(const std::optional<planning::AskedReading>& asked);

  private:
    void fill_table();
    void fill_probed();
    void fill_gauged();
    void set_heads(const QStringList& heads, int rows);
    void add_verdict(int row, int column, metrology::Verdict verdict);
    [[nodiscard]] QString probed_summary() const;

    Context context_;
    QLabel* heading_;
    QLabel* summary_;
    QLabel* empty_;
    TunnelDrawing* drawing_;
    QPushButton *by_probe_, *by_gauge_;
    QTableWidget* table_;
};

} // namespace pallix::ui
