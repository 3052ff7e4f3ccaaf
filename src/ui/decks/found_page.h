// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/straightedge.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/drawn_page.h"

#include <string>
#include <vector>

class QLabel;

namespace pallix::ui {

class DeckDrawing;
class EdgeDrawing;

/// A deck as found: straightedge lines as read and as they would be on the map, flatness far and near, flaws. The table
/// has the lines.
class FoundPage : public DrawnPage {
    Q_OBJECT
  public:
    explicit FoundPage(Context context, QWidget* parent = nullptr);
    /// @param head its head's face instead of the deck
    void show_bank(const std::string& bank, bool head);
    void show_asked(const std::optional<planning::AskedReading>& asked);
    /// Puts a line under the straightedge, by its place in the trade's order.
    void choose_line(int line);
    [[nodiscard]] const std::vector<metrology::Vec2>& drawn() const { return drawn_; } ///< the flaw drawn last

  Q_SIGNALS:
    void step_wanted(const QString& step); ///< a flaw was drawn, or is to be decided on

  private:
    FoundPage(Context context, DeckDrawing* drawing, QWidget* parent);
    [[nodiscard]] TwinTable lines() const;
    void fill_words();
    [[nodiscard]] QStringList words_of_deck() const;
    [[nodiscard]] QStringList words_of_head() const;

    Context context_;
    std::string bank_;
    bool head_ = false;
    std::vector<planning::EdgeComparison> edges_;
    std::vector<metrology::Vec2> drawn_;
    int line_ = 0;
    DeckDrawing* deck_;
    EdgeDrawing* edge_;
    QLabel* words_;
};

} // namespace pallix::ui
