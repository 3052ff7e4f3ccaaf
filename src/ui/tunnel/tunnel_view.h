// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QPushButton;
class QStackedWidget;

namespace pallix::ui {

class BalanceDrawing;
class DrawnPage;
class PageButtons;
struct TwinTable;
class PlanPage;
class StockChart;
class TunnelDrawing;

/// The main tunnel: as it was last measured by probe or gauge, its plan, the board beside the machine, and the
/// balance of the crankshaft that turns in it.
class TunnelView : public View {
    Q_OBJECT
  public:
    explicit TunnelView(Context context, QWidget* parent = nullptr);
    void refresh() override;
    void show_asked(const std::optional<planning::AskedReading>& asked) override;
    [[nodiscard]] planning::Answers painted(const planning::Step& step) const override;

    enum class Page { found, plan, board, balance };
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] Page page() const;
    [[nodiscard]] DrawnPage* drawn() const; ///< the page on screen
    void ask_for_jacks();                   ///< where they and screws stand along the block

  Q_SIGNALS:
    void pointed_at(const pallix::block::FeatureId& id);
    void entered();

  private:
    void show_page_of(Page page);
    void mark(const block::FeatureId& id);
    [[nodiscard]] TwinTable measured() const;
    [[nodiscard]] TwinTable probed() const;
    [[nodiscard]] TwinTable gauged() const;
    [[nodiscard]] QString probed_summary() const;
    [[nodiscard]] QStringList board_words() const;

    Context context_;
    std::optional<block::FeatureId> marked_;
    QLabel* heading_;
    TunnelDrawing* drawing_;
    PageButtons* page_buttons_;
    QStackedWidget* pages_;
    DrawnPage* found_;
    PlanPage* plan_;
    StockChart* chart_;
    DrawnPage* board_;
    BalanceDrawing* throw_;
    DrawnPage* balance_;
    QLabel *summary_, *board_summary_;
    QPushButton *by_probe_, *by_gauge_;
};

} // namespace pallix::ui
