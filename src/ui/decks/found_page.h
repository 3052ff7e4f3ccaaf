// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/deck_map.h"
#include "planning/decks/straightedge.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace pallix::ui {

class DeckDrawing;
class EdgeDrawing;
class Echo;

/// A deck as found: straightedge lines as read and as they would be on the map, flatness far and near, flaws.
class FoundPage : public QWidget {
    Q_OBJECT
  public:
    explicit FoundPage(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank);
    void show_asked(const std::optional<planning::AskedReading>& asked);
    /// Puts a line under the straightedge, by its place in the trade's order.
    void choose_line(int line);

  private:
    void fill_lines();
    void follow_line();
    void fill_words();
    void fill_flaws();
    void mark(const std::vector<metrology::Vec2>& path);
    void decide();

    Context context_;
    std::string bank_;
    std::vector<planning::EdgeComparison> edges_;
    DeckDrawing* drawing_;
    EdgeDrawing* edge_;
    QTableWidget* lines_;
    QLabel* words_;
    QComboBox *kind_, *near_;
    QLineEdit *depth_, *note_;
    QComboBox *flaws_, *choice_;
    QPushButton *decide_, *tight_, *leaks_;
    Echo* echo_;
};

} // namespace pallix::ui
