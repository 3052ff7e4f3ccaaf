// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/steps/answer.h"
#include "ui/context.h"
#include "ui/frame/drawing.h"
#include "ui/frame/plain_table.h"
#include "wording/common/figure_sentences.h"

#include <QWidget>
#include <functional>
#include <optional>
#include <vector>

class QStackedWidget;

namespace pallix::ui {

class FigureLine;

/// What a drawing shows, as a table: T swaps the two.
struct TwinTable {
    QStringList heads;
    int words = 1; ///< how many of the first columns hold words
    std::vector<QStringList> rows{};
    std::vector<block::FeatureId> ids{}; ///< of each row

    /// An empty one. @param heads with | between them
    [[nodiscard]] static TwinTable headed(const QString& heads, int words) {
        return {heads.split(QLatin1Char('|')), words};
    }
};

/// A page: one drawing with its numbers at their places, and under it one sentence of figures.
class DrawnPage : public QWidget {
    Q_OBJECT
  public:
    using Table = std::function<TwinTable()>;

    /// @param figures nothing where no plan stands behind the drawing
    DrawnPage(Context context, Drawing* drawing, std::optional<wording::FiguresOf> figures, Table table,
              QWidget* parent = nullptr);

    void show_bore(const std::optional<block::FeatureId>& marked);
    /// Between the drawing and its sentence: what is dragged with it, what follows the drag.
    void add_below(QWidget* widget);
    void show_table(bool table);
    [[nodiscard]] bool shows_table() const;
    [[nodiscard]] FigureLine* figures() const { return figures_; }
    [[nodiscard]] Drawing& drawing() const { return *drawing_; }

  Q_SIGNALS:
    void marked(const pallix::block::FeatureId& id);
    void entered();
    void row_marked(int row); ///< of the table
    void row_entered(int row);

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void fill_table();
    PlainTable* made_table();
    Context context_;
    Drawing* drawing_;
    Table twin_;
    QStackedWidget* both_;
    PlainTable* table_ = nullptr;
    FigureLine* figures_ = nullptr;
    std::vector<block::FeatureId> ids_;
    std::optional<block::FeatureId> marked_;
};

} // namespace pallix::ui
