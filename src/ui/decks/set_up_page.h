// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/set_up.h"
#include "ui/frame/drawing.h"

#include <QWidget>
#include <array>
#include <optional>
#include <string>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class Echo;

/// The deck's outline with the readings at its corners and the feet under it, each with what it has to do.
class SetUpDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit SetUpDrawing(Context context, QWidget* parent = nullptr);
    void show_set_up(const std::string& bank, const block::SetUpRead& set_up);
    QSize minimumSizeHint() const override { return {420, 200}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::string bank_;
    block::SetUpRead set_up_;
    std::optional<planning::SetUpCorrection> correction_;
};

/// Readings on plate, bar or deck; which foot, how much; what stack of blocks makes a height; the datum confirmed.
class SetUpPage : public QWidget {
    Q_OBJECT
  public:
    explicit SetUpPage(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank);
    void take_focus();
    void take();

  private:
    [[nodiscard]] std::optional<block::SetUpRead> typed(bool& fine);
    void follow();
    void fill_stack();
    void fill_dowel();

    Context context_;
    std::string bank_;
    block::Unit unit_ = block::Unit::mm; ///< the fields were filled in
    SetUpDrawing* drawing_;
    QComboBox* surface_;
    std::array<QLabel*, 4> corner_names_{};
    std::array<QLineEdit*, 4> readings_{};
    std::array<QLineEdit*, 3> foot_names_{}, foot_u_{}, foot_v_{};
    QLabel* words_;
    QPushButton* take_;
    QLineEdit *wanted_, *pieces_;
    QLabel* stack_;
    QLabel* dowel_;
    QPushButton* confirm_;
    Echo* echo_;
};

} // namespace pallix::ui
