// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QPushButton;
class QStackedWidget;
class QTableWidget;

namespace pallix::ui {

class PageButtons;
class PlanPage;
class TunnelDrawing;
class WorkBoard;

/// The main tunnel as it was last measured, by probe or by gauge.
class TunnelView : public View {
    Q_OBJECT
  public:
    explicit TunnelView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;
    void show_asked(const std::optional<planning::AskedReading>& asked);

    enum class Page { found, plan, board };
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] Page page() const;
    void log_caps();      ///< on the plan page, by the cuts it shows
    void log_tunnel_go(); ///< on the board: caret into strokes or cutter

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
    PageButtons* page_buttons_;
    QStackedWidget* pages_;
    PlanPage* plan_;
    WorkBoard* board_;
    QPushButton *by_probe_, *by_gauge_;
    QTableWidget* table_;
};

} // namespace pallix::ui
