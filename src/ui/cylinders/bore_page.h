// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/boring.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class Echo;
class FigureForm;
class HoleStrip;
class PlainTable;

/// The boring bar's board: every hole with what it is to become, what the tool was set to and what came of it.
class BorePage : public QWidget {
    Q_OBJECT
  public:
    explicit BorePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);
    void take_focus(); ///< caret into the tool's setting

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    void fill_table();
    void fill_words();
    void fill_next();
    void keep_figures();
    void log_cut();
    void edge_looked_at();
    [[nodiscard]] const planning::BoringBoard* board() const;
    [[nodiscard]] const planning::HoleProgress* hole() const; ///< the marked one

    Context context_;
    std::optional<block::FeatureId> bore_;
    PlainTable* table_;
    HoleStrip* strip_;
    QLabel* words_;
    FigureForm* form_;
    QComboBox* alloy_;
    QCheckBox* each_;
    QLabel* name_;
    QLineEdit *to_, *set_, *bar_;
    QCheckBox* fresh_;
    QPushButton *log_, *edge_;
    Echo* echo_;
    std::string offered_for_;
};

} // namespace pallix::ui
