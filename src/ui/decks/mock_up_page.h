// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>
#include <string>
#include <vector>

class QCheckBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace pallix::ui {

class Echo;

/// Pistons at top dead centre, volumes, and what the planned decks make of them, cylinder by cylinder; work on the
/// heads.
class MockUpPage : public QWidget {
    Q_OBJECT
  public:
    explicit MockUpPage(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank);
    void take_figures();
    void log_head();

  private:
    /// One field of the figures: where it stands in the entry and how it is typed.
    enum class Kind { length, volume, angle, count };
    struct Field {
        Kind kind;
        QLineEdit* edit;
        std::optional<double> (*get)(const block::EngineFigures&);
        void (*set)(block::EngineFigures&, std::optional<double>);
    };
    void add_field(QGridLayout* grid, int row, int column, const QString& label, const char* name, Field field);
    void fill_figures();
    void fill_table();
    void fill_words();

    Context context_;
    std::string bank_;
    block::EngineFigures shown_;
    QTableWidget* table_;
    QLabel* words_;
    std::vector<Field> fields_;
    QCheckBox* steel_;
    QPushButton* take_;
    QLineEdit *gap_low_, *gap_high_, *head_cut_, *head_chamber_;
    QPushButton* log_head_;
    Echo* echo_;
    std::string filled_for_; ///< what the fields were filled from
};

} // namespace pallix::ui
